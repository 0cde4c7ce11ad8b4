#include "core/release/report_pdf.h"

#include <cairo-pdf.h>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/artwork/artwork.h"
#include "core/artwork/palette.h"
#include "core/geometry/shapes.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

constexpr double kPointsPerMm = 72 / 25.4;
constexpr double kWidth = 210, kHeight = 297, kLeft = 20, kRight = 15, kTop = 16, kBottom = 18;
constexpr double kInner = kWidth - kLeft - kRight;
constexpr std::uint32_t kQuietGrey = 0x6B767B, kRule = 0xC3CCC8, kGoInk = 0x2E7D4F, kWatchInk = 0x9A6608;

cairo_status_t keep(void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

std::uint32_t colourOf(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return kGoInk;
        case GaugeState::Watch: return kWatchInk;
        default: return palette::kVermilion;
    }
}

bool isNumber(const std::string& cell) { return !cell.empty() && cell[0] == '#'; }
std::string plain(const std::string& cell) { return isNumber(cell) ? cell.substr(1) : cell; }

/// The pages: mm from the upper left corner, y down.
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
    std::vector<std::string> wrapped(const std::string& text, double width) {
        std::vector<std::string> lines(1);
        std::string word;
        const auto put = [&] {
            if (word.empty()) return;
            const std::string both = lines.back().empty() ? word : lines.back() + " " + word;
            if (widthOf(both) <= width) {
                lines.back() = both;
            } else {
                if (!lines.back().empty()) lines.emplace_back();
                for (std::size_t i = 0; i < word.size();) {
                    std::size_t next = i + 1;  // whole characters of UTF-8
                    while (next < word.size() && (static_cast<unsigned char>(word[next]) & 0xC0) == 0x80) ++next;
                    const std::string more = lines.back() + word.substr(i, next - i);
                    if (widthOf(more) > width && !lines.back().empty()) lines.emplace_back();
                    lines.back() += word.substr(i, next - i);
                    i = next;
                }
            }
            word.clear();
        };
        for (const char ch : text) {
            if (ch == ' ' || ch == '\n' || ch == '\t') {
                put();
                if (ch == '\n' && !lines.back().empty()) lines.emplace_back();
            } else {
                word += ch;
            }
        }
        put();
        return lines;
    }
    /// Room for so much, on this page or on a new one.
    void room(double height) {
        if (y + height > kHeight - kBottom) {
            footer();
            cairo_show_page(c_);
            begin();
        }
    }
    void paragraph(const std::string& text, double size, std::uint32_t rgb, bool bold = false) {
        font(size, bold);
        for (const std::string& l : wrapped(text, kInner)) {
            room(size * 1.4);
            font(size, bold);
            colour(rgb);
            y += size * 1.35;
            words(kLeft, y, l);
        }
    }
    void table(const ReportTable& t, std::size_t most) {
        constexpr double kSize = 2.5, kLine = 3.5;
        room(18);
        y += 5;
        font(3.1, true);
        colour(palette::kInk);
        words(kLeft, y, t.title);
        y += 1.2;
        colour(palette::kInk);
        line(kLeft, y, kLeft + kInner, y, 0.25);
        y += 0.6;
        const auto row = [&](const std::vector<std::string>& cells, std::optional<GaugeState> state, bool head) {
            std::vector<std::vector<std::string>> lines;
            std::size_t high = 1;
            for (std::size_t i = 0; i < cells.size() && i < t.widths.size(); ++i) {
                font(kSize, head, isNumber(cells[i]) && !head);
                lines.push_back(wrapped(plain(cells[i]), t.widths[i] * kInner - 1.5));
                high = std::max(high, lines.back().size());
            }
            room(static_cast<double>(high) * kLine + 1);
            double x = kLeft;
            for (std::size_t i = 0; i < lines.size(); ++i) {
                const double w = t.widths[i] * kInner;
                font(kSize, head, isNumber(cells[i]) && !head);
                colour(head ? kQuietGrey : state && !isNumber(cells[i]) ? colourOf(*state) : palette::kInk);
                for (std::size_t k = 0; k < lines[i].size(); ++k)
                    // Words beside a number stand a little off it.
                    words(isNumber(cells[i]) ? x + w - 1.5 - widthOf(lines[i][k]) : x + (i > 0 && isNumber(cells[i - 1]) ? 1.5 : 0), y + kLine * static_cast<double>(k + 1) - 0.8, lines[i][k]);
                x += w;
            }
            y += static_cast<double>(high) * kLine;
            colour(kRule);
            line(kLeft, y + 0.2, kLeft + kInner, y + 0.2, 0.08);
            y += 0.4;
        };
        if (!t.rows.empty()) row(t.heads, {}, true);
        const std::size_t shown = t.long_ ? std::min(most, t.rows.size()) : t.rows.size();
        for (std::size_t i = 0; i < shown; ++i) row(t.rows[i].cells, t.rows[i].state, false);
        if (shown < t.rows.size()) paragraph(fmt::format("and {} more, in the tables that leave with it", t.rows.size() - shown), kSize, kQuietGrey);
        for (const std::string& l : t.after) paragraph(l, kSize, kQuietGrey);
    }
    void picture(const ReportPicture& p) {
        const double w = std::min(kInner, 95.0 * p.picture.width / p.picture.height), h = w * p.picture.height / p.picture.width;
        room(h + 10);
        y += 5;
        font(3.1, true);
        colour(palette::kInk);
        words(kLeft, y, p.title);
        y += 2;
        const int stride = cairo_format_stride_for_width(CAIRO_FORMAT_RGB24, p.picture.width);
        std::vector<unsigned char> pixels(static_cast<std::size_t>(stride) * static_cast<std::size_t>(p.picture.height));
        for (int row = 0; row < p.picture.height; ++row)
            for (int x = 0; x < p.picture.width; ++x) {
                const std::uint8_t* from = p.picture.row(row) + 3 * x;
                unsigned char* to = pixels.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(stride) + 4 * x;
                to[0] = from[2], to[1] = from[1], to[2] = from[0];
            }
        cairo_surface_t* image = cairo_image_surface_create_for_data(pixels.data(), CAIRO_FORMAT_RGB24, p.picture.width, p.picture.height, stride);
        const double scale = w / p.picture.width;
        cairo_save(c_);
        cairo_translate(c_, kLeft, y);
        cairo_scale(c_, scale, scale);
        cairo_set_source_surface(c_, image, 0, 0);
        cairo_paint(c_);
        cairo_restore(c_);
        cairo_surface_destroy(image);
        colour(palette::kPetrol);
        font(2.2, true);
        for (const ReportPick& pick : p.picks) {
            const double x = kLeft + pick.a.x * scale, at = y + pick.a.y * scale, r = std::max(pick.size * scale / 2, 0.8);
            cairo_new_sub_path(c_);
            cairo_arc(c_, x, at, r, 0, 2 * std::acos(-1.0));
            cairo_set_line_width(c_, 0.25);
            cairo_stroke(c_);
            if (pick.b) line(x, at, kLeft + pick.b->x * scale, y + pick.b->y * scale, 0.2);
            words(x + r + 0.3, at - r * 0.4, std::to_string(pick.number));
        }
        y += h + 1;
    }
    cairo_t* cairo() { return c_; }

