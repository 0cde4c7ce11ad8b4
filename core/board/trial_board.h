#pragma once
// A trial board: several footprints on one outline, before anything is ordered. What the user said, and nothing else: a
// plain value, kept as a .board file (docs/file-format.md) in which parts are named by their files.
//
// Frame: mm, x right, y up, seen from the top, origin at the lower left corner of a rectangle or as an own outline
// says.

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/base/value.h"
#include "core/geometry/frame.h"

namespace punch {

inline constexpr const char* kBoardSuffix = ".board";

/// A part on the board.
struct Placing {
    std::string id;
    std::string designator;  ///< "K2"
    std::string file;        ///< of the part, named from the board's folder
    Point at;                ///< where its datum lies
    Angle turn;              ///< counter-clockwise, seen from the top
    bool bottom = false;
    UnknownFields unknown = {};
    friend bool operator==(const Placing&, const Placing&) = default;
    Frame frame() const { return {at, turn, bottom}; }
};

/// A hole for a screw: bare, and around it nothing stands and no copper lies.
struct BoardHole {
    std::string id;
    Point at;
    Length diameter = Length::fromMm(3.2);
    Length clear = Length::fromMm(6.5);  ///< diameter under the screw's head
    UnknownFields unknown = {};
    friend bool operator==(const BoardHole&, const BoardHole&) = default;
};

/// Words on the silkscreen.
struct BoardText {
    std::string text;
    Point at;  ///< its middle
    Length height = Length::fromMm(1.2);
    bool bottom = false;
    UnknownFields unknown = {};
    friend bool operator==(const BoardText&, const BoardText&) = default;
};

struct BoardOutline {
    Length width = Length::fromMm(80), height = Length::fromMm(60);
    Length corner;   ///< radius of the rectangle's corners
    Polygons rings;  ///< an own shape instead: the first is the edge, others are cut out
    UnknownFields unknown = {};
    friend bool operator==(const BoardOutline&, const BoardOutline&) = default;
    bool own() const { return !rings.empty(); }
};
/// Edge and cut-outs, off a round corner by less than 1 µm.
Polygons ringsOf(const BoardOutline& outline);

struct TrialBoard {
    PUNCH_VALUE(TrialBoard)
    std::string name = "New board";
    Length thickness = Length::fromMm(1.6);
    BoardOutline outline;
    std::vector<Placing> placings;
    std::vector<BoardHole> holes;
    std::vector<Point> fiducials;  ///< global ones, of the board's top
    std::vector<BoardText> texts;
    int nextId = 1;
    UnknownFields unknown;
    friend bool operator==(const TrialBoard&, const TrialBoard&);
};

const Placing* placingById(const TrialBoard& board, const std::string& id);

/// Ends with a newline; reading and writing are inverse, fields that this version does not know stay.
std::string boardText(const TrialBoard& board);
/// Errors: no JSON, no board, a newer version, a field of the wrong kind (named by its path).
Result<TrialBoard> boardFromText(std::string_view text, const std::string& where);
Result<TrialBoard> loadBoard(const std::filesystem::path& file);
Result<void> saveBoard(const TrialBoard& board, const std::filesystem::path& file);

// ------------------------------------------------------------------ edits

/// A part more, where there is room for it, named by its reference letter and the next free number.
TrialBoard withPart(TrialBoard board, const std::string& file, const std::string& letter, Point at);
TrialBoard withoutThing(TrialBoard board, const std::string& id);

/// The closed outlines of a drawing: the one around all others is the edge, the others are cut out. Lines and arcs that
/// meet within 0.01 mm are one. Errors: as reading it, no unit where neither the file nor `mmPerUnit` says one, nothing
/// closed in it, an outline that crosses itself.
Result<Polygons> outlineFromDxf(const std::string& file, std::optional<double> mmPerUnit = {});
inline constexpr const char* kNoUnit = "the drawing does not say its unit";

/// An own edge by its corners: "0,0 100,0 100,60 40,60 40,85 0,85", each length with any unit, bare ones in mm. Errors:
/// fewer than three, no lengths, an edge that crosses itself.
Result<Polygons> outlineFromCorners(const std::string& typed);
/// The corners of an edge, as they would be typed.
std::string cornersAsTyped(const Polygons& rings);

}  // namespace punch
