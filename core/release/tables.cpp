#include "core/release/tables.h"

#include <fmt/format.h>

#include <cmath>
#include <pugixml.hpp>
#include <sstream>

#include "core/artwork/artwork.h"
#include "core/base/csv.h"
#include "core/part/names.h"

namespace punch {
namespace {

std::string cellMm(Length l) { return csvMm(l); }
std::string cellMm(const std::optional<Length>& l) { return l ? csvMm(*l) : "loose"; }

/// Whatever is no number would be written as one.
Result<void> allPlaced(const Footprint& f) {
    const auto placed = [](Point at) { return std::isfinite(at.x.mm()) && std::isfinite(at.y.mm()); };
    const auto wrong = [](const std::string& what) {
        return problem(fmt::format("the place of {} is no number", what), "table", "Look at its readings");
    };
    for (const Pad& p : f.pads)
        if (!placed(p.at)) return wrong("pad " + p.number);
    for (const BareHole& h : f.bareHoles)
        if (!placed(h.at)) return wrong(h.name);
    for (const Conductor& c : f.attached.lands)
        if (!placed(c.at)) return wrong("land " + c.number);
    return {};
}

/// SVG's y points down; the sheet's up.
class SvgDrawing {
public:
    SvgDrawing(const Rect& view, const std::string& title, const std::vector<std::string>& says) {
        svg_ = doc_.append_child("svg");
        svg_.append_attribute("xmlns") = "http://www.w3.org/2000/svg";
        svg_.append_attribute("version") = "1.1";
        svg_.append_attribute("width") = (cellMm(view.width()) + "mm").c_str();
        svg_.append_attribute("height") = (cellMm(view.height()) + "mm").c_str();
        svg_.append_attribute("viewBox") = fmt::format("{} {} {} {}", cellMm(view.left), cellMm(-view.top),
                                                       cellMm(view.width()), cellMm(view.height()))
                                               .c_str();
        svg_.append_child("title").text() = title.c_str();
        std::string words;
        for (const std::string& line : says) words += line + "\n";
        if (!words.empty()) svg_.append_child("desc").text() = words.c_str();
    }
    void group(const std::string& id) {
        group_ = svg_.append_child("g");
        group_.append_attribute("id") = id.c_str();
    }
    pugi::xml_node disc(Point c, Length d, const std::string& style) {
        auto n = styled("circle", style);
        n.append_attribute("cx") = cellMm(c.x).c_str();
        n.append_attribute("cy") = cellMm(-c.y).c_str();
        n.append_attribute("r") = cellMm(d / 2).c_str();
        return n;
    }
    /// Areas in this style; lines with their own width.
    void shapes(const std::vector<Shape>& all, const std::string& style) {
        for (const Shape& s : all) {
            if (const RoundedPolygon* area = s.rounded()) shape(*area, style);
            if (const Polygons* p = s.polygons()) rings(*p, style);
            if (const Line* l = s.line()) line(l->points, fmt::format("{};stroke-width:{}", style, cellMm(l->width)));
        }
    }
    /// Discs stay discs; everything else becomes a polygon, off by less than 1 µm.
    void shape(const RoundedPolygon& s, const std::string& style) {
        if (s.corners.size() == 1) {
            disc(s.corners.front(), 2.0 * s.radius, style);
            return;
        }
        std::string list;
        for (const Point& p : outlineOf(s, Length::fromUm(1))) list += fmt::format("{},{} ", cellMm(p.x), cellMm(-p.y));
        styled("polygon", style).append_attribute("points") = list.c_str();
    }
    void rings(const Polygons& all, const std::string& style) {
        std::string path;
        for (const auto& ring : all) {
            for (std::size_t i = 0; i < ring.size(); ++i)
                path += fmt::format("{}{},{} ", i == 0 ? "M" : "L", cellMm(ring[i].x), cellMm(-ring[i].y));
            path += "Z ";
        }
        styled("path", style + ";fill-rule:evenodd").append_attribute("d") = path.c_str();
    }
    void line(const std::vector<Point>& points, const std::string& style) {
        std::string list;
        for (const Point& p : points) list += fmt::format("{},{} ", cellMm(p.x), cellMm(-p.y));
        styled("polyline", style).append_attribute("points") = list.c_str();
    }
    void text(Point at, const std::string& words, double size, const char* anchor = "middle") {
        auto n = styled("text",
                        fmt::format("font-family:sans-serif;font-size:{}px;text-anchor:{};fill:#24333A", size, anchor));
        n.append_attribute("x") = cellMm(at.x).c_str();
        n.append_attribute("y") = cellMm(-at.y).c_str();
        n.text() = words.c_str();
    }
    std::string str() const {
        std::ostringstream out;
        doc_.save(out, " ");
        return out.str();
    }

private:
    pugi::xml_node styled(const char* name, const std::string& style) {
        auto n = group_.append_child(name);
        n.append_attribute("style") = style.c_str();
        return n;
    }
    pugi::xml_document doc_;
    pugi::xml_node svg_, group_;
};

}  // namespace

Result<std::string> coordinateTable(const Part&, const Footprint& f, const Stamp& stamp) {
    if (const auto ok = allPlaced(f); !ok) return tl::make_unexpected(ok.error());
    std::string text =
        "number,kind,x_mm,y_mm,x_doubt_mm,y_doubt_mm,hole_mm,land_mm,land_shape,slot_length_mm,slot_turn_deg,"
        "land_length_mm,land_turn_deg";
    text += stamp.line.empty() ? "\r\n" : ",version,digest\r\n";
    const std::string end = stamp.line.empty() ? "\r\n" : fmt::format(",{},{}\r\n", stamp.revision, stamp.digest);
    // A round hole has no length, a bare one no land: their cells stay empty.
    const auto slot = [](Length length, Angle turn) {
        return length > Length() ? fmt::format("{},{:.3f}", cellMm(length), turn.degrees() + 0.0) : std::string(",");
    };
    const auto longer = [](const Land& land) {
        return fmt::format("{},{:.3f}", cellMm(land.length), land.turn.degrees() + 0.0);
    };
    for (const Pad& p : f.pads)
        text += fmt::format("{},plated,{},{},{},{},{},{},{},{},{}", csvCell(p.number), cellMm(p.at.x), cellMm(p.at.y),
                            cellMm(p.doubt.x), cellMm(p.doubt.y), cellMm(p.hole), cellMm(shownLand(p).width),
                            nameOf(shownLand(p).shape), slot(p.slotLength, p.slotTurn), longer(shownLand(p))) +
                end;
    // Holes beside a pad's own: of another make in the same land, of vias.
    for (const Conductor& c : f.attached.lands)
        if (c.hole > Length())
            text += fmt::format("{},plated beside,{},{},,,{},{},{},{},{}", csvCell(c.number), cellMm(c.at.x),
                                cellMm(c.at.y), cellMm(c.hole), cellMm(shownLand(c).width), nameOf(shownLand(c).shape),
                                slot(c.slotLength, c.slotTurn), longer(shownLand(c))) +
                    end;
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c))
            text += fmt::format("{},surface,{},{},{},,{},{},,,{}", csvCell(c.number), cellMm(c.at.x), cellMm(c.at.y),
                                c.firm ? "," : "loose,loose", cellMm(shownLand(c).width), nameOf(shownLand(c).shape),
                                longer(shownLand(c))) +
                    end;
    for (const BareHole& h : f.bareHoles)
        text +=
            fmt::format("{},{},{},{},{},{},{},{},{},{}", csvCell(h.name), h.plated ? "plated" : "bare", cellMm(h.at.x),
                        cellMm(h.at.y), cellMm(h.doubt.x), cellMm(h.doubt.y), cellMm(h.size),
                        h.plated ? fmt::format("{},{}", cellMm(h.land.width), nameOf(h.land.shape)) : std::string(","),
                        slot(h.slotLength, h.slotTurn), h.plated ? longer(h.land) : std::string(",")) +
            end;
    return text;
}

