#include "core/release/report_content.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/drawing/evidence.h"
#include "core/geometry/shapes.h"
#include "core/model/contacts.h"
#include "core/part/names.h"
#include "core/part/source_file.h"
#include "core/verdicts/gauges.h"
#include "core/version.h"

namespace punch {
namespace {

std::string mmText(Length l, int digits = 3) { return fmt::format("{:.{}f}", l.mm() + 0.0, digits); }
std::string doubt(const std::optional<Length>& l) { return l ? "± " + mmText(*l) : "loose"; }

ReportTable approvals(const Part& part) {
    ReportTable t{
        "Let pass by a person", {"Gauge", "It said", "Because", "By", "On"}, {0.16, 0.24, 0.34, 0.15, 0.11}, {}, {}};
    for (const LetPass& p : part.approval.passes) t.rows.push_back({{p.gauge, p.says, p.reason, p.by, p.date}});
    return t;
}

ReportTable versions(const Part& part) {
    ReportTable t{
        "Versions", {"#No.", "Released by", "On", "What is new", "SHA-256"}, {0.08, 0.22, 0.14, 0.38, 0.18}, {}, {}};
    for (const Version& v : part.approval.versions)
        t.rows.push_back({{"#" + std::to_string(v.number), v.released.by, v.released.date, v.note,
                           v.released.digest.substr(0, 12)}});
    return t;
}

ReportTable gaugeTable(const Footprint& f) {
    ReportTable t{"Gauges", {"Gauge", "State", "What it says"}, {0.26, 0.14, 0.6}, {}, {}};
    for (const Gauge& g : f.gauges)
        t.rows.push_back({{g.title, stateName(g.state), fill(g.words, g.of, Unit::Mm, 2)}, g.state});
    return t;
}

ReportTable coordinates(const Footprint& f) {
    ReportTable t{"Coordinates",
                  {"Pad", "#x", "#doubt", "#y", "#doubt", "#Hole", "#Land"},
                  {0.16, 0.13, 0.13, 0.13, 0.13, 0.16, 0.16},
                  {},
                  {},
                  true};
    for (const Pad& p : f.pads) {
        const Land& land = shownLand(p);
        const std::string hole = p.hole <= Length()        ? "none"
                                 : p.slotLength > Length() ? mmText(p.hole, 2) + " x " + mmText(p.slotLength, 2)
                                                           : mmText(p.hole, 2);
        const std::string copper =
            land.width == land.length ? mmText(land.width, 2) : mmText(land.width, 2) + " x " + mmText(land.length, 2);
        t.rows.push_back({{p.number, "#" + mmText(p.at.x), "#" + doubt(p.doubt.x), "#" + mmText(p.at.y),
                           "#" + doubt(p.doubt.y), "#" + hole, "#" + copper}});
    }
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c))
            t.rows.push_back({{c.number, "#" + mmText(c.at.x), c.firm ? "#" : "#loose", "#" + mmText(c.at.y),
                               c.firm ? "#" : "#loose", "#none",
                               "#" + mmText(shownLand(c).width, 2) + " x " + mmText(shownLand(c).length, 2)}});
    for (const BareHole& h : f.bareHoles)
        t.rows.push_back(
            {{h.name, "#" + mmText(h.at.x), "#" + doubt(h.doubt.x), "#" + mmText(h.at.y), "#" + doubt(h.doubt.y),
              "#" + mmText(h.size, 2), h.plated ? "#" + mmText(h.land.width, 2) : "#bare"}});
    return t;
}

