#include "core/drawing/read_dxf.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/atomic_file.h"
#include "core/base/read_in_worker.h"
#include "core/drawing/dxf_check.h"
#include "core/drawing/dxf_entities.h"

namespace punch {

namespace {

constexpr double kMostMm = 10'000;
constexpr double kMostDxfBytes = 200e6;

/// $INSUNITS, mm to the unit.
std::optional<double> unitOf(int insUnits) {
    switch (insUnits) {
        case 1: return 25.4;
        case 2: return 304.8;
        case 4: return 1.0;
        case 5: return 10.0;
        case 6: return 1000.0;
        case 8: return 25.4e-6;
        case 9: return 0.0254;
        case 13: return 1e-3;
        case 14: return 100.0;
        default: return {};
    }
}

struct Box {
    double left = 1e300, right = -1e300, bottom = 1e300, top = -1e300;
    void add(dxf::Dot p, double r = 0) {
        left = std::min(left, p.x - r);
        right = std::max(right, p.x + r);
        bottom = std::min(bottom, p.y - r);
        top = std::max(top, p.y + r);
    }
};

}  // namespace

bool looksLikeDxf(std::string_view bytes) {
    // Pairs of lines: a whole number, then a value; the first pair opens a section or is a remark (999).
    std::size_t at = 0;
    const auto line = [&]() -> std::string {
        const auto end = bytes.find('\n', at);
        std::string s(bytes.substr(at, end == std::string_view::npos ? std::string_view::npos : end - at));
        at = end == std::string_view::npos ? bytes.size() : end + 1;
        const auto first = s.find_first_not_of(" \t\r\xEF\xBB\xBF");
        if (first == std::string::npos) return {};
        return s.substr(first, s.find_last_not_of(" \t\r") - first + 1);
    };
    for (int pair = 0; pair < 20 && at < bytes.size(); ++pair) {
        const std::string code = line();
        const std::string value = line();
        if (code == "0") return value == "SECTION";
        if (code != "999") return false;
    }
    return false;
}

Result<Drawing> dxfFromText(std::string_view bytes, const std::string& name, std::optional<double> mmPerUnit) {
    if (bytes.empty()) return problem("the file is empty", name, "Save the drawing again");
    if (!looksLikeDxf(bytes)) {
        const bool binary = bytes.substr(0, 22).find("Binary DXF") != std::string_view::npos;
        return binary ? problem("this is a binary DXF", name, "Save it as a DXF of text")
                      : problem("no DXF", name, "Save the drawing as a DXF of text, or as a PDF");
    }
    if (const std::string wrong = dxf::whatBreaksTheReader(bytes); !wrong.empty())
        return problem("the DXF is broken: " + wrong, name, "Save the drawing again, as DXF of the year 2000");
    dxf::File file;
    if (!dxf::readEntities(std::string(bytes), file))
        return problem("the DXF cannot be read", name, "Save the drawing again, as DXF of the year 2000");
    dxf::Entities all;
    if (!dxf::expand(file, file.model, all) || (all.count() == 0 && !dxf::expand(file, file.paper, all)))
        return problem(fmt::format("it draws more than {} things", dxf::kMostEntities), name,
                       "Save the view of the part alone");
    if (all.count() == 0)
        return problem("nothing is drawn in it that can be read", name,
                       "Lines, circles, arcs, ellipses, splines, texts and dimensions are read");

    // The header states how high dimensions are written; else as high as other texts, or to be read on the whole page.
    double written = file.dimensionHeight;
    if (written <= 0) {
        std::vector<double> heights;
        for (const dxf::Text& t : all.texts)
            if (t.height > 0) heights.push_back(t.height);
        std::sort(heights.begin(), heights.end());
        if (!heights.empty()) written = heights[heights.size() / 2];
    }
    Drawing d;
    d.mmPerUnit = unitOf(file.insUnits);
    const double mm = mmPerUnit ? *mmPerUnit : d.mmPerUnit.value_or(1.0);
    if (!(mm > 0 && mm < 1e6)) return problem("a unit of the drawing is longer than nothing", name);
    Box box;
    for (const dxf::Path& p : all.paths)
        for (const dxf::Dot& q : p.points) box.add(q);
    for (const dxf::Arc& a : all.arcs) box.add(a.centre, a.radius);
    for (const dxf::Text& t : all.texts) box.add(t.middle, t.height);
    const double wide = (box.right - box.left) * mm, high = (box.top - box.bottom) * mm;
    if (std::max(wide, high) > kMostMm)
        return problem(fmt::format("the drawing is {:.0f} x {:.0f} mm large", wide, high), name,
                       "Check its unit, or save the view of the part alone");
    if (std::max(wide, high) <= 0) return problem("everything in it lies on one place", name, "Save it again");
    const double margin = std::max(0.1 * std::max(wide, high), 0.5);
    const double n = kDxfDpi / 25.4;  // pixels for each mm
    d.width = static_cast<int>(std::ceil((wide + 2 * margin) * n));
    d.height = static_cast<int>(std::ceil((high + 2 * margin) * n));
    const auto at = [&](dxf::Dot p) {
        return PixelPoint{((p.x - box.left) * mm + margin) * n, ((box.top - p.y) * mm + margin) * n};
    };
    for (const dxf::Path& p : all.paths) {
        DrawnPath q;
        for (const dxf::Dot& dot : p.points) q.points.push_back(at(dot));
        q.closed = p.closed;
        q.chords = p.chords;
        d.paths.push_back(std::move(q));
    }
    for (const dxf::Arc& a : all.arcs) d.arcs.push_back({at(a.centre), a.radius * mm * n, -a.from - a.sweep, a.sweep});
    for (const dxf::Text& t : all.texts) {
        const double height = t.height > 0 ? t.height : written > 0 ? written : std::max(wide, high) / mm / 45;
        DrawnText q;
        q.middle = at(t.middle);
        q.height = height * mm * n;
        q.width = 0.6 * q.height * static_cast<double>(t.text.size());
        q.turn = -t.turn;
        q.text = t.text;
        if (t.spans) q.spans = std::pair{at(t.spans->first), at(t.spans->second)};
        d.texts.push_back(std::move(q));
    }
    if (file.skipped > 0)
        d.notes.push_back(fmt::format("{} of its lines have no usable numbers and were left out", file.skipped));
    static constexpr std::string_view known[] = {"AC1006", "AC1009", "AC1012", "AC1014", "AC1015",
                                                 "AC1018", "AC1021", "AC1024", "AC1027", "AC1032"};
    if (!file.version.empty() && std::find(std::begin(known), std::end(known), file.version) == std::end(known))
        d.notes.push_back(fmt::format("a DXF of a version that is not known ({}): check what is drawn", file.version));
    return d;
}

Result<Drawing> readDxf(const std::string& file, std::optional<double> mmPerUnit) {
    if (auto plain = plainFile(file, kMostDxfBytes); !plain) return tl::make_unexpected(plain.error());
    return readInWorker<Drawing>(file, [&]() -> Result<Drawing> {
        const auto bytes = readWhole(file, kMostDxfBytes);
        if (!bytes) return tl::make_unexpected(bytes.error());
        return dxfFromText(*bytes, file, mmPerUnit);
    });
}

}  // namespace punch
