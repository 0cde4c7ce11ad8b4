#include "core/body/scene.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>

#include "core/artwork/artwork.h"
#include "core/artwork/palette.h"
#include "core/geometry/shapes.h"
#include "core/solid/sections.h"

namespace punch {
namespace {

const Length kAround = Length::fromMm(2.5);  // of board beyond the courtyard
const Length kChord = Length::fromUm(15);
constexpr double kCopperHeight = 0.03, kInkHeight = 0.05;

SceneVertex vertex(Vec3 p, Vec3 n, Paint c) {
    return {static_cast<float>(p.x),
            static_cast<float>(p.y),
            static_cast<float>(p.z),
            static_cast<float>(n.x),
            static_cast<float>(n.y),
            static_cast<float>(n.z),
            static_cast<unsigned char>(c.colour >> 16),
            static_cast<unsigned char>(c.colour >> 8),
            static_cast<unsigned char>(c.colour),
            static_cast<unsigned char>(std::lround(255 * c.share))};
}

/// Four fifths as light.
Colour darker(Colour c) {
    Colour out = 0;
    for (const int shift : {16, 8, 0}) out |= static_cast<Colour>((c >> shift & 255) * 4 / 5) << shift;
    return out;
}

void triangle(SceneLayer& to, Vec3 a, Vec3 b, Vec3 c, Vec3 n, Paint colour) {
    for (const Vec3& p : {a, b, c}) {
        to.triangles.push_back(static_cast<std::uint32_t>(to.corners.size()));
        to.corners.push_back(vertex(p, n, colour));
    }
}

void line(SceneLayer& to, Vec3 a, Vec3 b, Paint colour) {
    to.lines.push_back(vertex(a, {0, 0, 1}, colour));
    to.lines.push_back(vertex(b, {0, 0, 1}, colour));
}

Vec3 at(Point p, double z) { return {p.x.mm(), p.y.mm(), z}; }

/// A flat area at a height.
void flat(SceneLayer& to, const Polygons& area, double z, Paint colour, bool up) {
    for (const RoundedPolygon& piece : convexPieces(area, Length::fromUm(2))) {
        const auto ring = piece.radius > Length() ? flattened(ringOf(piece), kChord) : piece.corners;
        for (std::size_t i = 1; i + 1 < ring.size(); ++i)
            triangle(to, at(ring[0], z), at(ring[i], z), at(ring[i + 1], z), {0, 0, up ? 1.0 : -1.0}, colour);
    }
}

/// Upright walls of rings, from one height to another.
void walls(SceneLayer& to, const std::vector<Point>& ring, double low, double high, Paint colour, double outwards) {
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
        const Vec3 along = unit(at(b, 0) - at(a, 0));
        const Vec3 n = outwards * Vec3{along.y, -along.x, 0};
        triangle(to, at(a, low), at(b, low), at(b, high), n, colour);
        triangle(to, at(a, low), at(b, high), at(a, high), n, colour);
    }
}

void around(SceneLayer& to, const Polygons& area, double z, Paint colour) {
    for (const auto& ring : area)
        for (std::size_t i = 0; i < ring.size(); ++i)
            line(to, at(ring[i], z), at(ring[(i + 1) % ring.size()], z), colour);
}

Polygons of(const Shape& shape) {
    if (const RoundedPolygon* area = shape.rounded()) return united({flattened(ringOf(*area), kChord)});
    if (const Polygons* all = shape.polygons()) return *all;
    Polygons all;
    const Line& l = *shape.line();
    for (std::size_t i = 0; i + 1 < l.points.size(); ++i)
        all.push_back(flattened(ringOf(RoundedPolygon::stroke(l.points[i], l.points[i + 1], l.width)), kChord));
    return all;
}

/// A board's edge without what is cut out of it.
Polygons sheetOf(const Polygons& outline) {
    return without({outline.front()}, united({outline.begin() + 1, outline.end()}));
}

/// `edge`: of a board of its own and what is cut out of it; empty: one around the part.
void addBoard(const Part& part, const Footprint& f, const Polygons& edge, SolidScene& scene) {
    const double t = part.rules.boardThickness.mm();
    scene.boardThickness = static_cast<float>(t);
    Rect box = f.courtyard;
    for (const Conductor& c : f.board().copper()) box.add(boundsOf(landShape(c)));
    for (const StandingSolid& s : f.solids) box.add(boundsOf(s.outline));
    if (box.empty) box = Rect::around({}, Length::fromMm(10), Length::fromMm(10));
    box = box.grown(kAround);
    const Polygons outline = edge.empty() ? polygonsOf(rectangleRing(box)) : edge;
    if (!edge.empty()) box = boundsOf(edge);
    Polygons holes, plated;
    for (const Layer layer : {Layer::PlatedHoles, Layer::BareHoles, Layer::CutOuts})
        for (const Shape& s : artwork(part, f, layer))
            for (const auto& ring : of(s)) {
                holes.push_back(ring);
                if (layer == Layer::PlatedHoles) plated.push_back(ring);
            }
    const Polygons sheet = without(sheetOf(outline), united(holes));
    const Paint paper{palette::kLaminate, 0.42}, side{palette::kLaminateEdge, 0.55};
    flat(scene.board, sheet, 0, paper, true);
    flat(scene.board, sheet, -t, paper, false);
    for (const auto& ring : outline) walls(scene.board, ring, -t, 0, side, 1);
    const Paint rim{darker(palette::kLaminateEdge)};
    for (const double z : {0.0, -t}) around(scene.board, outline, z, rim);
    for (const auto& ring : united(holes)) {
        const bool isPlated = std::any_of(plated.begin(), plated.end(), [&](const auto& p) {
            return boundsOf(Polygons{p}).middle() == boundsOf(Polygons{ring}).middle();
        });
        const Paint wall = isPlated ? Paint{palette::kCopper, 0.35} : Paint{palette::kLaminateEdge, 0.5};
        walls(scene.board, ring, -t, 0, wall, -1);
        for (const double z : {0.0, -t})
            around(scene.copper, {ring}, z, Paint{isPlated ? palette::kCopperEdge : palette::kInk});
    }
    const auto copper = [&](Layer layer, double z, bool up) {
        for (const Shape& s : artwork(part, f, layer)) {
            const Polygons area = without(of(s), united(holes));
            flat(scene.copper, area, z, Paint{palette::kCopper}, up);
            around(scene.copper, area, z, Paint{palette::kCopperEdge});
        }
    };
    copper(Layer::TopCopper, kCopperHeight, true);
    copper(Layer::BottomCopper, -t - kCopperHeight, false);
    for (const Shape& s : artwork(part, f, Layer::TopSilkscreen))
        flat(scene.copper, of(s), kInkHeight, Paint{palette::kInk}, true);
    for (const Shape& s : artwork(part, f, Layer::BottomSilkscreen))
        flat(scene.copper, of(s), -t - kInkHeight, Paint{palette::kInk}, false);
    for (const Shape& s : artwork(part, f, Layer::TopCourtyard))
        around(scene.copper, of(s), kInkHeight, Paint{palette::kCourtyard});
    scene.box.add(at({box.left, box.bottom}, -t));
    scene.box.add(at({box.right, box.top}, 0));
}

/// Edges of a face: those of its triangles that no other of them has.
void edgesOf(const SolidFace& face, const Solid& solid, const std::vector<Vec3>& corners, SceneLayer& to,
             Paint colour) {
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

/// How its bodies look: what a made body was asked to be, else slate.
Paint paintOf(const SolidBody& body, Colour own) {
    const Colour colour = own != kNoColour ? own : body.colour != kNoColour ? body.colour : palette::kBodySlate;
    switch (body.look) {
        case Look::Metal: return {colour, 0.85};
        case Look::Clear: return {colour, 0.12};
        case Look::Plastic: break;
    }
    return {colour, 0.3};
}

struct Shown {
    const StandingSolid& standing;
    const Solid& solid;
    const std::vector<MarkedBody>* marked = nullptr;  ///< of made ones
    FeatureId chosen;
};

/// The layer that a body of it is drawn in: what moves has its own.
SceneMover* moverOf(const Shown& shown, const Part& part, int body, SolidScene& scene) {
    const auto known = [&](const std::string& of, int which) {
        return std::find_if(scene.movers.begin(), scene.movers.end(),
                            [&](const SceneMover& m) { return m.of == of && m.body == which; });
    };
    const SolidBody& b = shown.solid.bodies[static_cast<std::size_t>(body)];
    if (shown.marked != nullptr) {
        if (b.of < 0 || static_cast<std::size_t>(b.of) >= shown.marked->size()) return nullptr;
        const MarkedBody& marked = (*shown.marked)[static_cast<std::size_t>(b.of)];
        if (!marked.motion) return nullptr;
        if (const auto it = known(marked.mark, -1); it != scene.movers.end()) return &*it;
        return &scene.movers.emplace_back(SceneMover{marked.mark, -1, marked.body.name, *marked.motion, {}});
    }
    const SolidFile* file = solidById(part, shown.standing.id);
    if (file == nullptr) return nullptr;
    for (const SolidMotion& m : file->motions)
        if (m.body == body) {
            if (const auto it = known(file->id, body); it != scene.movers.end()) return &*it;
            return &scene.movers.emplace_back(
                SceneMover{file->id, body, m.name, moved(m.motion, shown.standing.pose), {}});
        }
    return nullptr;
}

void addSolid(const Shown& shown, const Part& part, SolidScene& scene) {
    const StandingSolid& standing = shown.standing;
    const Solid& solid = shown.solid;
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
    // Movers first: adding one moves the others in memory.
    for (std::size_t b = 0; b < solid.bodies.size(); ++b) moverOf(shown, part, static_cast<int>(b), scene);
    std::vector<SceneMover*> movers;
    for (std::size_t b = 0; b < solid.bodies.size(); ++b)
        movers.push_back(moverOf(shown, part, static_cast<int>(b), scene));
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
        const bool made =
            shown.marked != nullptr && body.of >= 0 && static_cast<std::size_t>(body.of) < shown.marked->size();
        // Made leads are metal that reaches into the board.
        const bool isLead = lead != nullptr || (made && body.look == Look::Metal && body.name.starts_with("lead"));
        const bool marked = !shown.chosen.empty() &&
                            ((lead != nullptr && lead->of == shown.chosen) ||
                             (made && (*shown.marked)[static_cast<std::size_t>(body.of)].mark == shown.chosen));
        const bool wrong = lead != nullptr && lead->gap && *lead->gap < Length();
        Paint paint = paintOf(body, face.colour);
        if (isLead) paint = {paint.colour == palette::kBodySlate ? palette::kSteel : paint.colour, 1};
        if (wrong) paint = {palette::kVermilion, 1};
        if (marked) paint = {palette::kPetrol, isLead ? 1 : std::max(paint.share, 0.45)};
        SceneMover* mover = movers[static_cast<std::size_t>(face.body)];
        SceneLayer& to = mover != nullptr ? mover->layer : isLead ? scene.leads : scene.body;
        // Its corners are its own, one after the other: each is drawn once.
        std::map<int, std::uint32_t> known;
        for (int i = face.first; i < face.first + face.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            for (const int k : {t.a, t.b, t.c}) {
                const auto [it, isNew] = known.emplace(k, static_cast<std::uint32_t>(to.corners.size()));
                if (isNew)
                    to.corners.push_back(vertex(corners[static_cast<std::size_t>(k)],
                                                unit(normals[static_cast<std::size_t>(k)]), paint));
                to.triangles.push_back(it->second);
            }
        }
        edgesOf(face, solid, corners, to,
                Paint{isLead ? darker(palette::kSteelEdge) : palette::kInk, body.look == Look::Clear ? 0.45 : 0.75});
    }
}

/// A body without a file: its block, as it was measured.
void addBlock(const Footprint& f, const Part& part, SolidScene& scene) {
    if (!f.body || !f.body->heightFirm) return;
    const double low = part.body.standoff.mm(), high = f.body->height.mm() + low;
    const std::vector<Point> ring = f.body->ring();
    const Paint slate{palette::kBodySlate, 0.4};
    const Polygons area = united({ring});
    for (const auto& one : area) walls(scene.body, one, low, high, slate, 1);
    flat(scene.body, area, low, slate, false);
    flat(scene.body, area, high, slate, true);
    const Paint edge{palette::kInk, 0.75};
    for (const double z : {low, high}) around(scene.body, area, z, edge);
    if (!f.body->traced())
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
        const Paint colour{p.id == chosen ? palette::kPetrol : palette::kSteel};
        walls(scene.leads, ring, low, high, colour, 1);
        flat(scene.leads, united({ring}), low, colour, false);
        around(scene.leads, {ring}, low, Paint{palette::kSteelEdge});
        if (!p.leadRound)
            for (const Point& c : ring) line(scene.leads, at(c, low), at(c, high), Paint{palette::kSteelEdge});
        scene.box.add(at(p.at, low));
    }
}

}  // namespace

