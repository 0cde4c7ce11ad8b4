#include "core/clear/room.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

#include "core/clear/conductors.h"
#include "core/clear/spacing.h"
#include "core/clear/ways.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

using Margin = std::function<double(Length)>;  // mm to spare at a size of land

/// The largest size up to `high` at which `margin` (falling with the size) is not negative; `low` when none is.
Length largest(const Margin& margin, Length low, Length high) {
    double a = low.mm();
    double b = high.mm();
    double fa = margin(low);
    if (fa < 0) return low - Length::fromMm(1);
    double fb = margin(high);
    if (fb >= 0) return high;
    // Nearly linear in the size: false position, with the end that stays halved in weight (Illinois).
    for (int i = 0; i < 60 && b - a > 1e-7; ++i) {
        double m = a + (b - a) * fa / (fa - fb);
        if (!(m > a && m < b)) m = (a + b) / 2;
        const double fm = margin(Length::fromMm(m));
        if (fm >= 0) {
            if (fm < 1e-8) return Length::fromMm(m);
            a = m;
            fa = fm;
            fb /= 2;
        } else {
            b = m;
            fb = fm;
            fa /= 2;
        }
        if (fa <= 0) break;
    }
    return Length::fromMm(a);
}

class RoomFinder {
public:
    RoomFinder(const Part& part, const Board& board)
        : part_(part),
          board_(board),
          all_(metal(part, board)),
          metal_(all_.size()),
          potentials_(potentialByFeature(part)),
          ways_(part, board) {
        for (const Conductor& p : liveSurroundings(part, board)) all_.push_back(p);
        for (const Conductor& p : all_) {
            // A circle around all its lands.
            Rect box;
            for (const Land* land : {&p.top, &p.inner, &p.bottom})
                if (land->there()) box.add(boundsOf(copperShape(*land)));
            middles_.push_back(box.middle());
            reaches_.push_back(hypot(box.width(), box.height()) / 2);
        }
        const FabProfile& fab = part.rules.fab;
        mostNeeded_ = max(fab.leastGap, fab.leastMaskWeb + 3.0 * fab.maskMargin);
        for (const Potential& a : part.potentials)
            for (const Potential& b : part.potentials)
                if (&a != &b) mostNeeded_ = max(mostNeeded_, askedBetween(part.rules, a, b).needed);
    }

