#pragma once
// A source ready to be looked at: the pixels of a picture and ever smaller copies, of which only the visible part is
// drawn; a page of a PDF, drawn again as finely as it is shown; the lines of a DXF.

#include <QImage>
#include <QPainter>
#include <QTransform>
#include <vector>

#include "core/drawing/evidence.h"

namespace punch {

class PictureImage {
public:
    /// Takes the evidence and makes the smaller copies of its picture, by halves, down to about 500 pixels. May be made
    /// on any thread.
    explicit PictureImage(Evidence evidence, const EvidenceChoice& choice = {});

    int width() const { return width_; }
    int height() const { return height_; }
    /// Of a picture or a page; null of a DXF.
    const Picture* picture() const { return levels_.empty() ? nullptr : &levels_.front(); }
    /// Lines and texts of a DXF, texts of a page; null of a picture.
    const Drawing* drawing() const { return evidence_.drawing ? &*evidence_.drawing : nullptr; }
    EvidenceKind kind() const { return evidence_.kind; }
    /// Of the whole picture, made when first asked for, for looking for edges; null of a DXF.
    const Grey* grey() const;
    Result<Found> find(const FindOptions& options) const;

    /// Draws what is visible in `area`; `toArea` takes pixels of the picture (centres at whole numbers) to it.
    /// `quick` while it is moved: not smoothed.
    void paint(QPainter& painter, const QTransform& toArea, const QRectF& area, double opacity,
               bool quick = false) const;
    QImage thumbnail(QSize size) const;

private:
    QImage view(std::size_t level) const;
    const QImage& tileOf(std::size_t level, const QRect& part) const;
    void paintLines(QPainter& painter, const QTransform& toArea, const QRectF& area) const;
    bool paintFinely(QPainter& painter, const QTransform& toArea, const QRectF& visible, double scale) const;
    Evidence evidence_;
    EvidenceChoice choice_;
    int width_ = 0, height_ = 0;
    std::vector<Picture> levels_;
    std::vector<QImage> ready_;
    mutable std::optional<Grey> grey_;
    // The part of a page that was drawn last, finer than its picture.
    mutable QImage fine_;
    mutable QRectF fineRegion_;
    mutable double fineness_ = 0;
    // The part of a level that was drawn last.
    mutable QImage tile_;
    mutable QRect tileRegion_;
    mutable std::size_t tileLevel_ = 0;
};

}  // namespace punch
