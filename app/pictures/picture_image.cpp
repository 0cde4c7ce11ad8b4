#include "app/pictures/picture_image.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {

PictureImage::PictureImage(Evidence evidence, const EvidenceChoice& choice)
    : evidence_(std::move(evidence)), choice_(choice) {
    if (evidence_.picture) {
        levels_.push_back(std::move(*evidence_.picture));
        evidence_.picture.reset();
        while (std::max(levels_.back().width, levels_.back().height) > 500) levels_.push_back(halved(levels_.back()));
        // Smaller copies stand ready in the format that the painter is fastest with; of large ones parts are converted.
        for (std::size_t i = 0; i < levels_.size(); ++i) {
            const bool small = static_cast<double>(levels_[i].width) * levels_[i].height < 10e6;
            ready_.push_back(small ? view(i).convertToFormat(QImage::Format_RGB32) : QImage());
        }
        width_ = levels_.front().width;
        height_ = levels_.front().height;
    } else if (evidence_.drawing) {
        width_ = evidence_.drawing->width;
        height_ = evidence_.drawing->height;
    }
}

const Grey* PictureImage::grey() const {
    if (levels_.empty()) return nullptr;
    if (!grey_) grey_ = greyOf(levels_.front());
    return &*grey_;
}

Result<Found> PictureImage::find(const FindOptions& options) const {
    return findIn(evidence_.kind, picture(), drawing(), options);
}

QImage PictureImage::view(std::size_t level) const {
    const Picture& p = levels_[level];
    return QImage(p.data.data(), p.width, p.height, static_cast<qsizetype>(p.width) * p.channels,
                  p.channels == 1 ? QImage::Format_Grayscale8 : QImage::Format_RGB888);
}

bool PictureImage::paintFinely(QPainter& painter, const QTransform& toArea, const QRectF& visible, double scale) const {
    if (!evidence_.pdf || scale < 1.2) return false;
    const QRectF part = visible & QRectF(0, 0, width_, height_);
    if (part.isEmpty()) return true;
    const double fineness = std::min(std::pow(2.0, std::ceil(std::log2(scale) - 0.3)), 64.0);
    if (fineness != fineness_ || !fineRegion_.contains(part)) {
        // Half as much again on each side, so that a little panning needs no new drawing.
        const QRect region =
            part.adjusted(-part.width() / 4, -part.height() / 4, part.width() / 4, part.height() / 4).toAlignedRect() &
            QRect(0, 0, width_, height_);
        const int left = choice_.region ? choice_.region->x : 0;
        const int top = choice_.region ? choice_.region->y : 0;
        const auto drawn = evidence_.pdf->draw(
            choice_.page, {left + region.x(), top + region.y(), region.width(), region.height()}, fineness);
        if (!drawn) return false;
        fine_ = QImage(drawn->data.data(), drawn->width, drawn->height, static_cast<qsizetype>(drawn->width) * 3,
                       QImage::Format_RGB888)
                    .copy();
        fineRegion_ = region;
        fineness_ = fineness;
    }
    // Its pixels' corners: those of the page's pixels, divided.
    const QTransform whole =
        QTransform(1 / fineness_, 0, 0, 1 / fineness_, fineRegion_.left() - 0.5, fineRegion_.top() - 0.5) * toArea;
    painter.setRenderHint(QPainter::SmoothPixmapTransform, true);
    painter.setTransform(whole, true);
    painter.drawImage(QPointF(0, 0), fine_);
    return true;
}

