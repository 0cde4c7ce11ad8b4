#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Trsf.hxx>
#include <numbers>

#include "core/solid/kernel/kernel.h"

namespace punch::kernel {
namespace {

constexpr double kSame = 1e-7;

gp_Pnt pnt(Vec3 p) { return {p.x, p.y, p.z}; }
gp_Vec vec(Vec3 p) { return {p.x, p.y, p.z}; }

gp_Trsf trsf(const Pose& p) {
    gp_Trsf t;
    t.SetValues(p.x.x, p.y.x, p.z.x, p.move.x, p.x.y, p.y.y, p.z.y, p.move.y, p.x.z, p.y.z, p.z.z, p.move.z);
    return t;
}

/// A closed wire through places whose edges may be arcs; `at` puts a place into space.
template <class At>
TopoDS_Wire wireOf(const std::vector<FlatBend>& bends, const At& at) {
    BRepBuilderAPI_MakeWire wire;
    const std::size_t n = bends.size();
    for (std::size_t i = 0; i < n; ++i) {
        const FlatBend &a = bends[i], &b = bends[(i + 1) % n];
        const double dx = b.x - a.x, dy = b.y - a.y;
        if (std::hypot(dx, dy) < kSame) continue;
        if (std::abs(a.bulge) < 1e-12) {
            wire.Add(BRepBuilderAPI_MakeEdge(at(a.x, a.y), at(b.x, b.y)));
            continue;
        }
        // Its middle lies to the right of its direction by the bulge times half its chord.
        const double mx = (a.x + b.x) / 2 + a.bulge * dy / 2, my = (a.y + b.y) / 2 - a.bulge * dx / 2;
        wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at(a.x, a.y), at(mx, my), at(b.x, b.y)).Value()));
    }
    return wire.Wire();
}

TopoDS_Face faceOf(const FlatArea& area, double z) {
    const auto at = [&](double x, double y) { return gp_Pnt(x, y, z); };
    BRepBuilderAPI_MakeFace face(wireOf(area.outer, at), true);
    TopoDS_Face out = face.Face();
    for (const auto& hole : area.holes) {
        // A hole's wire runs against the outer one.
        BRepBuilderAPI_MakeFace inner(wireOf(hole, at), true);
        TopExp_Explorer wire(inner.Face(), TopAbs_WIRE);
        BRepBuilderAPI_MakeFace with(out, TopoDS::Wire(wire.Current().Reversed()));
        out = with.Face();
    }
    return out;
}

TopoDS_Shape shapeOf(const Prism& p) {
    return BRepPrimAPI_MakePrism(faceOf(p.outline, p.low), gp_Vec(0, 0, p.high - p.low)).Shape();
}

TopoDS_Shape shapeOf(const Tapered& t) {
    BRepOffsetAPI_ThruSections loft(true, true);
    for (const auto& [ring, z] : {std::pair(&t.below, t.low), std::pair(&t.above, t.high)})
        loft.AddWire(wireOf(*ring, [&, h = z](double x, double y) { return gp_Pnt(x, y, h); }));
    return loft.Shape();
}

