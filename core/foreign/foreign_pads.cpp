#include "core/foreign/foreign_pads.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>
#include <numbers>
#include <set>

#include "core/base/atomic_file.h"
#include "core/base/text_table.h"
#include "core/foreign/csv_pads.h"
#include "core/foreign/drill_holes.h"
#include "core/foreign/gerber_pads.h"
#include "core/foreign/ipc2581_pads.h"

namespace punch {
namespace {

constexpr std::size_t kMostBytes = 50u << 20;

enum class What { Gerber, Drill, Ipc2581, Csv };

What whatIs(const std::string& text) {
    const std::string head = text.substr(0, 4096);
    if (head.find("<IPC-2581") != std::string::npos || text.find("<IPC-2581") < 65536) return What::Ipc2581;
    if (head.find("M48") != std::string::npos) return What::Drill;
    if (head.find("%FS") != std::string::npos || head.find("%MO") != std::string::npos || head.find("%TF") != std::string::npos ||
        head.find("%AD") != std::string::npos)
        return What::Gerber;
    return What::Csv;
}

/// Is the hole's middle within the land, its turn counted?
bool within(const ForeignPad& pad, double x, double y) {
    const double t = pad.turn * std::numbers::pi / 180, dx = x - pad.x, dy = y - pad.y;
    const double ax = std::abs(std::cos(t) * dx + std::sin(t) * dy), ay = std::abs(-std::sin(t) * dx + std::cos(t) * dy);
    return ax < pad.landX / 2 && ay < pad.landY / 2;
}

/// Pads, and holes in them, by component.
ForeignFile boardOf(std::vector<GerberObject> pads, const std::vector<DrilledHole>& holes, const std::string& name) {
    ForeignFile file;
    std::vector<bool> used(holes.size());
    // Nearest hole first; by columns of a millimetre, so that large boards stay quick.
    std::multimap<long, std::size_t> byX;
    for (std::size_t k = 0; k < holes.size(); ++k) byX.emplace(std::lround(std::floor(holes[k].x)), k);
    std::map<std::string, ForeignPattern> byComponent;
    int fiducials = 0;
    for (GerberObject& o : pads) {
        if (o.fiducial) {
            ++fiducials;
            continue;
        }
        const double reach = std::max(o.pad.landX, o.pad.landY) / 2 + 1;
        std::size_t best = holes.size();
        double nearest = 1e300;
        for (auto it = byX.lower_bound(std::lround(std::floor(o.pad.x - reach)));
             it != byX.end() && static_cast<double>(it->first) <= o.pad.x + reach; ++it) {
            const DrilledHole& h = holes[it->second];
            const double d = std::hypot(h.x - o.pad.x, h.y - o.pad.y);
            if (h.plated && d < nearest && within(o.pad, h.x, h.y)) {
                nearest = d;
                best = it->second;
            }
        }
        if (best < holes.size()) {
            const DrilledHole& h = holes[best];
            used[best] = true;
            o.pad.hole = h.size;
            o.pad.holeX = h.x - o.pad.x;
            o.pad.holeY = h.y - o.pad.y;
            o.pad.slotLength = h.length;
            o.pad.slotTurn = h.turn;
        }
        ForeignPattern& pattern = byComponent[o.component];
        pattern.name = o.component.empty() ? name : o.component;
        pattern.pads.push_back(std::move(o.pad));
    }
    int lonely = 0;
    for (std::size_t k = 0; k < holes.size(); ++k) {
        if (used[k]) continue;
        const DrilledHole& h = holes[k];
        if (h.plated) {
            ++lonely;
            continue;
        }
        ForeignPad bare;
        bare.x = h.x;
        bare.y = h.y;
        bare.hole = h.size;
        bare.slotLength = h.length;
        bare.slotTurn = h.turn;
        bare.plated = false;
        // A bare hole says no component: it is the only one's, or stands by itself.
        ForeignPattern& pattern = byComponent.size() == 1 ? byComponent.begin()->second : byComponent[""];
        if (pattern.name.empty()) pattern.name = name;
        pattern.pads.push_back(bare);
    }
    for (auto& [component, pattern] : byComponent) file.patterns.push_back(std::move(pattern));
    if (lonely > 0) file.notes.push_back(fmt::format("{} plated holes lie in no pad and are left out", lonely));
    if (fiducials > 0) file.notes.push_back(fmt::format("{} fiducials are left out", fiducials));
    return file;
}

}  // namespace

PadPattern patternOf(const ForeignPattern& foreign) {
    PadPattern p;
    p.name = foreign.name;
    int unnamed = 0;
    for (const ForeignPad& f : foreign.pads) {
        PatternPad pad;
        pad.number = f.number.empty() ? fmt::format("#{}", ++unnamed) : f.number;
        // Where the lead goes: the hole's middle.
        pad.x = f.x + f.holeX;
        pad.y = f.y + f.holeY;
        pad.hole = f.hole;
        pad.land = f.plated ? std::min(f.landX, f.landY) : 0;
        p.pads.push_back(std::move(pad));
    }
    return p;
}

Result<ForeignFile> readForeign(const std::vector<std::string>& files) {
    std::vector<GerberObject> pads, below;
    std::vector<DrilledHole> holes;
    ForeignFile out;
    std::string board;
    bool gerber = false, drill = false;
    for (const std::string& file : files) {
        std::error_code error;
        if (std::filesystem::file_size(file, error) > kMostBytes && !error)
            return problem("it is larger than 50 MB", file, "Give a file of one board or part");
        const auto text = readWhole(file);
        if (!text) return tl::make_unexpected(text.error());
        const std::string name = std::filesystem::path(file).stem().string();
        switch (whatIs(*text)) {
            case What::Gerber: {
                auto read = padsFromGerber(*text, file);
                if (!read) return tl::make_unexpected(read.error());
                for (const std::string& note : read->notes) out.notes.push_back(name + ": " + note);
                if (!read->copper) {
                    out.notes.push_back(name + " is no copper layer and is left out");
                    break;
                }
                gerber = true;
                if (board.empty()) board = name;
                for (GerberObject& o : read->pads) (read->bottom ? below : pads).push_back(std::move(o));
                break;
            }
            case What::Drill: {
                const std::string small = lower(name);
                const bool bare = small.find("bare") != std::string::npos || small.find("npth") != std::string::npos ||
                                  small.find("nonplated") != std::string::npos || small.find("unplated") != std::string::npos;
                auto read = holesFromDrill(*text, bare, file);
                if (!read) return tl::make_unexpected(read.error());
                for (const std::string& note : read->notes) out.notes.push_back(name + ": " + note);
                holes.insert(holes.end(), read->holes.begin(), read->holes.end());
                drill = true;
                break;
            }
            case What::Ipc2581:
            case What::Csv: {
                auto read = whatIs(*text) == What::Csv ? padsFromCsv(*text, name) : padsFromIpc2581(*text, file);
                if (!read) return tl::make_unexpected(read.error());
                out.patterns.insert(out.patterns.end(), read->patterns.begin(), read->patterns.end());
                out.notes.insert(out.notes.end(), read->notes.begin(), read->notes.end());
                break;
            }
        }
    }
    // The same pad on both sides is one, in whichever order the sides came.
    std::set<std::pair<long, long>> places;  // in micrometres
    const auto place = [](const GerberObject& o) {
        return std::pair{std::lround(o.pad.x * 1000), std::lround(o.pad.y * 1000)};
    };
    for (const GerberObject& o : pads) places.insert(place(o));
    for (GerberObject& o : below)
        if (places.insert(place(o)).second) pads.push_back(std::move(o));
    if (drill && !gerber && out.patterns.empty()) {
        // Holes alone are a pattern too: what the fab drills.
        ForeignPattern alone;
        alone.name = files.empty() ? "" : std::filesystem::path(files.front()).stem().string();
        for (const DrilledHole& h : holes) {
            ForeignPad p;
            p.x = h.x;
            p.y = h.y;
            p.hole = h.size;
            p.slotLength = h.length;
            p.slotTurn = h.turn;
            p.plated = h.plated;
            alone.pads.push_back(p);
        }
        out.notes.push_back("there is no copper: the pads have no lands");
        if (!alone.pads.empty()) out.patterns.push_back(std::move(alone));
    } else if (gerber) {
        if (!drill) out.notes.push_back("there is no drill file: the pads have no holes");
        ForeignFile made = boardOf(std::move(pads), holes, board);
        out.patterns.insert(out.patterns.end(), made.patterns.begin(), made.patterns.end());
        out.notes.insert(out.notes.end(), made.notes.begin(), made.notes.end());
    }
    if (out.patterns.empty())
        return problem("there are no pads", files.empty() ? "" : files.front(), "Give copper and drill files, IPC-2581 or a table");
    return out;
}

}  // namespace punch
