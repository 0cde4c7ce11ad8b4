// Pads out of files that others wrote, and parts made of them.

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <random>

#include "core/derive.h"
#include "core/foreign/csv_pads.h"
#include "core/foreign/drill_holes.h"
#include "core/foreign/gerber_pads.h"
#include "core/foreign/ipc2581_pads.h"
#include "core/foreign/take_in.h"
#include "core/library/compare.h"
#include "core/part/numbering.h"
#include "core/release/formats.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::foreign_test {
namespace {

namespace fs = std::filesystem;

TEST(Foreign, GerberOfInchesWithLeftOutZerosAndMacros) {
    // 2.4 inches, leading zeros left out; a macro of a rectangle, turned; an attribute in a comment.
    const auto read = padsFromGerber(
        "G04 #@! TF.FileFunction,Copper,L1,Top*\n%FSLAX24Y24*%\n%MOIN*%\n"
        "%AMTURNED*21,1,$1,$2,0,0,90*%\n%ADD10C,0.0600*%\n%ADD11R,0.0700X0.0500*%\n%ADD12TURNED,0.1X0.04*%\n"
        "G04 #@! TO.P,J1,1*\nD11*\nX1000Y-2000D03*\nG04 #@! TO.P,J1,2*\nG54D10*\nX2000D03*\nG04 #@! "
        "TD*\nD12*\nX3000Y0D03*\nM02*\n",
        "old.gbr");
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->pads.size(), 3U);
    EXPECT_TRUE(read->copper);
    const ForeignPad &a = read->pads[0].pad, &b = read->pads[1].pad, &c = read->pads[2].pad;
    EXPECT_NEAR(a.x, 2.54, 1e-9);
    EXPECT_NEAR(a.y, -5.08, 1e-9);
    EXPECT_NEAR(a.landX, 1.778, 1e-9);
    EXPECT_NEAR(a.landY, 1.27, 1e-9);
    EXPECT_EQ(a.shape, LandShape::Rectangle);
    EXPECT_EQ(a.number, "1");
    EXPECT_EQ(read->pads[0].component, "J1");
    // y stays where it was.
    EXPECT_NEAR(b.x, 5.08, 1e-9);
    EXPECT_NEAR(b.y, -5.08, 1e-9);
    EXPECT_EQ(b.number, "2");
    EXPECT_TRUE(c.number.empty());
    EXPECT_NEAR(c.landX, 1.016, 1e-9);
    EXPECT_NEAR(c.landY, 2.54, 1e-9);
}

TEST(Foreign, GerberTrailingZerosRegionsAndWhatIsNoPad) {
    const auto read = padsFromGerber(
        "%FSTAX33Y33*%\n%MOMM*%\n%TA.AperFunction,ViaPad*%\n%ADD10C,0.6*%\n%TA.AperFunction,ComponentPad*%\n%ADD11O,"
        "2X1*%\n%TD*%\n"
        "%LPD*%\nD10*\nX001Y001D03*\n%TO.P,U2,A1*%\nD11*\nX0015Y002D03*\nG36*\nX01Y01D02*\nX012D01*\nY013D01*\nX01D01*"
        "\nY01D01*\nG37*\n"
        "%LPC*%\nX002Y002D03*\nM02*\n",
        "new.gbr");
    ASSERT_TRUE(read) << read.error().text();
    // The via is none of a part's; 0015 with trailing zeros left out is 1.5.
    ASSERT_EQ(read->pads.size(), 2U);
    EXPECT_NEAR(read->pads[0].pad.x, 1.5, 1e-9);
    EXPECT_NEAR(read->pads[0].pad.y, 2.0, 1e-9);
    EXPECT_EQ(read->pads[0].pad.shape, LandShape::Oval);
    EXPECT_NEAR(read->pads[1].pad.x, 11, 1e-9);
    EXPECT_NEAR(read->pads[1].pad.landX, 2, 1e-9);
    EXPECT_NEAR(read->pads[1].pad.landY, 3, 1e-9);
    EXPECT_EQ(read->pads[1].pad.number, "A1");
    EXPECT_EQ(read->notes.size(), 1U);
    // What is no Gerber file says so, and no rubbish ends the program.
    for (const char* text : {"", "hello", "%FSLAX46Y46*", "%FSLAX46Y46*%%ADD10Q*%D10*X1Y1D03*M02*", "%FSLAX99Y99*%",
                             "%FSLAX46Y46*%D10*X1Y1D03*", "%FSLAX46Y46*%%ADD10C,x*%"})
        EXPECT_FALSE(padsFromGerber(text, "x")) << text;
}

