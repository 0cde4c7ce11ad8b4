#include "app/widgets/ask_box.h"

#include <QFocusEvent>
#include <QKeyEvent>
#include <QTimer>

#include "app/theme.h"

namespace punch {

AskBox::AskBox(const std::vector<Command>& commands, QWidget* parent) : QLineEdit(parent), commands_(commands) {
    setObjectName("askBox");
    setAccessibleName(tr("Ask box"));
    setPlaceholderText(tr("Ask for anything…  F1"));
    setStyleSheet(theme::styled("QLineEdit { border-radius: %1px; background: @strip; }").arg(theme::em() * 3 / 4));
    list_ = new QListWidget(parent != nullptr ? parent->window() : nullptr);
    list_->setObjectName("askList");
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setUniformItemSizes(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setStyleSheet(theme::styled(
        "QListWidget { border: 1px solid @petrol; background: @white; } QListWidget::item { padding: 3px 6px; }"
        "QListWidget::item:selected { background: @petrolPale; color: @petrol; }"));
    list_->hide();
    connect(this, &QLineEdit::textEdited, this, &AskBox::offer);
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) { run(list_->row(item)); });
}

void AskBox::offer() {
    if (list_->parentWidget() != window()) list_->setParent(window());
    list_->clear();
    offered_ = matching(commands_, text());
    list_->setFont(font());
    for (const Command* c : offered_)
        list_->addItem(c->keys.isEmpty()
                           ? c->name
                           : QString("%1   ·   %2").arg(c->name, c->keys.toString(QKeySequence::NativeText)));
    if (offered_.empty()) list_->addItem(tr("No command is called that"));
    list_->setCurrentRow(0);
    const int rows = std::min<int>(static_cast<int>(list_->count()), 14);
    const int wide = std::max(width(), theme::em() * 24);
    const QPoint at = mapTo(window(), QPoint(width() - wide, height() + 4));
    list_->setGeometry(at.x(), at.y(), wide, rows * list_->sizeHintForRow(0) + 4);
    list_->show();
    list_->raise();
}

void AskBox::run(int row) {
    list_->hide();
    clear();
    if (row < 0 || row >= static_cast<int>(offered_.size())) return;
    const auto act = offered_[static_cast<std::size_t>(row)]->run;
    clearFocus();
    if (act) act();
}

void AskBox::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Up: list_->setCurrentRow(std::max(0, list_->currentRow() - 1)); return;
        case Qt::Key_Down: list_->setCurrentRow(std::min(list_->count() - 1, list_->currentRow() + 1)); return;
        case Qt::Key_Return:
        case Qt::Key_Enter: run(list_->currentRow()); return;
        case Qt::Key_Escape:
            clear();
            list_->hide();
            clearFocus();
            return;
        default: QLineEdit::keyPressEvent(event);
    }
}

void AskBox::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    offer();
}

void AskBox::focusOutEvent(QFocusEvent* event) {
    QLineEdit::focusOutEvent(event);
    QTimer::singleShot(150, list_, [this] {
        if (!hasFocus()) list_->hide();
    });
}

}  // namespace punch
