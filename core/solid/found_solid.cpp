#include "core/solid/found_solid.h"

#include "core/solid/lead_slices.h"
#include "core/solid/shadows.h"
#include "core/solid/touch_search.h"

#include <algorithm>
#include <boost/uuid/detail/sha1.hpp>
#include <cmath>

namespace punch {
namespace {

constexpr double kSameLead = 0.3;  // mm

/// Around all corners above the board, seen from above.
std::vector<std::array<double, 2>> outlineOf(const Solid& solid, const Pose& pose) {
    std::vector<std::array<double, 2>> points;
    for (const Vec3& corner : solid.corners)
        if (const Vec3 p = pose(corner); p.z > 0.01) points.push_back({p.x, p.y});
    std::sort(points.begin(), points.end());
    std::vector<std::array<double, 2>> hull;
    const auto turn = [](const auto& a, const auto& b, const auto& c) {
        return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    };
    const auto chain = [&](auto from, auto to) {
        const std::size_t base = hull.size();
        for (auto it = from; it != to; ++it) {
            while (hull.size() >= base + 2 && turn(hull[hull.size() - 2], hull.back(), *it) <= 1e-9) hull.pop_back();
            hull.push_back(*it);
        }
        if (!hull.empty()) hull.pop_back();
    };
    chain(points.begin(), points.end());
    chain(points.rbegin(), points.rend());
    return hull;
}

constexpr double kFirst = 0.1, kDeep = 1.6, kEnd = 0.3;  // mm below the seating plane; off the end
constexpr int kHeights = 6;

/// The widest that a lead is within a board, along and across: one that tapers or has a shoulder has to pass there.
void widen(SolidLeadFound& lead, const Sections& sections) {
    const double deep = std::min(kDeep, lead.length - kEnd), middle = std::min(0.8, lead.length / 2);
    for (int i = 0; i < kHeights && deep > kFirst; ++i) {
        const double z = -kFirst - (deep - kFirst) * i / (kHeights - 1), k = (-z - middle) / lead.length;
        const double x = lead.x + k * lead.leanX, y = lead.y + k * lead.leanY;
        for (const SectionLoop& loop : sections.at(z)) {
            if (loop.area <= 0 || loop.low.x > x || loop.high.x < x || loop.low.y > y || loop.high.y < y) continue;
            const SectionShape shape = shapeOf(loop);
            // What is much wider, or lies elsewhere, is the body around it.
            if (std::hypot(shape.middle.x - x, shape.middle.y - y) > 0.3 || shape.along > 3 * lead.along + 0.3)
                continue;
            lead.along = std::max(lead.along, shape.along);
            lead.across = std::max(lead.across, shape.across);
            // A broken edge shows no circle and makes it no less round; corners that stand out do.
            if (shape.rectangle && std::hypot(shape.along, shape.across) > lead.along) lead.round = false;
        }
    }
}

}  // namespace

SolidFile foundIn(const Solid& solid, const Standing& standing) {
    SolidFile file;
    // What is down in the standing's frame, in the file's.
    file.down = inverse(standing.pose).turned({0, 0, -1});
    file.seat = -standing.pose.move.z;
    file.height = standing.height;
    for (const SolidLead& l : standing.leads)
        file.leads.push_back({l.at.x,
                              l.at.y,
                              l.section.along,
                              l.section.across,
                              l.section.turn,
                              l.section.round,
                              l.length,
                              l.lean.x,
                              l.lean.y,
                              {}});
    const Sections sections(solid, standing.pose);
    for (SolidLeadFound& lead : file.leads) {
        widen(lead, sections);
        lead.slices = leadSlices(solid, standing.pose, sections, lead);
    }
    file.outline = outlineOf(solid, standing.pose);
    file.shadows = shadowsOf(solid, standing);
    return file;
}

SolidFile foundAgain(const Solid& solid, SolidFile file) {
    const Standing at = file.seatSet ? standing(solid, file.down, file.seat) : standing(solid, file.down);
    const SolidFile now = foundIn(solid, at);
    std::vector<SolidLeadFound> leads = now.leads;
    for (SolidLeadFound& l : leads)
        for (const SolidLeadFound& was : file.leads)
            if (std::hypot(l.x - was.x, l.y - was.y) < kSameLead) l.of = was.of;
    file.leads = std::move(leads);
    file.seat = now.seat;
    file.height = now.height;
    file.outline = now.outline;
    file.shadows = now.shadows;
    for (SolidMotion& m : file.motions) findMotion(solid, at, m);
    return file;
}

void findMotion(const Solid& solid, const Standing& standing, SolidMotion& motion) {
    motion.touches.reset();
    // Another file may have fewer bodies.
    if (motion.body >= 0 && static_cast<std::size_t>(motion.body) < solid.bodies.size()) {
        TouchSearch search;
        search.addMoving(solid, {}, motion.body);
        search.addStanding(solid, {}, motion.body);
        if (const auto touch = search.first(motion.motion)) motion.touches = touch->at;
    }
    sweep(solid, standing, motion);
}

std::string digestOf(const std::string& bytes) {
    boost::uuids::detail::sha1 sha;
    sha.process_bytes(bytes.data(), bytes.size());
    unsigned int digest[5];
    sha.get_digest(digest);
    std::string text;
    for (const unsigned int part : digest)
        for (int shift = 28; shift >= 0; shift -= 4) text += "0123456789abcdef"[part >> shift & 15];
    return text;
}

}  // namespace punch
