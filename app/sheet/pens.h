#pragma once
// Pens that several painters of the sheet share.

#include <QPen>

#include "app/theme.h"

namespace punch {

inline QPen cosmetic(const QColor& color, double width = 1.2, Qt::PenStyle style = Qt::SolidLine) {
    QPen pen(color, width, style);
    pen.setCapStyle(Qt::RoundCap);
    pen.setJoinStyle(Qt::RoundJoin);
    return pen;
}

inline QPen looseSide() {
    QPen pen(theme::kMarigold, 1.6);
    pen.setDashPattern({4, 3});
    return pen;
}

}  // namespace punch
