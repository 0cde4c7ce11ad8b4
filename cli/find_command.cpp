#include "cli/find_command.h"

#include <fmt/format.h>

#include <cmath>
#include <cstdio>
#include <iostream>

#include "core/base/quantity.h"
#include "core/drawing/evidence.h"
#include "core/measure/reading_result.h"
#include "core/picture/find.h"

namespace punch {

namespace {

int failed(const Problem& problem) {
    fmt::print(stderr, "punch: {}\n", problem.text());
    return 2;
}

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
    if (found.formation) fmt::print("{}\n", formationWords(*found.formation));
    fmt::print("mm from the middle of what was found, x right, y up, seen from the part side{}\n",
               fromBelow ? " (the picture shows the solder face)" : "");
    fmt::print("{:<6}{:<13}{:>10}{:>10}{:>9}{:>9}{:>9}{:>8}\n", "kind", "shape", "x", "y", "width", "height", "±",
               "sure");
    for (const FoundFeature& f : found.features)
        fmt::print("{:<6}{:<13}{:>10.3f}{:>10.3f}{:>9.3f}{:>9.3f}{:>9.3f}{:>7.0f}%\n", foundKindName(f.kind),
                   foundShapeName(f), f.x + 0.0, f.y + 0.0, f.width, f.height, kNinetyFive * f.u,
                   100 * f.seen.confidence);
}

}  // namespace

int findCommand(const FindArguments& a) {
    FindOptions options;
    options.fromBelow = a.face == "solder";
    if (a.dpi != 0) {
        if (!(a.dpi >= 20 && a.dpi <= 20000))
            return failed({fmt::format("{} dpi is none that a scanner has", a.dpi), "--dpi", "Give 20 to 20000"});
        options.dpi = Dpi{a.dpi, a.dpi};
    }
    for (const std::string& text : a.pairs) {
        const auto pair = pairFrom(text);
        if (!pair) return failed(pair.error());
        options.pairs.push_back(*pair);
    }
    if (!a.region.empty()) {
        const auto region = regionFrom(a.region);
        if (!region) return failed(region.error());
        options.region = *region;
    }
    EvidenceChoice choice;
    choice.page = a.page - 1;
    if (!a.unit.empty()) choice.mmPerUnit = inUnit(1, *unitFromName(a.unit)).mm();
    const auto evidence = openEvidence(a.image, choice);
    if (!evidence) return failed(evidence.error());
    const bool dxf = evidence->kind == EvidenceKind::Dxf;
    if (dxf && !choice.mmPerUnit && !evidence->drawing->mmPerUnit)
        return failed({"the DXF does not say its unit", a.image, "Give --unit mm, inch or mil"});
    if (evidence->kind == EvidenceKind::Pdf && options.pairs.empty() && !options.dpi)
        return failed({"how large the page draws the part is not known", a.image,
                       "Give --pair with two places and their distance, or --dpi 600 where it is drawn 1:1"});
    const auto found = findInEvidence(*evidence, options);
    if (!found) return failed(found.error());
    if (evidence->picture)
        for (const std::string& note : evidence->picture->notes) fmt::print(stderr, "punch: note: {}\n", note);
    if (evidence->drawing)
        for (const std::string& note : evidence->drawing->notes) fmt::print(stderr, "punch: note: {}\n", note);
    for (const std::string& note : found->notes) fmt::print(stderr, "punch: note: {}\n", note);
    if (a.json)
        std::cout << findJson(*found, options.fromBelow);
    else
        printTable(*found, options.fromBelow);
    return 0;
}

}  // namespace punch