TEST(Foreign, GerberTurnsMirrorsAndScalesWhatItLoads) {
    const auto read = padsFromGerber(
        "%FSLAX46Y46*%%MOMM*%%AMOFF*1,1,1.0,0.5,0*%%ADD10OFF*%%ADD11R,2X1*%%LPD*%%LR90*%D10*X0Y0D03*%LR0*%%LMX*%"
        "X10000000Y0D03*%LMN*%%LS2*%"
        "D11*X20000000Y0D03*%SRX2Y1I5J0*%X30000000Y0D03*%SR*%M02*",
        "x");
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->pads.size(), 4U);
    // A disc 0.5 right of where it is flashed, turned by 90 degrees: 0.5 above it.
    EXPECT_NEAR(read->pads[0].pad.x, 0, 1e-9);
    EXPECT_NEAR(read->pads[0].pad.y, 0.5, 1e-9);
    EXPECT_NEAR(read->pads[1].pad.x, 9.5, 1e-9);
    EXPECT_NEAR(read->pads[2].pad.landX, 4, 1e-9);
    EXPECT_NEAR(read->pads[2].pad.landY, 2, 1e-9);
    EXPECT_FALSE(read->notes.empty()) << "what is repeated is said";
}

TEST(Foreign, HolesFindTheirPadsAndComponentsAreApart) {
    const fs::path folder = fs::temp_directory_path() / fmt::format("board-{}", std::random_device{}());
    fs::create_directories(folder);
    std::ofstream(folder / "copper.gbr")
        << "%TF.FileFunction,Copper,L1,Top*%\n%FSLAX46Y46*%\n%MOMM*%\n%ADD10C,2*%\n%ADD11C,1*%\n%LPD*%\n"
           "%TO.P,J1,1*%\nD10*\nX0Y0D03*\n%TO.P,J1,2*%\nX5000000Y0D03*\n%TO.P,R7,1*%\nX20000000Y0D03*\n%TD*%\nD11*"
           "\nX30000000Y0D03*\nM02*\n";
    std::ofstream(folder / "board-plated.drl")
        << "M48\nMETRIC\nT1C1.0\n%\nT1\nX0.1Y0.0\nX5.0Y0.0\nX20.0Y0.0\nX40.0Y0.0\nM30\n";
    std::ofstream(folder / "board-npth.drl") << "M48\nMETRIC\nT1C3.0\n%\nT1\nX2.5Y4.0\nM30\n";
    const auto read = readForeign({(folder / "copper.gbr").string(), (folder / "board-plated.drl").string(),
                                   (folder / "board-npth.drl").string()});
    ASSERT_TRUE(read) << read.error().text();
    const auto named = [&](const std::string& name) {
        return std::find_if(read->patterns.begin(), read->patterns.end(),
                            [&](const ForeignPattern& p) { return p.name == name; });
    };
    const auto j1 = named("J1"), r7 = named("R7"), rest = named("copper");
    ASSERT_NE(j1, read->patterns.end());
    ASSERT_NE(r7, read->patterns.end());
    ASSERT_NE(rest, read->patterns.end());
    ASSERT_EQ(j1->pads.size(), 2U);
    EXPECT_NEAR(j1->pads[0].holeX, 0.1, 1e-9) << "off its land's middle";
    EXPECT_NEAR(j1->pads[0].hole, 1.0, 1e-9);
    // The bare hole says no component; the plated one in no land is named.
    EXPECT_EQ(rest->pads.size(), 2U);
    EXPECT_TRUE(std::any_of(rest->pads.begin(), rest->pads.end(),
                            [](const ForeignPad& p) { return !p.plated && p.hole == 3.0; }));
    EXPECT_TRUE(std::any_of(read->notes.begin(), read->notes.end(),
                            [](const std::string& n) { return n.find("1 plated holes") != std::string::npos; }));
    // The hole's middle is where the lead goes.
    EXPECT_NEAR(patternOf(*j1).pads[0].x, 0.1, 1e-9);
    EXPECT_FALSE(readForeign({(folder / "missing.gbr").string()}));
    EXPECT_FALSE(readForeign({}));
    fs::remove_all(folder);
}

