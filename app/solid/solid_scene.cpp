#include "app/solid/solid_scene.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>

#include "app/theme.h"
#include "core/artwork/artwork.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

const Length kAround = Length::fromMm(2.5);  // of board beyond the courtyard
const Length kChord = Length::fromUm(15);
constexpr double kCopperHeight = 0.03, kInkHeight = 0.05;

SceneVertex vertex(Vec3 p, Vec3 n, const QColor& c) {
    return {static_cast<float>(p.x),
            static_cast<float>(p.y),
            static_cast<float>(p.z),
            static_cast<float>(n.x),
            static_cast<float>(n.y),
            static_cast<float>(n.z),
            static_cast<unsigned char>(c.red()),
            static_cast<unsigned char>(c.green()),
            static_cast<unsigned char>(c.blue()),
            static_cast<unsigned char>(c.alpha())};
}

void triangle(SceneLayer& to, Vec3 a, Vec3 b, Vec3 c, Vec3 n, const QColor& colour) {
    for (const Vec3& p : {a, b, c}) to.triangles.push_back(vertex(p, n, colour));
}

void line(SceneLayer& to, Vec3 a, Vec3 b, const QColor& colour) {
    to.lines.push_back(vertex(a, {0, 0, 1}, colour));
    to.lines.push_back(vertex(b, {0, 0, 1}, colour));
}

Vec3 at(Point p, double z) { return {p.x.mm(), p.y.mm(), z}; }

/// A flat area at a height.
void flat(SceneLayer& to, const Polygons& area, double z, const QColor& colour, bool up) {
    for (const RoundedPolygon& piece : convexPieces(area, Length::fromUm(2))) {
        const auto ring = piece.radius > Length() ? flattened(ringOf(piece), kChord) : piece.corners;
        for (std::size_t i = 1; i + 1 < ring.size(); ++i)
            triangle(to, at(ring[0], z), at(ring[i], z), at(ring[i + 1], z), {0, 0, up ? 1.0 : -1.0}, colour);
    }
}

/// Upright walls of rings, from one height to another.
void walls(SceneLayer& to, const std::vector<Point>& ring, double low, double high, const QColor& colour,
           double outwards) {
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
        const Vec3 along = unit(at(b, 0) - at(a, 0));
        const Vec3 n = outwards * Vec3{along.y, -along.x, 0};
        triangle(to, at(a, low), at(b, low), at(b, high), n, colour);
        triangle(to, at(a, low), at(b, high), at(a, high), n, colour);
    }
}

void around(SceneLayer& to, const Polygons& area, double z, const QColor& colour) {
    for (const auto& ring : area)
        for (std::size_t i = 0; i < ring.size(); ++i)
            line(to, at(ring[i], z), at(ring[(i + 1) % ring.size()], z), colour);
}

Polygons of(const Shape& shape) {
    if (const RoundedPolygon* area = shape.area()) return united({flattened(ringOf(*area), kChord)});
    if (const Polygons* all = shape.polygons()) return *all;
    Polygons all;
    const Line& l = *shape.line();
    for (std::size_t i = 0; i + 1 < l.points.size(); ++i)
        all.push_back(flattened(ringOf(RoundedPolygon::stroke(l.points[i], l.points[i + 1], l.width)), kChord));
    return all;
}

QColor colourOf(Colour c, const QColor& otherwise, double share) {
    QColor colour = c == kNoColour ? otherwise : QColor(static_cast<QRgb>(0xFF000000U | c));
    colour.setAlphaF(static_cast<float>(share));
    return colour;
}