namespace {

/// How each layer of the sheet is drawn, from below upwards.
struct SheetGroup {
    const char* name;
    std::vector<Layer> layers;
    const char* style;
};
const std::vector<SheetGroup>& sheetGroups() {
    static const std::vector<SheetGroup> all = {
        {"courtyard",
         {Layer::TopCourtyard, Layer::BottomCourtyard},
         "fill:none;stroke:#2B8A78;stroke-width:0.1;stroke-dasharray:1 0.4 0.2 0.4"},
        {"keepouts", {Layer::Keepouts}, "fill:#C9663A;fill-opacity:0.15;stroke:#C9663A;stroke-width:0.08"},
        {"assembly", {Layer::Assembly}, "fill:none;stroke:#8A8A8A"},
        {"far-copper", {Layer::BottomCopper}, "fill:#E3CDB4;stroke:#B9A07F;stroke-width:0.05"},
        {"copper", {Layer::TopCopper}, "fill:#B9783B;stroke:#7E4D1F;stroke-width:0.05"},
        {"plated-holes", {Layer::PlatedHoles}, "fill:#FFFFFF;stroke:#7E4D1F;stroke-width:0.03"},
        {"holes", {Layer::BareHoles, Layer::CutOuts}, "fill:#FFFFFF;stroke:#24333A;stroke-width:0.08"},
        {"silkscreen", {Layer::TopSilkscreen}, "fill:none;stroke:#24333A;stroke-linecap:round;stroke-linejoin:round"},
    };
    return all;
}

}  // namespace

Result<std::string> sheetSvg(const Part& part, const Footprint& f, const Stamp& stamp) {
    if (const auto ok = allPlaced(f); !ok) return tl::make_unexpected(ok.error());
    Rect content = f.courtyard;
    content.add(boundsOf(f.silkscreen));
    Rect view = content.grown(Length::fromMm(3));
    view.bottom -= Length::fromMm(6);
    SvgDrawing d(view, part.name + ", footprint at 1:1, seen from the part side", stamp.all());
    for (const SheetGroup& group : sheetGroups()) {
        d.group(group.name);
        for (const Layer layer : group.layers) d.shapes(artwork(part, f, layer), group.style);
    }
    d.group("words");
    for (const Shape& k : f.keepouts)
        if (const Rect box = k.box(); !k.keeps.piece)
            d.text({box.middle().x, box.bottom + Length::fromMm(0.4)},
                   fmt::format("{}: nothing taller than {:g} mm", k.name, k.keeps.maxHeight.mm()), 1.0);
    for (const Pad& p : f.pads) d.text({p.at.x, boundsOf(landShape(p)).top + Length::fromMm(0.3)}, p.number, 1.2);
    if (std::any_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return !p.firm; }))
        d.text(content.middle(), "LOOSE: stands where nobody read it", 2.5);
    d.group("print-check");
    const Point bar{view.left + Length::fromMm(2), view.bottom + Length::fromMm(2)};
    d.line({bar, {bar.x + Length::fromMm(10), bar.y}}, "stroke:#24333A;stroke-width:0.15");
    d.text({bar.x, bar.y + Length::fromMm(0.5)}, "10 mm: measure it", 1.0, "start");
    return d.str();
}

}  // namespace punch
