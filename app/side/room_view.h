#pragma once
// The room of the chosen pads: from the least land to the largest, what binds at both ends, and where the land is now.

#include <QPushButton>
#include <QWidget>

#include "app/document.h"
#include "app/view_state.h"
#include "core/footprint.h"

namespace punch {

class RoomView : public QWidget {
    Q_OBJECT
public:
    RoomView(Document& document, ViewState& view, QWidget* parent = nullptr);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void refresh();
    void paintRoom(QPainter& p, const Room& room, double top) const;
    Document& document_;
    ViewState& view_;
    std::vector<Room> rooms_;  ///< along the width, and along the length where that may differ
    QString title_;
};

}  // namespace punch