TEST(Foreign, PadsWithoutCommonNumbersArePairedByWhereTheyLie) {
    PadPattern own, other;
    for (int i = 0; i < 4; ++i) own.pads.push_back({std::to_string(i + 1), 5.0 * i, 0, 1, 2, 0});
    // A quarter turned, 0.1 apart more each, and one more pad far away.
    for (int i = 0; i < 4; ++i) other.pads.push_back({fmt::format("#{}", i + 1), 40, 7 + 5.1 * i, 1, 2, 0});
    const Comparison c = compared(own, other, AlignBy::Pads);
    EXPECT_FALSE(c.byNumber);
    ASSERT_EQ(c.pads.size(), 4U);
    EXPECT_NEAR(c.worst, 0.15, 1e-6);
    EXPECT_NEAR(std::abs(c.turn), 90, 1e-6);
}

TEST(Foreign, TheCommandLineTakesComparesAndMatches) {
    const fs::path folder = fs::temp_directory_path() / fmt::format("taken-{}", std::random_device{}());
    const std::string demo = test::sourceFolder() + "/demo/fennel-house/";
    ASSERT_EQ(test::punchRun("export '" + demo + "QB-TB4.punch' --to '" + folder.string() +
                             "' --format gerber --format drill --format ipc2581")
                  .code,
              0);
    const std::string board =
        "'" + (folder / "QB-TB4-top-copper.gbr").string() + "' '" + (folder / "QB-TB4-plated.drl").string() + "'";
    auto run = test::punchRun("take " + board);
    EXPECT_EQ(run.code, 0);
    EXPECT_NE(run.out.find("X1"), std::string::npos) << run.out;
    run = test::punchRun("take " + board + " --pattern X1 --to '" + (folder / "parts").string() + "'");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_TRUE(loadPart(folder / "parts/X1.punch"));
    EXPECT_EQ(test::punchRun("take " + board + " --pattern X1 --to '" + (folder / "parts").string() + "'").code, 2)
        << "nothing is written over";
    EXPECT_EQ(test::punchRun("take " + board + " --pattern J9 --to '" + folder.string() + "'").code, 2);
    run = test::punchRun("take '" + (folder / "QB-TB4-ipc2581.xml").string() + "' --all --to '" +
                         (folder / "lands").string() + "'");
    EXPECT_EQ(run.code, 0) << run.out;
    run = test::punchRun("compare '" + demo + "QB-TB4.punch' " + board + " --json");
    EXPECT_NE(run.out.find("\"worst\""), std::string::npos) << run.out;
    run = test::punchRun("match " + board + " --in '" + demo + "'");
    EXPECT_EQ(run.code, 1) << "the board's pattern lacks the peg: " << run.out;
    run = test::punchRun("take '" + demo + "HT-RM2.punch' --all --to '" + (folder / "copies").string() + "'");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(loadPart(folder / "copies/HT-RM2.punch")->sources.at(0).state, SourceState::TakenIn);
    fs::remove_all(folder);
}

TEST(Foreign, DrillFilesOfSeveralDialects) {
    const auto modern = holesFromDrill(
        "M48\n; #@! TF.FileFunction,NonPlated,1,2,NPTH\nMETRIC\nT01C1.5000\nT2C2.0\n%\nG05\nT01\n"
        "X1.5Y-2.25\nX0.0Y0.0G85X2.0Y0.0\nT02\nG00X5.0Y5.0\nM15\nG01X5.0Y8.0\nM16\nM30\n",
        false, "a.drl");
    ASSERT_TRUE(modern) << modern.error().text();
    ASSERT_EQ(modern->holes.size(), 3U);
    EXPECT_FALSE(modern->holes[0].plated);
    EXPECT_NEAR(modern->holes[0].y, -2.25, 1e-9);
    EXPECT_NEAR(modern->holes[1].length, 3.5, 1e-9);
    EXPECT_NEAR(modern->holes[1].x, 1, 1e-9);
    EXPECT_NEAR(modern->holes[2].length, 5, 1e-9);
    EXPECT_NEAR(modern->holes[2].turn, 90, 1e-9);
    // Inches, leading zeros kept, trailing left out: 2.4 digits.
    const auto old = holesFromDrill("M48\nINCH,LZ\nT1C0.0394\n%\nT1\nX01Y-005\nX0125\nM30\n", false, "b.drl");
    ASSERT_TRUE(old) << old.error().text();
    EXPECT_NEAR(old->holes[0].x, 25.4, 1e-9);
    EXPECT_NEAR(old->holes[0].y, -12.7, 1e-9);
    EXPECT_NEAR(old->holes[1].x, 31.75, 1e-9);
    EXPECT_NEAR(old->holes[0].size, 1.00076, 1e-9);
    EXPECT_TRUE(old->holes[0].plated);
    // Trailing zeros kept, in thousandths of a millimetre.
    const auto metric = holesFromDrill("M48\nMETRIC,TZ\nT1C1\n%\nT1\nX2540Y-1270\nM30\n", true, "c.drl");
    ASSERT_TRUE(metric);
    EXPECT_NEAR(metric->holes[0].x, 2.54, 1e-9);
    EXPECT_FALSE(metric->holes[0].plated);
    EXPECT_FALSE(holesFromDrill("M48\nMETRIC\n%\nX1Y1\nM30\n", false, "d"));
    EXPECT_FALSE(holesFromDrill("T1\nX1Y1\n", false, "e"));
    EXPECT_FALSE(holesFromDrill("M48\nT1C1\n%\nT1\nX1.0Y1.0\n", false, "f"));
}

