// What leaves: turned for the receiver, read again before it is written.

#include <gtest/gtest.h>

#include <array>
#include <filesystem>
#include <map>
#include <sstream>

#include "core/artwork/moved_footprint.h"
#include "core/base/atomic_file.h"
#include "core/release/file_check.h"
#include "core/release/formats.h"
#include "core/release/gerber.h"
#include "core/release/tables.h"
#include "tests/support/demo_files.h"
#include "tests/support/gerber_reader.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::handover_test {
namespace {

const std::string kDemo = test::sourceFolder() + "/demo/fennel-house/";

Part demo(const char* name) {
    const auto part = loadPart(kDemo + name + ".punch");
    EXPECT_TRUE(part) << name;
    return part ? *part : Part{};
}

TEST(Handover, PinOneStandsWhereTheLevelAsks) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "HT-SEL6", "QB-LX4"}) {
        const Part part = demo(name);
        const Footprint f = derive(part);
        for (const auto level : {ZeroOrientation::LevelA, ZeroOrientation::LevelB}) {
            const Footprint turned = turnedFor(part, f, {level, 0});
            Rect field;
            const Pad* one = nullptr;
            for (const Pad& p : turned.pads) {
                field.add(p.at);
                if (p.first) one = &p;
            }
            ASSERT_NE(one, nullptr) << name;
            // No other quarter turn brings it nearer to its corner.
            const auto off = [&](const Footprint& g) {
                Rect box;
                Point at;
                for (const Pad& p : g.pads) {
                    box.add(p.at);
                    if (p.first) at = p.at;
                }
                return distance(at, {box.left, level == ZeroOrientation::LevelA ? box.top : box.bottom}).mm();
            };
            for (int quarters = 0; quarters < 4; ++quarters)
                EXPECT_LE(off(turned), off(turnedFor(part, f, {ZeroOrientation::AsPart, quarters})) + 1e-6)
                    << name << quarters;
        }
    }
    // A row: pin 1 above, the others below it (A); pin 1 at the left, the others to its right (B).
    const Part row = demo("QB-TB4");
    const Footprint a = turnedFor(row, derive(row), {ZeroOrientation::LevelA, 0}),
                    b = turnedFor(row, derive(row), {ZeroOrientation::LevelB, 0});
    EXPECT_GT(a.pads[0].at.y, a.pads[1].at.y);
    EXPECT_LT(b.pads[0].at.x, b.pads[1].at.x);
}

TEST(Handover, FourQuarterTurnsAreNone) {
    const Part part = demo("HT-SEL6");
    Footprint f = derive(part);
    const Footprint once = turnedFor(part, f, {ZeroOrientation::AsPart, 1});
    for (std::size_t i = 0; i < f.pads.size(); ++i) {
        EXPECT_LT(abs(once.pads[i].at.x + f.pads[i].at.y).nm(), 1e-3);
        EXPECT_LT(abs(once.pads[i].at.y - f.pads[i].at.x).nm(), 1e-3);
        // What was doubtful along x is so along y.
        EXPECT_EQ(once.pads[i].doubt.x, f.pads[i].doubt.y);
    }
    EXPECT_LT(distance(pickPoint(once), {-pickPoint(f).y, pickPoint(f).x}).nm(), 1e-3);
    EXPECT_EQ(turnedFor(part, f, {ZeroOrientation::AsPart, 4}).pads[0].at, f.pads[0].at);
}

TEST(Handover, EveryFileOfEveryDemoPartIsGood) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "HT-SEL6", "PW-RS7", "QB-LX4", "FH-FID", "PW-FX24"}) {
        const Part part = withOrigin(demo(name), Origin::PinOne);
        const Footprint f = derive(part);
        for (const Turning turning : {Turning{}, Turning{ZeroOrientation::LevelA, 1}}) {
            std::vector<Format> all;
            for (const FormatKind& kind : formats())
                if (kind.format != Format::Step) all.push_back(kind.format);
            const auto files = releaseFiles(part, f, all, {}, {}, turning);
            ASSERT_TRUE(files) << name << files.error().text();
            for (const CheckedFile& c : checkedFiles(*files, turnedFor(part, f, turning)))
                EXPECT_TRUE(c.good) << name << " " << c.name << ": " << c.words;
            for (const NamedContent& c : *files)
                if (c.name.ends_with(".gbr")) {
                    const test::GerberImage image(c.content);
                    EXPECT_TRUE(image.errors.empty()) << c.name << ": " << image.errors.front();
                }
        }
    }
}

