// One footprint for several makes: holes that take each of their leads.

#include <gtest/gtest.h>

#include <filesystem>
#include <random>

#include "core/advise/join_ways.h"
#include "core/derive.h"
#include "core/fit/make_fit.h"
#include "core/geometry/plane.h"
#include "core/library/makes.h"
#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "core/size/make_over.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::makes_test {
namespace {

namespace fs = std::filesystem;

double mm(Length l) { return l.mm(); }

/// A row whose every size is given: round leads of 1.00.
Part row(const std::string& name, int pins, const std::string& pitch, const std::string& lead = "1.00") {
    Part part = *newRow(pins);
    part.name = name;
    part.formations[0].lead = LeadShape::Round;
    part.given["pitch"] = {pitch, Unit::Mm};
    part.given["lead.width"] = {lead, Unit::Mm};
    part.given["lead.length"] = {"3.5", Unit::Mm};
    part.given["body.left"] = {"-3", Unit::Mm};
    part.given["body.right"] = {"20", Unit::Mm};
    part.given["body.front"] = {"-4", Unit::Mm};
    part.given["body.rear"] = {"4", Unit::Mm};
    part.given["body.height"] = {"8", Unit::Mm};
    return part;
}

Part joined(Part part, const std::vector<Part>& others) {
    for (const Part& other : others) {
        Make m;
        m.name = other.name;
        m.part = {other};
        part.makes.push_back(m);
    }
    return part;
}

RoundedPolygon disc(double x, double y, double r) {
    return {{Point{Length::fromMm(x), Length::fromMm(y)}}, Length::fromMm(r)};
}

TEST(Makes, SmallestCircleAroundDiscs) {
    const RoundedPolygon two = circleAround({disc(0, 0, 0.6), disc(0.24, 0, 0.6)});
    EXPECT_NEAR(mm(two.radius), 0.72, 1e-6);
    EXPECT_NEAR(mm(two.corners[0].x), 0.12, 1e-6);
    // One that holds the other.
    EXPECT_NEAR(mm(circleAround({disc(0, 0, 1), disc(0.2, 0, 0.5)}).radius), 1, 1e-6);
    // Three points of an equilateral triangle: its circumscribed circle, side over the root of three.
    EXPECT_NEAR(mm(circleAround({disc(0, 0, 0.5), disc(1, 0, 0.5), disc(0.5, std::sqrt(0.75), 0.5)}).radius),
                0.5 + 1 / std::sqrt(3.0), 1e-5);
    // Property: none of a fine net of middles is better, and all discs lie within.
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(-1, 1), radius(0.1, 0.8);
    for (int round = 0; round < 60; ++round) {
        std::vector<RoundedPolygon> discs;
        for (int i = 0; i < 2 + round % 6; ++i) discs.push_back(disc(place(random), place(random), radius(random)));
        const RoundedPolygon around = circleAround(discs);
        const auto reach = [&](double x, double y) {
            double most = 0;
            for (const RoundedPolygon& d : discs)
                most = std::max(most, std::hypot(mm(d.corners[0].x) - x, mm(d.corners[0].y) - y) + mm(d.radius));
            return most;
        };
        EXPECT_NEAR(reach(mm(around.corners[0].x), mm(around.corners[0].y)), mm(around.radius), 1e-4);
        for (double x = -1.5; x <= 1.5; x += 0.05)
            for (double y = -1.5; y <= 1.5; y += 0.05) EXPECT_GE(reach(x, y), mm(around.radius) - 1e-4);
    }
}

TEST(Makes, RoundHolesTakeFiveAndFivePointZeroEight) {
    const Part part = joined(row("QB-A", 4, "5.00"), {row("HT-B", 4, "5.08")});
    const Footprint f = derive(part);
    ASSERT_EQ(f.joined.size(), 4U);
    // 3 x 0.08 = 0.24 in all: 0.12 at the outer pins, 0.04 at the inner ones. Level A of the house: lead + 0.25.
    const Length clearance = f.leads[0].allowance;
    EXPECT_NEAR(mm(f.joined[0].apart), 0.12, 1e-5);
    EXPECT_NEAR(mm(f.joined[1].apart), 0.04, 1e-5);
    const double outer = 1.00 + mm(clearance) + 0.12, inner = 1.00 + mm(clearance) + 0.04;
    EXPECT_NEAR(mm(f.pads[0].hole), std::ceil(outer / 0.05 - 1e-6) * 0.05, 1e-6);
    EXPECT_NEAR(mm(f.pads[1].hole), std::ceil(inner / 0.05 - 1e-6) * 0.05, 1e-6);
    // The hole stands in the middle of both leads.
    EXPECT_NEAR(mm(f.pads[0].at.x), -7.5 - 0.06, 1e-5);
    EXPECT_NEAR(mm(f.pads[3].at.x), 7.5 + 0.06, 1e-5);
    for (const JoinedHole& j : f.joined) {
        EXPECT_EQ(j.kind, JoinKind::Round);
        EXPECT_EQ(j.over, Length());
    }
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Go) << f.gauge("makes")->words;
    EXPECT_EQ(f.dropIn.in, f.dropIn.trials);
    EXPECT_EQ(f.makeFits.at(0).dropIn.in, f.makeFits.at(0).dropIn.trials);
    // The land keeps its ring.
    EXPECT_GE(f.gauge("ring")->margin.value_or(-1), -1e-9);
}

