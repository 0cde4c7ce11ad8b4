#include "tests/support/scenes.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/angle.h"

namespace punch::test {

namespace {

using maker::Look;
using maker::Thing;

struct Plan {
    std::vector<std::pair<double, double>> places;
    double reachX = 0, reachY = 0;
};

double pick(std::mt19937& r, std::initializer_list<double> of) {
    return *(of.begin() + static_cast<std::ptrdiff_t>(r() % of.size()));
}

Plan planOf(TrueScene& t, int kind, std::mt19937& r) {
    Plan plan;
    auto& at = plan.places;
    const auto count = [&](int low, int high) {
        return low + static_cast<int>(r() % static_cast<unsigned>(high - low + 1));
    };
    t.pitch = pick(r, {2.5, 2.54, 3.5, 3.81, 5.0, 5.08});
    switch (kind) {
        case 0: {  // row
            const int n = count(2, t.pitch > 4 ? 5 : 9);
            for (int i = 0; i < n; ++i) at.emplace_back(i * t.pitch, 0);
            t.kind = FormationKind::Row;
            break;
        }
        case 1: {  // row with a gap
            const int n = count(5, t.pitch > 4 ? 6 : 9);
            const int out = count(1, n - 2);
            for (int i = 0; i < n; ++i)
                if (i != out) at.emplace_back(i * t.pitch, 0);
            t.kind = FormationKind::Row;
            t.leftOut = 1;
            break;
        }
        case 2: {  // two equal rows
            const int n = count(2, 5);
            const double gap = pick(r, {7.62, 10.16, 12.0});
            for (int row = 0; row < 2; ++row)
                for (int i = 0; i < n; ++i) at.emplace_back(i * t.pitch, row * gap);
            t.kind = FormationKind::TwoRows;
            break;
        }
        case 3: {  // two unlike rows
            t.pitch = 2.54;
            const int n = count(6, 8);
            const double gap = pick(r, {10.2, 12.7, 14.3});
            for (int i = 0; i < n; ++i) at.emplace_back(i * 2.54, 0);
            for (int i = 0; i < 3; ++i) at.emplace_back(1.9 + i * 5.08, gap);
            t.kind = FormationKind::TwoRows;
            break;
        }
        case 4: {  // staggered
            const int n = count(3, 5);
            const double gap = pick(r, {2.54, 3.0, 5.0});
            for (int i = 0; i < n; ++i) at.emplace_back(i * t.pitch, 0);
            for (int i = 0; i < n - static_cast<int>(r() % 2); ++i) at.emplace_back((i + 0.5) * t.pitch, gap);
            t.kind = FormationKind::Staggered;
            break;
        }
        case 5: {  // grid, some with positions left out
            t.pitch = pick(r, {2.5, 2.54, 3.81});
            const int columns = count(3, 5);
            const int rows = count(3, 4);
            const int out = r() % 2 == 0 ? -1 : count(1, columns * rows - 2);
            for (int row = 0; row < rows; ++row)
                for (int c = 0; c < columns; ++c)
                    if (row * columns + c != out) at.emplace_back(c * t.pitch, row * t.pitch);
            t.kind = FormationKind::Grid;
            t.leftOut = out < 0 ? 0 : 1;
            break;
        }
        case 6:    // ring
        case 7: {  // ring with one in the middle
            const int n = count(5, 9);
            t.circle = pick(r, {10.0, 11.5, 14.0});
            for (int i = 0; i < n; ++i)
                at.emplace_back(t.circle / 2 * std::cos((90 + 360.0 * i / n) * kRadians),
                                t.circle / 2 * std::sin((90 + 360.0 * i / n) * kRadians));
            t.middle = kind == 7;
            if (t.middle) at.emplace_back(0, 0);
            t.kind = FormationKind::Ring;
            t.pitch = 0;
            break;
        }
        default: {  // arc
            const int n = count(4, 7);
            t.circle = pick(r, {12.0, 15.0});
            const double step = pick(r, {30, 36});
            for (int i = 0; i < n; ++i) {
                const double a = (90 + (i - (n - 1) / 2.0) * step) * kRadians;
                at.emplace_back(t.circle / 2 * std::cos(a), t.circle / 2 * std::sin(a));
            }
            t.kind = FormationKind::Ring;
            t.arc = true;
            t.pitch = 0;
        }
    }
    double left = 1e9, right = -1e9, low = 1e9, high = -1e9;
    for (const auto& [x, y] : at) {
        left = std::min(left, x);
        right = std::max(right, x);
        low = std::min(low, y);
        high = std::max(high, y);
    }
    for (auto& [x, y] : at) {
        x -= (left + right) / 2;
        y -= (low + high) / 2;
    }
    plan.reachX = (right - left) / 2;
    plan.reachY = (high - low) / 2;
    return plan;
}

}  // namespace

TrueScene randomScene(int number, double dpi) {
    std::mt19937 r(static_cast<std::uint32_t>(number) * 7919u + 17u);
    std::uniform_real_distribution<double> unit(-1, 1);
    TrueScene t;
    const Plan plan = planOf(t, number % 9, r);
    const int shape = number / 9 % 3;  // round, square, flat
    const double size =
        t.pitch > 0 ? std::min(0.42 * t.pitch, 0.64 + 0.5 * std::abs(unit(r))) : 0.7 + 0.4 * std::abs(unit(r));
    for (const auto& [x, y] : plan.places) {
        Thing pin;
        pin.x = x;
        pin.y = y;
        pin.round = shape == 0;
        pin.width = size;
        pin.height = shape == 2 ? std::max(0.5, 0.6 * size) : size;
        t.scene.things.push_back(pin);
    }
    t.pins = t.scene.things.size();
    maker::Scene& s = t.scene;
    s.dpi = dpi;
    s.seed = static_cast<std::uint32_t>(number) + 100u;
    s.stretchX = 1 + 0.0025 * unit(r);
    s.stretchY = 1 + 0.0025 * unit(r);
    s.tilt = 3 * unit(r);
    s.fromBelow = number % 2 == 0;
    s.housingWidth = std::max(12.0, 2 * plan.reachX + 7);
    s.housingHeight = std::max(9.0, 2 * plan.reachY + 7);
    s.pictureWidth = s.housingWidth + 10;
    s.pictureHeight = s.housingHeight + 10;
    s.middleX = s.pictureWidth / 2 + unit(r);
    s.middleY = s.pictureHeight / 2 + unit(r);
    s.ruler = false;
    s.dust = std::array{0.0, 15.0, 40.0}[static_cast<std::size_t>(number / 27 % 3)];
    s.gloss = std::array{0.0, 0.5, 1.0}[static_cast<std::size_t>(number / 81 % 3)];
    const int contrast = number / 5 % 3;
    s.metal = std::array{210, 165, 120}[static_cast<std::size_t>(contrast)];
    s.housing = std::array{45, 62, 70}[static_cast<std::size_t>(contrast)];
    if (number % 4 == 1 && plan.reachY < 5) {
        Thing peg;
        peg.look = Look::Peg;
        peg.x = 0.3 * plan.reachX;
        peg.y = -plan.reachY - 2.2;
        peg.width = peg.height = 1.6;
        s.things.push_back(peg);
        s.plastic = s.housing + 45;
        s.housingHeight += 5;
        s.pictureHeight += 5;
        s.middleY += 2.5;
    }
    return t;
}

}  // namespace punch::test
