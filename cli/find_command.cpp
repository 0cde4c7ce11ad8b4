#include "cli/find_command.h"

#include <fmt/format.h>

#include <cmath>
#include <cstdio>
#include <iostream>

#include "cli/parts_read.h"
#include "core/base/quantity.h"
#include "core/drawing/evidence.h"
#include "core/drawing/find_in_drawing.h"
#include "core/measure/reading_result.h"
#include "core/picture/find.h"
#include "core/picture/rectify.h"

namespace punch {

namespace {

std::vector<std::string> fields(const std::string& text) {
    std::vector<std::string> out(1);
    for (const char c : text) {
        if (c == ',')
            out.emplace_back();
        else
            out.back() += c;
    }
    return out;
}

Result<double> number(const std::string& text, const std::string& where) {
    char* end = nullptr;
    const double v = std::strtod(text.c_str(), &end);
    if (text.empty() || *end != 0 || !std::isfinite(v))
        return problem(fmt::format("\"{}\" is not a number", text), where);
    return v;
}

Result<ScalePair> pairFrom(const std::string& text) {
    const std::string where = "--pair " + text;
    const auto f = fields(text);
    if (f.size() != 5) return problem("five values are needed", where, "As in --pair 120,80,828.5,80,30mm");
    std::array<double, 4> v{};
    for (std::size_t i = 0; i < 4; ++i) {
        const auto n = number(f[i], where);
        if (!n) return tl::make_unexpected(n.error());
        v[i] = *n;
    }
    const auto length = parseLength(f[4], Unit::Mm);
    if (!length) return problem(length.error().what, where, length.error().todo);
    constexpr double kLeast = 0.1;  // mm; nothing shorter was ever measured between two places
    if (!(length->mm() >= kLeast && length->mm() <= 2000))
        return problem("the known length is not between 0.1 and 2000 mm", where, "As in --pair 120,80,828.5,80,30mm");
    return ScalePair{{v[0], v[1]}, {v[2], v[3]}, length->mm()};
}

/// A photograph made square by the corners and sizes that were typed; the pixels of what follows are its own.
Result<Squared> squareFrom(const std::string& text, const Picture& picture) {
    const std::string where = "--square " + text;
    const auto f = fields(text);
    if (f.size() != 10)
        return problem("ten values are needed", where,
                       "Four corners in turn, then width and height, as in "
                       "--square 100,90,1100,80,1120,790,95,800,50mm,35mm");
    std::array<PixelPoint, 4> corners{};
    for (std::size_t i = 0; i < 4; ++i) {
        const auto x = number(f[2 * i], where), y = number(f[2 * i + 1], where);
        if (!x) return tl::make_unexpected(x.error());
        if (!y) return tl::make_unexpected(y.error());
        corners[i] = {*x, *y};
    }
    const auto width = parseLength(f[8], Unit::Mm), height = parseLength(f[9], Unit::Mm);
    if (!width) return problem(width.error().what, where, width.error().todo);
    if (!height) return problem(height.error().what, where, height.error().todo);
    return madeSquare(picture, corners, width->mm(), height->mm());
}

Result<PixelRegion> regionFrom(const std::string& text) {
    const std::string where = "--region " + text;
    const auto f = fields(text);
    if (f.size() != 4) return problem("four values are needed", where, "As in --region 100,80,900,700");
    std::array<int, 4> v{};
    for (std::size_t i = 0; i < 4; ++i) {
        const auto n = number(f[i], where);
        if (!n) return tl::make_unexpected(n.error());
        v[i] = static_cast<int>(std::lround(std::clamp(*n, -1e6, 1e6)));
    }
    if (v[2] < 1 || v[3] < 1) return problem("width and height must be above zero", where);
    return PixelRegion{v[0], v[1], v[2], v[3]};
}

void printTable(const Found& found, bool fromBelow) {
    fmt::print("scale {:.6f} x {:.6f} ± {:.6f} mm per pixel, by {}; turned {:.3f} ± {:.3f}°\n", found.scale.x,
               found.scale.y, found.scale.doubt(), scaleFromWords(found.scale.from), found.angle,
               kNinetyFive * found.uAngle);
    for (const ScaleWitness& w : found.witnesses)
        fmt::print("  {:.6f} x {:.6f} ± {:.6f} by {}{}\n", w.scale.x, w.scale.y, w.scale.doubt(), w.words,
                   w.rules     ? ": counts"
                   : w.differs ? ": differs"
                               : ": agrees");
    for (std::size_t i = 0; i < found.rulers.size(); ++i) {
        const Ruler& r = found.rulers[i];
        fmt::print("ruler {}: {} steps from {:.0f},{:.0f} to {:.0f},{:.0f}, {}{}\n", i + 1, r.steps, r.first.x,
                   r.first.y, r.last.x, r.last.y, r.order.empty() ? "all alike" : r.order,
                   r.believed ? "" : ": not believed");
    }
    if (found.formation) fmt::print("{}, sure by {:.0f} %\n", formationWords(*found.formation), 100 * found.sure);
    for (const OtherFormation& o : found.others) fmt::print("beside it: {}\n", formationWords(o.formation));
    fmt::print("mm from the middle of what was found, x right, y up, seen from the part side{}\n",
               fromBelow ? " (the picture shows the solder face)" : "");
    fmt::print("{:<6}{:<13}{:>10}{:>10}{:>9}{:>9}{:>9}{:>9}{:>8}\n", "kind", "shape", "x", "y", "±", "width", "height",
               "±", "sure");
    for (const FoundFeature& f : found.features)
        fmt::print("{:<6}{:<13}{:>10.3f}{:>10.3f}{:>9.3f}{:>9.3f}{:>9.3f}{:>9.3f}{:>7.0f}%\n", foundKindName(f.kind),
                   foundShapeName(f), f.x + 0.0, f.y + 0.0, kNinetyFive * f.u, f.width, f.height, kNinetyFive * f.uSize,
                   100 * f.seen.confidence);
    for (const LeftOut& l : found.leftOut)
        fmt::print("left out at {:.0f},{:.0f} px: {}\n", l.seen.rim.centre.x, l.seen.rim.centre.y, l.why);
}

/// What is typed, as options. `a` as findCommand.
Result<FindOptions> optionsFrom(const FindArguments& a) {
    FindOptions options;
    options.fromBelow = a.face == "solder";
    if (a.dpi) {
        if (!(*a.dpi >= 20 && *a.dpi <= 20000))
            return problem(fmt::format("{} dpi is none that a scanner has", *a.dpi), "--dpi", "Give 20 to 20000");
        options.dpi = Dpi{*a.dpi, *a.dpi};
    }
    for (const std::string& text : a.pairs) {
        const auto pair = pairFrom(text);
        if (!pair) return tl::make_unexpected(pair.error());
        options.pairs.push_back(*pair);
    }
    if (!a.region.empty()) {
        const auto region = regionFrom(a.region);
        if (!region) return tl::make_unexpected(region.error());
        options.region = *region;
    }
    if (a.ruler == "none") {
        options.lookForRuler = false;
    } else if (!a.ruler.empty()) {
        const auto which = number(a.ruler, "--ruler " + a.ruler);
        if (!which) return tl::make_unexpected(which.error());
        if (*which < 1 || *which > 1000 || *which != std::floor(*which))
            return problem("rulers are counted from 1", "--ruler " + a.ruler, "Give 1, 2, or none");
        options.ruler = static_cast<std::size_t>(*which) - 1;
    }
    if (!a.scaleBy.empty()) options.scaleBy = a.scaleBy == "dpi" ? ScaleFrom::Dpi : ScaleFrom::Ruler;
    return options;
}

}  // namespace

Result<FoundBy> foundBy(const FindArguments& a) {
    auto options = optionsFrom(a);
    if (!options) return tl::make_unexpected(options.error());
    if (a.page && *a.page < 1)
        return tl::make_unexpected(
            Problem{"pages are counted from 1", fmt::format("--page {}", *a.page), "Give 1 for the first"});
    EvidenceChoice choice;
    choice.page = a.page.value_or(1) - 1;
    if (!a.unit.empty()) choice.mmPerUnit = inUnit(1, *unitFromName(a.unit)).mm();
    auto evidence = openEvidence(a.image, choice);
    if (!evidence) return tl::make_unexpected(evidence.error());
    if (evidence->kind != EvidenceKind::Pdf && a.page.value_or(1) != 1)
        return tl::make_unexpected(
            Problem{"it has one page only", fmt::format("--page {}", *a.page), "Leave --page out"});
    if (!a.square.empty()) {
        if (!evidence->picture || evidence->kind != EvidenceKind::Picture)
            return tl::make_unexpected(
                Problem{"only a photograph is made square", "--square " + a.square, "Leave it out"});
        auto square = squareFrom(a.square, *evidence->picture);
        if (!square) return tl::make_unexpected(square.error());
        evidence->picture = std::move(square->picture);
        fmt::print(stderr, "punch: note: made square; pixels are those of the square picture, {} x {}\n",
                   evidence->picture->width, evidence->picture->height);
    }
    const bool dxf = evidence->kind == EvidenceKind::Dxf;
    if (dxf && !choice.mmPerUnit && !evidence->drawing->mmPerUnit)
        return tl::make_unexpected(Problem{"the DXF does not say its unit", a.image, "Give --unit mm, inch or mil"});
    if (evidence->kind == EvidenceKind::Pdf && options->pairs.empty() && !options->dpi &&
        scalesStated(*evidence->drawing).empty())
        return tl::make_unexpected(
            Problem{"how large the page draws the part is not known", a.image,
                    "Give --pair with two places and their distance, or --dpi 600 where it is drawn 1:1"});
    auto found = findInEvidence(*evidence, *options);
    if (!found) return tl::make_unexpected(found.error());
    if (evidence->picture)
        for (const std::string& note : evidence->picture->notes) fmt::print(stderr, "punch: note: {}\n", note);
    if (evidence->drawing)
        for (const std::string& note : evidence->drawing->notes) fmt::print(stderr, "punch: note: {}\n", note);
    for (const FindNote& note : found->notes) fmt::print(stderr, "punch: note: {}\n", note.text);
    return FoundBy{std::move(*found), options->fromBelow};
}

int findCommand(const FindArguments& a) {
    const auto by = foundBy(a);
    if (!by) return failed(by.error());
    if (a.json)
        std::cout << findJson(by->found, by->fromBelow);
    else
        printTable(by->found, by->fromBelow);
    return 0;
}

}  // namespace punch