    Room of(const Conductor& pad, bool across) {
        Room r;
        r.pad = pad.id;
        r.across = across;
        const Land& land = shownLand(pad);
        r.now = across ? land.length : land.width;
        lower(pad, r);
        r.most = mostLand();
        const Length from = max(r.least, Length::fromMm(0.01));
        // The nearest first: they leave little for those further away to limit. Growing from now to a size brings two
        // lands nearer by no more than that growth, over their corners.
        std::vector<std::pair<Length, std::size_t>> near;
        near.reserve(all_.size());
        for (std::size_t i = 0; i < all_.size(); ++i)
            if (all_[i].id != pad.id)
                near.emplace_back(distance(land.at, middles_[i]) - reaches_[i] - hypot(land.width, land.length) / 2, i);
        std::sort(near.begin(), near.end());
        for (const auto& [bound, index] : near) {
            if (bound > mostNeeded_ + 1.5 * (r.most - min(r.now, r.least))) break;
            const Conductor& other = all_[index];
            // Copper of one number may touch; a keepout is no copper.
            const bool apart = other.number != pad.number && index < metal_;
            const bool together = growsWith(pad, other);
            const auto pairAt = [&](Length size) {
                return std::pair{withLand(pad, size, across), together ? withLand(other, size, across) : other};
            };
            if (apart) {
                const auto gapAt = [&](Length size) {
                    const auto [a, b] = pairAt(size);
                    return copperGap(a, b).value_or(Length::fromMm(1e3)).mm();
                };
                limit(r, from, "copper-to-copper", other.id,
                      [&](Length size) { return gapAt(size) - part_.rules.fab.leastGap.mm(); });
                limit(r, from, "mask web", other.id, [&](Length size) {
                    const auto [a, b] = pairAt(size);
                    return maskWeb(a, b).value_or(Length::fromMm(1e3)).mm() - part_.rules.fab.leastMaskWeb.mm();
                });
            }
            voltage(pad, other, across, from, r, pairAt);
        }
        for (const BareHole& h : board_.bareHoles)
            if (!h.plated) cut(pad, across, from, h.id, holeShape(h), r);
        for (const Shape& c : board_.cutOuts)
            for (const RoundedPolygon& piece : c.pieces) cut(pad, across, from, c.id, piece, r);
        for (const FaceLine& face : board_.faces)
            if (face.kind == FaceKind::BoardEdge && face.axis != Axis::Height) {
                // The edge as a thin strip that is longer than any board.
                const Length far = Length::fromMm(1500);
                const bool x = face.axis == Axis::Along;
                const RoundedPolygon edge =
                    RoundedPolygon::stroke(x ? Point{face.at, -far} : Point{-far, face.at},
                                           x ? Point{face.at, far} : Point{far, face.at}, Length());
                cut(pad, across, from, face.id, edge, r);
            }
        const double steps = std::floor(r.most / bestStep() + 1e-6);
        const Length best = Length::fromMm(steps * 0.05);
        r.best = r.most >= r.least && best >= r.least && r.most < mostLand() ? best : Length();
        return r;
    }

private:
    void lower(const Conductor& pad, Room& r) const {
        const double need = leastRingOf(part_.rules).mm();
        const auto short_ = [&](Length size) {
            return need - ringOf(part_.rules, withLand(pad, size, r.across)).mm() - 1e-9;
        };
        r.leastBy = "ring";
        if (short_(mostLand()) > 0) {  // the other axis is what is too small
            r.least = mostLand() + Length::fromMm(1);
            return;
        }
        double a = pad.hole.mm();
        double b = mostLand().mm();
        for (int i = 0; i < 60 && b - a > 1e-8; ++i) {
            const double m = (a + b) / 2;
            (short_(Length::fromMm(m)) > 0 ? a : b) = m;
        }
        r.least = Length::fromMm(b);
        // A size that is meant to be a whole micrometre is that one.
        const Length whole = Length::fromUm(std::nearbyint(r.least.um()));
        if (abs(whole - r.least) < Length::fromNm(1)) r.least = whole;
    }
    bool growsWith(const Conductor& pad, const Conductor& other) const {
        const Land& a = shownLand(pad);
        const Land& b = shownLand(other);
        // The pad of the first pin is marked by its shape and grows all the same.
        return board_.pad(other.id) != nullptr && other.formation == pad.formation && a.width == b.width &&
               a.length == b.length;
    }
    static void limit(Room& r, Length from, const char* by, const FeatureId& about, const Margin& margin) {
        if (r.most >= from && margin(r.most) >= -1e-9) return;
        const Length most = largest([&](Length s) { return margin(s) + 1e-9; }, from, max(r.most, from));
        if (most >= r.most && !(most < from)) return;
        r.most = most;
        r.mostBy = by;
        r.about = {about};
    }
    template <class PairAt>
    void voltage(const Conductor& pad, const Conductor& other, bool, Length from, Room& r, const PairAt& pairAt) {
        const auto pa = potentials_.find(pad.id);
        const auto pb = potentials_.find(other.id);
        if (pa == potentials_.end() || pb == potentials_.end() || pa->second == pb->second) return;
        const VoltagePair ask = askedBetween(part_.rules, part_.potentials[pa->second], part_.potentials[pb->second]);
        if (!ask.refused.empty() || copperGapBound(pad, other) > ask.needed + r.most) return;
        limit(r, from, "voltage", other.id, [&](Length size) {
            VoltagePair pair = ask;
            const auto [a, b] = pairAt(size);
            ways_.measure(pair, a, b);
            return pair.margin().mm();
        });
    }
    void cut(const Conductor& pad, bool across, Length from, const std::string& id, const RoundedPolygon& shape,
             Room& r) {
        limit(r, from, "copper-to-copper", id, [&](Length size) {
            const Conductor grown = withLand(pad, size, across);
            Length least = Length::fromMm(1e3);
            for (const Land* land : {&grown.top, &grown.inner, &grown.bottom})
                if (land->there()) least = min(least, gap(copperShape(*land), shape));
            return (least - part_.rules.fab.copperToEdge).mm();
        });
    }
    const Part& part_;
    Board board_;
    std::vector<Conductor> all_;  ///< metal first
    std::size_t metal_;
    std::vector<Point> middles_;
    std::vector<Length> reaches_;
    Length mostNeeded_;  ///< that any two pads can ask of each other
    std::map<FeatureId, std::size_t> potentials_;
    Ways ways_;
};

