#include "core/artwork/moved_footprint.h"

#include <algorithm>
#include <utility>

namespace punch {
namespace {

void move(std::vector<Shape>& shapes, const Frame& frame) {
    for (Shape& s : shapes) s = moved(std::move(s), frame);
}

void move(PlaceDoubt& d, const Frame& frame) {
    for (auto* ellipse : {&d.fromDatum, &d.fromFit})
        if (*ellipse) (*ellipse)->turn = frame((*ellipse)->turn);
    const Point along = frame.along({Length::fromMm(1), Length()});
    if (std::abs(along.x.mm()) < 1e-9) {
        std::swap(d.x, d.y);
    } else if (!frame.quarterTurn() && d.x && d.y) {
        // Between the axes: the larger of both, which is never too little.
        d.x = d.y = max(*d.x, *d.y);
    }
}

void move(DrawnLead& lead, const Frame& frame) { lead.leadTurn = frame(lead.leadTurn); }

void move(BodyBox& body, const Frame& frame) {
    const bool upright = frame.quarterTurn();
    if (!upright && body.shape.polygons() == nullptr) body.shape.form = Polygons{body.ring()};
    body.shape = moved(std::move(body.shape), frame);
    body.rect = moved(body.rect, frame);
    // Which side each face went to, by where its middle went.
    bool firm[4];
    static constexpr std::pair<double, double> kOut[] = {{-1, 0}, {1, 0}, {0, -1}, {0, 1}};  // in the order of Side
    for (int from = 0; from < 4; ++from) {
        const Point way = frame.along({Length::fromMm(kOut[from].first), Length::fromMm(kOut[from].second)});
        for (int to = 0; to < 4; ++to)
            if (way.x.mm() * kOut[to].first + way.y.mm() * kOut[to].second > 0.7) firm[to] = body.firm[from];
    }
    if (upright)
        std::copy(firm, firm + 4, body.firm);
    else
        std::fill(body.firm, body.firm + 4, body.allFirm());
}

void move(LaidMark& m, const Frame& frame) {
    m.points = moved(std::move(m.points), frame);
    if (m.area) m.area = moved(std::move(*m.area), frame);
    for (Bend& b : m.line) {
        b.at = frame(b.at);
        if (frame.mirrored) b.bulge = -b.bulge;
    }
    for (RoundedPolygon& core : m.cores) core = moved(std::move(core), frame);
    if (m.upright && frame.quarterTurn())
        m.upright = moved(*m.upright, frame);
    else
        m.upright.reset();
    m.swept = moved(std::move(m.swept), frame);
    m.figure = moved(std::move(m.figure), frame);
    if (m.axis) m.axis = frame(*m.axis);
}

void move(FaceLine& face, const Frame& frame) {
    if (face.axis != Axis::Along && face.axis != Axis::Across) return;
    const bool along = face.axis == Axis::Along;
    const Point at = frame(along ? Point{face.at, Length()} : Point{Length(), face.at});
    const bool nowAlong = (std::abs(frame.along({Length::fromMm(1), Length()}).x.mm()) > 0.5) == along;
    face.axis = nowAlong ? Axis::Along : Axis::Across;
    face.at = nowAlong ? at.x : at.y;
}

void move(AttachedCopper& a, const Frame& frame) {
    for (Conductor& c : a.lands) c = moved(std::move(c), frame);
    for (MarkOpening& o : a.openings) {
        o.area = moved(std::move(o.area), frame);
        for (RoundedPolygon& piece : o.pieces) piece = moved(std::move(piece), frame);
        o.top = o.top != frame.mirrored;
    }
    for (MarkPaste& p : a.pastes) {
        p.area = moved(std::move(p.area), frame);
        p.top = p.top != frame.mirrored;
    }
    for (MarkFigure& f : a.figures) {
        f.area = moved(std::move(f.area), frame);
        f.top = f.top != frame.mirrored;
    }
    if (frame.mirrored)
        for (auto& [number, area] : a.areas) std::swap(area.first, area.second);
}

void move(BareHole& h, const Frame& frame) {
    h.at = frame(h.at);
    h.off = frame.along(h.off);
    if (h.slotLength > Length()) h.slotTurn = frame(h.slotTurn);
    h.turn = frame(h.turn);
    h.land = moved(std::move(h.land), frame);
    move(h.doubt, frame);
}

void move(StandingSolid& s, const Frame& frame, Length thickness) {
    s.pose = after(poseOf(frame, thickness), s.pose);
    for (StandingLead& l : s.leads) l.at = frame(l.at);
    s.outline = moved(std::move(s.outline), frame);
    for (StandingShadow& shadow : s.shadows) shadow.area = moved(std::move(shadow.area), frame);
    for (StandingMotion& m : s.motions) m.swept = moved(std::move(m.swept), frame);
}

}  // namespace

Pose poseOf(const Frame& frame, Length thickness) {
    const auto to = [&](Point way) {
        const Point p = frame.along(way);
        return Vec3{p.x.mm(), p.y.mm(), 0};
    };
    Pose pose;
    pose.x = to({Length::fromMm(1), Length()});
    pose.y = to({Length(), Length::fromMm(1)});
    pose.z = {0, 0, frame.mirrored ? -1.0 : 1.0};
    pose.move = {frame.at.x.mm(), frame.at.y.mm(), frame.mirrored ? -thickness.mm() : 0};
    return pose;
}

Shape moved(Shape s, const Frame& frame) {
    if (const RoundedPolygon* one = s.rounded())
        s.form = moved(*one, frame);
    else if (const Polygons* all = s.polygons())
        s.form = moved(*all, frame);
    else if (const Line* line = s.line())
        s.form = Line{moved(line->points, frame), line->width};
    for (RoundedPolygon& piece : s.pieces) piece = moved(std::move(piece), frame);
    s.milled.outline = moved(std::move(s.milled.outline), frame);
    if (frame.mirrored) std::swap(s.keeps.top, s.keeps.bottom);
    return s;
}

Footprint moved(Footprint f, const Frame& frame, Length thickness) {
    if (frame == Frame{}) return f;
    if (!frame.quarterTurn()) f.faces.clear();
    for (FaceLine& face : f.faces) move(face, frame);
    for (MarkPoint& m : f.marks) {
        m.at = frame(m.at);
        move(m.doubt, frame);
    }
    if (f.body) move(*f.body, frame);
    for (auto* laid : {&f.laid, &f.ruledLaid})
        for (LaidMark& m : *laid) move(m, frame);
    move(f.keepouts, frame);
    move(f.cutOuts, frame);
    for (Pad& p : f.pads) {
        // Paste on a plated hole goes with its part's side, which a pad alone does not say.
        if (p.paste && frame.mirrored && p.layers == PadLayers::Through) {
            f.attached.pastes.push_back({p.id, true, p.firm, polygonsOf(copperShape(p.top))});
            p.paste = false;
        }
        static_cast<Conductor&>(p) = moved(static_cast<Conductor&&>(p), frame);
        move(static_cast<DrawnLead&>(p), frame);
        p.off = frame.along(p.off);
        move(p.doubt, frame);
    }
    move(f.attached, frame);
    for (BareHole& h : f.bareHoles) move(h, frame);
    for (VoltagePair& v : f.voltages) {
        v.line = moved(std::move(v.line), frame);
        v.path = moved(std::move(v.path), frame);
    }
    f.courtyardTop = moved(std::move(f.courtyardTop), frame);
    f.courtyardBottom = moved(std::move(f.courtyardBottom), frame);
    f.courtyard = frame.quarterTurn() ? moved(f.courtyard, frame) : Rect{};
    if (!frame.quarterTurn()) {
        f.courtyard.add(boundsOf(f.courtyardTop));
        f.courtyard.add(boundsOf(f.courtyardBottom));
    }
    for (auto* ink : {&f.silkscreen, &f.bottomSilkscreen, &f.assembly}) move(*ink, frame);
    if (frame.mirrored) {
        std::swap(f.courtyardTop, f.courtyardBottom);
        std::swap(f.silkscreen, f.bottomSilkscreen);
    }
    for (StandingSolid& s : f.solids) move(s, frame, thickness);
    return f;
}

}  // namespace punch
