#pragma once
// A field for a length: any unit and arithmetic may be typed; what is wrong stays, marked, with a message.

#include <QLineEdit>
#include <functional>
#include <optional>

#include "app/view_state.h"

namespace punch {

class LengthEdit : public QLineEdit {
    Q_OBJECT
public:
    /// `take` gets the length and may refuse it with a Problem.
    LengthEdit(ViewState& view, std::function<Result<void>(Length)> take, QWidget* parent = nullptr);

    void setLength(Length value);
    void setLimits(Length least, Length most);

protected:
    /// Escape gives the last good value back.
    void keyPressEvent(QKeyEvent*) override;

private:
    void finish();
    void show();
    ViewState& view_;
    std::function<Result<void>(Length)> take_;
    QString tip_;  ///< its own, while it shows what is wrong
    Length value_;
    Length least_, most_ = Length::fromMm(1000);
};

/// Marks a field as wrong, or right again; the style sheet shows it.
void markWrong(QWidget* field, bool wrong);

}  // namespace punch
