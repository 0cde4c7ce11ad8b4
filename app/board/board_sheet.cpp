#include "app/board/board_sheet.h"

#include <QDragEnterEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QUrl>
#include <cmath>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/artwork/artwork.h"

namespace punch {
namespace {

QPointF mm(Point p) { return {p.x.mm(), p.y.mm()}; }

/// Areas, and lines as areas of their width.
QPainterPath pathOfAll(const std::vector<Shape>& shapes) {
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    for (const Shape& s : shapes) {
        if (const RoundedPolygon* one = s.rounded()) path.addPath(pathOf(*one, mm, Length::fromUm(10)));
        if (const Polygons* all = s.polygons()) path.addPath(pathOf(*all, mm));
        if (const Line* l = s.line()) {
            QPainterPath stroke;
            for (std::size_t i = 0; i < l->points.size(); ++i)
                i == 0 ? stroke.moveTo(mm(l->points[i])) : stroke.lineTo(mm(l->points[i]));
            QPainterPathStroker stroker;
            stroker.setWidth(std::max(l->width.mm(), 0.05));
            stroker.setCapStyle(Qt::RoundCap);
            stroker.setJoinStyle(Qt::RoundJoin);
            path.addPath(stroker.createStroke(stroke));
        }
    }
    return path;
}

}  // namespace

BoardSheet::BoardSheet(BoardModel& model, ViewState& view, QWidget* parent)
    : QWidget(parent), model_(model), view_(view) {
    setObjectName("boardSheet");
    setAccessibleName(tr("Trial board"));
    setFocusPolicy(Qt::StrongFocus);
    setAcceptDrops(true);
    setMinimumSize(300, 240);
    connect(&model_, &BoardModel::changed, this, [this] {
        if (!chosen_.empty() && placingById(model_.board(), chosen_) == nullptr &&
            findIn(model_.board().holes, [&](const BoardHole& h) { return h.id == chosen_; }) == nullptr)
            choose({});
        update();
    });
    connect(&model_, &BoardModel::judgedNew, this, [this] {
        lit_ = -1;
        update();
    });
    connect(&view_, &ViewState::changed, this, qOverload<>(&QWidget::update));
}

void BoardSheet::fit() {
    const Rect r = boundsOf(ringsOf(model_.board().outline));
    const double em = theme::em();
    scale_ = std::min((width() - 5 * em) / std::max(r.width().mm(), 1.0),
                      (height() - 6 * em) / std::max(r.height().mm(), 1.0));
    scale_ = std::clamp(scale_, 0.2, 200.0);
    const double x = r.middle().x.mm();
    shift_ = {width() / 2.0 - (below_ ? -x : x) * scale_, height() / 2.0 + r.middle().y.mm() * scale_ - em};
    update();
}

QTransform BoardSheet::toScreen() const {
    return QTransform(below_ ? -scale_ : scale_, 0, 0, -scale_, shift_.x(), shift_.y());
}
QPointF BoardSheet::map(Point p) const { return toScreen().map(mm(p)); }
Point BoardSheet::unmap(QPointF at) const {
    const QPointF p = toScreen().inverted().map(at);
    return {Length::fromMm(p.x()), Length::fromMm(p.y())};
}

void BoardSheet::choose(const std::string& id) {
    if (id == chosen_) return;
    chosen_ = id;
    ++drags_;
    update();
    emit chosenChanged();
}

void BoardSheet::setBelow(bool below) {
    if (below == below_) return;
    below_ = below;
    fit();
}

void BoardSheet::light(int finding) {
    lit_ = finding;
    const auto& all = model_.judgement().findings;
    if (finding >= 0 && finding < static_cast<int>(all.size()) && !all[static_cast<std::size_t>(finding)].about.empty())
        choose(all[static_cast<std::size_t>(finding)].about.front());
    update();
}

const BoardSheet::Drawn& BoardSheet::drawnOf(const std::shared_ptr<const BoardPart>& part) {
    Drawn& d = drawn_[part.get()];
    if (d.of == part) return d;
    d.of = part;
    const Part& p = part->part;
    const Footprint& f = part->footprint;
    const auto path = [&](Layer layer) { return pathOfAll(artwork(p, f, layer)); };
    d.body = path(Layer::Body);
    d.copperTop = path(Layer::TopCopper);
    d.copperBottom = path(Layer::BottomCopper);
    d.holes = path(Layer::PlatedHoles);
    d.bare = path(Layer::BareHoles);
    d.bare.addPath(path(Layer::CutOuts));
    d.inkTop = path(Layer::TopSilkscreen);
    d.inkBottom = path(Layer::BottomSilkscreen);
    d.courtyardTop = path(Layer::TopCourtyard);
    d.courtyardBottom = path(Layer::BottomCourtyard);
    d.keepouts = path(Layer::Keepouts);
    return d;
}

void BoardSheet::paintGraph(QPainter& p) {
    p.fillRect(rect(), theme::kPaper);
    double step = 1;
    while (step * scale_ < 9) step *= step == 2 ? 2.5 : 2;
    p.setPen(QPen(theme::kGraph, 1));
    const Point a = unmap({0, static_cast<double>(height())}), b = unmap({static_cast<double>(width()), 0});
    const double left = std::min(a.x.mm(), b.x.mm()), right = std::max(a.x.mm(), b.x.mm());
    for (double x = std::floor(left / step) * step; x <= right; x += step) {
        const double at = map({Length::fromMm(x), {}}).x();
        p.drawLine(QPointF(at, 0), QPointF(at, height()));
    }
    for (double y = std::floor(a.y.mm() / step) * step; y <= b.y.mm(); y += step) {
        const double at = map({{}, Length::fromMm(y)}).y();
        p.drawLine(QPointF(0, at), QPointF(width(), at));
    }
}

void BoardSheet::paintPart(QPainter& p, std::size_t index) {
    const Placing& placing = model_.board().placings[index];
    const auto& part = model_.parts()[index];
    const bool chosen = placing.id == chosen_;
    if (!part->trouble.empty()) {
        const QPointF at = map(placing.at);
        p.setPen(QPen(theme::kVermilion, 1.5, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(at.x() - 20, at.y() - 14, 40, 28));
        p.drawText(QRectF(at.x() - 100, at.y() + 16, 200, theme::em() * 1.4), Qt::AlignHCenter,
                   tr("%1: no file").arg(toQt(placing.designator)));
        return;
    }
    const Drawn& d = drawnOf(part);
    p.save();
    QTransform own;
    own.translate(placing.at.x.mm(), placing.at.y.mm());
    own.rotate(placing.turn.degrees());
    if (placing.bottom) own.scale(-1, 1);
    const QTransform t = own * toScreen();
    const bool near = placing.bottom == below_;  // its body is on the side from which one looks
    const auto fill = [&](const QPainterPath& path, const QColor& colour, const QPen& pen = Qt::NoPen) {
        p.setPen(pen);
        p.setBrush(colour);
        p.drawPath(t.map(path));
    };
    if (!near) p.setOpacity(0.75);
    fill(d.keepouts, theme::through(theme::kKeepout, 0.10), cosmetic(theme::kKeepout, 1, Qt::DashLine));
    fill(d.body, theme::through(theme::kBodySlate, near ? 0.22 : 0.08),
         cosmetic(theme::kBodySlate, 1.2, near ? Qt::SolidLine : Qt::DashLine));
    const QPainterPath& copper = near ? d.copperTop : d.copperBottom;
    const QPainterPath& far = near ? d.copperBottom : d.copperTop;
    fill(far, theme::through(theme::kCopper, 0.3));
    fill(copper, theme::kCopper, cosmetic(theme::kCopperEdge, 1));
    fill(d.holes, Qt::white, cosmetic(theme::kCopperEdge, 1));
    fill(d.bare, Qt::white, cosmetic(theme::kInk, 1.2));
    fill(near ? d.inkTop : d.inkBottom, theme::kInk);
    QPen yard = cosmetic(theme::kCourtyard, chosen ? 2 : 1.1, Qt::DashDotLine);
    fill(near ? d.courtyardTop : d.courtyardBottom,
         chosen ? theme::through(theme::kPetrol, 0.07) : QColor(Qt::transparent), yard);
    p.restore();
    if (chosen) {
        const QRectF box =
            t.map(d.courtyardTop.isEmpty() ? d.courtyardBottom : d.courtyardTop).boundingRect().adjusted(-5, -5, 5, 5);
        p.setPen(QPen(theme::kPetrol, 1.6));
        p.setBrush(Qt::NoBrush);
        for (const QPointF& c : {box.topLeft(), box.topRight(), box.bottomLeft(), box.bottomRight()}) {
            const double sx = c.x() < box.center().x() ? 1 : -1, sy = c.y() < box.center().y() ? 1 : -1;
            p.drawLine(c, c + QPointF(9 * sx, 0));
            p.drawLine(c, c + QPointF(0, 9 * sy));
        }
        p.setPen(theme::kPetrol);
        p.setFont(theme::digits(0.9, true));
        p.drawText(QRectF(box.left() - 60, box.top() - theme::em() * 1.6, box.width() + 120, theme::em() * 1.4),
                   Qt::AlignHCenter,
                   QString("%1  %2, %3  %4°%5")
                       .arg(toQt(placing.designator), view_.value(placing.at.x, 2), view_.length(placing.at.y, 2))
                       .arg(placing.turn.degrees())
                       .arg(placing.bottom ? tr(", bottom") : QString()));
    }
    // Where its datum lies, by which it is placed.
    p.setPen(QPen(theme::kDatum, 1));
    const QPointF at = map(placing.at);
    p.drawLine(at - QPointF(4, 0), at + QPointF(4, 0));
    p.drawLine(at - QPointF(0, 4), at + QPointF(0, 4));
}

void BoardSheet::paintFindings(QPainter& p) {
    const auto& all = model_.judgement().findings;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const BoardFinding& f = all[i];
        if (f.line.empty() || (f.state == GaugeState::Go && static_cast<int>(i) != lit_)) continue;
        if (f.check == BoardCheck::Outline && static_cast<int>(i) != lit_) continue;
        const QPointF a = map(f.line.front()), b = map(f.line.back());
        if (f.line.size() > 1) {
            p.setPen(QPen(theme::stateColor(f.state), static_cast<int>(i) == lit_ ? 3 : 2));
            p.drawLine(a, b);
        }
        drawStateMark(p, (a + b) / 2, static_cast<int>(i) == lit_ ? 8 : 5, f.state);
    }
}

void BoardSheet::paintScale(QPainter& p) {
    double length = 1;
    while (length * scale_ < 60) length *= length == 2 || length == 20 ? 2.5 : 2;
    const double y = height() - theme::em() * 1.2, x = theme::em();
    p.setPen(QPen(theme::kInk, 1.5));
    p.drawLine(QPointF(x, y), QPointF(x + length * scale_, y));
    p.setFont(theme::digits(0.9));
    p.drawText(QPointF(x, y - 4), view_.length(Length::fromMm(length), 2));
    p.setFont(theme::text(0.9, true));
    p.setPen(below_ ? theme::kDatum : theme::kQuiet);
    p.drawText(QRectF(0, height() - theme::em() * 2, width() - theme::em(), theme::em() * 1.6), Qt::AlignRight,
               below_ ? tr("seen from below") : tr("seen from the top"));
}

void BoardSheet::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintGraph(p);
    const Polygons rings = ringsOf(model_.board().outline);
    QPainterPath edge;
    edge.setFillRule(Qt::OddEvenFill);
    for (const auto& ring : rings) {
        QPolygonF polygon;
        for (const Point& c : ring) polygon << map(c);
        edge.addPolygon(polygon);
        edge.closeSubpath();
    }
    p.setPen(QPen(theme::kInk, 2));
    p.setBrush(theme::through(theme::kLaminate, 0.55));
    p.drawPath(edge);
    for (const BoardHole& h : model_.board().holes) {
        const QPointF at = map(h.at);
        const bool chosen = h.id == chosen_;
        p.setPen(cosmetic(theme::kKeepout, 1, Qt::DashLine));
        p.setBrush(theme::through(theme::kKeepout, 0.08));
        p.drawEllipse(at, h.clear.mm() / 2 * scale_, h.clear.mm() / 2 * scale_);
        p.setPen(QPen(chosen ? theme::kPetrol : theme::kInk, chosen ? 2.5 : 1.5));
        p.setBrush(Qt::white);
        p.drawEllipse(at, h.diameter.mm() / 2 * scale_, h.diameter.mm() / 2 * scale_);
    }
    // From the far side to the near one, the chosen one last.
    const auto& placings = model_.board().placings;
    for (const int pass : {0, 1, 2})
        for (std::size_t i = 0; i < placings.size() && i < model_.parts().size(); ++i) {
            const bool chosen = placings[i].id == chosen_, near = placings[i].bottom == below_;
            if ((chosen ? 2 : near ? 1 : 0) == pass) paintPart(p, i);
        }
    for (const Point& f : model_.board().fiducials) {
        const QPointF at = map(f);
        p.setPen(cosmetic(theme::kCopperEdge, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(at, scale_, scale_);
        p.setPen(Qt::NoPen);
        p.setBrush(theme::through(theme::kCopper, below_ ? 0.3 : 1));
        p.drawEllipse(at, scale_ / 2, scale_ / 2);
    }
    paintFindings(p);
    paintScale(p);
    if (placings.empty()) {
        p.setPen(theme::kQuiet);
        p.setFont(theme::text(1.1));
        p.drawText(rect(), Qt::AlignCenter, tr("Drag a part from the list onto the board"));
    }
}

}  // namespace punch
