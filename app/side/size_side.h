#pragma once
// What the Size station shows beside the sheet: how far apart potentials are, the room of the lands, drop-in; or the
// section, at a touch.

#include <QScrollArea>

#include "app/document.h"
#include "app/side/drop_in_work.h"
#include "app/view_state.h"

namespace punch {

class SizeSide : public QScrollArea {
    Q_OBJECT
public:
    SizeSide(Document& document, ViewState& view, QWidget* parent = nullptr);
    DropInWork& work() { return work_; }

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    DropInWork work_;
};

}  // namespace punch
