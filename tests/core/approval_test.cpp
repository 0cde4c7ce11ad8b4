// Draft, checked, released: by a digest over all that counts.

#include "core/approval/approval.h"

#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "core/verdicts/gauges.h"
#include "tests/support/demo_files.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::approval_test {
namespace {

const std::string kToday = "2026-11-30";

/// Every gauge that blocks is let pass, by name and with a reason.
Part allPassed(Part part) {
    const Footprint f = derive(part);
    for (const Blocking& b : standingOf(part, f).blocking) {
        auto next = withPass(part, f, b.gauge, "seen on a board", "I. Fennel", kToday);
        EXPECT_TRUE(next) << next.error().text();
        part = *next;
    }
    return part;
}

Part released(Part part) {
    part = *checkedPart(allPassed(std::move(part)), "I. Fennel", kToday);
    const auto next = releasedPart(part, derive(part), "I. Fennel", kToday, "first");
    EXPECT_TRUE(next) << next.error().text();
    return next ? *next : part;
}

TEST(Approval, TheDigestIsThatOfThePublishedFunction) {
    // SHA-256 of the text, by another program.
    Part part = test::bareRow(3);
    part.notes = "does not count";
    Part counting = part;
    counting.notes.clear();
    counting.nextId = 1;
    const std::string file = ::testing::TempDir() + "/digest.punch";
    std::ofstream(file) << toText(counting);
    const test::Outcome sum = test::run("sha256sum " + file);
    EXPECT_EQ(digestOf(part), sum.out.substr(0, 64));
}

TEST(Approval, WhatDoesNotCountLeavesTheDigest) {
    const Part part = test::demoPart();
    const std::string digest = digestOf(part);
    Part notes = part;
    notes.notes = "seen at the fair";
    notes.history.push_back({kToday, "board 3", "", {}});
    notes.nextId += 5;
    EXPECT_EQ(digestOf(notes), digest);
    Part pegs = part;
    pegs.rules.pegClearance += Length::fromMm(0.01);
    EXPECT_NE(digestOf(pegs), digest);
    Part text = part;
    text.description += ".";
    EXPECT_NE(digestOf(text), digest) << "it leaves with the files";
}

TEST(Approval, AnEditMakesADraftAndUndoingItDoesNot) {
    const Part done = released(test::demoPart());
    const Footprint f = derive(done);
    const ApprovalState state = standingOf(done, f);
    EXPECT_EQ(state.stage, Stage::Released);
    EXPECT_EQ(standingWords(state), "released, version 1");
    EXPECT_TRUE(changedSince(done, f).empty());
    Part edited = done;
    edited.rules.pegClearance += Length::fromMm(0.05);
    const Footprint g = derive(edited);
    EXPECT_EQ(standingWords(standingOf(edited, g)), "draft, changed since version 1");
    const auto changes = changedSince(edited, g);
    ASSERT_FALSE(changes.empty());
    EXPECT_NE(changes.front().find("peg"), std::string::npos) << changes.front();
    // Checked anew it is checked, and a second version has its own number and the first one's line.
    const Part checked = *checkedPart(allPassed(edited), "P. Low", kToday);
    EXPECT_EQ(standingWords(standingOf(checked, g)), "checked, changed since version 1");
    const auto second = releasedPart(checked, g, "P. Low", kToday, "pegs looser");
    ASSERT_TRUE(second) << second.error().text();
    ASSERT_EQ(second->approval.versions.size(), 2U);
    EXPECT_EQ(second->approval.versions[1].number, 2);
    EXPECT_TRUE(second->approval.versions[0].frozen.empty()) << "only the last is kept whole";
    EXPECT_EQ(second->approval.versions[1].frozen.size(), 1U);
    Part back = edited;
    back.rules.pegClearance -= Length::fromMm(0.05);
    EXPECT_EQ(standingOf(back, f).stage, Stage::Released);
}

TEST(Approval, NothingIsReleasedThatNobodyChecked) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    EXPECT_FALSE(releasedPart(part, f, "I. Fennel", kToday, ""));
    EXPECT_FALSE(checkedPart(part, "  ", kToday)) << "nobody";
    Part checked = *checkedPart(part, "I. Fennel", kToday);
    checked.value = "230 V";
    EXPECT_FALSE(releasedPart(checked, derive(checked), "I. Fennel", kToday, "")) << "checked before it was changed";
}

