#pragma once
// Laying one mark: its places, lengths, angles and outline as the part's readings put them.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include "core/geometry/outline.h"
#include "core/part/mark_kinds.h"
#include "core/shape/anchors.h"
#include "core/shape/shaped.h"

namespace punch {

/// Below it nothing is drawn.
inline const Length kLeastDrawn = Length::fromUm(1);

/// A rectangle with round corners; a slot or a disc where they are as round as it is wide. `round` at most half of
/// that.
RoundedPolygon roundedRectangle(const Rect& outer, Length round);

class MarkLaying {
public:
    MarkLaying(const Anchors& anchors, const std::optional<BodyBox>& body, const Mark& mark);

    /// What every kind has, then what its own does. The first thing that is wrong stays.
    LaidMark run() &&;

    void wrong(const std::string& why);
    /// Something that it stands on or is sized by.
    void note(bool firm, Length doubt);

    const Part& part() const { return anchors.part(); }

    const Anchors& anchors;
    const std::optional<BodyBox>& body;
    const Mark& mark;
    LaidMark out;

private:
    Length lengthOf(const std::string& typed, const char* label = nullptr);
    std::vector<Corner> corners();
    /// As the field "form" says.
    void layOutline();
    void layAroundBody();
};

}  // namespace punch