TEST(Handover, WhatIsNotWhereTheFootprintHasItIsFound) {
    const Part part = demo("HT-RM2");
    const Footprint f = derive(part);
    // The same files against a footprint whose third pad lies a micrometre aside: all that hold places say so.
    Footprint other = f;
    other.pads[2].at.x += Length::fromUm(1);
    other.pads[2].top.at.x += Length::fromUm(1);
    other.pads[2].bottom.at.x += Length::fromUm(1);
    const auto files = releaseFiles(
        part, f, {Format::Gerber, Format::Drill, Format::Ipc2581, Format::Dxf, Format::Csv, Format::Json, Format::Svg});
    ASSERT_TRUE(files);
    int held = 0;
    for (const NamedContent& file : *files) {
        const bool holds = file.name.find("-copper") != std::string::npos || file.name.ends_with("-plated.drl") ||
                           file.name.ends_with(".xml") || file.name.ends_with(".dxf") || file.name.ends_with(".csv") ||
                           file.name.ends_with(".json") || file.name.ends_with(".svg");
        EXPECT_EQ(checkedFile(file, other).good, !holds) << file.name;
        held += holds;
        // Cut off in the middle.
        NamedContent half = file;
        half.content.resize(half.content.size() / 2);
        if (holds) {
            EXPECT_FALSE(checkedFile(half, f).good) << file.name;
        }
    }
    EXPECT_EQ(held, 8);
    EXPECT_FALSE(checkedFile({"x.step", "ISO-10303-21;\n"}, f).good);
    EXPECT_FALSE(checkedFile({"x.edf", "(edif (x)"}, f).good);
    EXPECT_FALSE(checkedFile({"x.pdf", "%PDF-1.5 and nothing"}, f).good);
    EXPECT_FALSE(checkedFile({"x.html", ""}, f).good);
    EXPECT_FALSE(allGood({{"a", 1, true, ""}, {"b", 1, false, "broken"}}));
}

/// Nothing leaves that is not shown, and nothing is shown that does not leave: the sheet draws the shapes of a layer,
/// and each image holds an object for each of them, where it lies, and no other.
TEST(Handover, EachImageHoldsWhatTheSheetShowsAndNothingElse) {
    std::size_t looked = 0;
    for (const char* folder : {"", "stock/"})
        for (const auto& entry : std::filesystem::directory_iterator(kDemo + folder)) {
            if (entry.path().extension() != ".punch") continue;
            const auto part = loadPart(entry.path());
            ASSERT_TRUE(part);
            const Footprint f = derive(*part);
            const ProofBoard board = proofBoard(f);
            for (const BoardLayerKind& kind : boardLayers()) {
                if (!kind.shows) continue;
                const auto image = gerber(*part, f, board, kind.layer);
                ASSERT_TRUE(image) << entry.path();
                const test::GerberImage read(*image);
                std::size_t flashes = kind.fiducial ? board.fiducials.size() : 0, lines = 0;
                int regions = 0;
                for (const Shape& s : artwork(*part, f, *kind.shows)) {
                    ++looked;
                    if (const Line* l = s.line()) {
                        lines += l->points.size() - 1;
                        continue;
                    }
                    if (const Polygons* rings = s.polygons()) {
                        regions += static_cast<int>(withoutHoles(*rings).size());
                        continue;
                    }
                    const Point at = boundsOf(*s.rounded()).middle();
                    const bool flashed = std::any_of(read.flashes.begin(), read.flashes.end(), [&](const auto& o) {
                        return std::abs(o.x - at.x.mm()) < 0.6e-6 && std::abs(o.y - at.y.mm()) < 0.6e-6;
                    });
                    const bool standard = s.rounded()->corners.size() == 1 || flashed;
                    EXPECT_TRUE(flashed || s.rounded()->corners.size() > 1) << entry.path() << kind.fileName << s.name;
                    standard ? ++flashes : static_cast<std::size_t>(++regions);
                }
                EXPECT_EQ(read.flashes.size(), flashes) << entry.path() << " " << kind.fileName;
                EXPECT_EQ(read.lines.size(), lines) << entry.path() << " " << kind.fileName;
                EXPECT_EQ(read.regions, regions) << entry.path() << " " << kind.fileName;
            }
        }
    EXPECT_GT(looked, 1000U);
}

