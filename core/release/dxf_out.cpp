#include "core/release/dxf_out.h"

#include <dxflib/dl_dxf.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cmath>
#include <filesystem>
#include <memory>

#include "core/artwork/artwork.h"
#include "core/base/atomic_file.h"

namespace punch {
namespace {

/// In the order in which they are drawn; colours of the index that every reader has.
struct DxfLayer {
    Layer layer;
    int colour;
};
constexpr DxfLayer kLayers[] = {{Layer::CutOuts, 7},        {Layer::PlatedHoles, 1},      {Layer::BareHoles, 3},
                                {Layer::TopCopper, 30},     {Layer::InnerCopper, 32},     {Layer::BottomCopper, 34},
                                {Layer::TopMask, 94},       {Layer::BottomMask, 96},      {Layer::TopPaste, 8},
                                {Layer::BottomPaste, 9},    {Layer::TopSilkscreen, 7},    {Layer::BottomSilkscreen, 8},
                                {Layer::Assembly, 5},       {Layer::Body, 150},           {Layer::Keepouts, 20},
                                {Layer::TopCourtyard, 122}, {Layer::BottomCourtyard, 124}};

/// A corner of a closed or open path, and how the way to the next bends: the tangent of a quarter of its angle.
struct Vertex {
    double x, y, bulge = 0;
};

/// Straight sides, and an arc around each corner of the core.
std::vector<Vertex> around(const RoundedPolygon& shape) {
    std::vector<Vertex> path;
    const auto& c = shape.corners;
    const double r = shape.radius.mm();
    const std::size_t n = c.size();
    for (std::size_t i = 0; i < n; ++i) {
        const Point &before = c[(i + n - 1) % n], &here = c[i], &after = c[(i + 1) % n];
        if (r <= 0) {
            path.push_back({here.x.mm(), here.y.mm()});
            continue;
        }
        const auto out = [&](const Point& a, const Point& b) {
            const double dx = (b.x - a.x).mm(), dy = (b.y - a.y).mm(), d = std::hypot(dx, dy);
            return std::pair{dy / d * r, -dx / d * r};
        };
        const auto [ax, ay] = out(before, here);
        const auto [bx, by] = out(here, after);
        double turn = std::atan2(ax * by - ay * bx, ax * bx + ay * by);
        if (turn <= 1e-9) turn = n == 2 ? std::acos(-1.0) : turn;
        path.push_back({here.x.mm() + ax, here.y.mm() + ay, std::tan(turn / 4)});
        path.push_back({here.x.mm() + bx, here.y.mm() + by});
    }
    return path;
}

class DxfDrawing {
public:
    DxfDrawing(DL_Dxf& dxf, DL_WriterA& out) : dxf_(dxf), out_(out) {}

    void layer(const char* name) { attributes_ = DL_Attributes(name, 256, -1, "BYLAYER", 1.0); }

    void draw(const Shape& shape) {
        if (const RoundedPolygon* area = shape.rounded()) {
            if (area->corners.size() == 1)
                dxf_.writeCircle(out_, {area->corners[0].x.mm(), area->corners[0].y.mm(), 0, area->radius.mm()},
                                 attributes_);
            else
                path(around(*area), true);
        } else if (const Polygons* rings = shape.polygons()) {
            for (const auto& ring : *rings) path(plain(ring), true);
        } else if (const Line* line = shape.line()) {
            path(plain(line->points), false);
        }
    }

    void words(Point at, const std::string& text, double height) {
        dxf_.writeText(
            out_,
            DL_TextData(at.x.mm(), at.y.mm(), 0, at.x.mm(), at.y.mm(), 0, height, 1, 0, 1, 2, text, "Standard", 0),
            attributes_);
    }

private:
    static std::vector<Vertex> plain(const std::vector<Point>& points) {
        std::vector<Vertex> path;
        for (const Point& p : points) path.push_back({p.x.mm(), p.y.mm()});
        return path;
    }

    void path(const std::vector<Vertex>& vertices, bool closed) {
        if (vertices.size() < 2) return;
        if (vertices.size() == 2 && !closed) {
            dxf_.writeLine(out_, {vertices[0].x, vertices[0].y, 0, vertices[1].x, vertices[1].y, 0}, attributes_);
            return;
        }
        dxf_.writePolyline(out_, DL_PolylineData(static_cast<int>(vertices.size()), 0, 0, closed ? 1 : 0), attributes_);
        for (const Vertex& v : vertices) dxf_.writeVertex(out_, DL_VertexData(v.x, v.y, 0, v.bulge));
        dxf_.writePolylineEnd(out_);
    }

