#include "core/release/report.h"

#include <fmt/format.h>

#include <openssl/evp.h>

#include "core/body/drawn_scene.h"
#include "core/release/tables.h"
#include "core/verdicts/gauges.h"

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

constexpr const char* kStyle =
    "body{font:13px/1.45 'DejaVu Sans',sans-serif;color:#24333A;max-width:180mm;margin:12mm auto;background:#fff}"
    "h1{font-size:22px;margin:0}h2{font-size:14px;border-bottom:1px solid #24333A;margin:22px 0 6px;padding-bottom:2px}"
    "table{border-collapse:collapse;width:100%}td,th{padding:2px 8px 2px 0;text-align:left;vertical-align:top;"
    "border-bottom:1px solid #DFE6DC}td.n,th.n{text-align:right;font-family:'DejaVu Sans Mono',monospace}"
    ".head{display:flex;justify-content:space-between;border-bottom:2px solid #24333A;padding-bottom:6px}"
    ".quiet{color:#6b7a80}.no{color:#C4432A;font-weight:bold}.watch{color:#8a5f00;font-weight:bold}.go{color:#2E7D4F}"
    ".picture{max-width:100%}.pick{fill:none;stroke:#0F5C63;stroke-width:.15%}.picked{fill:#0F5C63;font-weight:bold}"
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

std::string withoutMark(const std::string& cell) { return safe(isNumberCell(cell) && cell.size() > 1 ? cell.substr(1) : cell == "#" ? "" : cell); }

/// Bytes as text that stands in a page (RFC 4648).
std::string base64(const std::string& bytes) {
    // Four letters for each three bytes, and the byte that the function closes them with.
    std::string out(4 * ((bytes.size() + 2) / 3) + 1, 0);
    const int length = EVP_EncodeBlock(reinterpret_cast<unsigned char*>(out.data()), reinterpret_cast<const unsigned char*>(bytes.data()),
                                       static_cast<int>(bytes.size()));
    out.resize(static_cast<std::size_t>(length));
    return out;
}

void table(const ReportTable& t, std::string& out) {
    out += "<h2>" + safe(t.title) + "</h2>";
    if (!t.rows.empty()) {
        out += "<table><tr>";
        for (const std::string& h : t.heads)
            out += fmt::format("<th{}>{}</th>", isNumberCell(h) ? " class=\"n\"" : "", h == "#" ? "#" : withoutMark(h));
        out += "</tr>\n";
        for (const ReportRow& row : t.rows) {
            out += "<tr>";
            for (const std::string& c : row.cells)
                out += (isNumberCell(c) ? "<td class=\"n\">" : row.state ? fmt::format("<td class=\"{}\">", classOf(*row.state)) : "<td>") +
                       withoutMark(c) + "</td>";
            out += "</tr>\n";
        }
        out += "</table>\n";
    }
    for (const std::string& line : t.after) out += "<p class=\"quiet\">" + safe(line) + "</p>\n";
}

void picture(const ReportPicture& p, std::string& out) {
    const auto png = pngOf(Drawn{p.picture.width, p.picture.height, p.picture.data});
    if (!png) return;
    out += fmt::format("<h2>{}</h2><svg class=\"picture\" viewBox=\"0 0 {} {}\"><image width=\"{}\" height=\"{}\" href=\"data:image/png;base64,{}\"/>",
                       safe(p.title), p.picture.width, p.picture.height, p.picture.width, p.picture.height, base64(*png));
    const double mark = p.picture.width / 160.0;
    for (const ReportPick& pick : p.picks) {
        out += fmt::format("<circle cx=\"{:.1f}\" cy=\"{:.1f}\" r=\"{:.1f}\" class=\"pick\"/>", pick.a.x, pick.a.y, std::max(pick.size / 2, mark));
        if (pick.b)
            out += fmt::format("<line x1=\"{:.1f}\" y1=\"{:.1f}\" x2=\"{:.1f}\" y2=\"{:.1f}\" class=\"pick\"/>", pick.a.x, pick.a.y, pick.b->x, pick.b->y);
        out += fmt::format("<text x=\"{:.1f}\" y=\"{:.1f}\" font-size=\"{:.1f}\" class=\"picked\">{}</text>", pick.a.x + 1.3 * mark, pick.a.y - 1.3 * mark, 2.6 * mark, pick.number);
    }
    out += "</svg>\n";
}

}  // namespace

Result<std::string> reportHtml(const Part& part, const Footprint& f, const ReportContent& c) {
    const auto svg = sheetSvg(part, f);
    if (!svg) return tl::make_unexpected(svg.error());
    std::string out = fmt::format("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{}</title><style>{}</style></head><body>\n",
                                  safe(c.name), kStyle);
    out += fmt::format("<div class=\"head\"><div><h1>{}</h1>{}</div><div class=\"quiet\">Footprint report<br>{}{}</div></div>\n", safe(c.name),
                       safe(c.description), c.made.empty() ? "" : safe(c.made) + "<br>", safe(c.program));
    if (!c.stamp.empty()) out += fmt::format("<p><b>{}</b><br><span class=\"quiet\">SHA-256 {}</span></p>\n", safe(c.stamp), c.digest);
    out += fmt::format("<p class=\"{}\">{}</p>\n", classOf(c.worst), safe(c.verdict));
    out += "<div class=\"sheet\">" + svg->substr(svg->find("<svg")) + (c.loose ? "<div class=\"loose\">LOOSE</div>" : "") + "</div>\n";
    out += "<p class=\"quiet\">At 1:1 where it is printed without scaling. mm from the datum, x right, y up, seen from the part side; doubts at 95 %.</p>\n";
    for (const ReportTable& t : c.tables) table(t, out);
    for (const ReportPicture& p : c.pictures) picture(p, out);
    for (const std::string& m : c.missing) out += "<p class=\"quiet\">" + safe(m) + "</p>\n";
    if (!c.notes.empty()) out += "<h2>Notes</h2><p>" + safe(c.notes) + "</p>\n";
    return out + "</body></html>\n";
}

}  // namespace punch
