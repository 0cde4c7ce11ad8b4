#pragma once
// Dress: what is attached to the part, and what the rules draw: outline, pin 1 mark, texts, courtyard.

#include <QPushButton>

#include "app/stations/form_column.h"
#include "app/stations/mark_editor.h"
#include "app/stations/mark_list.h"

namespace punch {

class DressStation : public FormColumn {
    Q_OBJECT
public:
    DressStation(Document& document, ViewState& view, QWidget* parent = nullptr);
    MarkList& marks() { return *marks_; }

private:
    void refresh() override;
    void buildInk();
    MarkList* marks_;
    MarkEditor* editor_;
    WrappedLabel* finePitch_;
    QPushButton* localPair_;
    LengthEdit* excess_;
    QLineEdit* reference_;
    WrappedLabel* excessNote_;
};

}  // namespace punch
