// Families: members with other ways follow from one set of readings.

#include <gtest/gtest.h>

#include <filesystem>
#include <nlohmann/json.hpp>
#include <random>
#include <set>

#include "core/derive.h"
#include "core/family/family.h"
#include "core/measure/adjust.h"
#include "core/part/names.h"
#include "core/part/numbering.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::family_test {
namespace {

Part terminal() {
    Part part = test::demoPart();
    part.family.names = "QB-TB{ways}";
    part.family.from = 2;
    part.family.to = 24;
    return part;
}

MemberPart member(const Part& part, int ways) {
    FamilyMember m;
    m.ways = ways;
    m.name = "member";
    auto made = asMember(part, m);
    EXPECT_TRUE(made) << (made ? "" : made.error().text());
    return made ? std::move(*made) : MemberPart{};
}

double mm(Length l) { return l.mm(); }

TEST(Family, MembersAreNamedByTheRule) {
    Part part = terminal();
    part.family.step = 2;
    const auto members = familyMembers(part);
    ASSERT_EQ(members.size(), 12U);
    EXPECT_EQ(members.front().name, "QB-TB2");
    EXPECT_EQ(members.back().name, "QB-TB24");
    EXPECT_TRUE(familyTroubles(part).empty());
    part.family.names = "QB-TB";
    EXPECT_EQ(familyTroubles(part).size(), 1U);
    part.family.names.clear();
    EXPECT_TRUE(familyMembers(part).empty());
    EXPECT_FALSE(memberNamed(part, "QB-TB8"));
}

TEST(Family, GrowsByWholePitchesWithThePitchsDoubt) {
    const Part part = terminal();
    const Footprint four = derive(part);
    const double pitch = mm(four.parameter("pitch")->value);
    for (const int ways : {2, 3, 5, 8, 24}) {
        const MemberPart made = member(part, ways);
        const Footprint f = derive(made.part);
        ASSERT_EQ(f.pads.size(), static_cast<std::size_t>(ways));
        // The readings say the same as of the part that was measured.
        ASSERT_EQ(f.readings.size(), four.readings.size());
        for (std::size_t i = 0; i < f.readings.size(); ++i) EXPECT_EQ(f.readings[i].state, four.readings[i].state) << i;
        EXPECT_NEAR(mm(f.parameter("pitch")->value), pitch, 1e-6);
        EXPECT_NEAR(mm(*f.parameter("pitch")->doubt), mm(*four.parameter("pitch")->doubt), 1e-6);
        for (int i = 0; i + 1 < ways; ++i)
            EXPECT_NEAR(mm(f.pads[static_cast<std::size_t>(i + 1)].at.x - f.pads[static_cast<std::size_t>(i)].at.x),
                        pitch, 2e-6);
        for (int i = 0; i < ways; ++i) EXPECT_EQ(f.pads[static_cast<std::size_t>(i)].number, std::to_string(i + 1));
        // The body grows with the pattern, and keeps its distance from both ends.
        EXPECT_NEAR(mm(f.body->rect.width()), mm(four.body->rect.width()) + (ways - 4) * pitch, 2e-6);
        EXPECT_NEAR(mm(f.pads.front().at.x - f.body->rect.left), mm(four.pads.front().at.x - four.body->rect.left),
                    2e-6);
        EXPECT_NEAR(mm(f.body->rect.right - f.pads.back().at.x), mm(four.body->rect.right - four.pads.back().at.x),
                    2e-6);
        EXPECT_NEAR(mm(f.body->rect.height()), mm(four.body->rect.height()), 1e-6);
        EXPECT_EQ(f.pads.front().hole, four.pads.front().hole);
    }
    // The doubt of a pitch adds up along the row: a place i pitches from the middle has i times that of a pitch.
    const Footprint long_ = derive(member(part, 24).part);
    const double u = mm(*four.parameter("pitch")->doubt);
    EXPECT_NEAR(mm(*long_.pads.back().doubt.x), 11.5 * u, 0.02 * 11.5 * u);
}

TEST(Family, EndsStayWhoTheyAre) {
    Part part = terminal();
    const MemberPart eight = member(part, 8), two = member(part, 2);
    EXPECT_EQ(eight.part.formations[0].pins.front(), "p1");
    EXPECT_EQ(eight.part.formations[0].pins.back(), "p4");
    EXPECT_EQ((std::vector<FeatureId>{"p1", "p4"}), two.part.formations[0].pins);
    // The same ways are the part itself, under its name.
    MemberPart same = member(part, 4);
    same.part.name = part.name;
    same.part.family = part.family;
    EXPECT_EQ(same.part, part);
}

TEST(Family, AddedWaysCarryTheVoltageThatAsksMost) {
    const Part part = terminal();
    ASSERT_GE(part.potentials.size(), 2U);
    const MemberPart made = member(part, 9);
    std::map<FeatureId, std::string> of;
    for (const Potential& p : made.part.potentials)
        for (const FeatureId& id : p.pins) of[id] = p.name;
    std::string last;
    for (const FeatureId& id : made.part.formations[0].pins) {
        if (std::find(part.formations[0].pins.begin(), part.formations[0].pins.end(), id) !=
            part.formations[0].pins.end())
            continue;
        ASSERT_FALSE(of[id].empty()) << id;
        EXPECT_NE(of[id], last);
        last = of[id];
    }
    EXPECT_FALSE(made.notes.empty());
    EXPECT_NE(derive(made.part).gauge("voltage")->state, GaugeState::Unknown);
}

TEST(Family, ACorrectionReachesEveryMember) {
    Part part = terminal();
    part.taken.clear();
    const double before = mm(derive(member(part, 12).part).pads.back().at.x);
    for (Reading& r : part.readings)
        if (r.id == "r6")
            for (RawValue& v : r.raw) v.value = v.value + Length::fromMm(0.06);
    for (Reading& r : part.readings)
        if (r.id == "r9")
            for (RawValue& v : r.raw) v.value = v.value + Length::fromMm(0.02);
    EXPECT_GT(mm(derive(member(part, 12).part).pads.back().at.x), before + 0.05);
}

TEST(Family, WhatStandsInTheMiddleStaysThere) {
    Part part = test::bareRow(5);
    part.given["pitch"] = {"2.54", Unit::Mm};
    part.formations[0].lead = LeadShape::Round;
    part = withSpot(part, SpotKind::Peg);
    part = withSpot(part, SpotKind::Peg);
    part = withSpot(part, SpotKind::Peg);
    const auto place = [&](std::size_t i, const char* x) {
        part.given[part.spots[i].id + ".x"] = {x, Unit::Mm};
        part.given[part.spots[i].id + ".y"] = {"-3", Unit::Mm};
    };
    place(0, "0");
    place(1, "5.08");
    place(2, "10.16");
    const auto follows = familyFollows(part);
    EXPECT_EQ(follows.at(part.spots[0].id), FamilyFollow::Left);
    EXPECT_EQ(follows.at(part.spots[1].id), FamilyFollow::Middle);
    EXPECT_EQ(follows.at(part.spots[2].id), FamilyFollow::Right);
    part.datum.kind = DatumKind::PinOne;
    const Footprint f = derive(member(part, 9).part);
    EXPECT_NEAR(mm(f.bareHole(part.spots[0].id)->at.x), 0, 1e-6);
    EXPECT_NEAR(mm(f.bareHole(part.spots[1].id)->at.x), 5.08 + 2 * 2.54, 1e-6);
    EXPECT_NEAR(mm(f.bareHole(part.spots[2].id)->at.x), 10.16 + 4 * 2.54, 1e-6);
    // As the user says.
    part.family.follows[part.spots[2].id] = FamilyFollow::Left;
    EXPECT_NEAR(mm(derive(member(part, 9).part).bareHole(part.spots[2].id)->at.x), 10.16, 1e-6);
}

TEST(Family, ColumnsOfALetterTableAreMembers) {
    auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/PW-VS11.punch");
    ASSERT_TRUE(part);
    part->family.columns = true;
    part->family.names = "PW-VS {column}";
    const auto members = familyMembers(*part);
    ASSERT_EQ(members.size(), 2U);
    EXPECT_EQ(members[0].name, "PW-VS 8 way");
    EXPECT_EQ(members[0].ways, 8);
    const auto made = memberNamed(*part, "PW-VS 8 way");
    ASSERT_TRUE(made) << made.error().text();
    const Footprint f = derive(made->part), eleven = derive(*part);
    ASSERT_EQ(f.pads.size(), 8U);
    // By the drawing's column: B 0.600 in over the front row, F 31.8 long, locks A 25.44 apart.
    const auto at = [&](const FeatureId& id) { return f.place(id)->x.mm(); };
    EXPECT_NEAR(at("p6") - at("p1"), 15.24, 0.06);
    EXPECT_NEAR(f.body->rect.width().mm(), 31.8, 0.4);
    EXPECT_NEAR(std::abs(at("lock13") - at("lock12")), 25.44, 0.15);
    // 8.3 from the front row's last pin to the body's end, by a number that holds for each column.
    EXPECT_NEAR(f.body->rect.right.mm() - at("p6"), eleven.body->rect.right.mm() - eleven.place("p6")->x.mm(), 0.05);
    EXPECT_FALSE(memberNamed(*part, "PW-VS 9 way"));
}

TEST(Family, WhatCannotVaryIsRefused) {
    Part ring = *newPart({FormationKind::Ring, {6}, {}, false, false, {}, Axis::Along});
    ring.family.names = "{ways}";
    EXPECT_FALSE(familyTroubles(ring).empty());
    FamilyMember m{"x", 8, {}};
    EXPECT_FALSE(asMember(ring, m));
    Part rows = *newPart({FormationKind::TwoRows, {4, 4}, {}, false, false, {}, Axis::Along});
    m.ways = 9;
    EXPECT_FALSE(asMember(rows, m));
    m.ways = 10;
    const auto ten = asMember(rows, m);
    ASSERT_TRUE(ten);
    EXPECT_EQ(ten->part.formations[0].rows, (std::vector<int>{5, 5}));
    m.ways = 100000;
    EXPECT_FALSE(asMember(rows, m));
    Part none = newPartWithoutPins();
    none.family.names = "{ways}";
    EXPECT_FALSE(familyTroubles(none).empty());
}

TEST(Family, NumbersFollowTheirOrderOverTheMembersRows) {
    Part part = *newPart({FormationKind::TwoRows, {4, 4}, {}, false, false, {}, Axis::Along});
    part.formations[0].numbers.order = NumberOrder::Around;
    const MemberPart made = member(part, 12);
    const auto numbers = pinNumbers(made.part);
    // 1 to 6 along the front from the left, 7 to 12 back along the rear.
    EXPECT_EQ(numbers.at("p1"), "1");
    EXPECT_EQ(numbers.at("p4"), "6") << "the front row's right end";
    EXPECT_EQ(numbers.at("p8"), "7") << "the rear row's right end";
    EXPECT_EQ(numbers.at("p5"), "12");
    std::set<std::string> all;
    for (const auto& [id, number] : numbers) EXPECT_TRUE(all.insert(number).second) << number;
    EXPECT_EQ(all.size(), 12U);
}

TEST(Family, ATableOfPinsGrowsWhereAllAreAlike) {
    Part part = terminal();
    part.pins.clear();
    for (const char* number : {"1", "2", "3", "4"}) {
        Pin pin;
        pin.number = number;
        pin.names = {number};
        pin.kind = PinKind::Passive;
        part.pins.push_back(pin);
    }
    const MemberPart six = member(part, 6), two = member(part, 2);
    ASSERT_EQ(six.part.pins.size(), 6U);
    EXPECT_EQ(six.part.pins[4].number, "5");
    EXPECT_EQ(six.part.pins[4].kind, PinKind::Passive);
    EXPECT_EQ(six.part.pins[4].names, std::vector<std::string>{"5"});
    ASSERT_EQ(two.part.pins.size(), 2U);
    EXPECT_EQ(two.part.pins[1].number, "2");
    EXPECT_EQ(derive(six.part).gauge("pins")->state, GaugeState::Go) << derive(six.part).gauge("pins")->words;
    // Of others nobody knows what a new one does, and the gauge says so.
    part.pins[2].kind = PinKind::Supply;
    EXPECT_NE(derive(member(part, 6).part).gauge("pins")->state, GaugeState::Go);
}

TEST(Family, WhatIsSaidOfAPinThatIsGoneIsLeftOutAndNamed) {
    Part part = terminal();
    Mark text = newMark(MarkKind::Text);
    text.name = "live";
    text.points = {{{"p2", HoldAt::Middle, "", ""}, {"p2", HoldAt::Middle, "3", ""}}};
    part = withMark(part, text);
    part.overrides["p2"].shape = LandShape::Octagon;
    part.datum = {DatumKind::Feature, "p3", {}};
    const MemberPart two = member(part, 2);
    EXPECT_EQ(markById(two.part, part.marks.back().id), nullptr);
    EXPECT_FALSE(two.part.overrides.contains("p2"));
    EXPECT_EQ(two.part.datum.kind, DatumKind::MiddleOfPins);
    const auto said = [&](const std::string& what) {
        return std::any_of(two.notes.begin(), two.notes.end(),
                           [&](const std::string& n) { return n.find(what) != std::string::npos; });
    };
    EXPECT_TRUE(said("live is left out"));
    EXPECT_TRUE(said("the datum"));
    // On a longer one both are where they were.
    const MemberPart nine = member(part, 9);
    EXPECT_NE(markById(nine.part, part.marks.back().id), nullptr);
    EXPECT_EQ(nine.part.datum.feature, "p3");
}

TEST(Family, TheCommandLineDerivesAndWritesThem) {
    const std::string demo = test::sourceFolder() + "/demo/fennel-house/QB-TB4.punch";
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("family-{}", std::random_device{}());
    auto run = test::punchRun("family '" + demo + "' QB-TB3 QB-TB8 --out '" + folder.string() + "' --format csv");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_NE(run.out.find("QB-TB8"), std::string::npos);
    EXPECT_EQ(run.out.find("QB-TB5"), std::string::npos) << "only those that are named";
    EXPECT_TRUE(std::filesystem::exists(folder / "QB-TB3-coordinates.csv"));
    EXPECT_TRUE(std::filesystem::exists(folder / "QB-TB8-coordinates.csv"));
    EXPECT_EQ(test::punchRun("family '" + demo + "' QB-TB99").code, 2);
    EXPECT_EQ(test::punchRun("family '" + test::sourceFolder() + "/demo/fennel-house/HT-RM2.punch'").code, 2)
        << "it has none";
    run = test::punchRun("family '" + demo + "' --json");
    EXPECT_EQ(
        nlohmann::json::parse(run.out.substr(run.out.find('['), run.out.rfind(']') - run.out.find('[') + 1)).size(),
        11U);
    std::filesystem::remove_all(folder);
}

/// Random parts in rows: the member's parameters are the sample's, its left half stands where it did, its right half
/// further by whole pitches; and what a file keeps of it derives the same.
TEST(Family, RandomMembersKeepBothEnds) {
    std::mt19937 random(17);
    const auto pick = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    const FormationKind kinds[] = {FormationKind::Row, FormationKind::TwoRows, FormationKind::Grid,
                                   FormationKind::Staggered};
    for (int round = 0; round < 120; ++round) {
        const FormationKind kind = kinds[pick(0, 3)];
        const int rows = kind == FormationKind::Row ? 1 : kind == FormationKind::TwoRows ? 2 : pick(2, 3);
        const int columns = pick(1, 9), other = pick(1, 14);
        FormationPlan plan{kind,       std::vector<int>(static_cast<std::size_t>(rows), columns), {}, false, false, {},
                           Axis::Along};
        Part part = *newPart(plan);
        const double pitch = 2 + 0.01 * pick(0, 400);
        part.given["pitch"] = {fmt::format("{}", pitch), Unit::Mm};
        part.given["body.left"] = {"-3", Unit::Mm};
        part.given["body.right"] = {fmt::format("{}", (columns - 1) * pitch + 4), Unit::Mm};
        const MemberPart made = member(part, rows * other);
        ASSERT_EQ(allPins(made.part).size(), static_cast<std::size_t>(rows * other));
        const Adjustment a(part), b(made.part);
        const double grown = (other - columns) * pitch;
        EXPECT_NEAR(b.features().at(kRightFace).x.value(), a.features().at(kRightFace).x.value() + grown, 1e-6);
        EXPECT_NEAR(b.features().at(kLeftFace).x.value(), -3, 1e-6);
        int kept = 0;
        for (const FeatureId& id : allPins(part)) {
            if (formationOf(made.part, id) == nullptr) continue;
            ++kept;
            const double moved = b.features().at(id).x.value() - a.features().at(id).x.value();
            EXPECT_TRUE(std::abs(moved) < 1e-6 || std::abs(moved - grown) < 1e-6) << moved << " " << grown;
            EXPECT_NEAR(b.features().at(id).y.value(), a.features().at(id).y.value(), 1e-6);
        }
        EXPECT_EQ(kept, rows * std::min(columns, other));
        const auto back = fromText(toText(made.part), "member");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, made.part);
    }
}

}  // namespace
}  // namespace punch::family_test
