#include "app/sheet/dimensions.h"

#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

#include "app/theme.h"
#include "core/geometry/shapes.h"
#include "core/model/contacts.h"

namespace punch {
namespace {

/// Half extents of a feature on the sheet, mm.
QPointF halves(const Footprint& f, const FeatureId& id) {
    if (const Pad* p = f.pad(id)) return {p->leadX.mm() / 2, p->leadY.mm() / 2};
    if (const BareHole* h = f.bareHole(id))
        return h->flat ? QPointF(h->flatX.mm() / 2, h->flatY.mm() / 2)
                       : QPointF(h->peg.across.mean.mm() / 2, h->peg.across.mean.mm() / 2);
    if (id == kBody && f.body) return {f.body->rect.width().mm() / 2, f.body->rect.height().mm() / 2};
    return {0, 0};
}

struct Span {
    double from, to;      // along the line, mm
    double baseA, baseB;  // across the line, mm: where the extension lines start
};

/// Where the jaws stood, in the part's plane. None for what has no place on the sheet (heights, removed features).
std::optional<Span> spanOf(const Part& part, const Footprint& f, const Reading& r) {
    if (r.axis == Axis::Height || r.contact == Contact::Quantity || r.pick) return {};
    const FeatureId idA = asMeant(r, r.a);
    const FeatureId idB = asMeant(r, r.b);
    const bool faceA = isFace(part, idA);
    const bool faceB = isFace(part, idB);
    const bool across = r.axis == Axis::Across || (faceA && faceAxis(part, idA) == Axis::Across) ||
                        (faceB && faceAxis(part, idB) == Axis::Across);
    const auto a = f.place(idA);
    if (!a) return {};
    const auto along = [&](Point p) { return across ? p.y.mm() : p.x.mm(); };
    const auto base = [&](Point p) { return across ? p.x.mm() : p.y.mm(); };
    const auto half = [&](const FeatureId& id) {
        if (const Pad* p = f.pad(id); r.atEnd && p != nullptr) return (across ? p->endY : p->endX).mm() / 2;
        return across ? halves(f, id).y() : halves(f, id).x();
    };
    if (r.b.empty()) return Span{along(*a) - half(idA), along(*a) + half(idA), base(*a), base(*a)};
    const auto b = f.place(idB);
    if (!b) return {};
    double from = along(*a);
    double to = along(*b);
    const double way = to < from ? -1 : 1;
    double baseA = base(*a);
    double baseB = base(*b);
    switch (r.contact) {
        case Contact::Outside:
            from -= way * half(idA);
            to += way * half(idB);
            break;
        case Contact::Inside:
            from += way * half(idA);
            to -= way * half(idB);
            break;
        case Contact::FaceNear: (faceA ? to : from) -= (faceA ? way : -way) * half(faceA ? idB : idA); break;
        case Contact::FaceFar: (faceA ? to : from) += (faceA ? way : -way) * half(faceA ? idB : idA); break;
        default: break;
    }
    // A face reaches past the other feature, so its extension line starts beside it.
    if (faceA && !faceB) baseA = baseB;
    if (faceB && !faceA) baseB = baseA;
    return Span{from, to, baseA, baseB};
}

struct Lane {
    std::vector<std::pair<double, double>> taken;
    bool free(double from, double to) const {
        return std::none_of(taken.begin(), taken.end(), [&](const auto& t) { return from < t.second && to > t.first; });
    }
};

bool isSlanted(const Reading& r) {
    return !r.b.empty() && r.contact != Contact::Quantity && (r.axis == Axis::Direct || r.contact == Contact::Angle);
}

class Layouter {
public:
    Layouter(const Part& part, const Footprint& f, const ViewState& view, const SheetTransform& t,
             const QRectF& content, bool crowded)
        : part_(part), f_(f), view_(view), t_(t), metrics_(theme::digits(0.95)), crowded_(crowded) {
        layout.content = content;
        layout.laneHeight = metrics_.height() * 1.75;
    }

    DimensionLayout layout;

