#include "app/widgets/length_edit.h"

#include <utility>

#include <QKeyEvent>
#include <QStyle>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {

void markWrong(QWidget* field, bool wrong) {
    if (field->property("wrong").toBool() == wrong) return;
    field->setProperty("wrong", wrong);
    field->style()->unpolish(field);
    field->style()->polish(field);
}

LengthEdit::LengthEdit(ViewState& view, std::function<Result<void>(Length)> take, QWidget* parent)
    : QLineEdit(parent), view_(view), take_(std::move(take)) {
    setFont(theme::digits());
    setAlignment(Qt::AlignRight);
    connect(this, &QLineEdit::editingFinished, this, &LengthEdit::finish);
    connect(&view_, &ViewState::unitChanged, this, &LengthEdit::show);
}

void LengthEdit::setLength(Length value) {
    value_ = value;
    // What is being typed, or is wrong and still to be mended, is not overwritten.
    if ((hasFocus() && isModified()) || property("wrong").toBool()) return;
    show();
}

void LengthEdit::setLimits(Length least, Length most) {
    least_ = least;
    most_ = most;
}

void LengthEdit::show() {
    setText(view_.length(value_));
    setModified(false);
    markWrong(this, false);
}

void LengthEdit::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        show();
        view_.say({});
        return;
    }
    QLineEdit::keyPressEvent(event);
}

void LengthEdit::finish() {
    if (!isModified()) return;
    const auto value = parseLength(text().toStdString(), view_.unit());
    QString wrong;
    if (!value)
        wrong = toQt(value.error().text());
    else if (*value < least_ || *value > most_)
        wrong = tr("%1 lies outside %2 to %3. Type a value between")
                    .arg(view_.length(*value), view_.length(least_), view_.length(most_));
    else if (const auto taken = take_(*value); !taken)
        wrong = toQt(taken.error().text());
    if (!wrong.isEmpty()) {
        markWrong(this, true);
        if (tip_.isNull()) tip_ = toolTip();
        setToolTip(wrong);
        view_.say(accessibleName().isEmpty() ? wrong : accessibleName() + ": " + wrong);
        return;
    }
    if (!tip_.isNull()) setToolTip(std::exchange(tip_, QString()));
    view_.say({});
    value_ = *value;
    show();
}

}  // namespace punch
