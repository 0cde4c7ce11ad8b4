// Solids: made, meshed, written as STEP and read again by punch-solid; and files that are none.

#include "core/solid/solid_worker.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <cmath>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>

#include "core/base/atomic_file.h"
#include "core/solid/solid_cache.h"

namespace punch::solid_worker_test {
namespace {

std::string temporary(const std::string& name) {
    const auto folder = std::filesystem::temp_directory_path() / ("punch-solid-test-" + std::to_string(::getpid()));
    std::filesystem::create_directories(folder);
    return (folder / name).string();
}

const SolidBody* bodyOf(const Solid& s, const std::string& name) {
    for (const SolidBody& b : s.bodies)
        if (b.name == name) return &b;
    return nullptr;
}

SolidsToMake several() {
    SolidsToMake all;
    all.name = "QB-TB2";
    MadeBody block{"body", 0x3A7D44, Prism{flatRectangle(-5, -4, 5, 4), 0, 10}, {}, {}};
    block.cut = {Prism{flatCircle(0, 0, 3), 4, 10}};
    all.bodies.push_back(block);
    all.bodies.push_back({"lead 1", 0xC0C4C8, Prism{flatCircle(-2.5, 0, 1), -3.5, 0}, {}, {}});
    Tapered tip{{{2.4, -0.1, 0}, {2.6, -0.1, 0}, {2.6, 0.1, 0}, {2.4, 0.1, 0}},
                {{2, -0.5, 0}, {3, -0.5, 0}, {3, 0.5, 0}, {2, 0.5, 0}},
                -3.5,
                0};
    all.bodies.push_back({"lead 2", 0xC0C4C8, tip, {}, {}});
    all.bodies.push_back({"knob", 0x202428, TurnedProfile{{{0, 10, 0}, {3, 10, 0}, {2, 16, 0}, {0, 16, 0}}}, {}, {}});
    all.bodies.push_back({"ball", kNoColour, Ball{2}, {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {8, 0, 5}}, {}});
    Swept bent{{{0, 4, 5}, {0, 7, 5}, {0, 7, -3}}, 1, 0.6, 0.4, false};
    all.bodies.push_back({"formed", 0xC0C4C8, bent, {}, {}});
    return all;
}

/// Volumes by closed forms.
void expectVolumes(const Solid& s) {
    const auto volume = [&](const char* name) { return bodyOf(s, name) == nullptr ? -1 : bodyOf(s, name)->volume; };
    EXPECT_NEAR(volume("body"), 800 - kPi * 2.25 * 6, 1e-6 * 800);
    EXPECT_NEAR(volume("lead 1"), kPi * 0.25 * 3.5, 1e-6);
    // A frustum of a pyramid.
    EXPECT_NEAR(volume("lead 2"), 3.5 / 3 * (0.04 + 1 + std::sqrt(0.04)), 1e-6);
    EXPECT_NEAR(volume("knob"), kPi * 6 / 3 * (9 + 6 + 4), 1e-5);
    EXPECT_NEAR(volume("ball"), 4 * kPi / 3, 1e-6);
    // Along the middle line: 2 + a quarter circle + 7.
    EXPECT_NEAR(volume("formed"), 0.6 * 0.4 * (2 + kPi / 2 + 7), 1e-5);
}

TEST(SolidWorker, MakesBodiesOfTheVolumesThatTheyHave) {
    SolidWorker worker;
    const auto solid = worker.make(several());
    ASSERT_TRUE(solid) << solid.error().text();
    ASSERT_EQ(solid->bodies.size(), 6U);
    expectVolumes(*solid);
    // Its triangles hold the block's box, and run counter-clockwise: what they enclose is above nothing.
    double enclosed = 0;
    for (const Triangle& t : solid->triangles) {
        const auto at = [&](int i) { return solid->corners[static_cast<std::size_t>(i)]; };
        enclosed += dot(at(t.a), cross(at(t.b), at(t.c))) / 6;
    }
    double volumes = 0;
    for (const SolidBody& b : solid->bodies) volumes += b.volume;
    EXPECT_NEAR(enclosed, volumes, 0.01 * volumes);
    // A plane's normal looks outwards: the block's top.
    int tops = 0;
    for (const SolidFace& f : solid->faces)
        if (f.kind == SurfaceKind::Plane && f.body == 0 && f.axis.z > 0.99 && std::abs(f.at.z - 10) < 1e-9) ++tops;
    EXPECT_EQ(tops, 1);
}

TEST(SolidWorker, WritesStepThatReadsBackWithVolumesNamesAndColoursInAnyUnitAndFrame) {
    SolidWorker worker;
    for (const auto& [inches, schema, words] : {std::tuple(false, StepSchema::Ap214, "AUTOMOTIVE_DESIGN"),
                                                std::tuple(true, StepSchema::Ap214, "AUTOMOTIVE_DESIGN"),
                                                std::tuple(true, StepSchema::Ap203, "CONFIG_CONTROL_DESIGN"),
                                                std::tuple(false, StepSchema::Ap242, "AP242")}) {
        SolidsToMake all = several();
        all.inches = inches;
        all.schema = schema;
        all.pose = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {100, -40, 7}}, turnAbout({1, 2, 3}, 67));
        const std::string path = temporary(inches ? "inches.step" : "mm.step");
        const auto written = worker.writeStep(all, path);
        ASSERT_TRUE(written) << written.error().text();
        EXPECT_NE(readWhole(path)->find(words), std::string::npos) << words;
        double share = 0;
        const auto back = worker.readStep(path, {}, [&](double s) {
            EXPECT_GE(s, share);
            share = s;
            return true;
        });
        ASSERT_TRUE(back) << back.error().text();
        ASSERT_EQ(back->bodies.size(), 6U);
        expectVolumes(*back);
        for (const MadeBody& b : all.bodies) {
            ASSERT_NE(bodyOf(*back, b.name), nullptr) << b.name;
            EXPECT_EQ(bodyOf(*back, b.name)->colour, b.colour) << b.name;
        }
        EXPECT_TRUE(back->notes.empty());
        const Box3 box = boundsOf(moved(*back, inverse(all.pose)));
        EXPECT_NEAR(box.low.z, -3.5, 1e-6);
        EXPECT_NEAR(box.high.z, 16, 1e-6);
        EXPECT_FALSE(std::filesystem::exists(path + ".part"));
    }
}

