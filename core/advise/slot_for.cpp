#include "core/advise/slot_for.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/clear/conductors.h"
#include "core/clear/voltage_pairs.h"
#include "core/size/drill_lists.h"

namespace punch {
namespace {

constexpr double kStep = 0.1;       // mm: slots are as long as that many tenths
constexpr double kLongest = 150.0;  // mm
constexpr double kShorter = 0.8;    // a slanting or shifted slot has to be this much shorter than a plain one

std::vector<Length> millsOf(const Rules& rules) {
    std::vector<Length> mills = rules.fab.mills;
    std::sort(mills.begin(), mills.end());
    return mills;
}

/// A slot on a line through `middle` along `u`, from `from` to `to` (middles of its ends), in mm.
struct Candidate {
    plane::V middle, u;
    double from = 0, to = 0, width = 0;
    bool plain = true;  ///< along x or y, half way
    RoundedPolygon shape() const {
        const auto at = [&](double t) {
            return Point{Length::fromMm(middle.x + t * u.x), Length::fromMm(middle.y + t * u.y)};
        };
        return RoundedPolygon::stroke(at(from), at(to), Length::fromMm(width));
    }
    Shape cut() const {
        Shape cut{Purpose::Cut, {}, "slot", shape()};
        cut.pieces = {shape()};
        cut.milled.kind = CutOutKind::Slot;
        cut.milled.width = 2.0 * cut.pieces.front().radius;
        return cut;
    }
    double length() const { return to - from + width; }
    double along(Point p) const { return (p.x.mm() - middle.x) * u.x + (p.y.mm() - middle.y) * u.y; }
    double across(Point p) const { return -(p.x.mm() - middle.x) * u.y + (p.y.mm() - middle.y) * u.x; }
};

class SlotSearch {
public:
    SlotSearch(const Part& part, const Board& board, const VoltagePair& pair) : part_(part), board_(board) {
        all_ = metal(part, board);
        metal_ = all_.size();
        for (const Conductor& p : liveSurroundings(part, board)) all_.push_back(p);
        const auto live = potentialByFeature(part);
        ask_ = pair;
        for (const Conductor& p : all_) {
            const auto potential = live.find(p.id);
            if (potential == live.end()) continue;
            if (potential->second == live.at(pair.a)) a_.push_back(&p);
            if (potential->second == live.at(pair.b)) b_.push_back(&p);
        }
        // No way is shorter than the straight one: who stands far enough apart can be left out.
        for (const Conductor* a : a_)
            for (const Conductor* b : b_)
                if (const auto g = copperGap(*a, *b); !g)
                    otherFaces_.emplace_back(a, b);
                else if (*g < ask_.creepage.value_or(ask_.needed))
                    near_.emplace_back(a, b);
    }

    /// A slot is a wall too: over it the ways between different faces have to be long enough.
    bool keepsFacesApart(const Candidate& c) const {
        if (otherFaces_.empty()) return true;
        const std::vector<Shape> cuts = cutsWith(c);
        Ways ways(part_, board_.with(cuts));
        return std::all_of(otherFaces_.begin(), otherFaces_.end(), [&](const auto& both) {
            VoltagePair pair = ask_;
            ways.measure(pair, *both.first, *both.second);
            return pair.margin() >= Length();
        });
    }

    /// The shortest on this line that serves and is no longer than `most`, or none.
    bool fit(Candidate& c, double most) const {
        if (!clear(c)) return false;
        for (int round = 0; round < 800; ++round) {
            const Failing worst = worstOf(c);
            if (worst.missing <= 0) {
                trim(c);
                return c.length() <= most;
            }
            // The way goes around one end, so that end moves out; a pair that is not crossed yet draws it there.
            const double by = std::max(kStep, std::floor(worst.missing / 4 / kStep) * kStep);
            (worst.at >= (c.from + c.to) / 2 ? c.to : c.from) += worst.at >= (c.from + c.to) / 2 ? by : -by;
            // What is too long by more than trimming takes off again.
            if (c.length() > std::min(kLongest, most + 2) || !clear(c)) return false;
        }
        return false;
    }

