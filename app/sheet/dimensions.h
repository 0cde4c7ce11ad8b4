#pragma once
// Live dimension lines: each reading stands on the sheet between what it touched, in a lane of its own.
//
// Lanes run above and below the part for readings along the row, at its right for readings across it. A line takes
// the first lane, from the part outwards, in which neither its span nor its tag meets another.

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
    QPointF a, b;              ///< ends of the line, px
    QPointF anchorA, anchorB;  ///< where the extension lines start, px
    QRectF tag;                ///< px; of a vertical line it is turned by 90 degrees around its middle
    QString text;
    ReadingState state = ReadingState::Agrees;
};

struct DimensionLayout {
    std::vector<Dimension> lines;
    double above = 0, below = 0, right = 0;  ///< room that the lanes take around the content, px
};

/// `content` is what the lanes must stay clear of, px. `asked` is the reading being entered, drawn before it is taken.
DimensionLayout layOutDimensions(const Part& part, const Footprint& footprint, const ViewState& view,
                                 const SheetTransform& transform, const QRectF& content,
                                 const std::optional<Reading>& asked);

}  // namespace punch
