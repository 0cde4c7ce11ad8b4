#include "app/pictures/picture_image.h"

#include <algorithm>
#include <cmath>

namespace punch {

PictureImage::PictureImage(Picture picture) {
    levels_.push_back(std::move(picture));
    while (std::max(levels_.back().width, levels_.back().height) > 500) levels_.push_back(halved(levels_.back()));
}

const Grey& PictureImage::grey() const {
    if (!grey_) grey_ = greyOf(picture());
    return *grey_;
}

QImage PictureImage::view(std::size_t level) const {
    const Picture& p = levels_[level];
    return QImage(p.data.data(), p.width, p.height, static_cast<qsizetype>(p.width) * p.channels,
                  p.channels == 1 ? QImage::Format_Grayscale8 : QImage::Format_RGB888);
}

void PictureImage::paint(QPainter& painter, const QTransform& toArea, const QRectF& area, double opacity) const {
    // Screen pixels for each of the picture's: the level whose pixels come nearest to one.
    const double scale = std::sqrt(std::abs(toArea.determinant()));
    const auto level = static_cast<std::size_t>(std::clamp(std::floor(std::log2(1 / std::max(scale, 1e-9)) + 0.3), 0.0,
                                                           static_cast<double>(levels_.size() - 1)));
    const double factor = std::pow(2.0, static_cast<double>(level));
    // Pixel i of a level has its middle at (i + 0.5) factor - 0.5; an image is drawn with its corner at its origin.
    const QTransform whole = QTransform(factor, 0, 0, factor, -0.5, -0.5) * toArea;
    bool invertible = false;
    const QRectF visible = whole.inverted(&invertible).mapRect(area);
    if (!invertible) return;
    const QImage image = view(level);
    const QRect part = visible.toAlignedRect().adjusted(-1, -1, 1, 1) & image.rect();
    if (part.isEmpty()) return;
    painter.save();
    painter.setOpacity(opacity);
    painter.setRenderHint(QPainter::SmoothPixmapTransform, scale * factor < 3);
    painter.setTransform(whole, true);
    painter.drawImage(QRectF(part), image, QRectF(part));
    painter.restore();
}

QImage PictureImage::thumbnail(QSize size) const {
    return view(levels_.size() - 1).scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation).copy();
}

}  // namespace punch
