#include "core/shape/laid_marks.h"

#include <fmt/format.h>

#include <cmath>
#include <limits>

#include "core/geometry/plane.h"
#include "core/geometry/sweep.h"
#include "core/part/mark_kinds.h"
#include "core/shape/logo_figure.h"

namespace punch {
namespace {

constexpr double kFacing = 0.98;          // cosine, of edges that face each other
const Length kLeast = Length::fromUm(1);  // below it nothing is drawn

/// Lays one mark; the first thing that is wrong stays.
class Laying {
public:
    Laying(const Part& part, const Anchors& anchors, const std::optional<BodyBox>& body, const Mark& mark)
        : part_(part), anchors_(anchors), body_(body), mark_(mark) {
        out_.id = mark.id;
        out_.name = mark.name;
        out_.kind = mark.kind;
    }

    LaidMark run() {
        const MarkKindInfo& kind = markKind(mark_.kind);
        for (const Anchored& a : mark_.points) {
            const auto at = anchors_.place(a);
            if (!at) {
                wrong(at.error().what);
                return out_;
            }
            out_.points.push_back(at->at);
            note(at->firm, at->doubt);
        }
        for (const MarkField& field : kind.fields)
            if (field.value == MarkValue::Length && applies(mark_, field)) out_.lengths[field.key] = length(field.key);
        for (const MarkField& field : kind.fields)
            if (field.value == MarkValue::Angle && applies(mark_, field)) {
                const auto angle = anchors_.angle(valueOf(mark_, field.key));
                if (!angle) wrong(std::string(field.label) + ": " + angle.error().what);
                out_.angles[field.key] = angle.value_or(0);
            }
        if (kind.points.area)
            layOutline();
        else if (static_cast<int>(out_.points.size()) < kind.points.least)
            wrong("it has no place yet");
        if (mark_.kind == MarkKind::Travel && out_.wrong.empty()) layTravel();
        if (mark_.kind == MarkKind::CutOut && out_.wrong.empty()) layCut();
        if (mark_.kind == MarkKind::Logo && out_.wrong.empty()) layLogo();
        if (out_.lengths.contains("line") && out_.lengths["line"] <= Length()) wrong("its line has no width");
        for (const char* size : {"size", "height"})
            if (mark_.kind != MarkKind::Keepout && out_.lengths.contains(size) && out_.lengths[size] <= Length())
                wrong("its " + std::string(size) + " is nothing");
        return out_;
    }

private:
    void wrong(const std::string& why) {
        if (out_.wrong.empty()) out_.wrong = why;
    }
    void note(bool firm, Length doubt) {
        out_.firm = out_.firm && firm;
        out_.doubt = max(out_.doubt, doubt);
    }
    Length length(const char* key) {
        const auto l = anchors_.length(valueOf(mark_, key));
        if (!l) {
            wrong(std::string(markField(mark_.kind, key)->label) + ": " + l.error().what);
            return {};
        }
        note(l->firm, l->doubt);
        return l->length();
    }
    Length lengthOf(const std::string& typed) {
        const auto l = anchors_.length(typed);
        if (!l) {
            wrong(l.error().what);
            return {};
        }
        note(l->firm, l->doubt);
        return l->length();
    }

    std::vector<Corner> corners() {
        std::vector<Corner> all;
        for (std::size_t i = 0; i < out_.points.size(); ++i) {
            const Anchored& a = mark_.points[i];
            all.push_back({out_.points[i], a.corner, lengthOf(a.size), lengthOf(a.arc)});
        }
        if (mark_.set.contains("half") && flagOf(mark_, "half") && all.size() > 1) {
            // About the upright line through both ends; an edge's arc stands at its start.
            const Length axis = (all.front().at.x + all.back().at.x) / 2;
            const std::size_t n = all.size();
            for (std::size_t i = n; i-- > 0;) {
                Corner c = all[i];
                c.at.x = 2.0 * axis - c.at.x;
                c.arc = i > 0 ? all[i - 1].arc : Length();
                if (distance(c.at, all[i].at) > kLeast) all.push_back(c);
            }
        }
        return all;
    }

