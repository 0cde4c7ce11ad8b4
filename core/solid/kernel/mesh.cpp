#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <numbers>

#include "core/solid/kernel/kernel.h"

namespace punch::kernel {
namespace {

Vec3 vec(const gp_XYZ& p) { return {p.X(), p.Y(), p.Z()}; }

void describe(const TopoDS_Face& face, SolidFace& to) {
    const BRepAdaptor_Surface s(face);
    const auto axis = [&](const gp_Ax3& a, double radius) {
        to.at = vec(a.Location().XYZ());
        to.axis = vec(a.Direction().XYZ());
        to.radius = radius;
    };
    switch (s.GetType()) {
        case GeomAbs_Plane: {
            to.kind = SurfaceKind::Plane;
            axis(s.Plane().Position(), 0);
            // The side on which there is nothing.
            const bool left = !s.Plane().Direct();
            if ((face.Orientation() == TopAbs_REVERSED) != left) to.axis = -to.axis;
            break;
        }
        case GeomAbs_Cylinder:
            to.kind = SurfaceKind::Cylinder;
            axis(s.Cylinder().Position(), s.Cylinder().Radius());
            break;
        case GeomAbs_Cone:
            to.kind = SurfaceKind::Cone;
            axis(s.Cone().Position(), s.Cone().RefRadius());
            break;
        case GeomAbs_Sphere:
            to.kind = SurfaceKind::Sphere;
            axis(s.Sphere().Position(), s.Sphere().Radius());
            break;
        case GeomAbs_Torus:
            to.kind = SurfaceKind::Torus;
            axis(s.Torus().Position(), s.Torus().MajorRadius());
            break;
        default: break;
    }
}

void addFace(const TopoDS_Face& face, int body, Colour colour, Solid& to) {
    SolidFace f;
    f.body = body;
    f.colour = colour;
    f.first = static_cast<int>(to.triangles.size());
    describe(face, f);
    TopLoc_Location at;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, at);
    if (!mesh.IsNull()) {
        const gp_Trsf& place = at.Transformation();
        const int base = static_cast<int>(to.corners.size());
        for (int i = 1; i <= mesh->NbNodes(); ++i) to.corners.push_back(vec(mesh->Node(i).Transformed(place).XYZ()));
        const bool turned = (face.Orientation() == TopAbs_REVERSED) != place.IsNegative();
        for (int i = 1; i <= mesh->NbTriangles(); ++i) {
            int a = 0, b = 0, c = 0;
            mesh->Triangle(i).Get(a, b, c);
            if (turned) std::swap(b, c);
            const Triangle t{base + a - 1, base + b - 1, base + c - 1};
            f.area += 0.5 * norm(cross(
                                to.corners[static_cast<std::size_t>(t.b)] - to.corners[static_cast<std::size_t>(t.a)],
                                to.corners[static_cast<std::size_t>(t.c)] - to.corners[static_cast<std::size_t>(t.a)]));
            to.triangles.push_back(t);
        }
    }
    f.count = static_cast<int>(to.triangles.size()) - f.first;
    to.faces.push_back(f);
}

}  // namespace

Solid meshed(const Read& read, double deflection, double angle, const Progress& progress) {
    Solid solid;
    solid.notes = read.notes;
    int broken = 0;
    for (std::size_t i = 0; i < read.bodies.size(); ++i) {
        const Body& b = read.bodies[i];
        SolidBody& out = solid.bodies.emplace_back();
        out.name = b.name;
        out.colour = b.colour;
        out.look = b.look;
        out.of = b.of;
        try {
            BRepMesh_IncrementalMesh mesh(b.shape, deflection, false, angle * std::numbers::pi / 180, true);
            GProp_GProps volume;
            BRepGProp::VolumeProperties(b.shape, volume, true);
            out.closed = b.shape.ShapeType() == TopAbs_SOLID;
            out.volume = out.closed ? volume.Mass() : 0;
            std::size_t k = 0;
            for (TopExp_Explorer e(b.shape, TopAbs_FACE); e.More(); e.Next(), ++k)
                addFace(TopoDS::Face(e.Current()), static_cast<int>(i),
                        k < b.faceColours.size() ? b.faceColours[k] : kNoColour, solid);
        } catch (const Standard_Failure&) {
            ++broken;
        }
        progress(0.7 + 0.3 * static_cast<double>(i + 1) / static_cast<double>(read.bodies.size()));
    }
    if (broken > 0) solid.notes.push_back(std::to_string(broken) + " of its bodies are broken and left out");
    return solid;
}

}  // namespace punch::kernel
