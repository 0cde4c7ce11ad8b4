// The gauge of pins: is each joined to a pad, and does what is said of them agree?

#include <fmt/format.h>

#include "core/pins/pin_checks.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {

Gauge pinsGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    const std::vector<PinTrouble> troubles = pinTroubles(part.pins, f.pads);
    if (troubles.empty()) {
        g.state = GaugeState::Go;
        g.words = part.pins.size() == 1 ? "1 joined" : fmt::format("all {} joined", part.pins.size());
        return g;
    }
    const PinTrouble& worst = troubles.front();
    g.state = worst.weight == PinTrouble::Weight::Wrong ? GaugeState::NoGo : GaugeState::Watch;
    g.words = worst.words;
    // Braces are places for numbers in a gauge's words.
    std::erase_if(g.words, [](char c) { return c == '{' || c == '}'; });
    g.about = worst.pads;
    const Joints joints = jointsOf(part.pins, f.pads);
    for (const std::size_t i : worst.pins) g.about.insert(g.about.end(), joints.pads[i].begin(), joints.pads[i].end());
    return g;
}

}  // namespace punch
