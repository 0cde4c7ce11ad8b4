#include "core/derive.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/clear/clear.h"
#include "core/dress/silkscreen.h"
#include "core/fit/drop_in.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/place/place.h"
#include "core/shape/shape.h"
#include "core/size/hole_fit.h"
#include "core/size/make_over.h"
#include "core/size/sized.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

/// 95 % doubt below which a pad needs no further reading: a quarter of (hole - lead) / 2. By pin and spot.
Enough enoughDoubt(const Sized& sized) {
    std::map<FeatureId, double> limits;
    for (const Pad& p : sized.pads) limits[p.id] = std::max(holeSpare(sized, p).mm() / 8, 0.0);
    for (const BareHole& h : sized.bareHoles)
        if (takesOwn(h)) limits[h.id] = std::max(holeSpare(h).mm() / 8, 0.0);
    return [limits = std::move(limits)](const FeatureId& id) {
        const auto it = limits.find(id);
        return it == limits.end() ? 1e9 : it->second;
    };
}

}  // namespace

NextReading nextReadingBut(const Part& part, const Footprint& footprint, const std::vector<Reading>& putOff) {
    return nextReading(part, Adjustment(part), enoughDoubt(footprint), Candidates::Ends, putOff);
}

namespace {

/// A stage's result becomes the footprint's; `all` is where it stands.
template <class Stage>
void take(Stage& all, Stage result) {
    all = std::move(result);
}

/// All stages but what a person is asked or advised, in the order of docs/architecture.md.
Footprint follow(const Part& part, const Adjustment& adjustment) {
    const ChainReadings chains(part, adjustment);
    Footprint f;
    f.name = part.name;
    take<Measured>(f, measured(part, adjustment));
    Places at = places(part, adjustment, chains);
    take<Placed>(f, at);
    take<Shaped>(f, shaped(part, adjustment, chains, at.datum));
    std::vector<MakeOver> makes = makesOver(part, at);
    for (Shape& body : bodiesOf(makes)) f.keepouts.push_back(std::move(body));
    Sizes sized = sizes(part, adjustment, chains, at, f, std::move(makes));
    take<Sized>(f, sized);
    take<Cleared>(f, cleared(part, f.board()));
    take<Dressed>(f, dressed(part, f.board(), f));
    f.solids = standingSolids(part, f);
    // Coarse, so that it follows the hand; dropIn() does it in full.
    f.dropIn = worstDropIn(part, adjustment, f).coarse(1);
    f.makeFits = makeFits(part, f);
    f.chains = std::move(at.chains);
    f.chains.merge(sized.chains);
    f.chains.merge(f.markChains);
    f.gauges = gauges(part, adjustment, f);
    return f;
}

/// Readings that can be explained in several ways: a gauge is only go when each of them would leave it so.
void countTheWorse(const Part& part, const Adjustment& adjustment, Footprint& f) {
    constexpr std::size_t kMost = 24;
    for (std::size_t k = 0; k < std::min(adjustment.ways().size(), kMost); ++k) {
        const Way& way = adjustment.ways()[k];
        // Without any of them the rest does not agree either: then nothing is looked for once more.
        const auto search = adjustment.unexplained() ? Adjustment::Search::None : Adjustment::Search::Mending;
        const Footprint other = follow(part, Adjustment(part, {}, way.readings, search));
        for (Gauge& g : f.gauges) {
            const Gauge* worse = other.gauge(g.name);
            if (g.name == "readings" || worse == nullptr || badness(worse->state) <= badness(g.state)) continue;
            g = *worse;
            std::string numbers;
            for (const std::size_t i : way.readings) numbers += fmt::format("{}{}", numbers.empty() ? "" : ", ", i + 1);
            g.words += fmt::format(", if {} {} wrong", numbers, way.readings.size() == 1 ? "is" : "are");
        }
    }
}

}  // namespace

Footprint derive(const Part& part) {
    const Adjustment adjustment(part);
    Footprint f = follow(part, adjustment);
    countTheWorse(part, adjustment, f);
    f.slips = findSlips(part, adjustment, f.sizes, f.openSides);
    f.next = nextReading(part, adjustment, enoughDoubt(f));
    return f;
}

DropInReport dropIn(const Part& part, Footprint& footprint, const DropInOptions& options) {
    const Adjustment adjustment(part);
    DropInReport report = worstDropIn(part, adjustment, footprint).report(options);
    setDropIn(part, footprint, report.share);
    return report;
}

}  // namespace punch
