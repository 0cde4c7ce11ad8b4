#pragma once
// What a multimeter says between two pins, typed in a line, and what all notes together make of the pins.

#include <QLineEdit>
#include <QPushButton>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"

namespace punch {

class BenchNoteLine : public QWidget {
    Q_OBJECT
public:
    BenchNoteLine(Document& document, ViewState& view, QWidget* parent = nullptr);
    void refresh();

private:
    void addNote();
    Document& document_;
    ViewState& view_;
    QLineEdit* note_;
    WrappedLabel* words_;
    QPushButton* drop_;
};

}  // namespace punch
