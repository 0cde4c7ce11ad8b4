#include "core/verdicts/gauge_table.h"

#include <algorithm>

#include "core/verdicts/gauge_kit.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Gauge)
namespace {

using Home = GaugeHome;

/// For gauges that look at part and footprint alone.
template <Gauge (*judge)(const Part&, const Results&)>
Gauge alone(const Part& part, const Adjustment&, const Results& results) {
    return judge(part, results);
}

bool always(const Part&) { return true; }
bool whenMarked(const Part& part) { return !part.marks.empty(); }
bool whenFiducials(const Part& part) {
    return std::any_of(part.marks.begin(), part.marks.end(),
                       [](const Mark& m) { return m.kind == MarkKind::Fiducial; });
}
bool whenSolid(const Part& part) { return !part.solids.empty(); }
bool whenRoom(const Part& part) {
    return part.rules.roomAbove.value_or(Length()) > Length() || part.rules.roomBelow.value_or(Length()) > Length();
}
bool whenMakes(const Part& part) { return !part.makes.empty(); }
bool whenPins(const Part& part) { return !part.pins.empty(); }
bool whenLive(const Part& part) { return !part.potentials.empty(); }

}  // namespace

const std::vector<GaugeKind>& gaugeKinds() {
    static const std::vector<GaugeKind> kinds = {
        {GaugeId::Readings, "readings", "Readings", Home::Measure, Home::Measure, readingsGauge, always},
        {GaugeId::Positions, "positions", "Positions", Home::Place, Home::Measure, alone<positionsGauge>, always},
        {GaugeId::LeadInHole, "lead-in-hole", "Lead in hole", Home::Size, Home::Size, alone<leadInHoleGauge>, always},
        {GaugeId::Ring, "ring", "Ring", Home::Size, Home::Size, alone<ringGauge>, always},
        {GaugeId::HoleToHole, "hole-to-hole", "Hole to hole", Home::Size, Home::Size, alone<holeToHoleGauge>, always},
        {GaugeId::CopperToCopper, "copper-to-copper", "Copper to copper", Home::Size, Home::Size,
         alone<copperToCopperGauge>, always},
        {GaugeId::Voltage, "voltage", "Voltage", Home::Size, Home::Size, alone<voltageGauge>, whenLive},
        {GaugeId::Silkscreen, "silkscreen", "Silkscreen", Home::Dress, Home::Dress, alone<silkscreenGauge>, always},
        {GaugeId::Courtyard, "courtyard", "Courtyard", Home::Dress, Home::Dress, alone<courtyardGauge>, always},
        {GaugeId::WayRound, "way-round", "Way round", Home::Dress, Home::Dress, alone<wayRoundGauge>, always},
        {GaugeId::Marks, "marks", "Marks", Home::Dress, Home::Dress, alone<marksGauge>, whenMarked, true},
        {GaugeId::Fiducials, "fiducials", "Fiducials", Home::Dress, Home::Dress, alone<fiducialsGauge>, whenFiducials,
         true},
        {GaugeId::LeadPastBoard, "lead-past-board", "Lead past board", Home::Fit, Home::Fit, alone<leadPastBoardGauge>,
         always},
        {GaugeId::DropIn, "drop-in", "Drop-in", Home::Fit, Home::Size, alone<dropInGauge>, always},
        {GaugeId::Makes, "makes", "Makes", Home::Size, Home::Size, alone<makesGauge>, whenMakes, true},
        {GaugeId::SolidLeads, "body-leads", "Body's leads", Home::Fit, Home::Fit, alone<solidLeadsGauge>, whenSolid,
         true},
        {GaugeId::SolidRoom, "body-room", "Body's room", Home::Fit, Home::Dress, alone<solidRoomGauge>, whenSolid,
         true},
        {GaugeId::Standoff, "standoff", "Standoff", Home::Fit, Home::Fit, alone<standoffGauge>, whenSolid, true},
        {GaugeId::SolderAccess, "solder-access", "Solder access", Home::Fit, Home::Fit, alone<solderAccessGauge>,
         whenSolid, true},
        {GaugeId::Height, "height", "Height", Home::Fit, Home::Fit, alone<heightGauge>, whenRoom, true},
        {GaugeId::MovingParts, "moving-parts", "Moving parts", Home::Fit, Home::Fit, alone<movingPartsGauge>,
         movesAnything, true},
        {GaugeId::Pins, "pins", "Pins", Home::Release, Home::Release, alone<pinsGauge>, whenPins, true},
    };
    return kinds;
}

const GaugeKind& gaugeKind(GaugeId id) {
    // In the order of the identifiers; a test holds it so.
    return gaugeKinds()[static_cast<std::size_t>(id)];
}

}  // namespace punch
