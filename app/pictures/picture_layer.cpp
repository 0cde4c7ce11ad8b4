#include "app/pictures/picture_layer.h"

#include <QPainterPath>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {

namespace {

/// As it was typed, with the unit that a bare number meant.
QString lengthWords(const RawValue& v) {
    const QString typed = toQt(v.typed);
    return !typed.isEmpty() && typed.back().isLetter() ? typed : typed + " " + toQt(unitName(v.unit));
}

}  // namespace

PictureLayer::PictureLayer(const PictureWork& work, const Document& document, const SheetTransform& t, std::string lit)
    : work_(work), document_(document), lit_(std::move(lit)) {
    const Point datum = document.footprint().datum;
    const double side = t.mirrored ? -1 : 1;
    const QTransform mmToSheet(side * t.scale, 0, 0, -t.scale, t.origin.x() - side * t.scale * datum.x.mm(),
                               t.origin.y() + t.scale * datum.y.mm());
    toSheet_ = work.toPart() * mmToSheet;
}

PixelPoint PictureLayer::pixelAt(QPointF at) const {
    const QPointF p = toSheet_.inverted().map(at);
    return {p.x(), p.y()};
}

void PictureLayer::paintPicture(QPainter& painter, const QRectF& area, bool quick) const {
    if (const PictureImage* image = work_.image()) image->paint(painter, toSheet_, area, work_.opacity(), quick);
}

void PictureLayer::paintFace(QPainter& painter, const QRectF& area) const {
    const Source* s = work_.source();
    if (s == nullptr) return;
    const bool solder = s->fromBelow();
    const bool asTaken = toSheet_.determinant() > 0;
    const QString words = s->face == PictureFace::NotSaid ? QObject::tr("Which face is this? Say it at the left")
                          : solder && !asTaken            ? QObject::tr("Picture of the UNDERSIDE · mirrored here")
                          : solder                        ? QObject::tr("Picture of the UNDERSIDE · as it was taken")
                          : asTaken                       ? QObject::tr("Picture of the PART SIDE · as it was taken")
                                                          : QObject::tr("Picture of the PART SIDE · mirrored here");
    painter.setFont(theme::text(0.95, true));
    QRectF box = QFontMetricsF(painter.font()).boundingRect(words).adjusted(-10, -3, 10, 3);
    box.moveTopRight(QPointF(area.right() - theme::em() * 0.75, area.top() + theme::em() * 0.6));
    painter.setPen(Qt::NoPen);
    painter.setBrush(s->face == PictureFace::NotSaid ? theme::kMarigoldInk : theme::kInk);
    painter.drawRoundedRect(box, 9, 9);
    painter.setPen(Qt::white);
    painter.drawText(box, Qt::AlignCenter, words);
}

void PictureLayer::tag(QPainter& painter, QPointF at, const QString& words, const QColor& edge) const {
    painter.setFont(theme::digits(0.9));
    QRectF box = QFontMetricsF(painter.font()).boundingRect(words).adjusted(-7, -2, 7, 2);
    box.moveCenter(at);
    painter.setPen(QPen(edge, 1.2));
    painter.setBrush(theme::through(Qt::white, 0.92));
    painter.drawRoundedRect(box, box.height() / 2, box.height() / 2);
    painter.setPen(edge.darker(130));
    painter.drawText(box, Qt::AlignCenter, words);
}

