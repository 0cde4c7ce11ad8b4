// Pictures of parts without a display: where things lie in them, what is seen through, and what cannot be drawn.

#include <gtest/gtest.h>
#include <unistd.h>

#include <array>
#include <cmath>
#include <filesystem>
#include <set>

#include "core/artwork/palette.h"
#include "core/body/drawn_scene.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/picture/read_picture.h"
#include "core/release/pictures.h"
#include "tests/support/parts.h"
#include "tests/support/punch_run.h"

namespace punch::pictures_out_test {
namespace {

std::array<int, 3> pixel(const Drawn& d, double x, double y) {
    const auto i = static_cast<std::size_t>((static_cast<int>(y) * d.width + static_cast<int>(x)) * 3);
    return {d.pixels[i], d.pixels[i + 1], d.pixels[i + 2]};
}
std::array<int, 3> rgb(Colour c) {
    return {static_cast<int>(c >> 16), static_cast<int>(c >> 8 & 255), static_cast<int>(c & 255)};
}

/// A square of 10 mm at a height, facing up.
SceneLayer square(double z, Colour colour, double share) {
    SceneLayer layer;
    const auto at = [&](double x, double y) {
        return SceneVertex{static_cast<float>(x),
                           static_cast<float>(y),
                           static_cast<float>(z),
                           0,
                           0,
                           1,
                           static_cast<unsigned char>(colour >> 16),
                           static_cast<unsigned char>(colour >> 8),
                           static_cast<unsigned char>(colour),
                           static_cast<unsigned char>(std::lround(255 * share))};
    };
    layer.corners = {at(0, 0), at(10, 0), at(10, 10), at(0, 10)};
    layer.triangles = {0, 1, 2, 0, 2, 3};
    return layer;
}

SpaceCamera above() {
    SpaceCamera c;
    c.look(SeenFrom::Above);
    c.width = c.height = 200;
    c.scale = 10;
    c.middle = {5, 5, 0};
    return c;
}

TEST(DrawnScene, LiesWhereTheCameraSaysAndHidesWhatIsBehind) {
    SolidScene scene;
    scene.leads = square(1, 0x804020, 1);
    scene.copper = square(0, 0x2040C0, 1);
    const SpaceCamera c = above();
    const auto d = drawn(scene, c);
    ASSERT_TRUE(d);
    EXPECT_EQ(pixel(*d, 10, 10), rgb(palette::kPaper));
    // Lit from above: the upper one alone is seen.
    const auto upper = pixel(*d, 100, 100);
    EXPECT_GT(upper[0], upper[2] * 2);
    const Vec3 corner = c.seen({10, 10, 1});
    EXPECT_NEAR(corner.x, 150, 1e-9);
    EXPECT_NEAR(corner.y, 50, 1e-9);
    EXPECT_EQ(pixel(*d, 152, 48), rgb(palette::kPaper));
    EXPECT_NE(pixel(*d, 148, 52), rgb(palette::kPaper));
    // From below the lower one hides it, and x runs the other way.
    SpaceCamera under = c;
    under.look(SeenFrom::Below);
    const auto below = drawn(scene, under);
    EXPECT_GT(pixel(*below, 100, 100)[2], pixel(*below, 100, 100)[0] * 2);
    // Lifted off by more than what is between, and cut: nothing of it is left in front.
    SpaceLook look;
    look.cut = SpaceCut{1, 5, false};
    const auto cut = drawn(scene, c, look);
    EXPECT_EQ(pixel(*cut, 100, 110), rgb(palette::kPaper)) << "the front half is gone";
    EXPECT_NE(pixel(*cut, 100, 90), rgb(palette::kPaper));
    look.cut = SpaceCut{0, 5, true};
    const auto right = drawn(scene, c, look);
    EXPECT_EQ(pixel(*right, 110, 100), rgb(palette::kPaper));
    EXPECT_NE(pixel(*right, 90, 100), rgb(palette::kPaper));
}

TEST(DrawnScene, WhatIsSeenThroughIsMixedAndMoversMove) {
    SolidScene scene;
    scene.board = square(0, 0x000000, 0.5);
    const SpaceCamera c = above();
    const auto d = drawn(scene, c);
    const auto mixed = pixel(*d, 100, 100), paper = rgb(palette::kPaper);
    for (int k = 0; k < 3; ++k)
        EXPECT_NEAR(mixed[static_cast<std::size_t>(k)], paper[static_cast<std::size_t>(k)] / 2.0, 1.5);
    SolidScene moving;
    SceneMover m;
    m.motion = {false, {}, {1, 0, 0}, 0, 20};
    m.layer = square(2, 0x204060, 1);
    moving.movers.push_back(m);
    SpaceLook look;
    look.moved = {4};
    const auto there = drawn(moving, c, look);
    EXPECT_EQ(pixel(*there, 70, 100), paper);
    EXPECT_NE(pixel(*there, 180, 100), paper);
    SpaceCamera small = c;
    small.width = 2;
    EXPECT_FALSE(drawn(scene, small));
}

TEST(DrawnScene, ACameraSeesWhatItIsFitTo) {
    Box3 box;
    box.add({-3, -8, -2});
    box.add({20, 5, 12});
    for (const auto& [words, from] : kSeenFrom) {
        SpaceCamera c;
        c.width = 640;
        c.height = 400;
        c.look(from);
        c.fit(box, 40, 40);
        for (const double x : {box.low.x, box.high.x})
            for (const double y : {box.low.y, box.high.y})
                for (const double z : {box.low.z, box.high.z}) {
                    const Vec3 s = c.seen({x, y, z});
                    EXPECT_GE(s.x, 19.9) << words;
                    EXPECT_LE(s.x, 620.1) << words;
                    EXPECT_GE(s.y, 19.9) << words;
                    EXPECT_LE(s.y, 380.1) << words;
                }
        // What is behind a pixel is seen at it.
        const Vec3 p = c.behind(123, 77) + 4.0 * c.away();
        EXPECT_NEAR(c.seen(p).x, 123, 1e-6);
        EXPECT_NEAR(c.seen(p).y, 77, 1e-6);
    }
}

class PicturesOut : public testing::Test {
protected:
    void SetUp() override {
        folder = std::filesystem::temp_directory_path() / ("punch-pictures-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
    }
    void TearDown() override { std::filesystem::remove_all(folder); }
    std::filesystem::path folder;
    const std::string demo = test::sourceFolder() + "/demo/fennel-house/";
};

TEST_F(PicturesOut, EveryViewIsAPngOfItsSize) {
    for (const char* view : {"sheet", "slanted", "above", "below", "front", "right"}) {
        const std::string to = (folder / view).string() + ".png";
        const auto done = test::punchRun("shot '" + demo + "HT-SEL6.punch' --to '" + to +
                                         "' --size 320x200 --lifted 3 --view " + view);
        ASSERT_EQ(done.code, 0) << done.out;
        const auto picture = readPicture(to);
        ASSERT_TRUE(picture) << picture.error().text();
        EXPECT_EQ(picture->width, 320);
        EXPECT_EQ(picture->height, 200);
        // It is no empty paper.
        std::set<int> levels;
        for (int y = 0; y < picture->height; ++y)
            for (int x = 0; x < picture->width * picture->channels; ++x) levels.insert(picture->row(y)[x]);
        EXPECT_GT(levels.size(), 20U) << view;
    }
}

TEST_F(PicturesOut, WhatCannotBeDrawnIsSaid) {
    const auto run = [&](const std::string& rest) {
        return test::punchRun("shot '" + demo + "QB-TB4.punch' --to '" + (folder / "a.png").string() + "' " + rest);
    };
    EXPECT_EQ(run("--size 1280").code, 2);
    EXPECT_EQ(run("--size 4x4").code, 2);
    EXPECT_EQ(run("--size 99999x10").code, 2);
    EXPECT_EQ(run("--view inside").code, 2);
    EXPECT_EQ(run("--cut 3").code, 2);
    EXPECT_FALSE(std::filesystem::exists(folder / "a.png"));
    // A body that is not there is named.
    std::filesystem::copy(demo + "QB-TB4.punch", folder / "QB-TB4.punch");
    const auto gone =
        test::punchRun("shot '" + (folder / "QB-TB4.punch").string() + "' --to '" + (folder / "a.png").string() + "'");
    EXPECT_EQ(gone.code, 2);
    EXPECT_NE(gone.out.find("terminal"), std::string::npos) << gone.out;
}

}  // namespace
}  // namespace punch::pictures_out_test