private:
    void begin() {
        ++count_;
        y = kTop;
        colour(palette::kInk);
        font(count_ == 1 ? 6.5 : 3.4, true);
        y += count_ == 1 ? 5 : 2;
        words(kLeft, y, content_.name);
        font(2.6);
        colour(kQuietGrey);
        const std::string right = count_ == 1 ? "Footprint report" : "Footprint report, continued";
        words(kLeft + kInner - widthOf(right), y, right);
        y += 2;
        colour(palette::kInk);
        line(kLeft, y, kLeft + kInner, y, count_ == 1 ? 0.5 : 0.25);
        y += 1;
    }
    void footer() {
        colour(kRule);
        line(kLeft, kHeight - 13, kLeft + kInner, kHeight - 13, 0.15);
        colour(kQuietGrey);
        font(2.2);
        const std::string left = content_.program + (content_.made.empty() ? "" : ", " + content_.made) +
                                 (content_.digest.empty() ? "" : ", SHA-256 " + content_.digest.substr(0, 32));
        words(kLeft, kHeight - 10, left);
        const std::string page = fmt::format("page {}", count_);
        words(kLeft + kInner - widthOf(page), kHeight - 10, page);
    }
    cairo_t* c_;
    const ReportContent& content_;
    int count_ = 0;
};

