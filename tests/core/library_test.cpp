// Do we have this already: patterns laid onto patterns against trying everything, a folder of parts, differences in
// words.

#include "core/library/library.h"
#include "core/library/check_report.h"
#include "core/library/compare.h"
#include "core/library/index.h"
#include "core/library/merge.h"
#include "core/library/search.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <numbers>
#include <pugixml.hpp>
#include <random>
#include <set>

#include "core/derive.h"
#include "core/library/check_report.h"
#include "core/library/compare.h"
#include "core/library/difference.h"
#include "core/library/index.h"
#include "core/library/merge.h"
#include "core/library/search.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/part/mark_kinds.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::library_test {
namespace {

namespace fs = std::filesystem;

PadPattern randomPattern(test::Dice& dice, int count) {
    PadPattern p;
    // Places on a grid of 1 mm, none twice, two kinds of pads, so that some patterns are symmetrical.
    while (static_cast<int>(p.pads.size()) < count) {
        const double x = dice.below(6), y = dice.below(4);
        const bool there =
            std::any_of(p.pads.begin(), p.pads.end(), [&](const PatternPad& q) { return q.x == x && q.y == y; });
        if (!there)
            p.pads.push_back({std::to_string(p.pads.size() + 1), x, y, dice.below(4) == 0 ? 0 : 1.0, 1.8, 0.02});
    }
    return p;
}

PadPattern laid(const PadPattern& from, double degrees, bool mirrored, double x, double y, test::Dice& dice,
                double noise) {
    PadPattern to = from;
    const double a = degrees * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    for (PatternPad& p : to.pads) {
        const double px = mirrored ? -p.x : p.x, py = p.y;
        p.x = c * px - s * py + x + dice.between(-noise, noise);
        p.y = s * px + c * py + y + dice.between(-noise, noise);
    }
    for (std::size_t i = to.pads.size(); i > 1; --i)
        std::swap(to.pads[i - 1], to.pads[static_cast<std::size_t>(dice.below(static_cast<int>(i)))]);
    return to;
}

/// Every pair of pads laid onto every pair, both ways round.
bool bruteForce(const PadPattern& one, const PadPattern& other, double within) {
    if (one.pads.size() != other.pads.size()) return false;
    const auto fits = [&](bool mirrored, double c, double s, double x, double y) {
        std::vector<bool> taken(other.pads.size(), false);
        for (const PatternPad& p : one.pads) {
            const double px = mirrored ? -p.x : p.x, qx = c * px - s * p.y + x, qy = s * px + c * p.y + y;
            bool found = false;
            for (std::size_t k = 0; k < other.pads.size() && !found; ++k) {
                const PatternPad& q = other.pads[k];
                if (taken[k] || (q.hole > 0) != (p.hole > 0) || std::hypot(q.x - qx, q.y - qy) > within) continue;
                taken[k] = found = true;
            }
            if (!found) return false;
        }
        return true;
    };
    for (const bool mirrored : {false, true})
        for (std::size_t i = 0; i < one.pads.size(); ++i) {
            const PatternPad &p = one.pads[0], &q = one.pads[i];
            if (i == 0 && one.pads.size() > 1) continue;
            const double dx = (mirrored ? -1 : 1) * (q.x - p.x), dy = q.y - p.y;
            for (const PatternPad& u : other.pads)
                for (const PatternPad& v : other.pads) {
                    if (one.pads.size() > 1 && &u == &v) continue;
                    if (std::abs(std::hypot(v.x - u.x, v.y - u.y) - std::hypot(dx, dy)) > within) continue;
                    const double angle = std::atan2(v.y - u.y, v.x - u.x) - std::atan2(dy, dx), c = std::cos(angle),
                                 s = std::sin(angle);
                    const double px = mirrored ? -p.x : p.x;
                    if (fits(mirrored, c, s, u.x - (c * px - s * p.y), u.y - (s * px + c * p.y))) return true;
                }
            // The first other pad that is far enough fixes the turn as well as any.
            if (std::hypot(dx, dy) > 0.5) break;
        }
    return false;
}

TEST(Coincide, InAThousandCasesExactlyWhatTryingEverythingFinds) {
    test::Dice dice(1707);
    int same = 0, other = 0, mirrored = 0;
    for (int round = 0; round < 1000; ++round) {
        const PadPattern one = randomPattern(dice, 1 + dice.below(9));
        const bool mirror = dice.below(2) == 0;
        PadPattern two =
            laid(one, dice.between(-180, 180), mirror, dice.between(-40, 40), dice.between(-40, 40), dice, 0.008);
        // Half of them are another part: a pad elsewhere, of the other kind, or one more.
        const int change = dice.below(6);
        auto& victim = two.pads[static_cast<std::size_t>(dice.below(static_cast<int>(two.pads.size())))];
        if (change == 0) victim.x += 0.5;
        if (change == 1) victim.hole = victim.hole > 0 ? 0 : 1;
        if (change == 2) two.pads.push_back({"x", 60, 60, 1, 1.8, 0.02});
        const auto found = coincide(one, two);
        // Noise, both doubts and what is allowed: nothing lies between 0.05 and 0.3 here.
        ASSERT_EQ(found.has_value(), bruteForce(one, two, 0.12)) << round << ", change " << change;
        if (!found) {
            ++other;
            continue;
        }
        ++same;
        mirrored += found->mirrored ? 1 : 0;
        EXPECT_LT(found->worst, 0.03);
        ASSERT_EQ(found->pairs.size(), one.pads.size());
        // What it says lays each pad onto its pair.
        const double a = found->turn * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
        for (const PadPair& pair : found->pairs) {
            const PatternPad &p = one.pads[pair.one], &q = two.pads[pair.other];
            const double px = found->mirrored ? -p.x : p.x;
            EXPECT_NEAR(std::hypot(c * px - s * p.y + found->x - q.x, s * px + c * p.y + found->y - q.y), pair.off,
                        1e-9);
        }
    }
    EXPECT_GT(same, 400);
    EXPECT_GT(other, 200);
    EXPECT_GT(mirrored, 100);
}

TEST(Coincide, SaysWhatDiffers) {
    PadPattern one;
    for (int i = 0; i < 4; ++i)
        one.pads.push_back({std::to_string(i + 1), 5.08 * i, i == 3 ? 1.0 : 0.0, 1.4, 2.4, 0.02});
    one.keepouts = {"plug"};
    PadPattern two = one;
    EXPECT_TRUE(coincide(one, two)->differs.empty());
    std::swap(two.pads[0].number, two.pads[1].number);
    for (PatternPad& p : two.pads) p.hole = 1.5;
    two.keepouts.clear();
    const auto found = coincide(one, two);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->differs,
              (std::vector<std::string>{"2 numbers differ: 1 is 2 there", "hole 1.40 is 1.50 there (4 of them)",
                                        "keepout plug is not there"}));
    // Beyond their doubts they are two parts: a pitch of 5.00 is no 5.08.
    for (PatternPad& p : two.pads) p.x *= 5.0 / 5.08;
    EXPECT_FALSE(coincide(one, two));
    EXPECT_FALSE(coincide(one, {}));
}

