#include "app/side/size_side.h"

#include <QFrame>
#include <QVBoxLayout>

#include "app/side/apart_view.h"
#include "app/side/drop_in_view.h"
#include "app/side/room_view.h"
#include "app/theme.h"

namespace punch {

SizeSide::SizeSide(Document& document, ViewState& view, QWidget* parent) : QScrollArea(parent), work_(document) {
    setObjectName("sizeSide");
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget(this);
    inner->setObjectName("scrolled");
    auto* box = new QVBoxLayout(inner);
    box->setContentsMargins(0, 0, theme::em() / 3, 0);
    box->setSpacing(theme::em() / 2);
    const auto line = [&] {
        auto* l = new QFrame(inner);
        l->setProperty("role", "line");
        box->addWidget(l);
    };
    box->addWidget(new ApartView(document, view, inner));
    line();
    box->addWidget(new RoomView(document, view, inner));
    line();
    box->addWidget(new DropInView(document, view, work_, inner));
    box->addStretch(1);
    setWidget(inner);
}

void SizeSide::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    work_.setWanted(true);
}

void SizeSide::hideEvent(QHideEvent* event) {
    QScrollArea::hideEvent(event);
    work_.setWanted(false);
}

}  // namespace punch