TEST(Makes, ASlotAlongTheDifferenceWhereARoundHoleWouldBeTooLarge) {
    const Part part = joined(row("QB-A", 4, "5.00"), {row("HT-B", 4, "5.60")});
    const Footprint f = derive(part);
    // 0.90 at the outer pins: round it would be 1.00 + 0.90 and the clearance, which passes the largest.
    EXPECT_EQ(f.joined[0].kind, JoinKind::Slot) << f.joined[0].why;
    EXPECT_NEAR(mm(f.joined[0].apart), 0.90, 1e-5);
    const Pad& pad = f.pads[0];
    EXPECT_GE(mm(pad.hole), 1.00 + mm(f.leads[0].allowance) - 1e-6);
    EXPECT_GE(mm(pad.slotLength), 0.90 + mm(pad.hole) - 1e-6);
    EXPECT_LT(mm(pad.slotLength), 0.90 + mm(pad.hole) + 0.05);
    EXPECT_NEAR(pad.slotTurn.degrees(), 0, 1e-6);
    EXPECT_FALSE(f.joined[0].why.empty());
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Go) << f.gauge("makes")->words;
    EXPECT_EQ(f.makeFits[0].dropIn.in, f.makeFits[0].dropIn.trials);
}

TEST(Makes, TwoHolesInOneLandWhereNothingMillsASlot) {
    Part part = joined(row("QB-A", 3, "5.00"), {row("HT-B", 3, "7.50")});
    part.rules.fab.mills = {Length::fromMm(0.8)};
    const Footprint f = derive(part);
    EXPECT_EQ(f.joined[0].kind, JoinKind::TwoHoles) << f.joined[0].why;
    ASSERT_EQ(f.attached.lands.size(), 2U);  // the middle pins stand at one place
    const Conductor& second = f.attached.lands[0];
    EXPECT_EQ(second.number, f.pads[0].number);
    EXPECT_NEAR(mm(distance(second.at, f.pads[0].at)), 2.5, 1e-5);
    EXPECT_NEAR(mm(f.pads[0].top.width - f.pads[0].top.length), 2.5, 1e-5);
    // Around both holes there is as much ring as around the hole of one make alone.
    const Pad alone = derive(row("QB-A", 3, "5.00")).pads[0];
    EXPECT_GE(mm(f.pads[0].top.length - max(f.pads[0].hole, second.hole)), mm(alone.top.width - alone.hole) - 1e-6);
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Go) << f.gauge("makes")->words;
    EXPECT_EQ(f.gauge("copper-to-copper")->state, GaugeState::Go);
    // Both are drilled.
    const auto files = releaseFiles(part, f, {Format::Drill});
    ASSERT_TRUE(files);
    std::string drilled;
    for (const NamedContent& c : *files) drilled += c.content;
    for (const double x : {-7.5, -5.0, 0.0, 5.0, 7.5})
        EXPECT_NE(drilled.find(fmt::format("X{:.3f}", x)), std::string::npos) << x << "\n" << drilled;
}

