#include "core/foreign/found_pads.h"

#include <algorithm>
#include <cmath>

#include "core/measure/reading_result.h"

namespace punch {

std::optional<PadPattern> patternOf(const Found& found) {
    PadPattern p;
    p.name = "what was found";
    p.whole = false;
    // Off the middle a wrong scale moves a place by its share.
    const double scale = found.scale.x > 0 ? found.scale.doubt() / found.scale.x : 0;
    for (const FoundFeature& f : found.features) {
        PatternPad pad;
        pad.number = std::to_string(p.pads.size() + 1);
        pad.x = f.x;
        pad.y = f.y;
        pad.hole = std::max(f.width, 0.01);
        pad.land = f.kind == FoundKind::Peg || f.kind == FoundKind::Hole ? 0 : 1;
        pad.doubt = kNinetyFive * f.u + scale * std::hypot(f.x, f.y);
        p.pins += pad.land > 0 ? 1 : 0;
        p.pads.push_back(std::move(pad));
    }
    if (p.pads.size() < 2) return {};
    // A lug looks like a pin, and a pin may be hidden: how many there are is no fact yet.
    p.pins = 0;
    return p;
}

}  // namespace punch