class LibraryFolder : public testing::Test {
protected:
    void SetUp() override {
        folder = fs::temp_directory_path() / ("punch-library-" + std::to_string(::getpid()));
        fs::remove_all(folder);
        fs::create_directories(folder / "deep");
    }
    void TearDown() override { fs::remove_all(folder); }
    void keep(const Part& part, const std::string& name) { ASSERT_TRUE(savePart(part, folder / name)); }
    fs::path folder;
};

TEST_F(LibraryFolder, FindsThePartUnderAnotherNameAndNotTheOthers) {
    Part part = test::demoPart();
    part.name = "Bought elsewhere";
    part.datum.kind = DatumKind::PinOne;
    keep(part, "deep/elsewhere.punch");
    Part other = test::demoPart();
    other.name = "5.00";
    for (Reading& r : other.readings)
        for (RawValue& v : r.raw) {
            v.value = v.value * (5.0 / 5.08);
            v.typed = std::to_string(v.value.mm());
        }
    keep(other, "other.punch");
    std::ofstream(folder / "broken.punch") << "{";
    std::ofstream(folder / "note.txt") << "no part";
    fs::create_directory_symlink(folder, folder / "circle");
    const auto library = readLibrary(folder);
    ASSERT_TRUE(library);
    ASSERT_EQ(library->size(), 3U) << "links are not followed";
    EXPECT_EQ(std::count_if(library->begin(), library->end(), [](const LibraryPart& p) { return !p.trouble.empty(); }),
              1);
    const auto pattern = patternOf(test::demoPart(), derive(test::demoPart()));
    ASSERT_TRUE(pattern);
    const auto found = matching(*library, *pattern);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found.front().name, "Bought elsewhere");
    EXPECT_NEAR(found.front().how.turn, 0, 1e-6);
    EXPECT_NEAR(found.front().how.x, 1.5 * 5.08, 0.02) << "its datum is pin 1";
    EXPECT_TRUE(matching(*library, *pattern, folder / "deep/elsewhere.punch").empty()) << "not itself";
    EXPECT_FALSE(readLibrary(folder / "nowhere"));
    // And as a script asks.
    keep(test::demoPart(), "mine.punch");
    const auto run = test::punchRun("match '" + (folder / "mine.punch").string() + "' --in '" +
                                    (folder / "deep").string() + "' --json");
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(nlohmann::json::parse(run.out)[0]["name"], "Bought elsewhere");
    EXPECT_EQ(
        test::punchRun("match '" + (folder / "other.punch").string() + "' --in '" + (folder / "deep").string() + "'")
            .code,
        1);
    EXPECT_EQ(test::punchRun("match '" + (folder / "broken.punch").string() + "' --in '" + folder.string() + "'").code,
              2);
}

