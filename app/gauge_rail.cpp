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

std::vector<RailPlace> GaugeRail::places() const {
    if (!document_.open()) return {};
    std::vector<int> bad;
    for (const Gauge& g : document_.footprint().gauges)
        bad.push_back(gaugeKind(g.id).asked(document_.part()) ? badness(g.state) : 0);
    return railLayout(bad, size(), theme::em());
}

QRect GaugeRail::gaugeBox(int index) const {
    const auto all = places();
    return index >= 0 && index < static_cast<int>(all.size()) ? all[static_cast<std::size_t>(index)].box : QRect();
}

int GaugeRail::gaugeAt(QPoint at) const {
    const auto all = places();
    for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].box.contains(at)) return static_cast<int>(i);
    return -1;
}

void GaugeRail::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme::kRail);
    if (!document_.open()) return;
    const auto& gauges = document_.footprint().gauges;
    const auto all = places();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool hot = static_cast<int>(i) == hot_ || (hasFocus() && static_cast<int>(i) == focused_);
        if (all[i].large)
            paintLarge(p, gauges[i], all[i].box, hot);
        else
            paintSmall(p, gauges[i], all[i].box, hot);
    }
}

namespace {

/// Words that would not fit are set smaller rather than cut.
QFont fitted(QPainter& p, QFont font, const QString& words, double width) {
    p.setFont(font);
    while (p.fontMetrics().horizontalAdvance(words) > width && font.pointSizeF() > 5) {
        font.setPointSizeF(font.pointSizeF() * 0.96);
        p.setFont(font);
    }
    return font;
}

/// The plug gauge: go end at the left, no-go end at the right, the value's place between.
void paintPlug(QPainter& p, const Gauge& g, const QRectF& bar) {
    const double end = bar.width() * 0.2;
    const bool loud = g.state == GaugeState::Watch || g.state == GaugeState::NoGo;
    const QColor idle(0xDD, 0xE2, 0xDF);
    p.setPen(Qt::NoPen);
    p.setBrush(g.state == GaugeState::Go ? theme::kGo : idle);
    p.drawRoundedRect(QRectF(bar.left(), bar.top() + bar.height() * 0.15, end + 3, bar.height() * 0.7), 3, 3);
    p.setBrush(loud ? theme::stateColor(g.state) : idle);
    p.drawRoundedRect(QRectF(bar.right() - end - 3, bar.top() + bar.height() * 0.15, end + 3, bar.height() * 0.7), 3,
                      3);
    p.setBrush(theme::kFaint);
    p.drawRoundedRect(QRectF(bar.left() + end, bar.top(), bar.width() - 2 * end, bar.height()), 3, 3);
    if (!g.margin || !g.limit) return;
    const double share = *g.margin / std::max(std::abs(*g.limit), 1e-9);
    const double at = share >= 0 ? 0.78 - 0.55 * std::min(share, 1.0) : 0.82 + 0.14 * std::min(-share, 1.0);
    p.setBrush(theme::kInk);
    p.drawRoundedRect(QRectF(bar.left() + at * bar.width() - 1.5, bar.top() - 2, 3.5, bar.height() + 4), 1.5, 1.5);
}

}  // namespace

void GaugeRail::paintLarge(QPainter& p, const Gauge& g, const QRect& box, bool hot) {
    const double em = theme::em();
    const QColor color = theme::stateColor(g.state);
    const bool loud = g.state == GaugeState::Watch || g.state == GaugeState::NoGo;
    p.setBrush(Qt::white);
    p.setPen(QPen(hot ? theme::kPetrol : loud ? color : theme::kLine, hot ? 2 : 1.4));
    p.drawRoundedRect(QRectF(box).adjusted(1, 1, -1, -1), 5, 5);
    const QRectF in = QRectF(box).adjusted(em * 0.6, em * 0.3, -em * 0.5, -em * 0.4);
    drawStateMark(p, QPointF(in.right() - em * 0.35, in.top() + em * 0.6), em * 0.36, g.state);
    p.setPen(theme::kQuiet);
    const double titleWidth = in.width() - em * 0.9;
    fitted(p, theme::text(0.95), toQt(g.title), titleWidth);
    p.drawText(QRectF(in.left(), in.top(), titleWidth, em * 1.3), Qt::AlignLeft | Qt::AlignVCenter, toQt(g.title));
    const QString text = toQt(fill(g.words, g.of, view_.unit(), 2));
    fitted(p, theme::text(1.25, true), text, in.width());
    p.setPen(theme::stateInk(g.state));
    p.drawText(QRectF(in.left(), in.top() + em * 1.3, in.width(), em * 1.6), Qt::AlignLeft | Qt::AlignVCenter, text);
    paintPlug(p, g, QRectF(in.left(), in.top() + em * 3.15, in.width(), em * 0.7));
}

void GaugeRail::paintSmall(QPainter& p, const Gauge& g, const QRect& box, bool hot) {
    const double em = theme::em();
    p.setBrush(Qt::white);
    p.setPen(QPen(hot ? theme::kPetrol : theme::kLine, hot ? 2 : 1));
    p.drawRoundedRect(QRectF(box).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    const QRectF in = QRectF(box).adjusted(em * 0.4, 0, -em * 0.4, 0);
    drawStateMark(p, QPointF(in.left() + em * 0.3, in.center().y()), em * 0.28, g.state);
    const double from = in.left() + em * 0.9;
    const QString title = toQt(g.title);
    const QString words = toQt(fill(g.words, g.of, view_.unit(), 2));
    // Title and words share the line as each needs it.
    const double room = in.right() - from - em * 0.5;
    const QFontMetricsF titleMetrics(theme::text(0.85));
    const QFontMetricsF wordMetrics(theme::text(0.9, true));
    const double needTitle = titleMetrics.horizontalAdvance(title);
    const double needWords = wordMetrics.horizontalAdvance(words);
    const double scale = std::min(1.0, room / std::max(needTitle + needWords, 1.0));
    fitted(p, theme::text(0.9, true), words, needWords * scale + 0.5);
    const double taken = p.fontMetrics().horizontalAdvance(words);
    p.setPen(theme::stateInk(g.state));
    p.drawText(QRectF(from, in.top(), in.right() - from, in.height()), Qt::AlignRight | Qt::AlignVCenter, words);
    // The smallest letters may still be too wide for both: then the title gives way, which its tip says in full.
    const double left = in.right() - from - taken - em * 0.3;
    p.setPen(theme::kQuiet);
    fitted(p, theme::text(0.85), title, needTitle * scale + 0.5);
    p.drawText(QRectF(from, in.top(), left, in.height()), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(title, Qt::ElideRight, static_cast<int>(left)));
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
    // In the order in which they stand.
    const auto order = railOrder(places());
    const auto at = static_cast<int>(std::find(order.begin(), order.end(), focused_) - order.begin()) % n;
    const auto go = [&](int to) { focused_ = order[static_cast<std::size_t>((to + n) % n)]; };
    if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Up)
        go(at - 1);
    else if (event->key() == Qt::Key_Right || event->key() == Qt::Key_Down)
        go(at + 1);
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
