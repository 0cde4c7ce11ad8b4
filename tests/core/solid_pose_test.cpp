// Solids are put onto their holes: three hundred of seven kinds, in any frame and unit, with leads bent or missing.

#include "core/solid/fit_pose.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <cmath>
#include <filesystem>
#include <numbers>

#include "core/solid/solid_worker.h"
#include "tests/support/solid_parts.h"

namespace punch::solid_pose_test {
namespace {

using test::BodyKind;

std::vector<Socket> socketsOf(const test::SolidPart& part, const Pose& board) {
    std::vector<Socket> all;
    const auto add = [&](Flat at, double size) {
        const Vec3 p = board({at.x, at.y, 0});
        const std::string name = std::to_string(all.size() + 1);
        all.push_back({"p" + name, name, {p.x, p.y}, size});
    };
    for (const Flat& at : part.leads) add(at, part.thick * 1.1 + 0.3);
    for (const Flat& at : part.pegs) add(at, 1.8);
    return all;
}

/// Degrees between them, and mm between where they put a point 10 mm from the board's origin.
std::pair<double, double> between(const Pose& a, const Pose& b) {
    const Pose d = after(a, inverse(b));
    const double trace = d.x.x + d.y.y + d.z.z;
    const double half = std::sqrt(std::max(0.0, (3 - trace) / 4));
    return {2 * std::asin(std::min(1.0, half)) * 180 / std::numbers::pi, norm(d.move)};
}

/// Turns of the holes about z that put them onto themselves.
int symmetries(const std::vector<Socket>& sockets) {
    const auto n = static_cast<double>(sockets.size());
    Flat m;
    for (const Socket& s : sockets) m = {m.x + s.at.x / n, m.y + s.at.y / n};
    int count = 0;
    for (int step = 0; step < 720; ++step) {
        const double a = step * std::numbers::pi / 360, c = std::cos(a), s = std::sin(a);
        const bool maps = std::all_of(sockets.begin(), sockets.end(), [&](const Socket& from) {
            const double x = from.at.x - m.x, y = from.at.y - m.y;
            const Flat to{m.x + c * x - s * y, m.y + s * x + c * y};
            return std::any_of(sockets.begin(), sockets.end(), [&](const Socket& t) {
                return std::hypot(t.at.x - to.x, t.at.y - to.y) < 1e-6 && t.size == from.size;
            });
        });
        count += maps ? 1 : 0;
    }
    return count;
}

/// Written as STEP, in inches or mm, and read again.
Result<Solid> throughFile(SolidWorker& worker, SolidsToMake all, bool inches) {
    const auto path =
        (std::filesystem::temp_directory_path() / ("punch-pose-" + std::to_string(::getpid()) + ".step")).string();
    all.inches = inches;
    const auto written = worker.writeStep(all, path);
    if (!written) return tl::make_unexpected(written.error());
    auto solid = worker.readStep(path);
    std::filesystem::remove(path);
    return solid;
}

/// Fifty each.
class SolidPose : public testing::TestWithParam<int> {};

TEST_P(SolidPose, OfThreeHundredIsFoundAndWhatIsOffIsNamed) {
    test::Dice dice(300U + static_cast<unsigned>(GetParam()));
    SolidWorker worker;
    double worstTurn = 0, worstMove = 0;
    for (int round = 50 * GetParam(); round < 50 * (GetParam() + 1); ++round) {
        const auto kind = static_cast<BodyKind>(round % test::kBodyKinds);
        test::SolidPart part = test::solidPart(kind, 2 + dice.below(round % 10 == 0 ? 59 : 14), dice);
        const auto bodies = part.make.bodies;
        // A third of them has a lead bent or missing.
        const int change = dice.below(6);
        std::size_t changed = part.leads.size();
        const double bend = dice.between(0.2, 0.5), way = dice.between(0, 2 * std::numbers::pi);
        if (change < 2 && part.leads.size() >= 3) {
            changed = static_cast<std::size_t>(dice.below(static_cast<int>(part.leads.size())));
            const std::string name = "lead " + std::to_string(changed + 1);
            if (change == 0)
                std::erase_if(part.make.bodies, [&](const MadeBody& b) { return b.name == name; });
            else
                for (MadeBody& b : part.make.bodies)
                    if (b.name == name) b.pose.move = b.pose.move + Vec3{bend * std::cos(way), bend * std::sin(way), 0};
        }
        const Pose file = test::anyPose(dice);
        part.make.pose = file;
        // The footprint lies anywhere on the board.
        Pose board = turnAbout({0, 0, 1}, dice.between(0, 360));
        board.move = {dice.between(-30, 30), dice.between(-30, 30), 0};
        const auto sockets = socketsOf(part, board);
        const auto solid = round % 5 == 0 ? throughFile(worker, part.make, round % 2 == 0) : worker.make(part.make);
        ASSERT_TRUE(solid) << solid.error().text();
        const auto poses = fitPoses(standings(*solid), sockets);
        ASSERT_FALSE(poses.empty()) << round;
        const Pose truth = after(board, inverse(file));
        const std::string what = "round " + std::to_string(round) + ", kind " + std::to_string(static_cast<int>(kind)) +
                                 ", leads " + std::to_string(part.leads.size()) + ", changed " + std::to_string(change);
        // One of those that are as good as the best is the true one.
        const FittedPose* right = nullptr;
        double turn = 1e9, move = 1e9;
        int equivalent = 0;
        for (const FittedPose& p : poses) {
            if (!isEquivalent(p, poses.front())) continue;
            ++equivalent;
            const auto [t, m] = between(p.pose, truth);
            if (t + m < turn + move) {
                turn = t;
                move = m;
                right = &p;
            }
        }
        const bool whole = changed == part.leads.size();
        // A peg tells as much as a lead.
        const std::size_t tell = part.leads.size() + part.pegs.size();
        if (whole || tell >= 4) {
            ASSERT_LT(turn, 0.01) << what;
            ASSERT_LT(move, 0.002) << what;
            worstTurn = std::max(worstTurn, turn);
            worstMove = std::max(worstMove, move);
        }
        if (whole) {
            EXPECT_TRUE(right->off.empty()) << what;
            EXPECT_TRUE(right->withoutLead.empty() && right->withoutHole.empty()) << what;
            EXPECT_GE(equivalent, symmetries(sockets)) << what;
        } else if (change == 0) {
            ASSERT_EQ(right->withoutLead.size(), 1U) << what;
            EXPECT_EQ(right->withoutLead.front(), changed) << what;
        } else if (tell >= 4) {
            EXPECT_TRUE(right->sure) << what;
            ASSERT_EQ(right->off.size(), 1U) << what;
            EXPECT_EQ(right->matches[right->off.front()].socket, changed) << what;
            EXPECT_NEAR(right->matches[right->off.front()].residual, bend, 0.002) << what;
        } else {
            // Too few to tell which: one of these.
            EXPECT_FALSE(right->sure) << what;
            EXPECT_EQ(right->off.size(), right->matches.size()) << what;
        }
    }
    RecordProperty("worst turn in millionths of a degree", static_cast<int>(worstTurn * 1e6));
    RecordProperty("worst move in nm", static_cast<int>(worstMove * 1e6));
}

INSTANTIATE_TEST_SUITE_P(Generated, SolidPose, testing::Range(0, 6));

}  // namespace
}  // namespace punch::solid_pose_test
