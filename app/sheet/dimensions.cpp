#include "app/sheet/dimensions.h"

#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

#include "app/theme.h"

namespace punch {
namespace {

/// Half extents of a feature on the sheet, mm.
QPointF halves(const Footprint& f, const FeatureId& id) {
    if (const Pad* p = f.pad(id)) return {p->leadX.mm() / 2, p->leadY.mm() / 2};
    if (const BareHole* h = f.bareHole(id)) return {h->peg.mm() / 2, h->peg.mm() / 2};
    if (id == kBody && f.body) return {f.body->rect.width().mm() / 2, f.body->rect.height().mm() / 2};
    return {0, 0};
}

struct Span {
    double from, to;      // along the line, mm
    double baseA, baseB;  // across the line, mm: where the extension lines start
};

/// Where the jaws stood, in the part's plane. None for what has no place on the sheet (heights, removed features).
std::optional<Span> spanOf(const Footprint& f, const Reading& r) {
    if (r.axis == Axis::Height) return {};
    const bool across = r.axis == Axis::Across;
    const auto a = f.place(r.a);
    if (!a) return {};
    const auto along = [&](Point p) { return across ? p.y.mm() : p.x.mm(); };
    const auto base = [&](Point p) { return across ? p.x.mm() : p.y.mm(); };
    const auto half = [&](const FeatureId& id) { return across ? halves(f, id).y() : halves(f, id).x(); };
    if (r.contact == Contact::Size) return Span{along(*a) - half(r.a), along(*a) + half(r.a), base(*a), base(*a)};
    const auto b = f.place(r.b);
    if (!b) return {};
    double from = along(*a);
    double to = along(*b);
    const double way = to < from ? -1 : 1;
    double baseA = base(*a);
    double baseB = base(*b);
    switch (r.contact) {
        case Contact::Outside:
            from -= way * half(r.a);
            to += way * half(r.b);
            break;
        case Contact::Inside:
            from += way * half(r.a);
            to -= way * half(r.b);
            break;
        case Contact::FaceNear:
            (isFace(r.a) ? to : from) -= (isFace(r.a) ? way : -way) * half(isFace(r.a) ? r.b : r.a);
            break;
        case Contact::FaceFar:
            (isFace(r.a) ? to : from) += (isFace(r.a) ? way : -way) * half(isFace(r.a) ? r.b : r.a);
            break;
        default: break;
    }
    // A face reaches past the other feature, so its extension line starts beside it.
    if (isFace(r.a) && !isFace(r.b)) baseA = baseB;
    if (isFace(r.b) && !isFace(r.a)) baseB = baseA;
    return Span{from, to, baseA, baseB};
}

struct Lane {
    std::vector<std::pair<double, double>> taken;
    bool free(double from, double to) const {
        return std::none_of(taken.begin(), taken.end(), [&](const auto& t) { return from < t.second && to > t.first; });
    }
};

}  // namespace

DimensionLayout layOutDimensions(const Part& part, const Footprint& f, const ViewState& view, const SheetTransform& t,
                                 const QRectF& content, const std::optional<Reading>& asked) {
    DimensionLayout layout;
    const QFontMetricsF metrics(theme::digits(0.95));
    const double lane = metrics.height() * 1.75;
    const double tagHeight = metrics.height() * 1.3;

    struct Pending {
        Dimension line;
        Span span;
        bool below;
    };
    std::vector<Pending> pending;
    const auto consider = [&](const Reading& r, int index) {
        const auto span = spanOf(f, r);
        if (!span) return;
        Pending p{{}, *span, false};
        p.line.reading = index;
        p.line.id = r.id;
        p.line.vertical = r.axis == Axis::Across;
        if (index >= 0) {
            const ReadingResult& result = f.readings[static_cast<std::size_t>(index)];
            p.line.state = result.state;
            p.line.text = QStringLiteral("%1 · %2").arg(index + 1).arg(
                result.stats.usable ? view.value(Length::fromMm(result.stats.mean)) : QStringLiteral("?"));
        } else {
            p.line.text = QStringLiteral("?");
        }
        const double middle = t.mapMm(0, (span->baseA + span->baseB) / 2).y();
        p.below = !p.line.vertical && middle > content.center().y();
        pending.push_back(p);
    };
    for (std::size_t i = 0; i < part.readings.size(); ++i) consider(part.readings[i], static_cast<int>(i));
    if (asked) consider(*asked, -1);
    std::stable_sort(pending.begin(), pending.end(), [](const Pending& a, const Pending& b) {
        return std::abs(a.span.to - a.span.from) < std::abs(b.span.to - b.span.from);
    });

    std::vector<Lane> above, below, right;
    for (Pending& p : pending) {
        auto& lanes = p.line.vertical ? right : p.below ? below : above;
        const bool v = p.line.vertical;
        const QPointF a = v ? t.mapMm(p.span.baseA, p.span.from) : t.mapMm(p.span.from, p.span.baseA);
        const QPointF b = v ? t.mapMm(p.span.baseB, p.span.to) : t.mapMm(p.span.to, p.span.baseB);
        const double lo = v ? std::min(a.y(), b.y()) : std::min(a.x(), b.x());
        const double hi = v ? std::max(a.y(), b.y()) : std::max(a.x(), b.x());
        const double tag = metrics.horizontalAdvance(p.line.text) + metrics.height();
        const double mid = (lo + hi) / 2;
        // Arrows outside a short span need a little room too.
        const double from = std::min(lo - 10, mid - tag / 2) - 5;
        const double to = std::max(hi + 10, mid + tag / 2) + 5;
        std::size_t n = 0;
        while (n < lanes.size() && !lanes[n].free(from, to)) ++n;
        if (n == lanes.size()) lanes.emplace_back();
        lanes[n].taken.emplace_back(from, to);
        const double away = lane * (static_cast<double>(n) + 0.75);
        p.line.anchorA = a;
        p.line.anchorB = b;
        if (v) {
            const double x = content.right() + away;
            p.line.a = {x, a.y()};
            p.line.b = {x, b.y()};
        } else {
            const double y = p.below ? content.bottom() + away : content.top() - away;
            p.line.a = {a.x(), y};
            p.line.b = {b.x(), y};
        }
        const QPointF centre = (p.line.a + p.line.b) / 2;
        p.line.tag = v ? QRectF(centre.x() - tagHeight / 2, centre.y() - tag / 2, tagHeight, tag)
                       : QRectF(centre.x() - tag / 2, centre.y() - tagHeight / 2, tag, tagHeight);
        layout.lines.push_back(p.line);
    }
    const auto room = [&](const std::vector<Lane>& lanes) {
        return lanes.empty() ? 0.0 : lane * (static_cast<double>(lanes.size()) + 0.4);
    };
    layout.above = room(above);
    layout.below = room(below);
    layout.right = room(right);
    return layout;
}

}  // namespace punch
