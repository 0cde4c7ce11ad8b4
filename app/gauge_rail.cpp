#include "app/gauge_rail.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/verdicts/gauges.h"

namespace punch {

GaugeRail::GaugeRail(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("rail");
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Gauges"));
    setFixedHeight(sizeHint().height());
    connect(&document_, &Document::changed, this, [this] { update(); });
    connect(&view_, &ViewState::unitChanged, this, [this] { update(); });
}

QSize GaugeRail::sizeHint() const { return {1000, theme::em() * 5 + 14}; }

QRect GaugeRail::gaugeBox(int index) const {
    const int n = std::max<int>(1, document_.open() ? static_cast<int>(document_.footprint().gauges.size()) : 1);
    const double gap = 7;
    const double w = (width() - gap * (n + 1)) / n;
    return QRectF(gap + index * (w + gap), 7, w, height() - 14).toRect();
}

int GaugeRail::gaugeAt(QPoint at) const {
    if (!document_.open()) return -1;
    for (int i = 0; i < static_cast<int>(document_.footprint().gauges.size()); ++i)
        if (gaugeBox(i).contains(at)) return i;
    return -1;
}

void GaugeRail::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme::kRail);
    if (!document_.open()) return;
    const auto& gauges = document_.footprint().gauges;
    for (int i = 0; i < static_cast<int>(gauges.size()); ++i)
        paintGauge(p, gauges[static_cast<std::size_t>(i)], gaugeBox(i), i == hot_ || (hasFocus() && i == focused_));
}

void GaugeRail::paintGauge(QPainter& p, const Gauge& g, const QRect& box, bool hot) {
    const double em = theme::em();
    const QColor color = theme::stateColor(g.state);
    const bool loud = g.state == GaugeState::Watch || g.state == GaugeState::NoGo;
    p.setBrush(Qt::white);
    p.setPen(QPen(hot ? theme::kPetrol : loud ? color : theme::kLine, hot ? 2 : 1.4));
    p.drawRoundedRect(QRectF(box).adjusted(1, 1, -1, -1), 5, 5);
    const QRectF in = QRectF(box).adjusted(em * 0.6, em * 0.35, -em * 0.5, -em * 0.4);
    drawStateMark(p, QPointF(in.right() - em * 0.35, in.top() + em * 0.6), em * 0.32, g.state);
    QFont title = theme::text(0.85);
    p.setFont(title);
    p.setPen(theme::kQuiet);
    const int titleWidth = static_cast<int>(in.width() - em * 0.9);
    while (p.fontMetrics().horizontalAdvance(toQt(g.title)) > titleWidth && title.pointSizeF() > 5) {
        title.setPointSizeF(title.pointSizeF() * 0.96);
        p.setFont(title);
    }
    p.drawText(QRectF(in.left(), in.top(), titleWidth, em * 1.2), Qt::AlignLeft | Qt::AlignVCenter, toQt(g.title));
    QFont words = theme::text(0.95, true);
    p.setFont(words);
    const QString text = toQt(fill(g.words, g.of, view_.unit(), 2));
    // Words that would not fit are set smaller rather than cut.
    while (p.fontMetrics().horizontalAdvance(text) > in.width() && words.pointSizeF() > 5) {
        words.setPointSizeF(words.pointSizeF() * 0.96);
        p.setFont(words);
    }
    p.setPen(theme::stateInk(g.state));
    p.drawText(QRectF(in.left(), in.top() + em * 1.3, in.width(), em * 1.3), Qt::AlignLeft | Qt::AlignVCenter, text);
    // The plug gauge: go end at the left, no-go end at the right, the value's place between.
    const QRectF bar(in.left(), in.top() + em * 3.0, in.width(), em * 0.75);
    const double end = bar.width() * 0.2;
    p.setPen(Qt::NoPen);
    const QColor idle(0xDD, 0xE2, 0xDF);
    p.setBrush(g.state == GaugeState::Go ? theme::kGo : idle);
    p.drawRoundedRect(QRectF(bar.left(), bar.top() + bar.height() * 0.15, end + 3, bar.height() * 0.7), 3, 3);
    p.setBrush(loud ? color : idle);
    p.drawRoundedRect(QRectF(bar.right() - end - 3, bar.top() + bar.height() * 0.15, end + 3, bar.height() * 0.7), 3,
                      3);
    p.setBrush(QColor(0xC9, 0xCF, 0xCC));
    p.drawRoundedRect(QRectF(bar.left() + end, bar.top(), bar.width() - 2 * end, bar.height()), 3, 3);
    if (!g.margin || !g.limit) return;
    const double share = *g.margin / std::max(std::abs(*g.limit), 1e-9);
    const double at = share >= 0 ? 0.78 - 0.55 * std::min(share, 1.0) : 0.82 + 0.14 * std::min(-share, 1.0);
    p.setBrush(theme::kInk);
    p.drawRoundedRect(QRectF(bar.left() + at * bar.width() - 1.5, bar.top() - 2, 3.5, bar.height() + 4), 1.5, 1.5);
}

QString GaugeRail::tip(const Gauge& g) const {
    QStringList lines;
    lines << tr("%1: %2").arg(toQt(g.title), toQt(stateName(g.state)));
    lines << toQt(fill(g.words, g.of, view_.unit(), 3));
    const auto number = [&](double v) {
        return g.unit == "mm" ? view_.length(Length::fromMm(v)) : QString::number(v, 'f', 2);
    };
    if (g.value && g.limit) {
        lines << tr("value %1, limit %2").arg(number(*g.value), number(*g.limit)) +
                     (g.upper ? tr(" to %1").arg(number(*g.upper)) : QString());
        lines << tr("margin %1").arg(number(*g.margin));
    }
    QStringList about;
    for (const std::string& id : g.about)
        about << (featureExists(document_.part(), id) ? toQt(featureWords(document_.part(), id)) : QString());
    about.removeAll(QString());
    if (!about.isEmpty()) lines << tr("look at: %1").arg(about.join(", "));
    return lines.join('\n');
}

void GaugeRail::mousePressEvent(QMouseEvent* event) {
    const int i = gaugeAt(event->pos());
    if (i < 0) return;
    focused_ = i;
    update();
    emit culpritsWanted(i);
}

void GaugeRail::mouseMoveEvent(QMouseEvent* event) {
    hot_ = gaugeAt(event->pos());
    setCursor(hot_ >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
    update();
}

void GaugeRail::leaveEvent(QEvent*) {
    hot_ = -1;
    update();
}

void GaugeRail::keyPressEvent(QKeyEvent* event) {
    const int n = document_.open() ? static_cast<int>(document_.footprint().gauges.size()) : 0;
    if (n == 0) return;
    if (event->key() == Qt::Key_Left)
        focused_ = (focused_ + n - 1) % n;
    else if (event->key() == Qt::Key_Right)
        focused_ = (focused_ + 1) % n;
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        emit culpritsWanted(focused_);
    else
        QWidget::keyPressEvent(event);
    update();
}

bool GaugeRail::event(QEvent* e) {
    if (e->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(e);
        const int i = gaugeAt(help->pos());
        if (i >= 0)
            QToolTip::showText(help->globalPos(), tip(document_.footprint().gauges[static_cast<std::size_t>(i)]), this);
        else
            QToolTip::hideText();
        return true;
    }
    return QWidget::event(e);
}

}  // namespace punch
