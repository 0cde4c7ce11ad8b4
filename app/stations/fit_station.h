#pragma once
// Fit: the body on the board, as a block or as a solid from a file, and the leads through it.

#include "app/solid/solid_list.h"
#include "app/stations/form_column.h"

namespace punch {

class FitStation : public FormColumn {
    Q_OBJECT
public:
    FitStation(Document& document, ViewState& view, SolidWork& work, QWidget* parent = nullptr);

signals:
    void fileWanted();

private:
    void refresh() override;
    SolidList* solids_;
    WrappedLabel* body_;
    WrappedLabel* lead_;
    WrappedLabel* spread_;
};

}  // namespace punch