SolidScene sceneOf(const Part& part, const Footprint& f, const std::vector<std::shared_ptr<const Solid>>& meshes,
                   const MarkedSolid& pieces, const FeatureId& chosen) {
    SolidScene scene = bareBoard(part, f, {});
    add(scene, bodiesOf(part, f, meshes, pieces, chosen));
    return scene;
}

SolidScene bareBoard(const Part& part, const Footprint& f, const Polygons& edge) {
    SolidScene scene;
    addBoard(part, f, edge, scene);
    return scene;
}

void add(SolidScene& to, const SolidScene& from) {
    const auto layer = [](SceneLayer& into, const SceneLayer& more) {
        for (const std::uint32_t i : more.triangles)
            into.triangles.push_back(i + static_cast<std::uint32_t>(into.corners.size()));
        into.corners.insert(into.corners.end(), more.corners.begin(), more.corners.end());
        into.lines.insert(into.lines.end(), more.lines.begin(), more.lines.end());
    };
    layer(to.copper, from.copper);
    layer(to.board, from.board);
    layer(to.leads, from.leads);
    layer(to.body, from.body);
    to.movers.insert(to.movers.end(), from.movers.begin(), from.movers.end());
    if (from.box.empty) return;
    to.box.add(from.box.low);
    to.box.add(from.box.high);
}

