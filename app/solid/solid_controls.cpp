// The chips and sliders over the view in space: from where it is seen, how far it is lifted, cut and moved.

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <cmath>

#include "app/qt_text.h"
#include "app/solid/solid_view.h"
#include "app/theme.h"

namespace punch {
namespace {

constexpr double kMostLift = 15;  // mm

}  // namespace

void SolidView::makeControls() {
    views_ = new QWidget(this);
    auto* line = new QHBoxLayout(views_);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(theme::em() / 3);
    const auto chip = [&](const QString& words, const char* name, const QString& tip) {
        auto* button = new QPushButton(words, views_);
        button->setObjectName(name);
        button->setProperty("role", "chip");
        button->setToolTip(tip);
        line->addWidget(button);
        return button;
    };
    const auto seen = [&](const QString& words, const char* name, SeenFrom from, const QString& tip) {
        connect(chip(words, name, tip), &QPushButton::clicked, this, [this, from] { look(from); });
    };
    seen(tr("Slanted"), "seenFree", SeenFrom::Slanted, tr("From the front right, above"));
    seen(tr("Above"), "seenAbove", SeenFrom::Above, tr("From the part side"));
    seen(tr("Below"), "seenBelow", SeenFrom::Below, tr("From the solder side"));
    seen(tr("Front"), "seenFront", SeenFrom::Front, tr("Along the board, from the front"));
    seen(tr("Right"), "seenRight", SeenFrom::Right, tr("Along the board, from the right"));
    connect(chip(tr("Flat"), "toFlat", tr("The sheet, as in the other stations")), &QPushButton::clicked, this,
            &SolidView::flatWanted);
    measureChip_ = chip(tr("Measure"), "solidMeasure", tr("Click at two faces, edges or axes of the body"));
    measureChip_->setCheckable(true);
    connect(measureChip_, &QPushButton::toggled, this, &SolidView::setMeasuring);
    controls_ = new QWidget(this);
    controls_->setObjectName("solidControls");
    controls_->setAttribute(Qt::WA_StyledBackground);
    controls_->setStyleSheet(
        theme::styled("QWidget#solidControls { background: white; border: 1px solid @edge; border-radius: 11px; } "
                      "QLabel { color: @quiet; }"));
    auto* row = new QHBoxLayout(controls_);
    row->setContentsMargins(theme::em(), 2, theme::em(), 2);
    const auto slider = [&](const char* name, const QString& tip) {
        auto* s = new QSlider(Qt::Horizontal, controls_);
        s->setObjectName(name);
        s->setRange(0, 1000);
        s->setToolTip(tip);
        s->setFixedWidth(theme::em() * 7);
        row->addWidget(s);
        return s;
    };
    row->addWidget(new QLabel(tr("lifted"), controls_));
    liftSlider_ = slider("solidLift", tr("Lifts the body off the board"));
    cutFrom_ = new QPushButton(controls_);
    cutFrom_->setObjectName("solidCutFrom");
    cutFrom_->setProperty("role", "link");
    cutFrom_->setToolTip(tr("From which side it is cut away: front, right or above"));
    row->addWidget(cutFrom_);
    cutSlider_ = slider("solidCut", tr("Cuts away what is in front; the cut is also dragged by its handle"));
    moveWords_ = new QLabel(controls_);
    moveWords_->setObjectName("solidMovedWords");
    row->addWidget(moveWords_);
    moveSlider_ = slider("solidMoved", tr("Moves it through its range; it is also dragged with the mouse"));
    connect(liftSlider_, &QSlider::valueChanged, this, [this](int v) {
        lift_ = kMostLift * v / 1000;
        sectionStale_ = true;
        update();
    });
    connect(cutSlider_, &QSlider::valueChanged, this, [this](int v) {
        cut_ = v / 1000.0;
        sectionStale_ = true;
        update();
    });
    connect(cutFrom_, &QPushButton::clicked, this, [this] { setCutAxis((cutAxis_ + 2) % 3); });
    connect(moveSlider_, &QSlider::valueChanged, this, [this](int v) {
        if (mover_ >= scene_.movers.size()) return;
        const Motion& m = scene_.movers[mover_].motion;
        setMoved(mover_, m.from + (m.to - m.from) * v / 1000);
    });
    setCutAxis(1);
    showMover();
}

void SolidView::setLift(double mm) { liftSlider_->setValue(static_cast<int>(std::lround(1000 * mm / kMostLift))); }

void SolidView::setCut(double share) { cutSlider_->setValue(static_cast<int>(std::lround(1000 * share))); }

void SolidView::setCutAxis(int axis) {
    cutAxis_ = axis;
    cutFrom_->setText(axis == 0 ? tr("cut from right") : axis == 1 ? tr("cut from front") : tr("cut from above"));
    sectionStale_ = true;
    placeControls();
    update();
}

/// The slider and its words, as what moves stands.
void SolidView::showMover() {
    const bool any = !scene_.movers.empty();
    if (mover_ >= scene_.movers.size()) mover_ = 0;
    const bool seen = moveSlider_->isVisibleTo(controls_);
    moveWords_->setVisible(any);
    moveSlider_->setVisible(any);
    if (any) {
        const SceneMover& m = scene_.movers[mover_];
        const double range = m.motion.to - m.motion.from, at = moved(mover_);
        moveWords_->setText(m.motion.turns ? tr("%1 %2°").arg(toQt(m.name)).arg(at, 0, 'f', 1)
                                           : tr("%1 %2").arg(toQt(m.name), view_.length(Length::fromMm(at), 2)));
        const QSignalBlocker quiet(moveSlider_);
        moveSlider_->setValue(range == 0 ? 0 : static_cast<int>(std::lround(1000 * (at - m.motion.from) / range)));
    }
    if (any != seen) placeControls();
}

}  // namespace punch
