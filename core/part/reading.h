#pragma once
// Readings of a part: what was read, on which features, with what. Plain values of a Part.

#include <optional>
#include <string>
#include <vector>

#include "core/base/angle.h"
#include "core/base/length.h"
#include "core/base/quantity.h"
#include "core/base/value.h"
#include "core/part/source.h"

namespace punch {

/// Lasting name of a feature: "p3", "peg1", "body", "body.left". Never reused within a part.
using FeatureId = std::string;

enum class Axis {
    Along,   ///< along the row (x)
    Across,  ///< across the row (y)
    Height,  ///< up from the board
    Direct,  ///< along the line that joins the two features
};

/// How the jaws met the features.
enum class Contact {
    Outside,        ///< outer edges of two features
    Inside,         ///< facing edges of two features
    Centres,        ///< centre to centre, or the same edge to the same edge
    Size,           ///< across one feature: width, thickness, diameter, length, height
    FaceNear,       ///< from a face to the near edge of a feature
    FaceFar,        ///< from a face to the far edge of a feature
    FaceCentre,     ///< from a face to the centre of a feature
    Angle,          ///< direction of the line from A to B against the row, or the angle A-B-C at B; degrees
    Rim,            ///< diameter of a round feature from the three chords between three points on its rim
    Quantity,       ///< a named value of no feature, for formulas only
    Picture,        ///< the centre of a feature in a picture: its place along the picture's x or y (axis)
    PictureLength,  ///< a known length in a picture, of no feature: a ruler's graduations
    PictureLevel,   ///< two places in a picture, of no feature, on a line along the row or across it; degrees
};

/// Is the reading an angle, in degrees, and no length?
inline bool inDegrees(Contact contact) { return contact == Contact::Angle || contact == Contact::PictureLevel; }

/// One value as it was read.
struct RawValue {
    Length value;
    std::string typed;     ///< as typed, "16.25" or "(33.3-19.4)/2"
    Unit unit = Unit::Mm;  ///< unit of a bare number in `typed`
    bool meant = false;    ///< the user said that an odd value is meant
    UnknownFields unknown;
    Angle angle = {};  ///< of Contact::Angle, instead of `value`
    friend bool operator==(const RawValue&, const RawValue&) = default;
};

enum class DrawingForm {
    Plain,      ///< a nominal alone: ISO 2768-1 m is its tolerance
    Tolerance,  ///< nominal with plus and minus
    Limits,     ///< least and most
    Exact,      ///< a nominal that the user calls exact
};

/// A value as a drawing states it: "20.3", "20.3 ±0.2", "20.3 +0.2 -0.1", "20.1..20.5", "20.3 exact".
struct DrawingValue {
    std::string typed;
    Unit unit = Unit::Mm;  ///< unit of bare numbers in `typed`
    DrawingForm form = DrawingForm::Plain;
    Length nominal;    ///< of Limits: their middle
    Length low, high;  ///< over which the value is rectangular
    friend bool operator==(const DrawingValue&, const DrawingValue&) = default;
};

struct Reading {
    PUNCH_VALUE(Reading)
    std::string id;  ///< "r7", lasting
    FeatureId a;
    FeatureId b;  ///< empty for Contact::Size and Rim
    Contact contact = Contact::Outside;
    Axis axis = Axis::Along;
    std::vector<RawValue> raw;
    std::string instrument = "caliper-0.01";  ///< a name of measure/instruments.h
    std::string source;                       ///< id of a Source; may be empty
    std::string note;
    UnknownFields unknown;
    FeatureId c;                          ///< third feature of an angle; mostly empty
    std::string name;                     ///< letter or name that formulas may use: "B"
    std::optional<DrawingValue> drawing;  ///< a drawing's value stands instead of raw ones
    bool fromBelow = false;               ///< the drawing shows the part from below: left and right are exchanged
    bool isSigned = false;                ///< a coordinate: B from A, positive to the right or to the rear
    int specimen = 0;                     ///< 1, 2, 3: the sample it was taken on; 0 the part in hand
    std::string sameAs;                   ///< id of the reading that this one was found equal to
    std::optional<Pick> pick;             ///< where in the picture `source` it was taken
    std::optional<PixelPoint> place;      ///< where on the page of `source` its value stands
    bool atEnd = false;                   ///< of Contact::Size: across the formed end of a lead, not its shank
    friend bool operator==(const Reading&, const Reading&);
};

/// One letter of a drawing's table: its value in each variant.
struct Letter {
    std::string name;                     ///< "B"
    std::vector<DrawingValue> byVariant;  ///< in the order of LetterTable::variants
    UnknownFields unknown;
    friend bool operator==(const Letter&, const Letter&) = default;
};

struct LetterTable {
    PUNCH_VALUE(LetterTable)
    std::vector<std::string> variants;  ///< "8 way", "11 way"
    std::string variant;                ///< the chosen one
    std::vector<Letter> letters;
    UnknownFields unknown;
    friend bool operator==(const LetterTable&, const LetterTable&);
};

/// What is known of an instrument's errors (laws: measure/instruments.h). Lengths; degrees for a protractor.
struct Instrument {
    std::string name;                          ///< "caliper-0.01", as files call it
    std::string words;                         ///< "digital caliper 0.01 mm"
    double step = 0;                           ///< mm
    double limit = 0;                          ///< mm, up to 100 mm
    double limitLong = 0;                      ///< mm, above
    double edge = 0, sameEdge = 0, byEye = 0;  ///< handling s0, mm
    friend bool operator==(const Instrument&, const Instrument&) = default;
};

}  // namespace punch
