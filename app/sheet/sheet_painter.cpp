#include "app/sheet/sheet_painter.h"

#include <QFontMetricsF>
#include <QPainterPath>
#include <cmath>
#include <map>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/theme.h"
#include "core/pins/pin_checks.h"
#include "core/pins/variants.h"
#include "core/base/find_in.h"
#include "core/clear/spacing.h"

namespace punch {
void SheetPainter::label(QPointF at, const QString& words, const QColor& color, double factor) {
    const QFont font = theme::text(factor);
    QRectF box = QFontMetricsF(font).boundingRect(words);
    box.moveCenter(at);
    // Labels give way downwards rather than stand on each other.
    for (int tries = 0; tries < 12; ++tries) {
        bool clear = true;
        for (const QRectF& other : labels_) clear &= !other.intersects(box);
        if (clear) break;
        box.translate(0, box.height() * 0.55);
    }
    // Nothing leaves the sheet.
    const QRectF sheet(p_.viewport());
    if (box.left() < sheet.left() + 4) box.moveLeft(sheet.left() + 4);
    if (box.right() > sheet.right() - 4) box.moveRight(sheet.right() - 4);
    labels_.push_back(box);
    p_.setFont(font);
    this->words(box.adjusted(-20, 0, 20, 0), Qt::AlignCenter | Qt::TextDontClip, words, color);
}

void SheetPainter::words(const QRectF& box, int how, const QString& text, const QColor& ink) {
    // Over a picture even what is quiet has to be read.
    const QColor& shown = over_ && ink == theme::kQuiet ? theme::kInk : ink;
    if (over_) {
        // The letters, wider by an edge of paper.
        const QFontMetricsF metrics(p_.font());
        const double w = metrics.horizontalAdvance(text);
        const double x = how & Qt::AlignRight  ? box.right() - w
                         : how & Qt::AlignLeft ? box.left()
                                               : box.center().x() - w / 2;
        const double y = box.center().y() + (metrics.ascent() - metrics.descent()) / 2;
        QPainterPath letters;
        letters.addText(QPointF(x, y), p_.font(), text);
        p_.strokePath(letters,
                      QPen(theme::through(theme::kPaper, 0.92), 3.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    }
    p_.setPen(shown);
    p_.drawText(box, how, text);
}

void SheetPainter::paper(const QRectF& area) {
    p_.fillRect(area, theme::kPaper);
    // Graph lines every millimetre, or every 5 or 10 where that would be too dense. They are for the eye only.
    double step = 1;
    while (step * t_.scale < 14) step *= step == 1 || step == 10 ? 5 : 2;
    p_.setPen(QPen(theme::kGraph, 1));
    const Point low = t_.unmap(area.bottomLeft());
    const Point high = t_.unmap(area.topRight());
    const double x0 = std::min(low.x.mm(), high.x.mm());
    const double x1 = std::max(low.x.mm(), high.x.mm());
    for (double x = std::ceil(x0 / step) * step; x <= x1; x += step)
        p_.drawLine(QPointF(t_.mapMm(x, 0).x(), area.top()), QPointF(t_.mapMm(x, 0).x(), area.bottom()));
    for (double y = std::ceil(low.y.mm() / step) * step; y <= high.y.mm(); y += step)
        p_.drawLine(QPointF(area.left(), t_.mapMm(0, y).y()), QPointF(area.right(), t_.mapMm(0, y).y()));
}

void SheetPainter::body() {
    QColor fill = theme::kBodySlate;
    fill.setAlphaF(0.13F);
    for (const Shape& shape : artwork(part_, f_, Layer::Body)) {
        const bool face = shape.line() != nullptr;
        // Loose ones among its faces follow as lines of their own.
        p_.setPen(!face && !shape.firm && !f_.body->traced() ? QPen(Qt::NoPen)
                  : face && !shape.firm                      ? looseSide()
                                                             : cosmetic(theme::kBodySlate, 1.4));
        p_.setBrush(face ? QBrush(Qt::NoBrush) : QBrush(fill));
        p_.drawPath(pathOf(shape, t_));
    }
    p_.setBrush(Qt::NoBrush);
}

void SheetPainter::keepouts() {
    for (const Shape& shape : artwork(part_, f_, Layer::Keepouts)) {
        const QPainterPath area = pathOf(shape, t_);
        const QRectF r = area.boundingRect();
        QColor fill = theme::kKeepout;
        fill.setAlphaF(0.08F);
        p_.fillPath(area, fill);
        p_.save();
        p_.setClipPath(area, Qt::IntersectClip);
        fill.setAlphaF(0.55F);
        p_.setPen(QPen(fill, 1));
        for (double x = r.left() - r.height(); x < r.right(); x += 11)
            p_.drawLine(QPointF(x, r.bottom()), QPointF(x + r.height(), r.top()));
        p_.restore();
        QPen edge = cosmetic(theme::kKeepout, 1.2, Qt::DotLine);
        p_.setPen(shape.firm ? edge : looseSide());
        p_.setBrush(Qt::NoBrush);
        p_.drawPath(area);
        const Rect box = shape.box();
        const QString words = QObject::tr("%1 %2: nothing taller than %3")
                                  .arg(toQt(shape.name), view_.value(min(box.height(), box.width()), 2),
                                       view_.length(shape.keeps.maxHeight, 2));
        const QFont font = theme::text(0.9);
        QRectF room = QFontMetricsF(font).boundingRect(words).adjusted(-6, -1, 6, 1);
        if (room.width() > r.width()) continue;
        room.moveCenter(QPointF(r.center().x(), r.bottom() - room.height() * 0.8));
        p_.fillRect(room, theme::kKeepoutPale);
        p_.setFont(font);
        p_.setPen(theme::kKeepout.darker(125));
        p_.drawText(room, Qt::AlignCenter, words);
    }
}

void SheetPainter::courtyard() {
    if (f_.courtyard.empty) return;
    const QRectF r = t_.map(f_.courtyard);
    QPen pen(theme::kCourtyard, 1.4);
    pen.setDashPattern({7, 3, 1.5, 3});
    p_.setBrush(Qt::NoBrush);
    for (const Shape& shape : artwork(part_, f_, t_.mirrored ? Layer::BottomCourtyard : Layer::TopCourtyard))
        edged(pen, [&] { p_.drawPath(pathOf(shape, t_)); });
    const QString words = QObject::tr("courtyard +%1").arg(view_.length(f_.courtyardExcess, 2));
    const QFont font = theme::text(0.85);
    const double w = QFontMetricsF(font).horizontalAdvance(words);
    p_.setFont(font);
    const QRectF box(r.right() - w - 2, r.bottom() + 1, w + 4, QFontMetricsF(font).height());
    labels_.push_back(box);
    this->words(box, Qt::AlignRight | Qt::AlignVCenter, words, theme::kCourtyard);
}

void SheetPainter::halos() {
    // A distance between two is seen around one of them: the potential with most pins goes without.
    std::map<std::string, int> pins;
    for (const Halo& h : f_.halos) ++pins[h.potential];
    std::string most;
    for (const auto& [name, count] : pins)
        if (pins.size() > 1 && (most.empty() || count > pins[most])) most = name;
    if (pins.size() > 1 && pins[most] < 5) most.clear();
    for (const Halo& h : f_.halos) {
        const Pad* pad = f_.pad(h.pin);
        if (pad == nullptr || h.potential == most) continue;
        QColor fill = h.volts.starts_with("0 V") ? theme::kBodySlate : theme::kVermilion;
        QPen edge(fill, 1, Qt::DashLine);
        fill.setAlphaF(f_.halos.size() > 6 ? 0.05F : 0.09F);
        p_.setPen(edge);
        p_.setBrush(fill);
        if (h.needed > Length()) p_.drawPath(pathOf(widened(landShape(*pad), h.needed), t_));
    }
    for (const Halo& h : f_.halos)
        if (const Pad* pad = f_.pad(h.pin))
            label(t_.map(pad->at) + QPointF(0, t_.px(shownLand(*pad).length / 2) + theme::em() * 0.8), toQt(h.volts),
                  theme::kInk, 0.9);
    // The chosen pair or the worst one: the way over the surface, and the one through air where it is another.
    const VoltagePair* shown = f_.voltages.empty() ? nullptr : &f_.voltages.front();
    for (const VoltagePair& v : f_.voltages)
        if (v.a == view_.pairA() && v.b == view_.pairB()) shown = &v;
    if (shown == nullptr || shown->line.size() < 2) return;
    const auto polyline = [&](const std::vector<Point>& points) {
        QPolygonF line;
        for (const Point& p : points) line << t_.map(p);
        p_.drawPolyline(line);
    };
    p_.setBrush(Qt::NoBrush);
    if (!shown->path.empty()) {
        QPen air = cosmetic(theme::kPetrol, 1.3);
        air.setStyle(Qt::DashLine);
        p_.setPen(air);
        polyline(shown->line);
    }
    const std::vector<Point>& over = shown->path.empty() ? shown->line : shown->path;
    p_.setPen(cosmetic(theme::kVermilion, 1.8));
    polyline(over);
    const QString words = QObject::tr("%1 of %2")
                              .arg(view_.value(shown->path.empty() ? shown->gap : shown->way, 2),
                                   view_.length(shown->creepage.value_or(shown->needed), 2));
    const Pad* a = f_.pad(shown->a);
    const Pad* b = f_.pad(shown->b);
    const double clear = a == nullptr || b == nullptr
                             ? theme::em() * 1.4
                             : t_.px(max(shownLand(*a).length, shownLand(*b).length)) / 2 + theme::em() * 0.7;
    if (shown->path.empty())
        label((t_.map(over.front()) + t_.map(over.back())) / 2 - QPointF(0, clear), words, theme::kVermilion, 0.9);
    else
        label(besideWay(over), words, theme::kVermilion, 0.9);
}

/// Beside the way's first straight line, on its outer side: away from the cut that it goes around.
QPointF SheetPainter::besideWay(const std::vector<Point>& way) const {
    const QPointF a = t_.map(way[0]);
    const QPointF b = t_.map(way[1]);
    const QPointF end = t_.map(way.back());
    const double side = (b.x() - a.x()) * (end.y() - a.y()) - (b.y() - a.y()) * (end.x() - a.x());
    QPointF out(-(b.y() - a.y()), b.x() - a.x());
    if (side > 0) out = -out;
    const double length = std::max(std::hypot(out.x(), out.y()), 1e-6);
    // A label is wide and low.
    const QPointF by(out.x() / length * theme::em() * 3.8, out.y() / length * theme::em() * 1.2);
    return a + (b - a) * 0.55 + by;
}

/// A land; what lies on the far face alone is seen through the board.
void SheetPainter::land(const SeenCopper& seen) {
    QColor fill = theme::kCopper;
    if (seen.through)
        fill.setAlphaF(0.35F);
    else if (!seen.shape.firm)
        fill.setAlphaF(0.45F);
    p_.setPen(seen.through       ? cosmetic(theme::kCopperEdge, 1.3, Qt::DashLine)
              : !seen.shape.firm ? looseSide()
                                 : cosmetic(theme::kCopperEdge, 1.3));
    p_.setBrush(fill);
    p_.drawPath(pathOf(seen.shape, t_));
}

/// The section of a lead in its hole, and of its end where that is another.
void SheetPainter::lead(const Pad& pad) {
    const QPointF c = t_.map(pad.at - pad.off);
    const double lx = t_.px(pad.leadX) / 2;
    const double ly = t_.px(pad.leadY) / 2;
    p_.setPen(cosmetic(theme::kSteelEdge, 1));
    p_.setBrush(theme::kSteel);
    const QRectF lead(-lx, -ly, 2 * lx, 2 * ly);
    p_.save();
    p_.translate(c);
    p_.rotate(t_.mirrored ? pad.leadTurn.degrees() : -pad.leadTurn.degrees());
    if (pad.leadRound)
        p_.drawEllipse(lead);
    else if (pad.leadOval)
        p_.drawRoundedRect(lead, std::min(lx, ly), std::min(lx, ly));
    else
        p_.drawRect(lead);
    if (pad.endX > Length()) {
        const double ex = t_.px(pad.endX) / 2;
        const double ey = t_.px(pad.endY) / 2;
        p_.setPen(cosmetic(theme::kSteelEdge, 1, Qt::DashLine));
        p_.setBrush(Qt::NoBrush);
        p_.drawRect(QRectF(-ex, -ey, 2 * ex, 2 * ey));
    }
    p_.restore();
}

void SheetPainter::copper() {
    if (view_.offered() && view_.station() == Station::Size) {
        QPen pen = cosmetic(theme::kPetrol, 1.6);
        pen.setStyle(Qt::DashLine);
        p_.setPen(pen);
        p_.setBrush(theme::kPetrolPale);
        const RoundedPolygon shape = *view_.offered()->rounded();
        p_.drawPath(pathOf(shape, t_));
        // At its left end: its middle is where a datum likes to stand.
        const QRectF box = t_.map(boundsOf(shape));
        label(QPointF(box.left() + theme::em() * 3, box.center().y()), QObject::tr("offered"), theme::kPetrol, 0.85);
    }
    p_.setPen(cosmetic(theme::kInk, 1.4));
    p_.setBrush(theme::kPaper);
    for (const Shape& cut : artwork(part_, f_, Layer::CutOuts)) p_.drawPath(pathOf(cut, t_));
    for (const SeenCopper& seen : seenCopper(part_, f_, t_.mirrored)) land(seen);
    p_.setPen(cosmetic(theme::kCopperEdge, 1));
    p_.setBrush(Qt::white);
    for (const Shape& hole : artwork(part_, f_, Layer::PlatedHoles)) p_.drawPath(pathOf(hole, t_));
    landNumbers();
    if (view_.lens(Lens::Body)) otherLeads();
    padsWithoutPins();
    for (const Pad& pad : f_.pads) {
        const QPointF c = t_.map(pad.at);
        if (view_.lens(Lens::Body)) lead(pad);
        const double h = t_.px(pad.hole > Length() ? pad.hole : shownLand(pad).length) / 2;
        const double r = t_.px(boundsOf(landShape(pad)).top - pad.at.y);
        const double mark = std::min(h * 0.5, 7.0);
        p_.setPen(QPen(theme::kInk, 1));
        p_.drawLine(QPointF(c.x() - mark, c.y()), QPointF(c.x() + mark, c.y()));
        p_.drawLine(QPointF(c.x(), c.y() - mark), QPointF(c.x(), c.y() + mark));
        // Numbers stand above their pads; on crowded rows only as large as the pitch allows.
        const double size = std::min(1.05, std::max(0.5, r / theme::em()));
        p_.setFont(theme::digits(size, true));
        const double em = theme::em() * size;
        words(QRectF(c.x() - 40, c.y() - r - em * 1.25, 80, em * 1.2), Qt::AlignCenter, toQt(pad.number), theme::kInk);
    }
}

/// In Release: pads that no pin of the table, or of the chosen pinout, is joined to.
void SheetPainter::padsWithoutPins() {
    if (view_.station() != Station::Release || part_.pins.empty()) return;
    const Variant* variant = variantOf(part_, view_.variant());
    const Joints joints = jointsOf(variant != nullptr && !variant->pins.empty() ? variant->pins : part_.pins, f_.pads);
    for (const FeatureId& id : joints.alone) {
        const Pad* pad = f_.pad(id);
        if (pad == nullptr) continue;
        const QRectF box = t_.map(boundsOf(landShape(*pad))).adjusted(-5, -5, 5, 5);
        QPen pen = cosmetic(theme::kVermilion, 2);
        pen.setStyle(Qt::DashLine);
        p_.setPen(pen);
        p_.setBrush(Qt::NoBrush);
        p_.drawEllipse(box);
        label(QPointF(box.center().x(), box.bottom() + theme::em() * 0.7), QObject::tr("no pin"), theme::kVermilion, 0.85);
    }
}

/// Where the leads of other makes need their holes.
void SheetPainter::otherLeads() {
    p_.setBrush(Qt::NoBrush);
    QPen pen = cosmetic(theme::kPetrol, 1);
    pen.setStyle(Qt::DotLine);
    p_.setPen(pen);
    for (const MakeOver& make : f_.makes)
        for (const MakeLead& lead : make.leads)
            for (const RoundedPolygon& room : lead.room) p_.drawPath(pathOf(room, t_));
}

/// Numbers of surface lands, in the land where it is wide enough, else of the first one only, beside it.
void SheetPainter::landNumbers() {
    for (const Conductor& c : f_.attached.lands) {
        if (!isSurfaceLand(c)) continue;
        const QRectF box = t_.map(boundsOf(landShape(c)));
        const double side = std::min(box.width(), box.height());
        const bool first = c.number == "1";
        const QString text = toQt(c.number);
        const double size = std::min(0.95, side / theme::em() * 0.6);
        p_.setFont(theme::digits(std::max(size, 0.8), true));
        const QRectF words = QFontMetricsF(p_.font()).boundingRect(text);
        if (size >= 0.6 && words.width() < box.width()) {
            p_.setPen(Qt::white);
            p_.drawText(box, Qt::AlignCenter, text);
        } else if (first) {
            const Point middle = f_.place(kBody).value_or(Point{});
            const bool above = c.at.y > middle.y;
            label(QPointF(box.center().x(), above ? box.top() - theme::em() * 0.7 : box.bottom() + theme::em() * 0.7),
                  text, theme::kInk, 0.9);
        }
    }
}

void SheetPainter::spots() {
    for (const BareHole& hole : f_.bareHoles) {
        const QPointF c = t_.map(hole.at);
        const double r = t_.px(hole.size) / 2;
        if (const Spot* spot = spotOf(part_, hole.id); spot != nullptr && spot->head > Length()) {
            // Metal that lies on the board: a screw's head, a washer.
            QColor metal = theme::kSteel;
            metal.setAlphaF(0.35F);
            QPen edge = cosmetic(theme::kSteelEdge, 1.2);
            edge.setStyle(Qt::DashLine);
            p_.setPen(edge);
            p_.setBrush(metal);
            const double head = t_.px(spot->head) / 2;
            p_.drawEllipse(c, head, head);
        }
        // Without the lens its land is left out with the others, but not the hole that a peg stands in.
        p_.setPen(cosmetic(hole.plated ? theme::kCopperEdge : theme::kInk, 1.4));
        p_.setBrush(Qt::white);
        p_.drawPath(pathOf(holeShape(hole, false), t_));
        if (!hole.firm || !hole.sized) {
            p_.setPen(looseSide());
            p_.setBrush(Qt::NoBrush);
            p_.drawEllipse(c, r + 4, r + 4);
        }
        if (view_.lens(Lens::Body)) {
            const double peg = t_.px(hole.peg.across.mean) / 2;
            QColor fill = theme::kBodySlate;
            fill.setAlphaF(0.35F);
            p_.setPen(cosmetic(theme::kBodySlate, 1));
            p_.setBrush(fill);
            if (hole.flat)
                p_.drawRect(QRectF(c.x() - t_.px(hole.flatX) / 2, c.y() - t_.px(hole.flatY) / 2, t_.px(hole.flatX),
                                   t_.px(hole.flatY)));
            else
                p_.drawEllipse(c, peg, peg);
        }
        const bool loose = !hole.firm || !hole.sized;
        // Under all that is drawn of it.
        const QRectF shown = t_.map(boundsOf(hole.plated ? copperShape(hole.land) : holeShape(hole, false)));
        label(QPointF(c.x(), shown.bottom() + theme::em() * 0.75),
              loose ? QObject::tr("%1, loose").arg(toQt(hole.name)) : toQt(hole.name),
              loose ? theme::kMarigoldInk : theme::kQuiet, 0.9);
    }
}

void SheetPainter::ink() {
    p_.setBrush(Qt::NoBrush);
    const auto strokes = [&](Layer layer, const QColor& color, double wider) {
        for (const Shape& s : artwork(part_, f_, layer)) {
            if (s.polygons() != nullptr) {
                p_.setPen(wider > 0 ? cosmetic(color, wider) : QPen(Qt::NoPen));
                p_.setBrush(color);
                p_.drawPath(pathOf(s, t_));
                p_.setBrush(Qt::NoBrush);
                continue;
            }
            QPolygonF line;
            for (const Point& pt : s.line()->points) line << t_.map(pt);
            p_.setPen(cosmetic(color, std::max(1.0, t_.px(s.line()->width)) + wider));
            p_.drawPolyline(line);
        }
    };
    // All edges first: strokes that lie beside each other make one figure.
    if (over_)
        for (const Layer layer : {Layer::Assembly, Layer::TopSilkscreen})
            strokes(layer, theme::through(theme::kPaper, 0.8), 2.6);
    strokes(Layer::Assembly, theme::kAssembly, 0);
    // The side one looks at is printed over the other's, which shines through.
    const Layer near = t_.mirrored ? Layer::BottomSilkscreen : Layer::TopSilkscreen;
    const Layer far = t_.mirrored ? Layer::TopSilkscreen : Layer::BottomSilkscreen;
    strokes(far, theme::through(theme::kInk, 0.35), 0);
    strokes(near, theme::kInk, 0);
}

void SheetPainter::datum() {
    const QPointF c = t_.mapMm(0, 0);
    p_.setBrush(Qt::NoBrush);
    edged(cosmetic(theme::kDatum, 1.6), [&] {
        p_.drawEllipse(c, 7, 7);
        p_.drawLine(c - QPointF(12, 0), c + QPointF(12, 0));
        p_.drawLine(c - QPointF(0, 12), c + QPointF(0, 12));
    });
    label(c + QPointF(0, 12 + theme::em() * 0.7), QObject::tr("datum"), theme::kDatum, 0.9);
}

void SheetPainter::looseWords(const QRectF& area) {
    // A short list above the scale bar; on the drawing itself a dashed edge and one word are enough.
    constexpr std::size_t kMostLines = 4;
    const double em = theme::em();
    const std::size_t lines = std::min(f_.loose.size(), kMostLines);
    p_.setFont(theme::text(0.9));
    for (std::size_t i = 0; i < lines; ++i) {
        QString words = toQt(f_.loose[i].words);
        if (i + 1 == lines && f_.loose.size() > lines)
            words = QObject::tr("and %1 more").arg(f_.loose.size() - lines + 1);
        const double y = area.bottom() - em * (4.0 + 1.15 * static_cast<double>(lines - i));
        QRectF box = QFontMetricsF(p_.font()).boundingRect(words);
        box.moveTopLeft(QPointF(area.left() + 18, y));
        p_.fillRect(box.adjusted(-4, 0, 4, 0), theme::through(theme::kPaper, 0.88));
        p_.setPen(theme::kMarigoldInk);
        p_.drawText(box, Qt::AlignLeft | Qt::AlignVCenter | Qt::TextDontClip, words);
    }
}

void SheetPainter::scaleBar(const QRectF& area) {
    // Round in the unit that is shown.
    const double unit = view_.unit() == Unit::Mm ? 1.0 : view_.unit() == Unit::Mil ? 0.0254 : 25.4;
    double mm = 0;
    const double want = 90;
    for (double decade = 1e-3; decade < 1e5; decade *= 10)
        for (const double step : {1.0, 2.0, 5.0})
            if (step * decade * unit * t_.scale <= want * 1.5) mm = step * decade * unit;
    if (mm <= 0) return;
    const QPointF a(area.left() + 18, area.bottom() - 14);
    edged(QPen(theme::kInk, 1.6), [&] {
        p_.drawLine(a, a + QPointF(mm * t_.scale, 0));
        p_.drawLine(a - QPointF(0, 3), a + QPointF(0, 3));
        p_.drawLine(a + QPointF(mm * t_.scale, -3), a + QPointF(mm * t_.scale, 3));
    });
    p_.setFont(theme::digits(0.9));
    words(QRectF(a + QPointF(4, -5 - theme::em()), QSizeF(200, theme::em())), Qt::AlignLeft | Qt::AlignVCenter,
          view_.unit() == Unit::Inch ? QObject::tr("%1 inch").arg(mm / unit)
                                     : QObject::tr("%1 %2").arg(mm / unit).arg(view_.unitText()),
          theme::kInk);
}

}  // namespace punch