TopoDS_Shape shapeOf(const TurnedProfile& t) {
    std::vector<FlatBend> ring;
    for (const auto& a : t.profile) ring.push_back({a.r, a.z, a.bulge});
    // Back over the axis.
    if (!ring.empty() && ring.back().x > kSame) ring.push_back({0, ring.back().y, 0});
    if (!ring.empty() && ring.front().x > kSame) ring.push_back({0, ring.front().y, 0});
    BRepBuilderAPI_MakeFace face(wireOf(ring, [](double r, double z) { return gp_Pnt(r, 0, z); }), true);
    return BRepPrimAPI_MakeRevol(face.Face(), gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape();
}

TopoDS_Shape shapeOf(const Ball& b) { return BRepPrimAPI_MakeSphere(b.diameter / 2).Shape(); }

TopoDS_Shape shapeOf(const Swept& s) {
    BRepBuilderAPI_MakeWire way;
    Vec3 from = s.way.front();
    for (std::size_t i = 1; i < s.way.size(); ++i) {
        const Vec3 to = s.way[i];
        const Vec3 in = unit(to - s.way[i - 1]);
        if (i + 1 == s.way.size() || s.bend <= 0) {
            way.Add(BRepBuilderAPI_MakeEdge(pnt(from), pnt(to)));
            from = to;
            continue;
        }
        const Vec3 on = unit(s.way[i + 1] - to);
        const double half = std::acos(std::min(1.0, std::max(-1.0, dot(in, on)))) / 2;
        if (half < 1e-6) continue;
        const double back = s.bend * std::tan(half);
        const Vec3 a = to - back * in, b = to + back * on;
        const Vec3 inwards = unit(on - in);
        const Vec3 middle = to + (s.bend / std::cos(half) - s.bend) * inwards;
        way.Add(BRepBuilderAPI_MakeEdge(pnt(from), pnt(a)));
        way.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(pnt(a), pnt(middle), pnt(b)).Value()));
        from = b;
    }
    const Vec3 along = unit(s.way[1] - s.way[0]);
    const Vec3 x = std::abs(along.x) > 0.9 ? Vec3{0, 1, 0} : Vec3{1, 0, 0};
    const Vec3 u = unit(x - dot(x, along) * along), v = cross(along, u);
    const Vec3 at = s.way.front();
    TopoDS_Wire section;
    if (s.round) {
        section = BRepBuilderAPI_MakeWire(
            BRepBuilderAPI_MakeEdge(gp_Circ(gp_Ax2(pnt(at), gp_Dir(vec(along)), gp_Dir(vec(u))), s.across / 2)));
    } else {
        BRepBuilderAPI_MakePolygon box;
        for (const auto& [i, k] : {std::pair(-1, -1), std::pair(1, -1), std::pair(1, 1), std::pair(-1, 1)})
            box.Add(pnt(at + i * s.across / 2 * u + k * s.thick / 2 * v));
        box.Close();
        section = box.Wire();
    }
    return BRepOffsetAPI_MakePipe(way.Wire(), BRepBuilderAPI_MakeFace(section).Face()).Shape();
}

TopoDS_Shape shapeOf(const Simple& s) {
    const TopoDS_Shape shape = std::visit([](const auto& form) { return shapeOf(form); }, s.form);
    return BRepBuilderAPI_Transform(shape, trsf(s.pose), true).Shape();
}

}  // namespace

Result<std::vector<Body>> made(const SolidsToMake& all, std::vector<std::string>& notes) {
    std::vector<Body> bodies;
    for (const MadeBody& b : all.bodies) {
        std::vector<Body> these;
        if (const auto* file = std::get_if<FromFile>(&b.form)) {
            auto read = readStep(file->path, [](double) {});
            if (!read) return tl::make_unexpected(read.error());
            these = std::move(read->bodies);
            notes.insert(notes.end(), read->notes.begin(), read->notes.end());
        } else {
            const TopoDS_Shape shape = std::visit(
                [](const auto& form) {
                    if constexpr (std::is_same_v<std::decay_t<decltype(form)>, FromFile>)
                        return TopoDS_Shape();
                    else
                        return shapeOf(form);
                },
                b.form);
            if (shape.IsNull()) return problem("no solid came out of it", b.name, "Look at its outline and heights");
            these.push_back({b.name, b.colour, shape, {}, b.look});
        }
        for (Body& one : these) {
            one.of = static_cast<int>(&b - all.bodies.data());
            for (const Simple& add : b.join) {
                BRepAlgoAPI_Fuse fused(one.shape, shapeOf(add));
                fused.SimplifyResult();
                one.shape = fused.Shape();
            }
            for (const Simple& cut : b.cut) one.shape = BRepAlgoAPI_Cut(one.shape, shapeOf(cut)).Shape();
            // Its own place is made part of the shape: what is written has colours only then.
            const gp_Trsf place = trsf(after(all.pose, b.pose)) * one.shape.Location().Transformation();
            one.shape = BRepBuilderAPI_Transform(one.shape.Located(TopLoc_Location()), place, true).Shape();
            // A cut may leave several pieces, or wrap one into a compound.
            int solids = 0;
            for (TopExp_Explorer e(one.shape, TopAbs_SOLID); e.More(); e.Next(), ++solids) {
                Body piece = one;
                piece.shape = e.Current();
                bodies.push_back(std::move(piece));
            }
            if (solids == 0 && std::holds_alternative<FromFile>(b.form)) bodies.push_back(one);
            if (solids == 0 && !std::holds_alternative<FromFile>(b.form))
                return problem("no solid came out of it", b.name, "Look at its outline and heights");
        }
    }
    return bodies;
}

}  // namespace punch::kernel
