// What stands over the drawing: faces and marks, doubts, what is pointed at, and the dimension lines.

#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/sheet_painter.h"
#include "app/theme.h"
#include "core/model/contacts.h"

namespace punch {

void SheetPainter::faces() {
    // A panel's edge, a plug's face: a long line with its name at the end.
    const QRectF sheet(p_.viewport());
    for (const FaceLine& face : f_.faces) {
        if (face.axis == Axis::Height) continue;
        p_.setPen(face.doubt ? cosmetic(theme::kBodySlate.darker(130), 1.4, Qt::DashDotLine) : looseSide());
        const bool upright = face.axis == Axis::Along;
        const QPointF at = upright ? t_.mapMm(face.at.mm(), 0) : t_.mapMm(0, face.at.mm());
        const double reach = 9 * t_.scale;
        const Point middle = f_.body ? f_.body->rect.middle() : Point{};
        const QPointF c = t_.map(middle);
        const QPointF a = upright ? QPointF(at.x(), c.y() - reach) : QPointF(c.x() - reach, at.y());
        const QPointF b = upright ? QPointF(at.x(), c.y() + reach) : QPointF(c.x() + reach, at.y());
        p_.drawLine(a, b);
        label(upright ? QPointF(at.x(), std::min(b.y(), sheet.bottom() - 40.0))
                      : QPointF(std::min(b.x(), sheet.right() - 60.0), at.y() - theme::em() * 0.7),
              face.doubt ? toQt(face.name) : QObject::tr("%1, loose").arg(toQt(face.name)),
              face.doubt ? theme::kQuiet : theme::kMarigoldInk, 0.9);
    }
    for (const MarkPoint& mark : f_.marks) {
        const QPointF c = t_.map(mark.at);
        p_.setPen(mark.firm ? cosmetic(theme::kInk, 1.4) : looseSide());
        p_.setBrush(Qt::NoBrush);
        p_.drawPolygon(QPolygonF{c + QPointF(0, -7), c + QPointF(7, 0), c + QPointF(0, 7), c + QPointF(-7, 0)});
        label(c + QPointF(0, 7 + theme::em() * 0.75),
              mark.firm ? toQt(mark.name) : QObject::tr("%1, loose").arg(toQt(mark.name)),
              mark.firm ? theme::kQuiet : theme::kMarigoldInk, 0.9);
    }
}

void SheetPainter::ellipse(QPointF at, const Ellipse& doubt, double enlarged) {
    p_.save();
    p_.translate(at);
    p_.rotate(t_.mirrored ? 180 + doubt.turn.degrees() : -doubt.turn.degrees());
    // What is exact stays a dot.
    const double a = std::max(t_.px(doubt.major) * enlarged, 1.5);
    const double b = std::max(t_.px(doubt.minor) * enlarged, 1.5);
    p_.drawEllipse(QPointF(), a, b);
    p_.restore();
}

void SheetPainter::doubts(const QRectF& area) {
    Length largest;
    const auto all = [&](const auto& visit) {
        for (const Pad& p : f_.pads)
            if (p.doubt.fromDatum) visit(p.at, *p.doubt.fromDatum);
        for (const BareHole& h : f_.bareHoles)
            if (h.doubt.fromDatum) visit(h.at, *h.doubt.fromDatum);
    };
    // What is judged by eye must not make the pins' doubts invisible.
    for (const Pad& p : f_.pads)
        if (p.doubt.fromDatum) largest = max(largest, p.doubt.fromDatum->major);
    for (const BareHole& h : f_.bareHoles)
        if (h.doubt.fromDatum) largest = max(largest, h.doubt.fromDatum->major);
    // The largest becomes about three lines of text wide; the factor is a round number and is written on the sheet.
    double enlarged = 1;
    for (const double step : {2., 5., 10., 20., 50., 100., 200., 500., 1000.})
        if (t_.px(largest) * step <= theme::em() * 1.6) enlarged = step;
    QColor fill = theme::kPetrol;
    fill.setAlphaF(0.22F);
    p_.setPen(cosmetic(theme::kPetrol, 1.4));
    p_.setBrush(fill);
    all([&](Point at, const Ellipse& e) { ellipse(t_.map(at), e, enlarged); });
    // A mark's doubt is drawn as an outline, since it is often larger than the part.
    p_.setBrush(Qt::NoBrush);
    p_.setPen(cosmetic(theme::kPetrol, 1, Qt::DotLine));
    for (const MarkPoint& m : f_.marks)
        if (m.doubt.fromDatum) ellipse(t_.map(m.at), *m.doubt.fromDatum, enlarged);
    const QString words = largest > Length()
                              ? QObject::tr("doubt from the datum: 95 % ellipses, %1 times enlarged; the largest ± %2")
                                    .arg(enlarged, 0, 'f', 0)
                                    .arg(view_.length(largest))
                              : QObject::tr("doubt from the datum: nothing firm has any");
    p_.setFont(theme::text(0.9));
    QRectF box = QFontMetricsF(p_.font()).boundingRect(words).adjusted(-8, -2, 8, 2);
    box.moveCenter(QPointF(area.center().x(), area.top() + theme::em() * 3.1));
    p_.setPen(Qt::NoPen);
    p_.setBrush(theme::through(theme::kPaper, 0.92));
    p_.drawRoundedRect(box, 4, 4);
    p_.setPen(theme::kPetrol);
    p_.drawText(box, Qt::AlignCenter, words);
}

void SheetPainter::ring(const FeatureId& id, const QColor& color, Qt::PenStyle style) {
    QPen pen(color, 2.2, style);
    p_.setPen(pen);
    p_.setBrush(Qt::NoBrush);
    if (const Pad* pad = f_.pad(id)) {
        p_.drawPath(pathOf(widened(landShape(*pad), Length::fromMm(4 / t_.scale)), t_));
    } else if (const BareHole* hole = f_.bareHole(id)) {
        p_.drawPath(pathOf(widened(holeShape(*hole, false), Length::fromMm(4 / t_.scale)), t_));
    } else if (const auto mark =
                   std::find_if(f_.marks.begin(), f_.marks.end(), [&](const MarkPoint& m) { return m.id == id; });
               mark != f_.marks.end()) {
        p_.drawEllipse(t_.map(mark->at), 12, 12);
    } else if (const auto face =
                   std::find_if(f_.faces.begin(), f_.faces.end(), [&](const FaceLine& l) { return l.id == id; });
               face != f_.faces.end()) {
        if (face->axis == Axis::Height) return;
        const QPointF c = t_.map(*f_.place(id));
        const QPointF half = face->axis == Axis::Along ? QPointF(0, 9 * t_.scale) : QPointF(9 * t_.scale, 0);
        pen.setWidthF(4);
        p_.setPen(pen);
        p_.drawLine(c - half, c + half);
    } else if (f_.body) {
        const QRectF r = t_.map(f_.body->rect);
        const bool leftOnScreen = (id == kLeftFace) != t_.mirrored;
        pen.setWidthF(4);
        p_.setPen(pen);
        if (id == kBody) p_.drawRect(r);
        if (id == kRearFace) p_.drawLine(r.topLeft(), r.topRight());
        if (id == kFrontFace) p_.drawLine(r.bottomLeft(), r.bottomRight());
        if (id == kLeftFace || id == kRightFace)
            leftOnScreen ? p_.drawLine(r.topLeft(), r.bottomLeft()) : p_.drawLine(r.topRight(), r.bottomRight());
    }
}

void SheetPainter::features(const Reading& reading, const QColor& color) {
    for (const FeatureId& id : {reading.a, reading.b, reading.c})
        if (!id.empty()) ring(asMeant(reading, id), color, Qt::SolidLine);
}

void SheetPainter::group(const std::vector<FeatureId>& features) {
    for (const FeatureId& id : features) ring(id, theme::kPetrol, Qt::SolidLine);
}

void SheetPainter::chosen(const FeatureId& first, const FeatureId& second, const std::optional<Reading>& asked,
                          const FeatureId& hovered) {
    hovered_ = hovered;
    if (asked && first.empty()) {
        ring(asked->a, theme::kMarigold, Qt::DashLine);
        if (!asked->b.empty()) ring(asked->b, theme::kMarigold, Qt::DashLine);
    }
    if (!hovered.empty()) ring(hovered, theme::kHover, Qt::SolidLine);
    for (const Reading& r : part_.readings)
        if (r.id == view_.lit()) features(r, theme::kPetrol);
    if (!first.empty()) ring(first, theme::kPetrol, Qt::SolidLine);
    if (!second.empty()) ring(second, theme::kPetrol, Qt::SolidLine);
}

bool SheetPainter::touchesHovered(const Dimension& d) const {
    if (hovered_.empty() || hovered_ == kBody || d.reading < 0 || d.reading >= static_cast<int>(part_.readings.size()))
        return false;
    const Reading& r = part_.readings[static_cast<std::size_t>(d.reading)];
    return asMeant(r, r.a) == hovered_ || asMeant(r, r.b) == hovered_ || r.c == hovered_;
}

void SheetPainter::dimensions(const DimensionLayout& layout) {
    const QFont font = theme::digits(0.95);
    // Lines first, tags over them.
    for (const bool tags : {false, true})
        for (const Dimension& d : layout.lines) {
            const bool doubt = isDoubtful(d.state);
            const bool ask = d.reading < 0;
            const bool lit = !ask && (d.id == view_.lit() || touchesHovered(d));
            const QColor color = ask ? theme::kMarigold : doubt ? theme::kVermilion : theme::kPetrol;
            if (d.quiet && !lit) {
                // Thin and without a number, until one comes near.
                if (tags) continue;
                QColor thin = color;
                thin.setAlphaF(0.45F);
                p_.setPen(QPen(thin, 1));
                p_.drawLine(d.a, d.b);
                const QPointF end = d.slanted ? QPointF() : d.vertical ? QPointF(2, 0) : QPointF(0, 2);
                p_.drawLine(d.a - end, d.a + end);
                p_.drawLine(d.b - end, d.b + end);
                continue;
            }
            if (!tags) {
                QColor faint = color;
                faint.setAlphaF(lit ? 1.0F : 0.5F);
                const QPointF past = d.slanted    ? QPointF()
                                     : d.vertical ? QPointF(d.a.x() < d.anchorA.x() ? -5 : 5, 0)
                                                  : QPointF(0, d.a.y() < d.anchorA.y() ? -5 : 5);
                edged(QPen(faint, 1, ask ? Qt::DashLine : Qt::SolidLine), [&] {
                    p_.drawLine(d.anchorA, d.a + past);
                    p_.drawLine(d.anchorB, d.b + past);
                });
                edged(QPen(color, lit ? 2 : 1.2, ask ? Qt::DashLine : Qt::SolidLine), [&] { p_.drawLine(d.a, d.b); });
                const double length = std::hypot(d.b.x() - d.a.x(), d.b.y() - d.a.y());
                const QPointF dir = length < 1e-6 ? QPointF(1, 0) : (d.b - d.a) / length;
                const QPointF side(-dir.y(), dir.x());
                // Arrows point inwards from outside when the span is too short for them.
                const double way = length > 26 ? 1 : -1;
                p_.setBrush(color);
                p_.setPen(Qt::NoPen);
                p_.drawPolygon(QPolygonF{d.a, d.a + dir * 8 * way + side * 2.6, d.a + dir * 8 * way - side * 2.6});
                p_.drawPolygon(QPolygonF{d.b, d.b - dir * 8 * way + side * 2.6, d.b - dir * 8 * way - side * 2.6});
                continue;
            }
            p_.setPen(QPen(color, lit ? 2 : 1.2, ask ? Qt::DashLine : Qt::SolidLine));
            p_.setBrush(ask     ? theme::kMarigoldPale
                        : doubt ? theme::kVermilionPale
                        : lit   ? theme::kHoverTag
                                : theme::kPetrolPale);
            p_.setFont(font);
            QRectF tag = d.tag;
            if (d.quiet) {
                const QFontMetricsF metrics(font);
                const double w = metrics.horizontalAdvance(d.text) + metrics.height();
                const double h = metrics.height() * 1.3;
                tag = d.vertical ? QRectF(0, 0, h, w) : QRectF(0, 0, w, h);
                tag.moveCenter(d.tag.center());
            }
            const double r = std::min(tag.width(), tag.height()) / 2;
            p_.drawRoundedRect(tag, r, r);
            p_.setPen(ask ? theme::kMarigoldInk : color);
            if (d.vertical) {
                p_.save();
                p_.translate(tag.center());
                p_.rotate(-90);
                p_.drawText(QRectF(-tag.height() / 2, -tag.width() / 2, tag.height(), tag.width()), Qt::AlignCenter,
                            d.text);
                p_.restore();
            } else {
                p_.drawText(tag, Qt::AlignCenter, d.text);
            }
        }
}

void SheetPainter::onPicture() {
    p_.setBrush(Qt::NoBrush);
    for (const Pad& pad : f_.pads) {
        if (!pad.firm) continue;
        const QPointF at = t_.map(pad.at);
        p_.setPen(QPen(theme::kCopper, 2));
        p_.drawPath(pathOf(landShape(pad), t_));
        const double r = std::max(5.0, t_.px(shownLand(pad).length) / 2);
        p_.setPen(QPen(theme::kInk, 1.2));
        p_.drawEllipse(at, std::max(3.0, t_.px(pad.hole) / 2), std::max(3.0, t_.px(pad.hole) / 2));
        const QString number = toQt(pad.number);
        p_.setFont(theme::text(0.9, true));
        QRectF box = QFontMetricsF(p_.font()).boundingRect(number).adjusted(-6, -1, 6, 1);
        box.moveCenter(at + QPointF(0, -r - theme::em()));
        p_.setPen(QPen(theme::kPetrol, 1.2));
        p_.setBrush(Qt::white);
        p_.drawRoundedRect(box, box.height() / 2, box.height() / 2);
        p_.setPen(theme::kPetrol);
        p_.drawText(box, Qt::AlignCenter, number);
        p_.setBrush(Qt::NoBrush);
    }
    p_.setPen(QPen(theme::kInk, 1.6));
    for (const BareHole& h : f_.bareHoles)
        if (h.firm) p_.drawPath(pathOf(holeShape(h, false), t_));
    datum();
}

}  // namespace punch
