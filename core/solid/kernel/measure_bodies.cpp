#include <BRepAlgoAPI_Common.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>

#include "core/solid/kernel/kernel.h"

namespace punch::kernel {

Result<SolidDistance> measured(const Body& a, const Body& b) {
    SolidDistance d;
    // What both fill; where they do, there is no distance.
    const TopoDS_Shape both = BRepAlgoAPI_Common(a.shape, b.shape).Shape();
    for (TopExp_Explorer e(both, TopAbs_SOLID); e.More(); e.Next()) {
        GProp_GProps volume;
        BRepGProp::VolumeProperties(e.Current(), volume, true);
        d.common += volume.Mass();
    }
    BRepExtrema_DistShapeShape least(a.shape, b.shape);
    if (!least.IsDone() || least.NbSolution() < 1)
        return problem("their distance could not be found", a.name, "Save it again");
    d.distance = d.common > 0 ? 0 : least.Value();
    const gp_Pnt p = least.PointOnShape1(1), q = least.PointOnShape2(1);
    d.from = {p.X(), p.Y(), p.Z()};
    d.to = {q.X(), q.Y(), q.Z()};
    return d;
}

}  // namespace punch::kernel