TEST_F(LibraryFolder, DifferencesAreWords) {
    const Part a = test::demoPart();
    EXPECT_TRUE(differenceWords(a, derive(a), a, derive(a)).empty());
    Part b = a;
    b.value = "230 V";
    b.overrides["p1"].hole = Length::fromMm(1.7);
    b.readings.pop_back();
    const auto words = differenceWords(a, derive(a), b, derive(b));
    const auto has = [&](const std::string& start) {
        return std::any_of(words.begin(), words.end(), [&](const std::string& w) { return w.starts_with(start); });
    };
    EXPECT_TRUE(has("value “” → “230 V”"));
    EXPECT_TRUE(has("hole of 1 1.500 → 1.700")) << words.size();
    EXPECT_TRUE(has("reading "));
    keep(a, "a.punch");
    keep(b, "b.punch");
    const auto paths = " '" + (folder / "a.punch").string() + "' '";
    EXPECT_EQ(test::punchRun("diff" + paths + (folder / "a.punch").string() + "'").code, 0);
    const auto differs = test::punchRun("diff" + paths + (folder / "b.punch").string() + "'");
    EXPECT_EQ(differs.code, 1);
    EXPECT_NE(differs.out.find("hole of 1"), std::string::npos) << differs.out;
    EXPECT_EQ(test::punchRun("diff" + paths + (folder / "none.punch").string() + "'").code, 2);
}

/// A folder of its own, gone with the test.
struct Folder {
    fs::path path =
        fs::temp_directory_path() / ("punch-library-" + std::to_string(::getpid()) + "-" + std::to_string(count++));
    Folder() { fs::create_directories(path); }
    ~Folder() { fs::remove_all(path); }
    static inline int count = 0;
};

std::vector<std::string> namesOf(const std::vector<const LibraryPart*>& all) {
    std::vector<std::string> names;
    for (const LibraryPart* p : all) names.push_back(p->name);
    return names;
}

TEST(LibraryIndex, ReadsOnlyWhatChangedAndSurvivesEverything) {
    const Folder library, cache;
    const fs::path index = cache.path / "index.sqlite";
    fs::create_directories(library.path / "deep");
    Part part = test::demoPart();
    for (const char* name : {"A-1", "B-2", "C-3"}) {
        part.name = name;
        ASSERT_TRUE(savePart(part, library.path / (name[0] == 'C' ? "deep" : "") / (std::string(name) + ".punch")));
    }
    std::ofstream(library.path / "notes.txt") << "no part";
    fs::create_directory_symlink(library.path, library.path / "deep" / "round");
    const auto read = [&] { return *indexedLibrary(library.path, index); };
    const IndexedLibrary first = read();
    ASSERT_EQ(first.parts.size(), 3U);
    EXPECT_EQ(first.read, 3U);
    const IndexedLibrary again = read();
    EXPECT_EQ(again.read, 0U);
    for (std::size_t i = 0; i < 3; ++i) {
        const LibraryPart &a = first.parts[i], &b = again.parts[i];
        EXPECT_EQ(a.file, b.file);
        EXPECT_EQ(a.name, b.name);
        EXPECT_EQ(a.words, b.words);
        EXPECT_EQ(a.state, b.state);
        ASSERT_EQ(a.wrong.size(), b.wrong.size());
        for (std::size_t k = 0; k < a.wrong.size(); ++k) EXPECT_EQ(a.wrong[k].words, b.wrong[k].words);
        ASSERT_TRUE(b.pattern);
        EXPECT_EQ(coincide(*a.pattern, *b.pattern)->worst, 0) << "not a bit of it is lost";
    }
    // One changed, one broken, one gone.
    part.name = "A-1 renamed";
    part.description = "for longer";
    ASSERT_TRUE(savePart(part, library.path / "A-1.punch"));
    std::ofstream(library.path / "B-2.punch") << "{";
    fs::remove(library.path / "deep" / "C-3.punch");
    const IndexedLibrary then = read();
    EXPECT_EQ(then.read, 2U);
    ASSERT_EQ(then.parts.size(), 2U);
    EXPECT_EQ(then.parts[0].name, "A-1 renamed");
    EXPECT_NE(then.parts[1].trouble, "");
    // As long as before, and yet another.
    const auto size = fs::file_size(library.path / "A-1.punch");
    part.name = "A-2 renamed";
    ASSERT_TRUE(savePart(part, library.path / "A-1.punch"));
    ASSERT_EQ(fs::file_size(library.path / "A-1.punch"), size);
    EXPECT_EQ(read().parts[0].name, "A-2 renamed");
    // An index that is none, from another program, or half of one is begun anew.
    for (const char* content : {"", "SQLite format 3", "nonsense nonsense nonsense"}) {
        for (const char* tail : {"-wal", "-shm"}) fs::remove(index.string() + tail);
        std::ofstream(index) << content;
        EXPECT_EQ(read().parts.size(), 2U) << content;
        EXPECT_EQ(read().read, 0U) << content;
    }
    fs::resize_file(index, fs::file_size(index) / 2);
    EXPECT_EQ(read().parts.size(), 2U);
    fs::remove(index);
    EXPECT_EQ(read().read, 2U);
    EXPECT_EQ(indexedLibrary(library.path, "/proc/no/where.sqlite")->parts.size(), 2U) << "without any";
    EXPECT_FALSE(indexedLibrary(library.path / "none", index));
}