TEST(Makes, WhereNoneIsPossibleItSaysByHowMuch) {
    Part part = joined(row("QB-A", 4, "5.00"), {row("HT-B", 4, "5.60")});
    part.rules.fab.mills = {Length::fromMm(0.8)};
    const Footprint f = derive(part);
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::NoGo);
    const JoinedHole& outer = f.joined[0];
    // 1.90 and the clearance, up to the next drill, and its tolerance, against 1.00 + 0.70.
    const double need = std::ceil((1.90 + mm(f.leads[0].allowance)) / 0.05 - 1e-6) * 0.05;
    EXPECT_NEAR(mm(outer.over), need + mm(part.rules.platedTolerance) - mm(f.leads[0].largestAllowed), 1e-6);
    EXPECT_NE(outer.why.find("mill"), std::string::npos) << outer.why;
    EXPECT_NE(outer.why.find("wall"), std::string::npos) << outer.why;
}

TEST(Makes, AnotherLeadAsksForItsOwnHole) {
    const Part part = joined(row("QB-A", 4, "5.08"), {row("HT-B", 4, "5.08", "1.20")});
    const Footprint f = derive(part), thick = derive(row("HT-B", 4, "5.08", "1.20"));
    EXPECT_EQ(f.pads[0].hole, thick.pads[0].hole);
    EXPECT_EQ(f.pads[0].top.width, thick.pads[0].top.width);
    // And a thin one limits how large it may be.
    const Part thin = joined(row("QB-A", 4, "5.08", "1.30"), {row("HT-B", 4, "5.08", "0.60")});
    const Footprint g = derive(thin);
    EXPECT_EQ(g.gauge("makes")->state, GaugeState::NoGo);
    EXPECT_NE(g.joined[0].why.find("HT-B"), std::string::npos) << g.joined[0].why;
}

TEST(Makes, AMakeThatIsNotKnownIsUnknown) {
    Part loose = row("HT-B", 4, "5.08");
    loose.given.erase("pitch");
    EXPECT_EQ(derive(joined(row("QB-A", 4, "5.00"), {loose})).gauge("makes")->state, GaugeState::Unknown);
    Part fewer = joined(row("QB-A", 3, "5.00"), {row("HT-B", 4, "5.00")});
    const Footprint f = derive(fewer);
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Unknown);
    EXPECT_NE(f.gauge("makes")->words.find("pad 4"), std::string::npos);
    Part empty = row("QB-A", 4, "5.00");
    empty.makes.push_back({"HT-B", "gone.punch", JoinBy::Leads, {}, {}});
    EXPECT_EQ(derive(empty).gauge("makes")->state, GaugeState::Unknown);
}

TEST(Makes, LaidOverByQuartersOfATurn) {
    // The same part, measured from the other end: numbered from the right.
    Part turned = row("HT-B", 4, "5.00");
    turned.formations[0].numbers.fromLeft = false;
    const Footprint f = derive(joined(row("QB-A", 4, "5.00"), {turned}));
    EXPECT_NEAR(std::abs(f.makes[0].turn.degrees()), 180, 1e-9);
    EXPECT_LT(mm(f.makes[0].apart), 1e-5);
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Go) << f.gauge("makes")->words;
    EXPECT_EQ(f.pads[0].hole, derive(row("QB-A", 4, "5.00")).pads[0].hole);
}

Part withPeg(Part part, const std::string& x, const std::string& diameter = "2.0") {
    part = withSpot(part, SpotKind::Peg);
    const std::string id = part.spots.back().id;
    part.given[id + ".x"] = {x, Unit::Mm};
    part.given[id + ".y"] = {"-6", Unit::Mm};
    part.given[id + ".diameter"] = {diameter, Unit::Mm};
    part.rules.pegClearance = Length::fromMm(0.3);
    return part;
}