    DL_Dxf& dxf_;
    DL_WriterA& out_;
    DL_Attributes attributes_;
};

void writeHead(DL_Dxf& dxf, DL_WriterA& out) {
    dxf.writeHeader(out);
    out.dxfString(9, "$INSUNITS");
    out.dxfInt(70, 4);
    out.dxfString(9, "$MEASUREMENT");
    out.dxfInt(70, 1);
    out.sectionEnd();
    out.sectionTables();
    dxf.writeVPort(out);
    out.tableLinetypes(3);
    for (const char* type : {"BYBLOCK", "BYLAYER", "CONTINUOUS"})
        dxf.writeLinetype(out, DL_LinetypeData(type, type, 0, 0, 0.0));
    out.tableEnd();
    out.tableLayers(static_cast<int>(std::size(kLayers)) + 1);
    dxf.writeLayer(out, DL_LayerData("0", 0), DL_Attributes("", 7, 100, "CONTINUOUS", 1.0));
    for (const DxfLayer& l : kLayers)
        dxf.writeLayer(out, DL_LayerData(layerWords(l.layer), 0), DL_Attributes("", l.colour, 18, "CONTINUOUS", 1.0));
    out.tableEnd();
    out.tableStyle(1);
    dxf.writeStyle(out, DL_StyleData("Standard", 0, 0.0, 1.0, 0.0, 0, 2.5, "txt", ""));
    out.tableEnd();
    dxf.writeView(out);
    dxf.writeUcs(out);
    out.tableAppid(1);
    dxf.writeAppid(out, "ACAD");
    out.tableEnd();
    dxf.writeDimStyle(out, 1, 1, 1, 1, 1);
    dxf.writeBlockRecord(out);
    out.tableEnd();
    out.sectionEnd();
    out.sectionBlocks();
    for (const char* block : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
        dxf.writeBlock(out, DL_BlockData(block, 0, 0.0, 0.0, 0.0));
        dxf.writeEndBlock(out, block);
    }
    out.sectionEnd();
}

}  // namespace

Result<std::string> footprintDxf(const Part& part, const Footprint& f, const Stamp& stamp) {
    for (const Pad& p : f.pads)
        if (!std::isfinite(p.at.x.mm()) || !std::isfinite(p.at.y.mm()))
            return problem("pad " + p.number + " has no place", part.name, "Look at its readings");
    // The library writes into files alone.
    std::string name = (std::filesystem::temp_directory_path() / "punchbit-dxf-XXXXXX").string();
    const int handle = ::mkstemp(name.data());
    if (handle < 0) return problem("there is no room for a temporary file", name, "Make room in the temporary folder");
    ::close(handle);
    std::string text;
    {
        DL_Dxf dxf;
        const std::unique_ptr<DL_WriterA> out(dxf.out(name.c_str(), DL_Codes::AC1015));
        if (!out) {
            ::unlink(name.c_str());
            return problem("the temporary file cannot be written", name, "Make room in the temporary folder");
        }
        for (std::string line : stamp.all()) {
            // A line of the format is one line of text.
            std::replace_if(
                line.begin(), line.end(), [](char c) { return static_cast<unsigned char>(c) < 0x20; }, ' ');
            out->comment(line.c_str());
        }
        writeHead(dxf, *out);
        out->sectionEntities();
        DxfDrawing drawing(dxf, *out);
        for (const DxfLayer& l : kLayers) {
            drawing.layer(layerWords(l.layer));
            for (const Shape& shape : artwork(part, f, l.layer)) drawing.draw(shape);
        }
        drawing.layer(layerWords(Layer::Assembly));
        for (const Pad& p : f.pads) drawing.words(p.at, p.number, 0.8);
        out->sectionEnd();
        dxf.writeObjects(*out);
        dxf.writeObjectsEnd(*out);
        out->dxfEOF();
        out->close();
    }
    auto whole = readWhole(name);
    ::unlink(name.c_str());
    if (!whole) return tl::make_unexpected(whole.error());
    return std::move(*whole);
}

}  // namespace punch
