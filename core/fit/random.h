#pragma once
// Counted random numbers: each is a hash of seed, trial and purpose, so that any of them can be drawn by any thread.
//
// The mixer is the finaliser of SplitMix64 (Steele, Lea, Flood 2014) applied to both halves of the counter.

#include <cmath>
#include <cstdint>
#include <numbers>
#include <utility>

namespace punch {

class Draw {
public:
    Draw(std::uint64_t seed, std::uint64_t trial)
        : key_(mix(mix(seed + 0x9E3779B97F4A7C15ULL) ^ (trial * 0xD1B54A32D192ED03ULL))) {}

    /// 0 to 1, never either.
    double uniform(std::uint64_t purpose) const { return (static_cast<double>(bits(purpose) >> 11) + 0.5) * 0x1.0p-53; }
    /// -1 to 1.
    double symmetric(std::uint64_t purpose) const { return 2 * uniform(purpose) - 1; }
    /// The length of what normals() gives for the same purpose.
    double radius(std::uint64_t purpose) const { return std::sqrt(-2 * std::log(uniform(2 * purpose + (1ULL << 40)))); }
    /// Two independent standard normals (Box and Muller).
    std::pair<double, double> normals(std::uint64_t purpose) const {
        const double r = std::sqrt(-2 * std::log(uniform(2 * purpose + (1ULL << 40))));
        const double a = 2 * std::numbers::pi * uniform(2 * purpose + 1 + (1ULL << 40));
        return {r * std::cos(a), r * std::sin(a)};
    }

private:
    static std::uint64_t mix(std::uint64_t z) {
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ULL;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBULL;
        return z ^ (z >> 31);
    }
    std::uint64_t bits(std::uint64_t purpose) const { return mix(key_ + (purpose + 1) * 0x9E3779B97F4A7C15ULL); }
    std::uint64_t key_;
};

}  // namespace punch
