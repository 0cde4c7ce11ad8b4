// Bodies of usual packages: their leads stand where their holes and lands are, their sizes are those that were typed.

#include "core/body/package_bodies.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/body/pieces.h"
#include "core/derive.h"
#include "core/geometry/shapes.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/part/mark_kinds.h"
#include "core/part/turned_profile.h"
#include "core/solid/leads.h"
#include "core/solid/solid_worker.h"
#include "tests/support/parts.h"

namespace punch::package_bodies_test {
namespace {

Solid made(const Part& part, const Footprint& f) {
    SolidsToMake all;
    for (MarkedBody& b : markedBodies(part, f)) all.bodies.push_back(std::move(b.body));
    EXPECT_FALSE(all.bodies.empty());
    SolidWorker worker;
    auto solid = worker.make(all);
    EXPECT_TRUE(solid) << solid.error().text();
    return solid ? std::move(*solid) : Solid{};
}

Part withPackage(const std::string& demo, std::map<std::string, std::string> set) {
    Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/" + demo + ".punch");
    part.solids.clear();
    Mark m = newMark(MarkKind::PackageBody);
    m.name = "housing";
    for (const auto& [key, value] : set) m.set[key] = value;
    m.points.clear();
    return withMark(part, m);
}

/// Box of one body.
Box3 boxOf(const Solid& s, int body) {
    Box3 box;
    for (const SolidFace& f : s.faces)
        if (f.body == body)
            for (int i = f.first; i < f.first + f.count; ++i) {
                const Triangle& t = s.triangles[static_cast<std::size_t>(i)];
                for (const int c : {t.a, t.b, t.c}) box.add(s.corners[static_cast<std::size_t>(c)]);
            }
    return box;
}

class EveryPackage : public testing::TestWithParam<const char*> {};

TEST_P(EveryPackage, ItsLeadsStandInItsHoles) {
    const std::string form = GetParam();
    const bool round = form == "radial leads" || form == "round can";
    for (const char* tips : {"straight", "bevelled", "pointed"}) {
        const Part part = withPackage("QB-TB4", {{"package", form},
                                                 {"length", round ? "18" : "21"},
                                                 {"width", form == "dual in-line" ? "5" : "8"},
                                                 {"height", "7"},
                                                 {"standoff", "0.6"},
                                                 {"leadWidth", "0.8"},
                                                 {"leadThick", "0.5"},
                                                 {"leadLength", "3.3"},
                                                 {"tips", tips}});
        const Footprint f = derive(part);
        ASSERT_EQ(f.laid.back().wrong, "") << form;
        const Solid solid = made(part, f);
        for (const SolidBody& b : solid.bodies) EXPECT_GT(b.volume, 0) << form << " " << b.name;
        const Standing s = standing(solid, {0, 0, -1});
        ASSERT_EQ(s.leads.size(), f.pads.size()) << form << " " << tips;
        for (const SolidLead& l : s.leads) {
            const Vec3 at = inverse(s.pose)({l.at.x, l.at.y, 0});
            double near = 1e9;
            for (const Pad& p : f.pads) near = std::min(near, std::hypot(p.at.x.mm() - at.x, p.at.y.mm() - at.y));
            EXPECT_LT(near, 1e-3) << form << " " << tips;
            EXPECT_NEAR(l.section.along, 0.8, 1e-3) << form << " " << tips;
        }
        // Down to where they were typed, the body up to its height over its standoff.
        const Box3 all = boundsOf(solid);
        EXPECT_NEAR(all.low.z, -3.3, 1e-6) << form;
        const Box3 body = boxOf(solid, 0);
        EXPECT_NEAR(body.low.z, 0.6, 1e-6) << form;
        EXPECT_EQ(solid.bodies.front().name, "housing");
        EXPECT_NEAR(body.high.z, 7.6, 1e-6) << form;
        if (!round) {
            EXPECT_NEAR(body.size().y, form == "dual in-line" ? 5 : 8, 1e-6) << form;
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Packages, EveryPackage,
                         testing::Values("dual in-line", "single in-line", "radial leads", "pin header", "socket strip",
                                         "terminal block", "round can"),
                         [](const auto& of) {
                             std::string name = of.param;
                             std::replace_if(
                                 name.begin(), name.end(), [](char c) { return !std::isalnum(c); }, '_');
                             return name;
                         });

TEST(PackageBodies, AnAxialOneLiesBetweenItsTwoLeads) {
    Part part = withPackage("QB-TB4", {{"package", "axial leads"},
                                       {"pins", "1 2"},
                                       {"length", "2.2"},
                                       {"width", "1.8"},
                                       {"height", "1.8"},
                                       {"standoff", "0.5"},
                                       {"leadWidth", "0.6"},
                                       {"leadLength", "3"}});
    const Footprint f = derive(part);
    ASSERT_EQ(f.laid.back().wrong, "");
    const Solid solid = made(part, f);
    const Box3 body = boxOf(solid, 0);
    EXPECT_NEAR(body.size().x, 2.2, 1e-6);
    EXPECT_NEAR(body.low.z, 0.5, 0.01);
    EXPECT_NEAR(body.high.z, 2.3, 0.01);
    const Point a = f.pad("p1")->at, b = f.pad("p2")->at;
    EXPECT_NEAR((body.low.x + body.high.x) / 2, (a.x + b.x).mm() / 2, 1e-6);
    part.marks.back().set["pins"] = "1 2 3";
    EXPECT_EQ(derive(part).laid.back().wrong, "axial leads are two");
}

TEST(PackageBodies, TakeTheirRoomAndFollowTheirPins) {
    Part part = withPackage("QB-TB4", {{"package", "single in-line"}, {"length", "40"}, {"width", "8"}});
    const Footprint f = derive(part);
    const Shape& room = f.keepouts.back();
    EXPECT_TRUE(room.keeps.piece);
    EXPECT_NEAR(room.box().width().mm(), 40, 1e-3);
    EXPECT_GE(f.courtyard.width().mm(), 41) << "the courtyard holds it";
    Rect around;
    for (const Pad& p : f.pads) around.add(p.at);
    EXPECT_NEAR(room.box().middle().x.mm(), around.middle().x.mm(), 1e-6);
    EXPECT_EQ(derive(withPackage("QB-TB4", {{"height", "0"}})).laid.back().wrong, "it has no height");
    EXPECT_NE(derive(withPackage("QB-TB4", {{"pins", "77"}})).laid.back().wrong, "");
}

TEST(PackageBodies, LeadsThatNobodyTypedAreAsTheyWereRead) {
    const Part part =
        withPackage("QB-TB4", {{"package", "single in-line"}, {"length", "21"}, {"width", "8"}, {"standoff", "0.4"}});
    const Footprint f = derive(part);
    const Solid solid = made(part, f);
    const Standing s = standing(solid, {0, 0, -1});
    ASSERT_EQ(s.leads.size(), f.pads.size());
    const Pad& pad = f.pads.front();
    EXPECT_NEAR(s.leads.front().section.along, std::max(pad.leadX, pad.leadY).mm(), 1e-3);
    EXPECT_NEAR(s.leads.front().section.across, std::min(pad.leadX, pad.leadY).mm(), 1e-3);
    const LeadFit* fit = f.leadOf(part, pad.id);
    ASSERT_NE(fit, nullptr);
    EXPECT_NEAR(boundsOf(solid).low.z, -(fit->length.mm() - 0.4), 1e-4);
    // Without readings of them there is nothing to make.
    Part bare = part;
    std::erase_if(bare.readings, [](const Reading& r) { return r.id == "r19"; });
    EXPECT_TRUE(markedBodies(bare, derive(bare)).empty());
}

TEST(PackageBodies, ShortLeadsAreNotBentSharperThanTheyAreThick) {
    const MadeBody bent = formedLead("a", {{0, 0, -3}, {0, 0, 2}, {4, 0, 2}}, 0.5, 0.6, 0.4, false);
    EXPECT_TRUE(std::holds_alternative<Swept>(bent.form));
    EXPECT_GE(std::get<Swept>(formedLead("a", {{0, 0, -3}, {0, 0, 2}, {4, 0, 2}}, 0, 0.6, 0.4, false).form).bend, 0.2);
    const MadeBody block = formedLead("a", {{0, 0, -3}, {0, 0, 2}, {0.1, 0, 2}}, 0.5, 0.6, 0.4, false);
    ASSERT_TRUE(std::holds_alternative<Prism>(block.form));
    EXPECT_NEAR(std::get<Prism>(block.form).low, -3, 1e-9);
}

struct Surface {
    const char* package;
    int terminals;
};
class EverySurfacePackage : public testing::TestWithParam<Surface> {};

TEST_P(EverySurfacePackage, ItsTerminalsStandOnItsLands) {
    const auto [package, terminals] = GetParam();
    Part part = test::demoPart();
    part.solids.clear();
    Mark m = newMark(MarkKind::SurfaceLands);
    m.name = "driver";
    m.points = {{{kDatumFeature, HoldAt::Middle, "30"}, {kDatumFeature, HoldAt::Middle, "5"}}};
    const bool chip = std::string(package) == "chip";
    m.set = {{"package", package},
             {"overall", chip ? "3.1..3.3" : "8.8..9.2"},
             {"terminal", chip ? "0.4..0.6" : "0.8..1.2"},
             {"width", chip ? "1.5..1.7" : "0.35..0.45"},
             {"pitch", "0.8"},
             {"count", "6"},
             {"body", "made"},
             {"bodyLength", "6.4"},
             {"bodyWidth", "6.4"},
             {"bodyHeight", "1.6"},
             {"bodyStandoff", "0.1"},
             {"leadThick", "0.15"},
             {"turn", "30"}};
    part = withMark(part, m);
    const Footprint f = derive(part);
    ASSERT_EQ(f.laid.back().wrong, "");
    const Solid solid = made(part, f);
    std::vector<const Conductor*> lands;
    for (const Conductor& c : f.attached.lands)
        if (c.id.starts_with(part.marks.back().id + "/")) lands.push_back(&c);
    ASSERT_EQ(static_cast<int>(lands.size()), terminals);
    int found = 0;
    const Point middle = f.laid.back().points.front();
    for (std::size_t b = 0; b < solid.bodies.size(); ++b) {
        EXPECT_GT(solid.bodies[b].volume, 0) << package << " " << solid.bodies[b].name;
        if (!solid.bodies[b].name.starts_with("terminal ")) continue;
        ++found;
        const std::string number = solid.bodies[b].name.substr(9);
        const auto land =
            std::find_if(lands.begin(), lands.end(), [&](const Conductor* c) { return c->number == number; });
        ASSERT_NE(land, lands.end()) << number;
        // Every corner of it that stands on the board stands on the land of its number.
        const RoundedPolygon copper = copperShape((*land)->top);
        double low = 1e9;
        for (const SolidFace& face : solid.faces)
            if (face.body == static_cast<int>(b))
                for (int i = face.first; i < face.first + face.count; ++i)
                    for (const int c : {solid.triangles[static_cast<std::size_t>(i)].a,
                                        solid.triangles[static_cast<std::size_t>(i)].b}) {
                        const Vec3 p = solid.corners[static_cast<std::size_t>(c)];
                        low = std::min(low, p.z);
                        if (p.z > 0.001) continue;
                        // What runs on from its terminal to its body stands beside the land.
                        if (std::string(package) == "flat lead, two sides" &&
                            std::abs((p.x - middle.x.mm()) * std::cos(kPi / 6) +
                                     (p.y - middle.y.mm()) * std::sin(kPi / 6)) < 4.5 - 1.01)
                            continue;
                        EXPECT_LT(
                            gap(copper, RoundedPolygon::disc({Length::fromMm(p.x), Length::fromMm(p.y)}, Length()))
                                .mm(),
                            0.02)
                            << package << " " << number << " at " << p.x << ", " << p.y;
                    }
        EXPECT_NEAR(low, 0, 1e-6) << package << " " << number;
    }
    EXPECT_EQ(found, terminals);
    EXPECT_NEAR(boundsOf(solid).high.z, 1.6, 0.03) << package;
}

INSTANTIATE_TEST_SUITE_P(Packages, EverySurfacePackage,
                         testing::Values(Surface{"chip", 2}, Surface{"gull wing, two sides", 12},
                                         Surface{"gull wing, four sides", 24}, Surface{"J lead, two sides", 12},
                                         Surface{"J lead, four sides", 24}, Surface{"flat lead, two sides", 12},
                                         Surface{"no-lead, two sides", 12}, Surface{"no-lead, four sides", 24},
                                         Surface{"half holes, two sides", 12}, Surface{"half holes, four sides", 24}),
                         [](const auto& of) {
                             std::string name = of.param.package;
                             std::replace_if(
                                 name.begin(), name.end(), [](char c) { return !std::isalnum(c); }, '_');
                             return name;
                         });

TEST(Profiles, AreReadAsTyped) {
    const auto good = turnedProfile("3 0, 3 2.5,1.5 4");
    ASSERT_TRUE(good) << good.error().text();
    EXPECT_EQ(*good, (std::vector<ProfileCorner>{{3, 0}, {3, 2.5}, {1.5, 4}}));
    for (const char* bad : {"", "3", "3 0", "3 0, 3 0", "3 2, 3 1", "-1 0, 1 2", "a b, 1 2", "3 0 1, 2 2", "0 0, 0 5",
                            "3 0, 3 1e9", "3 0,, 3 1", "nan 0, 1 1"})
        EXPECT_FALSE(turnedProfile(bad)) << bad;
}

}  // namespace
}  // namespace punch::package_bodies_test