/// The footprint with its places dimensioned from the datum.
class DrawnFootprint {
public:
    DrawnFootprint(Pages& pages, const Part& part, const Footprint& f, bool loose) : pages_(pages), c_(pages.cairo()), part_(part), f_(f) {
        Rect box = f.courtyard;
        for (const Pad& p : f.pads) box.add(boundsOf(landShape(p)));
        for (const BareHole& h : f.bareHoles) box.add(boundsOf(holeShape(h)));
        box.add(boundsOf(f.silkscreen));
        if (box.empty) return;
        constexpr double kBeside = 26, kBelow = 26, kHigh = 109;
        const double fits = std::min((kInner - kBeside - 4) / box.width().mm(), (kHigh - kBelow) / box.height().mm());
        for (const double s : {20.0, 10.0, 5.0, 2.0, 1.0, 0.5, 0.2, 0.1, 0.05})
            if (s <= fits) {
                scale_ = s;
                break;
            }
        const double w = box.width().mm() * scale_, h = box.height().mm() * scale_;
        pages.room(h + kBelow + 8);
        const double left = kLeft + kBeside + (kInner - kBeside - w) / 2 - 4, top = pages.y + 5;
        map_ = [=, this](Point p) {
            return std::pair{left + (p.x - box.left).mm() * scale_, top + (box.top - p.y).mm() * scale_};
        };
        layers();
        if (loose) {
            pages.font(14, true);
            pages.colour(palette::kVermilion);
            pages.words(left + w / 2 - pages.widthOf("LOOSE") / 2, top + h / 2, "LOOSE");
        }
        dimensions(left, top, w, h);
        pages.y = top + h + kBelow;
        pages.font(2.3);
        pages.colour(kQuietGrey);
        pages.words(kLeft, pages.y, fmt::format("Scale {}, printed without scaling. mm from the datum, x right, y up, seen from the part side; doubts at 95 %.",
                                                scale_ >= 1 ? fmt::format("{:g} : 1", scale_) : fmt::format("1 : {:g}", 1 / scale_)));
    }

private:
    void path(const Shape& s) {
        const auto ring = [&](const std::vector<Point>& points, bool closed) {
            for (std::size_t i = 0; i < points.size(); ++i) {
                const auto [x, y] = map_(points[i]);
                i == 0 ? cairo_move_to(c_, x, y) : cairo_line_to(c_, x, y);
            }
            if (closed) cairo_close_path(c_);
        };
        if (const RoundedPolygon* area = s.rounded())
            ring(outlineOf(*area, Length::fromUm(5)), true);
        else if (const Polygons* rings = s.polygons())
            for (const auto& r : *rings) ring(r, true);
        else if (const Line* l = s.line())
            ring(l->points, false);
    }
    void layer(Layer which, std::optional<std::uint32_t> fill, std::uint32_t edge, double width) {
        for (const Shape& s : artwork(part_, f_, which)) {
            path(s);
            if (fill && s.line() == nullptr) {
                pages_.colour(*fill);
                cairo_fill_preserve(c_);
            }
            pages_.colour(edge);
            cairo_set_line_width(c_, s.line() != nullptr ? std::max(0.05, s.line()->width.mm() * scale_) : width);
            cairo_stroke(c_);
        }
    }
    void layers() {
        cairo_set_line_join(c_, CAIRO_LINE_JOIN_ROUND);
        cairo_set_line_cap(c_, CAIRO_LINE_CAP_ROUND);
        layer(Layer::Body, 0xE6EBEE, palette::kBodySlate, 0.12);
        layer(Layer::Keepouts, {}, 0xC9663A, 0.12);
        layer(Layer::TopCourtyard, {}, palette::kCourtyard, 0.1);
        layer(Layer::BottomCourtyard, {}, palette::kCourtyard, 0.1);
        layer(Layer::TopCopper, palette::kCopper, palette::kCopperEdge, 0.1);
        layer(Layer::PlatedHoles, 0xFFFFFF, palette::kCopperEdge, 0.1);
        layer(Layer::BareHoles, 0xFFFFFF, palette::kInk, 0.15);
        layer(Layer::CutOuts, 0xFFFFFF, palette::kInk, 0.15);
        layer(Layer::TopSilkscreen, {}, palette::kInk, 0.15);
        pages_.font(2.2, true, true);
        pages_.colour(palette::kInk);
        for (const Pad& p : f_.pads) {
            const auto [x, y] = map_({p.at.x, boundsOf(landShape(p)).top});
            pages_.words(x - pages_.widthOf(p.number) / 2, y - 0.5, p.number);
        }
        // The datum.
        const auto [x, y] = map_({});
        pages_.colour(0x7A4B8C);
        pages_.line(x - 2, y, x + 2, y, 0.2);
        pages_.line(x, y - 2, x, y + 2, 0.2);
        cairo_new_sub_path(c_);
        cairo_arc(c_, x, y, 1, 0, 2 * std::acos(-1.0));
        cairo_stroke(c_);
    }
    struct Ordinate {
        Length at;
        std::optional<Length> doubt;
        double from = 0;  ///< where on the page its extension line begins
    };
    /// Each coordinate once; of several at one place the largest doubt.
    std::vector<Ordinate> ordinates(bool across) {
        std::vector<Ordinate> all;
        const auto add = [&](Point p, const PlaceDoubt& d) {
            const auto [x, y] = map_(p);
            Ordinate o{across ? p.x : p.y, across ? d.x : d.y, across ? y : x};
            for (Ordinate& other : all)
                if (abs(other.at - o.at) < Length::fromUm(0.5)) {
                    if (!other.doubt || !o.doubt)
                        other.doubt.reset();
                    else
                        other.doubt = max(*other.doubt, *o.doubt);
                    other.from = across ? std::max(other.from, o.from) : std::min(other.from, o.from);
                    return;
                }
            all.push_back(o);
        };
        for (const Pad& p : f_.pads) add(p.at, p.doubt);
        for (const BareHole& h : f_.bareHoles) add(h.at, h.doubt);
        std::sort(all.begin(), all.end(), [](const Ordinate& a, const Ordinate& b) { return a.at < b.at; });
        return all;
    }
    static std::string wordsOf(const Ordinate& o) {
        return fmt::format("{:.3f} {}", o.at.mm() + 0.0, o.doubt ? fmt::format("± {:.3f}", o.doubt->mm()) : "loose");
    }
    void dimensions(double left, double top, double w, double h) {
        constexpr double kStep = 3.2;  // between two numbers
        pages_.font(2.1, false, true);
        const auto spread = [&](const std::vector<double>& wanted, double low, double high) {
            // As near to their places as they can stand without touching; those that find no room are left out.
            std::vector<double> at = wanted;
            for (std::size_t i = 1; i < at.size(); ++i) at[i] = std::max(at[i], at[i - 1] + kStep);
            if (!at.empty() && at.back() > high) {
                at.back() = std::max(high, low);
                for (std::size_t i = at.size() - 1; i-- > 0;) at[i] = std::min(at[i], at[i + 1] - kStep);
            }
            return at;
        };
        pages_.colour(palette::kPetrol);
        std::vector<Ordinate> across = ordinates(true), up = ordinates(false);
        const auto thinned = [&](std::vector<Ordinate>& all, double roomMm) {
            const auto most = static_cast<std::size_t>(std::max(2.0, roomMm / kStep));
            if (all.size() <= most) return;
            std::vector<Ordinate> kept;
            for (std::size_t i = 0; i < most; ++i) kept.push_back(all[i * (all.size() - 1) / (most - 1)]);
            all = kept;
        };
        thinned(across, w + 20);
        thinned(up, h + 10);
        std::vector<double> wanted;
        for (const Ordinate& o : across) wanted.push_back(map_({o.at, {}}).first);
        std::vector<double> at = spread(wanted, left - 4, left + w + 8);
        for (std::size_t i = 0; i < across.size(); ++i) {
            pages_.line(wanted[i], across[i].from, wanted[i], top + h + 1, 0.08);
            pages_.line(wanted[i], top + h + 1, at[i], top + h + 3, 0.08);
            cairo_save(c_);
            cairo_translate(c_, at[i] + 0.8, top + h + 3.5 + pages_.widthOf(wordsOf(across[i])));
            cairo_rotate(c_, -std::acos(-1.0) / 2);
            pages_.words(0, 0, wordsOf(across[i]));
            cairo_restore(c_);
        }
        wanted.clear();
        // From the top downwards on the page.
        std::reverse(up.begin(), up.end());
        for (const Ordinate& o : up) wanted.push_back(map_({{}, o.at}).second);
        at = spread(wanted, top - 2, top + h + 3);
        for (std::size_t i = 0; i < up.size(); ++i) {
            pages_.line(up[i].from, wanted[i], left - 1, wanted[i], 0.08);
            pages_.line(left - 1, wanted[i], left - 3, at[i], 0.08);
            pages_.words(left - 3.5 - pages_.widthOf(wordsOf(up[i])), at[i] + 0.7, wordsOf(up[i]));
        }
    }

