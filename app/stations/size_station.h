#pragma once
// Size: holes, lands, and what voltage asks between pins.

#include <QPushButton>

#include "app/stations/form_column.h"

namespace punch {

class SizeStation : public FormColumn {
    Q_OBJECT
public:
    SizeStation(Document& document, ViewState& view, QWidget* parent = nullptr);

private:
    void refresh() override;
    void addPotential();
    void buildIec();
    void refreshVoltage();
    WrappedLabel* result_;
    WrappedLabel* pegResult_;
    LengthEdit* ring_;
    QLineEdit* factor_;
    QLineEdit* ownDrills_;
    QComboBox* level_;
    QLineEdit* potentialName_;
    QLineEdit* potentialVolts_;
    QComboBox* potentialKind_;
    QLineEdit* potentialPins_;
    QWidget* potentials_;
    QVBoxLayout* potentialRows_;
    WrappedLabel* voltageResult_;
    QComboBox* column_;
    std::vector<QWidget*> iec_;  ///< fields that only IEC 60664-1 asks for
    QLineEdit* altitude_;
};

}  // namespace punch
