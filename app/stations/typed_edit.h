#pragma once
// A field for a text of the part that is kept as it was typed: a length with names, an angle, words.
//
// What is wrong stays, marked, with a message; Escape gives the last good text back.

#include <QKeyEvent>
#include <QLineEdit>
#include <functional>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view_state.h"
#include "app/widgets/length_edit.h"
#include "core/base/quantity.h"

namespace punch {

class TypedEdit : public QLineEdit {
public:
    /// `take` gets the text and may refuse it with a Problem. A bare number gets the display unit behind it where it is
    /// a length and that is not mm.
    TypedEdit(ViewState& view, bool length, std::function<Result<void>(const std::string&)> take, QWidget* parent)
        : QLineEdit(parent), view_(view), length_(length), take_(std::move(take)) {
        if (length) setFont(theme::digits());
        connect(this, &QLineEdit::editingFinished, this, [this] { finish(); });
    }

    void setTyped(const std::string& typed) {
        good_ = typed;
        if (!isModified()) show();
    }

protected:
    void keyPressEvent(QKeyEvent* event) override {
        if (event->key() == Qt::Key_Escape) {
            show();
            view_.say({});
            return;
        }
        QLineEdit::keyPressEvent(event);
    }

private:
    /// A number of its own is shown with its unit, and in the display unit.
    QString shown() const {
        const auto number = length_ && !namesUnit(good_) ? parseNumber(good_) : Result<double>(problem(""));
        if (!number) return toQt(good_);
        if (view_.unit() == Unit::Mm) return toQt(good_) + " mm";
        return view_.length(Length::fromMm(*number));
    }
    void show() {
        setText(shown());
        setCursorPosition(0);
        setModified(false);
        markWrong(this, false);
    }
    void finish() {
        if (!isModified()) return;
        std::string typed = text().trimmed().toStdString();
        if (length_ && view_.unit() != Unit::Mm && !typed.empty() && !namesUnit(typed) && parseNumber(typed))
            typed = "(" + typed + ")" + std::string(unitName(view_.unit()));
        setModified(false);
        if (const auto taken = take_(typed); !taken) {
            setModified(true);
            markWrong(this, true);
            view_.say((accessibleName().isEmpty() ? QString() : accessibleName() + ": ") + toQt(taken.error().text()));
            return;
        }
        view_.say({});
        good_ = typed;
        show();
    }

    ViewState& view_;
    bool length_;
    std::function<Result<void>(const std::string&)> take_;
    std::string good_;
};

}  // namespace punch
