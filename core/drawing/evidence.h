#pragma once
// A source's file, opened as what it is: the pixels of a picture, a page of a PDF, or the lines of a DXF.

#include <memory>
#include <optional>
#include <string>

#include "core/base/result.h"
#include "core/drawing/drawing.h"
#include "core/drawing/pdf_pages.h"
#include "core/part/source.h"
#include "core/picture/find.h"
#include "core/picture/picture.h"

namespace punch {

enum class EvidenceKind { Picture, Pdf, Dxf };
/// By its first bytes, not its name. A file that cannot be opened counts as a picture, whose reader says why.
EvidenceKind evidenceKind(const std::string& file);

/// Everything there is to look at and to read in a source. Frame of all: the source's pixels.
struct Evidence {
    EvidenceKind kind = EvidenceKind::Picture;
    std::optional<Picture> picture;  ///< none of a DXF
    std::optional<Drawing> drawing;  ///< of a DXF its lines; of a PDF its texts
    std::optional<PdfPages> pdf;     ///< for drawing parts of the page more finely
};

/// How a file is to be opened: what its source says, or what the user answers when it is brought in.
struct EvidenceChoice {
    int page = 0;                       ///< of a PDF, from 0
    std::optional<PixelRegion> region;  ///< of the page; none: the whole
    std::optional<double> mmPerUnit;    ///< of a DXF; none: as the file states
};
EvidenceChoice choiceOf(const Source& source);

/// Errors: as readPicture, readDxf and PdfPages.
Result<Evidence> openEvidence(const std::string& file, const EvidenceChoice& choice);

/// The source that a part keeps of it, without an identifier. The face is asked later.
Source sourceFrom(const Evidence& evidence, const EvidenceChoice& choice, const std::string& title,
                  const std::string& file);

/// As findInPicture, findOnPage or findInDrawing, whichever it is. `picture` and `drawing` as in Evidence.
Result<Found> findIn(EvidenceKind kind, const Picture* picture, const Drawing* drawing, const FindOptions& options);
Result<Found> findInEvidence(const Evidence& evidence, const FindOptions& options);

}  // namespace punch