    const std::vector<const Conductor*>& a() const { return a_; }
    const std::vector<const Conductor*>& b() const { return b_; }

private:
    struct Failing {
        double missing = 0;  ///< mm
        double at = 0;       ///< where the way passes the slot's line
    };
    Failing worstOf(const Candidate& c) const {
        const std::vector<Shape> cuts = cutsWith(c);
        Ways ways(part_, board_.with(cuts));
        Failing worst;
        for (const auto& [a, b] : near_) {
            VoltagePair pair = ask_;
            ways.measure(pair, *a, *b);
            const double missing = (ask_.creepage.value_or(ask_.needed) - pair.way).mm();
            if (missing <= worst.missing + 1e-9) continue;
            worst.missing = missing;
            const auto& way = pair.path.empty() ? pair.line : pair.path;
            // Where it crosses the slot's line.
            for (std::size_t i = 1; i < way.size(); ++i) {
                const double s = c.across(way[i - 1]);
                const double e = c.across(way[i]);
                if ((s > 0) == (e > 0)) continue;
                const double share = s / (s - e);
                worst.at = c.along(way[i - 1]) + share * (c.along(way[i]) - c.along(way[i - 1]));
            }
        }
        return worst;
    }
    std::vector<Shape> cutsWith(const Candidate& c) const {
        std::vector<Shape> cuts = board_.cutOuts;
        cuts.push_back(c.cut());
        return cuts;
    }
    bool clear(const Candidate& c) const {
        const RoundedPolygon slot = c.shape();
        const FabProfile& fab = part_.rules.fab;
        for (std::size_t i = 0; i < metal_; ++i)
            for (const Land* land : {&all_[i].top, &all_[i].inner, &all_[i].bottom})
                if (land->there() && gap(slot, copperShape(*land)) < fab.copperToEdge) return false;
        for (const FaceLine& face : board_.faces)
            if (carriesVoltage(part_, face.id))
                if (const auto edge = surroundingMetal(part_, board_, face.id);
                    edge && gap(slot, copperShape(edge->top)) < fab.leastWeb)
                    return false;
        for (const Pad& p : board_.pads)
            if (p.hole > Length() && gap(slot, holeShape(p)) < fab.leastWeb) return false;
        for (const BareHole& h : board_.bareHoles)
            if (gap(slot, holeShape(h)) < fab.leastWeb) return false;
        for (const Shape& cut : board_.cutOuts)
            for (const RoundedPolygon& piece : cut.pieces)
                if (gap(slot, piece) < fab.leastWeb) return false;
        return true;
    }
    void trim(Candidate& c) const {
        for (bool shorter = true; shorter;) {
            shorter = false;
            for (const bool end : {true, false}) {
                Candidate less = c;
                (end ? less.to : less.from) += end ? -kStep : kStep;
                if (less.to - less.from < 2 * kStep || worstOf(less).missing > 0) continue;
                c = less;
                shorter = true;
            }
        }
    }

