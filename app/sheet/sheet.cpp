#include "app/sheet/sheet.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/pictures/picture_layer.h"
#include "app/qt_text.h"
#include "app/sheet/sheet_painter.h"
#include "app/theme.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {
constexpr double kLeastScale = 0.5;
constexpr double kMostScale = 2000;
}  // namespace

Sheet::Sheet(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), entry_(entry) {
    makeHands();
    setObjectName("sheet");
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAccessibleName(tr("Sheet"));
    const auto again = [this] {
        layOut();
        update();
    };
    const auto measured = [this, again] {
        updateBetween();
        again();
    };
    settle_.setSingleShot(true);
    settle_.setInterval(150);
    connect(&settle_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
    connect(&document_, &Document::changed, this, measured);
    connect(&view_, &ViewState::chosenChanged, this, measured);
    connect(&view_, &ViewState::changed, this, again);
    connect(&view_, &ViewState::unitChanged, this, measured);
    // A tool in hand belongs to the sheet: Esc puts it away, wherever it was taken.
    connect(&view_, &ViewState::cuttingChanged, this, [this] {
        if (view_.cutting()) setFocus();
    });
    connect(&entry_, &ReadingEntry::changed, this, again);
}

void Sheet::setLowerBars(int height) {
    if (lowerBars_ == height) return;
    lowerBars_ = height;
    layOut();
    update();
}

Rect Sheet::content() const {
    if (pictured()) return pictures_->outline();
    const Footprint& f = document_.footprint();
    Rect box = f.courtyard;
    box.add(boundsOf(f.silkscreen));
    for (const FaceLine& face : f.faces)
        if (const auto at = f.place(face.id); at && face.axis != Axis::Height) box.add(*at);
    for (const MarkPoint& m : f.marks) box.add(m.at);
    if (view_.lens(Lens::Voltage))
        for (const Halo& h : f.halos)
            if (const Pad* pad = f.pad(h.pin)) box.add(boundsOf(landShape(*pad)).grown(h.needed));
    if (box.empty) box = Rect::around({}, Length::fromMm(10), Length::fromMm(10));
    return box;
}

QRectF Sheet::contentBox() const { return t_.map(content()); }

void Sheet::fit() {
    fitted_ = true;
    layOut();
    update();
}

void Sheet::layOut() {
    if (!document_.open()) return;
    t_.mirrored = view_.fromSolderSide();
    const bool readings = view_.lens(Lens::Readings) && !pictured();
    const auto lanes = [&] {
        layout_ = readings
                      ? layOutDimensions(document_.part(), document_.footprint(), view_, t_, contentBox(),
                                         view_.station() == Station::Measure && entry_.editing() < 0 ? entry_.pending()
                                                                                                     : std::nullopt)
                      : DimensionLayout{};
    };
    // Under a hand that drags a feature the sheet lies still.
    if (still_) {
        const Point datum = document_.footprint().datum;
        t_.origin += t_.map(datum) - t_.map(*still_);
        still_ = datum;
        lanes();
        return;
    }
    if (!fitted_) {
        lanes();
        return;
    }
    // Lanes depend on the scale and the scale on the lanes: three rounds settle it.
    const Rect box = content();
    const double em = theme::em();
    for (int round = 0; round < 4; ++round) {
        // The list of what is loose stands in the lower corner.
        const double words =
            1.15 * em * static_cast<double>(std::min<std::size_t>(document_.footprint().loose.size(), 4));
        const double caption = view_.lens(Lens::Doubt) ? 1.8 * em : 0.0;
        // The courtyard's name stands under it.
        const double name = view_.lens(Lens::Courtyard) && !pictured() ? 1.4 * em : 0.0;
        const double bars = pictured() ? 5.0 * em : 2.8 * em;
        const QRectF room(
            em + layout_.left, bars + layout_.above + caption, width() - 2 * em - layout_.right - layout_.left,
            height() - bars - 2.5 * em - layout_.above - layout_.below - caption - words - name - lowerBars_);
        const double scale = std::min(room.width() / box.width().mm(), room.height() / box.height().mm());
        t_.scale = std::clamp(scale, kLeastScale, 60.0);
        const Point m = box.middle();
        t_.origin = room.center() - QPointF((t_.mirrored ? -1 : 1) * m.x.mm() * t_.scale, -m.y.mm() * t_.scale);
        lanes();
    }
}

void Sheet::zoom(double factor) {
    fitted_ = false;
    settle_.start();
    const QPointF at = mouseIn_ ? mouse_ : QPointF(rect().center());
    const double scale = std::clamp(t_.scale * factor, kLeastScale, kMostScale);
    t_.origin = at + (t_.origin - at) * (scale / t_.scale);
    t_.scale = scale;
    layOut();
    update();
}

void Sheet::goTo(const FeatureId& id) {
    const auto place = document_.footprint().place(id);
    if (!place) return;
    const QPointF at = t_.map(*place);
    if (!rect().adjusted(40, 60, -40, -60).contains(at.toPoint())) {
        fitted_ = false;
        t_.origin += QPointF(rect().center()) - at;
    }
    layOut();
    update();
}

QPointF Sheet::placeOf(const FeatureId& id) const {
    const auto place = document_.footprint().place(id);
    return place ? t_.map(*place) : QPointF(-1, -1);
}

FeatureId Sheet::featureAt(QPointF at) const {
    if (!document_.open()) return {};
    const Footprint& f = document_.footprint();
    const auto away = [&](Point p) { return std::hypot(at.x() - t_.map(p).x(), at.y() - t_.map(p).y()); };
    for (const BareHole& h : f.bareHoles)
        if (away(h.at) <= std::max(t_.px(h.size) / 2 + 2, kReach)) return h.id;
    for (const Pad& p : f.pads)
        if (away(p.at) <= std::max(t_.px(shownLand(p).width) / 2 + 2, kReach)) return p.id;
    for (const MarkPoint& m : f.marks)
        if (away(m.at) <= kReach + 4) return m.id;
    for (const FaceLine& face : f.faces) {
        const QPointF c = t_.map(f.place(face.id).value_or(Point{}));
        const double across = face.axis == Axis::Along ? at.x() - c.x() : at.y() - c.y();
        const double along = face.axis == Axis::Along ? at.y() - c.y() : at.x() - c.x();
        if (face.axis != Axis::Height && std::abs(across) <= kReach && std::abs(along) <= 9 * t_.scale) return face.id;
    }
    if (!f.body) return {};
    const QRectF r = t_.map(f.body->rect);
    const QRectF wide = r.adjusted(-kReach, -kReach, kReach, kReach);
    if (!wide.contains(at)) return {};
    const bool m = t_.mirrored;
    if (std::abs(at.y() - r.top()) <= kReach) return kRearFace;
    if (std::abs(at.y() - r.bottom()) <= kReach) return kFrontFace;
    if (std::abs(at.x() - r.left()) <= kReach) return m ? kRightFace : kLeftFace;
    if (std::abs(at.x() - r.right()) <= kReach) return m ? kLeftFace : kRightFace;
    return kBody;
}

void Sheet::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!document_.open()) {
        painter.fillRect(rect(), theme::kPaper);
        return;
    }
    const QRectF area(rect());
    SheetPainter draw(painter, document_.part(), document_.footprint(), view_, t_);
    draw.setOverPicture(pictures_ != nullptr && pictures_->image() != nullptr &&
                        (pictured() || view_.lens(Lens::Source)));
    draw.paper(area);
    if (pictured()) {
        const PictureLayer layer(*pictures_, document_, t_, view_.lit());
        // Where the picture does not lie on the part yet, the footprint says nothing about it.
        const bool compared = pictures_->laid() || (!pictures_->found() && pictures_->joined());
        // What was read from it, over it; then what is still only proposed.
        withPicture(painter, area, [&] {
            if (compared && view_.lens(Lens::Copper)) draw.onPicture();
        });
        layer.paintKept(painter);
        layer.paintLengths(painter, mouse_);
        if (!pictures_->laid()) layer.paintFound(painter);
        layer.paintNumber(painter, mouse_);
        layer.paintFace(painter, area);
        draw.scaleBar(area);
        if (mouseIn_ && !dragging_ && pictures_->tool() != PictureWork::Tool::Dimension)
            layer.paintLoupe(painter, mouse_, area);
        return;
    }
    withPicture(painter, area, [&] { paintFootprint(draw, area); });
    if (pictures_ != nullptr && pictures_->wipe() && pictures_->image() != nullptr && view_.lens(Lens::Source))
        paintWipe(painter, area);
    draw.dimensions(layout_);
    for (const auto& hand : hands_) hand->paint(painter);
    paintBetween(painter);
    draw.scaleBar(area);
    const QString status = statusText();
    if (!status.isEmpty()) {
        painter.setFont(theme::digits(0.95));
        const double w = QFontMetricsF(painter.font()).horizontalAdvance(status) + 16;
        const QRectF box(area.right() - w - 6, area.bottom() - theme::em() * 1.9, w, theme::em() * 1.5);
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme::through(theme::kPaper, 0.88));
        painter.drawRoundedRect(box, 4, 4);
        painter.setPen(theme::kInk);
        painter.drawText(box, Qt::AlignCenter, status);
    }
    if (hasFocus()) {
        painter.setPen(QPen(theme::kPetrol, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(area.adjusted(1, 1, -1, -1));
    }
}

void Sheet::paintFootprint(SheetPainter& draw, const QRectF& area) {
    const std::optional<Reading> none;
    const bool measuring = view_.station() == Station::Measure;
    if (view_.look() != BoardLook::Drawing) {
        // The board alone: nothing that is not on it stands in the way.
        if (view_.look() == BoardLook::Layers)
            draw.layers(view_.layers());
        else
            draw.made(view_.look() == BoardLook::Pasted);
        draw.datum();
        draw.group(view_.group());
        draw.chosen(view_.first(), view_.second(), none, hovered_);
        return;
    }
    if (view_.lens(Lens::Body)) draw.body();
    if (view_.lens(Lens::Courtyard)) {
        draw.keepouts();
        draw.courtyard();
    }
    if (view_.lens(Lens::Ink)) draw.ink();
    if (view_.lens(Lens::Copper)) draw.copper();
    if (view_.lens(Lens::Voltage)) draw.halos();
    draw.spots();
    draw.faces();
    if (view_.lens(Lens::Doubt)) draw.doubts(area);
    draw.looseWords(area);
    draw.datum();
    draw.group(view_.group());
    draw.chosen(view_.first(), view_.second(), measuring && entry_.editing() < 0 ? entry_.pending() : none, hovered_);
}

void Sheet::resizeEvent(QResizeEvent*) { layOut(); }

}  // namespace punch