constexpr const char* kIpc2581 = R"(<?xml version="1.0"?><IPC-2581 revision="C" xmlns="http://webstds.ipc.org/2581">
<Content roleRef="Owner"><DictionaryStandard units="MILLIMETER"><EntryStandard id="C1"><Circle diameter="2.0"/></EntryStandard>
<EntryStandard id="R1"><RectCenter width="2.0" height="2.0"/></EntryStandard></DictionaryStandard></Content>
<Ecad name="x"><CadHeader units="INCH"/><CadData><Layer name="TOP" side="TOP"/><Layer name="BOT" side="BOTTOM"/>
<Step name="s"><PadStackDef name="ps"><PadstackHoleDef name="h" diameter="0.04" platingStatus="PLATED" x="0" y="0"/>
<PadstackPadDef layerRef="BOT" padUse="REGULAR"><Location x="0" y="0"/><Circle diameter="0.09"/></PadstackPadDef>
<PadstackPadDef layerRef="TOP" padUse="REGULAR"><Location x="0" y="0"/><StandardPrimitiveRef id="C1"/></PadstackPadDef></PadStackDef>
<Package name="TB2" type="OTHER"><LandPattern>
<Pad padstackDefRef="ps"><Location x="0" y="0"/><StandardPrimitiveRef id="R1"/><PinRef pin="1"/></Pad>
<Pad padstackDefRef="ps"><Xform rotation="90"/><Location x="0.2" y="0"/><PinRef pin="2"/></Pad></LandPattern></Package>
<Package name="SMALL"><LandPattern><Pad><Location x="0" y="0.1"/><RectCenter width="0.05" height="0.02"/><PinRef pin="1"/></Pad></LandPattern></Package>
<Package name="EMPTY"/></Step></CadData></Ecad></IPC-2581>)";

TEST(Foreign, LandPatternsOfIpc2581) {
    const auto read = padsFromIpc2581(kIpc2581, "x.xml");
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->patterns.size(), 2U);
    const ForeignPattern& p = read->patterns[0];
    EXPECT_EQ(p.name, "TB2");
    ASSERT_EQ(p.pads.size(), 2U);
    EXPECT_EQ(p.pads[0].shape, LandShape::Square);
    EXPECT_NEAR(p.pads[0].landX, 2.0, 1e-9);  // the dictionary is in mm
    EXPECT_NEAR(p.pads[0].hole, 1.016, 1e-9);
    EXPECT_NEAR(p.pads[1].x, 5.08, 1e-9);
    EXPECT_EQ(p.pads[1].number, "2");
    EXPECT_NEAR(p.pads[1].landX, 2.0, 1e-9);  // its padstack's, on top
    EXPECT_NEAR(read->patterns[1].pads[0].landX, 1.27, 1e-9);
    EXPECT_EQ(read->patterns[1].pads[0].hole, 0);
    for (const char* text : {"", "<a/>", "<IPC-2581/>", "<IPC-2581><Ecad>", "no xml"})
        EXPECT_FALSE(padsFromIpc2581(text, "x")) << text;
}

