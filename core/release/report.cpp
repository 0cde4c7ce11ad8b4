#include "core/release/report.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/geometry/shapes.h"
#include "core/model/contacts.h"
#include "core/part/names.h"
#include "core/release/tables.h"
#include "core/verdicts/gauges.h"
#include "core/version.h"

namespace punch {
namespace {

std::string safe(const std::string& text) {
    std::string out;
    for (const char c : text) {
        switch (c) {
            case '&': out += "&amp;"; break;
            case '<': out += "&lt;"; break;
            case '>': out += "&gt;"; break;
            case '"': out += "&quot;"; break;
            default: out += c;
        }
    }
    return out;
}

std::string mm(Length l, int digits = 3) { return fmt::format("{:.{}f}", l.mm() + 0.0, digits); }
std::string doubt(const std::optional<Length>& l) { return l ? "± " + mm(*l) : "loose"; }

constexpr const char* kStyle =
    "body{font:13px/1.45 'DejaVu Sans',sans-serif;color:#24333A;max-width:180mm;margin:12mm auto;background:#fff}"
    "h1{font-size:22px;margin:0}h2{font-size:14px;border-bottom:1px solid #24333A;margin:22px 0 6px;padding-bottom:2px}"
    "table{border-collapse:collapse;width:100%}td,th{padding:2px 8px 2px 0;text-align:left;vertical-align:top;"
    "border-bottom:1px solid #DFE6DC}td.n,th.n{text-align:right;font-family:'DejaVu Sans Mono',monospace}"
    ".head{display:flex;justify-content:space-between;border-bottom:2px solid #24333A;padding-bottom:6px}"
    ".quiet{color:#6b7a80}.no{color:#C4432A;font-weight:bold}.watch{color:#8a5f00;font-weight:bold}.go{color:#2E7D4F}"
    ".sheet{text-align:center;position:relative}.sheet svg{max-width:100%;height:auto}"
    ".loose{position:absolute;left:0;right:0;top:35%;font-size:48px;color:#C4432A;opacity:.6;transform:rotate(-18deg)}"
    "@media print{body{margin:0}h2{break-after:avoid}tr{break-inside:avoid}}";

const char* classOf(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return "go";
        case GaugeState::Watch: return "watch";
        default: return "no";
    }
}

class Report {
public:
    Report(const Part& part, const Footprint& f, const Stamp& stamp) : part_(part), f_(f), stamp_(stamp) {}

    std::string write(const std::string& svg, const std::string& made) {
        const bool loose = std::any_of(f_.pads.begin(), f_.pads.end(), [](const Pad& p) { return !p.firm; });
        out_ = fmt::format("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{}</title><style>{}</style></head><body>\n",
                           safe(part_.name), kStyle);
        out_ += fmt::format("<div class=\"head\"><div><h1>{}</h1>{}</div><div class=\"quiet\">Footprint report<br>{}Punchbit {}</div></div>\n",
                            safe(part_.name), safe(part_.description), made.empty() ? "" : safe(made) + "<br>", kVersion);
        const GaugeState worst = worstState(f_.gauges);
        out_ += fmt::format("<p class=\"{}\">{} of {} gauges go; the worst is {}.</p>\n", classOf(worst),
                            std::count_if(f_.gauges.begin(), f_.gauges.end(), [](const Gauge& g) { return g.state == GaugeState::Go; }),
                            f_.gauges.size(), stateName(worst));
        out_ += "<div class=\"sheet\">" + svg.substr(svg.find("<svg")) + (loose ? "<div class=\"loose\">LOOSE</div>" : "") + "</div>\n";
        out_ += "<p class=\"quiet\">At 1:1 where it is printed without scaling. mm from the datum, x right, y up, seen from the part side; doubts at 95 %.</p>\n";
        approval();
        gauges();
        coordinates();
        holes();
        voltage();
        readings();
        judged();
        sources();
        out_ += "</body></html>\n";
        return std::move(out_);
    }

private:
    void table(const std::string& title, std::initializer_list<const char*> heads) {
        out_ += "<h2>" + title + "</h2><table><tr>";
        for (const char* h : heads) out_ += fmt::format("<th{}>{}</th>", h[0] == '#' ? " class=\"n\"" : "", h[0] == '#' ? h + 1 : h);
        out_ += "</tr>\n";
    }
    /// A cell that begins with '#' is a number.
    void line(std::initializer_list<std::string> cells, const char* css = nullptr) {
        out_ += "<tr>";
        for (const std::string& c : cells) {
            const bool number = !c.empty() && c[0] == '#';
            out_ += number ? "<td class=\"n\">" : css != nullptr ? fmt::format("<td class=\"{}\">", css) : "<td>";
            out_ += safe(number ? c.substr(1) : c) + "</td>";
        }
        out_ += "</tr>\n";
    }
    void end() { out_ += "</table>\n"; }

    void gauges() {
        table("Gauges", {"Gauge", "State", "What it says"});
        for (const Gauge& g : f_.gauges) line({g.title, stateName(g.state), fill(g.words, g.of, Unit::Mm, 2)}, classOf(g.state));
        end();
    }

    void approval() {
        const Approval& a = part_.approval;
        if (!stamp_.line.empty())
            out_ += fmt::format("<p><b>{}</b><br><span class=\"quiet\">SHA-256 {}</span></p>\n", safe(stamp_.line), stamp_.digest);
        if (!a.passes.empty()) {
            table("Let pass by a person", {"Gauge", "It said", "Because", "By", "On"});
            for (const LetPass& p : a.passes) line({p.gauge, p.says, p.reason, p.by, p.date});
            end();
        }
        if (a.versions.empty()) return;
        table("Versions", {"#", "Released by", "On", "What is new", "SHA-256"});
        for (const Version& v : a.versions) line({std::to_string(v.number), v.released.by, v.released.date, v.note, v.released.digest.substr(0, 12)});
        end();
    }

