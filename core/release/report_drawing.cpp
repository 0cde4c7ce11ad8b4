#include "core/release/report_drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/artwork/artwork.h"
#include "core/artwork/palette.h"
#include "core/geometry/shapes.h"

namespace punch::report {
namespace {

/// The footprint with its places dimensioned from the datum.
class DrawnFootprint {
public:
    DrawnFootprint(Pages& pages, const Part& part, const Footprint& f, bool loose)
        : pages_(pages), c_(pages.cairo()), part_(part), f_(f) {
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
        pages.words(kLeft, pages.y,
                    fmt::format("Scale {}, printed without scaling. mm from the datum, x right, y up, seen from the "
                                "part side; doubts at 95 %.",
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

}  // namespace

void drawFootprint(Pages& pages, const Part& part, const Footprint& f, bool loose) {
    DrawnFootprint(pages, part, f, loose);
}

}  // namespace punch::report
