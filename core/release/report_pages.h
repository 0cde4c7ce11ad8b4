#pragma once
// The pages of a report: text in lines that fit, tables that go on over pages, pictures, head and foot of each page.
// Used by report_pdf and report_drawing alone.
//
// Frame: mm from the page's upper left corner, y down; A4.

#include <cairo.h>

#include <cstdint>
#include <string>
#include <vector>

#include "core/release/report_content.h"

namespace punch::report {

inline constexpr double kPointsPerMm = 72 / 25.4;
inline constexpr double kWidth = 210, kHeight = 297, kLeft = 20, kRight = 15, kTop = 16, kBottom = 18;
inline constexpr double kInner = kWidth - kLeft - kRight;
inline constexpr std::uint32_t kQuietGrey = 0x6B767B;

std::uint32_t colourOf(GaugeState state);

class Pages {
public:
    Pages(cairo_t* c, const ReportContent& content) : c_(c), content_(content) { begin(); }

    int count() const { return count_; }
    double y = kTop;

    void finish() { footer(); }
    void colour(std::uint32_t rgb) {
        cairo_set_source_rgb(c_, (rgb >> 16 & 255) / 255.0, (rgb >> 8 & 255) / 255.0, (rgb & 255) / 255.0);
    }
    void font(double size, bool bold = false, bool digits = false) {
        cairo_select_font_face(c_, digits ? "DejaVu Sans Mono" : "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL,
                               bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
        cairo_set_font_size(c_, size);
    }
    double widthOf(const std::string& text) {
        cairo_text_extents_t e;
        cairo_text_extents(c_, text.c_str(), &e);
        return e.x_advance;
    }
    void words(double x, double at, const std::string& text) {
        cairo_move_to(c_, x, at);
        cairo_show_text(c_, text.c_str());
    }
    void line(double ax, double ay, double bx, double by, double width) {
        cairo_move_to(c_, ax, ay);
        cairo_line_to(c_, bx, by);
        cairo_set_line_width(c_, width);
        cairo_stroke(c_);
    }
    /// In lines no wider than `width`; a word that is longer by itself is broken.
    std::vector<std::string> wrapped(const std::string& text, double width);
    /// Room for so much, on this page or on a new one.
    void room(double height) {
        if (y + height > kHeight - kBottom) {
            footer();
            cairo_show_page(c_);
            begin();
        }
    }
    void paragraph(const std::string& text, double size, std::uint32_t rgb, bool bold = false);
    void table(const ReportTable& t, std::size_t most);
    void picture(const ReportPicture& p);
    cairo_t* cairo() { return c_; }

private:
    void begin();
    void footer();
    cairo_t* c_;
    const ReportContent& content_;
    int count_ = 0;
};

}  // namespace punch::report
