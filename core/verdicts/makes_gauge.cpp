// The gauge of several makes: does one footprint take each of them?

#include <fmt/format.h>

#include "core/base/find_in.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

std::string withoutBraces(std::string words) {
    // Braces are places for numbers in a gauge's words.
    std::erase_if(words, [](char c) { return c == '{' || c == '}'; });
    return words;
}

}  // namespace

Gauge makesGauge(const Part& part, const Results& f) {
    Gauge g;
    const MakeFit* unknown = findIn(f.makeFits, [](const MakeFit& m) { return !m.why.empty(); });
    if (unknown != nullptr) return unknownGauge(g, withoutBraces(unknown->name + ": " + unknown->why));
    // A hole larger than the rule allows is a joint that solder may not fill.
    const JoinedHole* worst = nullptr;
    for (const JoinedHole& j : f.joined)
        if (j.over > Length() && (worst == nullptr || j.over > worst->over)) worst = &j;
    if (worst != nullptr) {
        setLengths(g, worst->size, worst->size - worst->over);
        g.words = withoutBraces(worst->name) + ": hole {}, at most {} {u}";
        g.about = {worst->id};
        g.state = GaugeState::NoGo;
        return g;
    }
    const MakeFit* least = nullptr;
    for (const MakeFit& m : f.makeFits)
        if (least == nullptr || m.dropIn.share < least->dropIn.share) least = &m;
    if (least == nullptr) return unknownGauge(g, "no make");
    g.unit = "1";
    g.value = least->dropIn.share;
    g.limit = part.rules.dropInWanted;
    g.margin = least->dropIn.share - part.rules.dropInWanted;
    g.state = dropInState(least->dropIn, part.rules.dropInWanted);
    g.words =
        least->dropIn.in == least->dropIn.trials
            // The part's own fit has a gauge of its own.
            ? f.makeFits.size() == 1 ? "the other drops in" : fmt::format("all {} others drop in", f.makeFits.size())
            : withoutBraces(fmt::format("{}: ≈ {:.1f} % drop in", least->name, 100 * least->dropIn.share));
    return g;
}

}  // namespace punch
