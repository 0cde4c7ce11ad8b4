#include "core/clear/voltage_pairs.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

#include "core/clear/conductors.h"
#include "core/clear/ways.h"

namespace punch {
namespace {

thread_local std::size_t exactDistances = 0;
constexpr std::size_t kAllExact = 60;  ///< pairs on different faces, some 10 ms each, up to which all are found exactly

/// What each two potentials ask of each other.
struct Asks {
    explicit Asks(const Part& part) : part_(part) {
        const std::size_t n = part.potentials.size();
        all_.resize(n * n);
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t k = 0; k < n; ++k)
                if (i != k) {
                    all_[i * n + k] = askedBetween(part.rules, part.potentials[i], part.potentials[k]);
                    most_ = max(most_, all_[i * n + k].needed);
                }
    }
    const VoltagePair& between(int a, int b) const {
        return all_[static_cast<std::size_t>(a) * part_.potentials.size() + static_cast<std::size_t>(b)];
    }
    Length most() const { return most_; }

private:
    const Part& part_;
    std::vector<VoltagePair> all_;
    Length most_;
};

void sortPairs(std::vector<VoltagePair>& pairs) {
    std::stable_sort(pairs.begin(), pairs.end(), [](const VoltagePair& x, const VoltagePair& y) {
        if (x.refused.empty() != y.refused.empty()) return y.refused.empty();
        // Whole nanometres, so that equal pairs keep their order.
        return std::nearbyint(x.margin().nm()) < std::nearbyint(y.margin().nm());
    });
}

struct Named {
    const Conductor* pad;
    int potential;
};

/// Pads in square cells, for looking up those near one of them.
class Cells {
public:
    Cells(const std::vector<Named>& all, Length side) : side_(side.mm()) {
        for (std::size_t i = 0; i < all.size(); ++i)
            cells_[key(cell(all[i].pad->at.x), cell(all[i].pad->at.y))].push_back(i);
    }
    template <class Visit>
    void near(Point p, Length reach, const Visit& visit) const {
        const int n = static_cast<int>(std::ceil(reach.mm() / side_));
        const int cx = cell(p.x);
        const int cy = cell(p.y);
        for (int x = cx - n; x <= cx + n; ++x)
            for (int y = cy - n; y <= cy + n; ++y)
                if (const auto it = cells_.find(key(x, y)); it != cells_.end())
                    for (const std::size_t i : it->second) visit(i);
    }

private:
    int cell(Length l) const { return static_cast<int>(std::floor(l.mm() / side_)); }
    static long long key(int x, int y) { return (static_cast<long long>(x) << 32) ^ static_cast<unsigned>(y); }
    double side_;
    std::unordered_map<long long, std::vector<std::size_t>> cells_;
};

}  // namespace

std::vector<VoltagePair> voltagePairs(const Part& part, const Board& board) {
    exactDistances = 0;
    const auto potentials = potentialByFeature(part);
    const std::vector<Conductor> all = metal(part, board);
    const std::vector<Conductor> surroundings = liveSurroundings(part, board);
    std::vector<Named> named;
    std::vector<Named> around;
    for (const Conductor& p : all)
        if (const auto it = potentials.find(p.id); it != potentials.end())
            named.push_back({&p, static_cast<int>(it->second)});
    for (const Conductor& p : surroundings) around.push_back({&p, static_cast<int>(potentials.at(p.id))});
    const Asks asks(part);
    Ways ways(part, board);
    std::vector<VoltagePair> pairs;
    const auto measure = [&](const Named& a, const Named& b) {
        VoltagePair pair = asks.between(a.potential, b.potential);
        pair.a = a.pad->id;
        pair.b = b.pad->id;
        ++exactDistances;
        ways.measure(pair, *a.pad, *b.pad);
        pairs.push_back(std::move(pair));
    };
    std::size_t onOtherFaces = 0;
    if (named.size() < 2 * kAllPairs)
        for (std::size_t i = 0; i < named.size(); ++i)
            for (std::size_t k = i + 1; k < named.size(); ++k)
                if (named[i].potential != named[k].potential && !shareLayer(*named[i].pad, *named[k].pad))
                    ++onOtherFaces;
    if (onOtherFaces > kAllExact) ways.roughWhereFar();
    for (const Named& a : named)
        for (const Named& b : around)
            if (a.potential != b.potential) measure(a, b);
    std::vector<std::size_t> counts(part.potentials.size(), 0);
    for (const Named& n : named) ++counts[static_cast<std::size_t>(n.potential)];
    std::size_t number = named.size() * named.size();
    for (const std::size_t c : counts) number -= c * c;
    number /= 2;
    if (number <= kAllPairs) {
        for (std::size_t i = 0; i < named.size(); ++i)
            for (std::size_t k = i + 1; k < named.size(); ++k)
                if (named[i].potential != named[k].potential) measure(named[i], named[k]);
        sortPairs(pairs);
        return pairs;
    }
    // Too many to list: those within reach of what they need, by cells; further out only until one is found at all.
    Length land;
    for (const Named& n : named)
        for (const Land* l : {&n.pad->top, &n.pad->inner, &n.pad->bottom}) land = max(land, hypot(l->width, l->length));
    const auto search = [&](Length reach, Length over) {
        const Cells cells(named, max(reach / 2, Length::fromMm(0.5)));
        for (std::size_t i = 0; i < named.size(); ++i)
            cells.near(named[i].pad->at, reach, [&](std::size_t k) {
                if (k <= i || named[i].potential == named[k].potential) return;
                const VoltagePair& ask = asks.between(named[i].potential, named[k].potential);
                const Length bound = copperGapBound(*named[i].pad, *named[k].pad) - ask.needed;
                if (bound < max(0.1 * ask.needed, over)) measure(named[i], named[k]);
            });
    };
    const std::size_t before = pairs.size();
    search(1.1 * asks.most() + land, Length());
    for (Length over = Length::fromMm(1); pairs.size() == before && over < Length::fromMm(1000); over = 4.0 * over)
        search(asks.most() + land + over, over);
    sortPairs(pairs);
    return pairs;
}

const VoltagePair* pairOf(const Cleared& cleared, const FeatureId& a, const FeatureId& b) {
    for (const VoltagePair& v : cleared.voltages)
        if ((v.a == a && v.b == b) || (v.a == b && v.b == a)) return &v;
    return nullptr;
}

std::size_t exactDistancesTaken() { return exactDistances; }

std::vector<Halo> halos(const Part& part) {
    std::vector<Halo> all;
    for (const Potential& p : part.potentials) {
        Length needed;
        for (const Potential& q : part.potentials)
            if (&q != &p) needed = max(needed, askedBetween(part.rules, p, q).needed);
        const char* kind = p.kind == PotentialKind::Dc ? " d.c." : p.kind == PotentialKind::Peak ? " peak" : "";
        const std::string volts = fmt::format("{:g} V{}", p.volts.volts(), kind);
        for (const FeatureId& pin : p.pins)
            if (featureExists(part, pin)) all.push_back({pin, p.name, volts, needed});
    }
    return all;
}

}  // namespace punch
