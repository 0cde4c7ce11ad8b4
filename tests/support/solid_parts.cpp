#include "tests/support/solid_parts.h"

#include <gtest/gtest.h>

#include "core/solid/solid_worker.h"

namespace punch::test {
namespace {

constexpr Colour kPlastic = 0x2E3A46, kMetal = 0xC8CCD0;

std::string lead(std::size_t i) { return "lead " + std::to_string(i + 1); }

MadeBody block(double left, double bottom, double right, double top, double low, double high) {
    return {"body", kPlastic, Prism{flatRectangle(left, bottom, right, top), low, high}, {}, {}};
}

}  // namespace

SolidPart solidPart(BodyKind kind, int pins, Dice& dice) {
    SolidPart p;
    const double pitch = dice.coin() ? 2.54 : dice.coin() ? 2.0 : 3.5;
    const double below = dice.between(2.0, 4.0);
    const auto add = [&](MadeBody b) { p.make.bodies.push_back(std::move(b)); };
    switch (kind) {
        case BodyKind::Header: {
            // Round leads in one row, under a block that is not in their middle.
            const int n = std::max(pins, 2);
            const double d = dice.between(0.5, 1.2);
            p.thick = d;
            for (int i = 0; i < n; ++i) p.leads.push_back({i * pitch, 0});
            add(block(-1.3, -2, (n - 1) * pitch + 1.3, 1.1, 0, 6));
            for (std::size_t i = 0; i < p.leads.size(); ++i)
                add({lead(i), kMetal, Prism{flatCircle(p.leads[i].x, 0, d), -below, 0.5}, {}, {}});
            break;
        }
        case BodyKind::DualInLine: {
            // Flat leads that come out of the sides and bend down past the body.
            const int n = std::max(pins / 2, 1);
            const double row = 7.62;
            p.thick = 0.5;
            add(block(-1.2, -row / 2 + 0.7, (n - 1) * pitch + 1.2, row / 2 - 0.7, 0.5, 4));
            for (const double side : {-1.0, 1.0})
                for (int i = 0; i < n; ++i) {
                    p.leads.push_back({i * pitch, side * row / 2});
                    Swept s{{{i * pitch, side * (row / 2 - 1.2), 2.0},
                             {i * pitch, side * row / 2, 2.0},
                             {i * pitch, side * row / 2, -below}},
                            0.4,
                            0.5,
                            0.25,
                            false};
                    add({lead(p.leads.size() - 1), kMetal, s, {}, {}});
                }
            // It stands on two feet.
            for (const double x : {-0.6, (n - 1) * pitch + 0.6})
                add({"foot", kPlastic, Prism{flatRectangle(x - 0.4, -1, x + 0.4, 1), 0, 0.5}, {}, {}});
            break;
        }
        case BodyKind::Tapered: {
            // Square leads that taper all the way, in two rows of unequal length.
            const int n = std::max(pins, 2);
            p.thick = 0.8;
            for (int i = 0; i < n; ++i) {
                const bool second = i >= (n + 1) / 2;
                p.leads.push_back({(second ? i - (n + 1) / 2 : i) * pitch, second ? 5.08 : 0});
            }
            add(block(-2, -2, ((n + 1) / 2 - 1) * pitch + 2, 7, 0, 5));
            for (std::size_t i = 0; i < p.leads.size(); ++i) {
                const auto [x, y] = p.leads[i];
                Tapered t{{{x - 0.2, y - 0.2, 0}, {x + 0.2, y - 0.2, 0}, {x + 0.2, y + 0.2, 0}, {x - 0.2, y + 0.2, 0}},
                          {{x - 0.4, y - 0.4, 0}, {x + 0.4, y - 0.4, 0}, {x + 0.4, y + 0.4, 0}, {x - 0.4, y + 0.4, 0}},
                          -below,
                          0.3};
                add({lead(i), kMetal, t, {}, {}});
            }
            break;
        }
        case BodyKind::Can: {
            // A round can on a ring of leads.
            const int n = std::max(std::min(pins, 12), 2);
            const double ring = n > 6 ? 6 : 3;
            p.thick = 0.6;
            add({"can",
                 kMetal,
                 TurnedProfile{{{0, 0, 0}, {ring + 1.5, 0, 0}, {ring + 1.5, 7, 0}, {ring + 1, 8, 0}, {0, 8, 0}}},
                 {},
                 {}});
            for (int i = 0; i < n; ++i) {
                const double a = 2 * M_PI * i / (n + (n > 2 ? 1 : 0));
                p.leads.push_back({ring * std::cos(a), ring * std::sin(a)});
                add({lead(static_cast<std::size_t>(i)),
                     kMetal,
                     Prism{flatCircle(p.leads.back().x, p.leads.back().y, 0.6), -below, 0.2},
                     {},
                     {}});
            }
            break;
        }
        case BodyKind::TerminalBlock: {
            // Blades, and a peg off their row.
            const int n = std::max(pins, 2);
            p.thick = 1.2;
            for (int i = 0; i < n; ++i) p.leads.push_back({i * 5.0, 0});
            add(block(-2.5, -4, (n - 1) * 5.0 + 2.5, 4, 0, 10));
            for (std::size_t i = 0; i < p.leads.size(); ++i) {
                const double x = p.leads[i].x;
                add({lead(i), kMetal, Prism{flatRectangle(x - 0.4, -0.6, x + 0.4, 0.6), -below, 1}, {}, {}});
            }
            p.pegs.push_back({2.5, 2.5});
            add({"peg",
                 kPlastic,
                 TurnedProfile{{{0, -1.8, 0}, {0.6, -1.8, 0}, {0.8, -1.4, 0}, {0.8, 0.2, 0}, {0, 0.2, 0}}},
                 {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {2.5, 2.5, 0}},
                 {}});
            break;
        }
        case BodyKind::Axial: {
            // A round body that lies above the board, its two leads bent down.
            const double reach = 6 + pitch;
            p.thick = 0.7;
            p.leads = {{0, 0}, {2 * reach, 0}};
            Pose lying = turnAbout({0, 1, 0}, 90);
            lying.move = {reach - 3, 0, 1.25};
            add({"body", kPlastic, TurnedProfile{{{0, 0, 0}, {1.25, 0, 0}, {1.25, 6, 0}, {0, 6, 0}}}, lying, {}});
            for (const double side : {-1.0, 1.0}) {
                Swept s{
                    {{reach + side * 2.5, 0, 1.25}, {reach + side * reach, 0, 1.25}, {reach + side * reach, 0, -below}},
                    0.9,
                    0.7,
                    0.7,
                    true};
                add({lead(side < 0 ? 0 : 1), kMetal, s, {}, {}});
            }
            break;
        }
        case BodyKind::Module: {
            // A small board on two unlike rows of square pins, with a tall piece on it.
            const int n = std::max(pins, 3), front = n - n / 3;
            p.thick = 0.64;
            for (int i = 0; i < n; ++i)
                p.leads.push_back(i < front ? Flat{i * pitch, 0} : Flat{(i - front) * 2 * pitch, 10.16});
            add({"carrier", 0x2F6B4F, Prism{flatRectangle(-2, -2, front * pitch + 2, 12.5), 2.5, 4.1}, {}, {}});
            add({"coil", kPlastic, Prism{flatRectangle(1, 3, 6, 8), 4.1, 12}, {}, {}});
            add({"strip", kPlastic, Prism{flatRectangle(-1.2, -1.2, (front - 1) * pitch + 1.2, 1.2), 0, 2.5}, {}, {}});
            for (std::size_t i = 0; i < p.leads.size(); ++i) {
                const auto [x, y] = p.leads[i];
                add({lead(i),
                     kMetal,
                     Prism{flatRectangle(x - 0.32, y - 0.32, x + 0.32, y + 0.32), -below, 4.5},
                     {},
                     {}});
            }
            break;
        }
    }
    return p;
}

Pose anyPose(Dice& dice) {
    const Pose a = turnAbout({dice.between(-1, 1), dice.between(-1, 1), dice.between(0.1, 1)}, dice.between(0, 360));
    return after(
        Pose{
            {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {dice.between(-200, 200), dice.between(-200, 200), dice.between(-50, 50)}},
        a);
}

Solid madeSolid(std::vector<MadeBody> bodies) {
    SolidsToMake all;
    all.bodies = std::move(bodies);
    SolidWorker worker;
    auto solid = worker.make(all);
    EXPECT_TRUE(solid) << solid.error().text();
    return solid ? std::move(*solid) : Solid{};
}

MadeBody boxBody(const char* name, double left, double front, double right, double rear, double low, double high) {
    return {name, kNoColour, Prism{flatRectangle(left, front, right, rear), low, high}, {}, {}};
}

}  // namespace punch::test