TEST(Makes, PegsAtOtherPlacesGetTheirOwnHolesOrShareOne) {
    const Part a = withPeg(row("QB-A", 4, "5.00"), "2.5");
    // Far enough for a wall: two bare holes.
    Footprint f = derive(joined(a, {withPeg(row("HT-B", 4, "5.00"), "10")}));
    ASSERT_EQ(f.bareHoles.size(), 2U);
    EXPECT_TRUE(f.bareHoles[0].make.empty());
    EXPECT_EQ(f.bareHoles[1].make, "HT-B");
    EXPECT_NEAR(mm(f.bareHoles[1].at.x - f.bareHoles[0].at.x), 7.5, 1e-5);
    EXPECT_EQ(f.gauge("makes")->state, GaugeState::Go) << f.gauge("makes")->words;
    // At the same place: one.
    f = derive(joined(a, {withPeg(row("HT-B", 4, "5.00"), "2.5")}));
    ASSERT_EQ(f.bareHoles.size(), 1U);
    EXPECT_EQ(f.bareHoles[0].size, derive(a).bareHoles[0].size);
    // Half a millimetre apart: a slot, in which both stand.
    f = derive(joined(a, {withPeg(row("HT-B", 4, "5.00"), "3.0")}));
    ASSERT_EQ(f.bareHoles.size(), 1U);
    EXPECT_GT(f.bareHoles[0].slotLength, Length());
    EXPECT_EQ(f.makeFits[0].dropIn.in, f.makeFits[0].dropIn.trials);
    EXPECT_EQ(f.dropIn.in, f.dropIn.trials);
    // The same hole elsewhere lets the other's peg no longer in.
    Sized moved = f;
    moved.bareHoles[0].at.y = moved.bareHoles[0].at.y + Length::fromMm(0.75);
    EXPECT_EQ(makeFits(joined(a, {withPeg(row("HT-B", 4, "5.00"), "3.0")}), moved)[0].dropIn.in, 0);
    // One that the other does not have.
    f = derive(joined(row("QB-A", 4, "5.00"), {withPeg(row("HT-B", 4, "5.00"), "3.0")}));
    ASSERT_EQ(f.bareHoles.size(), 1U);
    EXPECT_EQ(f.bareHoles[0].make, "HT-B");
    EXPECT_EQ(f.gauge("positions")->state, derive(row("QB-A", 4, "5.00")).gauge("positions")->state);
}

TEST(Makes, TheCourtyardHoldsEveryBody) {
    Part large = row("HT-B", 4, "5.00");
    large.given["body.right"] = {"40", Unit::Mm};
    const Footprint alone = derive(row("QB-A", 4, "5.00")), both = derive(joined(row("QB-A", 4, "5.00"), {large}));
    EXPECT_NEAR(mm(both.courtyard.right - alone.courtyard.right), 20, 0.02);
}

TEST(Makes, HandsChooseAndTheLandFollows) {
    Part part = joined(row("QB-A", 4, "5.00"), {row("HT-B", 4, "5.08")});
    part.overrides["p1"].join = JoinKind::Slot;
    const Footprint f = derive(part);
    EXPECT_EQ(f.joined[0].kind, JoinKind::Slot);
    EXPECT_EQ(f.joined[1].kind, JoinKind::Round);
    EXPECT_GT(f.pads[0].slotLength, f.pads[0].hole);
    EXPECT_GT(f.pads[0].top.width, f.pads[0].top.length);
    const auto ways = joinWays(part);
    ASSERT_GE(ways.size(), 4U);
    EXPECT_LE(ways.size(), 12U);
    EXPECT_EQ(ways.front().worst, 0) << ways.front().words << ways.front().binds;
    EXPECT_TRUE(
        std::is_sorted(ways.begin(), ways.end(), [](const JoinWay& a, const JoinWay& b) { return a.worst < b.worst; }));
}

