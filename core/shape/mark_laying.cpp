#include "core/shape/mark_laying.h"

#include <cmath>

#include "core/geometry/plane.h"

namespace punch {

RoundedPolygon roundedRectangle(const Rect& outer, Length round) {
    const Rect core = outer.grown(-round);
    RoundedPolygon shape{RoundedPolygon::rectangle(core).corners, round};
    const bool thin = core.width() < kLeastDrawn, low = core.height() < kLeastDrawn;
    // Corners that fall together have no edge between them.
    if (thin || low) shape.corners = {{core.left, core.bottom}, {core.right, core.top}};
    if (thin && low) shape.corners.pop_back();
    return shape;
}

MarkLaying::MarkLaying(const Anchors& a, const std::optional<BodyBox>& b, const Mark& m)
    : anchors(a), body(b), mark(m) {
    out.id = mark.id;
    out.name = mark.name;
    out.kind = mark.kind;
}

void MarkLaying::wrong(const std::string& why) {
    if (out.wrong.empty()) out.wrong = why;
}

void MarkLaying::note(bool firm, Length doubt) {
    out.firm = out.firm && firm;
    out.doubt = max(out.doubt, doubt);
}

Length MarkLaying::lengthOf(const std::string& typed, const char* label) {
    const auto l = anchors.length(typed);
    if (!l) {
        wrong((label == nullptr ? "" : std::string(label) + ": ") + l.error().what);
        return {};
    }
    note(l->firm, l->doubt);
    return l->length();
}

LaidMark MarkLaying::run() && {
    const MarkKindInfo& kind = markKind(mark.kind);
    for (const Anchored& a : mark.points) {
        const auto at = anchors.place(a);
        if (!at) {
            wrong(at.error().what);
            return std::move(out);
        }
        out.points.push_back(at->at);
        note(at->firm, at->doubt);
    }
    for (const MarkField& field : kind.fields)
        if (field.value == MarkValue::Length && applies(mark, field))
            out.lengths[field.key] = lengthOf(valueOf(mark, field.key), field.label);
    for (const MarkField& field : kind.fields)
        if (field.value == MarkValue::Angle && applies(mark, field)) {
            const auto angle = anchors.angle(valueOf(mark, field.key));
            if (!angle) wrong(std::string(field.label) + ": " + angle.error().what);
            out.angles[field.key] = angle.value_or(0);
        }
    if (kind.points.area)
        layOutline();
    else if (static_cast<int>(out.points.size()) < kind.points.least)
        wrong("it has no place yet");
    if (kind.acts.lay != nullptr && out.wrong.empty()) kind.acts.lay(*this);
    for (const MarkField& field : kind.fields)
        if (field.positive && out.lengths.contains(field.key) && out.length(field.key) <= Length())
            wrong(field.key == std::string("line") ? "its line has no width"
                                                   : std::string("its ") + field.key + " is nothing");
    return std::move(out);
}

std::vector<Corner> MarkLaying::corners() {
    std::vector<Corner> all;
    for (std::size_t i = 0; i < out.points.size(); ++i) {
        const Anchored& a = mark.points[i];
        all.push_back({out.points[i], a.corner, lengthOf(a.size), lengthOf(a.arc)});
    }
    if (mark.set.contains("half") && flagOf(mark, "half") && all.size() > 1) {
        // About the upright line through both ends; an edge's arc stands at its start.
        const Length axis = (all.front().at.x + all.back().at.x) / 2;
        const std::size_t n = all.size();
        for (std::size_t i = n; i-- > 0;) {
            Corner c = all[i];
            c.at.x = 2.0 * axis - c.at.x;
            c.arc = i > 0 ? all[i - 1].arc : Length();
            if (distance(c.at, all[i].at) > kLeastDrawn) all.push_back(c);
        }
    }
    return all;
}

void MarkLaying::layOutline() {
    const std::string form = valueOf(mark, "form");
    const std::size_t n = out.points.size();
    if (form == "around the body") return layAroundBody();
    if (form == "circle") {
        if (n < 1) return wrong("its circle has no middle");
        if (out.lengths["diameter"] <= kLeastDrawn) return wrong("its circle has no diameter");
        out.area = Area{circle(out.points.front(), out.lengths["diameter"]), {}};
        out.cores = {RoundedPolygon::disc(out.points.front(), out.lengths["diameter"])};
        return;
    }
    if (form == "rectangle") {
        if (n < 2) return wrong("its rectangle has no two corners");
        Rect r;
        r.add(out.points[0]);
        r.add(out.points[1]);
        if (r.width() <= kLeastDrawn || r.height() <= kLeastDrawn) return wrong("its rectangle has no size");
        const Length round = min(max(out.lengths["corner"], Length()), min(r.width(), r.height()) / 2);
        out.area = Area{ringThrough({{{r.left, r.bottom}, CornerForm::Round, round, {}},
                                     {{r.right, r.bottom}, CornerForm::Round, round, {}},
                                     {{r.right, r.top}, CornerForm::Round, round, {}},
                                     {{r.left, r.top}, CornerForm::Round, round, {}}}),
                        {}};
        out.cores = {roundedRectangle(r, round)};
        out.upright = r;
        return;
    }
    if (form == "slot") {
        if (n < 2) return wrong("its slot has no two ends");
        const Length width = out.lengths["width"];
        if (width <= kLeastDrawn) return wrong("its slot has no width");
        RoundedPolygon core = RoundedPolygon::stroke(out.points[0], out.points[1], width);
        if (out.points[0] == out.points[1]) core.corners.resize(1);
        out.area = Area{ringOf(core), {}};
        out.cores = {core};
        return;
    }
    if (form == "line") {
        if (n < 2) return wrong("its line has no two ends");
        out.line = lineThrough(corners());
        return;
    }
    if (n < 3) return wrong("its polygon has no three corners");
    const Ring ring = ringThrough(corners());
    if (crossesItself(ring)) return wrong("its outline crosses itself");
    if (std::abs(areaOf(ring)) < 1e-6) return wrong("its outline encloses nothing");
    out.area = Area{ring, {}};
}

void MarkLaying::layAroundBody() {
    if (!body) return wrong("the part has no body");
    const Length by = out.lengths["grow"];
    note(body->allFirm(), Length());
    if (!body->traced()) {
        const Rect r = body->rect.grown(by);
        if (r.width() <= kLeastDrawn || r.height() <= kLeastDrawn) return wrong("nothing of the body is left");
        out.area = Area{rectangleRing(r), {}};
        out.cores = {RoundedPolygon::rectangle(r)};
        out.upright = r;
        return;
    }
    const auto areas = areasOf(grownSharp(polygonsOf(ringOf(body->ring())), by));
    if (areas.size() != 1) return wrong("nothing of the body is left");
    out.area = areas.front();
}

}  // namespace punch