std::string words(const Part& part, const Room& r) {
    std::string at;
    for (const FeatureId& id : r.about) at += (at.empty() ? " to " : ", ") + featureWords(part, id);
    return r.mostBy + at;
}

}  // namespace

std::vector<Room> rooms(const Part& part, const Board& board) {
    std::vector<Room> all;
    RoomFinder finder(part, board);
    for (const Pad& pad : board.pads) {
        if (pad.layers != PadLayers::Through || !pad.sized || !pad.firm) continue;
        all.push_back(finder.of(pad, false));
        if (mayBeLonger(shownLand(pad).shape)) all.push_back(finder.of(pad, true));
    }
    return all;
}

std::optional<Room> roomOfFormation(const Part& part, const Cleared& cleared, const std::string& formation,
                                    bool across) {
    std::optional<Room> all;
    for (const Room& r : cleared.rooms) {
        const Formation* of = formationOf(part, r.pad);
        if (of == nullptr || of->id != formation || r.across != across) continue;
        if (!all) {
            all = r;
            continue;
        }
        if (r.least > all->least) {
            all->least = r.least;
            all->leastBy = r.leastBy;
        }
        if (r.most < all->most) {
            all->most = r.most;
            all->mostBy = r.mostBy;
            all->about = r.about;
            all->pad = r.pad;
        }
    }
    if (!all) return {};
    const Length best = Length::fromMm(std::floor(all->most / bestStep() + 1e-6) * 0.05);
    all->best = all->most >= all->least && best >= all->least && all->most < mostLand() ? best : Length();
    return all;
}

Result<Part> withBestPad(Part part, const Cleared& cleared, const std::string& target) {
    const auto set = [&](const std::string& key, const Room& r, bool across) {
        PadOverride& o = part.overrides[key];
        (across ? o.landLength : o.land) = r.best;
        // Lands that differ by layer keep their own sizes.
        o.reason = fmt::format("best pad, the largest that passes: {} binds", words(part, r));
    };
    const auto refuse = [&](const Room& r) {
        if (r.most >= mostLand())
            return problem("nothing near limits the land", featureWords(part, r.pad), "Type the size that you want");
        return problem(fmt::format("there is no room: {} asks for {:.2f} at least, {} allows {:.2f}", r.leastBy,
                                   r.least.mm(), words(part, r), max(r.most, Length()).mm()),
                       featureWords(part, r.pad), "See what would make some");
    };
    const bool formation = formationById(part, target) != nullptr;
    bool any = false;
    for (const bool across : {false, true}) {
        std::optional<Room> r;
        if (formation) {
            r = roomOfFormation(part, cleared, target, across);
        } else {
            for (const Room& one : cleared.rooms)
                if (one.pad == target && one.across == across) r = one;
        }
        if (!r) continue;
        if (r->best <= Length()) return refuse(*r);
        // Both axes at once may be too much: the width is what grows, the length follows only if it has to.
        if (across && r->now <= r->best && r->now >= r->least) continue;
        set(target, *r, across);
        any = true;
    }
    if (!any)
        return problem("no room is known", formation ? "formation" : featureWords(part, target),
                       "Measure lead and places first");
    // A pin's own land would hide what its formation gets.
    if (formation)
        for (const FeatureId& pin : formationById(part, target)->pins)
            if (const auto it = part.overrides.find(pin); it != part.overrides.end()) {
                it->second.land.reset();
                it->second.landLength.reset();
                PadOverride empty;
                empty.reason = it->second.reason;
                if (it->second == empty) part.overrides.erase(it);
            }
    return part;
}

Part withoutOverride(Part part, const std::string& target) {
    part.overrides.erase(target);
    return part;
}

}  // namespace punch
