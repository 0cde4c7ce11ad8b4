#pragma once
// Draws the part like a measured drawing: one function for each thing that a lens shows.

#include <QPainter>

#include "app/sheet/dimensions.h"
#include "app/sheet/transform.h"
#include "app/theme.h"
#include "app/view_state.h"
#include "core/artwork/artwork.h"

namespace punch {

class SheetPainter {
public:
    SheetPainter(QPainter& painter, const Part& part, const Footprint& footprint, const ViewState& view,
                 const SheetTransform& t)
        : p_(painter), part_(part), f_(footprint), view_(view), t_(t) {}

    /// A picture lies under what is drawn: words and thin lines get edges of paper.
    void setOverPicture(bool on) { over_ = on; }

    void paper(const QRectF& area);
    void body();
    void keepouts();
    void courtyard();
    void halos();
    void copper();
    void spots();
    void faces();
    /// 95 % ellipses of all places from the datum, enlarged so that they can be seen.
    void doubts(const QRectF& area);
    /// Pins and single features as outlines with their numbers, over a picture that they were read from.
    void onPicture();
    void ink();
    /// The board as it is made, from the side one looks at: copper under its mask, openings, holes, print; and paste.
    void made(bool paste);
    /// These layers alone, over faint outlines of the pads.
    void layers(const std::set<Layer>& shown);
    void datum();
    void looseWords(const QRectF& area);
    void group(const std::vector<FeatureId>& features);
    void chosen(const FeatureId& first, const FeatureId& second, const std::optional<Reading>& asked,
                const FeatureId& hovered);
    void dimensions(const DimensionLayout& layout);
    void scaleBar(const QRectF& area);

private:
    void land(const SeenCopper& seen);
    void lead(const Pad& pad);
    void landNumbers();
    void otherLeads();
    void padsWithoutPins();
    void features(const Reading& reading, const QColor& color);
    QPointF besideWay(const std::vector<Point>& way) const;
    void ellipse(QPointF at, const Ellipse& doubt, double enlarged);
    /// Is the feature under the mouse one that this reading touches?
    bool touchesHovered(const Dimension& d) const;
    void ring(const FeatureId& id, const QColor& color, Qt::PenStyle style);
    void words(const QRectF& box, int how, const QString& text, const QColor& ink);
    /// Draws with the pen, over a picture on an edge of paper.
    template <class Draw>
    void edged(const QPen& pen, Draw draw) {
        if (over_) {
            QPen edge = pen;
            edge.setColor(theme::through(theme::kPaper, 0.8));
            edge.setWidthF(pen.widthF() + 2.6);
            edge.setStyle(Qt::SolidLine);
            p_.setPen(edge);
            draw();
        }
        p_.setPen(pen);
        draw();
    }
    void label(QPointF at, const QString& words, const QColor& color, double factor = 0.95);
    QPainter& p_;
    const Part& part_;
    const Footprint& f_;
    const ViewState& view_;
    const SheetTransform& t_;
    FeatureId hovered_;
    bool over_ = false;
    std::vector<QRectF> labels_;
};

}  // namespace punch
