#pragma once
// Dress: outline, pin 1 mark, texts, courtyard, keepout.

#include <QPushButton>

#include "app/stations/form_column.h"

namespace punch {

class DressStation : public FormColumn {
    Q_OBJECT
public:
    DressStation(Document& document, ViewState& view, QWidget* parent = nullptr);
    void addKeepout();

private:
    void refresh() override;
    void editKeepout(const std::function<void(Keepout&)>& change, const QString& what);
    LengthEdit* excess_;
    QLineEdit* reference_;
    QLineEdit* keepoutName_;
    QComboBox* keepoutSide_;
    LengthEdit* keepoutDepth_;
    LengthEdit* keepoutHeight_;
    QPushButton* add_;
    QPushButton* remove_;
    WrappedLabel* excessNote_;
};

}  // namespace punch
