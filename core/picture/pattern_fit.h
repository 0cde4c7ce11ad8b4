#pragma once
// A pattern of places, roughly known, and its least-squares fit. Only recognise.cpp hands patterns to it.

#include <cmath>
#include <optional>
#include <vector>

#include "core/base/angle.h"
#include "core/picture/recognise.h"

namespace punch {

inline constexpr double kPatternTolerance = 0.12;     ///< mm, how far a place may stand off its pattern
inline constexpr double kTolerancePerLength = 0.004;  ///< and by its distance: a picture's scale is only known so well
inline constexpr double kLeastPitchOfPins = 0.7;      ///< mm

/// How far a place lies along a direction, degrees, and across it.
inline double along(const FoundPlace& p, double turn) {
    return std::cos(turn * kRadians) * p.x + std::sin(turn * kRadians) * p.y;
}
inline double across(const FoundPlace& p, double turn) {
    return -std::sin(turn * kRadians) * p.x + std::cos(turn * kRadians) * p.y;
}

struct Pattern {
    FormationKind kind = FormationKind::Row;
    std::vector<PatternSlot> positions;
    std::vector<int> columns;  ///< positions of each row, or around
    double turn = 0;           ///< degrees, of the rows
    double pitch = 0, rearPitch = 0, gap = 0, shift = 0;
    bool hasShift = false;     ///< the rear row stands where it likes
    bool staggerLeft = false;  ///< every second row begins half a pitch further left rather than right
    double centreX = 0, centreY = 0, circle = 0, start = 0, step = 0;
    bool arc = false, middle = false;
};

/// The pattern's parameters and turn from all places; positions in geometric order, empty positions listed.
RecognisedFormation fitPattern(const std::vector<FoundPlace>& places, const Pattern& pattern);

struct PlaceCircle {
    double x = 0, y = 0, radius = 0;
};
/// None when the places lie on a line.
std::optional<PlaceCircle> circleThroughPlaces(const std::vector<FoundPlace>& places, const std::vector<int>& which);

}  // namespace punch