TEST(LibrarySearch, FindsByNamePinsSourcesAndNumbers) {
    const auto library = *readLibrary(test::sourceFolder() + "/demo/fennel-house");
    EXPECT_EQ(searched(library, "").size(), library.size());
    const auto four = namesOf(searched(library, "5.08 4 way"));
    EXPECT_NE(std::find(four.begin(), four.end(), "QB-TB4"), four.end());
    for (const char* other : {"PW-RS7", "PW-VS11", "PW-FX24"})
        EXPECT_EQ(std::find(four.begin(), four.end(), other), four.end()) << other;
    EXPECT_EQ(namesOf(searched(library, "qb-tb4")).front(), "QB-TB4") << "whatever its case";
    EXPECT_TRUE(searched(library, "qb-tb4 nonsense").empty());
    // Pins and sources count.
    Part part = test::demoPart();
    Pin pin;
    pin.number = "1";
    pin.names = {"FLOW_SENSE"};
    part.pins = {pin};
    Source source;
    source.title = "Drawing 77-B";
    part.sources.push_back(source);
    LibraryPart one;
    one.words = searchWords(part, derive(part));
    for (const char* words : {"flow_sense", "77-b", "drawing flow"})
        EXPECT_EQ(searched({one}, words).size(), 1U) << words;
}

TEST(LibraryCheck, ReportsAreReadableByMachines) {
    LibraryPart good, bad, broken, open;
    good.name = "A";
    good.file = "/lib/a.punch";
    good.state = GaugeState::Go;
    bad.name = "B <&>";
    bad.file = "/lib/sub/b.punch";
    bad.state = GaugeState::NoGo;
    bad.wrong = {{GaugeState::NoGo, "voltage", "Voltage: 2.1 of 2.5 mm"}, {GaugeState::Watch, "ring", "Ring: thin"}};
    broken.name = "C\x01";
    broken.file = "/lib/c.punch";
    broken.trouble = "no part\x02";
    open.name = "D";
    open.file = "/lib/d.punch";
    open.wrong = {{GaugeState::Unknown, "positions", "Positions: not measured"}};
    const std::vector<LibraryPart> all = {good, bad, broken, open};
    pugi::xml_document xml;
    ASSERT_TRUE(xml.load_string(junitReport(all).c_str()));
    const pugi::xml_node suite = xml.child("testsuite");
    EXPECT_EQ(suite.attribute("tests").as_int(), 4);
    EXPECT_EQ(suite.attribute("failures").as_int(), 1);
    EXPECT_EQ(suite.attribute("errors").as_int(), 1);
    EXPECT_EQ(suite.attribute("skipped").as_int(), 1);
    EXPECT_STREQ(
        suite.find_child_by_attribute("testcase", "name", "B <&>").child("failure").attribute("message").as_string(),
        "Voltage: 2.1 of 2.5 mm");
    const auto sarif = nlohmann::json::parse(sarifReport(all, "/lib"));
    EXPECT_EQ(sarif.at("version"), "2.1.0");
    const auto& results = sarif.at("runs").at(0).at("results");
    ASSERT_EQ(results.size(), 4U);
    EXPECT_EQ(results[0].at("ruleId"), "voltage");
    EXPECT_EQ(results[0].at("level"), "error");
    EXPECT_EQ(results[1].at("level"), "warning");
    EXPECT_EQ(results[0].at("locations").at(0).at("physicalLocation").at("artifactLocation").at("uri"), "sub/b.punch");
}

