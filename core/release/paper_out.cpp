#include "core/release/paper_out.h"

#include <cairo-pdf.h>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <optional>

#include "core/artwork/artwork.h"
#include "core/geometry/shapes.h"
#include "core/release/cairo_text.h"
#include "core/version.h"

namespace punch {
namespace {

// `kBeside`: room for the upright test length.
constexpr double kMargin = 12, kGap = 6, kRuler = 5, kBeside = 9, kPointsPerMm = 72 / 25.4;

/// A part's place on a page, mm from the page's upper left corner, y down.
struct Cell {
    std::size_t part = 0;
    double x = 0, y = 0, w = 0, h = 0;
};

struct Content {
    double left, bottom, w, h;  ///< of what is drawn, in the part's own frame
};

Content contentOf(const Footprint& f) {
    Rect r = f.courtyard;
    for (const Pad& p : f.pads) r.add(boundsOf(landShape(p)));
    for (const BareHole& h : f.bareHoles) r.add(boundsOf(holeShape(h)));
    if (r.empty) r.add({Length(), Length(), Length(), Length(), false});
    // To whole 5 mm, so that the grid ends where the cell does.
    const auto down = [](double v) { return std::floor(v / 5 - 1e-9) * 5; };
    const auto up = [](double v) { return std::ceil(v / 5 + 1e-9) * 5; };
    const double left = down(r.left.mm()), right = up(r.right.mm()), bottom = down(r.bottom.mm()), top = up(r.top.mm());
    return {left, bottom, right - left, top - bottom};
}

std::string titleOf(const PaperPart& what, bool mirrored) {
    const auto& pads = what.footprint->pads;
    std::string title = what.part->name + (mirrored ? ", mirrored: underside down on it" : ", seen from the part side");
    if (std::any_of(pads.begin(), pads.end(), [](const Pad& p) { return !p.firm; })) title += ", LOOSE";
    return title;
}

class Page {
public:
    Page(cairo_t* c, const PaperOptions& o) : c_(c), options_(o) {
        cairo_save(c_);
        cairo_scale(c_, kPointsPerMm, kPointsPerMm);
        // What the printer makes longer is drawn shorter, from the page's corner.
        cairo_scale(c_, kPaperTestLength / o.printedX, kPaperTestLength / o.printedY);
        cairo_set_line_cap(c_, CAIRO_LINE_CAP_ROUND);
        cairo_set_line_join(c_, CAIRO_LINE_JOIN_ROUND);
        cairo_select_font_face(c_, "sans-serif", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
        testLengths();
    }
    ~Page() { cairo_restore(c_); }

    void draw(const Cell& cell, const PaperPart& what) {
        const Content content = contentOf(*what.footprint);
        const double x0 = cell.x + kRuler, y1 = cell.y + cell.h - kRuler;
        // From the part's frame to the page's.
        const double side = options_.mirrored ? -1 : 1;
        map_ = [=](Point p) {
            const double x = p.x.mm() - content.left;
            return std::pair{x0 + (side > 0 ? x : content.w - x), y1 - (p.y.mm() - content.bottom)};
        };
        cutMarks(cell);
        rulers(x0, y1, content);
        artworkOf(what);
        ink(0);
        const std::string title = titleOf(what, options_.mirrored);
        words(cell.x, cell.y + 2.4, title, 2.4);
        ink(0.4);
        words(cell.x, cell.y + cell.h + 1.6, what.stamp, 1.4);
    }

private:
    void ink(double grey) { cairo_set_source_rgb(c_, grey, grey, grey); }
    void stroke(double width) {
        cairo_set_line_width(c_, width);
        cairo_stroke(c_);
    }
    void line(double ax, double ay, double bx, double by, double width) {
        cairo_move_to(c_, ax, ay);
        cairo_line_to(c_, bx, by);
        stroke(width);
    }
    void words(double x, double y, const std::string& text, double size) {
        cairo_set_font_size(c_, size);
        cairo_move_to(c_, x, y);
        cairo_show_text(c_, text.c_str());
    }

    void testLengths() {
        ink(0);
        const double x = kMargin, y = options_.pageHeight - kMargin;
        line(x, y, x + kPaperTestLength, y, 0.15);
        line(x, y, x, y - kPaperTestLength, 0.15);
        for (int i = 0; i <= 10; ++i) {
            const double at = i * kPaperTestLength / 10, long_ = i % 5 == 0 ? 2.5 : 1.5;
            line(x + at, y, x + at, y - long_, 0.15);
            line(x, y - at, x + long_, y - at, 0.15);
        }
        words(x + 4, y - 4, "both bars are 100 mm: measure them in print, and say what they are", 2.6);
        ink(0.4);
        words(x, y + 5,
              options_.printedX == kPaperTestLength && options_.printedY == kPaperTestLength
                  ? fmt::format("Punchbit {}, 1:1, not corrected for a printer", kVersion)
                  : fmt::format("Punchbit {}, 1:1, corrected for a printer that makes {:g} x {:g} mm of {:g}", kVersion,
                                options_.printedX, options_.printedY, kPaperTestLength),
              2);
    }

    void cutMarks(const Cell& cell) {
        ink(0.4);
        for (const double x : {cell.x - 2, cell.x + cell.w + 2})
            for (const double y : {cell.y - 2, cell.y + cell.h + 2}) {
                const double dx = x < cell.x ? -3 : 3, dy = y < cell.y ? -3 : 3;
                line(x, y, x + dx, y, 0.1);
                line(x, y, x, y + dy, 0.1);
            }
    }

    void rulers(double x0, double y1, const Content& c) {
        ink(0.8);
        for (double x = 0; x <= c.w + 1e-9; x += 5)
            for (double y = 0; y <= c.h + 1e-9; y += 5) {
                line(x0 + x - 0.6, y1 - y, x0 + x + 0.6, y1 - y, 0.06);
                line(x0 + x, y1 - y - 0.6, x0 + x, y1 - y + 0.6, 0.06);
            }
        ink(0.3);
        for (int mm = 0; mm <= std::lround(c.w); ++mm) {
            const double tick = mm % 10 == 0 ? 3 : mm % 5 == 0 ? 2 : 1;
            line(x0 + mm, y1 + 0.8, x0 + mm, y1 + 0.8 + tick, 0.08);
        }
        for (int mm = 0; mm <= std::lround(c.h); ++mm) {
            const double tick = mm % 10 == 0 ? 3 : mm % 5 == 0 ? 2 : 1;
            line(x0 - 0.8, y1 - mm, x0 - 0.8 - tick, y1 - mm, 0.08);
        }
    }

    void path(const Shape& shape) {
        const auto ring = [&](const std::vector<Point>& points, bool closed) {
            for (std::size_t i = 0; i < points.size(); ++i) {
                const auto [x, y] = map_(points[i]);
                i == 0 ? cairo_move_to(c_, x, y) : cairo_line_to(c_, x, y);
            }
            if (closed) cairo_close_path(c_);
        };
        if (const RoundedPolygon* area = shape.rounded())
            ring(outlineOf(*area, Length::fromUm(2)), true);
        else if (const Polygons* rings = shape.polygons())
            for (const auto& r : *rings) ring(r, true);
        else if (const Line* l = shape.line())
            ring(l->points, false);
    }

    void layer(const PaperPart& what, Layer which, double width, double grey, std::optional<double> fill = {}) {
        for (const Shape& shape : artwork(*what.part, *what.footprint, which)) {
            path(shape);
            if (fill && shape.line() == nullptr) {
                ink(*fill);
                cairo_fill_preserve(c_);
            }
            ink(grey);
            stroke(shape.line() != nullptr && shape.line()->width > Length() ? shape.line()->width.mm() : width);
        }
    }

    void artworkOf(const PaperPart& what) {
        const Footprint& f = *what.footprint;
        layer(what, Layer::Body, 0.1, 0.55);
        layer(what, options_.mirrored ? Layer::BottomCopper : Layer::TopCopper, 0.1, 0.35, 0.9);
        layer(what, Layer::TopCourtyard, 0.08, 0.7);
        layer(what, Layer::TopSilkscreen, 0.15, 0.3);
        layer(what, Layer::CutOuts, 0.15, 0, 1.0);
        // As large as the least lead, where it stands: what punches through is no larger.
        const auto lead = [&](Point at, Length size) {
            const auto [x, y] = map_(at);
            cairo_new_sub_path(c_);
            cairo_arc(c_, x, y, std::max(size.mm() / 2, 0.1), 0, 2 * std::acos(-1.0));
            ink(1);
            cairo_fill_preserve(c_);
            ink(0);
            stroke(0.1);
            line(x - size.mm() / 2, y, x + size.mm() / 2, y, 0.05);
            line(x, y - size.mm() / 2, x, y + size.mm() / 2, 0.05);
        };
        for (const Pad& p : f.pads)
            if (p.hole > Length()) lead(p.at - p.off, p.sized ? f.leads[p.formation].section.across.least : p.hole);
        for (const BareHole& h : f.bareHoles)
            lead(h.at - h.off, h.peg.across.least > Length() ? h.peg.across.least : h.size);
        ink(0);
        for (const Pad& p : f.pads) {
            const auto [x, y] = map_({p.at.x, boundsOf(landShape(p)).top});
            words(x - 0.5, y - 0.4, p.number, 1.4);
        }
    }

    cairo_t* c_;
    const PaperOptions& options_;
    std::function<std::pair<double, double>(Point)> map_;
};

/// Shelf by shelf, the higher ones first.
Result<std::vector<std::vector<Cell>>> pagesOf(const std::vector<PaperPart>& parts, const PaperOptions& o) {
    std::vector<Cell> cells;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const Content c = contentOf(*parts[i].footprint);
        // As wide as its title, so that no two run into each other.
        const double title = std::max(1.35 * static_cast<double>(titleOf(parts[i], o.mirrored).size()),
                                      0.8 * static_cast<double>(parts[i].stamp.size()));
        cells.push_back({i, 0, 0, std::max(c.w + kRuler, title), c.h + kRuler + 4});
    }
    std::stable_sort(cells.begin(), cells.end(), [](const Cell& a, const Cell& b) { return a.h > b.h; });
    // The correction takes room too.
    const double width = o.pageWidth * std::min(o.printedX / kPaperTestLength, 1.0) - 2 * kMargin - kBeside;
    const double height = o.pageHeight * std::min(o.printedY / kPaperTestLength, 1.0) - 2 * kMargin - 15;
    std::vector<std::vector<Cell>> pages(1);
    double x = 0, y = 0, shelf = 0;
    for (Cell cell : cells) {
        if (cell.w > width || cell.h > height)
            return problem(fmt::format("it is {:.0f} x {:.0f} mm, and the page takes {:.0f} x {:.0f}", cell.w, cell.h,
                                       width, height),
                           parts[cell.part].part->name, "Choose larger paper");
        if (x + cell.w > width) {
            x = 0;
            y += shelf + kGap + 4;
            shelf = 0;
        }
        if (y + cell.h > height) {
            pages.emplace_back();
            x = y = shelf = 0;
        }
        cell.x = kMargin + kBeside + x;
        cell.y = kMargin + y;
        pages.back().push_back(cell);
        x += cell.w + kGap + 4;
        shelf = std::max(shelf, cell.h);
    }
    return pages;
}

}  // namespace

Result<std::string> paperPdf(const std::vector<PaperPart>& parts, const PaperOptions& o) {
    if (parts.empty()) return problem("there is no part to draw", "paper", "Choose one");
    for (const double printed : {o.printedX, o.printedY})
        if (!(printed > 0.9 * kPaperTestLength && printed < 1.1 * kPaperTestLength))
            return problem(
                fmt::format("{:g} mm in print for {:g}: that is no printer's error", printed, kPaperTestLength),
                "correction", "Measure the test length again");
    const auto pages = pagesOf(parts, o);
    if (!pages) return tl::make_unexpected(pages.error());
    std::string out;
    cairo_surface_t* surface =
        cairo_pdf_surface_create_for_stream(appendToString, &out, o.pageWidth * kPointsPerMm, o.pageHeight * kPointsPerMm);
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_TITLE, parts.front().part->name.c_str());
    // The same part gives the same bytes.
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_CREATE_DATE, "2000-01-01T00:00:00Z");
    cairo_t* c = cairo_create(surface);
    for (const auto& cells : *pages) {
        {
            Page page(c, o);
            for (const Cell& cell : cells) page.draw(cell, parts[cell.part]);
        }
        cairo_show_page(c);
    }
    const cairo_status_t status = cairo_status(c);
    cairo_destroy(c);
    cairo_surface_finish(surface);
    cairo_surface_destroy(surface);
    if (status != CAIRO_STATUS_SUCCESS) return problem(cairo_status_to_string(status), "paper", "Try again");
    return out;
}

}  // namespace punch