void addBoard(const Part& part, const Footprint& f, SolidScene& scene) {
    const double t = part.rules.boardThickness.mm();
    scene.boardThickness = static_cast<float>(t);
    Rect box = f.courtyard;
    for (const Conductor& c : f.board().copper()) box.add(boundsOf(landShape(c)));
    for (const StandingSolid& s : f.solids) box.add(boundsOf(s.outline));
    if (box.empty) box = Rect::around({}, Length::fromMm(10), Length::fromMm(10));
    box = box.grown(kAround);
    Polygons holes, plated;
    for (const Layer layer : {Layer::PlatedHoles, Layer::BareHoles, Layer::CutOuts})
        for (const Shape& s : artwork(part, f, layer))
            for (const auto& ring : of(s)) {
                holes.push_back(ring);
                if (layer == Layer::PlatedHoles) plated.push_back(ring);
            }
    const Polygons sheet = without(polygonsOf(rectangleRing(box)), united(holes));
    QColor paper = theme::kLaminate, edge = theme::kLaminateEdge;
    paper.setAlphaF(0.42F);
    flat(scene.board, sheet, 0, paper, true);
    flat(scene.board, sheet, -t, paper, false);
    edge.setAlphaF(0.55F);
    walls(scene.board, {{box.left, box.bottom}, {box.right, box.bottom}, {box.right, box.top}, {box.left, box.top}}, -t,
          0, edge, 1);
    QColor rim = theme::kLaminateEdge.darker(125);
    for (const double z : {0.0, -t}) around(scene.board, polygonsOf(rectangleRing(box)), z, rim);
    for (const auto& ring : united(holes)) {
        const bool isPlated = std::any_of(plated.begin(), plated.end(), [&](const auto& p) {
            return boundsOf(Polygons{p}).middle() == boundsOf(Polygons{ring}).middle();
        });
        QColor wall = isPlated ? theme::kCopper : theme::kLaminateEdge;
        wall.setAlphaF(isPlated ? 0.35F : 0.5F);
        walls(scene.board, ring, -t, 0, wall, -1);
        for (const double z : {0.0, -t}) around(scene.copper, {ring}, z, isPlated ? theme::kCopperEdge : theme::kInk);
    }
    const auto copper = [&](Layer layer, double z, bool up) {
        for (const Shape& s : artwork(part, f, layer)) {
            const Polygons area = without(of(s), united(holes));
            flat(scene.copper, area, z, theme::kCopper, up);
            around(scene.copper, area, z, theme::kCopperEdge);
        }
    };
    copper(Layer::TopCopper, kCopperHeight, true);
    copper(Layer::BottomCopper, -t - kCopperHeight, false);
    for (const Shape& s : artwork(part, f, Layer::TopSilkscreen))
        flat(scene.copper, of(s), kInkHeight, theme::kInk, true);
    for (const Shape& s : artwork(part, f, Layer::BottomSilkscreen))
        flat(scene.copper, of(s), -t - kInkHeight, theme::kInk, false);
    for (const Shape& s : artwork(part, f, Layer::TopCourtyard))
        around(scene.copper, of(s), kInkHeight, theme::kCourtyard);
    scene.box.add(at({box.left, box.bottom}, -t));
    scene.box.add(at({box.right, box.top}, 0));
}

/// Edges of a face: those of its triangles that no other of them has.
void edgesOf(const SolidFace& face, const Solid& solid, const std::vector<Vec3>& corners, SceneLayer& to,
             const QColor& colour) {
    std::map<std::pair<int, int>, int> seen;
    for (int i = face.first; i < face.first + face.count; ++i) {
        const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
        for (const auto& [a, b] : {std::pair(t.a, t.b), std::pair(t.b, t.c), std::pair(t.c, t.a)})
            ++seen[{std::min(a, b), std::max(a, b)}];
    }
    for (const auto& [edge, count] : seen)
        if (count == 1)
            line(to, corners[static_cast<std::size_t>(edge.first)], corners[static_cast<std::size_t>(edge.second)],
                 colour);
}

void addSolid(const StandingSolid& standing, const Solid& solid, const FeatureId& chosen, SolidScene& scene) {
    std::vector<Vec3> corners;
    corners.reserve(solid.corners.size());
    for (const Vec3& p : solid.corners) {
        corners.push_back(standing.pose(p));
        scene.box.add(corners.back());
    }
    // Each corner belongs to one face: even shading within it.
    std::vector<Vec3> normals(corners.size());
    for (const Triangle& t : solid.triangles) {
        const auto p = [&](int i) { return corners[static_cast<std::size_t>(i)]; };
        const Vec3 n = cross(p(t.b) - p(t.a), p(t.c) - p(t.a));
        for (const int i : {t.a, t.b, t.c})
            normals[static_cast<std::size_t>(i)] = normals[static_cast<std::size_t>(i)] + n;
    }
    const auto leadAt = [&](Vec3 p) -> const StandingLead* {
        for (const StandingLead& l : standing.leads)
            if (std::hypot(l.at.x.mm() - p.x, l.at.y.mm() - p.y) < 1.2) return &l;
        return nullptr;
    };
    for (const SolidFace& face : solid.faces) {
        if (face.count == 0) continue;
        // A face that reaches below the seating plane at a lead is that lead's.
        double low = 1e9;
        Vec3 middle;
        for (int i = face.first; i < face.first + face.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            for (const int k : {t.a, t.b, t.c}) {
                const Vec3& p = corners[static_cast<std::size_t>(k)];
                if (p.z < low) {
                    low = p.z;
                    middle = p;
                }
            }
        }
        const StandingLead* lead = low < standing.lift.mm() - 0.05 ? leadAt(middle) : nullptr;
        const SolidBody& body = solid.bodies[static_cast<std::size_t>(face.body)];
        const Colour own = face.colour != kNoColour ? face.colour : body.colour;
        const bool marked = lead != nullptr && !chosen.empty() && lead->of == chosen;
        const bool wrong = lead != nullptr && lead->gap && *lead->gap < Length();
        const QColor colour =
            marked  ? theme::kPetrol
            : wrong ? theme::kVermilion
                    : colourOf(own, lead != nullptr ? theme::kSteel : theme::kBodySlate, lead != nullptr ? 1.0 : 0.3);
        SceneLayer& to = lead != nullptr ? scene.leads : scene.body;
        for (int i = face.first; i < face.first + face.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            for (const int k : {t.a, t.b, t.c})
                to.triangles.push_back(
                    vertex(corners[static_cast<std::size_t>(k)], unit(normals[static_cast<std::size_t>(k)]), colour));
        }
        QColor edge = lead != nullptr ? theme::kSteelEdge.darker(120) : theme::kInk;
        edge.setAlphaF(0.75F);
        edgesOf(face, solid, corners, to, edge);
    }
}

