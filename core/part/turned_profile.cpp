#include "core/part/turned_profile.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace punch {
namespace {

/// Numbers are read the same in every language.
bool twoNumbers(const std::string& text, double& a, double& b) {
    const char *at = text.data(), *const end = text.data() + text.size();
    for (double* number : {&a, &b}) {
        while (at != end && *at == ' ') ++at;
        const auto [next, error] = std::from_chars(at, end, *number);
        if (error != std::errc() || !std::isfinite(*number)) return false;
        at = next;
    }
    while (at != end && *at == ' ') ++at;
    return at == end;
}

}  // namespace

Result<std::vector<ProfileCorner>> turnedProfile(const std::string& typed) {
    std::vector<ProfileCorner> all;
    std::size_t at = 0;
    while (at <= typed.size()) {
        const std::size_t end = std::min(typed.find(',', at), typed.size());
        const std::string corner = typed.substr(at, end - at);
        double r = 0, z = 0;
        if (!twoNumbers(corner, r, z)) return problem("a corner of a profile is a radius and a height: 3 2.5", corner);
        if (r < 0 || std::abs(r) > 1000 || std::abs(z) > 1000)
            return problem("a profile stays on its side of the axis, within 1 m", corner);
        if (!all.empty() && z < all.back().second) return problem("a profile runs upwards", corner);
        all.push_back({r, z});
        at = end + 1;
    }
    double area = 0;
    for (std::size_t i = 0; i + 1 < all.size(); ++i)
        area += (all[i].first + all[i + 1].first) / 2 * (all[i + 1].second - all[i].second);
    if (all.size() < 2 || all.size() > 400 || area < 1e-6)
        return problem("a profile of 2 to 400 corners encloses something", typed);
    return all;
}

}  // namespace punch
