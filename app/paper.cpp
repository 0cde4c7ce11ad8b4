#include "app/paper.h"

#include <fmt/format.h>

#include <QBuffer>
#include <QPageSize>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/sheet/shape_path.h"
#include "app/theme.h"
#include "core/artwork/artwork.h"
#include "core/base/atomic_file.h"

namespace punch {

namespace {

constexpr double kMargin = 12;  // mm

void text(QPainter& p, QPointF at, const QString& words, double height, Qt::Alignment how = Qt::AlignLeft) {
    // A font of whole millimetres is too coarse for Qt: drawn large and scaled down.
    QFont font(QStringLiteral("DejaVu Sans"));
    font.setPixelSize(100);
    p.save();
    p.translate(at);
    p.scale(height / 100, height / 100);
    p.setFont(font);
    const QRectF box(how & Qt::AlignHCenter ? -2000 : 0, -100, 4000, 130);
    p.drawText(box, static_cast<int>(how | Qt::AlignVCenter), words);
    p.restore();
}

Result<void> fits(const Footprint& f, QSizeF page) {
    double w = kTestLength + 2 * kMargin, h = w;
    if (!f.courtyard.empty) {
        w = std::max(w, f.courtyard.width().mm() + 2 * kMargin);
        h = std::max(h, f.courtyard.height().mm() + 2 * kMargin + kTestLength / 2);
    }
    if (w <= page.width() && h <= page.height()) return {};
    return problem("the page has no room for the footprint and the test lengths", "paper",
                   fmt::format("Choose a paper of at least {:.0f} x {:.0f} mm at the printer", w, h));
}

void paintOn(QPagedPaintDevice& device, int resolution, const Part& part, const Footprint& f, bool mirrored,
             const PrintedLengths& printed = {}) {
    QPainter painter(&device);
    painter.scale(resolution / 25.4, resolution / 25.4);
    const QSizeF page = device.pageLayout().fullRect(QPageLayout::Millimeter).size();
    paintPaper(painter, page, part, f, mirrored, printed);
}

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

void paintPaper(QPainter& p, QSizeF page, const Part& part, const Footprint& f, bool mirrored,
                const PrintedLengths& printed) {
    p.setRenderHint(QPainter::Antialiasing);
    const QPointF middle(page.width() / 2, page.height() / 2);
    p.translate(middle);
    p.scale(kTestLength / printed.across, kTestLength / printed.along);
    p.translate(-middle);
    const double side = mirrored ? -1 : 1;
    const auto map = [&](Point at) { return QPointF(middle.x() + side * at.x.mm(), middle.y() - at.y.mm()); };
    const auto pen = [](double width, const QColor& color = Qt::black) {
        QPen line(color, width);
        line.setCapStyle(Qt::RoundCap);
        return line;
    };
    const Length sagitta = Length::fromMm(0.002);
    const auto layer = [&](Layer which, const QPen& edge, const QBrush& fill) {
        for (const Shape& shape : artwork(part, f, which)) {
            p.setPen(edge);
            p.setBrush(fill);
            if (const RoundedPolygon* area = shape.rounded()) p.drawPath(pathOf(*area, map, sagitta));
            if (const Polygons* rings = shape.polygons()) {
                if (which == Layer::TopSilkscreen) p.setBrush(edge.color());
                p.drawPath(pathOf(*rings, map));
            }
            if (const Line* line = shape.line()) {
                if (line->width > Length()) p.setPen(pen(line->width.mm(), edge.color()));
                p.setBrush(Qt::NoBrush);
                QPolygonF points;
                for (const Point& at : line->points) points << map(at);
                p.drawPolyline(points);
            }
        }
    };
    const QColor copper(0xE6, 0xE6, 0xE6);
    layer(Layer::Body, pen(0.1, theme::kPrinted), Qt::NoBrush);
    layer(Layer::TopSilkscreen, pen(0.15), Qt::NoBrush);
    for (const SeenCopper& seen : seenCopper(part, f, mirrored)) {
        QPen edge = pen(0.12);
        if (seen.through) edge.setStyle(Qt::DashLine);
        p.setPen(edge);
        p.setBrush(seen.through ? QBrush(Qt::NoBrush) : QBrush(copper));
        if (const RoundedPolygon* area = seen.shape.rounded())
            p.drawPath(pathOf(*area, map, sagitta));
        else if (const Polygons* rings = seen.shape.polygons())
            p.drawPath(pathOf(*rings, map));
    }
    layer(Layer::PlatedHoles, pen(0.12), Qt::white);
    layer(Layer::CutOuts, pen(0.15), Qt::white);
    layer(Layer::BareHoles, pen(0.15), Qt::white);
    for (const Pad& pad : f.pads) {
        const QPointF at = map(pad.at);
        const double land = shownLand(pad).width.mm() / 2;
        p.setPen(pen(0.08));
        p.drawLine(at - QPointF(land, 0), at + QPointF(land, 0));
        p.drawLine(at - QPointF(0, land), at + QPointF(0, land));
        p.setPen(Qt::black);
        text(p, at + QPointF(0, -land - 0.4), toQt(pad.number), 1.4, Qt::AlignHCenter);
    }
    // Test lengths along both edges.
    p.setPen(pen(0.2));
    const QPointF corner(kMargin, page.height() - kMargin);
    const auto bar = [&](QPointF along, QPointF across) {
        p.drawLine(corner, corner + kTestLength * along);
        for (int mm = 0; mm <= kTestLength; mm += 10)
            p.drawLine(corner + mm * along, corner + mm * along + 1.5 * across);
    };
    bar({1, 0}, {0, -1});
    bar({0, -1}, {1, 0});
    p.setPen(Qt::black);
    text(p, corner + QPointF(3, -4), QObject::tr("both bars must measure %1 mm").arg(kTestLength), 2.6);
    text(p, QPointF(kMargin, kMargin + 4), toQt(part.name), 5);
    text(p, QPointF(kMargin, kMargin + 9),
         mirrored ? QObject::tr("1:1, mirrored: lay the part on it with its underside down")
                  : QObject::tr("1:1, seen from the part side: lay the part on it with its leads up,"),
         2.6);
    if (!mirrored) text(p, QPointF(kMargin, kMargin + 13), QObject::tr("or hold it against the light"), 2.6);
    text(p, corner + QPointF(3, -8), correctionWords(printed), 2.6);
}

Result<void> writePaper(const QString& file, const Part& part, const Footprint& f, bool mirrored) {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        writer.setResolution(1200);
        writer.setTitle(toQt(part.name));
        if (const auto ok = fits(f, writer.pageLayout().fullRect(QPageLayout::Millimeter).size()); !ok) return ok;
        paintOn(writer, 1200, part, f, mirrored);
    }
    const QByteArray& bytes = buffer.data();
    return writeAtomically(file.toStdString(), {bytes.constData(), static_cast<std::size_t>(bytes.size())});
}

Result<bool> printPaper(QWidget* parent, const Part& part, const Footprint& f, bool mirrored) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setFullPage(true);
    printer.setDocName(toQt(part.name));
    QPrintDialog dialog(&printer, parent);
    if (dialog.exec() != QDialog::Accepted) return false;
    if (const auto ok = fits(f, printer.pageLayout().fullRect(QPageLayout::Millimeter).size()); !ok)
        return tl::make_unexpected(ok.error());
    paintOn(printer, printer.resolution(), part, f, mirrored, printedLengths());
    return true;
}

}  // namespace punch
