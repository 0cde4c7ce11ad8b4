// The gauge of fiducials: contrast ring, size, distance to the board's edge, and whether they tell where the board is.
// IPC-7351 and SMEMA 3.1; what the standards leave open are the house's values.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"
#include "core/part/mark_kinds.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

constexpr double kLeastRing = 2;                  // clear ring over diameter
const Length kLeastGlobal = Length::fromMm(1.0);  // diameters
const Length kLeastLocal = Length::fromMm(0.5);
const Length kMost = Length::fromMm(3.0);
const Length kEqual = Length::fromMm(0.025);  // of two on one board
const Length kToEdge = Length::fromMm(5.0);   // from the clear ring to the board's edge
const Length kSame = Length::fromMm(0.5);     // as far as a machine looks for one around its place
constexpr int kGlobal = 3;

struct Fiducial {
    const LaidMark* mark = nullptr;
    bool local = false;
    bool top = true;
    Length diameter, ring;
    Point at() const { return mark->points.front(); }
};

std::vector<Fiducial> fiducialsOf(const Part& part, const Results& f) {
    std::vector<Fiducial> all;
    for (std::size_t i = 0; i < f.laid.size(); ++i) {
        const LaidMark& m = f.laid[i];
        if (m.kind != MarkKind::Fiducial || !m.wrong.empty()) continue;
        all.push_back({&m, valueOf(part.marks[i], "reach") == "this part",
                       valueOf(part.marks[i], "side") != "solder side", m.length("diameter"), m.length("ring")});
    }
    return all;
}

enum class Symmetry { None, Mirrored, Turned };

/// Does another turn, or a mirror, lay them onto themselves? Then the machine cannot tell how the board lies.
Symmetry symmetryOf(const std::vector<Fiducial>& all) {
    double mx = 0, my = 0;
    for (const Fiducial& f : all) {
        mx += f.at().x.mm() / static_cast<double>(all.size());
        my += f.at().y.mm() / static_cast<double>(all.size());
    }
    const auto stays = [&](bool mirrored, double turn) {
        const double c = std::cos(turn), s = std::sin(turn);
        return std::all_of(all.begin(), all.end(), [&](const Fiducial& f) {
            const double x = f.at().x.mm() - mx, y = (f.at().y.mm() - my) * (mirrored ? -1 : 1);
            const Point to{Length::fromMm(mx + c * x - s * y), Length::fromMm(my + s * x + c * y)};
            return std::any_of(all.begin(), all.end(), [&](const Fiducial& g) { return distance(to, g.at()) < kSame; });
        });
    };
    // The first one is laid onto each.
    const double x = all.front().at().x.mm() - mx, y = all.front().at().y.mm() - my;
    Symmetry found = Symmetry::None;
    for (const Fiducial& g : all) {
        const double to = std::atan2(g.at().y.mm() - my, g.at().x.mm() - mx);
        if (&g != &all.front() && stays(false, to - std::atan2(y, x))) return Symmetry::Turned;
        if (stays(true, to + std::atan2(y, x))) found = Symmetry::Mirrored;
    }
    return found;
}

/// How far within the board a fiducial's clear ring lies, from its nearest edge; negative: over it. None where no edge
/// is known; `loose` names one whose place is not.
std::optional<Length> toEdge(const Part& part, const Results& f, const Fiducial& fiducial, FeatureId& loose) {
    std::optional<Length> least;
    for (const FaceLine& face : f.faces) {
        const Face* edge = faceOf(part, face.id);
        if (edge == nullptr || face.kind != FaceKind::BoardEdge || face.axis == Axis::Height) continue;
        if (!face.doubt) loose = face.id;
        const Length at = face.axis == Axis::Along ? fiducial.at().x : fiducial.at().y;
        const Length within = (edge->positive ? face.at - at : at - face.at) - fiducial.ring / 2;
        if (!least || within < *least) least = within;
    }
    return least;
}

}  // namespace