/// Random makes: whatever is chosen, every disc that a lead needs lies within its hole, or the gauge says that it is
/// too large or unknown; and each file can be written and read.
TEST(Makes, RandomJoinedHolesHoldEveryLead) {
    std::mt19937 random(23);
    const auto pick = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    int kinds[3] = {0, 0, 0};
    for (int round = 0; round < 40; ++round) {
        const int pins = pick(1, 6);
        const auto any = [&](const char* name) {
            return row(name, pins, fmt::format("{:.2f}", 5 + 0.01 * pick(0, 150)),
                       fmt::format("{:.2f}", 0.6 + 0.05 * pick(0, 12)));
        };
        std::vector<Part> others = {any("HT-B")};
        if (pick(0, 2) == 0) others.push_back(any("PW-C"));
        Part part = joined(any("QB-A"), others);
        if (pick(0, 3) == 0) part.rules.fab.mills = {Length::fromMm(0.8)};
        const Footprint f = derive(part);
        const auto back = fromText(toText(part), "joined");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, part);
        for (const JoinedHole& j : f.joined) ++kinds[static_cast<int>(j.kind)];
        for (const Pad& p : f.pads) {
            std::vector<RoundedPolygon> holes = {holeShape(p, false)};
            for (const Conductor& c : f.attached.lands)
                if (c.number == p.number) holes.push_back(holeShape(c, false));
            std::vector<RoundedPolygon> rooms;
            for (const MakeOver& m : f.makes)
                for (const MakeLead& lead : m.leads)
                    if (lead.number == p.number) rooms.insert(rooms.end(), lead.room.begin(), lead.room.end());
            rooms.push_back(RoundedPolygon::disc(p.at - p.off, f.leads[p.formation].leastHole));
            for (const RoundedPolygon& room : rooms) {
                double outside = 1e9;
                for (const RoundedPolygon& hole : holes)
                    outside = std::min(outside, gap({{room.corners.front()}, Length()}, {hole.corners, Length()}).mm() +
                                                    mm(room.radius) - mm(hole.radius));
                EXPECT_LT(outside, 2e-5) << "pad " << p.number << " round " << round;
            }
        }
        if (f.gauge("makes")->state == GaugeState::Go) {
            for (const MakeFit& m : f.makeFits) EXPECT_GE(m.dropIn.share, part.rules.dropInWanted);
        }
        EXPECT_TRUE(releaseFiles(part, f, {Format::Gerber, Format::Drill, Format::Csv, Format::Svg}));
        EXPECT_FALSE(deriveJson(part, f).empty());
    }
    EXPECT_GT(kinds[0], 10);
    EXPECT_GT(kinds[1], 10);
    EXPECT_GT(kinds[2], 3);
}

TEST(Makes, PegsInTwoHolesWhereTheyAreChosenSo) {
    Part a = withPeg(row("QB-A", 4, "5.00"), "2.5");
    a.rules.fab.leastWeb = Length::fromMm(3);  // nearer than a wall, so that they share
    a.overrides[a.spots.back().id].join = JoinKind::TwoHoles;
    const Part part = joined(a, {withPeg(row("HT-B", 4, "5.00"), "7.0")});
    Footprint f = derive(part);
    // The wall between them is less than the fab asks: two holes cannot be, and it says so.
    ASSERT_FALSE(f.joined.empty());
    const JoinedHole& peg = f.joined.back();
    EXPECT_NE(peg.why.find("wall"), std::string::npos) << peg.why;
    EXPECT_NE(peg.kind, JoinKind::TwoHoles);
}

TEST(Makes, BladesShareASlot) {
    const auto blade = [](const char* name, const char* pitch) {
        Part part = row(name, 3, pitch);
        part.formations[0].lead = LeadShape::Rectangular;
        part.given["lead.width"] = {"2.0", Unit::Mm};
        part.given["lead.thickness"] = {"0.5", Unit::Mm};
        part.overrides[part.formations[0].id].slot = true;
        return part;
    };
    const Footprint f = derive(joined(blade("QB-A", "6.0"), {blade("HT-B", "6.3")}));
    for (const JoinedHole& j : f.joined) EXPECT_EQ(j.kind, JoinKind::Slot) << j.why;
    EXPECT_GT(f.pads[0].slotLength, derive(blade("QB-A", "6.0")).pads[0].slotLength);
    EXPECT_EQ(f.makeFits.at(0).dropIn.in, f.makeFits[0].dropIn.trials);
    EXPECT_EQ(f.dropIn.in, f.dropIn.trials);
}

TEST(Makes, LaidByPinOneOrByTheirDatums) {
    Part part = joined(row("QB-A", 4, "5.00"), {row("HT-B", 4, "5.08")});
    part.makes[0].by = JoinBy::PinOne;
    Footprint f = derive(part);
    EXPECT_NEAR(mm(f.joined[0].apart), 0, 1e-6);
    EXPECT_NEAR(mm(f.joined[3].apart), 0.24, 1e-5);
    // Both datums are the middle of the pins.
    part.makes[0].by = JoinBy::Datum;
    f = derive(part);
    EXPECT_NEAR(mm(f.joined[0].apart), 0.12, 1e-5);
    EXPECT_NEAR(mm(f.joined[3].apart), 0.12, 1e-5);
}

