#pragma once
// Footprint: what follows from a Part. Never edited, never the source; every number carries its chain.
//
// Frame of all points: mm; x right, y up, origin at the datum, seen from the part side.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/measure/loose.h"
#include "core/measure/next_reading.h"
#include "core/measure/reading_result.h"
#include "core/measure/sides.h"
#include "core/measure/slips.h"
#include "core/measure/standard_sizes.h"
#include "core/model/model.h"
#include "core/part/part.h"
#include "core/verdicts/gauge.h"

namespace punch {

// ------------------------------------------------------------------ chains

/// One step of "where does this number come from?".
struct ChainStep {
    enum class Link { None, Reading, Rule, Parameter, Feature };
    std::string label;   ///< "least hole, fit level B"
    std::string detail;  ///< "+ {}": each {} stands for the next length of `of`
    std::vector<Length> of;
    std::optional<Length> value;
    Link link = Link::None;
    std::string target;  ///< reading id, rule field or parameter name
    double weight = 0;   ///< share of a reading in the value, 0 when it makes no sense
    friend bool operator==(const ChainStep&, const ChainStep&) = default;
};
using Chain = std::vector<ChainStep>;

/// The text of a template such as "{} {u} spare" in the display unit.
std::string fill(const std::string& text, const std::vector<Length>& of, Unit unit, int digits = 3);

// ------------------------------------------------------------------ copper and holes

/// Copper of a pad on one layer. No width: none there.
struct Land {
    LandShape shape = LandShape::Round;
    Point at;              ///< its middle
    Length width, length;  ///< along its own x and y
    Length corner;         ///< radius, of a rounded rectangle
    Angle turn;
    bool there() const { return width > Length(); }
    friend bool operator==(const Land&, const Land&) = default;
};

/// A 95 % ellipse: half axes at 2.448 standard uncertainties, and the direction of the longer one.
struct Ellipse {
    Length major, minor;
    Angle turn;
};

/// Doubt of a place: 95 % half intervals; none while it is loose. Where readings contradict each other, each counts how
/// far the ways to explain them lead from the place.
struct PlaceDoubt {
    Length span;   ///< between the ways' places, the larger of x and y; 0 while there is one explanation
    Length reach;  ///< of `fitted`: how far a way leads
    std::optional<Length> x, y;    ///< of the coordinate from the datum
    std::optional<Length> fitted;  ///< largest in any direction, against the best fit of all leads
    std::optional<Length> fittedRead;  ///< `fitted` without the tolerances of drawings, which are spread
    std::optional<Ellipse> fromDatum, fromFit;
};

struct Pad {
    FeatureId id;
    std::string number;
    std::size_t formation = 0;  ///< index among the part's formations
    Point at;
    bool first = false;  ///< marked by its shape
    PadLayers layers = PadLayers::Through;
    Length hole;         ///< finished, least; of a slot its width; 0: no hole
    Length holeLargest;  ///< finished, with its tolerance
    Length slotLength;   ///< finished, least, over its rounded ends; 0: a round hole
    Angle slotTurn;      ///< of the slot's length
    Land top, inner, bottom;
    Length maskMargin;    ///< of its openings, per side
    bool tented = false;  ///< no opening on the side of its shown land
    bool paste = false;   ///< on the layer of its land
    bool overridden = false;
    PlaceDoubt doubt;
    bool firm = false;    ///< nothing loose moves its place
    bool sized = false;   ///< its lead is measured
    Length leadX, leadY;  ///< section of the lead's shank at its mean, along its own axes
    Length endX, endY;    ///< of its formed or sprung end; 0: as the shank
    bool leadRound = false;
    bool leadOval = false;  ///< rounded to its shorter side
    Angle leadTurn;
};

/// A size of the part, and over which it can be (core/size/lead_section.h).
struct Extent {
    Length mean, least, most;
    Length doubt;        ///< 95 % half interval of the mean; 0 while it is loose
    Length span;         ///< between the ways to explain contradicting readings
    bool firm = false;   ///< determined
    bool drawn = false;  ///< least and most are a drawing's limits, not the ends of the doubt
};

/// What of a lead or peg goes through the board.
struct LeadSection {
    Extent wide, thick;         ///< longer and shorter side; equal for a round one
    Extent across;              ///< diameter, longer side of an oval, else over the corners
    bool byEnd = false;         ///< a formed end is what decides `across`
    bool widthIsWide = true;    ///< the longer side is the width (along x of its own axes), not the thickness
    std::optional<Extent> end;  ///< the longer side of a formed or sprung end
};

/// The hole of a peg, lock, lug or screw; bare, unless it is plated for a lug.
struct BareHole {
    FeatureId id;
    std::string name;
    SpotKind kind = SpotKind::Peg;
    Point at;
    Length size;
    Length sizeLargest;
    LeadSection peg;
    bool flat = false;
    Length flatX, flatY;  ///< section of a flat one
    Angle turn;           ///< of a flat one
    Length slotLength;    ///< a slot, over its rounded ends; 0: a round hole
    Angle slotTurn;
    bool plated = false;  ///< a lug that is soldered in; then it has a land
    Land land;
    Length maskMargin;
    PlaceDoubt doubt;
    bool firm = false;
    bool sized = false;
};

/// What a lead needs and gets. One for each formation.
struct LeadFit {
    std::string formation;
    bool sized = false;
    LeadSection section;
    LeadEnd end = LeadEnd::Plain;
    Length allowance;  ///< least spare room the rule asks for
    Length leastHole;  ///< before the drill list
    Length hole, holeLargest, land;
    Length slotLength;           ///< of a plated slot; 0: a round hole
    Length bit;                  ///< what drills or mills it: the finished size and its plating
    Length largestAllowed;       ///< IPC-2222: smallest lead + 0.70 or 0.60
    bool beyondList = false;     ///< no drill of the list is large enough
    bool passesLargest = false;  ///< the next drill up passes what the rule allows
    Length length, lengthDoubt;  ///< below the body
    bool lengthFirm = false;
    Chain holeChain, landChain;
};

// ------------------------------------------------------------------ around the pads

struct BodyBox {
    Rect rect;
    bool firm[4] = {false, false, false, false};  ///< by Side
    bool allFirm() const { return firm[0] && firm[1] && firm[2] && firm[3]; }
    Length height;
    bool heightFirm = false;
    std::vector<Point> outline;  ///< traced, a closed ring without its first point again; empty for the rectangle
};

struct Stroke {
    std::vector<Point> points;  ///< a polyline; closed when first and last are equal
    Length width;
    std::string what;  ///< "outline", "pin 1 mark", "reference"
    bool cut = false;  ///< an end was cut away from an opening
};

struct KeepoutArea {
    std::string id, name;
    Rect rect;
    Length maxHeight;
    bool firm = false;
};

// ------------------------------------------------------------------ checks

/// Stands for a distance over which nothing leads.
inline Length noWay() { return Length::fromMm(1e3); }

/// Two pads at different potentials, or a pad and other metal, a keepout or the board's edge that carries one.
struct VoltagePair {
    FeatureId a, b;
    Voltage peak;
    Length gap;               ///< straight through air, on the layer that has least to spare
    Length way;               ///< over the board's surface, around what is cut out of it
    Length needed;            ///< the larger of both
    bool otherFaces = false;  ///< on different faces: both ways lead over a wall or the edge, or are noWay()
    // Of IPC-2221B: the column that `needed` comes from, and what is asked on inner layers (B1) and under mask (B4).
    std::optional<VoltageColumn> column;
    std::optional<Length> innerAsks, coveredAsks;
    // Of IEC 60664-1: what the distance has to be through air and over the surface, and from which voltages.
    std::optional<Length> clearance, creepage;
    Voltage impulse, rms;
    std::string refused;      ///< why the standard asks for nothing here: a table ends; `needed` is 0 then
    std::vector<Point> line;  ///< the straight way
    std::vector<Point> path;  ///< the way over the surface, arcs in short chords; empty: it is the straight one
    /// What is left of the distance: the smaller of both.
    Length margin() const {
        const Length air = gap - clearance.value_or(needed);
        const Length over = way - creepage.value_or(needed);
        return air < over ? air : over;
    }
};

/// A cut-out of the board in the frame of the footprint.
struct CutShape {
    std::string id, name;
    CutOutKind kind = CutOutKind::Slot;
    std::vector<Point> corners;  ///< of its core: two of a slot, four of a window, counter-clockwise
    Length radius;               ///< around the core
    Length width;                ///< its narrowest
};

/// The sizes of land that a pad can have, the other pads of its formation growing with it.
struct Room {
    FeatureId pad;
    bool across = false;           ///< along the land's y, of one that is longer than wide; else its width
    Length least, most;            ///< most < least: there is none
    std::string leastBy, mostBy;   ///< gauge that binds: "ring", "voltage"
    std::vector<FeatureId> about;  ///< features at the upper end
    Length best;                   ///< the largest that passes everything, down to 0.05; 0: none
    Length now;
};

/// Will it drop in? See core/fit/drop_in.h.
struct DropInShare {
    bool known = false;
    std::string why;  ///< it is not known
    int trials = 0;
    int in = 0;                ///< that went in
    double share = 0;          ///< at the best estimate
    double low = 0, high = 0;  ///< 95 % Wilson interval
    bool spreadKnown = false;  ///< something says how parts of the kind differ
};

/// What stands near live copper and carries no potential of its own: nothing is asked of it, but this is how far it is.
struct Surrounding {
    enum class Kind { Keepout, BoardEdge, CutOut, Metal };
    std::string id, name;
    Kind kind = Kind::Keepout;
    FeatureId pin;  ///< the live pad with the least to spare
    Length gap;     ///< straight through air
    Length way;     ///< over the surface
    Length asks;    ///< what would be asked if it stood at 0 V
    Length margin;  ///< what would be left; negative: too little
};

/// A potential's distance around its pins, for the halo lens.
struct Halo {
    FeatureId pin;
    std::string potential;
    std::string volts;  ///< "230 V"
    Length needed;      ///< against the worst other potential; 0 when there is none
};

struct ParameterValue {
    std::string name, words;
    Length value;
    std::optional<Length> doubt;  ///< none while it is loose; counts the ways to explain contradicting readings
    Length span;                  ///< between those ways
    bool taken = false;
    std::optional<Angle> angle, angleDoubt;  ///< of an angle, instead of value and doubt
    Parameter::State state = Parameter::State::Free;
    std::string typed;  ///< of a given value or a formula
    bool firm() const { return angle ? angleDoubt.has_value() : doubt.has_value(); }
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

/// How parts of the kind differ in what one reading says.
struct Spread {
    std::string reading;  ///< id
    Length sigma;         ///< standard deviation
    int specimens = 0;    ///< 0: a drawing's tolerance
};

/// One way to explain readings that contradict each other.
struct Explanation {
    std::vector<std::string> readings;  ///< ids of those that are wrong then
    double chi2 = 0;                    ///< v'Wv of the rest
};

struct Footprint {
    std::string name;
    std::vector<Pad> pads;
    std::vector<BareHole> bareHoles;
    std::vector<LeadFit> leads;
    std::optional<BodyBox> body;
    Rect courtyard;
    Length courtyardExcess;
    std::vector<KeepoutArea> keepouts;
    std::vector<Stroke> silkscreen;  ///< top silkscreen
    std::vector<Stroke> assembly;    ///< what only the assembly drawing shows
    std::vector<ParameterValue> parameters;
    std::vector<Gauge> gauges;
    std::vector<VoltagePair> voltages;  ///< the tightest margin first
    std::vector<Surrounding> around;    ///< in the order of keepouts, edges, cut-outs and metal
    std::vector<Halo> halos;
    std::vector<CutShape> cutOuts;
    std::vector<Room> rooms;                   ///< in the order of the pads
    DropInShare dropIn;                        ///< coarse: few trials
    std::vector<ReadingResult> readings;       ///< in the order of the notebook
    std::vector<Explanation> ways;             ///< best first; empty when the readings have one explanation
    std::vector<OpenSide> openSides;           ///< sides that nobody said
    std::vector<SizeAdvice> sizes;             ///< pitches, row gaps, leads and pegs against standard values
    std::vector<Slip> slips;                   ///< what looks like a slip of the hand, as questions
    std::vector<Spread> spreads;               ///< empty: nothing says how parts of the kind differ
    std::vector<Model::Complaint> complaints;  ///< formulas and numbers that cannot be
    std::vector<FaceLine> faces;
    std::vector<MarkPoint> marks;
    std::vector<LooseMovement> loose;
    NextReading next;
    Point datum;                          ///< the datum in the frame of the first pin
    std::map<std::string, Chain> chains;  ///< "x:p1", "y:p1", "pitch"

    const Pad* pad(const FeatureId& id) const;
    const BareHole* bareHole(const FeatureId& id) const;
    const Gauge* gauge(const std::string& name) const;
    const ParameterValue* parameter(const std::string& name) const;
    const SizeAdvice* size(const std::string& parameter) const;
    const LeadFit* leadOf(const Part& part, const FeatureId& pin) const;
    /// Centre of a pin, peg, face or body. None for an unknown identifier.
    std::optional<Point> place(const FeatureId& id) const;
};

}  // namespace punch
