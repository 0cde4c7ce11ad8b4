#include "demo/maker/drawing_maker.h"

#include <cairo-pdf.h>
#include <cairo.h>
#include <fmt/format.h>

#include <cmath>
#include <numbers>

namespace punch::maker {

namespace {

constexpr double kArrow = 1.6;  // mm on the page
constexpr double kTextHeight = 2.2;

std::string lengthWords(double mm) {
    std::string s = fmt::format("{:.2f}", mm);
    while (s.back() == '0') s.pop_back();
    if (s.back() == '.') s.pop_back();
    return s;
}

}  // namespace

void DrawingSheet::line(Spot2 a, Spot2 b, Pen pen) { lines_.push_back({a, b, pen}); }

void DrawingSheet::rectangle(double left, double bottom, double right, double top, Pen pen) {
    line({left, bottom}, {right, bottom}, pen);
    line({right, bottom}, {right, top}, pen);
    line({right, top}, {left, top}, pen);
    line({left, top}, {left, bottom}, pen);
}

void DrawingSheet::circle(Spot2 middle, double diameter, Pen pen) { circles_.push_back({middle, diameter, pen}); }

void DrawingSheet::text(Spot2 middle, double height, const std::string& words, double turn) {
    texts_.push_back({middle, height, words, turn});
}

void DrawingSheet::along(Spot2 a, Spot2 b, double level, const std::string& words) {
    dimension(a, b, level, words, false);
}

void DrawingSheet::across(Spot2 a, Spot2 b, double level, const std::string& words) {
    dimension(a, b, level, words, true);
}

void DrawingSheet::dimension(Spot2 a, Spot2 b, double level, const std::string& given, bool across) {
    const std::string words = given.empty() ? lengthWords(across ? std::abs(b.y - a.y) : std::abs(b.x - a.x)) : given;
    const Spot2 p = across ? Spot2{level, a.y} : Spot2{a.x, level};
    const Spot2 q = across ? Spot2{level, b.y} : Spot2{b.x, level};
    for (const auto& [from, to] : {std::pair{a, p}, std::pair{b, q}}) lines_.push_back({from, to, Pen::Thin, true});
    lines_.push_back({p, q, Pen::Thin, true});
    // Arrows, outwards where there is no room between.
    const double h = kArrow / scale_;
    const double length = std::hypot(q.x - p.x, q.y - p.y);
    const double way = length > 3 * h ? 1 : -1;
    const Spot2 u{(q.x - p.x) / length, (q.y - p.y) / length};
    for (const auto& [tip, s] : {std::pair{p, way}, std::pair{q, -way}})
        for (const double side : {-0.25, 0.25})
            lines_.push_back(
                {tip, {tip.x + s * h * u.x - side * h * u.y, tip.y + s * h * u.y + side * h * u.x}, Pen::Thin, true});
    const double off = 0.8 * kTextHeight / scale_;
    const Spot2 middle = across ? Spot2{level - off, (a.y + b.y) / 2} : Spot2{(a.x + b.x) / 2, level + off};
    texts_.push_back({middle, kTextHeight, words, across ? 90.0 : 0.0, true});
    dimensions_.push_back({a, b, q, middle, across, words});
}

void DrawingSheet::leader(Spot2 to, Spot2 from, const std::string& words) {
    lines_.push_back({from, to, Pen::Thin});
    const double side = from.x >= to.x ? 1 : -1;
    const double w = 0.37 * kTextHeight * static_cast<double>(words.size()) / scale_;
    texts_.push_back({{from.x + side * (w + 1.0 / scale_), from.y}, kTextHeight, words, 0});
}

std::string DrawingSheet::pdf(double left, double bottom) const {
    std::string out;
    const auto write = [](void* to, const unsigned char* data, unsigned length) {
        static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), length);
        return CAIRO_STATUS_SUCCESS;
    };
    const double point = 72 / 25.4;
    cairo_surface_t* surface = cairo_pdf_surface_create_for_stream(write, &out, width_ * point, height_ * point);
    // The same bytes every time.
    cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_CREATE_DATE, "2026-01-01T00:00:00Z");
    cairo_t* c = cairo_create(surface);
    const auto x = [&](double v) { return (left + scale_ * v) * point; };
    const auto y = [&](double v) { return (height_ - bottom - scale_ * v) * point; };
    const auto pen = [&](Pen p) {
        const double dashes[] = {2.0 * point, 1.0 * point};
        cairo_set_dash(c, dashes, p == Pen::Dashed ? 2 : 0, 0);
        cairo_set_line_width(c, (p == Pen::Thick ? 0.35 : 0.15) * point);
    };
    for (const Line& l : lines_) {
        pen(l.pen);
        cairo_move_to(c, x(l.a.x), y(l.a.y));
        cairo_line_to(c, x(l.b.x), y(l.b.y));
        cairo_stroke(c);
    }
    for (const Circle& o : circles_) {
        pen(o.pen);
        cairo_arc(c, x(o.middle.x), y(o.middle.y), scale_ * o.diameter / 2 * point, 0, 2 * std::numbers::pi);
        cairo_stroke(c);
    }
    cairo_select_font_face(c, "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
    for (const Text& t : texts_) {
        cairo_save(c);
        cairo_translate(c, x(t.middle.x), y(t.middle.y));
        cairo_rotate(c, -t.turn * std::numbers::pi / 180);
        cairo_set_font_size(c, t.height * point / 0.73);
        cairo_text_extents_t e;
        cairo_text_extents(c, t.words.c_str(), &e);
        cairo_move_to(c, -e.width / 2 - e.x_bearing, t.height * point / 2);
        cairo_show_text(c, t.words.c_str());
        cairo_restore(c);
    }
    cairo_show_page(c);
    cairo_destroy(c);
    cairo_surface_destroy(surface);
    return out;
}

