#pragma once
// Part: what the user said, and nothing else. A plain value: saved, copied, compared, undone.
//
// Nothing in here is a result. Coordinates, hole sizes and gauges follow from a Part through derive() (core/derive.h).
// Lengths in the part's own frame: x along the first row to the right, y across it upwards, seen from the part side.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/approval.h"
#include "core/part/family.h"
#include "core/part/formation.h"
#include "core/part/make.h"
#include "core/part/mark.h"
#include "core/part/pin.h"
#include "core/part/reading.h"
#include "core/part/rules.h"
#include "core/part/solid_file.h"
#include "core/part/source.h"

namespace punch {

/// What becomes of the part once the board is laid out.
enum class PartKind {
    Placed,   ///< placed and bought
    Printed,  ///< placed, not bought: a fiducial, a logo, a test point, a jumper printed in copper
    Loose,    ///< bought, not soldered: a screw, a clip
};
/// Is it a line of the bill of material?
inline bool isBought(PartKind kind) { return kind != PartKind::Printed; }
/// Is it a line of the placement file?
inline bool isPlaced(PartKind kind) { return kind != PartKind::Loose; }

/// A block: four faces and a height, measured; a standoff, given.
struct Body {
    PUNCH_VALUE(Body)
    bool present = true;
    Length standoff;
    std::optional<Trace> trace;  ///< its outline, where it is no rectangle
    UnknownFields unknown;
    friend bool operator==(const Body&, const Body&);
};

enum class DatumKind { MiddleOfPins, PinOne, Feature, Between };

struct Datum {
    DatumKind kind = DatumKind::MiddleOfPins;
    FeatureId feature;
    UnknownFields unknown;
    FeatureId second = {};  ///< of Between: the datum is the middle of both
    friend bool operator==(const Datum&, const Datum&) = default;
};

/// A parameter's value as it was typed: "2.54", "0.1in", or a formula on other names, "A - 2*edge".
struct Given {
    std::string typed;
    Unit unit = Unit::Mm;  ///< unit of bare numbers in `typed`
    friend bool operator==(const Given&, const Given&) = default;
};

// ------------------------------------------------------------------ the whole

struct Part {
    PUNCH_VALUE(Part)
    std::string name = "New part";
    std::string description;
    std::string value;            ///< "10 k", "230 V 5 A"; empty: its name stands for it
    std::string reference = "X";  ///< class letter of the reference designator (IEC 81346-2)
    std::string notes;
    PartKind kind = PartKind::Placed;
    std::vector<Source> sources;
    std::vector<Formation> formations;
    std::vector<Spot> spots;
    std::vector<Face> faces;
    Body body;
    std::vector<Reading> readings;
    std::map<std::string, Length> assumed;  ///< parameter -> where it is drawn while it is loose
    std::map<std::string, Length> taken;    ///< parameter -> standard value that the user took
    std::map<std::string, Given> given;     ///< parameter -> typed value or formula
    std::map<std::string, Angle> turned;    ///< angle parameter -> where it is drawn while it is loose
    LetterTable letters;
    std::vector<Instrument> instruments;  ///< own ones, besides those of measure/instruments.h
    std::vector<std::string> zeros;       ///< instruments whose zero is an unknown of the adjustment
    Datum datum;
    Rules rules;
    std::map<std::string, PadOverride> overrides;  ///< by pin, formation, or kWholePart
    std::vector<Potential> potentials;
    Dress dress;
    std::vector<Mark> marks;
    std::vector<SolidFile> solids;
    std::vector<Pin> pins;  ///< in the order of the symbol
    std::vector<BenchNote> benchNotes;
    std::vector<Variant> variants;
    SymbolDrawing symbol;
    Family family;
    Sample sample;            ///< of a member of a family with other ways than were measured
    std::vector<Make> makes;  ///< that the same holes take, besides the one that was read
    std::string copiedFrom;   ///< file that readings were copied from: of the first of several makes
    std::vector<BoardNote> history;  ///< the oldest first
    Approval approval;
    int nextId = 1;                  ///< next number for a lasting identifier
    UnknownFields unknown;
    friend bool operator==(const Part&, const Part&);
};

// ------------------------------------------------------------------ looking up

/// "X1" for the class letter X; a reference that ends in a digit is one already.
std::string designatorOf(const Part& part);

const Formation* formationOf(const Part& part, const FeatureId& pin);
const Formation* formationById(const Part& part, const std::string& id);
const Spot* spotOf(const Part& part, const FeatureId& id);
const Face* faceOf(const Part& part, const FeatureId& id);
const Mark* markById(const Part& part, const std::string& id);
const SolidFile* solidById(const Part& part, const std::string& id);
const Reading* readingById(const Part& part, const std::string& id);
std::vector<FeatureId> allPins(const Part& part);
/// A face of the body, of a panel, a knob or a plug.
bool isFace(const Part& part, const FeatureId& id);
/// The direction that a face stands across.
Axis faceAxis(const Part& part, const FeatureId& id);
bool featureExists(const Part& part, const FeatureId& id);
/// Can a potential be given to it: pins, pegs and screws, cut-outs, keepouts, the board's edge?
bool carriesVoltage(const Part& part, const FeatureId& id);
/// "pin 3", "peg", "left face", "body".
std::string featureWords(const Part& part, const FeatureId& id);
/// Has a hole in the board.
inline bool hasHole(const Spot& spot) { return spot.kind != SpotKind::Mark; }

inline constexpr const char* kBody = "body";
inline constexpr const char* kLeftFace = "body.left";
inline constexpr const char* kRightFace = "body.right";
inline constexpr const char* kFrontFace = "body.front";
inline constexpr const char* kRearFace = "body.rear";
inline constexpr const char* kTopFace = "body.top";
inline constexpr const char* kSeatingPlane = "body.seat";

}  // namespace punch
