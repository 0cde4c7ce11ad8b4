// From STEP to pads: leads of a solid as readings, beside calipers and alone.

#include "core/advise/solid_evidence.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/advise/stand_solid.h"
#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/solid/solid_worker.h"
#include "tests/support/parts.h"
#include "tests/support/solid_parts.h"

namespace punch::solid_evidence_test {
namespace {

Part terminal() { return *loadPart(test::sourceFolder() + "/demo/fennel-house/QB-TB4.punch"); }

TEST(SolidEvidence, StandsBesideTheCalipersAndAgreesWhereTheyDo) {
    const Part part = terminal();
    const Footprint before = derive(part);
    const std::string id = part.solids.front().id;
    const auto with = withSolidLeads(part, before, id);
    ASSERT_TRUE(with) << with.error().text();
    // Two coordinates for each of four leads and the peg, the peg's diameter, a length, the body's three sizes and two
    // places.
    const std::size_t more = with->readings.size() - part.readings.size();
    EXPECT_GE(more, 5 * 2 + 1 + 1 + 3U);
    const Footprint after = derive(*with);
    for (std::size_t i = part.readings.size(); i < with->readings.size(); ++i)
        EXPECT_EQ(after.readings[i].state, ReadingState::Agrees) << i << " " << with->readings[i].id;
    EXPECT_TRUE(solidDisagreements(*with, after, id).empty());
    // The pads stay where they were, and are surer.
    for (const Pad& p : before.pads) EXPECT_LT(distance(after.pad(p.id)->at, p.at).mm(), 0.02) << p.number;
    EXPECT_LE(after.pad("p3")->doubt.fromDatum->major, before.pad("p3")->doubt.fromDatum->major);
    // Taken once more it is replaced, not doubled.
    const auto again = withSolidLeads(*with, after, id);
    ASSERT_TRUE(again);
    EXPECT_EQ(again->readings.size(), with->readings.size());
    EXPECT_EQ(again->sources.size(), with->sources.size());
}

TEST(SolidEvidence, AFileOfAnotherPartIsNamedByTheReadingsThatDisagree) {
    Part part = terminal();
    // One lead stands half a millimetre off in the file: no place of the three others explains it.
    for (SolidLeadFound& l : part.solids.front().leads)
        if (l.of == "p3") l.x += 0.25;
    // Its own stand tells it too; what counts there is taken all the same when it is but a little off.
    Footprint f = derive(part);
    const auto with = withSolidLeads(part, f, part.solids.front().id);
    ASSERT_TRUE(with);
    const std::size_t p3 =
        static_cast<std::size_t>(std::count_if(with->readings.begin(), with->readings.end(), [](const Reading& r) {
            return r.contact == Contact::Picture && r.a == "p3";
        }));
    EXPECT_EQ(p3, 0U) << "a lead that stands off the others says nothing of its hole";
    // All of it wider by a hundredth: the leads agree with each other, and not with the calipers.
    part = terminal();
    for (SolidLeadFound& l : part.solids.front().leads) {
        l.x *= 1.02;
        l.y *= 1.02;
    }
    f = derive(part);
    const auto wider = withSolidLeads(part, f, part.solids.front().id);
    ASSERT_TRUE(wider);
    const Footprint judged = derive(*wider);
    EXPECT_FALSE(solidDisagreements(*wider, judged, part.solids.front().id).empty());
    EXPECT_NE(judged.gauge("readings")->state, GaugeState::Go);
}

/// Distances between pads are those between leads, whichever way the pattern came to lie.
void expectSamePattern(const Footprint& f, const std::vector<Flat>& leads, const std::string& what) {
    ASSERT_EQ(f.pads.size(), leads.size()) << what;
    const auto apart = [](const auto& places) {
        std::vector<double> all;
        for (std::size_t i = 0; i < places.size(); ++i)
            for (std::size_t k = i + 1; k < places.size(); ++k)
                all.push_back(std::hypot(places[i].x - places[k].x, places[i].y - places[k].y));
        std::sort(all.begin(), all.end());
        return all;
    };
    std::vector<Flat> pads;
    for (const Pad& p : f.pads) pads.push_back({p.at.x.mm(), p.at.y.mm()});
    const auto is = apart(pads), wanted = apart(leads);
    for (std::size_t i = 0; i < is.size(); ++i) EXPECT_NEAR(is[i], wanted[i], 0.01) << what;
}

TEST(SolidEvidence, AFootprintIsMadeOfAFileAlone) {
    test::Dice dice(4);
    SolidWorker worker;
    for (const auto kind : {test::BodyKind::Header, test::BodyKind::DualInLine, test::BodyKind::TerminalBlock,
                            test::BodyKind::Module, test::BodyKind::Can}) {
        test::SolidPart made = test::solidPart(kind, 6, dice);
        made.make.pose = test::anyPose(dice);
        const auto solid = worker.make(made.make);
        ASSERT_TRUE(solid);
        const std::string what = "kind " + std::to_string(static_cast<int>(kind));
        const Part fresh = *newPart(FormationPlan{});
        const StoodSolid stood = withSolid(fresh, derive(fresh), *solid, standings(*solid), "part", "x/part.step", "");
        const auto with = withSolidLeads(stood.part, derive(stood.part), stood.id);
        ASSERT_TRUE(with) << what << ": " << with.error().text();
        const Footprint f = derive(*with);
        expectSamePattern(f, made.leads, what);
        EXPECT_EQ(f.bareHoles.size(), made.pegs.size()) << what;
        for (const Pad& p : f.pads) EXPECT_TRUE(p.firm) << what << " pin " << p.number;
        // It stands on the holes that were made of it.
        ASSERT_NE(f.gauge("body-leads"), nullptr);
        const Gauge& g = *f.gauge("body-leads");
        EXPECT_TRUE(g.state != GaugeState::NoGo || g.words.ends_with("too short")) << what << ": " << g.words;
        EXPECT_TRUE(f.solids.front().without.empty()) << what;
        EXPECT_NE(f.gauge("lead-past-board")->state, GaugeState::Unknown) << what;
    }
}

TEST(SolidEvidence, WithoutLeadsItSaysSo) {
    Part part = terminal();
    EXPECT_FALSE(withSolidLeads(part, derive(part), "solid99"));
    part.solids.front().leads.clear();
    const auto none = withSolidLeads(part, derive(part), part.solids.front().id);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().what.find("no leads"), std::string::npos);
}

}  // namespace
}  // namespace punch::solid_evidence_test
