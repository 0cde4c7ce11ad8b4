#include "core/drawing/evidence.h"

#include <fstream>

#include "core/base/atomic_file.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/read_dxf.h"
#include "core/picture/read_picture.h"

namespace punch {

namespace {
constexpr double kMostBytesOfAny = 1e12;  // the readers have limits of their own
}

EvidenceKind evidenceKind(const std::string& file) {
    if (!plainFile(file, kMostBytesOfAny)) return EvidenceKind::Picture;
    std::ifstream in(file, std::ios::binary);
    std::string head(4096, '\0');
    in.read(head.data(), static_cast<std::streamsize>(head.size()));
    head.resize(static_cast<std::size_t>(std::max<std::streamsize>(in.gcount(), 0)));
    if (!pictureFormat(head).empty()) return EvidenceKind::Picture;
    if (looksLikePdf(head)) return EvidenceKind::Pdf;
    const bool named = file.size() > 4 && (file.ends_with(".dxf") || file.ends_with(".DXF"));
    return looksLikeDxf(head) || named ? EvidenceKind::Dxf : EvidenceKind::Picture;
}

EvidenceChoice choiceOf(const Source& s) {
    EvidenceChoice c;
    c.page = s.page;
    if (s.width > 0 && s.height > 0) c.region = PixelRegion{s.left, s.top, s.width, s.height};
    if (s.mmPerUnit > 0) c.mmPerUnit = s.mmPerUnit;
    return c;
}

Result<Evidence> openEvidence(const std::string& file, const EvidenceChoice& choice) {
    Evidence e;
    e.kind = evidenceKind(file);
    if (e.kind == EvidenceKind::Dxf) {
        auto drawing = readDxf(file, choice.mmPerUnit);
        if (!drawing) return tl::make_unexpected(drawing.error());
        e.drawing = std::move(*drawing);
        return e;
    }
    if (e.kind == EvidenceKind::Picture) {
        auto picture = readPicture(file);
        if (!picture) return tl::make_unexpected(picture.error());
        e.picture = std::move(*picture);
        return e;
    }
    auto pdf = PdfPages::open(file);
    if (!pdf) return tl::make_unexpected(pdf.error());
    const auto page = pdf->sizeOf(choice.page);
    if (!page) return tl::make_unexpected(page.error());
    const PixelRegion region = choice.region.value_or(*page);
    // What one looks at is drawn again as finely as it is shown.
    auto picture = pdf->draw(choice.page, region, 1);
    if (!picture) return tl::make_unexpected(picture.error());
    picture->dpi.reset();  // a page's size says nothing about the part's
    auto texts = pdf->texts(choice.page, region);
    if (!texts) return tl::make_unexpected(texts.error());
    e.picture = std::move(*picture);
    e.drawing = std::move(*texts);
    e.pdf = std::move(*pdf);
    return e;
}

Source sourceFrom(const Evidence& e, const EvidenceChoice& choice, const std::string& title, const std::string& file) {
    Source s;
    s.title = title;
    s.picture = file;
    if (e.kind == EvidenceKind::Picture) {
        s.width = e.picture->width;
        s.height = e.picture->height;
        s.dpi = e.picture->dpi ? (e.picture->dpi->x + e.picture->dpi->y) / 2 : 0;
        s.dpiStated = e.picture->dpi.has_value();
        return s;
    }
    s.exactScale = true;
    s.width = e.drawing->width;
    s.height = e.drawing->height;
    s.dpi = e.drawing->dpi;
    if (e.kind == EvidenceKind::Dxf) {
        s.mmPerUnit = choice.mmPerUnit.value_or(e.drawing->mmPerUnit.value_or(1.0));
        s.dpiStated = true;
    } else {
        s.page = choice.page;
        if (choice.region) {
            s.left = choice.region->x;
            s.top = choice.region->y;
        }
        s.dpiStated = false;
    }
    return s;
}

Result<Found> findIn(EvidenceKind kind, const Picture* picture, const Drawing* drawing, const FindOptions& options) {
    if (kind == EvidenceKind::Dxf) return findInDrawing(*drawing, options);
    return kind == EvidenceKind::Pdf ? findOnPage(*picture, *drawing, options) : findInPicture(*picture, options);
}

Result<Found> findInEvidence(const Evidence& e, const FindOptions& options) {
    return findIn(e.kind, e.picture ? &*e.picture : nullptr, e.drawing ? &*e.drawing : nullptr, options);
}

}  // namespace punch
