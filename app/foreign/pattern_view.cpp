#include "app/foreign/pattern_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

constexpr double kLeastPx = 5;  // of a pad that has no size

double sizeOf(const PatternPad& p) { return std::max(p.land, p.hole); }

}  // namespace

PatternView::PatternView(QWidget* parent) : QWidget(parent) {
    setMinimumSize(240, 200);
    setMouseTracking(false);
    setAccessibleName(tr("Pads"));
}

void PatternView::show(const PadPattern& pattern) {
    one_ = {};
    other_ = pattern;
    how_ = {};
    both_ = false;
    lit_ = -1;
    chosen_.clear();
    fit();
    QWidget::show();
    update();
}

void PatternView::show(const PadPattern& one, const PadPattern& other, const Comparison& how, double times) {
    const bool fresh = !both_ || one.pads.size() != one_.pads.size() || other.pads.size() != other_.pads.size();
    one_ = one;
    other_ = other;
    how_ = how;
    both_ = true;
    times_ = times;
    chosen_.clear();
    if (fresh) fit();
    QWidget::show();
    update();
}

void PatternView::choose(std::set<std::size_t> pads) {
    if (pads == chosen_) return;
    chosen_ = std::move(pads);
    update();
    emit chosenChanged();
}

void PatternView::light(int pad) {
    if (lit_ == pad) return;
    lit_ = pad;
    update();
}

QPointF PatternView::placeOf(std::size_t pad) const { return map(other_.pads.at(pad).x, other_.pads.at(pad).y); }

void PatternView::fit() {
    double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
    const auto add = [&](double x, double y, double r) {
        left = std::min(left, x - r), right = std::max(right, x + r);
        low = std::min(low, y - r), high = std::max(high, y + r);
    };
    for (const PatternPad& p : other_.pads) add(p.x, p.y, sizeOf(p) / 2);
    for (const PadDeviation& d : how_.pads) add(d.x, d.y, std::max(d.land, d.hole) / 2);
    if (left > right) return;
    const double em = theme::em();
    const double w = std::max(right - left, 1.0), h = std::max(high - low, 1.0);
    scale_ = std::min((width() - 4 * em) / w, (height() - 5 * em) / h);
    scale_ = std::clamp(scale_, 0.05, 200.0);
    shift_ = {width() / 2.0 - scale_ * (left + right) / 2, height() / 2.0 + scale_ * (low + high) / 2};
}