/// The sheet in the engine of a browser: every round hole where the footprint has it, at true scale.
TEST(Handover, ABrowserSeesTheHolesOfTheSheet) {
    if (test::run("which chromium").code != 0) GTEST_SKIP() << "there is no browser here";
    const std::string home = ::testing::TempDir() + "/browser", page = home + "/sheet.html";
    std::filesystem::create_directories(home);
    std::string body = "<html><body style='margin:0'>";
    const char* names[] = {"QB-TB4", "HT-RM2", "HT-SEL6", "PW-RS7"};
    std::vector<Footprint> footprints;
    for (const char* name : names) {
        const Part part = demo(name);
        footprints.push_back(derive(part));
        const auto svg = sheetSvg(part, footprints.back());
        ASSERT_TRUE(svg);
        body += svg->substr(svg->find("<svg")) + "<br>";
    }
    body += R"(<pre id="o"></pre><script>
const lines = [];
document.querySelectorAll("svg").forEach((svg, i) => {
  const m = svg.getScreenCTM();
  lines.push("scale " + i + " " + m.a * 25.4 / 96 + " " + m.d * 25.4 / 96);
  svg.querySelectorAll("circle").forEach(c => {
    const b = c.getBBox();
    lines.push("hole " + i + " " + (b.x + b.width / 2) + " " + -(b.y + b.height / 2) + " " + b.width);
  });
});
document.getElementById("o").textContent = lines.join("\n");
</script></body></html>)";
    ASSERT_TRUE(writeAtomically(page, body));
    const auto run = test::run("timeout 120 chromium --headless --no-sandbox --disable-gpu --user-data-dir='" + home +
                               "' --dump-dom 'file://" + page + "' 2>/dev/null");
    ASSERT_EQ(run.code, 0) << run.out;
    std::map<std::size_t, std::vector<std::array<double, 3>>> holes;
    const std::size_t from = run.out.find("<pre");
    ASSERT_NE(from, std::string::npos) << run.out.substr(0, 2000);
    std::istringstream in(run.out.substr(from, run.out.find("</pre>", from) - from));
    std::size_t scales = 0;
    for (std::string word; in >> word;) {
        std::size_t which;
        if (word.ends_with("scale")) {
            double x, y;
            in >> which >> x >> y;
            EXPECT_NEAR(x, 1, 1e-3) << names[which];
            EXPECT_NEAR(y, 1, 1e-3) << names[which];
            ++scales;
        } else if (word == "hole") {
            std::array<double, 3> h{};
            in >> which >> h[0] >> h[1] >> h[2];
            holes[which].push_back(h);
        }
    }
    ASSERT_EQ(scales, footprints.size()) << run.out.substr(0, 2000);
    for (std::size_t i = 0; i < footprints.size(); ++i) {
        const auto there = [&](Point at, Length size) {
            return std::any_of(holes[i].begin(), holes[i].end(), [&](const auto& h) {
                return std::abs(h[0] - at.x.mm()) < 2e-4 && std::abs(h[1] - at.y.mm()) < 2e-4 &&
                       std::abs(h[2] - size.mm()) < 3e-4;
            });
        };
        for (const Pad& p : footprints[i].pads)
            if (p.hole > Length() && p.slotLength <= Length()) {
                EXPECT_TRUE(there(p.at, p.hole)) << names[i] << " " << p.number;
            }
        for (const BareHole& h : footprints[i].bareHoles)
            if (!h.plated && h.slotLength <= Length()) {
                EXPECT_TRUE(there(h.at, h.size)) << names[i] << " " << h.name;
            }
    }
}

TEST(Handover, OnTheCommandLine) {
    namespace fs = std::filesystem;
    const fs::path out = fs::path(::testing::TempDir()) / "handover";
    fs::remove_all(out);
    const std::string part = kDemo + "HT-RM2.punch";
    auto run =
        test::punchRun("export " + part + " --to " + (out / "fab").string() + " --for fab --zero B --turn 90 --check");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(out / "fab"), fs::directory_iterator()), 11) << run.out;
    for (const char* wrong : {"--for nothing", "--zero C", "--turn 45", "--format gerbil"})
        EXPECT_EQ(test::punchRun("export " + part + " --to " + (out / "no").string() + " " + wrong).code, 2) << wrong;
    EXPECT_FALSE(fs::exists(out / "no"));
    run = test::punchRun("report " + part + " " + kDemo + "QB-TB4.punch --to " + (out / "reports").string() +
                         " --date 2026-11-30");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(out / "reports"), fs::directory_iterator()), 4);
    EXPECT_NE(readWhole(out / "reports/HT-RM2-report.html")->find("2026-11-30"), std::string::npos);
    EXPECT_EQ(test::punchRun("report " + part + " " + part + " --to " + (out / "twice").string()).code, 2)
        << "one name twice";
    EXPECT_FALSE(fs::exists(out / "twice"));
    EXPECT_EQ(test::punchRun("report gone.punch --to " + (out / "gone").string()).code, 2);
}

TEST(Handover, OccasionsHoldKnownFormatsOnce) {
    for (const Occasion& o : occasions()) {
        std::set<Format> seen(o.formats.begin(), o.formats.end());
        EXPECT_EQ(seen.size(), o.formats.size()) << o.name;
        EXPECT_FALSE(o.formats.empty()) << o.name;
    }
}

}  // namespace
}  // namespace punch::handover_test