PadPattern patternAt(double pitch, int count, double hole) {
    PadPattern p;
    for (int i = 0; i < count; ++i)
        p.pads.push_back({std::to_string(i + 1), pitch * (i - (count - 1) / 2.0), 0, hole, hole + 1, 0.01});
    return p;
}

TEST(Compare, SaysHowFarEachPadIsOff) {
    // 5.00 against 5.08, four ways: the outer pads are off by one and a half times 0.08.
    const PadPattern one = patternAt(5.0, 4, 1.4), other = patternAt(5.08, 4, 1.5);
    Comparison c = compared(one, other, AlignBy::Pads);
    EXPECT_NEAR(c.worst, 0.12, 1e-9);
    EXPECT_NEAR(c.rms, std::sqrt((2 * 0.12 * 0.12 + 2 * 0.04 * 0.04) / 4), 1e-9);
    ASSERT_EQ(c.pads.size(), 4U);
    EXPECT_NEAR(std::abs(c.pads[0].dx), 0.12, 1e-9);
    EXPECT_NEAR(c.pads[0].dy, 0, 1e-9);
    EXPECT_EQ(c.differs.size(), 8U) << "hole and land of each";
    EXPECT_NE(std::find(c.differs.begin(), c.differs.end(), "pad 2: hole 1.40 → 1.50"), c.differs.end());
    // Turned and shifted it is the same; by datum it is not.
    PadPattern turned = other;
    for (PatternPad& p : turned.pads) {
        const double x = p.x, y = p.y;
        p.x = 3 + std::cos(0.7) * x - std::sin(0.7) * y;
        p.y = -2 + std::sin(0.7) * x + std::cos(0.7) * y;
    }
    c = compared(one, turned, AlignBy::Pads);
    EXPECT_NEAR(c.worst, 0.12, 1e-9);
    EXPECT_NEAR(c.turn, 0.7 * 180 / std::numbers::pi, 1e-9);
    EXPECT_GT(compared(one, turned, AlignBy::Datum).worst, 2);
    // One more pad, and other numbers.
    c = compared(patternAt(5, 3, 1), patternAt(5, 4, 1), AlignBy::Datum);
    EXPECT_EQ(c.otherAlone, std::vector<std::string>{"4"});
    PadPattern named = patternAt(5, 4, 1);
    for (PatternPad& p : named.pads) p.number = "A" + p.number;
    c = compared(patternAt(5, 4, 1), named, AlignBy::Pads);
    EXPECT_FALSE(c.byNumber);
    EXPECT_NEAR(c.worst, 0, 1e-9);
    EXPECT_EQ(c.differs.size(), 4U);
    pugi::xml_document svg;
    EXPECT_TRUE(svg.load_string(comparisonSvg(one, other, compared(one, other, AlignBy::Pads), 20).c_str()));
    EXPECT_TRUE(svg.load_string(comparisonSvg({}, {}, compared({}, {}, AlignBy::Pads), 20).c_str()));
}

/// One edit of one fact; `which` says of what, so that two edits can be of different facts.
Part edited(Part p, int which, std::mt19937& random) {
    const auto some = std::to_string(random() % 90 + 10);
    switch (which) {
        case 0: p.name += some; break;
        case 1: p.description += some; break;
        case 2: p.notes = "note " + some; break;
        case 3: {
            RawValue& raw = p.readings[random() % p.readings.size()].raw.front();
            raw.typed = some;
            raw.value = Length::fromMm(std::stod(some));
            break;
        }
        case 4: p.rules.boardThickness = Length::fromMm(1.0 + static_cast<double>(random() % 9) / 10); break;
        case 5: {
            Mark m = newMark(MarkKind::Keepout);
            m.name = "room " + some;
            p = withMark(p, m);
            break;
        }
        case 6: {
            Mark m = newMark(MarkKind::Text);
            m.name = "text " + some;
            p = withMark(p, m);
            break;
        }
        case 7: p.pins[random() % p.pins.size()].names = {"N" + some}; break;
        case 8: {
            Pin pin;
            pin.number = "X" + some;
            p.pins.push_back(pin);
            break;
        }
        case 9: p.marks.pop_back(); break;
        case 10: p.overrides["p2"].hole = Length::fromMm(1.6); break;
        default: p.dress.line = Length::fromMm(0.1 + static_cast<double>(random() % 9) / 100);
    }
    return p;
}