void PictureLayer::paintFound(QPainter& painter) const {
    const auto outline = [&](const Rim& r) {
        QPainterPath path;
        if (r.shape == RimShape::Round)
            path.addEllipse(QPointF(0, 0), r.width / 2, r.width / 2);
        else if (r.shape == RimShape::Oval)
            path.addRoundedRect(QRectF(-r.width / 2, -r.height / 2, r.width, r.height), r.height / 2, r.height / 2);
        else
            path.addRect(QRectF(-r.width / 2, -r.height / 2, r.width, r.height));
        return (QTransform().rotate(r.turn) * QTransform::fromTranslate(r.centre.x, r.centre.y) * toSheet_).map(path);
    };
    if (!work_.found()) return;
    const Found& found = *work_.found();
    painter.setBrush(Qt::NoBrush);
    // What was left out stays in sight, faintly: a click takes it back.
    for (const LeftOut& l : found.leftOut) {
        painter.setPen(QPen(theme::through(theme::kPaper, 0.8), 2.4));
        painter.drawPath(outline(l.seen.rim));
        painter.setPen(QPen(theme::kQuiet, 1, Qt::DotLine));
        painter.drawPath(outline(l.seen.rim));
    }
    for (const FoundFeature& f : work_.dropped()) {
        painter.setPen(QPen(theme::kVermilion, 1.2, Qt::DotLine));
        painter.drawPath(outline(f.seen.rim));
    }
    const std::size_t pins = found.formation ? found.formation->positions.size() : 0;
    QPointF middle;
    for (const FoundFeature& f : found.features)
        middle += toSheet_.map(QPointF(f.seen.rim.centre.x, f.seen.rim.centre.y)) /
                  static_cast<double>(found.features.size());
    for (std::size_t i = 0; i < found.features.size(); ++i) {
        const FoundFeature& f = found.features[i];
        const QPointF at = toSheet_.map(QPointF(f.seen.rim.centre.x, f.seen.rim.centre.y));
        painter.setPen(QPen(theme::kMarigold, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(outline(f.seen.rim));
        const double reach = outline(f.seen.rim).boundingRect().width() / 2 + 5;
        painter.setPen(QPen(theme::kMarigold, 1));
        painter.drawLine(at - QPointF(reach, 0), at + QPointF(reach, 0));
        painter.drawLine(at - QPointF(0, reach), at + QPointF(0, reach));
        QPointF out = at - middle;
        const double l = std::max(std::hypot(out.x(), out.y()), 1e-6);
        out = l < 4 ? QPointF(0, -1) : out / l;
        QString words = toQt(foundKindName(f.kind));
        if (i < pins) {
            // From pin 1 the way that the numbers will go: onwards, or back from the far end.
            const std::size_t from = work_.pinOne();
            const bool back = 2 * from >= pins && found.formation->kind != FormationKind::Ring;
            // A pin that was read here before keeps its number.
            const FeatureId known = featureReadAt(document_.part(), work_.source()->id, f.seen.rim);
            const Pad* pad = known.empty() ? nullptr : document_.footprint().pad(known);
            if (pad != nullptr) {
                words = toQt(pad->number);
            } else
                words = QString::number(1 + (back ? (from + pins - i) % pins : (i + pins - from) % pins));
        }
        tag(painter, at + out * (reach + theme::em()), words, theme::kPetrol);
    }
}

void PictureLayer::paintLengths(QPainter& painter, QPointF mouse) const {
    const auto line = [&](PixelPoint a, PixelPoint b, const QString& words, const QColor& color, Qt::PenStyle style) {
        const QPointF p = toSheet_.map(QPointF(a.x, a.y));
        const QPointF q = toSheet_.map(QPointF(b.x, b.y));
        painter.setPen(QPen(color, 2, style));
        painter.drawLine(p, q);
        const QPointF d = q - p;
        const double l = std::max(std::hypot(d.x(), d.y()), 1e-6);
        const QPointF n(-d.y() / l * 7, d.x() / l * 7);
        painter.setPen(QPen(color, 2));
        painter.drawLine(p - n, p + n);
        painter.drawLine(q - n, q + n);
        if (!words.isEmpty()) tag(painter, (p + q) / 2, words, color);
    };
    for (const Reading& r : document_.part().readings)
        if (r.pick && r.contact == Contact::PictureLength && work_.source() != nullptr &&
            r.source == work_.source()->id)
            line(r.pick->a, r.pick->b, r.raw.empty() ? QString() : QObject::tr("this is %1").arg(lengthWords(r.raw[0])),
                 theme::kPetrol, Qt::SolidLine);
    if (work_.found()) {
        // Every ruler over its marks: the one that counts, and those that could be one.
        const Found& found = *work_.found();
        for (std::size_t i = 0; i < found.rulers.size(); ++i) {
            const Ruler& r = found.rulers[i];
            const bool counts =
                std::find(found.scaleRulers.begin(), found.scaleRulers.end(), i) != found.scaleRulers.end();
            // A ruler that was taken stands there as a known length.
            if (counts && !work_.offersRuler()) continue;
            const QColor color = counts ? theme::kMarigold : theme::kQuiet;
            painter.setPen(QPen(color, counts ? 1.6 : 1, counts ? Qt::SolidLine : Qt::DotLine));
            for (const PixelPoint& m : r.marks) {
                const double half = 0.5 * r.tickLength;
                painter.drawLine(toSheet_.map(QPointF(m.x, m.y)),
                                 toSheet_.map(QPointF(m.x + half * r.inwards.x, m.y + half * r.inwards.y)));
            }
            line(r.first, r.last,
                 counts      ? QObject::tr("ruler: %1 mm").arg(r.length(), 0, 'f', 1)
                 : r.refused ? QObject::tr("no ruler")
                             : QObject::tr("a ruler?"),
                 color, counts ? Qt::DashLine : Qt::DotLine);
        }
    }
    for (const Reading& r : document_.part().readings)
        if (r.contact == Contact::PictureLevel && work_.source() != nullptr && r.source == work_.source()->id)
            line(r.pick->a, r.pick->b, QObject::tr("level"), theme::kPetrol, Qt::DashDotLine);
    using Tool = PictureWork::Tool;
    const auto& places = work_.places();
    const PixelPoint here = pixelAt(mouse);
    const auto at = [&](PixelPoint p) { return toSheet_.map(QPointF(p.x, p.y)); };
    if (work_.region()) {
        const PixelRegion& r = *work_.region();
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme::kPetrol, 1.6, Qt::DashLine));
        painter.drawPolygon(toSheet_.map(QPolygonF(QRectF(r.x, r.y, r.width, r.height))));
    }
    if (places.empty()) return;
    const bool full = static_cast<int>(places.size()) == work_.placesWanted();
    switch (work_.tool()) {
        case Tool::KnownLength:
        case Tool::Level:
            line(places[0], full ? places[1] : here,
                 work_.tool() == Tool::Level ? QObject::tr("level") : QObject::tr("this is …"), theme::kPetrol,
                 Qt::DashLine);
            break;
        case Tool::Region:
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(theme::kPetrol, 1.6, Qt::DashLine));
            painter.drawPolygon(toSheet_.map(
                QPolygonF(QRectF(QPointF(places[0].x, places[0].y), QPointF(here.x, here.y)).normalized())));
            break;
        default: {
            QPolygonF ring;
            for (const PixelPoint& p : places) ring << at(p);
            painter.setPen(QPen(theme::kPetrol, 1.6, Qt::DashLine));
            painter.setBrush(Qt::NoBrush);
            const bool joined = work_.tool() == Tool::Outline || work_.tool() == Tool::Square;
            if (work_.tool() == Tool::Outline) painter.drawLine(ring.back(), mouse);
            if (joined && full) ring << ring.front();
            if (joined) painter.drawPolyline(ring);
            for (std::size_t i = 0; i < places.size(); ++i) {
                painter.setPen(QPen(theme::kPetrol, 1.6));
                painter.setBrush(Qt::white);
                painter.drawEllipse(at(places[i]), 4, 4);
            }
            break;
        }
    }
}