TEST(SolidWorker, SaysWhatIsWrongAndGoesOn) {
    SolidWorker worker;
    const std::string good = temporary("good.step");
    ASSERT_TRUE(worker.writeStep(several(), good));
    const std::string text = *readWhole(good);
    const auto expectSaid = [&](const std::string& name, const std::string& content, const std::string& words) {
        const std::string path = temporary(name);
        std::ofstream(path) << content;
        const auto read = worker.readStep(path);
        ASSERT_FALSE(read) << name;
        EXPECT_NE(read.error().text().find(words), std::string::npos) << read.error().text();
        EXPECT_NE(read.error().text().find(name), std::string::npos) << read.error().text();
    };
    expectSaid("empty.step", "", "cannot be read, or is empty");
    expectSaid("letter.step", "Dear reader,\n", "no STEP file");
    expectSaid("header.step", text.substr(0, text.find("DATA;")), "");
    expectSaid("half.step", text.substr(0, text.size() / 2), "");
    EXPECT_FALSE(worker.readStep(temporary("not-there.step")));
    // Nothing of it keeps it from the next.
    const auto read = worker.readStep(good);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->bodies.size(), 6U);
    // Without a unit it says so.
    std::string unitless = text;
    for (std::size_t at; (at = unitless.find("LENGTH_UNIT()")) != std::string::npos;)
        unitless.replace(at, 13, "NAMED_UNIT(*)");
    std::ofstream(temporary("unitless.step")) << unitless;
    const auto plain = worker.readStep(temporary("unitless.step"));
    EXPECT_TRUE(!plain || !plain->notes.empty());
    // A made body that is none.
    SolidsToMake none;
    none.bodies.push_back({"nothing", kNoColour, Prism{flatRectangle(0, 0, 0, 0), 0, 1}, {}, {}});
    EXPECT_FALSE(worker.make(none));
    EXPECT_FALSE(worker.writeStep(several(), "/nowhere/at/all.step"));
}