TEST(Makes, TheCommandLineJoinsAndSaysWhatBinds) {
    const fs::path folder = fs::temp_directory_path() / fmt::format("join-{}", std::random_device{}());
    fs::create_directories(folder);
    ASSERT_TRUE(savePart(row("QB-A", 4, "5.00"), folder / "a.punch"));
    ASSERT_TRUE(savePart(row("HT-B", 4, "5.08"), folder / "b.punch"));
    ASSERT_TRUE(savePart(row("PW-C", 4, "7.50"), folder / "c.punch"));
    const auto at = [&](const char* name) { return "'" + (folder / name).string() + "'"; };
    auto run = test::punchRun("join " + at("a.punch") + " " + at("b.punch") + " --out " + at("ab.punch"));
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_NE(run.out.find("round"), std::string::npos);
    run = test::punchRun("join " + at("a.punch") + " " + at("c.punch") + " --out " + at("ac.punch") + " --json");
    EXPECT_NE(run.out.find("\"holes\""), std::string::npos) << run.out;
    EXPECT_EQ(test::punchRun("join " + at("a.punch")).code, 2) << "one make is none to join";
    EXPECT_EQ(test::punchRun("join " + at("a.punch") + " " + at("b.punch")).code, 2) << "nowhere to write it";
    // What changes in a file is said, and kept when it is wanted.
    ASSERT_TRUE(savePart(row("HT-B", 4, "5.10"), folder / "b.punch"));
    run = test::punchRun("join " + at("ab.punch") + " --follow");
    EXPECT_NE(run.out.find("changed: HT-B"), std::string::npos) << run.out;
    EXPECT_EQ(loadPart(folder / "ab.punch")->makes[0].part[0].given.at("pitch").typed, "5.10");
    fs::remove_all(folder);
}

TEST(Makes, AChangeInOneMakeFollows) {
    const fs::path folder = fs::temp_directory_path() / fmt::format("makes-{}", std::random_device{}());
    fs::create_directories(folder / "others");
    ASSERT_TRUE(savePart(row("QB-A", 4, "5.00"), folder / "QB-A.punch"));
    ASSERT_TRUE(savePart(row("HT-B", 4, "5.08"), folder / "others/HT-B.punch"));
    auto part = joinedPart({folder / "QB-A.punch", folder / "others/HT-B.punch"}, folder);
    ASSERT_TRUE(part) << part.error().text();
    EXPECT_EQ(part->copiedFrom, "QB-A.punch");
    EXPECT_EQ(part->makes[0].file, "others/HT-B.punch");
    EXPECT_TRUE(withMakesAsTheyAre(*part, folder).changed.empty());
    // Twice the same is refused, and so is one alone.
    EXPECT_FALSE(withMake(*part, folder / "others/HT-B.punch", folder));
    EXPECT_FALSE(joinedPart({folder / "QB-A.punch"}, folder));
    part->overrides["p2"].shape = LandShape::Octagon;
    // The second make's pitch, and the first one's lead.
    ASSERT_TRUE(savePart(row("HT-B", 4, "5.10"), folder / "others/HT-B.punch"));
    ASSERT_TRUE(savePart(row("QB-A", 4, "5.00", "1.10"), folder / "QB-A.punch"));
    const FollowedMakes now = withMakesAsTheyAre(*part, folder);
    EXPECT_TRUE(now.missing.empty());
    EXPECT_GE(now.changed.size(), 2U);
    const Footprint f = derive(now.part);
    EXPECT_NEAR(mm(f.joined[0].apart), 0.15, 1e-5);
    EXPECT_NEAR(mm(f.leads[0].section.across.mean), 1.10, 1e-6);
    EXPECT_EQ(now.part.overrides.at("p2").shape, LandShape::Octagon);
    EXPECT_EQ(now.part.name, part->name);
    // A file that is gone leaves what was kept of it.
    fs::remove(folder / "others/HT-B.punch");
    const FollowedMakes gone = withMakesAsTheyAre(*part, folder);
    EXPECT_EQ(gone.missing.size(), 1U);
    EXPECT_EQ(gone.part.makes[0].part, part->makes[0].part);
    fs::remove_all(folder);
}

}  // namespace
}  // namespace punch::makes_test
