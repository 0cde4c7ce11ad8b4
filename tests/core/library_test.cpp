// Do we have this already: patterns laid onto patterns against trying everything, a folder of parts, differences in
// words.

#include "core/library/library.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <numbers>

#include "core/derive.h"
#include "core/library/difference.h"
#include "core/part/file.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch {
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

}  // namespace
}  // namespace punch
