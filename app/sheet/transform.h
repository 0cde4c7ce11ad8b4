#pragma once
// From the part's plane (mm, y up, origin at the datum) to the widget (px, y down), mirrored when seen from below.

#include <QPointF>
#include <QRectF>

#include "core/base/length.h"

namespace punch {

struct SheetTransform {
    double scale = 20;  ///< px per mm
    QPointF origin;     ///< where the datum stands, px
    bool mirrored = false;

    QPointF map(Point p) const { return mapMm(p.x.mm(), p.y.mm()); }
    QPointF mapMm(double x, double y) const {
        return {origin.x() + (mirrored ? -x : x) * scale, origin.y() - y * scale};
    }
    Point unmap(QPointF at) const {
        const double x = (at.x() - origin.x()) / scale;
        return {Length::fromMm(mirrored ? -x : x), Length::fromMm((origin.y() - at.y()) / scale)};
    }
    QRectF map(const Rect& r) const {
        return QRectF(map(Point{r.left, r.top}), map(Point{r.right, r.bottom})).normalized();
    }
    double px(Length l) const { return l.mm() * scale; }
};

}  // namespace punch