    void layOutline() {
        const std::string form = valueOf(mark_, "form");
        const std::size_t n = out_.points.size();
        if (form == "around the body") return layAroundBody();
        if (form == "circle") {
            if (n < 1) return wrong("its circle has no middle");
            if (out_.lengths["diameter"] <= kLeast) return wrong("its circle has no diameter");
            out_.area = Area{circle(out_.points.front(), out_.lengths["diameter"]), {}};
            out_.cores = {RoundedPolygon::disc(out_.points.front(), out_.lengths["diameter"])};
            return;
        }
        if (form == "rectangle") {
            if (n < 2) return wrong("its rectangle has no two corners");
            Rect r;
            r.add(out_.points[0]);
            r.add(out_.points[1]);
            if (r.width() <= kLeast || r.height() <= kLeast) return wrong("its rectangle has no size");
            const Length round = min(max(out_.lengths["corner"], Length()), min(r.width(), r.height()) / 2);
            RoundedPolygon core = RoundedPolygon::rectangle(r.grown(-round));
            core.radius = round;
            out_.area = Area{ringThrough({{{r.left, r.bottom}, CornerForm::Round, round, {}},
                                          {{r.right, r.bottom}, CornerForm::Round, round, {}},
                                          {{r.right, r.top}, CornerForm::Round, round, {}},
                                          {{r.left, r.top}, CornerForm::Round, round, {}}}),
                             {}};
            out_.cores = {core};
            out_.upright = r;
            return;
        }
        if (form == "slot") {
            if (n < 2) return wrong("its slot has no two ends");
            const Length width = out_.lengths["width"];
            if (width <= kLeast) return wrong("its slot has no width");
            RoundedPolygon core = RoundedPolygon::stroke(out_.points[0], out_.points[1], width);
            if (out_.points[0] == out_.points[1]) core.corners.resize(1);
            out_.area = Area{ringOf(core), {}};
            out_.cores = {core};
            return;
        }
        if (form == "line") {
            if (n < 2) return wrong("its line has no two ends");
            out_.line = lineThrough(corners());
            return;
        }
        if (n < 3) return wrong("its polygon has no three corners");
        const Ring ring = ringThrough(corners());
        if (crossesItself(ring)) return wrong("its outline crosses itself");
        if (std::abs(areaOf(ring)) < 1e-6) return wrong("its outline encloses nothing");
        out_.area = Area{ring, {}};
    }

    void layAroundBody() {
        if (!body_) return wrong("the part has no body");
        const Length by = out_.lengths["grow"];
        note(body_->allFirm(), Length());
        if (body_->outline.empty()) {
            const Rect r = body_->rect.grown(by);
            if (r.width() <= kLeast || r.height() <= kLeast) return wrong("nothing of the body is left");
            out_.area = Area{rectangleRing(r), {}};
            out_.cores = {RoundedPolygon::rectangle(r)};
            out_.upright = r;
            return;
        }
        const auto areas = areasOf(grownSharp(polygonsOf(ringOf(body_->outline)), by));
        if (areas.size() != 1) return wrong("nothing of the body is left");
        out_.area = areas.front();
    }

    void layTravel() {
        const Polygons shape = polygonsOf(*out_.area, Chords::Outside);
        if (valueOf(mark_, "motion") == "slides") {
            const Length by = out_.lengths["by"];
            if (by <= Length()) return wrong("it slides by nothing");
            const double a = out_.angles["towards"] * M_PI / 180;
            out_.swept = slid(shape, {by * std::cos(a), by * std::sin(a)});
        } else {
            const double turn = out_.angles["turn"];
            if (turn == 0) return wrong("it turns by nothing");
            const auto axis = anchors_.middle(valueOf(mark_, "axis"));
            if (!axis) return wrong("axis: " + axis.error().what);
            note(axis->firm, axis->doubt);
            out_.axis = Point{axis->at.x + out_.lengths["axisX"], axis->at.y + out_.lengths["axisY"]};
            out_.swept = swung(shape, *out_.axis, turn);
        }
        if (out_.lengths["high"] < out_.lengths["low"]) wrong("its upper end lies below its lower end");
    }

    /// At its size, turned; then without what is too thin, and with gaps that are too narrow closed.
    void layLogo() {
        const std::string text = valueOf(mark_, "figure");
        if (text.empty()) return wrong("no figure is brought in yet");
        if (out_.lengths["width"] <= Length()) return wrong("it has no width");
        const LogoFigure logo = logoFigure(text, out_.lengths["width"], out_.lengths["least"]);
        const Point middle = out_.points.front();
        out_.figure = logo.figure;
        out_.leftOut = logo.leftOut;
        for (auto& ring : out_.figure)
            for (Point& p : ring) p = turned({middle.x + p.x, middle.y + p.y}, middle, out_.angles["turn"]);
        if (out_.figure.empty()) wrong("all of it is thinner than the thinnest line");
    }