Part manyFacts() {
    Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/QB-TB4.punch");
    for (Pin& p : part.pins) p.note = "n";
    return part;
}

/// Some places of a pattern, turned, mirrored and a little off: found in the whole one, and in no other.
TEST(Patterns, AFewPlacesAreFoundWithinTheWhole) {
    std::mt19937 random(41);
    std::uniform_real_distribution<double> place(-15, 15), off(-0.01, 0.01), turn(0, 6.28);
    for (int round = 0; round < 300; ++round) {
        PadPattern whole, other;
        const std::size_t n = 3 + static_cast<std::size_t>(round) % 12;
        for (std::size_t i = 0; i < n; ++i) {
            whole.pads.push_back({std::to_string(i + 1), place(random), place(random), 1.0, 2.0, 0.01});
            other.pads.push_back({std::to_string(i + 1), place(random), place(random), 1.0, 2.0, 0.01});
        }
        PadPattern few;
        few.whole = false;
        const double t = turn(random), c = std::cos(t), s = std::sin(t), mirror = round % 2 == 0 ? 1 : -1;
        const std::size_t k = 3 + random() % (n - 2);
        for (std::size_t i = 0; i < k; ++i) {
            const PatternPad& p = whole.pads[i];
            few.pads.push_back({"?", c * mirror * p.x - s * p.y + off(random), s * mirror * p.x + c * p.y + off(random),
                                0.8, 1, 0.02});
        }
        const auto how = contained(few, whole);
        ASSERT_TRUE(how) << round;
        EXPECT_EQ(how->pairs.size(), k);
        for (const PadPair& pair : how->pairs) EXPECT_EQ(pair.one, pair.other);
        EXPECT_LT(how->worst, 0.05);
        EXPECT_FALSE(contained(few, other)) << round;
    }
}

TEST(Patterns, AHandfulOfReadingsFindsThePart) {
    Part few = test::demoPart();
    std::erase_if(few.readings,
                  [](const Reading& r) { return r.id != "r6" && r.id != "r7" && r.id != "r8" && r.id != "r9"; });
    const Footprint f = derive(few);
    EXPECT_FALSE(patternOf(few, f)) << "the peg is loose";
    const auto firm = firmPatternOf(few, f);
    ASSERT_TRUE(firm);
    EXPECT_EQ(firm->pads.size(), 4U);
    const auto library = *readLibrary(test::sourceFolder() + "/demo/fennel-house");
    const auto found = matching(library, *firm);
    ASSERT_FALSE(found.empty());
    EXPECT_TRUE(std::any_of(found.begin(), found.end(), [](const LibraryMatch& m) { return m.name == "QB-TB4"; }));
    // Five pins are another part, although four of them lie alike.
    EXPECT_FALSE(std::any_of(found.begin(), found.end(), [](const LibraryMatch& m) { return m.name == "QB-TB5"; }));
    const auto scan = test::punchRun("match '" + test::sourceFolder() +
                                     "/demo/fennel-house/HT-SEL6-sources/underside.png' --face solder --in '" +
                                     test::sourceFolder() + "/demo/fennel-house'");
    EXPECT_EQ(scan.code, 0) << scan.out;
    EXPECT_NE(scan.out.find("HT-SEL6"), std::string::npos) << scan.out;
}

