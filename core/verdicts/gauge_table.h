#pragma once
// All gauges, in the order of the rail. A new one is a GaugeId, a function and a row here; rail, station dots, command
// line, JSON and what a click does follow.

#include <vector>

#include "core/verdicts/gauge.h"

namespace punch {

class Adjustment;
struct Results;
struct Part;

/// The piece of work that a gauge judges, and where it is mended.
enum class GaugeHome { Measure, Place, Size, Dress, Fit, Release };

struct GaugeKind {
    GaugeId id;
    const char* name;
    const char* title;
    GaugeHome of;       ///< whose status it decides
    GaugeHome mending;  ///< where one goes to mend it
    Gauge (*judge)(const Part& part, const Adjustment& adjustment, const Results& results);
    /// Does the part ask for it at all? Where not, its state decides nothing.
    bool (*asked)(const Part& part);
    bool optional = false;  ///< a part may well do without it: then it has no such gauge
};

const std::vector<GaugeKind>& gaugeKinds();
const GaugeKind& gaugeKind(GaugeId id);

}  // namespace punch
