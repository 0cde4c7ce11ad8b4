#pragma once
// The edge of a cut-out or bare hole, or the board's edge, by the distance along it. Lengths in mm.

#include <vector>

#include "core/geometry/plane.h"
#include "core/geometry/rounded_polygon.h"

namespace punch {

class CutRim {
public:
    /// Closed, counter-clockwise, a nanometre outside the shape, so that its places are free of rounding.
    explicit CutRim(const RoundedPolygon& shape);
    /// An edge, from one place to another.
    CutRim(plane::V a, plane::V b);

    double length() const { return length_; }
    /// A place by its distance from the start; closed rims go round, edges end.
    plane::V at(double s) const;
    /// The way along it from one place to another, the shorter way round.
    double along(double s, double t) const;
    /// Distances from the start at which it is tried: about `step` apart, and where sides meet corners.
    std::vector<double> places(double step) const;
    /// Places between two, near enough to each other to be drawn.
    std::vector<double> between(double s, double t) const;

private:
    struct Piece {
        plane::V a, b;  ///< ends of a side, or the middle of an arc
        double radius = 0, from = 0, sweep = 0, length = 0;
    };
    double signedAlong(double s, double t) const;
    void sum();
    std::vector<Piece> pieces_;
    double length_ = 0;
    bool closed_ = false;
};

}  // namespace punch