/// A body without a file: its block, as it was measured.
void addBlock(const Footprint& f, const Part& part, SolidScene& scene) {
    if (!f.body || !f.body->heightFirm) return;
    const double low = part.body.standoff.mm(), high = f.body->height.mm() + low;
    std::vector<Point> ring = f.body->outline;
    const Rect& r = f.body->rect;
    if (ring.empty()) ring = {{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}};
    QColor slate = theme::kBodySlate;
    slate.setAlphaF(0.4F);
    const Polygons area = united({ring});
    for (const auto& one : area) walls(scene.body, one, low, high, slate, 1);
    flat(scene.body, area, low, slate, false);
    flat(scene.body, area, high, slate, true);
    QColor edge = theme::kInk;
    edge.setAlphaF(0.75F);
    for (const double z : {low, high}) around(scene.body, area, z, edge);
    if (f.body->outline.empty())
        for (const Point& p : ring) line(scene.body, at(p, low), at(p, high), edge);
    for (const Point& p : ring) scene.box.add(at(p, high));
}

/// Leads as they were read, where no file shows them.
void addLeads(const Part& part, const Footprint& f, const FeatureId& chosen, SolidScene& scene) {
    for (const Pad& p : f.pads) {
        const LeadFit* fit = f.leadOf(part, p.id);
        if (p.leadX <= Length() || fit == nullptr || fit->length <= Length()) continue;
        const double low = part.body.standoff.mm() - fit->length.mm(), high = part.body.standoff.mm();
        std::vector<Point> ring;
        if (p.leadRound) {
            ring = flattened(circle(p.at, p.leadX), kChord);
        } else {
            for (const auto& [i, k] :
                 {std::pair(-0.5, -0.5), std::pair(0.5, -0.5), std::pair(0.5, 0.5), std::pair(-0.5, 0.5)})
                ring.push_back(turned({p.at.x + i * p.leadX, p.at.y + k * p.leadY}, p.at, p.leadTurn.degrees()));
        }
        const QColor colour = p.id == chosen ? theme::kPetrol : theme::kSteel;
        walls(scene.leads, ring, low, high, colour, 1);
        flat(scene.leads, united({ring}), low, colour, false);
        around(scene.leads, {ring}, low, theme::kSteelEdge);
        if (!p.leadRound)
            for (const Point& c : ring) line(scene.leads, at(c, low), at(c, high), theme::kSteelEdge);
        scene.box.add(at(p.at, low));
    }
}

}  // namespace

SolidScene sceneOf(const Part& part, const Footprint& f, const std::vector<std::shared_ptr<const Solid>>& meshes,
                   const Solid* pieces, const FeatureId& chosen) {
    SolidScene scene;
    addBoard(part, f, scene);
    bool any = false;
    for (std::size_t i = 0; i < f.solids.size() && i < meshes.size(); ++i)
        if (meshes[i]) {
            addSolid(f.solids[i], *meshes[i], chosen, scene);
            any = true;
        }
    if (!any) {
        addBlock(f, part, scene);
        addLeads(part, f, chosen, scene);
    }
    if (pieces != nullptr) {
        StandingSolid here;
        here.id = "pieces";
        addSolid(here, *pieces, chosen, scene);
    }
    return scene;
}

}  // namespace punch
