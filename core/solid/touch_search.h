#pragma once
// Where something that moves first touches what stands still, by their triangles.
//
// Faces that touch already at the start are what it is guided by, a bore on its shaft, a knob on its plate: they do not
// count for each other. The rest does, to within the triangles' deflection.

#include <memory>
#include <optional>

#include "core/base/motion.h"
#include "core/solid/solid.h"

namespace punch {

struct FirstTouch {
    double at = 0;  ///< degrees or mm of the motion
    Vec3 where;
};

class TouchSearch {
public:
    TouchSearch();
    ~TouchSearch();
    TouchSearch(const TouchSearch&) = delete;
    TouchSearch& operator=(const TouchSearch&) = delete;

    /// What moves, and what stands, both in one frame. `body`: of the solid alone, -1 for all of it.
    void addMoving(const Solid& solid, const Pose& pose, int body = -1);
    /// `but`: a body of it that is left out.
    void addStanding(const Solid& solid, const Pose& pose, int but = -1);

    void addStandingBody(const Solid& solid, const Pose& pose, int body);

    /// None where it moves from one end to the other and touches nothing. In steps of 0.1 mm of what moves fastest:
    /// what is thinner may be passed unseen. Where it touches is exact to a thousandth of a degree or mm.
    std::optional<FirstTouch> first(const Motion& motion) const;

private:
    struct Meshes;
    std::unique_ptr<Meshes> meshes_;
};

}  // namespace punch