double PictureLayer::reach() const { return 10 / std::max(std::sqrt(std::abs(toSheet_.determinant())), 1e-6); }

void PictureLayer::paintKept(QPainter& painter) const {
    if (work_.source() == nullptr) return;
    const std::string& source = work_.source()->id;
    if (const auto& trace = document_.part().body.trace; trace && trace->source == source) {
        QPolygonF ring;
        for (const PixelPoint& p : trace->points) ring << toSheet_.map(QPointF(p.x, p.y));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(theme::kMarigold, 1.8));
        trace->half ? painter.drawPolyline(ring) : painter.drawPolygon(ring);
        painter.setBrush(theme::kMarigold);
        for (const QPointF& p : ring) painter.drawEllipse(p, 2.5, 2.5);
    }
    const auto& readings = document_.part().readings;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (readings[i].place && readings[i].source == source) {
            // Beside the number, so that it stays readable.
            const QPointF at = toSheet_.map(QPointF(readings[i].place->x, readings[i].place->y));
            const bool lit = readings[i].id == lit_;
            tag(painter, at - QPointF(1.4 * theme::em(), 1.0 * theme::em()), QString::number(i + 1),
                lit ? theme::kDatum : theme::kPetrol);
            if (!lit) continue;
            painter.setPen(QPen(theme::kDatum, 2));
            painter.setBrush(Qt::NoBrush);
            painter.drawEllipse(at, 2.0 * theme::em(), 1.2 * theme::em());
        }
}