    const Part& part_;
    Board board_;
    std::vector<Conductor> all_;  ///< metal first
    std::size_t metal_ = 0;
    std::vector<const Conductor*> a_, b_;
    std::vector<std::pair<const Conductor*, const Conductor*>> near_, otherFaces_;
    VoltagePair ask_;
};

/// The lines on which a slot may lie, the plainest first.
std::vector<Candidate> linesFor(const SlotSearch& search, const VoltagePair& pair) {
    const plane::V p{pair.line[0].x.mm(), pair.line[0].y.mm()};
    const plane::V q{pair.line[1].x.mm(), pair.line[1].y.mm()};
    const plane::V middle{(p.x + q.x) / 2, (p.y + q.y) / 2};
    const double len = std::hypot(q.x - p.x, q.y - p.y);
    std::vector<Candidate> lines;
    // Along x or y, half way between the two fields of copper where they stand apart.
    for (const bool alongX : {std::abs(q.y - p.y) >= std::abs(q.x - p.x), std::abs(q.y - p.y) < std::abs(q.x - p.x)}) {
        Rect a;
        Rect b;
        for (const Conductor* pad : search.a()) a.add(boundsOf(landShape(*pad)));
        for (const Conductor* pad : search.b()) b.add(boundsOf(landShape(*pad)));
        Candidate c;
        c.middle = middle;
        c.u = alongX ? plane::V{1, 0} : plane::V{0, 1};
        const Length lowA = alongX ? a.bottom : a.left;
        const Length highA = alongX ? a.top : a.right;
        const Length lowB = alongX ? b.bottom : b.left;
        const Length highB = alongX ? b.top : b.right;
        double& across = alongX ? c.middle.y : c.middle.x;
        if (highA < lowB) across = ((highA + lowB) / 2).mm();
        if (highB < lowA) across = ((highB + lowA) / 2).mm();
        lines.push_back(c);
    }
    // Then shifted to either side, and slanting: square to the pair's own line, and turned from it.
    const std::vector<Candidate> plain = lines;
    const double half = len / 2;
    for (Candidate c : plain)
        for (const double share : {-0.3, 0.3, -0.6, 0.6}) {
            Candidate shifted = c;
            shifted.middle = {c.middle.x - c.u.y * share * half, c.middle.y + c.u.x * share * half};
            shifted.plain = false;
            lines.push_back(shifted);
        }
    const double square = std::atan2(q.x - p.x, -(q.y - p.y));
    for (const double turn : {0.0, 15.0, -15.0, 30.0, -30.0, 45.0, -45.0})
        for (const double share : {0.0, -0.5, 0.5}) {
            const double angle = square + turn * std::numbers::pi / 180;
            Candidate c;
            c.u = {std::cos(angle), std::sin(angle)};
            c.middle = {middle.x - c.u.y * share * half, middle.y + c.u.x * share * half};
            c.plain = false;
            lines.push_back(c);
        }
    return lines;
}

}  // namespace

Length leastSlotWidth(const Rules& rules, std::optional<Length> clearance) {
    if (rules.standard == VoltageStandard::Ipc2221) return rules.fab.leastSlot;
    return max(rules.fab.leastSlot, leastCutWidth(rules.iec, clearance) + rules.fab.slotTolerance);
}

Length usualSlotWidth(const Rules& rules) {
    const Length least = leastSlotWidth(rules, {});
    return nextDrillUp(millsOf(rules), least).value_or(least);
}

Result<CutOut> slotFor(const Part& part, const Footprint& f, const FeatureId& a, const FeatureId& b) {
    const VoltagePair* pair = pairOf(f, a, b);
    const std::string where = featureWords(part, a) + " and " + featureWords(part, b);
    if (pair == nullptr) return problem("they carry no different potentials", where, "Give each of them one");
    if (!pair->refused.empty()) return problem(pair->refused, where, "Keep the distance by hand");
    if (pair->otherFaces)
        return problem("they lie on different faces of the board, and a slot would only open a way between them", where,
                       "Move what is cut out of the board further away");
    if (!pair->creepage)
        return problem("IPC-2221B knows no way over the surface that a slot could lengthen", where,
                       "Take distances by IEC 60664-1, or smaller lands");
    if (pair->gap < *pair->clearance)
        return problem(fmt::format("through air they are {:.2f} apart where {:.2f} is asked; no slot helps",
                                   pair->gap.mm(), pair->clearance->mm()),
                       where, "Make the lands smaller or move the pins apart");
    const SlotSearch search(part, f.board(), *pair);
    const Length least = leastSlotWidth(part.rules, pair->clearance);
    const std::vector<Length> mills = millsOf(part.rules);
    for (const Length mill : mills) {
        if (mill < least - Length::fromNm(1)) continue;
        std::optional<Candidate> best;
        for (Candidate c : linesFor(search, *pair)) {
            c.width = mill.mm();
            // The crossing of the pair's own line, on a tenth of a millimetre.
            const double at = (c.along(pair->line[0]) + c.along(pair->line[1])) / 2;
            c.from = std::nearbyint((at - kStep) / kStep) * kStep;
            c.to = c.from + 2 * kStep;
            const double most = !best ? kLongest : c.plain ? best->length() - kStep : kShorter * best->length();
            if (search.fit(c, most) && search.keepsFacesApart(c)) best = c;
        }
        if (!best) continue;
        CutOut cut;
        cut.kind = CutOutKind::Slot;
        cut.name = "slot";
        cut.width = mill;
        const RoundedPolygon shape = best->shape();
        cut.from = shape.corners.front() + f.datum;
        cut.to = shape.corners.back() + f.datum;
        // It goes where the two go.
        if (const auto pa = f.place(a), pb = f.place(b); pa && pb && !isFace(part, a) && !isFace(part, b)) {
            cut.of = a;
            cut.with = b;
            cut.base = Point{(pa->x + pb->x) / 2, (pa->y + pb->y) / 2} + f.datum;
        }
        return cut;
    }
    return problem("no slot that is clear of copper and holes is long enough", where,
                   mills.empty() || mills.back() < least
                       ? fmt::format("The fab profile has no mill bit of {:.2f} or more", least.mm())
                       : "Look at the other ways");
}

CutOut attachedToNearest(CutOut cut, const Footprint& f) {
    struct Near {
        FeatureId id;
        Point at;
        Length away;
    };
    const Point a = cut.from - f.datum, b = cut.to - f.datum;
    const RoundedPolygon line = RoundedPolygon::stroke(a, b, Length());
    std::vector<Near> all;
    const auto add = [&](const FeatureId& id, Point at) {
        all.push_back({id, at, gap(line, RoundedPolygon::disc(at, Length()))});
    };
    for (const Pad& p : f.pads) add(p.id, p.at);
    for (const BareHole& h : f.bareHoles) add(h.id, h.at);
    if (all.empty()) return cut;
    std::sort(all.begin(), all.end(), [](const Near& x, const Near& y) { return x.away < y.away; });
    const auto side = [&](Point p) {
        return (b.x - a.x).mm() * (p.y - a.y).mm() - (b.y - a.y).mm() * (p.x - a.x).mm() > 0;
    };
    cut.of = all.front().id;
    cut.base = all.front().at + f.datum;
    // The nearest on its other side, where that is no further off than twice.
    for (const Near& other : all)
        if (cut.kind == CutOutKind::Slot && side(other.at) != side(all.front().at) &&
            other.away <= 2.0 * all.front().away) {
            cut.with = other.id;
            cut.base = Point{(all.front().at.x + other.at.x) / 2, (all.front().at.y + other.at.y) / 2} + f.datum;
            break;
        }
    return cut;
}

}  // namespace punch
