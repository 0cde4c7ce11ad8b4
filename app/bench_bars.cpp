// The bench's bars over the sheet: from which side one looks, and the lenses.

#include "app/bench_window.h"

#include <QMenu>

#include "app/theme.h"

namespace punch {

void BenchWindow::buildSheetBars() {
    badge_ = new QPushButton(sheet_);
    badge_->setObjectName("sideBadge");
    badge_->setFocusPolicy(Qt::TabFocus);
    connect(badge_, &QPushButton::clicked, &view_, &ViewState::flip);
    toSpace_ = new QPushButton(tr("In space"), sheet_);
    toSpace_->setObjectName("toSpace");
    toSpace_->setProperty("role", "chip");
    toSpace_->setFocusPolicy(Qt::TabFocus);
    toSpace_->setToolTip(tr("Board and body in space"));
    toSpace_->hide();
    for (int i = 0; i < kLenses; ++i) {
        auto* chip = new QPushButton(lensName(static_cast<Lens>(i)), sheet_);
        chip->setObjectName("lens-" + lensName(static_cast<Lens>(i)));
        chip->setProperty("role", "chip");
        chip->setCheckable(true);
        chip->setFocusPolicy(Qt::TabFocus);
        chip->setToolTip(tr("Lens: show or hide %1").arg(lensName(static_cast<Lens>(i)).toLower()));
        connect(chip, &QPushButton::clicked, this, [this, i](bool on) { view_.setLens(static_cast<Lens>(i), on); });
        lenses_.push_back(chip);
    }
    buildLook();
    tools_ = new ToolBar(pictures_, sheet_);
    connect(&pictures_, &PictureWork::changed, this, &BenchWindow::placeSheetBars);
    // A drawing is read the way it was drawn: from below where it shows the part from below.
    const auto readable = [this] {
        const Source* s = pictures_.source();
        const bool drawn = view_.sources() && s != nullptr && s->exactScale;
        const bool below = drawn && s->fromBelow();
        if (below == flipped_) return;
        flipped_ = below;
        view_.setSolderSide(below);
        sheet_->fit();
    };
    connect(&pictures_, &PictureWork::changed, this, readable);
    connect(&view_, &ViewState::stationChanged, this, readable);
    sheet_->installEventFilter(this);
    const auto update = [this] {
        const bool solder = view_.fromSolderSide();
        badge_->setText(solder ? tr("Seen from the SOLDER side · left is right   flip F6")
                               : tr("Seen from the part side   flip F6"));
        badge_->setStyleSheet(
            theme::styled(solder ? "QPushButton { background: @ink; color: white; border-radius: 9px; "
                                   "font-weight: bold; padding: 3px 12px; }"
                                 : "QPushButton { background: white; border: 1px solid @edge; border-radius: "
                                   "9px; padding: 3px 12px; }"));
        // What the drawing shows is a matter of the drawing.
        for (QPushButton* chip : lenses_) chip->setEnabled(chip == look_ || view_.look() == BoardLook::Drawing);
        for (int i = 0; i < kLenses; ++i)
            lenses_[static_cast<std::size_t>(i)]->setChecked(view_.lens(static_cast<Lens>(i)));
        placeSheetBars();
    };
    connect(&view_, &ViewState::changed, this, update);
    update();
}

/// A chip that opens: the drawing, the board as it is made, or layers by name.
void BenchWindow::buildLook() {
    look_ = new QPushButton(sheet_);
    look_->setText(tr("Board"));
    look_->setObjectName("lookChip");
    look_->setProperty("role", "chip");
    look_->setFocusPolicy(Qt::TabFocus);
    look_->setToolTip(tr("The drawing, the board as it is made, or layers by name"));
    auto* menu = new QMenu(look_);
    const std::pair<BoardLook, QString> looks[] = {{BoardLook::Drawing, tr("The drawing")},
                                                   {BoardLook::Made, tr("As made: copper, mask, print")},
                                                   {BoardLook::Pasted, tr("As made, with paste")}};
    for (const auto& [look, words] : looks) {
        QAction* action = menu->addAction(words, this, [this, look = look] { view_.setLook(look); });
        action->setCheckable(true);
        action->setObjectName("look " + words);
        action->setData(static_cast<int>(look));
    }
    menu->addSection(tr("layers by name"));
    for (const Layer layer : kBoardLayers) {
        QAction* action = menu->addAction(layerWords(layer));
        action->setCheckable(true);
        action->setObjectName(QString("layer ") + layerWords(layer));
        connect(action, &QAction::triggered, this, [this, layer](bool on) { view_.setLayer(layer, on); });
        connect(&view_, &ViewState::changed, action,
                [this, action, layer] { action->setChecked(view_.layers().contains(layer)); });
    }
    look_->setMenu(menu);
    connect(&view_, &ViewState::changed, this, [this, menu] {
        static const char* const words[] = {"Board", "As made", "Paste", "Layers"};
        look_->setText(tr(words[static_cast<int>(view_.look())]));
        for (QAction* action : menu->actions())
            if (action->data().isValid()) action->setChecked(action->data().toInt() == static_cast<int>(view_.look()));
    });
    lenses_.push_back(look_);
}

void BenchWindow::placeSheetBars() {
    if (badge_ == nullptr) return;
    const int em = theme::em();
    badge_->adjustSize();
    badge_->move(em * 3 / 4, em / 2);
    toSpace_->adjustSize();
    toSpace_->move(em * 3 / 4, em + badge_->height());
    int x = sheet_->width() - em / 2;
    int wide = badge_->width() + 2 * em;
    for (QPushButton* chip : lenses_) chip->setVisible(!view_.sources());
    // The tools stand under the badges, so that neither covers the other.
    tools_->setVisible(view_.sources() && pictures_.image() != nullptr);
    tools_->adjustSize();
    tools_->move(std::max(em / 2, sheet_->width() - tools_->width() - em * 3 / 4), em * 5 / 2);
    for (QPushButton* chip : lenses_) wide += chip->sizeHint().width() + em / 3;
    const bool narrow = sheet_->width() < wide;
    // On a very narrow one they stand in two rows there.
    const int high = lenses_.front()->sizeHint().height();
    const bool twoRows = narrow && sheet_->width() < wide - badge_->width() - em;
    int y = !narrow ? em / 2 : sheet_->height() - high - em * 5 / 2;
    sheet_->setLowerBars(narrow && !view_.sources() ? (twoRows ? 2 * high + em / 3 : high) : 0);
    for (auto it = lenses_.rbegin(); it != lenses_.rend(); ++it) {
        (*it)->adjustSize();
        x -= (*it)->width();
        if (x < em / 3) {
            x = sheet_->width() - em / 2 - (*it)->width();
            y -= high + em / 3;
        }
        // On a narrow sheet the lenses move to the lower edge rather than over the badge.
        (*it)->move(x, y);
        x -= em / 3;
    }
}

bool BenchWindow::eventFilter(QObject* watched, QEvent* event) {
    // The sheet is laid out after the window that holds it.
    if (watched == sheet_ && event->type() == QEvent::Resize) QTimer::singleShot(0, this, &BenchWindow::placeSheetBars);
    return QMainWindow::eventFilter(watched, event);
}

void BenchWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    shareWidth();
    QTimer::singleShot(0, this, &BenchWindow::placeSheetBars);
    placeSheetBars();
}

}  // namespace punch
