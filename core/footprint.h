#pragma once
// Footprint: what follows from a Part. Never edited, never the source; every number carries its chain.
//
// It is the results of the stages, put together; what each holds stands in the header of its stage.
// Frame of all points: mm; x right, y up, origin at the datum, seen from the part side.

#include <optional>
#include <string>
#include <vector>

#include "core/base/chain.h"
#include "core/base/value.h"
#include "core/clear/board.h"
#include "core/clear/cleared.h"
#include "core/dress/dressed.h"
#include "core/fit/drop_in_share.h"
#include "core/fit/make_fit.h"
#include "core/fit/standing_solid.h"
#include "core/measure/measured.h"
#include "core/measure/next_reading.h"
#include "core/measure/slips.h"
#include "core/part/part.h"
#include "core/place/placed.h"
#include "core/shape/shaped.h"
#include "core/size/pads.h"
#include "core/verdicts/gauge.h"

namespace punch {

/// All that the gauges judge.
struct Results : Measured, Placed, Shaped, Sized, Cleared, Dressed {
    PUNCH_VALUE(Results)
    std::string name;
    std::vector<StandingSolid> solids;
    DropInShare dropIn;  ///< coarse: few trials
    std::vector<MakeFit> makeFits;  ///< one for each of `makes`
    Chains chains;       ///< "x:p1", "y:p1", "hole:p1", "land:p1", "pitch"

    /// What distances depend on. It refers to this.
    Board board() const { return {pads, bareHoles, faces, keepouts, cutOuts, attached}; }
    const Pad* pad(const FeatureId& id) const;
    const BareHole* bareHole(const FeatureId& id) const;
    const ParameterValue* parameter(const std::string& name) const;
    const SizeAdvice* size(const std::string& parameter) const;
    const LeadFit* leadOf(const Part& part, const FeatureId& pin) const;
    /// Centre of a pin, peg, face or body. None for an unknown identifier.
    std::optional<Point> place(const FeatureId& id) const;
};

struct Footprint : Results {
    PUNCH_VALUE(Footprint)
    std::vector<Gauge> gauges;
    std::vector<Slip> slips;  ///< what looks like a slip of the hand, as questions
    NextReading next;

    const Gauge* gauge(const std::string& name) const;
};

}  // namespace punch