void PictureImage::paintLines(QPainter& painter, const QTransform& toArea, const QRectF& area) const {
    const Drawing& d = *evidence_.drawing;
    const double scale = std::sqrt(std::abs(toArea.determinant()));
    painter.fillRect(toArea.mapRect(QRectF(0, 0, width_, height_)), theme::kSheet);
    painter.setBrush(Qt::NoBrush);
    const QPen outline(theme::kInk, 1.3), helper(theme::kQuiet, 0.8);
    for (const DrawnPath& p : d.paths) {
        QPolygonF line;
        for (const PixelPoint& q : p.points) line << toArea.map(QPointF(q.x, q.y));
        if (p.closed) line << line.front();
        if (!line.boundingRect().adjusted(-1, -1, 1, 1).intersects(area)) continue;
        painter.setPen(p.chords && p.points.size() == 2 ? helper : outline);
        painter.drawPolyline(line);
    }
    painter.setPen(outline);
    for (const DrawnArc& a : d.arcs) {
        const QRectF box(a.centre.x - a.radius, a.centre.y - a.radius, 2 * a.radius, 2 * a.radius);
        if (!toArea.mapRect(box).intersects(area)) continue;
        // Qt counts counter-clockwise as seen, the drawing clockwise.
        QPainterPath path;
        path.arcMoveTo(box, -a.from);
        path.arcTo(box, -a.from, -a.sweep);
        painter.drawPath(toArea.map(path));
    }
    for (const DrawnText& t : d.texts) {
        const double h = t.height * scale;
        const QPointF at = toArea.map(QPointF(t.middle.x, t.middle.y));
        if (h < 3 || !area.adjusted(-300, -300, 300, 300).contains(at)) continue;
        // Texts stay readable when the drawing is mirrored.
        painter.save();
        painter.translate(at);
        const double a = t.turn * M_PI / 180;
        const QPointF along = toArea.map(QPointF(std::cos(a), std::sin(a))) - toArea.map(QPointF(0, 0));
        painter.rotate(std::remainder(std::atan2(along.y(), along.x()) * 180 / M_PI + 1e-6, 180.0));
        QFont font = theme::text(1.0);
        font.setPixelSize(std::max(3, static_cast<int>(std::lround(h * 1.25))));
        painter.setFont(font);
        const QString words = toQt(t.text);
        const double w = painter.fontMetrics().horizontalAdvance(words) + 4;
        painter.drawText(QRectF(-w / 2, -h, w, 2 * h), Qt::AlignCenter, words);
        painter.restore();
    }
}

/// In the format that the painter is fastest with, with some room around, so that panning and zooming rarely convert.
const QImage& PictureImage::tileOf(std::size_t level, const QRect& part) const {
    if (tile_.isNull() || tileLevel_ != level || !tileRegion_.contains(part)) {
        const QImage image = view(level);
        const int dx = std::min(part.width() / 8, 160), dy = std::min(part.height() / 8, 160);
        tileRegion_ = part.adjusted(-dx, -dy, dx, dy) & image.rect();
        tileLevel_ = level;
        tile_ = image.copy(tileRegion_).convertToFormat(QImage::Format_RGB32);
    }
    return tile_;
}

void PictureImage::paint(QPainter& painter, const QTransform& toArea, const QRectF& area, double opacity,
                         bool quick) const {
    bool invertible = false;
    const QRectF seen = toArea.inverted(&invertible).mapRect(area);
    if (!invertible) return;
    painter.save();
    painter.setOpacity(opacity * painter.opacity());
    if (levels_.empty()) {
        if (evidence_.drawing) paintLines(painter, toArea, area);
        painter.restore();
        return;
    }
    // Screen pixels for each of the picture's: the level whose pixels come nearest to one.
    const double scale = std::sqrt(std::abs(toArea.determinant()));
    if (!paintFinely(painter, toArea, seen, scale)) {
        const auto level = static_cast<std::size_t>(std::clamp(std::floor(std::log2(1 / std::max(scale, 1e-9)) + 0.3),
                                                               0.0, static_cast<double>(levels_.size() - 1)));
        const double factor = std::pow(2.0, static_cast<double>(level));
        // Pixel i of a level has its middle at (i + 0.5) factor - 0.5; an image is drawn with its corner at its origin.
        const QTransform whole = QTransform(factor, 0, 0, factor, -0.5, -0.5) * toArea;
        const QRectF visible = whole.inverted().mapRect(area);
        const QImage image = ready_[level].isNull() ? view(level) : ready_[level];
        const QRect part = visible.toAlignedRect().adjusted(-1, -1, 1, 1) & image.rect();
        if (!part.isEmpty()) {
            painter.setRenderHint(QPainter::SmoothPixmapTransform, !quick && scale * factor < 3);
            painter.setTransform(whole, true);
            // What is small, as in the loupe, is drawn as it is and leaves the tile of the sheet alone.
            if (!ready_[level].isNull() || part.width() * part.height() < 40'000)
                painter.drawImage(QRectF(part), image, QRectF(part));
            else if (const QImage& tile = tileOf(level, part); true)
                painter.drawImage(QRectF(part), tile, QRectF(part.translated(-tileRegion_.topLeft())));
        }
    }
    painter.restore();
}

QImage PictureImage::thumbnail(QSize size) const {
    if (!levels_.empty())
        return view(levels_.size() - 1).scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation).copy();
    QImage image(size, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    const double s =
        std::min(size.width() / std::max(1.0, double(width_)), size.height() / std::max(1.0, double(height_)));
    paint(painter, QTransform::fromScale(s, s), QRectF(QPointF(0, 0), QSizeF(size)), 1);
    return image;
}

}  // namespace punch