    /// What the bit leaves: no inner corner is sharper than it; with relief it goes into the corners.
    void layCut() {
        if (valueOf(mark_, "form") == "slot") return;  // the bit is as wide as it
        const Length r = out_.lengths["bit"] / 2;
        if (r <= Length()) return wrong("its mill bit has no diameter");
        const bool relief = flagOf(mark_, "relief");
        if (out_.upright && !relief) {
            // A rectangle stays one, with the bit's radius at least; as narrow as the bit it is a slot.
            const Rect& box = *out_.upright;
            const Length half = min(box.width(), box.height()) / 2;
            if (r > half + kLeast) return wrong("the bit is too wide for it");
            const Length round = min(max(r, out_.cores.front().radius), half);
            const Rect core = box.grown(-round);
            out_.cores = {RoundedPolygon{RoundedPolygon::rectangle(core).corners, round}};
            if (core.width() < kLeast || core.height() < kLeast) {
                out_.cores.front().corners = {{core.left, core.bottom}, {core.right, core.top}};
                if (core.width() < kLeast && core.height() < kLeast) out_.cores.front().corners.pop_back();
            }
            out_.area = Area{ringOf(out_.cores.front()), {}};
            return;
        }
        Polygons area = polygonsOf(*out_.area, Chords::Outside);
        if (relief) {
            Polygons all = area;
            for (const Bend& b : out_.area->outer.bends)
                if (const auto at = reliefAt(b.at))
                    for (const auto& ring : polygonsOf(circle(*at, 2.0 * r))) all.push_back(ring);
            area = united(all);
            out_.cores.clear();
        } else {
            area = grown(grown(area, kLeast - r), r - kLeast);
        }
        const auto areas = areasOf(area);
        if (areas.size() != 1) return wrong("the bit is too wide for it");
        out_.area = areas.front();
    }

    /// The bit's middle for a corner of the cut that points outwards: the corner lies on its rim.
    std::optional<Point> reliefAt(Point corner) const {
        const auto& bends = out_.area->outer.bends;
        const double sense = areaOf(out_.area->outer) < 0 ? -1 : 1;
        for (std::size_t i = 0; i < bends.size(); ++i) {
            if (!(bends[i].at == corner)) continue;
            const Point a = bends[(i + bends.size() - 1) % bends.size()].at, b = bends[(i + 1) % bends.size()].at;
            if (bends[i].bulge != 0 || bends[(i + bends.size() - 1) % bends.size()].bulge != 0) return {};
            const double ax = (a.x - corner.x) / distance(a, corner), ay = (a.y - corner.y) / distance(a, corner);
            const double bx = (b.x - corner.x) / distance(b, corner), by = (b.y - corner.y) / distance(b, corner);
            if (sense * (bx * ay - by * ax) <= 1e-6) return {};
            const double mx = ax + bx, my = ay + by, m = std::hypot(mx, my);
            if (m < 1e-6) return {};
            const Length r = out_.length("bit") / 2;
            return Point{corner.x + r * (mx / m), corner.y + r * (my / m)};
        }
        return {};
    }

