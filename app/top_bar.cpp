#include "app/top_bar.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"

namespace punch {

GaugeState stationState(const Document& document, Station station) {
    if (!document.open()) return GaugeState::Unknown;
    const Footprint& f = document.footprint();
    if (station == Station::Release)
        // There is something to release, and the file holds it.
        return f.gauges.empty() || document.dirty() || document.path().isEmpty() ? GaugeState::Unknown : GaugeState::Go;
    GaugeState state = GaugeState::Go;
    for (const Gauge& g : f.gauges) {
        const GaugeKind& kind = gaugeKind(g.id);
        if (stationOf(kind.of) == station && kind.asked(document.part()) && badness(g.state) > badness(state))
            state = g.state;
    }
    return state;
}

StationBar::StationBar(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("stations");
    setAccessibleName(tr("Stations"));
    setFocusPolicy(Qt::StrongFocus);
    connect(&document_, &Document::changed, this, [this] { update(); });
    connect(&document_, &Document::fileChanged, this, [this] { update(); });
    connect(&view_, &ViewState::changed, this, [this] { update(); });
}

int StationBar::widthOf(Station station) const {
    return QFontMetrics(theme::text(1.0, true)).horizontalAdvance(stationName(station)) + theme::em() * 5 / 2;
}

QSize StationBar::sizeHint() const {
    int w = 0;
    for (int i = 0; i < kStations; ++i) w += widthOf(static_cast<Station>(i));
    return {w + (kStations - 1) * theme::em() / 2, theme::em() * 2};
}

QRect StationBar::stationBox(Station station) const {
    const int gap = (width() - sizeHint().width()) / std::max(1, kStations - 1) + theme::em() / 2;
    int x = 0;
    for (int i = 0; i < static_cast<int>(station); ++i) x += widthOf(static_cast<Station>(i)) + gap;
    return {x, (height() - theme::em() * 2) / 2, widthOf(station), theme::em() * 2};
}

void StationBar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int i = 0; i < kStations; ++i) {
        const auto s = static_cast<Station>(i);
        const QRectF box(stationBox(s));
        const bool here = document_.open() && s == view_.station();
        if (i + 1 < kStations) {
            const double next = stationBox(static_cast<Station>(i + 1)).left();
            p.setPen(QPen(theme::kLine, 1.5));
            p.drawLine(QPointF(box.right() + 3, box.center().y()), QPointF(next - 3, box.center().y()));
        }
        if (here) {
            p.setPen(hasFocus() ? QPen(theme::kMarigold, 2) : Qt::NoPen);
            p.setBrush(theme::kPetrol);
            p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
            // A white disc carries the mark on the dark ground.
            p.setPen(Qt::NoPen);
            p.setBrush(Qt::white);
            p.drawEllipse(QPointF(box.left() + theme::em() * 0.9, box.center().y()), theme::em() * 0.48,
                          theme::em() * 0.48);
        }
        drawStateMark(p, QPointF(box.left() + theme::em() * 0.9, box.center().y()), theme::em() * 0.28,
                      stationState(document_, s));
        p.setFont(theme::text(1.0, here));
        p.setPen(here ? Qt::white : document_.open() ? theme::kInk : theme::kPencil);
        p.drawText(box.adjusted(theme::em() * 1.6, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, stationName(s));
    }
}

void StationBar::mousePressEvent(QMouseEvent* event) {
    if (!document_.open()) return;
    for (int i = 0; i < kStations; ++i)
        if (stationBox(static_cast<Station>(i)).contains(event->pos())) view_.setStation(static_cast<Station>(i));
}

void StationBar::keyPressEvent(QKeyEvent* event) {
    const int now = static_cast<int>(view_.station());
    if (document_.open() && event->key() == Qt::Key_Left && now > 0)
        view_.setStation(static_cast<Station>(now - 1));
    else if (document_.open() && event->key() == Qt::Key_Right && now + 1 < kStations)
        view_.setStation(static_cast<Station>(now + 1));
    else
        QWidget::keyPressEvent(event);
}

TopBar::TopBar(Document& document, ViewState& view, const std::vector<Command>& commands, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("topBar");
    setAttribute(Qt::WA_StyledBackground);
    const int em = theme::em();
    setFixedHeight(em * 3);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(em / 2, 0, em, 0);
    layout->setSpacing(em / 2);
    nameSpace_ = new QWidget(this);
    nameSpace_->setAttribute(Qt::WA_TransparentForMouseEvents);
    nameSpace_->setMinimumWidth(em * 8);
    nameSpace_->setMaximumWidth(em * 20);
    nameSpace_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    layout->addWidget(nameSpace_, 6);
    layout->addStretch(1);
    stations_ = new StationBar(document, view, this);
    layout->addWidget(stations_);
    layout->addStretch(1);
    units_ = new QButtonGroup(this);
    auto* unitBox = new QHBoxLayout;
    unitBox->setSpacing(0);
    const QStringList names = {"mm", "mil", "inch"};
    for (int i = 0; i < names.size(); ++i) {
        auto* b = new QPushButton(names[i], this);
        b->setCheckable(true);
        b->setObjectName("unit-" + names[i]);
        b->setAccessibleName(tr("Show lengths in %1").arg(names[i]));
        b->setStyleSheet(
            theme::styled("QPushButton { border-radius: 3px; } QPushButton:checked { background: @ink; color: white; "
                          "border-color: @ink; }"));
        units_->addButton(b, i);
        unitBox->addWidget(b);
    }
    units_->button(0)->setChecked(true);
    layout->addLayout(unitBox);
    connect(units_, &QButtonGroup::idClicked, this, [this](int id) { view_.setUnit(static_cast<Unit>(id)); });
    connect(&view_, &ViewState::unitChanged, this,
            [this] { units_->button(static_cast<int>(view_.unit()))->setChecked(true); });
    ask_ = new AskBox(commands, this);
    ask_->setMinimumWidth(em * 7);
    ask_->setMaximumWidth(em * 12);
    ask_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    layout->addWidget(ask_, 3);
    connect(&document_, &Document::changed, this, [this] { update(); });
    connect(&document_, &Document::fileChanged, this, [this] { update(); });
}

void TopBar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), Qt::white);
    const double em = theme::em();
    // The mark: a pad seen from above.
    const QPointF c(em * 1.3, height() / 2.0);
    p.setPen(Qt::NoPen);
    p.setBrush(theme::kPetrol);
    p.drawEllipse(c, em * 0.65, em * 0.65);
    p.setBrush(Qt::white);
    p.drawEllipse(c, em * 0.28, em * 0.28);
    const QRectF name(em * 2.4, em * 0.25, nameSpace_->width() - em * 2, em * 1.3);
    p.setPen(theme::kInk);
    p.setFont(theme::text(1.05, true));
    const QString title = document_.open()
                              ? toQt(document_.part().name) + (document_.dirty() ? tr(" · not saved") : QString())
                              : tr("Punchbit");
    p.drawText(name, Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(title, Qt::ElideRight, static_cast<int>(name.width())));
    const QString about = document_.open() ? toQt(document_.part().description) : tr("no part on the bench");
    p.setFont(theme::text(0.85));
    p.setPen(theme::kQuiet);
    p.drawText(name.translated(0, em * 1.2), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(about, Qt::ElideRight, static_cast<int>(name.width())));
    p.setPen(theme::kLine);
    p.drawLine(0, height() - 1, width(), height() - 1);
}

void TopBar::mousePressEvent(QMouseEvent* event) {
    if (event->position().x() < nameSpace_->width()) emit homeWanted();
}

}  // namespace punch
