#pragma once
// What the sheet shows of the picture that is worked with: its pixels, what was found, known lengths, the loupe.

#include <QPainter>

#include "app/pictures/picture_work.h"
#include "app/sheet/transform.h"

namespace punch {

class PictureLayer {
public:
    /// `lit` is the reading that is pointed at elsewhere.
    PictureLayer(const PictureWork& work, const Document& document, const SheetTransform& t, std::string lit = {});

    /// Pixels of the picture to the widget.
    const QTransform& toSheet() const { return toSheet_; }
    PixelPoint pixelAt(QPointF at) const;
    void paintPicture(QPainter& painter, const QRectF& area, bool quick = false) const;
    /// Which face the picture shows, at its upper edge, always.
    void paintFace(QPainter& painter, const QRectF& area) const;
    void paintFound(QPainter& painter) const;
    /// Known lengths, level lines, and what the tool in hand has been given so far.
    void paintLengths(QPainter& painter, QPointF mouse) const;
    /// The outline that was traced, and where on the page the readings' numbers stand.
    void paintKept(QPainter& painter) const;
    /// The number under the mouse that could be taken over.
    void paintNumber(QPainter& painter, QPointF mouse) const;
    /// Picture pixels that 10 px of the screen are.
    double reach() const;
    void paintLoupe(QPainter& painter, QPointF mouse, const QRectF& area) const;

private:
    void tag(QPainter& painter, QPointF at, const QString& words, const QColor& edge) const;
    const PictureWork& work_;
    const Document& document_;
    QTransform toSheet_;
    std::string lit_;
};

}  // namespace punch
