// punch as a user runs it: its exit codes, its files, its messages.

#include <gtest/gtest.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/base/atomic_file.h"
#include "demo/maker/drawing_maker.h"
#include "demo/maker/hard_picture.h"
#include "demo/maker/scan_maker.h"
#include "tests/support/cuts.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::command_line_test {
namespace {

namespace fs = std::filesystem;

using test::Outcome;
using test::punchRun;

class CommandLine : public testing::Test {
protected:
    void SetUp() override {
        std::string pattern = (fs::temp_directory_path() / "punch-cli-XXXXXX").string();
        folder = ::mkdtemp(pattern.data());
    }
    void TearDown() override { fs::remove_all(folder); }
    std::string file(const std::string& name, const Part& part) {
        EXPECT_TRUE(savePart(part, folder / name));
        return (folder / name).string();
    }
    fs::path folder;
    const std::string demo = test::sourceFolder() + "/demo/fennel-house/QB-TB4.punch";
};

TEST_F(CommandLine, DerivePrintsJson) {
    const Outcome run = punchRun("derive " + demo + " --json");
    EXPECT_EQ(run.code, 0);
    const auto json = nlohmann::json::parse(run.out);
    EXPECT_EQ(json["pads"].size(), 4u);
    EXPECT_NE(punchRun("derive " + demo).out.find("pitch as read 5.082 ± 0.009 mm"), std::string::npos);
}

TEST_F(CommandLine, CheckTellsByItsExitCode) {
    EXPECT_EQ(punchRun("check " + demo + " --trials 4000").code, 0) << "go or watch";
    Part thin = test::demoPart();
    thin.rules.ring = 0.1_mm;
    const std::string noGo = file("thin.punch", thin);
    EXPECT_EQ(punchRun("check --trials 4000 " + noGo).code, 1);
    const std::string unknown = file("new.punch", *newRow(4));
    EXPECT_EQ(punchRun("check --trials 4000 " + unknown).code, 3);
    EXPECT_EQ(punchRun("check --trials 4000 " + demo + " " + unknown + " " + noGo).code, 1);
    EXPECT_EQ(punchRun("check " + demo + " /no/such.punch").code, 2);
}

TEST_F(CommandLine, ExportWritesAllOrWhatIsNamed) {
    Outcome run = punchRun("export " + demo + " --to " + (folder / "all").string());
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "all"), fs::directory_iterator()), 26);
    run = punchRun("export " + demo + " --to " + (folder / "some").string() + " --format csv --format drill");
    EXPECT_EQ(run.code, 0);
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "some"), fs::directory_iterator()), 3);
    EXPECT_TRUE(fs::exists(folder / "some" / "QB-TB4-bare.drl"));
    run = punchRun("export " + demo + " --to " + folder.string() + " --format stone");
    EXPECT_EQ(run.code, 2);
    EXPECT_NE(run.out.find("Use gerber, drill, ipc2581, dxf, csv, json, svg, report, paper, step or symbol"), std::string::npos);
    std::ofstream(folder / "taken") << "x";
    EXPECT_EQ(punchRun("export " + demo + " --to " + (folder / "taken").string()).code, 2)
        << "a file where the folder should be";
}

TEST_F(CommandLine, FmtIsStable) {
    const std::string text =
        R"({"punchbit":1,"formations":[{"kind":"row","pins":["p1","p2"]}],"readings":[{"of":["p1","p2"],"contact":"outside","raw":["0.1in",3]}]})";
    std::ofstream(folder / "a.punch") << text;
    EXPECT_EQ(punchRun("fmt " + (folder / "a.punch").string()).code, 0);
    const std::string once = *readWhole(folder / "a.punch");
    EXPECT_EQ(punchRun("fmt " + (folder / "a.punch").string()).code, 0);
    EXPECT_EQ(*readWhole(folder / "a.punch"), once);
    EXPECT_NE(once.find("\"0.1in\""), std::string::npos);
}