SolidScene placed(SolidScene scene, const Pose& pose) {
    const auto layer = [&](SceneLayer& l) {
        for (auto* list : {&l.corners, &l.lines})
            for (SceneVertex& v : *list) {
                const Vec3 p = pose({v.x, v.y, v.z}), n = pose.turned({v.nx, v.ny, v.nz});
                v.x = static_cast<float>(p.x), v.y = static_cast<float>(p.y), v.z = static_cast<float>(p.z);
                v.nx = static_cast<float>(n.x), v.ny = static_cast<float>(n.y), v.nz = static_cast<float>(n.z);
            }
    };
    for (SceneLayer* l : {&scene.copper, &scene.board, &scene.leads, &scene.body}) layer(*l);
    for (SceneMover& m : scene.movers) {
        layer(m.layer);
        m.motion = moved(m.motion, pose);
    }
    if (scene.box.empty) return scene;
    const Box3 box = scene.box;
    scene.box = {};
    for (const double x : {box.low.x, box.high.x})
        for (const double y : {box.low.y, box.high.y})
            for (const double z : {box.low.z, box.high.z}) scene.box.add(pose({x, y, z}));
    return scene;
}

SolidScene bodiesOf(const Part& part, const Footprint& f, const std::vector<std::shared_ptr<const Solid>>& meshes,
                    const MarkedSolid& pieces, const FeatureId& chosen) {
    SolidScene scene;
    bool any = false;
    for (std::size_t i = 0; i < f.solids.size() && i < meshes.size(); ++i)
        if (meshes[i]) {
            addSolid({f.solids[i], *meshes[i], nullptr, chosen}, part, scene);
            any = true;
        }
    for (const LaidMark& m : f.laid) any = any || (m.kind == MarkKind::PackageBody && m.wrong.empty());
    if (!any) {
        addBlock(f, part, scene);
        addLeads(part, f, chosen, scene);
    }
    if (pieces.solid) {
        StandingSolid here;
        here.id = "pieces";
        addSolid({here, *pieces.solid, &pieces.marked, chosen}, part, scene);
    }
    // Room for what moves.
    for (const SceneMover& m : scene.movers)
        for (const double k : {0.0, 0.5, 1.0})
            for (const SceneVertex& v : m.layer.corners)
                scene.box.add(m.motion.pose(m.motion.from + k * (m.motion.to - m.motion.from))({v.x, v.y, v.z}));
    return scene;
}