    void coordinates() {
        if (f_.pads.empty() && f_.bareHoles.empty()) return;
        table("Coordinates", {"Pad", "#x", "#doubt", "#y", "#doubt", "#Hole", "#Land"});
        for (const Pad& p : f_.pads) {
            const Land& land = shownLand(p);
            const std::string hole = p.hole <= Length() ? "none" : p.slotLength > Length() ? mm(p.hole, 2) + " x " + mm(p.slotLength, 2) : mm(p.hole, 2);
            const std::string copper = land.width == land.length ? mm(land.width, 2) : mm(land.width, 2) + " x " + mm(land.length, 2);
            line({p.number, "#" + mm(p.at.x), "#" + doubt(p.doubt.x), "#" + mm(p.at.y), "#" + doubt(p.doubt.y), "#" + hole, "#" + copper});
        }
        for (const BareHole& h : f_.bareHoles)
            line({h.name, "#" + mm(h.at.x), "#" + doubt(h.doubt.x), "#" + mm(h.at.y), "#" + doubt(h.doubt.y), "#" + mm(h.size, 2),
                  h.plated ? "#" + mm(h.land.width, 2) : "bare"});
        end();
    }

    void holes() {
        for (std::size_t i = 0; i < f_.leads.size() && i < part_.formations.size(); ++i) {
            const LeadFit& lead = f_.leads[i];
            table("Hole and land of " + featureWords(part_, part_.formations[i].pins.front()) + " on", {"Step", "#mm", "By"});
            for (const Chain* chain : {&lead.holeChain, &lead.landChain})
                for (const ChainStep& s : *chain) line({s.label, s.value ? "#" + mm(*s.value) : std::string(), fill(s.detail, s.of, Unit::Mm, 3)});
            end();
        }
        if (!f_.joined.empty()) {
            table("Holes that several makes share", {"Hole", "Kind", "#Size", "#Leads apart", "Because"});
            for (const JoinedHole& j : f_.joined)
                line({j.name, nameOf(j.kind), "#" + mm(j.size, 2) + (j.length > Length() ? " x " + mm(j.length, 2) : ""), "#" + mm(j.apart), j.why});
            end();
            for (const MakeFit& m : f_.makeFits)
                out_ += fmt::format("<p>{}: {}</p>\n", safe(m.name), m.why.empty() ? fmt::format("{:.2f} % drop in", 100 * m.dropIn.share) : safe(m.why));
        }
        if (f_.dropIn.known)
            out_ += fmt::format("<p>Drop-in: {} of {} virtual parts and boards.</p>\n", f_.dropIn.in, f_.dropIn.trials);
    }

    void voltage() {
        if (f_.voltages.empty()) return;
        table("Voltage", {"Between", "#V peak", "#Through air", "#Over the surface", "#Needed"});
        std::size_t count = 0;
        for (const VoltagePair& v : f_.voltages) {
            if (++count > 12) break;
            line({featureWords(part_, v.a) + " and " + featureWords(part_, v.b), fmt::format("#{:.0f}", v.peak.volts()), "#" + mm(v.gap, 2),
                  "#" + mm(v.way, 2), v.refused.empty() ? "#" + mm(v.needed, 2) : v.refused});
        }
        end();
        if (f_.voltages.size() > 12) out_ += fmt::format("<p class=\"quiet\">and {} pairs with more to spare</p>\n", f_.voltages.size() - 12);
    }

    void readings() {
        if (part_.readings.empty()) return;
        table("Readings", {"#", "What", "#mean", "#expected", "State", "Source"});
        for (std::size_t i = 0; i < part_.readings.size() && i < f_.readings.size(); ++i) {
            const Reading& r = part_.readings[i];
            const ReadingResult& result = f_.readings[i];
            std::string source = r.source;
            for (const Source& s : part_.sources)
                if (s.id == r.source) source = s.title;
            line({std::to_string(i + 1), readingWords(part_, r), result.stats.usable ? fmt::format("#{:.3f}", result.stats.mean) : "",
                  result.stats.usable ? fmt::format("#{:.3f}", result.expected) : "", nameOf(result.state), source});
        }
        end();
    }

    void judged() {
        if (part_.overrides.empty()) return;
        table("Set against the rules", {"Where", "Why"});
        for (const auto& [key, o] : part_.overrides)
            line({key == kWholePart ? "whole part" : formationById(part_, key) != nullptr ? "formation " + key : featureWords(part_, key),
                  o.reason.empty() ? "no reason is given" : o.reason},
                 o.reason.empty() ? "watch" : nullptr);
        end();
    }

    void sources() {
        if (!part_.sources.empty()) {
            table("Sources", {"Source", "Seen", "State", "Note"});
            for (const Source& s : part_.sources) line({s.title + (s.link.empty() ? "" : " " + s.link), s.seen, nameOf(s.state), s.note});
            end();
        }
        if (!part_.history.empty()) {
            table("What boards said", {"Date", "Board", "What"});
            for (const BoardNote& n : part_.history) line({n.date, n.board, n.words.empty() ? "it fitted" : n.words});
            end();
        }
        if (!part_.notes.empty()) out_ += "<h2>Notes</h2><p>" + safe(part_.notes) + "</p>\n";
    }

    const Part& part_;
    const Footprint& f_;
    const Stamp& stamp_;
    std::string out_;
};

}  // namespace

Result<std::string> reportHtml(const Part& part, const Footprint& f, const std::string& made, const Stamp& stamp) {
    const auto svg = sheetSvg(part, f);
    if (!svg) return tl::make_unexpected(svg.error());
    return Report(part, f, stamp).write(*svg, made);
}

}  // namespace punch