TEST(Merge, TwoEditsOfDifferentFactsAreBothThere) {
    std::mt19937 random(5);
    const Part base = manyFacts();
    for (int round = 0; round < 200; ++round) {
        const int a = static_cast<int>(random() % 12);
        const int b = (a + 1 + static_cast<int>(random() % 11)) % 12;
        // A mark that is gone and one that is new are different facts too.
        const Part ours = edited(base, a, random), theirs = edited(base, b, random);
        const auto merged = mergedPart(toText(base), toText(ours), toText(theirs));
        ASSERT_TRUE(merged) << merged.error().text();
        EXPECT_TRUE(merged->conflicts.empty()) << a << " " << b << ": " << merged->conflicts.front();
        const Part both = *fromText(merged->text, "merged");
        EXPECT_EQ(both.name, a == 0 ? ours.name : theirs.name);
        EXPECT_EQ(both.readings, a == 3 ? ours.readings : theirs.readings);
        EXPECT_EQ(both.pins.size(), base.pins.size() + (a == 8 || b == 8 ? 1 : 0));
        const auto added = [&](int of) { return of == 5 || of == 6 ? 1U : 0U; };
        EXPECT_EQ(both.marks.size() + (a == 9 || b == 9 ? 1 : 0), base.marks.size() + added(a) + added(b));
        std::set<std::string> ids;
        EXPECT_FALSE(both.marks.empty() ? false : markById(both, "m" + std::to_string(both.nextId)) != nullptr);
        for (const Mark& m : both.marks) EXPECT_TRUE(ids.insert(m.id).second) << "one identifier, two marks";
        // The other way round it is the same part.
        const auto other = mergedPart(toText(base), toText(theirs), toText(ours));
        EXPECT_EQ(fromText(other->text, "x")->marks.size(), both.marks.size());
    }
}

TEST(Merge, WhatContradictsIsNamedAndThisSideStands) {
    const Part base = manyFacts();
    Part ours = base, theirs = base;
    ours.rules.boardThickness = Length::fromMm(1.0);
    theirs.rules.boardThickness = Length::fromMm(2.0);
    theirs.description = "theirs";
    const auto merged = mergedPart(toText(base), toText(ours), toText(theirs));
    ASSERT_TRUE(merged);
    ASSERT_EQ(merged->conflicts.size(), 1U);
    EXPECT_NE(merged->conflicts[0].find("1.0 here, 2.0 there"), std::string::npos) << merged->conflicts[0];
    const Part both = *fromText(merged->text, "m");
    EXPECT_EQ(both.rules.boardThickness, ours.rules.boardThickness);
    EXPECT_EQ(both.description, "theirs");
    EXPECT_FALSE(mergedPart(toText(base), "{", toText(theirs)));
}

TEST(Merge, GitMergesPartsFactByFact) {
    const Folder repository;
    const std::string at = repository.path.string();
    const auto git = [&](const std::string& words) {
        return std::system(
            ("git -C '" + at + "' -c user.name=a -c user.email=a@b " + words + " >/dev/null 2>&1").c_str());
    };
    ASSERT_EQ(git("init -b one"), 0);
    ASSERT_EQ(test::punchRun("merge --set-up '" + at + "'").code, 0);
    const Part base = manyFacts();
    std::mt19937 random(9);
    const auto commit = [&](const Part& part) {
        ASSERT_TRUE(savePart(part, repository.path / "part.punch"));
        ASSERT_EQ(git("add -A"), 0);
        ASSERT_EQ(git("commit -m edit"), 0);
    };
    commit(base);
    for (int round = 0; round < 6; ++round) {
        const Part now = *loadPart(repository.path / "part.punch");
        const int a = round % 2 == 0 ? 5 : 3, b = round % 2 == 0 ? 6 : 7;
        ASSERT_EQ(git("checkout -b other"), 0);
        commit(edited(now, a, random));
        ASSERT_EQ(git("checkout one"), 0);
        commit(edited(now, b, random));
        EXPECT_EQ(git("merge other"), 0) << round;
        ASSERT_EQ(git("branch -D other"), 0);
        const auto both = loadPart(repository.path / "part.punch");
        ASSERT_TRUE(both) << both.error().text();
        EXPECT_EQ(both->marks.size(), now.marks.size() + (round % 2 == 0 ? 2 : 0));
    }
}

/// A repository of 200 parts, each edited on two branches, and one merge of them all.
class TwoHundred {
public:
    TwoHundred() { git("init -b one"); }
    int git(const std::string& words) const {
        return std::system(("git -C '" + folder.path.string() + "' -c user.name=a -c user.email=a@b -c gc.auto=0 " +
                            words + " >/dev/null 2>&1")
                               .c_str());
    }
    void write(std::size_t i, const Part& part) const { EXPECT_TRUE(savePart(part, file(i))); }
    fs::path file(std::size_t i) const { return folder.path / fmt::format("part-{:03}.punch", i); }
    /// `edit(i, ours)`: the part as each side has it.
    template <class Base, class Edit>
    int merged(const Base& base, const Edit& edit) {
        const auto commit = [&](const auto& part) {
            for (std::size_t i = 0; i < kPairs; ++i) write(i, part(i));
            EXPECT_EQ(git("add -A"), 0);
            EXPECT_EQ(git("commit -m edit"), 0);
        };
        commit(base);
        EXPECT_EQ(git("checkout -b other"), 0);
        commit([&](std::size_t i) { return edit(i, false); });
        EXPECT_EQ(git("checkout one"), 0);
        commit([&](std::size_t i) { return edit(i, true); });
        return git("merge other");
    }
    static constexpr std::size_t kPairs = 200;
    Folder folder;
};