void PictureLayer::paintNumber(QPainter& painter, QPointF mouse) const {
    const Drawing* drawing = work_.image() == nullptr ? nullptr : work_.image()->drawing();
    if (drawing == nullptr || work_.tool() != PictureWork::Tool::Dimension) return;
    const int under = work_.textAt(pixelAt(mouse));
    for (std::size_t i = 0; i < drawing->texts.size(); ++i) {
        const DrawnText& t = drawing->texts[i];
        const bool hit = static_cast<int>(i) == under;
        if (!hit && dimensionsIn(t.text, Unit::Mm).empty()) continue;
        const QTransform box =
            QTransform().rotate(t.turn) * QTransform::fromTranslate(t.middle.x, t.middle.y) * toSheet_;
        painter.setPen(hit ? QPen(theme::kPetrol, 2) : QPen(theme::kPetrol, 1, Qt::DotLine));
        painter.setBrush(hit ? theme::through(theme::kPetrol, 0.16) : Qt::transparent);
        const double w = 1.08 * t.width + 0.4 * t.height, h = 1.4 * t.height;
        painter.drawPolygon(box.map(QPolygonF(QRectF(-w / 2, -h / 2, w, h))));
    }
}

void PictureLayer::paintLoupe(QPainter& painter, QPointF mouse, const QRectF& area) const {
    const PictureImage* image = work_.image();
    if (image == nullptr) return;
    const double r = 5.5 * theme::em();
    // In the corner that the mouse is not in.
    const bool left = mouse.x() > area.center().x();
    const QPointF c(left ? area.left() + r + 12 : area.right() - r - 12, area.bottom() - r - 3 * theme::em());
    const PixelPoint at = pixelAt(mouse);
    if (at.x < 0 || at.y < 0 || at.x >= image->width() || at.y >= image->height()) return;
    const double scale = std::sqrt(std::abs(toSheet_.determinant()));
    const double magnified = std::max(10.0, 2 * scale);
    QPainterPath round;
    round.addEllipse(c, r, r);
    painter.save();
    painter.setClipPath(round);
    painter.fillRect(QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r), theme::kPaper);
    // As the sheet shows it, larger: the place under the mouse in its middle.
    QTransform t = toSheet_ * QTransform::fromTranslate(-mouse.x(), -mouse.y()) *
                   QTransform::fromScale(magnified / scale, magnified / scale) *
                   QTransform::fromTranslate(c.x(), c.y());
    image->paint(painter, t, QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r), 1.0);
    painter.setPen(QPen(theme::kMarigold, 1));
    painter.drawLine(c - QPointF(r, 0), c + QPointF(r, 0));
    painter.drawLine(c - QPointF(0, r), c + QPointF(0, r));
    painter.restore();
    painter.setPen(QPen(theme::kInk, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(c, r, r);
    tag(painter, QPointF(c.x(), c.y() + r + 0.9 * theme::em()),
        QObject::tr("picture %1, %2").arg(at.x, 0, 'f', 1).arg(at.y, 0, 'f', 1), theme::kInk);
}

}  // namespace punch