TEST(Approval, AGaugeBlocksUntilAPersonLetsItPassAsItStands) {
    Part part = test::demoPart();
    part.rules.fab.leastGap = Length::fromMm(9);  // no-go: copper stands nearer
    Footprint f = derive(part);
    ASSERT_EQ(f.gauge("copper-to-copper")->state, GaugeState::NoGo);
    part = *checkedPart(part, "I. Fennel", kToday);
    EXPECT_FALSE(releasedPart(part, f, "I. Fennel", kToday, ""));
    EXPECT_FALSE(withPass(part, f, "copper-to-copper", " ", "I. Fennel", kToday)) << "without a reason";
    EXPECT_FALSE(withPass(part, f, "copper-to-copper", "hand made", "", kToday)) << "without a name";
    EXPECT_FALSE(withPass(part, f, "no such gauge", "hand made", "I. Fennel", kToday));
    EXPECT_FALSE(withPass(part, f, "ring", "hand made", "I. Fennel", kToday)) << "it is go by itself";
    part = allPassed(part);
    const auto done = releasedPart(part, f, "I. Fennel", kToday, "");
    ASSERT_TRUE(done) << done.error().text();
    // It says something else now: the pass does not hold any more.
    Part worse = part;
    worse.rules.fab.leastGap = Length::fromMm(10);
    f = derive(worse);
    const ApprovalState state = standingOf(worse, f);
    const auto* blocking = findIn(state.blocking, [](const Blocking& b) { return b.gauge == "copper-to-copper"; });
    ASSERT_NE(blocking, nullptr);
    EXPECT_FALSE(blocking->letPass.empty()) << "what it said then is shown";
}

TEST(Approval, DropInIsHeldWithinWhatTrialsSwing) {
    Part part = test::demoPart();
    Footprint f = derive(part);
    Gauge* gauge = nullptr;
    for (Gauge& g : f.gauges)
        if (g.id == GaugeId::DropIn) gauge = &g;
    ASSERT_NE(gauge, nullptr);
    gauge->state = GaugeState::NoGo;
    gauge->value = 0.95;
    gauge->words = "95.0 %";
    part = *withPass(part, f, gauge->name, "few are made", "I. Fennel", kToday);
    const auto blocks = [&] {
        const auto state = standingOf(part, f);
        return findIn(state.blocking, [&](const Blocking& b) { return b.gauge == gauge->name; }) != nullptr;
    };
    EXPECT_FALSE(blocks());
    gauge->value = 0.944;
    gauge->words = "94.4 %";
    EXPECT_FALSE(blocks()) << "other trials";
    gauge->value = 0.90;
    EXPECT_TRUE(blocks()) << "another part";
}

TEST(Approval, IsKeptInTheFile) {
    const Part done = released(test::demoPart());
    const auto again = fromText(toText(done), "part");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, done);
    EXPECT_EQ(toText(*again), toText(done));
    EXPECT_EQ(standingOf(*again, derive(*again)).stage, Stage::Released);
}

TEST(Approval, EveryFileSaysVersionAndDigest) {
    Part done = released(test::demoPart());
    done = *fromText(toText(done), "part");
    const Footprint f = derive(done);
    const Stamp stamp = stampOf(done, f);
    EXPECT_EQ(stamp.revision, "1");
    std::vector<Format> all;
    for (const FormatKind& kind : formats())
        if (kind.format != Format::Paper && kind.format != Format::Step) all.push_back(kind.format);
    // At another 0, 0 it is the same version all the same.
    const Part shifted = withOrigin(done, Origin::PinOne);
    const auto files = releaseFiles(shifted, derive(shifted), all, {}, stamp);
    ASSERT_TRUE(files) << files.error().text();
    for (const NamedContent& file : *files) {
        // A PDF is packed; what it says is read in the tests of the report.
        if (file.name.ends_with("-pins.csv") || file.name.ends_with("-symbol.svg") || file.name.ends_with(".pdf"))
            continue;
        EXPECT_NE(file.content.find(done.approval.versions[0].released.digest.substr(0, 12)), std::string::npos)
            << file.name;
        const bool table = file.name.ends_with(".csv");
        EXPECT_TRUE(table || file.content.find("version 1") != std::string::npos) << file.name;
    }
}

TEST(Approval, MembersAndOtherMakesHaveNone) {
    const Part done = released(test::demoPart());
    EXPECT_EQ(fromText(toText(done.approval.versions.front().frozen.front()), "frozen")->approval, Approval{});
}

TEST(Approval, OnTheCommandLine) {
    const std::string file = ::testing::TempDir() + "/approve.punch";
    ASSERT_TRUE(savePart(test::demoPart(), file));
    EXPECT_EQ(test::punchRun("approve " + file).code, 1);
    const auto early = test::punchRun("approve " + file + " --release --by Fennel");
    EXPECT_EQ(early.code, 2);
    EXPECT_NE(early.out.find("nobody checked it"), std::string::npos) << early.out;
    const Part part = *loadPart(file);
    for (const Blocking& b : standingOf(part, derive(part)).blocking)
        EXPECT_EQ(
            test::punchRun("approve " + file + " --by Fennel --pass " + b.gauge + " --reason 'seen on a board'").code,
            1);
    const auto done =
        test::punchRun("approve " + file + " --by Fennel --check --release --note first --date 2026-11-30 --json");
    EXPECT_EQ(done.code, 0) << done.out;
    EXPECT_EQ(nlohmann::json::parse(done.out)["standing"], "released, version 1");
}

}  // namespace
}  // namespace punch::approval_test