    Pages& pages_;
    cairo_t* c_;
    const Part& part_;
    const Footprint& f_;
    double scale_ = 1;
    std::function<std::pair<double, double>(Point)> map_;
};

/// With long tables cut to so many lines; how many pages that makes.
int drawAll(const Part& part, const Footprint& f, const ReportContent& content, std::size_t most, bool pictures, std::string& out, cairo_status_t& status) {
    cairo_surface_t* surface = cairo_pdf_surface_create_for_stream(keep, &out, kWidth * kPointsPerMm, kHeight * kPointsPerMm);
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
        DrawnFootprint(pages, part, f, content.loose);
        for (const ReportTable& t : content.tables) pages.table(t, most);
        if (pictures)
            for (const ReportPicture& p : content.pictures) pages.picture(p);
        else if (!content.pictures.empty())
            pages.paragraph(fmt::format("{} pictures of sources do not fit here", content.pictures.size()), 2.5, kQuietGrey);
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
        if (!std::isfinite(p.at.x.mm()) || !std::isfinite(p.at.y.mm())) return problem("pad " + p.number + " has no place", part.name, "Look at its readings");
    std::string out;
    // As whole as four pages hold it: long tables are cut first, then pictures are left out.
    for (const bool pictures : {true, false})
        for (const std::size_t most : {std::size_t{100000}, std::size_t{90}, std::size_t{50}, std::size_t{30}, std::size_t{15}}) {
            out.clear();
            cairo_status_t status = CAIRO_STATUS_SUCCESS;
            const int count = drawAll(part, f, content, most, pictures, out, status);
            if (status != CAIRO_STATUS_SUCCESS) return problem(cairo_status_to_string(status), "report", "Try again");
            if (count <= kMostReportPages) return out;
        }
    return out;
}

}  // namespace punch