    void add(const Reading& r, int index) {
        Pending p;
        p.line.reading = index;
        p.line.id = r.id;
        if (index >= 0) {
            const ReadingResult& result = f_.readings[static_cast<std::size_t>(index)];
            p.line.state = result.state;
            const QString value = !result.stats.usable          ? QStringLiteral("?")
                                  : !r.sameAs.empty()           ? QStringLiteral("=")
                                  : r.contact == Contact::Angle ? QString::number(result.stats.mean, 'f', 1) + "°"
                                                                : view_.value(Length::fromMm(result.stats.mean));
            p.line.text = QStringLiteral("%1 · %2").arg(index + 1).arg(value);
            p.line.lane = view_.laneOf(r.id);
        } else {
            p.line.text = QStringLiteral("?");
        }
        p.tag = metrics_.horizontalAdvance(p.line.text) + metrics_.height();
        p.line.quiet = crowded_ && index >= 0 && !matters(r, index, p.line);
        if (isSlanted(r)) {
            slanted(r, p);
            return;
        }
        const auto span = spanOf(part_, f_, r);
        if (!span) return;
        p.span = *span;
        const FeatureId face = isFace(part_, r.a) ? r.a : isFace(part_, r.b) ? r.b : FeatureId();
        p.line.vertical = r.axis == Axis::Across || (!face.empty() && faceAxis(part_, face) == Axis::Across);
        const double middle = t_.mapMm(0, (span->baseA + span->baseB) / 2).y();
        p.other = !p.line.vertical && middle > layout.content.center().y();
        if (p.line.lane != 0) p.other = p.line.lane < 0;
        pending_.push_back(p);
    }

    void place() {
        // Lines that the user put somewhere come first, then the shorter ones nearer to the part.
        std::stable_sort(pending_.begin(), pending_.end(), [](const Pending& a, const Pending& b) {
            if (a.line.quiet != b.line.quiet) return b.line.quiet;
            if ((a.line.lane != 0) != (b.line.lane != 0)) return a.line.lane != 0;
            return std::abs(a.span.to - a.span.from) < std::abs(b.span.to - b.span.from);
        });
        for (Pending& p : pending_)
            if (p.line.quiet)
                putQuiet(p);
            else
                put(p);
        const auto room = [&](const std::vector<Lane>& lanes, const std::vector<Lane>& thin) {
            return base(lanes) + (thin.empty() ? 0.0 : kThinLane * (static_cast<double>(thin.size()) + 1));
        };
        layout.above = room(above_, thinAbove_);
        layout.below = room(below_, thinBelow_);
        layout.right = room(right_, thinRight_);
        layout.left = room(left_, thinLeft_);
        std::stable_sort(slanted_.begin(), slanted_.end(),
                         [](const Dimension& a, const Dimension& b) { return !a.quiet && b.quiet; });
        for (Dimension& d : slanted_)
            if (d.quiet)
                putThin(d);
            else
                putSlanted(d);
    }

private:
    struct Pending {
        Dimension line;
        Span span{0, 0, 0, 0};
        bool other = false;  ///< below rather than above, left rather than right
        double tag = 0;
    };

    /// The tag of a line in a lane (0 the nearest), whose middle along the line is `mid`.
    QRectF tagIn(const Pending& p, std::size_t lane, double mid) const {
        const double away = layout.laneHeight * (static_cast<double>(lane) + 0.75);
        const QRectF& content = layout.content;
        const double h = tagHeight();
        if (p.line.vertical) {
            const double x = p.other ? content.left() - away : content.right() + away;
            return {x - h / 2, mid - p.tag / 2, h, p.tag};
        }
        const double y = p.other ? content.bottom() + away : content.top() - away;
        return {mid - p.tag / 2, y - h / 2, p.tag, h};
    }

    double tagHeight() const { return metrics_.height() * 1.3; }

    static constexpr double kThinLane = 7;  // px

    double base(const std::vector<Lane>& lanes) const {
        return lanes.empty() ? 0.0 : layout.laneHeight * (static_cast<double>(lanes.size()) + 0.4);
    }

    /// Does the line of a crowded part have a tag?
    bool matters(const Reading& r, int index, const Dimension& d) const {
        if (index + 2 >= static_cast<int>(part_.readings.size()) || isDoubtful(d.state) || d.lane != 0) return true;
        const FeatureId& first = view_.first();
        return (!first.empty() && (r.a == first || r.b == first)) ||
               (!view_.second().empty() && (r.a == view_.second() || r.b == view_.second()));
    }

