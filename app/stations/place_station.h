#pragma once
// Place: the row, its numbers, its pegs, and the datum.

#include <QPushButton>
#include <QSpinBox>

#include "app/stations/form_column.h"

namespace punch {

class PlaceStation : public FormColumn {
    Q_OBJECT
public:
    PlaceStation(Document& document, ViewState& view, QWidget* parent = nullptr);
    void addPeg();
    void removeChosenPeg();
    void setDatum(DatumKind kind, const FeatureId& feature = {});
    void turnNumbers();

signals:
    void pitchWanted();

private:
    void refresh() override;
    QLineEdit* count_;
    QSpinBox* start_;
    QComboBox* from_;
    QComboBox* step_;
    QComboBox* lead_;
    QComboBox* datum_;
    WrappedLabel* pitch_;
    QPushButton* take_;
    WrappedLabel* pegs_;
    WrappedLabel* coordinates_;
    QPushButton* removePeg_;
};

}  // namespace punch
