#pragma once
// Part: what the user said, and nothing else. A plain value: saved, copied, compared, undone.
//
// Nothing in here is a result. Coordinates, hole sizes and gauges follow from a Part through derive() (core/derive.h).
// Lengths in the part's own frame: x along the first row to the right, y across it upwards, seen from the part side.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/quantity.h"
#include "core/base/voltage.h"

namespace punch {

/// Lasting name of a feature: "p3", "peg1", "body", "body.left". Never reused within a part.
using FeatureId = std::string;

/// Fields of a file that this version does not know, as the text of a JSON object; kept and written back. Mostly empty.
using UnknownFields = std::string;

// ------------------------------------------------------------------ readings

enum class Axis {
    Along,   ///< along the row (x)
    Across,  ///< across the row (y)
    Height,  ///< up from the board
    Direct,  ///< along the line that joins the two features
};

/// How the jaws met the features.
enum class Contact {
    Outside,     ///< outer edges of two features
    Inside,      ///< facing edges of two features
    Centres,     ///< centre to centre, or the same edge to the same edge
    Size,        ///< across one feature: width, thickness, diameter, length, height
    FaceNear,    ///< from a body face to the near edge of a feature
    FaceFar,     ///< from a body face to the far edge of a feature
    FaceCentre,  ///< from a body face to the centre of a feature
};

/// One value as it was read.
struct RawValue {
    Length value;
    std::string typed;     ///< as typed, "16.25" or "(33.3-19.4)/2"
    Unit unit = Unit::Mm;  ///< unit of a bare number in `typed`
    bool meant = false;    ///< the user said that an odd value is meant
    UnknownFields unknown;
    friend bool operator==(const RawValue&, const RawValue&) = default;
};

struct Reading {
    std::string id;  ///< "r7", lasting
    FeatureId a;
    FeatureId b;  ///< empty for Contact::Size
    Contact contact = Contact::Outside;
    Axis axis = Axis::Along;
    std::vector<RawValue> raw;
    std::string instrument = "caliper-0.01";  ///< a name of measure/instruments.h
    std::string source;                       ///< id of a Source; may be empty
    std::string note;
    UnknownFields unknown;
    friend bool operator==(const Reading&, const Reading&) = default;
};

// ------------------------------------------------------------------ features

enum class LeadShape { Rectangular, Square, Round };

/// How the pads of a formation are numbered.
struct Numbering {
    int start = 1;
    int step = 1;
    bool fromLeft = true;  ///< the first number is at the left end, seen from the part side
    UnknownFields unknown;
    friend bool operator==(const Numbering&, const Numbering&) = default;
};

enum class FormationKind { Row };

/// A pattern of pins. A row's parameters are its pitch and its lead.
struct Formation {
    std::string id;
    FormationKind kind = FormationKind::Row;
    std::vector<FeatureId> pins;  ///< left to right
    LeadShape lead = LeadShape::Rectangular;
    Numbering numbers;
    UnknownFields unknown;
    friend bool operator==(const Formation&, const Formation&) = default;
};

/// A round locating peg: a bare hole.
struct Peg {
    FeatureId id;
    std::string name = "peg";
    UnknownFields unknown;
    friend bool operator==(const Peg&, const Peg&) = default;
};

/// A block: four faces and a height, measured; a standoff, given.
struct Body {
    bool present = true;
    Length standoff;
    UnknownFields unknown;
    friend bool operator==(const Body&, const Body&) = default;
};

enum class DatumKind { MiddleOfPins, PinOne, Feature };

struct Datum {
    DatumKind kind = DatumKind::MiddleOfPins;
    FeatureId feature;
    UnknownFields unknown;
    friend bool operator==(const Datum&, const Datum&) = default;
};

// ------------------------------------------------------------------ rules

enum class Level { A, B, C };  ///< IPC-2221/2222 producibility level: A general, B moderate, C high

enum class HoleRule { Ipc2222, HouseFactor };
enum class LandRule { Ipc2221, FixedRing };
enum class DrillList { Metric, Inch, Own };
/// IPC-2221B table 6-1.
enum class VoltageColumn { B1, B2, B3, B4, A5, A6, A7 };
/// IPC-7351 density of the courtyard, or a connector.
enum class Density { A, B, C, Connector };

struct Rules {
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
    UnknownFields unknown;
    friend bool operator==(const Rules&, const Rules&) = default;
};

enum class PotentialKind { Ac, Dc };

/// A voltage given to pins: d.c. signed, or a.c. r.m.s. of a named source.
struct Potential {
    std::string name;
    PotentialKind kind = PotentialKind::Ac;
    Voltage volts;
    std::string source = "mains";
    std::vector<FeatureId> pins;
    UnknownFields unknown;
    friend bool operator==(const Potential&, const Potential&) = default;
};

// ------------------------------------------------------------------ dress

enum class Side { Left, Right, Front, Rear };
enum class PinOneMark { Outside, Inside, None };

/// A rectangle beyond one face of the body, over the face's whole width.
struct Keepout {
    std::string id;
    std::string name;
    Side side = Side::Front;
    Length depth;
    Length maxHeight;
    UnknownFields unknown;
    friend bool operator==(const Keepout&, const Keepout&) = default;
};

struct Dress {
    bool outline = true;
    Length outlineAllowance = Length::fromMm(0.15);
    Length line = Length::fromMm(0.15);
    PinOneMark mark = PinOneMark::Outside;
    bool referenceText = true;
    bool valueText = true;
    Length textHeight = Length::fromMm(1.0);
    Density density = Density::Connector;
    std::optional<Length> courtyardExcess;  ///< none: the level's excess
    std::vector<Keepout> keepouts;
    UnknownFields unknown;
    friend bool operator==(const Dress&, const Dress&) = default;
};

// ------------------------------------------------------------------ evidence and the whole

/// Evidence that the user keeps with the part.
struct Source {
    std::string id;
    std::string title;
    std::string link;
    std::string picture;  ///< file, named from the part's folder; may be empty
    std::string note;
    UnknownFields unknown;
    friend bool operator==(const Source&, const Source&) = default;
};

struct Part {
    std::string name = "New part";
    std::string description;
    std::string reference = "X";  ///< class letter of the reference designator (IEC 81346-2)
    std::string notes;
    std::vector<Source> sources;
    std::vector<Formation> formations;
    std::vector<Peg> pegs;
    Body body;
    std::vector<Reading> readings;
    std::map<std::string, Length> assumed;  ///< parameter -> where it is drawn while it is loose
    std::map<std::string, Length> taken;    ///< parameter -> standard value that the user took
    Datum datum;
    Rules rules;
    std::vector<Potential> potentials;
    Dress dress;
    int nextId = 1;  ///< next number for a lasting identifier
    UnknownFields unknown;
    friend bool operator==(const Part&, const Part&) = default;
};

// ------------------------------------------------------------------ looking up

const Formation* formationOf(const Part& part, const FeatureId& pin);
const Peg* pegOf(const Part& part, const FeatureId& id);
/// The number printed at a pin: "3". Empty when there is no such pin.
std::string pinNumber(const Part& part, const FeatureId& pin);
/// The pin that carries `number`. Empty when there is none.
FeatureId pinByNumber(const Part& part, const std::string& number);
/// The pin with the smallest number, which is marked as the first.
FeatureId firstPin(const Part& part);
std::vector<FeatureId> allPins(const Part& part);
bool isFace(const FeatureId& id);
bool featureExists(const Part& part, const FeatureId& id);
/// "pin 3", "peg", "left face", "body".
std::string featureWords(const Part& part, const FeatureId& id);

inline constexpr const char* kBody = "body";
inline constexpr const char* kLeftFace = "body.left";
inline constexpr const char* kRightFace = "body.right";
inline constexpr const char* kFrontFace = "body.front";
inline constexpr const char* kRearFace = "body.rear";

}  // namespace punch
