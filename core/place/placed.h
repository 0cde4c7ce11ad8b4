#pragma once
// Where things stand, and how well that is known.
// Frame: mm; x right, y up, origin at the datum, seen from the part side.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/part/part.h"

namespace punch {

/// A 95 % ellipse: half axes at 2.448 standard uncertainties, and the direction of the longer one.
struct Ellipse {
    Length major, minor;
    Angle turn;
};

/// Doubt of a place: 95 % half intervals; none while it is loose. Where readings contradict each other, each counts how
/// far the ways to explain them lead from the place.
struct PlaceDoubt {
    Length span;                 ///< between the ways' places, the larger of x and y; 0 while there is one explanation
    Length reach;                ///< of `fitted`: how far a way leads
    std::optional<Length> x, y;  ///< of the coordinate from the datum
    std::optional<Length> fitted;      ///< largest in any direction, against the best fit of all leads
    std::optional<Length> fittedRead;  ///< `fitted` without the tolerances of drawings, which are spread
    std::optional<Ellipse> fromDatum, fromFit;
};

struct PlacedSpot {
    Point at;
    PlaceDoubt doubt;
    bool firm = false;  ///< nothing loose moves it
};

/// A lead as it is drawn: the section of its shank at its mean, along its own axes.
struct DrawnLead {
    Length leadX, leadY;
    Length endX, endY;  ///< of its formed or sprung end; 0: as the shank
    bool leadRound = false;
    Angle leadTurn;
};

struct PlacedPin : PlacedSpot, DrawnLead {
    PUNCH_VALUE(PlacedPin)
    FeatureId id;
    std::string number;
    std::size_t formation = 0;  ///< index among the part's formations
    bool first = false;         ///< the lowest number
};

/// A face besides those of the body, for drawing and measuring.
struct FaceLine {
    FeatureId id;
    std::string name;
    Axis axis = Axis::Across;
    Length at;  ///< from the datum; of a height above the seating plane
    std::optional<Length> doubt;
    FaceKind kind = FaceKind::Panel;
};

/// A landmark on the body.
struct MarkPoint {
    FeatureId id;
    std::string name;
    Point at;
    PlaceDoubt doubt;
    bool firm = false;
};

struct Placed {
    PUNCH_VALUE(Placed)
    Point datum;  ///< in the frame of the first pin
    std::vector<FaceLine> faces;
    std::vector<MarkPoint> marks;
};

}  // namespace punch
