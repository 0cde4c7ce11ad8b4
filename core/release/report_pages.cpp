#include "core/release/report_pages.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/artwork/palette.h"

namespace punch::report {
namespace {

constexpr std::uint32_t kRule = 0xC3CCC8, kGoInk = 0x2E7D4F, kWatchInk = 0x9A6608;

std::string plain(const std::string& cell) { return isNumberCell(cell) ? cell.substr(1) : cell; }

}  // namespace

std::uint32_t colourOf(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return kGoInk;
        case GaugeState::Watch: return kWatchInk;
        default: return palette::kVermilion;
    }
}

std::vector<std::string> Pages::wrapped(const std::string& text, double width) {
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

void Pages::paragraph(const std::string& text, double size, std::uint32_t rgb, bool bold) {
    font(size, bold);
    for (const std::string& l : wrapped(text, kInner)) {
        room(size * 1.4);
        font(size, bold);
        colour(rgb);
        y += size * 1.35;
        words(kLeft, y, l);
    }
}

void Pages::table(const ReportTable& t, std::size_t most) {
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
            font(kSize, head, isNumberCell(cells[i]) && !head);
            lines.push_back(wrapped(plain(cells[i]), t.widths[i] * kInner - 1.5));
            high = std::max(high, lines.back().size());
        }
        room(static_cast<double>(high) * kLine + 1);
        double x = kLeft;
        for (std::size_t i = 0; i < lines.size(); ++i) {
            const double w = t.widths[i] * kInner;
            font(kSize, head, isNumberCell(cells[i]) && !head);
            colour(head ? kQuietGrey : state && !isNumberCell(cells[i]) ? colourOf(*state) : palette::kInk);
            for (std::size_t k = 0; k < lines[i].size(); ++k)
                // Words beside a number stand a little off it.
                words(isNumberCell(cells[i]) ? x + w - 1.5 - widthOf(lines[i][k])
                                         : x + (i > 0 && isNumberCell(cells[i - 1]) ? 1.5 : 0),
                      y + kLine * static_cast<double>(k + 1) - 0.8, lines[i][k]);
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
    if (shown < t.rows.size())
        paragraph(fmt::format("and {} more, in the tables that leave with it", t.rows.size() - shown), kSize,
                  kQuietGrey);
    for (const std::string& l : t.after) paragraph(l, kSize, kQuietGrey);
}

void Pages::picture(const ReportPicture& p) {
    const double w = std::min(kInner, 95.0 * p.picture.width / p.picture.height),
                 h = w * p.picture.height / p.picture.width;
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
            unsigned char* to =
                pixels.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(stride) + 4 * x;
            to[0] = from[2], to[1] = from[1], to[2] = from[0];
        }
    cairo_surface_t* image = cairo_image_surface_create_for_data(pixels.data(), CAIRO_FORMAT_RGB24, p.picture.width,
                                                                 p.picture.height, stride);
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

void Pages::begin() {
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

void Pages::footer() {
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

}  // namespace punch::report