void holes(const Part& part, const Footprint& f, std::vector<ReportTable>& out) {
    for (std::size_t i = 0; i < f.leads.size() && i < part.formations.size(); ++i) {
        const LeadFit& lead = f.leads[i];
        ReportTable t{"Hole and land of " + featureWords(part, part.formations[i].pins.front()) + " on",
                      {"Step", "#mm", "By"},
                      {0.36, 0.14, 0.5},
                      {},
                      {}};
        for (const Chain* chain : {&lead.holeChain, &lead.landChain})
            for (const ChainStep& s : *chain)
                t.rows.push_back(
                    {{s.label, s.value ? "#" + mmText(*s.value) : "#", fill(s.detail, s.of, Unit::Mm, 3)}});
        out.push_back(std::move(t));
    }
    ReportTable shared{"Holes that several makes share",
                       {"Hole", "Kind", "#Size", "#Leads apart", "Because"},
                       {0.16, 0.14, 0.16, 0.14, 0.4},
                       {},
                       {}};
    for (const JoinedHole& j : f.joined)
        shared.rows.push_back({{j.name, nameOf(j.kind),
                                "#" + mmText(j.size, 2) + (j.length > Length() ? " x " + mmText(j.length, 2) : ""),
                                "#" + mmText(j.apart), j.why}});
    for (const MakeFit& m : f.makeFits)
        shared.after.push_back(m.name + ": " +
                               (m.why.empty() ? fmt::format("{:.2f} % drop in", 100 * m.dropIn.share) : m.why));
    out.push_back(std::move(shared));
    ReportTable drop{"Drop-in", {}, {}, {}, {}};
    if (f.dropIn.known)
        drop.after.push_back(fmt::format("{} of {} virtual parts and boards drop in.", f.dropIn.in, f.dropIn.trials));
    out.push_back(std::move(drop));
}

ReportTable voltage(const Part& part, const Footprint& f) {
    constexpr std::size_t kShown = 12;
    ReportTable t{"Voltage",
                  {"Between", "#V peak", "#Through air", "#Over the surface", "#Needed"},
                  {0.36, 0.14, 0.16, 0.18, 0.16},
                  {},
                  {}};
    for (std::size_t i = 0; i < f.voltages.size() && i < kShown; ++i) {
        const VoltagePair& v = f.voltages[i];
        t.rows.push_back({{featureWords(part, v.a) + " and " + featureWords(part, v.b),
                           fmt::format("#{:.0f}", v.peak.volts()), "#" + mmText(v.gap, 2), "#" + mmText(v.way, 2),
                           v.refused.empty() ? "#" + mmText(v.needed, 2) : v.refused}});
    }
    if (f.voltages.size() > kShown)
        t.after.push_back(fmt::format("and {} pairs with more to spare", f.voltages.size() - kShown));
    return t;
}

ReportTable readings(const Part& part, const Footprint& f) {
    ReportTable t{"Readings",
                  {"#No.", "What", "#mean", "#expected", "State", "Source"},
                  {0.05, 0.4, 0.12, 0.12, 0.13, 0.18},
                  {},
                  {},
                  true};
    for (std::size_t i = 0; i < part.readings.size() && i < f.readings.size(); ++i) {
        const Reading& r = part.readings[i];
        const ReadingResult& result = f.readings[i];
        std::string source = r.source;
        for (const Source& s : part.sources)
            if (s.id == r.source) source = s.title;
        t.rows.push_back(
            {{"#" + std::to_string(i + 1), readingWords(part, r),
              result.stats.usable ? fmt::format("#{:.3f}", result.stats.mean) : "#",
              result.stats.usable ? fmt::format("#{:.3f}", result.expected) : "#", nameOf(result.state), source},
             result.state == ReadingState::InDoubt ? std::optional(GaugeState::NoGo) : std::nullopt});
    }
    return t;
}

ReportTable judged(const Part& part) {
    ReportTable t{"Set against the rules", {"Where", "Why"}, {0.3, 0.7}, {}, {}};
    for (const auto& [key, o] : part.overrides)
        t.rows.push_back({{key == kWholePart                     ? "whole part"
                           : formationById(part, key) != nullptr ? "formation " + key
                                                                 : featureWords(part, key),
                           o.reason.empty() ? "no reason is given" : o.reason},
                          o.reason.empty() ? std::optional(GaugeState::Watch) : std::nullopt});
    return t;
}

ReportTable sources(const Part& part) {
    ReportTable t{"Sources", {"Source", "Seen", "State", "Note"}, {0.4, 0.13, 0.15, 0.32}, {}, {}};
    for (const Source& s : part.sources)
        t.rows.push_back({{s.title + (s.link.empty() ? "" : " " + s.link), s.seen, nameOf(s.state), s.note}});
    return t;
}

