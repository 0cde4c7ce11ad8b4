#include "core/release/report_pdf.h"

#include <cairo-pdf.h>
#include <fmt/format.h>

#include <cmath>

#include "core/artwork/palette.h"
#include "core/release/cairo_text.h"
#include "core/release/report_drawing.h"

namespace punch {
namespace {

using namespace report;

/// With long tables cut to so many lines; how many pages that makes.
int drawAll(const Part& part, const Footprint& f, const ReportContent& content, std::size_t most, bool pictures,
            std::string& out, cairo_status_t& status) {
    cairo_surface_t* surface =
        cairo_pdf_surface_create_for_stream(appendToString, &out, kWidth * kPointsPerMm, kHeight * kPointsPerMm);
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_TITLE, (content.name + ", footprint report").c_str());
    // The same part gives the same bytes.
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_CREATE_DATE, "2000-01-01T00:00:00Z");
    cairo_t* c = cairo_create(surface);
    cairo_scale(c, kPointsPerMm, kPointsPerMm);
    int count = 0;
    {
        Pages pages(c, content);
        if (!content.description.empty()) pages.paragraph(content.description, 3.1, palette::kInk);
        if (!content.stamp.empty()) pages.paragraph(content.stamp, 2.7, palette::kInk, true);
        if (!content.digest.empty()) pages.paragraph("SHA-256 " + content.digest, 2.2, kQuietGrey);
        pages.paragraph(content.verdict, 2.9, colourOf(content.worst), true);
        drawFootprint(pages, part, f, content.loose);
        for (const ReportTable& t : content.tables) pages.table(t, most);
        if (pictures)
            for (const ReportPicture& p : content.pictures) pages.picture(p);
        else if (!content.pictures.empty())
            pages.paragraph(fmt::format("{} pictures of sources do not fit here", content.pictures.size()), 2.5,
                            kQuietGrey);
        for (const std::string& m : content.missing) pages.paragraph(m, 2.5, kQuietGrey);
        if (!content.notes.empty()) {
            pages.y += 4;
            pages.paragraph(content.notes, 2.7, palette::kInk);
        }
        pages.finish();
        count = pages.count();
    }
    cairo_show_page(c);
    status = cairo_status(c);
    cairo_destroy(c);
    cairo_surface_finish(surface);
    cairo_surface_destroy(surface);
    return count;
}

}  // namespace

Result<std::string> reportPdf(const Part& part, const Footprint& f, const ReportContent& content) {
    for (const Pad& p : f.pads)
        if (!std::isfinite(p.at.x.mm()) || !std::isfinite(p.at.y.mm()))
            return problem("pad " + p.number + " has no place", part.name, "Look at its readings");
    std::string out;
    // As whole as four pages hold it: long tables are cut first, then pictures are left out.
    for (const bool pictures : {true, false})
        for (const std::size_t most :
             {std::size_t{100000}, std::size_t{90}, std::size_t{50}, std::size_t{30}, std::size_t{15}}) {
            out.clear();
            cairo_status_t status = CAIRO_STATUS_SUCCESS;
            const int count = drawAll(part, f, content, most, pictures, out, status);
            if (status != CAIRO_STATUS_SUCCESS) return problem(cairo_status_to_string(status), "report", "Try again");
            if (count <= kMostReportPages) return out;
        }
    return out;
}

}  // namespace punch
