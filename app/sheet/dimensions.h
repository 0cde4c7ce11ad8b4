#pragma once
// Live dimension lines: each reading stands on the sheet between what it touched, in a lane of its own.
//
// Lanes run above and below the part for readings along the row, at its right and left for readings across it. A line
// takes the first lane, from the part outwards, in which neither its span nor its tag meets another; a line that the
// user dragged keeps its lane and the others give way. Direct distances and angles stand between their features, moved
// aside in parallel until their tag meets no other. Of a part with many readings only those that matter now (newest, in
// doubt, of what is pointed at, asked for, dragged) have a tag; the rest are thin lines close together outside them.

#include <QPointF>
#include <QRectF>
#include <QString>
#include <optional>
#include <vector>

#include "app/sheet/transform.h"
#include "app/view_state.h"
#include "core/footprint.h"

namespace punch {

struct Dimension {
    int reading = -1;  ///< index in the notebook; -1 for the reading that is asked for
    std::string id;
    bool vertical = false;
    bool slanted = false;      ///< a direct distance or an angle: the tag lies level
    bool quiet = false;        ///< of a crowded part: a thin line whose number shows when one comes near
    int lane = 0;              ///< 1 the nearest to the part; negative below or at the left
    QPointF a, b;              ///< ends of the line, px
    QPointF anchorA, anchorB;  ///< where the extension lines start, px
    QRectF tag;                ///< px; of a vertical line it is turned by 90 degrees around its middle
    QString text;
    ReadingState state = ReadingState::Agrees;
};

struct DimensionLayout {
    std::vector<Dimension> lines;
    double above = 0, below = 0, right = 0, left = 0;  ///< room that the lanes take around the content, px
    double laneHeight = 1;
    QRectF content;

    /// The lane that a place in the sheet stands for; of a vertical or level line.
    int laneAt(QPointF at, bool vertical) const;
};

/// `content` is what the lanes must stay clear of, px. `asked` is the reading being entered, drawn before it is taken.
DimensionLayout layOutDimensions(const Part& part, const Footprint& footprint, const ViewState& view,
                                 const SheetTransform& transform, const QRectF& content,
                                 const std::optional<Reading>& asked);

}  // namespace punch
