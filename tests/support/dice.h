#pragma once
// Seeded random choices for property tests.

#include <random>

namespace punch::test {

class Dice {
public:
    explicit Dice(unsigned seed) : random_(seed) {}
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }
    /// 0 to n - 1.
    int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
    bool coin() { return below(2) == 0; }

private:
    std::mt19937 random_;
};

}  // namespace punch::test
