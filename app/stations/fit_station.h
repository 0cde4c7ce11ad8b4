#pragma once
// Fit: the body as a block on the board, and the lead through it.

#include "app/stations/form_column.h"

namespace punch {

class FitStation : public FormColumn {
    Q_OBJECT
public:
    FitStation(Document& document, ViewState& view, QWidget* parent = nullptr);

private:
    void refresh() override;
    WrappedLabel* body_;
    WrappedLabel* lead_;
    WrappedLabel* spread_;
};

}  // namespace punch
