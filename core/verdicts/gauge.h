#pragma once
// A gauge: one go or no-go check with its value, limit, margin and culprits. Which there are: gauge_table.h.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"

namespace punch {

enum class GaugeState { Go, Watch, NoGo, Unknown };

enum class GaugeId {
    Readings,
    Positions,
    LeadInHole,
    Ring,
    HoleToHole,
    CopperToCopper,
    Voltage,
    Silkscreen,
    Courtyard,
    WayRound,
    Marks,
    Fiducials,
    LeadPastBoard,
    DropIn,
    Makes,
    SolidLeads,
    SolidRoom,
    Standoff,
    SolderAccess,
    Height,
    MovingParts,
    Pins,
};

struct Gauge {
    PUNCH_VALUE(Gauge)
    GaugeId id = GaugeId::Readings;
    std::string name;   ///< "lead-in-hole", as files and the command line call it
    std::string title;  ///< "Lead in hole"
    GaugeState state = GaugeState::Unknown;
    std::optional<double> value, limit, margin;
    std::optional<double> upper;  ///< a second limit, for a range
    std::string unit = "mm";      ///< "mm", or "1" for a ratio
    std::string words;            ///< template, see fill()
    std::vector<Length> of;
    std::vector<std::string> about;  ///< features or readings to look at
};

/// How bad a state is, the worst highest: no-go, unknown, watch, go.
inline int badness(GaugeState state) {
    switch (state) {
        case GaugeState::NoGo: return 3;
        case GaugeState::Unknown: return 2;
        case GaugeState::Watch: return 1;
        case GaugeState::Go: break;
    }
    return 0;
}

inline GaugeState worseOf(GaugeState a, GaugeState b) { return badness(a) >= badness(b) ? a : b; }

}  // namespace punch