void PatternView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme::kPaper);
    const auto disc = [&](QPointF c, double mm) {
        const double r = std::max(scale_ * mm / 2, mm > 0 ? 1.5 : kLeastPx / 2);
        p.drawEllipse(c, r, r);
    };
    const bool numbered = other_.pads.size() <= 400;
    p.setFont(theme::digits(0.8, true));
    for (std::size_t i = 0; i < other_.pads.size(); ++i) {
        const PatternPad& pad = other_.pads[i];
        const QPointF c = map(pad.x, pad.y);
        const bool on = chosen_.contains(i) || static_cast<int>(i) == lit_;
        if (on) {
            p.setPen(QPen(theme::kPetrol, 2.5));
            p.setBrush(theme::kPetrolPale);
            disc(c, sizeOf(pad) + 8 / scale_);
        }
        p.setPen(QPen(theme::kCopperEdge, 1));
        if (pad.land > 0) {
            p.setBrush(theme::kCopper);
            disc(c, pad.land);
        }
        if (pad.hole > 0) {
            p.setPen(QPen(pad.land > 0 ? theme::kCopperEdge : theme::kInk, 1.2));
            p.setBrush(Qt::white);
            disc(c, pad.hole);
        }
        if (numbered && scale_ * std::max(sizeOf(pad), 1.0) > 9) {
            const double r = scale_ * sizeOf(pad) / 2;
            p.setPen(theme::kInk);
            p.drawText(QRectF(c.x() - 40, c.y() - r - theme::em() * 1.1, 80, theme::em()), Qt::AlignCenter, toQt(pad.number));
        }
    }
    if (both_) {
        const double a = how_.turn * std::numbers::pi / 180;
        QPen outline(theme::kPetrol, 1.6);
        outline.setStyle(Qt::DashLine);
        for (const PatternPad& pad : one_.pads) {
            const QPointF c = map(std::cos(a) * pad.x - std::sin(a) * pad.y + how_.x, std::sin(a) * pad.x + std::cos(a) * pad.y + how_.y);
            p.setPen(outline);
            p.setBrush(Qt::NoBrush);
            for (const double mm : {pad.land, pad.hole})
                if (mm > 0) disc(c, mm);
        }
        for (const PadDeviation& d : how_.pads) {
            const QPointF from = map(d.x, d.y), to = map(d.x + times_ * d.dx, d.y + times_ * d.dy), by = to - from;
            const double length = std::hypot(by.x(), by.y());
            if (length < 3) continue;
            p.setPen(QPen(d.off > d.doubt ? theme::kVermilion : theme::kInk, 1.6));
            p.drawLine(from, to);
            const QPointF along = by / length, across(-along.y(), along.x());
            const double head = std::min(7.0, length / 2);
            p.setBrush(p.pen().color());
            const QPointF tip[] = {to, to - along * head + across * head * 0.45, to - along * head - across * head * 0.45};
            p.drawPolygon(tip, 3);
        }
    }
    if (banding_) {
        QPen pen(theme::kPetrol, 1, Qt::DashLine);
        p.setPen(pen);
        p.setBrush(Qt::NoBrush);
        p.drawRect(band_.normalized());
    }
    // A scale, so that no drawing is without its size.
    const double tens = std::pow(10, std::floor(std::log10(120 / scale_)));
    const double mm = 120 / scale_ >= 5 * tens ? 5 * tens : 120 / scale_ >= 2 * tens ? 2 * tens : tens;
    const double y = height() - theme::em() * 0.7, x = theme::em();
    p.setPen(QPen(theme::kInk, 1));
    p.drawLine(QPointF(x, y), QPointF(x + mm * scale_, y));
    p.drawText(QPointF(x, y - 4), QString("%1 mm").arg(mm));
}

int PatternView::padAt(QPointF at) const {
    int best = -1;
    double nearest = 1e300;
    for (std::size_t i = 0; i < other_.pads.size(); ++i) {
        const QPointF by = map(other_.pads[i].x, other_.pads[i].y) - at;
        const double d = std::hypot(by.x(), by.y()) - scale_ * sizeOf(other_.pads[i]) / 2;
        if (d < std::min(nearest, 4.0)) {
            nearest = d;
            best = static_cast<int>(i);
        }
    }
    return best;
}

void PatternView::mousePressEvent(QMouseEvent* event) {
    grabbed_ = event->position();
    if (event->button() != Qt::LeftButton) {
        moving_ = true;
        return;
    }
    if (const int pad = padAt(event->position()); pad >= 0)
        emit padClicked(pad, (event->modifiers() & Qt::ShiftModifier) != 0);
    else if (!both_) {
        banding_ = true;
        band_ = QRectF(grabbed_, grabbed_);
    }
}

void PatternView::mouseMoveEvent(QMouseEvent* event) {
    if (moving_) {
        shift_ += event->position() - grabbed_;
        grabbed_ = event->position();
        update();
    } else if (banding_) {
        band_.setBottomRight(event->position());
        update();
    }
}

void PatternView::mouseReleaseEvent(QMouseEvent* event) {
    if (banding_) {
        banding_ = false;
        const QRectF box = band_.normalized();
        std::set<std::size_t> pads;
        if ((event->modifiers() & Qt::ShiftModifier) != 0) pads = chosen_;
        if (box.width() > 3 || box.height() > 3)
            for (std::size_t i = 0; i < other_.pads.size(); ++i)
                if (box.contains(placeOf(i))) pads.insert(i);
        choose(std::move(pads));
        update();
    }
    moving_ = false;
}

void PatternView::wheelEvent(QWheelEvent* event) {
    const double by = std::pow(1.15, event->angleDelta().y() / 120.0);
    const double next = std::clamp(scale_ * by, 0.02, 2000.0);
    shift_ = event->position() + (shift_ - event->position()) * (next / scale_);
    scale_ = next;
    update();
    event->accept();
}

}  // namespace punch
