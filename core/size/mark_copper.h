#pragma once
// What a mark's copper, openings and paste are laid into, and what it lies beside.

#include <optional>

#include "core/part/mark_kinds.h"
#include "core/shape/shaped.h"
#include "core/size/pads.h"
#include "core/size/surface_lands.h"

namespace punch {

/// Of a slack this large convex pieces may lie beside the area that they make.
inline const Length kPieceSlack = Length::fromUm(0.5);

/// What is there besides marks.
struct Metal {
    std::vector<Conductor> copper;  ///< pads and the lands of lugs
    Polygons noVia;                 ///< holes and cut-outs, larger by what a via's copper keeps off them
};

class MarkCopper {
public:
    MarkCopper(const Part& p, const Metal& m, AttachedCopper& o, const Mark& of, const LaidMark& lies)
        : part(p), metal(m), out(o), mark(of), laid(lies) {}

    const Part& part;
    const Metal& metal;
    AttachedCopper& out;
    const Mark& mark;
    const LaidMark& laid;

    /// Why it could not be made as asked; the first counts.
    void say(const std::string& words) { out.words.emplace(mark.id, words); }
    /// Why lands could not be made at all: a board without them cannot take the part.
    void refuse(const std::string& words) { out.missing.emplace(mark.id, words); }
    Length length(const char* key) const { return laid.length(key); }
    /// 0 where it is none.
    int count(const char* key) const;
    bool flag(const char* key) const { return flagOf(mark, key); }
    /// The pad that its field "pad" names; else its own identifier.
    FeatureId joinedTo() const;
    /// A conductor at that place, of the pad that it is joined to.
    Conductor joined(Point at) const;
    struct Sides {
        bool top = false, bottom = false;
    };
    /// As its field "side" says.
    Sides sides() const;
    /// What a drawing states, not below nothing; none when it cannot be read, which is refused.
    std::optional<Limits> limits(const char* key);

    /// An opening of the mask.
    void open(bool top, Polygons area);
    /// A tented piece of copper on one side, joined.
    void piece(const RoundedPolygon& shape, bool top);
    void paste(bool top, Polygons area) { out.pastes.push_back({mark.id, top, laid.firm, std::move(area)}); }
};

}  // namespace punch
