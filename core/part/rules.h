#pragma once
// Rules and dress of a part: how holes, lands, distances, ink and courtyard are chosen. Plain values of a Part.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/base/voltage.h"
#include "core/part/land.h"
#include "core/part/reading.h"

namespace punch {

// ------------------------------------------------------------------ rules

enum class Level { A, B, C };  ///< IPC-2221/2222 producibility level: A general, B moderate, C high

enum class HoleRule { Ipc2222, HouseFactor };
enum class LandRule { Ipc2221, FixedRing };
enum class DrillList { Metric, Inch, Own };
/// IPC-2221B table 6-1.
enum class VoltageColumn { B1, B2, B3, B4, A5, A6, A7 };
/// IPC-7351 density of the courtyard, or a connector.
enum class Density { A, B, C, Connector };

/// Whose distances hold between potentials.
enum class VoltageStandard { Ipc2221, Iec60664 };
enum class OvervoltageCategory { I, II, III, IV };
enum class PollutionDegree { One, Two, Three };
/// By the comparative tracking index: I from 600, II from 400, III from 100 (FR-4 is usually IIIa).
enum class MaterialGroup { I, II, III };
enum class Insulation { Functional, Basic, Reinforced };

/// What IEC 60664-1 has to know of the product and its board.
struct Insulating {
    OvervoltageCategory category = OvervoltageCategory::II;
    PollutionDegree pollution = PollutionDegree::Two;
    MaterialGroup group = MaterialGroup::III;
    Insulation insulation = Insulation::Basic;
    double altitude = 2000;         ///< metres above the sea
    bool printedWiring = false;     ///< the columns of printed wiring: degrees 1 and 2, functional and basic insulation
    bool qualifiedCoating = false;  ///< IEC 60664-3, type 1: degree 1 under it
    bool narrowSlots = false;       ///< X down to a third of a clearance that is below 3 mm
    UnknownFields unknown;
    friend bool operator==(const Insulating&, const Insulating&) = default;
};

struct Rules {
    PUNCH_VALUE(Rules)
    Level level = Level::B;
    HoleRule hole = HoleRule::Ipc2222;
    double holeFactor = 1.25;  ///< house rule: hole = factor x lead
    bool leadAtMean = false;   ///< size the hole from the mean lead, not from the upper end of its doubt
    DrillList drills = DrillList::Metric;
    std::vector<Length> ownDrills;
    LandRule land = LandRule::Ipc2221;
    Length ring = Length::fromMm(0.5);
    Length pegClearance = Length::fromMm(0.10);
    Length platedTolerance = Length::fromMm(0.10);  ///< finished plated hole, +this/-0
    Length bareTolerance = Length::fromMm(0.05);    ///< finished bare hole, +this/-0
    Length boardThickness = Length::fromMm(1.6);
    VoltageColumn column = VoltageColumn::B2;
    VoltageStandard standard = VoltageStandard::Ipc2221;
    Insulating iec;
    FabProfile fab;
    bool fewestDrills = false;    ///< formations share a drill wherever each one's limits allow it
    Length pinPlace;              ///< how far a pin may stand off its place in the part, ± in each axis; 0: not known
    double dropInWanted = 0.999;  ///< share of the parts
    Length bodyClear = Length::fromMm(0.10);  ///< free height of the body over bare copper and open vias
    std::optional<Length> roomAbove = {};     ///< of the enclosure over the board
    std::optional<Length> roomBelow = {};     ///< and below it, to whatever comes next
    UnknownFields unknown;
    friend bool operator==(const Rules&, const Rules&);
};

enum class PotentialKind { Ac, Dc, Peak };

/// A voltage given to pins: d.c. signed, a.c. r.m.s. of a named source, or the peak of one.
struct Potential {
    std::string name;
    PotentialKind kind = PotentialKind::Ac;
    Voltage volts;
    std::string source = "mains";
    std::vector<FeatureId> pins;  ///< and pegs, screws, cut-outs, keepouts, the board's edge (carriesVoltage)
    UnknownFields unknown;
    std::optional<Angle> phase = {};  ///< against others of its source; none: in phase
    friend bool operator==(const Potential&, const Potential&) = default;
};

// ------------------------------------------------------------------ dress

enum class Side { Left, Right, Front, Rear };
enum class PinOneMark { Outside, Inside, None };

struct Dress {
    PUNCH_VALUE(Dress)
    bool outline = true;
    Length outlineAllowance = Length::fromMm(0.15);
    bool outlineCorners = false;                ///< only its corners are printed
    Length cornerLength = Length::fromMm(1.5);  ///< of each of them, along the outline
    Length leastInk = Length::fromMm(0.3);      ///< what cutting leaves shorter is not printed
    Length line = Length::fromMm(0.15);
    PinOneMark mark = PinOneMark::Outside;
    bool referenceText = true;
    bool valueText = true;
    Length textHeight = Length::fromMm(1.0);
    Density density = Density::Connector;
    bool turnable = false;                  ///< put in turned around it does the same
    std::optional<Length> courtyardExcess;  ///< none: the level's excess
    UnknownFields unknown;
    friend bool operator==(const Dress&, const Dress&);
};

}  // namespace punch
