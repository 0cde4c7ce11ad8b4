#pragma once
// What each lead and peg needs and gets: sections of leads, holes, lands.

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/chain.h"
#include "core/base/value.h"
#include "core/geometry/polygons.h"
#include "core/geometry/shapes.h"
#include "core/measure/measured.h"
#include "core/place/placed.h"

namespace punch {

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

/// What a lead needs and gets. One for each formation.
struct LeadFit {
    PUNCH_VALUE(LeadFit)
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

struct Pad : Conductor, DrawnLead {
    PUNCH_VALUE(Pad)
    bool first = false;       ///< marked by its shape
    bool paste = false;       ///< on the layer of its land
    bool overridden = false;  ///< something is set against the rule
    bool leadOval = false;    ///< its lead is rounded to its shorter side
    Point off;                ///< from its lead to its hole; several makes share it
    PlaceDoubt doubt;
};

/// The hole of a peg, lock, lug or screw; bare, unless it is plated for a lug.
struct BareHole {
    PUNCH_VALUE(BareHole)
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
    Point off;         ///< from the peg to its hole, as of a pad
    std::string make;  ///< that it is for alone; empty: for the part's own
};

/// Does something of the part itself stand in it?
inline bool takesOwn(const BareHole& h) { return h.kind != SpotKind::MountingHole && h.make.empty(); }

/// A lead of a make as it lies over the part's own, and what it needs.
struct MakeLead {
    std::string number;
    std::size_t pad = 0;               ///< of the make's own footprint
    std::vector<RoundedPolygon> room;  ///< discs that its hole has to hold: one, of a slot its two ends
    Length allowed;                    ///< its hole is at most this at its largest; 0: nothing is said
    bool firm = false, sized = false;
};

struct MakeHole {
    std::size_t hole = 0;  ///< of the make's own footprint
    std::string name;
    SpotKind kind = SpotKind::Peg;
    std::vector<RoundedPolygon> room;
    bool plated = false, firm = false, sized = false;
};

/// Another make, laid over the part (core/size/make_over.h).
struct MakeOver {
    PUNCH_VALUE(MakeOver)
    std::string name;
    std::string why;  ///< nothing can be said of it; empty when it can
    Angle turn;       ///< of the make, and then its shift, from its datum to the part's
    Point shift;
    Length apart;  ///< the most that two leads of one number lie apart
    std::vector<MakeLead> leads;
    std::vector<MakeHole> holes;
    std::optional<Rect> body;
    std::vector<std::string> alone;  ///< numbers that only one of them has: "5 is not in HT-TB4"
};

/// A hole that takes more than one make's lead (core/size/join_holes.h).
struct JoinedHole {
    FeatureId id;
    std::string name;  ///< "pad 3", "peg"
    JoinKind kind = JoinKind::Round;
    Length apart;  ///< the most that two leads in it lie apart
    Length size, length;
    Length over;      ///< by which it is larger than what is allowed; 0: it is not
    std::string why;  ///< what keeps the other kinds from it, or all of them
};

/// An opening of the mask that a mark asks for, and paste.
struct MarkOpening {
    std::string mark;
    bool top = true;
    bool firm = true;
    Polygons area;
    std::vector<RoundedPolygon> pieces;  ///< the same, convex
};
struct MarkPaste {
    std::string mark;
    bool top = true;
    bool firm = true;
    Polygons area;
};

/// Copper of any form, drawn as it is. For distances hulls of it stand among the lands.
struct MarkFigure {
    std::string mark, number;
    bool top = true;
    bool firm = true;
    Polygons area;
};

/// Copper that marks ask for (core/size/attached_copper.h).
struct AttachedCopper {
    PUNCH_VALUE(AttachedCopper)
    std::vector<Conductor> lands;  ///< convex pieces; what is joined to a pad has its identifier and number
    std::vector<MarkOpening> openings;
    std::vector<MarkPaste> pastes;
    std::vector<MarkFigure> figures;
    std::map<std::string, std::pair<double, double>> areas;  ///< by number: copper on top and at the bottom, mm²
    std::map<std::string, std::string> words;                ///< by mark: what of it could not be made as asked
    std::map<std::string, std::string> missing;              ///< by mark: why lands that it asks for are not there
    std::map<std::string, std::string> notes;                ///< by mark: how it differs from the drawing's own
    std::map<std::string, Length> courtyards;                ///< by mark: excess that its lead form asks
    Chains chains;                                           ///< "lands:m7"
};

struct Sized {
    PUNCH_VALUE(Sized)
    std::vector<MakeOver> makes;  ///< besides the part's own
    std::vector<JoinedHole> joined;
    AttachedCopper attached;
    std::vector<Pad> pads;  ///< in the order of their numbers
    std::vector<BareHole> bareHoles;
    std::vector<LeadFit> leads;              ///< one for each formation, in their order
    std::vector<ParameterValue> parameters;  ///< also what follows from a lead: "lead.across", "hole", "land"
};

/// A land of a mark of the kind "surface lands": "m7/3".
inline bool isSurfaceLand(const Conductor& land) { return land.id.find('/') != std::string::npos; }

/// The finished hole or slot, at its least or largest.
RoundedPolygon holeShape(const BareHole& hole, bool largest = true);

/// Copper: pads, the lands of lugs, numbered by their names and of no formation, and what marks ask for.
std::vector<Conductor> copperOf(const std::vector<Pad>& pads, const std::vector<BareHole>& bareHoles,
                                const AttachedCopper& attached);

}  // namespace punch