    const Part& part_;
    const Anchors& anchors_;
    const std::optional<BodyBox>& body_;
    const Mark& mark_;
    LaidMark out_;
};

}  // namespace

std::vector<LaidMark> laidMarks(const Part& part, const Anchors& anchors, const std::optional<BodyBox>& body) {
    std::vector<LaidMark> all;
    for (const Mark& m : part.marks) all.push_back(Laying(part, anchors, body, m).run());
    return all;
}

std::vector<KeepoutArea> keepoutAreas(const Part& part, const std::vector<LaidMark>& laid) {
    std::vector<KeepoutArea> all;
    for (std::size_t i = 0; i < laid.size(); ++i) {
        const LaidMark& m = laid[i];
        if (m.kind == MarkKind::Fiducial && m.wrong.empty()) {
            // Within its clear ring nothing but itself.
            KeepoutArea k;
            k.id = m.id;
            k.name = m.name;
            k.firm = m.firm;
            k.pieces = {RoundedPolygon::disc(m.points.front(), m.length("ring"))};
            k.area = polygonsOf(k.pieces.front(), Chords::Outside);
            k.rect = boundsOf(k.area);
            k.parts = k.drilling = false;
            k.copper = k.vias = true;
            k.top = valueOf(part.marks[i], "side") != "solder side";
            k.bottom = !k.top;
            all.push_back(std::move(k));
            continue;
        }
        const bool travel = m.kind == MarkKind::Travel;
        if ((m.kind != MarkKind::Keepout && !travel) || !m.wrong.empty()) continue;
        const Mark& mark = part.marks[i];
        KeepoutArea k;
        k.id = m.id;
        k.name = m.name;
        k.firm = m.firm;
        k.area = travel ? m.swept : polygonsOf(*m.area, Chords::Outside);
        k.rect = boundsOf(k.area);
        k.maxHeight = m.length(travel ? "low" : "height");
        k.travel = travel;
        if (travel) {
            k.reaches = m.length("high");
        } else {
            k.parts = flagOf(mark, "parts");
            k.copper = flagOf(mark, "copper");
            k.vias = flagOf(mark, "vias");
            k.drilling = flagOf(mark, "drilling");
            const std::string side = valueOf(mark, "side");
            k.top = side != "solder side";
            k.bottom = side != "part side";
            k.inner = side == "all layers";
        }
        const Length band = travel ? Length() : m.length("band");
        if (band > Length()) k.area = without(k.area, grown(k.area, -band));
        if (!travel && m.cores.size() == 1 && band <= Length())
            k.pieces = m.cores;
        else
            k.pieces = convexPieces(k.area, Length::fromUm(0.5));
        all.push_back(std::move(k));
    }
    return all;
}

std::vector<CutArea> cutAreas(const Part& part, const std::vector<LaidMark>& laid, std::vector<CutShape>& pieces) {
    std::vector<CutArea> all;
    for (std::size_t i = 0; i < laid.size(); ++i) {
        const LaidMark& m = laid[i];
        if (m.kind != MarkKind::CutOut || !m.wrong.empty()) continue;
        CutArea cut{m.id, m.name, CutOutKind::Window, *m.area, flagOf(part.marks[i], "plated"), m.firm, {}, {}, {}, {}};
        const Polygons area = polygonsOf(*m.area, Chords::Outside);
        const bool slot = valueOf(part.marks[i], "form") == "slot";
        if (slot) cut.kind = CutOutKind::Slot;
        cut.width = slot        ? m.length("width")
                    : m.upright ? min(m.upright->width(), m.upright->height())
                                : narrowest(united({flattened(m.area->outer, Length::fromUm(10))}));
        if (m.cores.size() == 1) cut.one = m.cores.front();
        cut.bit = slot ? cut.width : m.length("bit");
        if (cut.plated) {
            cut.joined = valueOf(part.marks[i], "pad");
            if (cut.joined.empty()) cut.joined = m.id;
        }
        for (const RoundedPolygon& p : cut.one ? m.cores : convexPieces(area, Length::fromUm(0.5)))
            pieces.push_back({m.id, m.name, cut.kind, p.corners, p.radius, cut.width, !cut.one, cut.joined});
        all.push_back(std::move(cut));
    }
    return all;
}

Length narrowest(const Polygons& area) {
    struct Edge {
        plane::V a, b, in;  // its ends, and a unit step inwards
    };
    std::vector<Edge> edges;
    for (const auto& ring : area)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            const double l = distance(a, b).nm();
            if (l < 1) continue;
            // Outer rings run counter-clockwise: inwards is to the left.
            edges.push_back(
                {{a.x.nm(), a.y.nm()}, {b.x.nm(), b.y.nm()}, {-(b.y - a.y).nm() / l, (b.x - a.x).nm() / l}});
        }
    double least = std::numeric_limits<double>::infinity();
    const auto offer = [&](plane::V from, const Edge& e, const Edge& f) {
        const plane::V to = plane::nearestOn(from, f.a, f.b);
        const double dx = to.x - from.x, dy = to.y - from.y, d = std::hypot(dx, dy);
        if (d < 1 || d >= least) return;
        // They face each other over the inside.
        if (e.in.x * dx + e.in.y * dy > kFacing * d && -(f.in.x * dx + f.in.y * dy) > kFacing * d) least = d;
    };
    for (const Edge& e : edges)
        for (const Edge& f : edges)
            if (&e != &f) {
                offer(e.a, e, f);
                offer(e.b, e, f);
            }
    return std::isfinite(least) ? Length::fromNm(least) : Length();
}

}  // namespace punch