    /// Outside the lanes with tags, close together.
    void putQuiet(Pending& p) {
        const bool v = p.line.vertical;
        auto& lanes = v ? (p.other ? left_ : right_) : p.other ? below_ : above_;
        auto& thin = v ? (p.other ? thinLeft_ : thinRight_) : p.other ? thinBelow_ : thinAbove_;
        const QPointF a = v ? t_.mapMm(p.span.baseA, p.span.from) : t_.mapMm(p.span.from, p.span.baseA);
        const QPointF b = v ? t_.mapMm(p.span.baseB, p.span.to) : t_.mapMm(p.span.to, p.span.baseB);
        const double from = (v ? std::min(a.y(), b.y()) : std::min(a.x(), b.x())) - 4;
        const double to = (v ? std::max(a.y(), b.y()) : std::max(a.x(), b.x())) + 4;
        std::size_t n = 0;
        while (n < thin.size() && !thin[n].free(from, to)) ++n;
        if (n == thin.size()) thin.emplace_back();
        thin[n].taken.emplace_back(from, to);
        const double away = base(lanes) + kThinLane * (static_cast<double>(n) + 1);
        const QRectF& content = layout.content;
        p.line.anchorA = a;
        p.line.anchorB = b;
        if (v) {
            const double x = p.other ? content.left() - away : content.right() + away;
            p.line.a = {x, a.y()};
            p.line.b = {x, b.y()};
            p.line.tag = QRectF(x - kThinLane / 2 + 0.5, from + 3, kThinLane - 1, std::max(to - from - 6, 2.0));
        } else {
            const double y = p.other ? content.bottom() + away : content.top() - away;
            p.line.a = {a.x(), y};
            p.line.b = {b.x(), y};
            p.line.tag = QRectF(from + 3, y - kThinLane / 2 + 0.5, std::max(to - from - 6, 2.0), kThinLane - 1);
        }
        layout.lines.push_back(p.line);
    }

    /// A direct distance as a thin line where it was taken; one comes near to it at its middle.
    void putThin(Dimension& d) {
        d.a = d.anchorA;
        d.b = d.anchorB;
        d.tag = QRectF(0, 0, kThinLane - 1, kThinLane - 1);
        d.tag.moveCenter((d.a + d.b) / 2);
        layout.lines.push_back(d);
    }

    void put(Pending& p) {
        const bool v = p.line.vertical;
        auto& lanes = v ? (p.other ? left_ : right_) : p.other ? below_ : above_;
        const QPointF a = v ? t_.mapMm(p.span.baseA, p.span.from) : t_.mapMm(p.span.from, p.span.baseA);
        const QPointF b = v ? t_.mapMm(p.span.baseB, p.span.to) : t_.mapMm(p.span.to, p.span.baseB);
        const double lo = v ? std::min(a.y(), b.y()) : std::min(a.x(), b.x());
        const double hi = v ? std::max(a.y(), b.y()) : std::max(a.x(), b.x());
        const double mid = (lo + hi) / 2;
        // Arrows outside a short span need a little room too.
        const double from = std::min(lo - 10, mid - p.tag / 2) - 5;
        const double to = std::max(hi + 10, mid + p.tag / 2) + 5;
        std::size_t n = p.line.lane == 0 ? 0 : static_cast<std::size_t>(std::abs(p.line.lane) - 1);
        // Near the corners a tag must also stay clear of those on the neighbouring side.
        const auto meets = [&](std::size_t lane) {
            const QRectF tag = tagIn(p, lane, mid);
            return std::any_of(layout.lines.begin(), layout.lines.end(), [&](const Dimension& other) {
                return other.tag.adjusted(-2, -2, 2, 2).intersects(tag);
            });
        };
        while ((n < lanes.size() && !lanes[n].free(from, to)) || (meets(n) && n < 40)) ++n;
        while (n >= lanes.size()) lanes.emplace_back();
        lanes[n].taken.emplace_back(from, to);
        p.line.lane = static_cast<int>(n + 1) * (p.other ? -1 : 1);
        const double away = layout.laneHeight * (static_cast<double>(n) + 0.75);
        p.line.anchorA = a;
        p.line.anchorB = b;
        const QRectF& content = layout.content;
        if (v) {
            const double x = p.other ? content.left() - away : content.right() + away;
            p.line.a = {x, a.y()};
            p.line.b = {x, b.y()};
        } else {
            const double y = p.other ? content.bottom() + away : content.top() - away;
            p.line.a = {a.x(), y};
            p.line.b = {b.x(), y};
        }
        p.line.tag = tagIn(p, n, mid);
        layout.lines.push_back(p.line);
    }

