// punch solid as a script runs it.

#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::solid_command_test {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;
using test::Outcome;

class SolidCommand : public testing::Test {
protected:
    Outcome run(const std::string& arguments) { return test::punchRun(arguments); }
    void SetUp() override {
        folder = fs::temp_directory_path() / ("punch-solid-command-" + std::to_string(::getpid()));
        fs::remove_all(folder);
        fs::create_directories(folder);
    }
    void TearDown() override { fs::remove_all(folder); }
    std::string demo(const std::string& name) { return test::sourceFolder() + "/demo/fennel-house/" + name; }
    fs::path folder;
};

TEST_F(SolidCommand, SaysWhatStandsInAFile) {
    const Outcome o = run("solid " + demo("QB-TB4-sources/terminal.step") + " --json");
    ASSERT_EQ(o.code, 0) << o.out;
    const Json j = Json::parse(o.out);
    EXPECT_EQ(j["bodies"].size(), 6U);
    EXPECT_EQ(j["bodies"][0]["colour"], "#6E8577");
    ASSERT_FALSE(j["ways"].empty());
    EXPECT_EQ(j["ways"][0]["leads"].size(), 5U);
    EXPECT_NEAR(j["ways"][0]["down"][1].get<double>(), 1, 1e-6) << "it lies on its back";
    EXPECT_FALSE(j.contains("poses"));
    for (const Json& lead : j["ways"][0]["leads"]) EXPECT_EQ(lead["round"].get<bool>(), !lead.contains("turn"));
}

TEST_F(SolidCommand, StandsItOnAPartsHolesAndNamesWhatIsBent) {
    const Outcome o =
        run("solid " + demo("PW-RS7-sources/socket.step") + " --part " + demo("PW-RS7.punch") + " --json");
    ASSERT_EQ(o.code, 0) << o.out;
    const Json poses = Json::parse(o.out)["poses"];
    ASSERT_GE(poses.size(), 2U);
    EXPECT_TRUE(poses[0]["sure"].get<bool>());
    EXPECT_EQ(poses[0]["off"], Json::array({"4"}));
    EXPECT_TRUE(poses[1]["equivalent"].get<bool>()) << "turned by half it stands as well";
    EXPECT_EQ(poses[1]["off"], Json::array({"1"}));
    EXPECT_FALSE(poses[2]["equivalent"].get<bool>());
    // In words for people.
    const Outcome words = run("solid " + demo("PW-RS7-sources/socket.step") + " --part " + demo("PW-RS7.punch"));
    EXPECT_NE(words.out.find("off: 4"), std::string::npos) << words.out;
}

TEST_F(SolidCommand, PlacesItAndTakesItsLeads) {
    Part plain = *loadPart(demo("QB-TB4.punch"));
    plain.solids.clear();
    const std::string file = (folder / "a.punch").string();
    ASSERT_TRUE(savePart(plain, file));
    Outcome o = run("solid " + demo("QB-TB4-sources/terminal.step") + " --part " + file + " --place");
    ASSERT_EQ(o.code, 0) << o.out;
    Part part = *loadPart(file);
    ASSERT_EQ(part.solids.size(), 1U);
    EXPECT_TRUE(fs::exists(folder / part.solids.front().file));
    EXPECT_EQ(derive(part).gauge("body-leads")->state, GaugeState::Go);
    // A part of which nothing was read gets its pads from the file alone.
    const std::string fresh = (folder / "b.punch").string();
    ASSERT_TRUE(savePart(*newPart(FormationPlan{}), fresh));
    o = run("solid " + demo("QB-TB4-sources/terminal.step") + " --part " + fresh + " --take");
    ASSERT_EQ(o.code, 0) << o.out;
    part = *loadPart(fresh);
    const Footprint f = derive(part);
    ASSERT_EQ(f.pads.size(), 4U);
    for (const Pad& p : f.pads) EXPECT_TRUE(p.firm) << p.number;
    const Footprint truth = derive(plain);
    EXPECT_NEAR(distance(f.pads[0].at, f.pads[3].at).mm(), distance(truth.pads[0].at, truth.pads[3].at).mm(), 0.005);
    EXPECT_NE(f.gauge("body-leads")->state, GaugeState::NoGo) << f.gauge("body-leads")->words;
}

TEST_F(SolidCommand, WhatIsWrongIsAMessageAndThePartStays) {
    EXPECT_EQ(run("solid /no/such.step").code, 2);
    const std::string letter = (folder / "letter.step").string();
    std::ofstream(letter) << "Dear reader,\n";
    const Outcome o = run("solid " + letter);
    EXPECT_EQ(o.code, 2);
    EXPECT_NE(o.out.find("letter.step"), std::string::npos) << o.out;
    EXPECT_NE(o.out.find("no STEP file"), std::string::npos) << o.out;
    EXPECT_EQ(run("solid " + demo("QB-TB4-sources/terminal.step") + " --place").code, 2) << "on which part?";
    Part plain = *loadPart(demo("QB-TB4.punch"));
    const std::string file = (folder / "a.punch").string();
    ASSERT_TRUE(savePart(plain, file));
    EXPECT_EQ(run("solid " + letter + " --part " + file + " --place").code, 2);
    EXPECT_EQ(*loadPart(file), plain);
}

}  // namespace
}  // namespace punch::solid_command_test