TEST(SolidWorker, IsEndedWhenItIsLateOrUnwantedAndStartedAgain) {
    SolidWorker worker;
    const std::string good = temporary("again.step");
    ASSERT_TRUE(worker.writeStep(several(), good));
    const auto unwanted = worker.readStep(good, {}, [](double) { return false; });
    ASSERT_FALSE(unwanted);
    EXPECT_NE(unwanted.error().what.find("as you asked"), std::string::npos);
    SolidLimits none;
    none.seconds = 0;
    const auto late = worker.readStep(good, none);
    ASSERT_FALSE(late);
    EXPECT_NE(late.error().what.find("more than 0 s"), std::string::npos);
    EXPECT_TRUE(worker.readStep(good));
    // A program that is none, or ends at once.
    ::setenv("PUNCH_SOLID", "/bin/false", 1);
    SolidWorker other;
    const auto dead = other.readStep(good);
    ::unsetenv("PUNCH_SOLID");
    ASSERT_FALSE(dead);
    EXPECT_NE(dead.error().what.find("failed"), std::string::npos);
}

TEST(SolidWorker, SurfacesWithoutASolidAreShownAndSaid) {
    SolidWorker worker;
    SolidsToMake one;
    one.bodies.push_back({"box", kNoColour, Prism{flatRectangle(0, 0, 3, 2), 0, 1}, {}, {}});
    const std::string path = temporary("solid.step");
    ASSERT_TRUE(worker.writeStep(one, path));
    std::string text = *readWhole(path);
    const auto replaced = [&](const std::string& from, const std::string& to) {
        for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
            text.replace(at, from.size(), to);
    };
    // The same faces, without the word that they enclose something.
    const std::size_t at = text.find("MANIFOLD_SOLID_BREP('");
    ASSERT_NE(at, std::string::npos);
    const std::size_t hash = text.find('#', at), end = text.find(')', hash);
    const std::string shell = text.substr(hash, end - hash);
    const std::size_t quote = text.rfind(',', hash);
    text.replace(quote + 1, end - quote - 1, "(" + shell + ")");
    replaced("MANIFOLD_SOLID_BREP(", "SHELL_BASED_SURFACE_MODEL(");
    replaced("ADVANCED_BREP_SHAPE_REPRESENTATION(", "MANIFOLD_SURFACE_SHAPE_REPRESENTATION(");
    std::ofstream(temporary("surfaces.step")) << text;
    const auto read = worker.readStep(temporary("surfaces.step"));
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->bodies.size(), 1U);
    EXPECT_FALSE(read->bodies.front().closed);
    EXPECT_EQ(read->bodies.front().volume, 0);
    ASSERT_FALSE(read->notes.empty());
    EXPECT_NE(read->notes.front().find("belong to no solid"), std::string::npos) << read->notes.front();
    EXPECT_GT(read->triangles.size(), 10U);
}

TEST(SolidWorker, HundredsOfBodiesAndFarAwayAreRead) {
    SolidWorker worker;
    SolidsToMake all;
    for (int i = 0; i < 300; ++i)
        all.bodies.push_back({"b",
                              kNoColour,
                              Prism{flatRectangle(i % 50 * 2, i / 50 * 2, i % 50 * 2 + 1, i / 50 * 2 + 1), 0, 1},
                              {},
                              {}});
    all.pose.move = {90000, -90000, 50000};
    const std::string path = temporary("many.step");
    ASSERT_TRUE(worker.writeStep(all, path));
    const auto read = worker.readStep(path);
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->bodies.size(), 300U);
    for (const SolidBody& b : read->bodies) EXPECT_NEAR(b.volume, 1, 1e-4);
    EXPECT_NEAR(boundsOf(*read).low.x, 90000, 1e-6);
}

