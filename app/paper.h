#pragma once
// Footprints on paper at true scale, to lay parts on: as a PDF or to a printer. What is drawn is the core's
// (core/release/paper_out); here it becomes pixels for a printer and for the eye.
//
// A test length stands on both axes: printers scale behind one's back, and seldom alike on both. What they measured on
// paper is kept, and printing is corrected by it; a PDF is not, it goes to any printer.

#include <QImage>
#include <QWidget>

#include "core/base/result.h"
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

/// The pages of a PDF in memory, as fine as asked for. Errors: it cannot be read, no room for a temporary file.
Result<std::vector<QImage>> pagesOf(const std::string& pdf, double dpi);

/// Errors: as paperPdf; the file cannot be written.
Result<void> writePaper(const QString& file, const std::vector<PaperPart>& parts, const PaperOptions& options);

/// Asks for a printer and prints, corrected by what its test lengths measured. Errors: as paperPdf; false when the user
/// called it off.
Result<bool> printPaper(QWidget* parent, const std::vector<PaperPart>& parts, PaperOptions options);

}  // namespace punch