ReportTable boards(const Part& part) {
    ReportTable t{"What boards said", {"Date", "Board", "What"}, {0.15, 0.3, 0.55}, {}, {}};
    for (const BoardNote& n : part.history)
        t.rows.push_back({{n.date, n.board, n.words.empty() ? "it fitted" : n.words}});
    return t;
}

/// Red, green and blue, at most so many pixels wide; `scale`: new pixels for each old one.
Picture reducedPicture(const Picture& from, double& scale) {
    constexpr int kWidest = 1000;
    const int factor = std::max(1, (std::max(from.width, from.height) + kWidest - 1) / kWidest);
    scale = 1.0 / factor;
    Picture out;
    out.width = from.width / factor;
    out.height = from.height / factor;
    out.channels = 3;
    out.data.resize(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height) * 3);
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x)
            for (int c = 0; c < 3; ++c) {
                int sum = 0;
                for (int dy = 0; dy < factor; ++dy)
                    for (int dx = 0; dx < factor; ++dx)
                        sum +=
                            from.row(y * factor + dy)[(x * factor + dx) * from.channels + (from.channels == 3 ? c : 0)];
                out.row(y)[3 * x + c] = static_cast<std::uint8_t>(sum / (factor * factor));
            }
    return out;
}

void pictures(const Part& part, const std::string& home, ReportContent& out) {
    for (const Source& s : part.sources) {
        if (s.picture.empty() || s.width <= 0) continue;
        ReportPicture p;
        p.title = s.title;
        for (std::size_t i = 0; i < part.readings.size(); ++i) {
            const Reading& r = part.readings[i];
            if (r.source != s.id) continue;
            if (r.pick) {
                ReportPick pick{i + 1, r.pick->a, {}, r.pick->size};
                if (r.pick->b.x != 0 || r.pick->b.y != 0) pick.b = r.pick->b;
                p.picks.push_back(pick);
            } else if (r.place) {
                p.picks.push_back({i + 1, *r.place, {}, 0});
            }
        }
        const auto file = sourceFile(std::filesystem::path(home) / "part.punch", s.picture);
        if (!file) {
            out.missing.push_back(s.title + ": " + file.error().what);
            continue;
        }
        const auto evidence = openEvidence(file->string(), choiceOf(s));
        if (!evidence) {
            out.missing.push_back(s.title + ": " + evidence.error().what);
            continue;
        }
        if (!evidence->picture) continue;  // a DXF is lines; its readings stand in the table
        double scale = 1;
        p.picture = reducedPicture(*evidence->picture, scale);
        for (ReportPick& pick : p.picks) {
            pick.a = {pick.a.x * scale, pick.a.y * scale};
            if (pick.b) pick.b = PixelPoint{pick.b->x * scale, pick.b->y * scale};
            pick.size *= scale;
        }
        out.pictures.push_back(std::move(p));
    }
}

}  // namespace

ReportContent reportContent(const Part& part, const Footprint& f, const std::string& made, const Stamp& stamp,
                            const std::string& home) {
    ReportContent c;
    c.name = part.name;
    c.description = part.description;
    c.made = made;
    c.program = std::string("Punchbit ") + kVersion;
    c.stamp = stamp.line;
    c.digest = stamp.digest;
    c.loose = std::any_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return !p.firm; });
    c.worst = worstState(f.gauges);
    c.verdict = fmt::format(
        "{} of {} gauges go; the worst is {}.",
        std::count_if(f.gauges.begin(), f.gauges.end(), [](const Gauge& g) { return g.state == GaugeState::Go; }),
        f.gauges.size(), stateName(c.worst));
    c.notes = part.notes;
    std::vector<ReportTable> all{gaugeTable(f), coordinates(f), approvals(part), versions(part)};
    holes(part, f, all);
    for (ReportTable& t :
         std::vector<ReportTable>{voltage(part, f), readings(part, f), judged(part), sources(part), boards(part)})
        all.push_back(std::move(t));
    for (ReportTable& t : all)
        if (!t.rows.empty() || !t.after.empty()) c.tables.push_back(std::move(t));
    if (!home.empty()) pictures(part, home, c);
    return c;
}

}  // namespace punch