Gauge fiducialsGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    g.limit = kLeastRing;
    const std::vector<Fiducial> all = fiducialsOf(part, f);
    if (all.empty()) return unknownGauge(g, "none drawn");
    std::vector<Fiducial> global, local;
    const Fiducial* least = nullptr;
    for (const Fiducial& one : all) {
        if (!one.mark->firm) return unknownGauge(g, one.mark->name + " is loose", {one.mark->id});
        if (one.diameter <= Length()) {
            g.state = GaugeState::NoGo;
            g.words = "no size";
            g.about = {one.mark->id};
            return g;
        }
        (one.local ? local : global).push_back(one);
        if (least == nullptr || one.ring / one.diameter < least->ring / least->diameter) least = &one;
    }
    const auto noGo = [&](std::string words, const Fiducial& about, std::vector<Length> of = {}) {
        g.state = GaugeState::NoGo;
        g.words = std::move(words);
        g.of = std::move(of);
        g.about = {about.mark->id};
        return g;
    };
    g.value = least->ring / least->diameter;
    g.margin = *g.value - kLeastRing;
    if (*g.margin < -1e-9) return noGo(fmt::format("clear ring {:.2g} times it, least 2", *g.value), *least);
    const std::vector<Conductor> copper = f.board().copper();
    for (const Fiducial& one : all) {
        const Length low = one.local ? kLeastLocal : kLeastGlobal;
        if (one.diameter < low) return noGo("{} {u}, least {}", one, {one.diameter, low});
        if (one.diameter > kMost) return noGo("{} {u}, most {}", one, {one.diameter, kMost});
        if (abs(one.diameter - all.front().diameter) > kEqual)
            return noGo("{} and {} {u}: not equal", one, {all.front().diameter, one.diameter});
        // Nothing but itself within its ring.
        const RoundedPolygon ring = RoundedPolygon::disc(one.at(), one.ring);
        for (const Conductor& c : copper) {
            if (c.id == one.mark->id) continue;
            const Land& land = one.top ? c.top : c.bottom;
            if (land.there() && gap(ring, copperShape(land)) < Length::fromNm(-1))
                return noGo("copper within its clear ring", one);
        }
        if (one.local) continue;
        FeatureId loose;
        const auto edge = toEdge(part, f, one, loose);
        if (!loose.empty()) return unknownGauge(g, "board edge is loose", {loose});
        if (edge && *edge < kToEdge - Length::fromNm(1))
            return noGo(*edge < Length() ? "over the edge of the board" : "{} of {} {u} to the edge", one,
                        {*edge, kToEdge});
    }
    if (!local.empty()) {
        // A pair on a diagonal, so that a turn is seen as well as a shift.
        const Point d = local.back().at() - local.front().at();
        if (local.size() < 2) return noGo("one alone: a local pair is asked", local.front());
        if (local.size() == 2 && (abs(d.x) < kSame || abs(d.y) < kSame))
            return noGo("pair not on a diagonal", local.front());
    }
    // One alone is a part of its own, for the board to place.
    const bool itself = part.formations.empty() && all.size() == 1;
    if (!global.empty() && !itself) {
        if (global.size() < kGlobal)
            return noGo(fmt::format("{} for the board, {} are asked", global.size(), kGlobal), global.front());
        const Symmetry symmetry = symmetryOf(global);
        if (symmetry == Symmetry::Turned) return noGo("symmetrical: turned unseen", global.front());
        if (symmetry == Symmetry::Mirrored) {
            // Seen from the other side they look the same; whoever has them on one side alone may live with it.
            noGo("the same mirrored", global.front());
            g.state = GaugeState::Watch;
            return g;
        }
    }
    g.state = GaugeState::Go;
    g.words = fmt::format("clear ring {:.2g} times it", *g.value);
    g.about = {least->mark->id};
    return g;
}

}  // namespace punch
