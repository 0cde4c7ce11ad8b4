// Edits of what is cut out of the board or kept free around the part.

#include <algorithm>

#include "core/part/edit.h"

namespace punch {
namespace {

void dropFromPotentials(Part& part, const std::string& id) {
    for (Potential& p : part.potentials) std::erase(p.pins, id);
    std::erase_if(part.potentials, [](const Potential& p) { return p.pins.empty(); });
}

}  // namespace

Part withCutOut(Part part, CutOut cut) {
    cut.id = "cut" + std::to_string(part.nextId++);
    part.cutOuts.push_back(std::move(cut));
    return part;
}

Part withoutCutOut(Part part, const std::string& id) {
    std::erase_if(part.cutOuts, [&](const CutOut& c) { return c.id == id; });
    dropFromPotentials(part, id);
    return part;
}

}  // namespace punch