TEST(SolidWorker, AnOutlineThatCrossesItselfEndsNothing) {
    SolidWorker worker;
    SolidsToMake bow;
    bow.bodies.push_back({"bow", kNoColour, Prism{{{{0, 0, 0}, {4, 4, 0}, {4, 0, 0}, {0, 4, 0}}, {}}, 0, 1}, {}, {}});
    const auto made = worker.make(bow);
    // Whatever the kernel makes of it, it is said or made, and the next one is as before.
    EXPECT_TRUE(made || !made.error().what.empty());
    EXPECT_TRUE(worker.make(several()));
}

TEST(SolidWorker, OneThatHangsIsEnded) {
    const std::string script = temporary("hangs");
    std::ofstream(script) << "#!/bin/sh\nexec sleep 60\n";
    std::filesystem::permissions(script, std::filesystem::perms::owner_all);
    ::setenv("PUNCH_SOLID", script.c_str(), 1);
    SolidLimits soon;
    soon.seconds = 0.3;
    SolidWorker worker;
    const auto read = worker.readStep("/dev/null", soon);
    ::unsetenv("PUNCH_SOLID");
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().what.find("took more than"), std::string::npos) << read.error().what;
}

TEST(SolidCache, GivesBackWhatWasKeptAndNothingElse) {
    const std::string cache = temporary("cache");
    const char* before = std::getenv("XDG_CACHE_HOME");
    const std::string was = before == nullptr ? "" : before;
    ::setenv("XDG_CACHE_HOME", cache.c_str(), 1);
    SolidWorker worker;
    const auto solid = worker.make(several());
    ASSERT_TRUE(solid) << solid.error().text();
    const std::string digest = "0123456789abcdef0123456789abcdef01234567";
    EXPECT_FALSE(keptSolid(digest));
    keepSolid(digest, *solid);
    const auto kept = keptSolid(digest);
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->corners, solid->corners);
    EXPECT_EQ(kept->triangles.size(), solid->triangles.size());
    ASSERT_EQ(kept->bodies.size(), solid->bodies.size());
    for (std::size_t i = 0; i < kept->bodies.size(); ++i) {
        EXPECT_EQ(kept->bodies[i].name, solid->bodies[i].name);
        EXPECT_EQ(kept->bodies[i].volume, solid->bodies[i].volume);
    }
    // Another fineness, another file, none.
    SolidLimits coarse;
    coarse.deflection = 0.2;
    EXPECT_FALSE(keptSolid(digest, coarse));
    EXPECT_FALSE(keptSolid("ffff"));
    EXPECT_FALSE(keptSolid(""));
    // Damaged ones are not used: cut off, of another build, numbers that point nowhere.
    std::string file;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(cache))
        if (entry.is_regular_file()) file = entry.path().string();
    const std::string whole = *readWhole(file);
    for (std::size_t cut = 0; cut < whole.size(); cut += 1 + whole.size() / 40) {
        std::ofstream(file, std::ios::binary).write(whole.data(), static_cast<std::streamsize>(cut));
        EXPECT_FALSE(keptSolid(digest)) << cut;
    }
    std::string other = whole;
    other[9] = 'x';
    std::ofstream(file, std::ios::binary) << other;
    EXPECT_FALSE(keptSolid(digest));
    std::string wild = whole;
    const std::size_t at =
        wild.find('\n') + 1 + sizeof(std::size_t) + solid->corners.size() * sizeof(Vec3) + sizeof(std::size_t);
    const int nowhere = 1 << 30;
    std::memcpy(wild.data() + at, &nowhere, sizeof nowhere);
    std::ofstream(file, std::ios::binary) << wild;
    EXPECT_FALSE(keptSolid(digest));
    // Deleted it is made anew; where it cannot be written nothing happens.
    std::filesystem::remove_all(cache);
    EXPECT_FALSE(keptSolid(digest));
    ::setenv("XDG_CACHE_HOME", "/proc/nowhere", 1);
    keepSolid(digest, *solid);
    EXPECT_FALSE(keptSolid(digest));
    if (was.empty())
        ::unsetenv("XDG_CACHE_HOME");
    else
        ::setenv("XDG_CACHE_HOME", was.c_str(), 1);
}

}  // namespace
}  // namespace punch::solid_worker_test
