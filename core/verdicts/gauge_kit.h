#pragma once
// What the gauges have in common; used by core/verdicts alone. States and limits: core/verdicts/gauges.h.

#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

class Adjustment;

inline constexpr double kWatchShare = 0.1;  ///< of the limit: less to spare is watched

/// State of a value that must not fall below its limit; `low` is the lower end of the value's 95 % doubt.
GaugeState atLeast(double value, double low, double limit, bool byConstruction = false);
Gauge unknownGauge(Gauge gauge, std::string words, std::vector<std::string> about = {});
/// Value, limit and margin, and both for the words.
void setLengths(Gauge& gauge, Length value, Length limit);

// lead_gauges: what was read, and leads in their holes
Gauge readingsGauge(const Part& part, const Adjustment& adjustment, const Results& results);
Gauge positionsGauge(const Part& part, const Results& results);
Gauge leadInHoleGauge(const Part& part, const Results& results);
Gauge ringGauge(const Part& part, const Results& results);
Gauge leadPastBoardGauge(const Part& part, const Results& results);
Gauge dropInGauge(const Part& part, const Results& results);

/// Of a share of parts that go in: against what is wanted.
GaugeState dropInState(const DropInShare& share, double wanted);

// makes_gauge: several makes in one footprint
Gauge makesGauge(const Part& part, const Results& results);

// distance_gauges: what has to keep apart
Gauge holeToHoleGauge(const Part& part, const Results& results);
Gauge copperToCopperGauge(const Part& part, const Results& results);
Gauge voltageGauge(const Part& part, const Results& results);
Gauge silkscreenGauge(const Part& part, const Results& results);
Gauge courtyardGauge(const Part& part, const Results& results);

// solid_gauges: the body that stands in the holes
Gauge solidLeadsGauge(const Part& part, const Results& results);
Gauge solidRoomGauge(const Part& part, const Results& results);

// body_gauges: what stands over the board, and what moves
Gauge standoffGauge(const Part& part, const Results& results);
Gauge solderAccessGauge(const Part& part, const Results& results);
Gauge heightGauge(const Part& part, const Results& results);
Gauge movingPartsGauge(const Part& part, const Results& results);
/// Does anything of the part move?
bool movesAnything(const Part& part);

// dress_gauges: marks, and which way round it goes in
Gauge wayRoundGauge(const Part& part, const Results& results);
Gauge marksGauge(const Part& part, const Results& results);
Gauge pinsGauge(const Part& part, const Results& results);
Gauge fiducialsGauge(const Part& part, const Results& results);

}  // namespace punch
