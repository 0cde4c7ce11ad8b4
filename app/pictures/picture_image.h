#pragma once
// A picture ready to be looked at: its pixels and ever smaller copies, of which only the visible part is drawn.

#include <QImage>
#include <QPainter>
#include <QTransform>
#include <vector>

#include "core/picture/picture.h"

namespace punch {

class PictureImage {
public:
    /// Takes the picture and makes its smaller copies, by halves, down to about 500 pixels.
    explicit PictureImage(Picture picture);

    const Picture& picture() const { return levels_.front(); }
    /// Of the whole picture, made when first asked for; for looking for edges.
    const Grey& grey() const;
    /// Draws what is visible in `area`; `toArea` takes pixels of the picture (centres at whole numbers) to it.
    void paint(QPainter& painter, const QTransform& toArea, const QRectF& area, double opacity) const;
    QImage thumbnail(QSize size) const;

private:
    QImage view(std::size_t level) const;
    std::vector<Picture> levels_;
    mutable std::optional<Grey> grey_;
};

}  // namespace punch
