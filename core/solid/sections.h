#pragma once
// Flat sections through a solid's triangles: closed lines, and what shape they have.
//
// Corners of the triangles lie on the surfaces themselves, so the corners of a section across straight walls do too:
// circles and rectangles come out exact, whatever the triangles leave out between them.

#include <vector>

#include "core/solid/solid.h"

namespace punch {

/// On the plane z = const: mm.
struct Flat {
    double x = 0, y = 0;
    friend bool operator==(const Flat&, const Flat&) = default;
};

/// A closed line, its material on its left: counter-clockwise around material, clockwise around a hole in it.
struct SectionLoop {
    std::vector<Flat> points;
    double area = 0;  ///< signed, mm²
    int body = 0;
    Flat low, high;  ///< around it
};

class Sections {
public:
    /// `pose` puts the solid into the frame of the sections.
    Sections(const Solid& solid, const Pose& pose);
    std::vector<SectionLoop> at(double z) const;
    /// The lowest corner that stands over a box of the plane; infinite where there is none.
    double lowestOver(Flat low, Flat high) const;
    double low() const { return low_; }
    double high() const { return high_; }

private:
    struct Piece {
        Vec3 a, b, c;
        int body = 0;
    };
    std::vector<Piece> pieces_;
    std::vector<std::vector<int>> slices_;  ///< of pieces, by height
    double low_ = 0, high_ = 0, slice_ = 1;
};

/// What a loop looks like.
struct SectionShape {
    Flat middle;
    double along = 0, across = 0;  ///< mm, along >= across
    double turn = 0;               ///< degrees of `along` from x, -90 to 90
    bool round = false;
    bool rectangle = false;
};
/// A circle through all of its corners within half a micrometre; else the smallest rectangle around it, and where it
/// does not fill that, the middle of its area.
SectionShape shapeOf(const SectionLoop& loop);

}  // namespace punch