std::string DrawingSheet::dxf(int insUnits, double mmPerUnit, const std::string& version) const {
    std::string out;
    const auto pair = [&](int code, const auto& value) { out += fmt::format("{}\n{}\n", code, value); };
    const auto dot = [&](int code, Spot2 p) {
        pair(code, p.x / mmPerUnit);
        pair(code + 10, p.y / mmPerUnit);
        pair(code + 20, 0.0);
    };
    pair(0, "SECTION");
    pair(2, "HEADER");
    pair(9, "$ACADVER");
    pair(1, version);
    if (insUnits != 0) {
        pair(9, "$INSUNITS");
        pair(70, insUnits);
    }
    pair(9, "$DIMTXT");
    pair(40, kTextHeight / scale_ / mmPerUnit);
    pair(0, "ENDSEC");
    pair(0, "SECTION");
    pair(2, "ENTITIES");
    for (const Line& l : lines_) {
        if (l.ofDimension) continue;
        pair(0, "LINE");
        pair(8, "0");
        dot(10, l.a);
        dot(11, l.b);
    }
    for (const Circle& o : circles_) {
        pair(0, "CIRCLE");
        pair(8, "0");
        dot(10, o.middle);
        pair(40, o.diameter / 2 / mmPerUnit);
    }
    for (const Text& t : texts_) {
        if (t.ofDimension) continue;
        pair(0, "TEXT");
        pair(8, "0");
        dot(10, t.middle);
        pair(40, t.height / scale_ / mmPerUnit);
        pair(1, t.words);
        pair(50, t.turn);
        pair(72, 4);  // the middle
        dot(11, t.middle);
    }
    for (const Dimension& d : dimensions_) {
        pair(0, "DIMENSION");
        pair(8, "0");
        dot(10, d.line);
        dot(11, d.middle);
        pair(1, d.words);
        pair(70, 0);
        dot(13, d.a);
        dot(14, d.b);
        pair(50, d.across ? 90.0 : 0.0);
        pair(40, 0);
    }
    pair(0, "ENDSEC");
    pair(0, "EOF");
    return out;
}

}  // namespace punch::maker
