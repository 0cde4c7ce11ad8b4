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
    /// Draws the chosen peg, or the only one, on the other side of the row (across) or at its other end.
    void mirrorPeg(bool across);

private:
    void refresh() override;
    QLineEdit* count_;
    QSpinBox* start_;
    QComboBox* from_;
    QComboBox* step_;
    QComboBox* lead_;
    QComboBox* datum_;
    WrappedLabel* pitch_;
    QComboBox* pitchChoice_;
    WrappedLabel* pegs_;
    WrappedLabel* coordinates_;
    QPushButton* removePeg_;
    QPushButton* otherSide_;
    QPushButton* otherEnd_;
};

}  // namespace punch