void addSection(SceneLayer& to, const Solid& solid, const Pose& pose, const SpaceCut& cut) {
    // The axis of the cut becomes z.
    const Pose up = cut.axis == 0   ? Pose{{0, 0, 1}, {1, 0, 0}, {0, 1, 0}, {}}
                    : cut.axis == 1 ? Pose{{0, 1, 0}, {0, 0, 1}, {1, 0, 0}, {}}
                                    : Pose{};
    const Pose back = inverse(up);
    std::map<int, std::pair<Polygons, Polygons>> bodies;
    for (const SectionLoop& loop : Sections(solid, after(up, pose)).at(cut.at)) {
        std::vector<Point> ring;
        for (const Flat& p : loop.points) ring.push_back({Length::fromMm(p.x), Length::fromMm(p.y)});
        if (ring.size() > 2) (loop.area >= 0 ? bodies[loop.body].first : bodies[loop.body].second).push_back(ring);
    }
    for (const auto& [body, rings] : bodies) {
        Paint paint = paintOf(solid.bodies[static_cast<std::size_t>(body)], kNoColour);
        paint.share = 1;
        SceneLayer layer;
        const Polygons area = without(united(rings.first), united(rings.second));
        flat(layer, area, cut.at, paint, true);
        around(layer, area, cut.at, Paint{palette::kInk});
        for (auto* list : {&layer.corners, &layer.lines})
            for (SceneVertex& v : *list) {
                const Vec3 p = back({v.x, v.y, v.z}), n = back.turned({v.nx, v.ny, v.nz});
                v.x = static_cast<float>(p.x), v.y = static_cast<float>(p.y), v.z = static_cast<float>(p.z);
                v.nx = static_cast<float>(n.x), v.ny = static_cast<float>(n.y), v.nz = static_cast<float>(n.z);
            }
        for (const std::uint32_t i : layer.triangles)
            to.triangles.push_back(i + static_cast<std::uint32_t>(to.corners.size()));
        to.corners.insert(to.corners.end(), layer.corners.begin(), layer.corners.end());
        to.lines.insert(to.lines.end(), layer.lines.begin(), layer.lines.end());
    }
}

}  // namespace punch
