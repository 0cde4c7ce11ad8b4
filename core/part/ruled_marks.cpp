#include "core/part/ruled_marks.h"

#include <fmt/format.h>

namespace punch {
namespace {

constexpr const char* kAssemblyLine = "0.1";

std::string typed(Length l) { return fmt::format("{:.6f}", l.mm()); }

Mark mark(MarkKind kind, const char* name, std::map<std::string, std::string> set) {
    Mark m;
    m.kind = kind;
    m.name = name;
    m.set = std::move(set);
    return m;
}

}  // namespace

std::vector<Mark> ruledMarks(const Part& part) {
    const Dress& dress = part.dress;
    const std::string line = typed(dress.line), height = typed(dress.textHeight);
    std::vector<Mark> all;
    if (part.body.present) {
        all.push_back(mark(MarkKind::Drawing, "body",
                           {{"form", "around the body"}, {"line", kAssemblyLine}, {"layer", "assembly"}}));
        if (dress.outline)
            all.push_back(mark(MarkKind::Drawing, "outline",
                               {{"form", "around the body"},
                                {"grow", typed(dress.outlineAllowance)},
                                {"corners", dress.outlineCorners ? typed(dress.cornerLength) : "0"},
                                {"line", line},
                                {"layer", "top silkscreen"}}));
    }
    if (dress.mark != PinOneMark::None)
        all.push_back(mark(
            MarkKind::FirstPin, "pin 1 mark",
            {{"stands", dress.mark == PinOneMark::Outside ? "at the end of its row" : "at its land"}, {"line", line}}));
    if (dress.referenceText)
        all.push_back(mark(MarkKind::Text, "reference",
                           {{"text", "{reference}"}, {"height", height}, {"line", line}, {"layer", "top silkscreen"}}));
    if (dress.valueText && part.body.present)
        all.push_back(mark(MarkKind::Text, "value",
                           {{"text", "{value}"}, {"height", height}, {"line", kAssemblyLine}, {"layer", "assembly"}}));
    return all;
}

}  // namespace punch
