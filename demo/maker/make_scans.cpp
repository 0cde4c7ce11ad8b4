// Writes the rotary selector of the Fennel House demo anew, its scan and the part read from it: make_scans FOLDER.

#include <cmath>
#include <cstdio>
#include <tuple>

#include "core/base/atomic_file.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/picture/take.h"
#include "demo/maker/scan_maker.h"

using namespace punch::maker;

namespace {

using namespace punch;

Reading caliper(const FeatureId& a, const FeatureId& b, Contact contact, Axis axis, std::vector<const char*> typed) {
    Reading r;
    r.a = a;
    r.b = b;
    r.contact = contact;
    r.axis = axis;
    for (const char* text : typed) {
        RawValue v;
        v.typed = text;
        v.value = *parseLength(text, Unit::Mm);
        r.raw.push_back(v);
    }
    return r;
}

/// The part as its user would have read it: ruler and pins in the scan, three lengths with calipers.
Part selector(const Picture& picture, const std::string& file) {
    FormationPlan plan;
    plan.kind = FormationKind::Ring;
    plan.rows = {6};
    plan.arc = true;
    Part p = *newPart(plan);
    p.name = "HT-SEL6";
    p.description = "Rotary mode selector with a knob, 6 terminals in an arc, two lugs";
    p.reference = "S";
    std::string id;
    std::tie(p, id) = withPicture(std::move(p), "underside.png", file, picture);
    p.sources.back().face = PictureFace::SolderSide;
    p.sources.back().note = "flatbed scan beside a steel ruler";
    FindOptions options;
    const Found found = *findInPicture(picture, options);
    for (const std::size_t i : found.scaleRulers) {
        const Ruler& r = found.rulers[i];
        p = *withKnownLength(std::move(p), id, r.first, r.last, std::to_string(std::lround(r.length())) + "mm",
                             Unit::Mm, r.pair().u);
    }
    TakeOptions take;
    take.pinOne = 5;
    p = *withFound(std::move(p), id, found, take);
    const auto pins = p.formations[0].pins;
    p = withReading(std::move(p),
                    caliper(pins[0], pins[5], Contact::Outside, Axis::Along, {"15.47", "15.46", "15.48"}));
    p = withReading(std::move(p), caliper(pins[2], "", Contact::Size, Axis::Height, {"3.60", "3.62"}));
    p = withReading(std::move(p), caliper(kBody, "", Contact::Size, Axis::Height, {"6.40"}));
    p = withReading(std::move(p), caliper(kBody, "", Contact::Size, Axis::Along, {"21.02", "21.00"}));
    p = withReading(std::move(p), caliper(kBody, "", Contact::Size, Axis::Across, {"20.98", "21.01"}));
    p = withReading(std::move(p), caliper(kLeftFace, pins[0], Contact::FaceNear, Axis::Along, {"2.77", "2.78"}));
    p = withReading(std::move(p), caliper(kRearFace, pins[2], Contact::FaceNear, Axis::Across, {"2.76"}));
    return p;
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fprintf(stderr, "make_scans FOLDER\n");
        return 2;
    }
    Scene s;
    s.dpi = 600;
    s.stretchX = 1.0021;
    s.stretchY = 0.9988;
    s.tilt = 1.13;
    s.pictureWidth = 58;
    s.pictureHeight = 44;
    s.middleX = 28.6;
    s.middleY = 14.6;
    s.housingWidth = 21;
    s.housingHeight = 21;
    s.boss = 17.5;
    s.gloss = 0.6;
    s.dust = 12;
    s.seed = 46;
    s.rulerLength = 45;
    s.things = arcOfPins(6, 15, 165, 15, 0.98);
    for (const double side : {-1.0, 1.0}) {
        Thing lug;
        lug.look = Look::Lug;
        lug.round = false;
        lug.x = side * 8.6;
        lug.y = -6.1;
        lug.width = 0.8;
        lug.height = 2.0;
        s.things.push_back(lug);
    }
    Thing peg;
    peg.look = Look::Peg;
    peg.y = -5.8;
    peg.width = peg.height = 1.5;
    s.plastic = 112;
    s.things.push_back(peg);
    const Scan scan = makeScan(s);
    const std::string folder = argv[1];
    const std::string name = "HT-SEL6-sources/underside.png";
    const auto written =
        punch::writeAllAtomically(folder + "/HT-SEL6-sources", {{"underside.png", pngBytes(scan.picture, s.dpi)}});
    if (!written) {
        std::fprintf(stderr, "%s\n", written.error().text().c_str());
        return 1;
    }
    const auto saved = savePart(selector(scan.picture, name), folder + "/HT-SEL6.punch");
    if (!saved) std::fprintf(stderr, "%s\n", saved.error().text().c_str());
    return saved ? 0 : 1;
}
