#pragma once
// Marks: everything around the pads that somebody asked for: which way round, room, the board, print.
//
// A mark is attached: each of its places holds on features of the part (a face, a pin, a peg, the datum, a place of
// another mark) and stands a typed length away, so that it follows every reading. What a kind of mark needs to know
// stands in one table (core/part/mark_kinds.h) that files, forms and the drawing of it read.
// Lengths are kept as they were typed ("0.3", "10mil", "pitch/2"); bare numbers are mm.

#include <map>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/reading.h"
#include "core/part/source.h"

namespace punch {

/// The datum as a feature that places may hold on.
inline constexpr const char* kDatumFeature = "datum";
/// So is where the model's frame begins (core/model/model.h), which no choice of the datum moves.
inline constexpr const char* kOriginFeature = "origin";

/// Which part of a feature along an axis: its middle, its left or front edge, its right or rear edge.
enum class HoldAt { Middle, Low, High };

/// Where a place stands along one axis.
struct Hold {
    FeatureId of = kDatumFeature;  ///< or "m7.2": the third place of mark m7
    HoldAt at = HoldAt::Middle;
    std::string off = {};  ///< typed length from there, towards +x or +y; empty for none
    FeatureId with = {};   ///< when it is not empty: half way between that feature and this one
    friend bool operator==(const Hold&, const Hold&) = default;
};

/// What becomes of a corner of an outline.
enum class CornerForm { Sharp, Round, Bevel };

struct Anchored {
    Hold x, y;
    CornerForm corner = CornerForm::Sharp;
    std::string size = {};  ///< typed: radius of a round corner; what a bevel takes off each edge
    std::string arc =
        {};  ///< typed: rise of the arc to the next place over its chord, above 0 outwards; empty: straight
    friend bool operator==(const Anchored&, const Anchored&) = default;
};

/// Every kind of mark: its identifier, and its word in files and on the bench. A kind is a line here and a file in
/// core/marks, which says all else.
#define PUNCH_MARK_KINDS(EACH)          \
    EACH(FirstPin, "first pin")         \
    EACH(Notch, "notch")                \
    EACH(Landmark, "landmark")          \
    EACH(Sign, "sign")                  \
    EACH(PinText, "pin texts")          \
    EACH(Keepout, "keepout")            \
    EACH(Travel, "travel")              \
    EACH(Piece, "piece")                \
    EACH(PackageBody, "package body")   \
    EACH(CutOut, "cut-out")             \
    EACH(CopperArea, "copper area")     \
    EACH(Opening, "mask opening")       \
    EACH(ThermalVias, "thermal vias")   \
    EACH(SurfaceLands, "surface lands") \
    EACH(Fiducial, "fiducial")          \
    EACH(Text, "text")                  \
    EACH(Drawing, "drawing")            \
    EACH(Logo, "logo")

enum class MarkKind {
#define PUNCH_MARK_IDENTIFIER(kind, word) kind,
    PUNCH_MARK_KINDS(PUNCH_MARK_IDENTIFIER)
#undef PUNCH_MARK_IDENTIFIER
};

struct Mark {
    PUNCH_VALUE(Mark)
    std::string id;  ///< "m7"
    std::string name;
    MarkKind kind = MarkKind::Landmark;
    std::vector<Anchored> points;
    std::map<std::string, std::string> set;  ///< by the kind's fields, as typed; what is missing is as usual
    UnknownFields unknown;
    friend bool operator==(const Mark&, const Mark&);
};

}  // namespace punch