TEST_F(CommandLine, UnreadableIsAMessage) {
    std::ofstream(folder / "bad.punch") << "{\"punchbit\": 1, \"readings\": [";
    for (const char* command : {"derive ", "check ", "fmt "}) {
        const Outcome run = punchRun(command + (folder / "bad.punch").string());
        EXPECT_EQ(run.code, 2);
        EXPECT_NE(run.out.find("bad.punch"), std::string::npos);
        EXPECT_NE(run.out.find("not complete JSON"), std::string::npos);
    }
    EXPECT_EQ(punchRun("").code, 2);
    EXPECT_EQ(punchRun("dance").code, 2);
    EXPECT_EQ(punchRun("--help").code, 0);
    EXPECT_EQ(*readWhole(folder / "bad.punch"), "{\"punchbit\": 1, \"readings\": [")
        << "a file that is not understood is left alone";
}

TEST_F(CommandLine, FindReadsPagesAndDxf) {
    maker::DrawingSheet sheet(100, 80);
    for (int i = 0; i < 6; ++i) sheet.circle({2.54 * i, 0}, 1.0);
    const auto write = [&](const char* name, const std::string& bytes) {
        std::ofstream(folder / name, std::ios::binary) << bytes;
        return (folder / name).string();
    };
    const std::string dxf = write("row.dxf", sheet.dxf());
    const Outcome found = punchRun("find " + dxf + " --face part --json");
    ASSERT_EQ(found.code, 0) << found.out;
    const auto json = nlohmann::json::parse(found.out);
    EXPECT_EQ(json["scale"]["from"], "drawing");
    EXPECT_EQ(json["formation"]["kind"], "row");
    EXPECT_EQ(json["formation"]["pins"], 6);
    EXPECT_NEAR(json["formation"]["pitch"]["value"].get<double>(), 2.54, 1e-6);
    EXPECT_EQ(json["features"].size(), 6U);
    // Without a unit it asks for one, and takes it.
    const std::string bare = write("bare.dxf", sheet.dxf(0, 25.4));
    const Outcome asked = punchRun("find " + bare + " --face part --json");
    EXPECT_EQ(asked.code, 2);
    EXPECT_NE(asked.out.find("--unit"), std::string::npos) << asked.out;
    const Outcome inches = punchRun("find " + bare + " --face part --json --unit inch");
    ASSERT_EQ(inches.code, 0) << inches.out;
    EXPECT_NEAR(nlohmann::json::parse(inches.out)["formation"]["pitch"]["value"].get<double>(), 2.54, 1e-6);
    EXPECT_EQ(punchRun("find " + bare + " --face part --unit ell").code, 2);
    // A page says nothing about its scale.
    const std::string pdf = write("row.pdf", sheet.pdf(40, 40));
    const Outcome page = punchRun("find " + pdf + " --face part --json");
    EXPECT_EQ(page.code, 2);
    EXPECT_NE(page.out.find("--pair"), std::string::npos) << page.out;
    const Outcome scaled = punchRun("find " + pdf + " --face part --json --dpi 600");
    ASSERT_EQ(scaled.code, 0) << scaled.out;
    const auto seen = nlohmann::json::parse(scaled.out);
    EXPECT_NEAR(seen["formation"]["pitch"]["value"].get<double>(), 2.54, 0.003);
    EXPECT_NEAR(seen["features"][0]["width"].get<double>(), 1.0, 0.02);
    const Outcome none = punchRun("find " + pdf + " --face part --page 2 --dpi 600");
    EXPECT_EQ(none.code, 2);
    EXPECT_NE(none.out.find("no page 2"), std::string::npos) << none.out;
    EXPECT_EQ(punchRun("find " + pdf + " --face part --page 0 --dpi 600").code, 2);
    EXPECT_EQ(punchRun("find " + write("x.dxf", "hello") + " --face part").code, 2);
}