    void slanted(const Reading& r, const Pending& p) {
        const auto a = f_.place(asMeant(r, r.a));
        const auto b = f_.place(asMeant(r, r.b));
        if (!a || !b) return;
        Dimension d = p.line;
        d.slanted = true;
        d.anchorA = t_.map(*a);
        d.anchorB = t_.map(*b);
        d.tag = QRectF(0, 0, p.tag, tagHeight());
        slanted_.push_back(d);
    }

    /// Moves a direct line aside, in parallel, until its tag meets no other tag.
    void putSlanted(Dimension& d) {
        QPointF along = d.anchorB - d.anchorA;
        const double length = std::hypot(along.x(), along.y());
        if (length < 1e-6)
            along = {1, 0};
        else
            along /= length;
        const QPointF side(-along.y(), along.x());
        const auto meets = [&](const QRectF& tag) {
            return std::any_of(layout.lines.begin(), layout.lines.end(), [&](const Dimension& other) {
                return other.tag.adjusted(-3, -3, 3, 3).intersects(tag);
            });
        };
        const auto covers = [&](const QRectF& tag) {
            return std::any_of(f_.pads.begin(), f_.pads.end(), [&](const Pad& pad) {
                const QPointF c = t_.map(pad.at);
                const double r = t_.px(shownLand(pad).width) / 2;
                return QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r).intersects(tag);
            });
        };
        const auto moveTo = [&](int step) {
            const double by = (d.lane != 0 ? d.lane * layout.laneHeight : 0.0) +
                              (step % 2 == 0 ? 1 : -1) * ((step + 1) / 2) * layout.laneHeight * 0.7;
            d.a = d.anchorA + by * side;
            d.b = d.anchorB + by * side;
            d.tag.moveCenter((d.a + d.b) / 2);
        };
        // Clear of pads where that is near, else only clear of other tags.
        constexpr int kNear = 14;
        constexpr int kFar = 60;
        int chosen = -1;
        for (int step = 0; step < kNear && chosen < 0; ++step) {
            moveTo(step);
            if (!meets(d.tag) && !covers(d.tag)) chosen = step;
        }
        for (int step = 0; step < kFar && chosen < 0; ++step) {
            moveTo(step);
            if (!meets(d.tag)) chosen = step;
        }
        layout.lines.push_back(d);
    }

    const Part& part_;
    const Footprint& f_;
    const ViewState& view_;
    const SheetTransform& t_;
    QFontMetricsF metrics_;
    std::vector<Pending> pending_;
    std::vector<Dimension> slanted_;
    std::vector<Lane> above_, below_, right_, left_;
    std::vector<Lane> thinAbove_, thinBelow_, thinRight_, thinLeft_;
    bool crowded_ = false;
};

}  // namespace

int DimensionLayout::laneAt(QPointF at, bool vertical) const {
    const double high = vertical ? at.x() - content.right() : content.top() - at.y();
    const double low = vertical ? content.left() - at.x() : at.y() - content.bottom();
    const double away = std::max(high, low);
    const int lane = std::max(1, static_cast<int>(std::lround(away / laneHeight + 0.25)));
    return high >= low ? lane : -lane;
}

DimensionLayout layOutDimensions(const Part& part, const Footprint& f, const ViewState& view, const SheetTransform& t,
                                 const QRectF& content, const std::optional<Reading>& asked) {
    constexpr std::size_t kCrowded = 24;
    Layouter layouter(part, f, view, t, content, part.readings.size() > kCrowded);
    for (std::size_t i = 0; i < part.readings.size() && i < f.readings.size(); ++i)
        layouter.add(part.readings[i], static_cast<int>(i));
    if (asked) layouter.add(*asked, -1);
    layouter.place();
    return layouter.layout;
}

}  // namespace punch