TEST(Merge, GitMergesAllOfTwoHundredPairsThroughTheDriver) {
    TwoHundred all;
    ASSERT_EQ(test::punchRun("merge --set-up '" + all.folder.path.string() + "'").code, 0);
    const Part base = manyFacts();
    std::mt19937 random(31);
    std::vector<std::pair<Part, Part>> edits;
    for (std::size_t i = 0; i < TwoHundred::kPairs; ++i) {
        const int a = static_cast<int>(random() % 12), b = (a + 1 + static_cast<int>(random() % 11)) % 12;
        edits.emplace_back(edited(base, a, random), edited(base, b, random));
    }
    EXPECT_EQ(all.merged([&](std::size_t) { return base; },
                         [&](std::size_t i, bool ours) { return ours ? edits[i].first : edits[i].second; }),
              0);
    for (std::size_t i = 0; i < TwoHundred::kPairs; ++i) {
        const auto both = loadPart(all.file(i));
        ASSERT_TRUE(both) << i << both.error().text();
        const auto wanted = mergedPart(toText(base), toText(edits[i].first), toText(edits[i].second));
        EXPECT_EQ(toText(*both), toText(*fromText(wanted->text, "x"))) << i;
    }
}

/// One fact, on lines of its own, that moves no other.
Part withFact(Part p, std::size_t fact, std::mt19937& random) {
    const std::string word = "w" + std::to_string(random() % 1000);
    const Length length = Length::fromMm(0.5 + 0.01 * static_cast<double>(random() % 100));
    switch (fact) {
        case 0: p.description = word; break;
        case 1: p.notes = word; break;
        case 2: p.rules.boardThickness = length; break;
        case 3: p.rules.fab.leastGap = length; break;
        case 4: p.dress.textHeight = length; break;
        case 5: p.rules.ring = length; break;
        case 6: p.body.standoff = length; break;
        case 7: p.readings.front().note = word; break;
        case 8: p.readings.back().note = word; break;
        default: p.pins.front().note = word; break;
    }
    return p;
}

std::pair<std::size_t, std::size_t> changedLines(const std::string& before, const std::string& after) {
    const auto lines = [](const std::string& text) {
        std::vector<std::string> all(1);
        for (const char c : text) {
            if (c == '\n')
                all.emplace_back();
            else
                all.back() += c;
        }
        return all;
    };
    const auto a = lines(before), b = lines(after);
    std::size_t first = 0, last = 0;
    while (first < a.size() && first < b.size() && a[first] == b[first]) ++first;
    while (last < a.size() - first && last < b.size() - first && a[a.size() - 1 - last] == b[b.size() - 1 - last])
        ++last;
    return {first, a.size() - last};
}

TEST(Merge, WithoutTheDriverFactsTwoLinesApartMergeAsText) {
    TwoHundred all;
    Part base = manyFacts();
    // The notes are there already, so that editing one is one line.
    base.readings.front().note = base.readings.back().note = base.pins.front().note = "x";
    const std::string text = toText(base);
    std::mt19937 random(37);
    std::vector<std::pair<Part, Part>> edits;
    std::vector<bool> apart;
    for (std::size_t i = 0; i < TwoHundred::kPairs; ++i) {
        const std::size_t a = random() % 10, b = (a + 1 + random() % 9) % 10;
        edits.emplace_back(withFact(base, a, random), withFact(base, b, random));
        const auto [a0, a1] = changedLines(text, toText(edits.back().first));
        const auto [b0, b1] = changedLines(text, toText(edits.back().second));
        apart.push_back(a1 + 2 <= b0 || b1 + 2 <= a0);
    }
    (void)all.merged([&](std::size_t) { return base; },
                     [&](std::size_t i, bool ours) { return ours ? edits[i].first : edits[i].second; });
    int clean = 0;
    for (std::size_t i = 0; i < TwoHundred::kPairs; ++i) {
        if (!apart[i]) continue;
        ++clean;
        const auto both = loadPart(all.file(i));
        ASSERT_TRUE(both) << i << both.error().text();
        EXPECT_EQ(toText(*both),
                  toText(*fromText(mergedPart(text, toText(edits[i].first), toText(edits[i].second))->text, "x")))
            << i;
    }
    EXPECT_GT(clean, 150);
}

}  // namespace
}  // namespace punch::library_test
