#pragma once
// Pages of a PDF: how many, how large, their texts in place, and any part of one as pixels of any fineness.

#include <memory>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/drawing/drawing.h"
#include "core/picture/picture.h"

namespace punch {

class PdfPages {
public:
    /// Errors: cannot be opened, no PDF, broken, asks for a password, no page.
    static Result<PdfPages> open(const std::string& file);

    int count() const;
    /// Of a page as one looks at it, in pixels of kPageDpi. Errors: no such page, larger than 3 m.
    Result<PixelRegion> sizeOf(int page) const;
    /// The region (of kPageDpi pixels), drawn with `fineness` pixels for each of them. Errors: no such page, too large.
    Result<Picture> draw(int page, const PixelRegion& region, double fineness) const;
    /// The page's texts, line by line; places from the region's corner. `width` and `height` are the region's.
    Result<Drawing> texts(int page, const PixelRegion& region) const;

private:
    struct Document;
    std::shared_ptr<Document> document_;
};

/// Is this the beginning of a PDF?
bool looksLikePdf(std::string_view bytes);

}  // namespace punch