TEST(Foreign, TablesWithAnyHeadingAndUnit) {
    const auto mil = padsFromCsv(
        "Pad;X (mil);Y (mil);Drill (mm);Width (mil)\r\n1;100;-200;1,5;80\r\nA2;0,5in;0;1.0;80\r\nsum;;;;\r\n", "t");
    ASSERT_TRUE(mil) << mil.error().text();
    ASSERT_EQ(mil->patterns[0].pads.size(), 2U);
    EXPECT_NEAR(mil->patterns[0].pads[0].x, 2.54, 1e-9);
    EXPECT_NEAR(mil->patterns[0].pads[0].hole, 1.5, 1e-9);
    EXPECT_NEAR(mil->patterns[0].pads[0].landX, 2.032, 1e-9);
    EXPECT_NEAR(mil->patterns[0].pads[1].x, 12.7, 1e-9);
    EXPECT_EQ(mil->patterns[0].pads[1].number, "A2");
    EXPECT_EQ(mil->notes.size(), 1U);
    EXPECT_FALSE(padsFromCsv("a,b\n1,2\n", "t"));
    EXPECT_FALSE(padsFromCsv("x,y\nfoo,bar\n", "t"));
}

class Folder {
public:
    Folder() : path(fs::temp_directory_path() / fmt::format("foreign-{}", std::random_device{}())) {
        fs::create_directories(path);
    }
    ~Folder() { fs::remove_all(path); }
    std::vector<std::string> write(const std::vector<NamedContent>& files) const {
        std::vector<std::string> names;
        for (const NamedContent& c : files) {
            std::ofstream(path / c.name, std::ios::binary) << c.content;
            names.push_back((path / c.name).string());
        }
        return names;
    }
    fs::path path;
};

/// What a board of ours says is what the footprint has: through Gerber and drill, and through the table.
TEST(Foreign, OurOwnBoardComesBack) {
    const Folder folder;
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-RS7", "PW-FX24", "HT-SEL6"}) {
        const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
        ASSERT_TRUE(part);
        const Footprint f = derive(*part);
        for (const Format format : {Format::Gerber, Format::Csv}) {
            std::vector<Format> formats = {format};
            if (format == Format::Gerber) formats.push_back(Format::Drill);
            auto files = *releaseFiles(*part, f, formats);
            if (format == Format::Gerber)
                std::erase_if(files, [](const NamedContent& c) {
                    return c.name.find("-copper") == std::string::npos && c.name.find(".drl") == std::string::npos;
                });
            // In whichever order its sides come, a pad on both is one.
            auto paths = folder.write(files);
            std::size_t counts[2];
            for (std::size_t& count : counts) {
                std::reverse(paths.begin(), paths.end());
                const auto either = readForeign(paths);
                ASSERT_TRUE(either) << name << either.error().text();
                count = 0;
                for (const ForeignPattern& p : either->patterns) count += p.pads.size();
            }
            EXPECT_EQ(counts[0], counts[1]) << name;
            const auto read = readForeign(paths);
            ASSERT_TRUE(read) << name << read.error().text();
            std::map<std::string, std::pair<double, double>> there;
            for (const ForeignPattern& p : read->patterns)
                for (const PatternPad& pad : patternOf(p).pads) there[pad.number] = {pad.x, pad.y};
            for (const Pad& p : f.pads) {
                ASSERT_TRUE(there.contains(p.number)) << name << " " << p.number;
                EXPECT_NEAR(there[p.number].first, p.at.x.mm(), 1.1e-4) << name;
                EXPECT_NEAR(there[p.number].second, p.at.y.mm(), 1.1e-4) << name;
            }
        }
    }
}

TEST(TakeIn, AFootprintComesBackWithItsHolesAndLands) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "PW-RS7", "PW-FX24"}) {
        const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch");
        ASSERT_TRUE(part);
        const Footprint f = derive(*part);
        const auto taken = takenIn(foreignOf(*part, f), {"the board", "board.gbr", "2026-11-30"});
        ASSERT_TRUE(taken) << name << taken.error().text();
        const Footprint g = derive(taken->part);
        ASSERT_EQ(g.pads.size(), f.pads.size()) << name;
        const auto a = patternOf(*part, f), b = patternOf(taken->part, g);
        ASSERT_TRUE(a) << name;
        ASSERT_TRUE(b) << name << " is loose";
        const Comparison c = compared(*b, *a, AlignBy::Pads);
        EXPECT_LT(c.worst, 0.003) << name;
        for (const PadDeviation& d : c.pads) {
            EXPECT_NEAR(d.hole, d.otherHole, 1e-4) << name << " " << d.one;
            EXPECT_NEAR(d.land, d.otherLand, 1e-4) << name << " " << d.one;
        }
        EXPECT_TRUE(c.alone.empty()) << name;
        // Nothing claims to be measured: leads are not known, and each number is of the source that says so.
        EXPECT_EQ(taken->part.sources.at(0).state, SourceState::TakenIn);
        for (const Reading& r : taken->part.readings) EXPECT_EQ(r.source, taken->part.sources[0].id);
        EXPECT_NE(g.gauge("drop-in")->state, GaugeState::Go) << name;
        EXPECT_EQ(g.gauge("readings")->state, GaugeState::Watch) << name << g.gauge("readings")->words;
        const auto back = fromText(toText(taken->part), "x");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, taken->part);
    }
}

