#pragma once
// Parts with slots and windows, for tests.

#include <string>
#include <vector>

#include "core/part/cut_out.h"

namespace punch {

/// With these cut-outs, under their own identifiers, and no others.
inline Part withCuts(Part part, const std::vector<CutOut>& cuts) {
    std::erase_if(part.marks, [](const Mark& m) { return m.kind == MarkKind::CutOut; });
    for (const CutOut& cut : cuts) {
        part.marks.push_back(markOf(cut));
        if (cut.id.empty()) part.marks.back().id = "cut" + std::to_string(part.nextId++);
    }
    return part;
}

inline std::vector<Mark> cutMarks(const Part& part) {
    std::vector<Mark> all;
    for (const Mark& m : part.marks)
        if (m.kind == MarkKind::CutOut) all.push_back(m);
    return all;
}

}  // namespace punch
