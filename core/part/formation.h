#pragma once
// Formations and single features of a part. Plain values of a Part.
//
// The pins of a formation stand in `pins` in geometric order: left to right, row by row from the front, or around a
// ring from its start. Places and parameters: core/model/layout.h.

#include <map>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/reading.h"

namespace punch {

enum class LeadShape { Rectangular, Square, Round, Oval };

/// How the free end of a lead is formed, where that differs from its shank.
enum class LeadEnd {
    Plain,   ///< as the shank, or pointed: the shank alone decides
    Formed,  ///< flattened or swaged: goes through the hole as it is
    Sprung,  ///< kinked: springs together in the hole and holds the part
};

enum class FormationKind {
    Row,
    TwoRows,    ///< equal or unlike, aligned or not
    Staggered,  ///< rows of which every second one stands half a pitch along
    Grid,       ///< columns and rows, with positions left out
    Ring,       ///< a ring or an arc, with an optional pin in the middle
    Single,     ///< one pin
    Twin,       ///< the mirror image of another formation
};

/// In which order the pins are numbered.
enum class NumberOrder {
    RowByRow,  ///< each row in the same direction ("down-down")
    Around,    ///< one row, and back along the next ("down and up")
    ZigZag,    ///< one pin of each row in turn
    ByColumn,  ///< column by column
    Clicked,   ///< as the user pointed at them
};

/// How the pads of a formation are numbered.
struct Numbering {
    PUNCH_VALUE(Numbering)
    int start = 1;
    int step = 1;
    bool fromLeft = true;  ///< the first number is at the left end, seen from the part side; of a ring: at its start
    UnknownFields unknown;
    NumberOrder order = NumberOrder::RowByRow;
    bool fromFront = true;                 ///< the front row comes first
    bool rowLetters = false;               ///< "B3": a letter for each row, I O Q S X Z left out (JEDEC)
    bool shared = false;                   ///< may carry numbers that other formations carry too
    std::string prefix;                    ///< stands before every number
    std::vector<FeatureId> clicked;        ///< of NumberOrder::Clicked
    std::map<FeatureId, std::string> own;  ///< a pin's own number
    friend bool operator==(const Numbering&, const Numbering&);
};

struct Formation {
    PUNCH_VALUE(Formation)
    std::string id;
    FormationKind kind = FormationKind::Row;
    std::vector<FeatureId> pins;
    LeadShape lead = LeadShape::Rectangular;
    Numbering numbers;
    UnknownFields unknown;
    std::vector<int> rows;      ///< pins in each row, front to rear; of a Row or Ring empty. Grid: columns of each row
    std::vector<int> leftOut;   ///< of a grid: positions without a pin, row x columns + column
    bool ownPitch = false;      ///< of two rows: the rear row has a pitch of its own, "rearPitch"
    bool middle = false;        ///< of a ring: the last pin stands in the middle
    bool arc = false;           ///< of a ring: the step between pins is a parameter, "step"
    bool clockwise = false;     ///< of a ring, seen from the part side
    std::string twinOf;         ///< of a twin: the formation that it mirrors
    Axis mirror = Axis::Along;  ///< Along: left and right are exchanged; Across: front and rear
    std::vector<FeatureId> moved;  ///< pins that stand off the pattern, by parameters of their own
    LeadEnd end = LeadEnd::Plain;  ///< its size: "lead.end.width" and "lead.end.thickness"
    friend bool operator==(const Formation&, const Formation&);
};

enum class SpotKind {
    Peg,           ///< locates, bare hole with the peg's clearance
    Lock,          ///< holds the part to the board, bare hole
    Lug,           ///< a metal tab
    MountingHole,  ///< a hole of this size in the board
    Mark,          ///< a landmark on the body; no hole
};

/// A single feature that is no pin.
struct Spot {
    PUNCH_VALUE(Spot)
    FeatureId id;
    std::string name = "peg";
    UnknownFields unknown;
    SpotKind kind = SpotKind::Peg;
    bool flat = false;  ///< width and thickness instead of a diameter
    FeatureId twinOf;   ///< mirrors this spot instead of having a place of its own
    Axis mirror = Axis::Along;
    Length head = {};  ///< metal that lies on the board around its hole: a screw's head, a washer; 0: none
    friend bool operator==(const Spot&, const Spot&);
};

enum class FaceKind { Panel, BoardEdge, Knob, Plug };

/// A face besides those of the body, at one coordinate.
struct Face {
    PUNCH_VALUE(Face)
    FeatureId id;
    std::string name;
    FaceKind kind = FaceKind::Panel;
    Axis axis = Axis::Across;  ///< it stands across this direction
    bool positive = false;     ///< its outside is towards +x, +y or up
    UnknownFields unknown;
    friend bool operator==(const Face&, const Face&);
};

}  // namespace punch
