#pragma once
// The footprint on paper at true scale, to lay the part on: as a PDF or to a printer.
//
// A test length stands on both axes: printers scale behind one's back, and seldom alike on both. What they measured on
// paper is kept, and printing is corrected by it; a PDF is not, it goes to any printer. Mirrored it shows the solder
// side, for a part that is laid down with its underside on the paper.

#include <QPainter>
#include <QSizeF>

#include "core/base/result.h"
#include "core/footprint.h"
#include "core/part/part.h"
#include "core/release/paper_out.h"

namespace punch {

inline constexpr double kTestLength = kPaperTestLength;  ///< mm

/// What the test lengths measured on printed paper, mm: across the page and along it.
struct PrintedLengths {
    double across = kTestLength, along = kTestLength;
};
/// As kept for this user; the true lengths when nothing was kept.
PrintedLengths printedLengths();
/// Kept for all that is printed from now on. Errors: further than 10 % from the true length.
Result<void> keepPrintedLengths(const PrintedLengths& measured);

/// As a printed page says it: "corrected for a printer that makes 104 x 98.5 mm of 100", or "not corrected".
QString correctionWords(const PrintedLengths& printed);

/// `painter` counts in mm from the page's upper left corner, y down. The datum comes to the middle of the page. All is
/// drawn the other way by as much as `printed` is off.
void paintPaper(QPainter& painter, QSizeF page, const Part& part, const Footprint& footprint, bool mirrored,
                const PrintedLengths& printed = {});

/// One page, A4. Errors: the file cannot be written, the footprint is larger than the page.
Result<void> writePaper(const QString& file, const Part& part, const Footprint& footprint, bool mirrored);

/// Asks for a printer and prints. Errors: as writePaper; false when the user called it off.
Result<bool> printPaper(QWidget* parent, const Part& part, const Footprint& footprint, bool mirrored);

}  // namespace punch
