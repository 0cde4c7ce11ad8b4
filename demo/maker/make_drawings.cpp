// Writes the made-up drawings of the demo: PW-VS11 as PDF and QB-LX4 as PDF and DXF, beside their parts.

#include <cmath>
#include <cstdio>
#include <string>
#include <tuple>

#include "core/base/atomic_file.h"
#include "core/drawing/evidence.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/read_dxf.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/picture/take.h"
#include "demo/maker/drawing_maker.h"

using namespace punch::maker;
using Pen = DrawingSheet::Pen;

namespace {

/// In the lower right of a sheet drawn at `scale` to 1.
void titleBlock(DrawingSheet& s, Spot2 corner, double scale, const std::string& who, const std::string& what) {
    const double w = 50 / scale, h = 11 / scale;
    s.rectangle(corner.x, corner.y, corner.x + w, corner.y + h, Pen::Thin);
    s.line({corner.x, corner.y + h / 2}, {corner.x + w, corner.y + h / 2}, Pen::Thin);
    s.text({corner.x + w / 2, corner.y + 0.75 * h}, 2.6, who);
    s.text({corner.x + w / 2, corner.y + 0.25 * h}, 2.0, what);
}

/// The 11 way socket from below: pin 1 at the left. The origin is the middle of the front row.
DrawingSheet socket() {
    DrawingSheet s(210, 148, 2);
    s.rectangle(-21, -5, 21, 7.5, Pen::Thick);
    for (int i = 0; i < 6; ++i) s.circle({-12.7 + 5.08 * i, 0}, 1.0);
    for (int i = 0; i < 5; ++i) s.circle({-10.16 + 5.08 * i, 2.54}, 1.0);
    for (const double side : {-17.8, 17.8}) s.circle({side, 1.27}, 3.2);
    s.text({-12.7, -1.7}, 2.0, "1");
    s.text({-10.16, 4.2}, 2.0, "2");
    s.text({12.7, -1.7}, 2.0, "11");
    s.text({0, 21.5}, 3.0, "VIEW FROM BELOW");
    s.along({-12.7, 0}, {12.7, 0}, -9, "B");
    s.along({12.7, 0}, {21, -5}, -9, "8.3 ±0.15");
    s.along({-17.8, 1.27}, {17.8, 1.27}, -14, "A");
    s.along({-21, -5}, {21, -5}, -19, "F");
    s.across({12.7, 0}, {10.16, 2.54}, 25, "C");
    s.across({-21, -5}, {-21, 7.5}, -26, "G");
    s.across({-12.7, 0}, {-21, -5}, -31, "5.0 ±0.15");
    s.leader({-12.4, 0.4}, {-8, 15}, "11x Ø D");
    s.leader({18.6, 2.6}, {24, 12}, "2x Ø E");
    // Table by variant.
    const char* rows[][3] = {{"", "8 way", "11 way"},
                             {"A", "25.44 ±0.1", "35.60 ±0.1"},
                             {"B", "0.600in ±0.004in", "1.000in ±0.004in"},
                             {"C", "0.100in ±0.004in", "0.100in ±0.004in"},
                             {"D", "1.00 ±0.05", "1.00 ±0.05"},
                             {"E", "3.20 +0.1 -0", "3.20 +0.1 -0"},
                             {"F", "31.8", "42.0"},
                             {"G", "12.5", "12.5"},
                             {"H", "0.120in..0.140in", "0.120in..0.140in"}};
    for (int r = 0; r < 9; ++r) {
        const double y = -24.5 - 2.2 * r;
        const double xs[] = {-27.5, -17.5, 0.5};
        for (int c = 0; c < 3; ++c) s.text({xs[c], y}, 1.9, rows[r][c]);
    }
    s.text({24, -30}, 2.0, "Height above the board 14.2");
    s.text({24, -33}, 2.0, "Lead length below it: H");
    titleBlock(s, {11, -43}, 2, "Pellow", "Valve socket VS · scale 2:1");
    return s;
}

/// The light sensor from the part side. The origin is the middle of its four leads.
DrawingSheet sensor() {
    DrawingSheet s(148, 105, 4);
    s.rectangle(-3.0, -2.5, 3.0, 2.5, Pen::Thick);
    s.circle({0, 0}, 3.4, Pen::Thin);
    for (const double x : {-1.27, 1.27})
        for (const double y : {-3.81, 3.81}) s.rectangle(x - 0.3, y - 0.2, x + 0.3, y + 0.2);
    s.rectangle(-4.9, -0.6, -4.1, 0.6);
    s.along({-1.27, 3.81}, {1.27, 3.81}, 6.2, "2.54");
    s.across({-1.27, -3.81}, {-1.27, 3.81}, -8.5, "7.62 ±0.05");
    s.along({-3.0, -2.5}, {3.0, -2.5}, -6.2, "6.0 ±0.1");
    s.across({3.0, -2.5}, {3.0, 2.5}, 5.0, "5.0 ±0.1");
    s.along({-4.5, -0.6}, {0, -1.7}, -8.4, "4.50 ±0.05");
    s.leader({1.45, 3.95}, {4.2, 5.3}, "4x 0.60 ±0.03");
    s.leader({1.4, -3.9}, {3.2, -5.0}, "4x 0.40 ±0.03");
    s.leader({-4.6, 0.6}, {-4.0, 5.4}, "1.20");
    s.text({0, 8.6}, 2.6, "VIEW OF THE PART SIDE");
    s.text({-1.27, -4.9}, 1.8, "1");
    titleBlock(s, {6.5, -12}, 4, "Quillby", "Light sensor LX4 · scale 4:1");
    return s;
}

using namespace punch;

/// The sensor as its user would have made it: leads, tab and faces taken from the DXF, its numbers taken over.
Part sensorPart(const std::string& dxf) {
    const Drawing drawing = *dxfFromText(dxf, "drawing.dxf");
    Evidence evidence;
    evidence.kind = EvidenceKind::Dxf;
    evidence.drawing = drawing;
    Part p = *newRow(4);
    p.name = "QB-LX4";
    p.description = "Light sensor that sinks through the board, 4 flat leads, heat tab";
    p.reference = "B";
    p.notes = "Everything is from the maker's drawing. Nobody has held the part yet.";
    Source source = sourceFrom(evidence, {}, "Quillby drawing, part side", "QB-LX4-sources/drawing.dxf");
    source.face = PictureFace::PartSide;
    std::string id;
    std::tie(p, id) = withSource(std::move(p), source);
    FindOptions options;
    options.fromBelow = false;
    Found found = *findInDrawing(drawing, options);
    // The lens and the body are drawn as a circle and a rectangle of a pin's size.
    std::vector<std::size_t> none;
    for (std::size_t i = 0; i < found.features.size(); ++i)
        if (found.features[i].seen.rim.shape == RimShape::Round || found.features[i].width > 3) none.push_back(i);
    found = withoutFeatures(std::move(found), none, false);
    p = *withFound(std::move(p), id, found, {});
    for (Spot& s : p.spots) {
        s.kind = SpotKind::Lug;
        s.name = "heat tab";
    }
    const double n = drawing.dpi / 25.4;
    // The pixel of a place on the drawing: leads are found about its middle.
    PixelPoint middle{0, 0};
    for (const FoundFeature& f : found.features)
        if (f.slot >= 0) middle = {middle.x + f.seen.rim.centre.x / 4, middle.y + f.seen.rim.centre.y / 4};
    const auto at = [&](double x, double y) { return PixelPoint{middle.x + n * x, middle.y - n * y}; };
    p = withPick(std::move(p), id, kLeftFace, at(-3.0, 0), 0.05);
    p = withPick(std::move(p), id, kRightFace, at(3.0, 0), 0.05);
    p = withPick(std::move(p), id, kFrontFace, at(0, -2.5), 0.05);
    p = withPick(std::move(p), id, kRearFace, at(0, 2.5), 0.05);
    const auto take = [&](const std::string& text, const std::string& typed, Contact contact, Axis axis,
                          const FeatureId& a, const FeatureId& b) {
        Reading r;
        r.a = a;
        r.b = b;
        r.contact = contact;
        r.axis = axis;
        r.source = id;
        r.drawing = *parseDrawingValue(typed, Unit::Mm);
        for (const DrawnText& t : drawing.texts)
            if (t.text == text) r.place = PixelPoint{std::round(t.middle.x), std::round(t.middle.y)};
        p = withReading(std::move(p), std::move(r));
    };
    const auto pins = p.formations[0].pins;
    const FeatureId tab = p.spots.empty() ? FeatureId() : p.spots.front().id;
    take("2.54", "2.54", Contact::Centres, Axis::Along, pins[2], pins[3]);
    take("7.62 ±0.05", "7.62 ±0.05", Contact::Centres, Axis::Across, pins[0], pins[2]);
    take("4x 0.60 ±0.03", "0.60 ±0.03", Contact::Size, Axis::Along, pins[0], "");
    take("4x 0.40 ±0.03", "0.40 ±0.03", Contact::Size, Axis::Across, pins[0], "");
    take("6.0 ±0.1", "6.0 ±0.1", Contact::Size, Axis::Along, kBody, "");
    take("5.0 ±0.1", "5.0 ±0.1", Contact::Size, Axis::Across, kBody, "");
    if (!tab.empty()) take("4.50 ±0.05", "4.50-2.54/2 ±0.05", Contact::Centres, Axis::Along, tab, pins[0]);
    if (!tab.empty()) take("1.20", "1.20", Contact::Size, Axis::Across, tab, "");
    return p;
}

int wrote(const punch::Result<void>& done) {
    if (!done) std::fprintf(stderr, "%s\n", done.error().text().c_str());
    return done ? 0 : 1;
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fprintf(stderr, "make_drawings FOLDER\n");
        return 2;
    }
    const std::string folder = argv[1];
    return wrote(punch::writeAllAtomically(folder + "/PW-VS11-sources",
                                           {{"drawing.pdf", socket().pdf(82, 96)}, {"drawing.dxf", socket().dxf()}})) +
           wrote(punch::writeAllAtomically(folder + "/QB-LX4-sources",
                                           {{"drawing.pdf", sensor().pdf(62, 55)}, {"drawing.dxf", sensor().dxf()}})) +
           wrote(savePart(sensorPart(sensor().dxf()), folder + "/QB-LX4.punch"));
}
