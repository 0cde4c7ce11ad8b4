#pragma once
// The footprint on paper at true scale, to lay the part on: as a PDF or to a printer.
//
// A test length of 50 mm stands on both axes: printers scale behind one's back, and seldom alike on both. Mirrored it
// shows the solder side, for a part that is laid down with its underside on the paper.

#include <QPainter>
#include <QSizeF>

#include "core/base/result.h"
#include "core/footprint.h"
#include "core/part/part.h"

namespace punch {

inline constexpr double kTestLength = 50;  ///< mm

/// `painter` counts in mm from the page's upper left corner, y down. The datum comes to the middle of the page.
void paintPaper(QPainter& painter, QSizeF page, const Part& part, const Footprint& footprint, bool mirrored);

/// One page, A4. Errors: the file cannot be written, the footprint is larger than the page.
Result<void> writePaper(const QString& file, const Part& part, const Footprint& footprint, bool mirrored);

/// Asks for a printer and prints. Errors: as writePaper; false when the user called it off.
Result<bool> printPaper(QWidget* parent, const Part& part, const Footprint& footprint, bool mirrored);

}  // namespace punch
