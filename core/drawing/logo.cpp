#include "core/drawing/logo.h"

#include <fmt/format.h>

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/geometries/ring.hpp>
#include <cmath>
#include <pugixml.hpp>

#include "core/base/atomic_file.h"
#include "core/base/read_in_worker.h"
#include "core/picture/draw_svg.h"
#include "core/picture/outlines.h"
#include "core/picture/read_picture.h"

namespace punch {
namespace {

constexpr int kSvgPixels = 2400;                // over the longer side
constexpr int kMostLogoPixels = 3000;           // of a picture; larger ones are made smaller
constexpr std::size_t kMostCrossings = 400000;  // from dark to light, line by line
constexpr std::size_t kMostPoints = 5000;       // of what is kept: more is no logo that anybody prints
constexpr double kLeastArea = 6;                // px², of a ring
constexpr double kTolerance = 0.3;              // px, by which an outline may be straightened
constexpr double kLeastContrast = 40;           // levels between the mean dark and the mean light
constexpr double kLightInk = 0.985;             // more of it dark is no logo

bool isSvg(const std::string& bytes) { return bytes.substr(0, 4096).find("<svg") != std::string::npos; }

/// What of an SVG is not drawn, or not as it was meant.
std::vector<std::string> leftOut(const std::string& bytes) {
    pugi::xml_document xml;
    int scripts = 0, links = 0, texts = 0, foreign = 0;
    if (!xml.load_buffer(bytes.data(), bytes.size())) return {};
    const auto isLink = [](const std::string& value) {
        return !value.empty() && value.front() != '#' && !value.starts_with("data:");
    };
    struct Walk : pugi::xml_tree_walker {
        std::function<void(pugi::xml_node)> visit;
        bool for_each(pugi::xml_node& node) override {
            visit(node);
            return true;
        }
    } walk;
    walk.visit = [&](pugi::xml_node node) {
        std::string name = node.name();
        name = name.substr(name.find(':') + 1);
        if (name == "script") ++scripts;
        if (name == "foreignObject") ++foreign;
        if (name == "text") ++texts;
        if (name == "style" && std::string(node.text().get()).find("@import") != std::string::npos) ++links;
        for (const pugi::xml_attribute& a : node.attributes()) {
            const std::string key = a.name(), value = a.value();
            if (key.starts_with("on")) ++scripts;
            // A link around a drawing leads elsewhere and is not drawn.
            if ((key == "href" || key.ends_with(":href")) && name != "a" && isLink(value)) ++links;
            if (value.find("url(http") != std::string::npos || value.find("url('http") != std::string::npos) ++links;
        }
    };
    xml.traverse(walk);
    std::vector<std::string> notes;
    if (scripts > 0) notes.push_back("scripts were not run");
    if (links > 0) notes.push_back("what it links to was left out");
    if (foreign > 0) notes.push_back("what is no drawing in it was left out");
    if (texts > 0)
        notes.push_back("its texts are drawn in this machine's letters: turn them into paths where that matters");
    return notes;
}

namespace bg = boost::geometry;
using PixelRing = bg::model::ring<bg::model::d2::point_xy<double>, false, true>;

std::vector<PixelRing> straightened(const std::vector<std::vector<PixelPoint>>& rings, double tolerance,
                                    std::size_t& points) {
    std::vector<PixelRing> all;
    points = 0;
    for (const auto& ring : rings) {
        PixelRing whole, simple;
        for (const PixelPoint& p : ring) whole.push_back({p.x, p.y});
        whole.push_back(whole.front());
        bg::simplify(whole, simple, tolerance);
        if (simple.size() < 4 || std::abs(bg::area(simple)) < kLeastArea) continue;
        points += simple.size();
        all.push_back(std::move(simple));
    }
    return all;
}

}  // namespace

Result<Logo> readLogo(const std::string& file) {
    const auto bytes = readWhole(file);
    if (!bytes) return tl::make_unexpected(bytes.error());
    Logo logo;
    if (bytes->starts_with("\x1f\x8b"))
        return problem("the file is compressed", file, "Save it as a plain SVG, or as a PNG");
    const bool svg = isSvg(*bytes);
    auto picture =
        svg ? readInWorker<Picture>(file, [&] { return drawnSvg(*bytes, file, kSvgPixels); }) : readPicture(file);
    if (!picture) return tl::make_unexpected(picture.error());
    logo.notes = svg ? leftOut(*bytes) : picture->notes;
    Grey grey = greyOf(*picture);
    const int longest = std::max(grey.width, grey.height);
    if (longest > kMostLogoPixels) grey = reducedBy(grey, static_cast<double>(longest) / kMostLogoPixels);
    const double level = svg ? 128 : partingLevel(grey);
    double dark = 0, sumDark = 0, sumLight = 0;
    for (const std::uint8_t v : grey.data) {
        if (v < level) ++dark;
        (v < level ? sumDark : sumLight) += v;
    }
    const double all = static_cast<double>(grey.data.size());
    if (dark == 0) return problem("nothing in it is dark", file, "Use a dark logo on a light ground");
    if (dark > kLightInk * all || sumLight / std::max(all - dark, 1.0) - sumDark / dark < kLeastContrast)
        return problem("no figure stands out in it", file, "Use a dark logo on a light ground");
    // A photograph's grain is no logo, and its outlines would fill the memory.
    std::size_t crossings = 0;
    for (std::size_t i = 1; i < grey.data.size(); ++i)
        crossings += (grey.data[i] < level) != (grey.data[i - 1] < level) ? 1 : 0;
    if (crossings > kMostCrossings)
        return problem("no figure stands out in it: it is full of specks", file, "Use a plainer logo");
    const auto rings = darkOutlines(grey, level);
    std::size_t points = 0;
    std::vector<PixelRing> kept = straightened(rings, kTolerance, points);
    for (double tolerance = 2 * kTolerance; points > kMostPoints && tolerance < 64; tolerance *= 2)
        kept = straightened(rings, tolerance, points);
    if (kept.empty() || points > kMostPoints)
        return problem("no figure of fewer than 5000 corners is in it", file, "Use a plainer logo");
    if (rings.size() > kept.size())
        logo.notes.push_back(fmt::format("{} specks were left out", rings.size() - kept.size()));
    bg::model::box<bg::model::d2::point_xy<double>> box;
    bg::assign_inverse(box);
    for (const PixelRing& ring : kept) bg::expand(box, bg::return_envelope<decltype(box)>(ring));
    const double left = box.min_corner().x(), right = box.max_corner().x();
    const double top = box.min_corner().y(), bottom = box.max_corner().y();
    const double unit = figureWidth().mm() / (right - left);
    for (const PixelRing& ring : kept) {
        std::vector<Point> out;
        // Closed rings repeat their first place.
        for (std::size_t i = 0; i + 1 < ring.size(); ++i)
            out.push_back({Length::fromMm((ring[i].x() - (left + right) / 2) * unit),
                           Length::fromMm(((top + bottom) / 2 - ring[i].y()) * unit)});
        logo.rings.push_back(std::move(out));
    }
    return logo;
}

}  // namespace punch
