#include "core/drawing/pdf_pages.h"

#include <fmt/format.h>
#include <poppler-document.h>
#include <poppler-page-renderer.h>
#include <poppler-page.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <memory>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/base/read_in_worker.h"
#include "core/picture/read_picture.h"

namespace punch {

namespace {

constexpr double kPoint = kPageDpi / 72;     // pixels
constexpr double kMostRegionPixels = 200e6;  // of one drawn region

std::string utf8(const poppler::ustring& s) {
    const poppler::byte_array bytes = s.to_utf8();
    return {bytes.begin(), bytes.end()};
}

/// Words that stand side by side become a line, as far as a blank is wide.
void joinWords(std::vector<DrawnText>& words) {
    std::vector<DrawnText> lines;
    for (DrawnText& w : words) {
        bool joined = false;
        for (auto it = lines.rbegin(); it != lines.rend() && it - lines.rbegin() < 40; ++it) {
            DrawnText& l = *it;
            if (l.turn != w.turn || std::abs(l.height - w.height) > 0.35 * std::max(l.height, w.height)) continue;
            const bool upright = l.turn != 0;
            // Along the line: to the right, or upwards or downwards for turned ones.
            const double gap = upright ? std::abs(w.middle.y - l.middle.y) - (l.width + w.width) / 2
                                       : w.middle.x - l.middle.x - (l.width + w.width) / 2;
            const double off = upright ? std::abs(w.middle.x - l.middle.x) : std::abs(w.middle.y - l.middle.y);
            if (off > 0.3 * l.height || gap < -0.3 * l.height || gap > 0.55 * l.height) continue;
            const bool before = upright && (l.turn < 0 ? w.middle.y > l.middle.y : w.middle.y < l.middle.y);
            l.text = before ? w.text + " " + l.text : l.text + " " + w.text;
            const double length = l.width + w.width + std::max(gap, 0.0);
            double& lm = upright ? l.middle.y : l.middle.x;
            const double wm = upright ? w.middle.y : w.middle.x;
            const double low = std::min(lm - l.width / 2, wm - w.width / 2);
            l.width = length;
            lm = low + length / 2;
            joined = true;
            break;
        }
        if (!joined) lines.push_back(std::move(w));
    }
    words = std::move(lines);
}

tl::unexpected<Problem> noPage(int page) { return problem(fmt::format("the PDF has no page {}", page + 1)); }

}  // namespace

struct PdfPages::Document {
    std::string name;
    int count = 0;
};

bool looksLikePdf(std::string_view bytes) { return bytes.substr(0, 1024).find("%PDF-") != std::string_view::npos; }

namespace {

constexpr double kMostPdfBytes = 500e6;

using Pdf = std::unique_ptr<poppler::document>;

/// In the worker: a PDF of a stranger never meets the bench's own memory.
Result<Pdf> load(const std::string& file) {
    poppler::set_debug_error_function([](const std::string&, void*) {}, nullptr);
    Pdf pdf(poppler::document::load_from_file(file));
    if (pdf == nullptr) return problem("the PDF is broken and cannot be read", file, "Fetch or save it again");
    if (pdf->is_locked())
        return problem("the PDF asks for a password", file, "Save it without one, or print the page to a new PDF");
    if (pdf->pages() < 1) return problem("the PDF has no page", file, "Fetch or save it again");
    return pdf;
}

struct Count {
    int pages = 0;
};
void pack(Packed& to, const Count& c) { to.put(c.pages); }
void unpack(Packed& from, Count& c) { from.get(c.pages); }
struct PageSize {
    double width = 0, height = 0;
};
void pack(Packed& to, const PageSize& s) { to.put(s); }
void unpack(Packed& from, PageSize& s) { from.get(s); }

/// Opens the file in a worker, and does something with one of its pages.
template <class T, class Work>
Result<T> withPage(const std::string& file, int page, const Work& work) {
    return readInWorker<T>(file, [&]() -> Result<T> {
        const auto pdf = load(file);
        if (!pdf) return tl::make_unexpected(pdf.error());
        const std::unique_ptr<poppler::page> p((*pdf)->create_page(page));
        if (!p) return noPage(page);
        return work(*p);
    });
}

}  // namespace

Result<PdfPages> PdfPages::open(const std::string& file) {
    if (auto plain = plainFile(file, kMostPdfBytes); !plain) return tl::make_unexpected(plain.error());
    std::ifstream in(file, std::ios::binary);
    if (!in) return problem("the file cannot be opened", file, "Check its name and whether you may read it");
    std::string head(1024, '\0');
    in.read(head.data(), 1024);
    head.resize(static_cast<std::size_t>(in.gcount()));
    if (!looksLikePdf(head)) return problem("no PDF", file, "Choose a PDF, a DXF or a picture");
    const auto count = readInWorker<Count>(file, [&]() -> Result<Count> {
        const auto pdf = load(file);
        if (!pdf) return tl::make_unexpected(pdf.error());
        return Count{(*pdf)->pages()};
    });
    if (!count) return tl::make_unexpected(count.error());
    PdfPages pages;
    pages.document_ = std::make_shared<Document>(Document{file, count->pages});
    return pages;
}

int PdfPages::count() const { return document_->count; }

Result<PixelRegion> PdfPages::sizeOf(int page) const {
    if (page < 0 || page >= count()) return noPage(page);
    const auto size = withPage<PageSize>(document_->name, page, [](const poppler::page& p) -> Result<PageSize> {
        const poppler::rectf r = p.page_rect();
        const bool turned = p.orientation() == poppler::page::landscape || p.orientation() == poppler::page::seascape;
        return PageSize{(turned ? r.height() : r.width()) * kPoint, (turned ? r.width() : r.height()) * kPoint};
    });
    if (!size) return tl::make_unexpected(size.error());
    const double w = size->width, h = size->height;
    const double most = 3000 / 25.4 * kPageDpi;
    if (!(w >= 1 && h >= 1 && w < most && h < most))
        return problem(
            fmt::format("page {} is {:.0f} x {:.0f} mm large", page + 1, w * 25.4 / kPageDpi, h * 25.4 / kPageDpi),
            document_->name, "Choose another page");
    return PixelRegion{0, 0, static_cast<int>(std::lround(w)), static_cast<int>(std::lround(h))};
}

Result<Picture> PdfPages::draw(int page, const PixelRegion& region, double fineness) const {
    if (page < 0 || page >= count()) return noPage(page);
    const double w = region.width * fineness, h = region.height * fineness;
    if (!(w >= 1 && h >= 1) || w * h > kMostRegionPixels)
        return problem("too large to be drawn at once", document_->name, "Choose a smaller region");
    return withPage<Picture>(document_->name, page, [&](const poppler::page& p) -> Result<Picture> {
        poppler::page_renderer renderer;
        renderer.set_render_hint(poppler::page_renderer::antialiasing);
        renderer.set_render_hint(poppler::page_renderer::text_antialiasing);
        renderer.set_image_format(poppler::image::format_rgb24);
        const double dpi = kPageDpi * fineness;
        const poppler::image image =
            renderer.render_page(&p, dpi, dpi, static_cast<int>(std::lround(region.x * fineness)),
                                 static_cast<int>(std::lround(region.y * fineness)), static_cast<int>(std::lround(w)),
                                 static_cast<int>(std::lround(h)));
        if (!image.is_valid()) return problem(fmt::format("page {} cannot be drawn", page + 1), document_->name);
        Picture picture;
        picture.width = image.width();
        picture.height = image.height();
        picture.channels = 3;
        picture.format = "PDF";
        picture.tone = 1;  // edges are smoothed by how much of a pixel a line covers
        picture.dpi = Dpi{dpi, dpi};
        picture.data.resize(static_cast<std::size_t>(picture.width) * picture.height * 3);
        for (int y = 0; y < picture.height; ++y)
            std::copy_n(image.const_data() + static_cast<std::ptrdiff_t>(y) * image.bytes_per_row(), 3 * picture.width,
                        reinterpret_cast<char*>(picture.row(y)));
        return picture;
    });
}

Result<Drawing> PdfPages::texts(int page, const PixelRegion& region) const {
    if (page < 0 || page >= count()) return noPage(page);
    Drawing d;
    d.width = region.width;
    d.height = region.height;
    d.dpi = kPageDpi;
    return withPage<Drawing>(document_->name, page, [&](const poppler::page& p) -> Result<Drawing> {
        for (const poppler::text_box& box : p.text_list()) {
            const poppler::rectf r = box.bbox();
            DrawnText t;
            t.text = utf8(box.text());
            if (t.text.empty()) continue;
            t.middle = {(r.x() + r.width() / 2) * kPoint - region.x, (r.y() + r.height() / 2) * kPoint - region.y};
            // Quarter turns, counter-clockwise as poppler counts them downwards.
            const int quarter = box.rotation();
            t.turn = quarter == 1 ? 90 : quarter == 3 ? -90 : 0;
            t.width = (t.turn == 0 ? r.width() : r.height()) * kPoint;
            t.height = (t.turn == 0 ? r.height() : r.width()) * kPoint;
            if (t.middle.x < 0 || t.middle.y < 0 || t.middle.x > region.width || t.middle.y > region.height) continue;
            d.texts.push_back(std::move(t));
        }
        joinWords(d.texts);
        return d;
    });
}

}  // namespace punch
