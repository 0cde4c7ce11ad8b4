// Parts without pins: fiducials, logos, screws; and what kind of part reaches which list.

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/part/cut_out.h"
#include "core/part/names.h"
#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "tests/support/parts.h"

namespace punch::pinless_test {
namespace {

using test::reading;
using test::with;

Part demo(const std::string& name) {
    const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
    EXPECT_TRUE(part) << (part ? "" : part.error().text());
    return part ? *part : Part{};
}

TEST(Pinless, AFiducialIsAWholePartAndEveryGaugeSaysSo) {
    const Part part = demo("FH-FID");
    ASSERT_TRUE(part.formations.empty());
    const Footprint f = derive(part);
    for (const Gauge& g : f.gauges)
        if (g.id != GaugeId::Voltage) {
            EXPECT_EQ(g.state, GaugeState::Go) << g.name << ": " << g.words;
        }
    EXPECT_EQ(f.gauge("fiducials")->value, 3.0);
    EXPECT_TRUE(f.pads.empty());
    // Its clear ring is its own, and the excess of density B around it.
    EXPECT_NEAR(f.courtyard.width().mm(), 3.0 + 2 * 0.25, 0.01);
    const auto back = fromText(toText(part), "memory");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(*back, part);
    const auto files = releaseFiles(part, f, {Format::Gerber, Format::Drill, Format::Csv, Format::Svg});
    ASSERT_TRUE(files) << files.error().text();
    EXPECT_FALSE(files->empty());
}

TEST(Pinless, AFileHasToSayThatThereAreNoFormations) {
    const auto part = fromText(R"({"punchbit": 2, "formations": []})", "x");
    ASSERT_TRUE(part) << part.error().text();
    EXPECT_TRUE(part->formations.empty());
    EXPECT_FALSE(fromText(R"({"punchbit": 2})", "x"));
    EXPECT_FALSE(derive(*part).gauges.empty());
}

TEST(Pinless, TheFrameBeginsAtTheFirstHoleElseAtTheBody) {
    Part part = newPartWithoutPins();
    part.body.present = true;
    part = withSpot(part, SpotKind::MountingHole);
    part = withSpot(part, SpotKind::MountingHole);
    const FeatureId a = part.spots[0].id, b = part.spots[1].id;
    part = with(part, reading(a, b, Contact::Centres, Axis::Along, {20.0}));
    part = with(part, reading(a, b, Contact::Centres, Axis::Across, {5.0}));
    part = with(part, reading(a, "", Contact::Size, Axis::Along, {3.2}));
    part = with(part, reading(kBody, "", Contact::Size, Axis::Along, {30.0}));
    part = with(part, reading(kLeftFace, a, Contact::FaceCentre, Axis::Along, {5.0}));
    const Footprint f = derive(part);
    EXPECT_TRUE(f.bareHole(a)->firm);
    EXPECT_EQ(f.bareHole(a)->at, (Point{}));  // the datum stands there as well
    ASSERT_TRUE(f.bareHole(b)->firm);
    EXPECT_NEAR(abs(f.bareHole(b)->at.x).mm(), 20.0, 1e-6);
    EXPECT_NEAR(f.body->rect.left.mm(), -5.0, 1e-6);
    EXPECT_NEAR(f.body->rect.right.mm(), 25.0, 1e-6);
    EXPECT_FALSE(f.body->firm[static_cast<int>(Side::Front)]) << "nothing says where it is across";

    Part block = newPartWithoutPins();
    block.body.present = true;
    block = with(block, reading(kBody, "", Contact::Size, Axis::Along, {12.0}));
    block = with(block, reading(kBody, "", Contact::Size, Axis::Across, {8.0}));
    const Footprint g = derive(block);
    ASSERT_TRUE(g.body && g.body->allFirm());
    EXPECT_NEAR(g.body->rect.left.mm(), -6.0, 1e-6);
    EXPECT_NEAR(g.body->rect.top.mm(), 4.0, 1e-6);
}

TEST(Pinless, TheNextReadingLeadsToAFirmPart) {
    // Whatever it asks for is read, until it is enough.
    Part part = newPartWithoutPins();
    part.body.present = true;
    part = withSpot(part, SpotKind::Peg);
    part = withSpot(part, SpotKind::Peg);
    for (const auto& [name, value] : std::map<std::string, double>{{part.spots[0].id + ".diameter", 1.2},
                                                                   {part.spots[1].id + ".diameter", 1.4},
                                                                   {part.spots[1].id + ".x", 9},
                                                                   {part.spots[1].id + ".y", 2},
                                                                   {"body.left", -3},
                                                                   {"body.right", 14},
                                                                   {"body.front", -4},
                                                                   {"body.rear", 5},
                                                                   {"body.height", 6}})
        part.assumed[name] = Length::fromMm(value);
    const test::Truth truth(part);
    int taken = 0;
    for (; taken < 30; ++taken) {
        const Footprint f = derive(part);
        if (!f.next.reading) break;
        Reading r = *f.next.reading;
        const double shown = truth.shown(r);
        ASSERT_FALSE(std::isnan(shown));
        r.raw.push_back({Length::fromMm(shown), fmt::format("{}", shown), Unit::Mm, false, {}});
        part = withReading(part, r);
    }
    const Footprint f = derive(part);
    EXPECT_LT(taken, 30);
    EXPECT_TRUE(f.body->allFirm());
    for (const BareHole& h : f.bareHoles) EXPECT_TRUE(h.firm && h.sized) << h.name;
    EXPECT_NEAR(f.bareHoles[1].at.x.mm(), 9, 0.01);
}

TEST(Pinless, TheLastFormationMayGoAndANewOneCome) {
    Part part = test::demoPart();
    auto bare = withoutFormation(part, part.formations.front().id);
    ASSERT_TRUE(bare) << bare.error().text();
    EXPECT_TRUE(bare->formations.empty());
    EXPECT_FALSE(derive(*bare).gauges.empty());
    const auto again = withFormation(*bare, {});
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(derive(*again).pads.size(), 4U);
    EXPECT_FALSE(withoutFormation(*bare, "f1"));
}

TEST(PartKinds, DecideWhichListsAPartReaches) {
    Part part = test::demoPart();
    const auto json = [&] { return nlohmann::json::parse(deriveJson(part, derive(part), nullptr)); };
    struct Case {
        PartKind kind;
        bool bought, placed;
    };
    for (const Case& c : {Case{PartKind::Placed, true, true}, Case{PartKind::Printed, false, true},
                          Case{PartKind::Loose, true, false}}) {
        part.kind = c.kind;
        EXPECT_EQ(fromText(toText(part), "x")->kind, c.kind);
        const auto j = json();
        EXPECT_EQ(j["kind"], nameOf(c.kind));
        EXPECT_EQ(j["billOfMaterial"], c.bought);
        EXPECT_EQ(j["placementFile"], c.placed);
    }
    EXPECT_FALSE(fromText(R"({"punchbit": 2, "formations": [], "kind": "free"})", "x"));
}

}  // namespace
}  // namespace punch::pinless_test
