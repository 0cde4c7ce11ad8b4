// The part as STEP: what is written is what was derived, by the volumes, names and colours that a reader finds.

#include "core/release/step_out.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <numbers>

#include "core/derive.h"
#include "core/part/file.h"
#include "core/release/formats.h"
#include "core/solid/solid_worker.h"
#include "tests/support/parts.h"

namespace punch::step_out_test {
namespace {

const std::string kHome = test::sourceFolder() + "/demo/fennel-house";

Solid readBack(const NamedContent& file) {
    const auto path =
        std::filesystem::temp_directory_path() / ("punch-step-out-" + std::to_string(::getpid()) + ".step");
    std::ofstream(path, std::ios::binary) << file.content;
    SolidWorker worker;
    auto solid = worker.readStep(path.string());
    std::filesystem::remove(path);
    EXPECT_TRUE(solid) << solid.error().text();
    return solid ? *solid : Solid();
}

double volumeOf(const Solid& s, const std::string& name) {
    double v = 0;
    for (const SolidBody& b : s.bodies)
        if (b.name == name) v += b.volume;
    return v;
}

TEST(StepOut, AMeasuredPartIsItsBlockAndItsLeads) {
    Part part = *loadPart(kHome + "/QB-TB4.punch");
    part.solids.clear();
    const Footprint f = derive(part);
    const auto files = stepFiles(part, f, "QB-TB4", kHome);
    ASSERT_TRUE(files) << files.error().text();
    ASSERT_EQ(files->size(), 2U);
    EXPECT_EQ((*files)[0].name, "QB-TB4.step");
    EXPECT_EQ((*files)[1].name, "QB-TB4-on-board.step");
    const Solid alone = readBack((*files)[0]);
    ASSERT_EQ(alone.bodies.size(), 5U);
    const Rect& r = f.body->rect;
    EXPECT_NEAR(volumeOf(alone, "body"), r.width().mm() * r.height().mm() * f.body->height.mm(), 1e-3);
    for (const Pad& p : f.pads)
        EXPECT_NEAR(volumeOf(alone, "lead " + p.number), p.leadX.mm() * p.leadY.mm() * (3.0 + 0.2), 1e-3) << p.number;
    const Box3 box = boundsOf(alone);
    EXPECT_NEAR(box.low.x, r.left.mm(), 1e-5);
    EXPECT_NEAR(box.high.z, f.body->height.mm(), 1e-5);
    EXPECT_NEAR(box.low.z, -3.0, 1e-5);
}

TEST(StepOut, OnItsBoardTheHolesAndTheCopperAreThere) {
    const Part part = *loadPart(kHome + "/QB-TB4.punch");
    const Footprint f = derive(part);
    const auto files = stepFiles(part, f, "QB-TB4", kHome);
    ASSERT_TRUE(files) << files.error().text();
    const Solid board = readBack((*files)[1]);
    // The board: its rectangle less its holes.
    Rect box = f.courtyard.grown(Length::fromMm(2.5));
    double holes = 0;
    const auto disc = [](Length d) { return std::numbers::pi * d.mm() * d.mm() / 4; };
    for (const Pad& p : f.pads) holes += disc(p.hole);
    for (const BareHole& h : f.bareHoles) holes += disc(h.size);
    EXPECT_NEAR(volumeOf(board, "board"), (box.width().mm() * box.height().mm() - holes) * 1.6, 1e-3);
    // A round land is a ring of copper on either side.
    const Pad* p = f.pad("p3");
    double lands = 0;
    for (const SolidBody& b : board.bodies)
        if (b.name.starts_with("top 3 ")) {
            lands += b.volume;
            EXPECT_EQ(b.colour, 0xB9783BU);
        }
    EXPECT_NEAR(lands, (disc(p->top.width) - disc(p->hole)) * 0.035, 1e-6);
    // The body from the file stands where the pose says: with the colours of its own.
    Solid mine;
    for (const SolidBody& b : board.bodies)
        if (b.name == "housing") {
            EXPECT_EQ(b.colour, 0x6E8577U);
            mine.bodies.push_back(b);
        }
    EXPECT_EQ(mine.bodies.size(), 1U);
    EXPECT_NEAR(boundsOf(board).high.z, f.body->height.mm(), 1e-4);
}

TEST(StepOut, WhatIsCutOutOfTheBoardIsCutOutOfItsSolid) {
    const Part part = *loadPart(kHome + "/QB-LX4.punch");
    const Footprint f = derive(part);
    ASSERT_FALSE(f.cutOuts.empty());
    const auto files = stepFiles(part, f, "QB-LX4", kHome);
    ASSERT_TRUE(files) << files.error().text();
    const Solid board = readBack(files->back());
    const Rect box = f.courtyard.grown(Length::fromMm(2.5));
    double least = 0;
    for (const Shape& c : f.cutOuts) least += areaOf(c.milled.outline);
    const double whole = box.width().mm() * box.height().mm() * 1.6;
    EXPECT_LT(volumeOf(board, "board"), whole - least * 1.6 * 0.99);
    EXPECT_GT(volumeOf(board, "board"), whole * 0.3);
}

TEST(StepOut, WithoutItsFileNoneIsWritten) {
    const Part part = *loadPart(kHome + "/QB-TB4.punch");
    // The rest is, and what is not says why.
    const auto files = releaseFiles(part, derive(part), {Format::Csv, Format::Step}, "/nowhere");
    ASSERT_TRUE(files) << files.error().text();
    EXPECT_EQ(files->size(), 1U);
    ASSERT_EQ(missingBodies(part, "/nowhere").size(), 1U);
    EXPECT_NE(missingBodies(part, "/nowhere").front().find("terminal"), std::string::npos);
    EXPECT_TRUE(missingBodies(part, kHome).empty());
    // A stranger's part does not have files from elsewhere read.
    Part strange = part;
    strange.solids.front().file = "../../etc/passwd";
    EXPECT_TRUE(partAsSolids(strange, derive(strange), kHome).bodies.empty());
}

}  // namespace
}  // namespace punch::step_out_test
