#include "app/paper.h"

#include <QPageLayout>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QSettings>
#include <QTemporaryDir>
#include <cmath>

#include "app/qt_text.h"
#include "core/base/atomic_file.h"
#include "core/drawing/drawing.h"
#include "core/drawing/pdf_pages.h"

namespace punch {
namespace {

bool credible(double printed) { return std::abs(printed / kTestLength - 1) < 0.1; }

}  // namespace

PrintedLengths printedLengths() {
    const QSettings kept;
    PrintedLengths lengths;
    lengths.across = kept.value("printed/across", kTestLength).toDouble();
    lengths.along = kept.value("printed/along", kTestLength).toDouble();
    // A file of settings can hold anything.
    if (!credible(lengths.across) || !credible(lengths.along)) return {};
    return lengths;
}

Result<void> keepPrintedLengths(const PrintedLengths& measured) {
    if (!credible(measured.across) || !credible(measured.along))
        return problem("a printed test length is more than 10 % from 100 mm", "printer's scale",
                       "Measure both bars of the printed page again");
    QSettings kept;
    kept.setValue("printed/across", measured.across);
    kept.setValue("printed/along", measured.along);
    return {};
}

QString correctionWords(const PrintedLengths& printed) {
    if (printed.across == kTestLength && printed.along == kTestLength) return QObject::tr("not corrected");
    return QObject::tr("corrected for a printer that makes %1 x %2 mm of %3")
        .arg(printed.across)
        .arg(printed.along)
        .arg(kTestLength);
}

Result<std::vector<QImage>> pagesOf(const std::string& pdf, double dpi) {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("paper.pdf").toStdString();
    if (const auto written = writeAtomically(file, pdf); !written) return tl::make_unexpected(written.error());
    const auto pages = PdfPages::open(file);
    if (!pages) return tl::make_unexpected(pages.error());
    std::vector<QImage> images;
    for (int i = 0; i < pages->count(); ++i) {
        const auto region = pages->sizeOf(i);
        if (!region) return tl::make_unexpected(region.error());
        const auto picture = pages->draw(i, *region, dpi / kPageDpi);
        if (!picture) return tl::make_unexpected(picture.error());
        const bool grey = picture->channels == 1;
        images.push_back(QImage(picture->data.data(), picture->width, picture->height,
                                picture->width * picture->channels,
                                grey ? QImage::Format_Grayscale8 : QImage::Format_RGB888)
                             .copy());
    }
    return images;
}

Result<void> writePaper(const QString& file, const std::vector<PaperPart>& parts, const PaperOptions& options) {
    const auto pdf = paperPdf(parts, options);
    if (!pdf) return tl::make_unexpected(pdf.error());
    return writeAtomically(file.toStdString(), *pdf);
}

Result<bool> printPaper(QWidget* parent, const std::vector<PaperPart>& parts, PaperOptions options) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setFullPage(true);
    printer.setDocName(parts.empty() ? QString() : toQt(parts.front().part->name));
    QPrintDialog dialog(&printer, parent);
    if (dialog.exec() != QDialog::Accepted) return false;
    const QSizeF page = printer.pageLayout().fullRect(QPageLayout::Millimeter).size();
    const PrintedLengths printed = printedLengths();
    options.pageWidth = page.width();
    options.pageHeight = page.height();
    options.printedX = printed.across;
    options.printedY = printed.along;
    const auto pdf = paperPdf(parts, options);
    if (!pdf) return tl::make_unexpected(pdf.error());
    // No finer than a printer shows, and no larger than memory holds.
    const double dpi = std::min(printer.resolution(), 1200);
    const auto images = pagesOf(*pdf, dpi);
    if (!images) return tl::make_unexpected(images.error());
    QPainter painter(&printer);
    if (!painter.isActive()) return problem("the printer takes nothing", "printer", "Look whether it is switched on");
    for (std::size_t i = 0; i < images->size(); ++i) {
        if (i > 0) printer.newPage();
        painter.drawImage(
            QRectF(0, 0, page.width() / 25.4 * printer.resolution(), page.height() / 25.4 * printer.resolution()),
            (*images)[i]);
    }
    return true;
}

}  // namespace punch
