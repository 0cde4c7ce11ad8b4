// What the sheet does with the picture that lies under the part.

#include <algorithm>
#include <cmath>

#include "app/pictures/picture_layer.h"
#include "app/sheet/sheet.h"
#include "app/theme.h"

namespace punch {

void Sheet::setPictures(PictureWork& work) {
    pictures_ = &work;
    connect(&work, &PictureWork::changed, this, [this] {
        layOut();
        update();
    });
    connect(&work, &PictureWork::placeShown, this, &Sheet::showPlace);
}

void Sheet::showPlace(PixelPoint at) {
    if (!pictured()) return;
    fit();
    const PictureLayer layer(*pictures_, document_, t_);
    // As near as numbers are read at: about 12 mm of the page across.
    const QPointF here = layer.toSheet().map(QPointF(at.x, at.y));
    const double page = 25.4 / std::max(pictures_->source()->dpi, 100.0);
    const double now = std::sqrt(std::abs(layer.toSheet().determinant())) / page;  // px for each mm of the page
    const double factor = std::max(1.0, 14.0 / std::max(now, 1e-6));
    fitted_ = false;
    t_.origin = QPointF(rect().center()) + (t_.origin - here) * factor;
    t_.scale *= factor;
    layOut();
    update();
}

QTransform Sheet::pictureTransform() const {
    return pictures_ == nullptr ? QTransform() : PictureLayer(*pictures_, document_, t_).toSheet();
}

bool Sheet::pictured() const { return pictures_ != nullptr && view_.sources() && pictures_->image() != nullptr; }

/// The picture under what `over` paints: on top of each other, in turn, or side by side.
void Sheet::withPicture(QPainter& painter, const QRectF& area, const std::function<void()>& over) {
    if (pictures_ == nullptr || pictures_->image() == nullptr || (!pictured() && !view_.lens(Lens::Source))) {
        over();
        return;
    }
    const PictureLayer layer(*pictures_, document_, t_);
    if (pictures_->blinking()) {
        pictures_->blinkShowsPicture() ? layer.paintPicture(painter, area, settle_.isActive()) : over();
        return;
    }
    if (!pictures_->wipe()) {
        layer.paintPicture(painter, area, settle_.isActive());
        over();
        return;
    }
    const double border = area.left() + *pictures_->wipe() * area.width();
    painter.save();
    painter.setClipRect(QRectF(area.left(), area.top(), border - area.left(), area.height()));
    layer.paintPicture(painter, area, settle_.isActive());
    painter.setClipRect(QRectF(border, area.top(), area.right() - border, area.height()));
    over();
    painter.restore();
    if (pictured()) paintWipe(painter, area);
}

void Sheet::paintWipe(QPainter& painter, const QRectF& area) {
    const double x = area.left() + *pictures_->wipe() * area.width();
    painter.setPen(QPen(theme::kDatum, 2));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    const QPointF middle(x, area.center().y());
    painter.setBrush(theme::kDatum);
    painter.drawEllipse(middle, 9, 9);
    painter.setPen(QPen(Qt::white, 1.6));
    painter.drawLine(middle - QPointF(4, 0), middle + QPointF(4, 0));
}

}  // namespace punch