TEST_F(CommandLine, FindSaysWhichScaleCountsAndRefusesWhatIsNone) {
    const auto& kinds = maker::hardKinds();
    const auto at = std::find(kinds.begin(), kinds.end(), "wrong dpi") - kinds.begin();
    const maker::HardPicture hard = maker::hardPicture(static_cast<int>(at));
    const std::string file = (folder / "hard.png").string();
    std::ofstream(file, std::ios::binary) << maker::pngBytes(hard.picture, hard.picture.dpi->x);
    const std::string call = "find " + file + " --face solder";
    const Outcome table = punchRun(call);
    ASSERT_EQ(table.code, 0) << table.out;
    EXPECT_NE(table.out.find("differs"), std::string::npos) << table.out;
    EXPECT_NE(table.out.find("the first counts"), std::string::npos) << table.out;
    // The notes go to the error stream, which is read here as well: JSON begins after them.
    const Outcome json = punchRun(call + " --json --scale-by dpi");
    const auto found = nlohmann::json::parse(json.out.substr(json.out.find('{')));
    EXPECT_EQ(found["scale"]["from"], "dpi");
    ASSERT_EQ(found["scale"]["witnesses"].size(), 2U);
    EXPECT_TRUE(found["scale"]["witnesses"][1]["differs"]);
    EXPECT_EQ(found["noted"][0]["about"], "scale");
    EXPECT_EQ(found["notes"].size(), found["noted"].size());
    EXPECT_TRUE(found["rulers"][0]["believed"]);
    EXPECT_GT(found["formation"]["sure"].get<double>(), 0.9);
    for (const char* wrong : {"--dpi 0", "--page 0", "--page 7", "--ruler 0", "--ruler 99", "--ruler x",
                              "--scale-by moon", "--square 1,2,3", "--square 0,0,9,0,9,9,0,9,-1mm,2mm"}) {
        const Outcome refused = punchRun(call + " " + wrong);
        EXPECT_NE(refused.code, 0) << wrong;
        EXPECT_FALSE(refused.out.empty()) << wrong;
    }
    EXPECT_EQ(punchRun(call + " --ruler none").code, 0);
    EXPECT_EQ(punchRun("find /dev/null --face part").code, 2);
}

TEST_F(CommandLine, DropInIsTheSameForASeedOnAnyNumberOfThreads) {
    const std::string call = "derive " + demo + " --json --trials 3000 --seed 9 --threads ";
    const auto one = nlohmann::json::parse(punchRun(call + "1").out)["dropIn"];
    const auto four = nlohmann::json::parse(punchRun(call + "4").out)["dropIn"];
    EXPECT_EQ(one, four);
    EXPECT_EQ(one["seed"], 9);
    EXPECT_EQ(one["trials"], 3000);
    EXPECT_GE(one["share"].get<double>(), one["interval"][0].get<double>());
    EXPECT_LE(one["share"].get<double>(), one["interval"][1].get<double>());
    int counted = 0;
    for (const auto& n : one["spareRoom"]["histogram"]["counts"]) counted += n.get<int>();
    EXPECT_EQ(counted, 3000);
    const auto other =
        nlohmann::json::parse(punchRun("derive " + demo + " --json --trials 3000 --seed 10").out)["dropIn"];
    EXPECT_NE(other["spareRoom"], one["spareRoom"]);
    EXPECT_EQ(punchRun("check " + demo + " --trials 0").code, 2);
    EXPECT_EQ(punchRun("check " + demo + " --seed minus").code, 2);
    EXPECT_NE(punchRun("check " + demo + " --trials 500 --seed 4").out.find("of 500 trials"), std::string::npos);
}

TEST_F(CommandLine, RoomVoltageAndCutsStandInTheJson) {
    Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/HT-RM2.punch");
    CutOut cut;
    cut.id = "cut1";
    cut.from = {Length::fromMm(1.2), Length::fromMm(4.9)};
    cut.to = {Length::fromMm(16.9), Length::fromMm(4.9)};
    cut.width = Length::fromMm(1.6);
    part = withCuts(part, {cut});
    const Outcome run = punchRun("derive " + file("slotted.punch", part) + " --json --trials 200");
    ASSERT_EQ(run.code, 0) << run.out;
    const auto json = nlohmann::json::parse(run.out);
    ASSERT_EQ(json["cutOuts"].size(), 1u);
    EXPECT_NEAR(json["cutOuts"][0]["radius"].get<double>(), 0.8, 1e-9);
    EXPECT_EQ(json["voltage"]["pairs"].size(), 24u);
    int around = 0;
    for (const auto& pair : json["voltage"]["pairs"]) {
        EXPECT_GE(pair["way"].get<double>(), pair["gap"].get<double>() - 1e-9);
        around += pair["aroundCuts"].get<bool>() ? 1 : 0;
    }
    EXPECT_GT(around, 10);
    EXPECT_EQ(json["room"].size(), 11u);
    for (const auto& room : json["room"]) EXPECT_EQ(room["leastBy"], "ring");
    EXPECT_EQ(json["pads"][8]["land"]["overridden"], true);
    EXPECT_NEAR(json["pads"][8]["land"]["plane"]["clearance"].get<double>(), 2.6 + 0.5, 1e-9);
}

}  // namespace
}  // namespace punch::command_line_test