TEST(TakeIn, ReadingsConfirmItOrSpeakAgainst) {
    Part part = test::bareRow(4);
    part.formations[0].lead = LeadShape::Round;
    part.given["pitch"] = {"5.08", Unit::Mm};
    part.given["lead.width"] = {"1.0", Unit::Mm};
    auto taken = takenIn(foreignOf(part, derive(part)), {"the board", {}, {}});
    ASSERT_TRUE(taken);
    Part p = taken->part;
    p.formations[0].lead = LeadShape::Round;
    const FeatureId first = p.formations[0].pins.front(), last = p.formations[0].pins.back();
    const Part lead = test::with(p, test::reading(first, {}, Contact::Size, Axis::Along, {1.0, 1.0}));
    const Part good = test::with(lead, test::reading(first, last, Contact::Outside, Axis::Along, {16.24, 16.25}));
    EXPECT_EQ(derive(good).gauge("readings")->state, GaugeState::Go) << derive(good).gauge("readings")->words;
    const Part bad = test::with(lead, test::reading(first, last, Contact::Outside, Axis::Along, {16.00, 16.01}));
    EXPECT_NE(derive(bad).gauge("readings")->state, GaugeState::Go);
}

TEST(TakeIn, RandomPatternsAnyNumbersAnyPlaces) {
    std::mt19937 random(31);
    std::uniform_real_distribution<double> place(-12, 12), size(0.6, 2);
    for (int round = 0; round < 40; ++round) {
        ForeignPattern pattern;
        pattern.name = "random";
        const int n = 1 + round % 7;
        for (int i = 0; i < n; ++i) {
            ForeignPad p;
            p.number = fmt::format("{}{}", round % 3 == 0 ? "A" : "", i * 3 + 1);
            p.x = std::round(place(random) * 1000) / 1000;
            p.y = std::round(place(random) * 1000) / 1000;
            p.hole = std::round(size(random) * 100) / 100;
            p.landX = p.hole + 1;
            p.landY = p.landX;
            if (i % 3 == 1) {
                p.shape = LandShape::Rectangle;
                p.landY = p.landX + 0.5;
                p.turn = 30;
            }
            if (i % 4 == 3) p.plated = false;
            pattern.pads.push_back(p);
        }
        const auto taken = takenIn(pattern, {});
        ASSERT_TRUE(taken) << taken.error().text();
        const auto own = patternOf(taken->part, derive(taken->part));
        ASSERT_TRUE(own) << round;
        const Comparison c = compared(patternOf(pattern), *own, AlignBy::Pads);
        EXPECT_LT(c.worst, 0.004) << round;
        for (const PadDeviation& d : c.pads) EXPECT_NEAR(d.hole, d.otherHole, 1e-4) << round;
        std::size_t plated = 0;
        for (const ForeignPad& p : pattern.pads) plated += p.plated ? 1 : 0;
        EXPECT_EQ(allPins(taken->part).size(), plated);
        for (const ForeignPad& p : pattern.pads)
            EXPECT_TRUE(!p.plated || !pinByNumber(taken->part, p.number).empty()) << p.number;
    }
    EXPECT_FALSE(takenIn({"none", {}}, {}));
}

TEST(TakeIn, ACopyWithOrWithoutEvidence) {
    const Part part = test::demoPart();
    const auto with = copyOf(part, "QB-TB4b", true, "2026-11-30");
    ASSERT_TRUE(with);
    EXPECT_EQ(with->part.readings, part.readings);
    EXPECT_EQ(with->part.name, "QB-TB4b");
    const auto without = copyOf(part, "QB-TB4c", false, "2026-11-30");
    ASSERT_TRUE(without);
    EXPECT_NE(without->part.readings, part.readings);
    EXPECT_EQ(without->part.pins, part.pins);
    EXPECT_EQ(without->part.sources.at(0).state, SourceState::TakenIn);
}

}  // namespace
}  // namespace punch::foreign_test
