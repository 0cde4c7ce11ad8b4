#include "core/solid/leads.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>

#include "core/part/solid_file.h"

namespace punch {
namespace {

constexpr double kLookStep = 0.1;      // mm between two looks
constexpr double kLookedThrough = 30;  // mm above the lowest point that are looked through
constexpr double kShortest = 0.5;      // mm below the seating plane
constexpr double kWidest = 8;          // mm, of a lead or peg
constexpr double kHalfBoard = 0.8;     // mm
constexpr double kNear = 0.02;         // mm, off a plane
constexpr double kSameWay = 0.05;      // degrees

/// A piece that is followed upwards.
struct Chain {
    double low = 0, high = 0;  ///< heights at which it was first and last seen
    double long_ = 0, small = 0;
    Flat middle;
    Flat boxLow, boxHigh;
    Flat endLow, endHigh;  ///< its box where it was first seen
    int body = 0;
    bool open = true;
    bool held = false;  ///< something larger is around it, or above its end
};

double longSide(const SectionLoop& l) { return std::max(l.high.x - l.low.x, l.high.y - l.low.y); }
Flat middle(const SectionLoop& l) { return {(l.low.x + l.high.x) / 2, (l.low.y + l.high.y) / 2}; }

bool meets(const Chain& c, const SectionLoop& l) {
    const double by = 0.05;
    return l.low.x <= c.boxHigh.x + by && l.high.x >= c.boxLow.x - by && l.low.y <= c.boxHigh.y + by &&
           l.high.y >= c.boxLow.y - by;
}

/// Does the loop carry the chain on? Not when it is much longer, or elsewhere.
bool carriesOn(const Chain& c, const SectionLoop& l) {
    const double was = std::max(c.boxHigh.x - c.boxLow.x, c.boxHigh.y - c.boxLow.y);
    const double is = longSide(l);
    if (is > 1.6 * was + 0.25 || was > 2.2 * is + 0.25) return false;
    const Flat m = middle(l);
    return std::hypot(m.x - c.middle.x, m.y - c.middle.y) < 0.25 + 0.3 * was;
}

class Following {
public:
    explicit Following(const Sections& sections) : sections_(sections) {}

    std::vector<Chain> run() {
        const double top = std::min(sections_.high(), sections_.low() + kLookedThrough);
        const int n = static_cast<int>((top - sections_.low()) / kLookStep) + 1;
        for (int i = 0; i <= n; ++i) {
            const double z = std::min(sections_.low() + kNear / 4 + i * kLookStep, top - kNear / 4);
            look(z);
            // When all that was slender has ended, the rest tells nothing.
            const bool going = std::any_of(chains_.begin(), chains_.end(), [](const Chain& c) { return c.open; });
            if (!going && i > 0) break;
        }
        return std::move(chains_);
    }

private:
    void look(double z) {
        std::vector<SectionLoop> loops = sections_.at(z);
        std::erase_if(loops, [](const SectionLoop& l) { return l.area <= 0; });
        const std::size_t before = chains_.size();
        std::vector<bool> carried(before, false);
        for (std::size_t l = 0; l < loops.size(); ++l) {
            std::size_t best = chains_.size();
            std::size_t count = 0;
            for (std::size_t c = 0; c < before; ++c)
                if (chains_[c].open && meets(chains_[c], loops[l]) && carriesOn(chains_[c], loops[l])) {
                    best = c;
                    ++count;
                }
            if (count == 1 && !carried[best]) {
                Chain& c = chains_[best];
                carried[best] = true;
                take(c, loops[l], z);
                continue;
            }
            // It begins here, on what was there or on nothing.
            Chain begins;
            begins.low = z;
            begins.body = loops[l].body;
            begins.endLow = loops[l].low;
            begins.endHigh = loops[l].high;
            take(begins, loops[l], z);
            // Wider than any lead: it is never one.
            begins.open = longSide(loops[l]) < kWidest * 1.5;
            chains_.push_back(begins);
            carried.push_back(true);
        }
        // What holds a lead is around it, or above where it ends.
        for (std::size_t c = 0; c < carried.size(); ++c) {
            Chain& chain = chains_[c];
            if (chain.open && !chain.held && chain.low < z)
                chain.held = std::any_of(loops.begin(), loops.end(), [&](const SectionLoop& l) {
                    return l.low.x <= chain.middle.x && l.high.x >= chain.middle.x && l.low.y <= chain.middle.y &&
                           l.high.y >= chain.middle.y && longSide(l) > 1.2 * chain.long_ + 0.1;
                });
            if (!carried[c]) chain.open = false;
        }
    }
    static void take(Chain& c, const SectionLoop& l, double z) {
        c.high = z;
        c.boxLow = l.low;
        c.boxHigh = l.high;
        c.middle = middle(l);
        const double w = l.high.x - l.low.x, h = l.high.y - l.low.y;
        // At its widest; a tip says little.
        c.long_ = std::max(c.long_, std::max(w, h));
        c.small = std::max(c.small, std::abs(l.area) / std::max(std::max(w, h), 1e-9));
    }

    const Sections& sections_;
    std::vector<Chain> chains_;
};

bool isSlender(const Chain& c) {
    const double length = c.high - c.low;
    return c.held && length >= kShortest && c.long_ <= kWidest && length >= 0.6 * c.small && length >= 0.3 * c.long_;
}

/// The loop around material at that height whose box meets the place; none when there is none.
const SectionLoop* loopAt(const std::vector<SectionLoop>& loops, Flat at, double within) {
    const SectionLoop* best = nullptr;
    double least = within;
    for (const SectionLoop& l : loops) {
        if (l.area <= 0) continue;
        const Flat m = middle(l);
        if (const double d = std::hypot(m.x - at.x, m.y - at.y); d < least) {
            least = d;
            best = &l;
        }
    }
    return best;
}

/// The height between two at which what holds at the lower one stops to.
template <class Holds>
double changes(double low, double high, const Holds& holds) {
    for (int i = 0; i < 34; ++i) {
        const double m = (low + high) / 2;
        (holds(m) ? low : high) = m;
    }
    return (low + high) / 2;
}

/// Where nobody set the seating plane it is found.
Standing found(const Solid& solid, Vec3 down, std::optional<double> set) {
    Standing s;
    s.pose = upright(down);
    const Sections sections(solid, s.pose);
    // Without leads it stands on its lowest point.
    s.pose.move = {0, 0, -sections.low()};
    s.height = sections.high() - sections.low();
    if (set) {
        s.pose.move.z = -*set;
        s.height = sections.high() - *set;
    }
    if (sections.high() - sections.low() < kShortest) return s;
    const std::vector<Chain> chains = Following(sections).run();
    std::vector<bool> lead;
    for (const Chain& c : chains) lead.push_back(isSlender(c));
    // What stands around a lead that reaches lower is a collar of the body.
    for (std::size_t i = 0; i < chains.size(); ++i) {
        const Chain& c = chains[i];
        lead[i] = lead[i] && std::none_of(chains.begin(), chains.end(), [&](const Chain& in) {
                      return in.low < c.low - kLookStep && isSlender(in) && in.middle.x > c.boxLow.x &&
                             in.middle.x < c.boxHigh.x && in.middle.y > c.boxLow.y && in.middle.y < c.boxHigh.y;
                  });
    }
    // The lowest of what is no lead, and of where leads end upwards.
    double seat = 0;
    if (set) {
        seat = *set;
        for (std::size_t i = 0; i < chains.size(); ++i) lead[i] = lead[i] && seat - chains[i].low >= kShortest;
    }
    for (bool again = !set; again;) {
        again = false;
        seat = sections.high();
        for (std::size_t i = 0; i < chains.size(); ++i)
            seat = std::min(seat, lead[i] ? chains[i].high + kLookStep : chains[i].low);
        for (std::size_t i = 0; i < chains.size(); ++i)
            if (lead[i] && seat - chains[i].low < kShortest + kLookStep) {
                lead[i] = false;
                again = true;
            }
    }
    if (std::none_of(lead.begin(), lead.end(), [](bool l) { return l; })) return s;
    // Exactly: below it there are only the leads, each as it was.
    const auto onlyLeads = [&](double z) {
        const auto loops = sections.at(z);
        std::size_t outer = 0, found = 0;
        for (const SectionLoop& l : loops) outer += l.area > 0 ? 1 : 0;
        for (std::size_t i = 0; i < chains.size(); ++i) {
            if (!lead[i] || z < chains[i].low) continue;
            const SectionLoop* l = loopAt(loops, chains[i].middle, 0.25 + 0.5 * chains[i].long_);
            if (l == nullptr || longSide(*l) > 1.6 * chains[i].long_ + 0.25) return false;
            ++found;
        }
        return found == outer;
    };
    if (!set) {
        double below = seat - 1.5 * kLookStep;
        for (int i = 0; i < 20 && !onlyLeads(below); ++i) below -= kLookStep;
        seat = changes(below, seat + 2 * kLookStep, onlyLeads);
    }
    // Leads of one length are looked at at the same heights.
    std::map<double, std::vector<SectionLoop>> known;
    const auto loopsAt = [&](double z) -> const std::vector<SectionLoop>& {
        const auto it = known.find(z);
        return it != known.end() ? it->second : known.emplace(z, sections.at(z)).first->second;
    };
    for (std::size_t i = 0; i < chains.size(); ++i) {
        const Chain& c = chains[i];
        if (!lead[i] || seat - c.low < kShortest) continue;
        const auto at = [&](double z) -> std::optional<std::pair<SectionShape, SectionLoop>> {
            const SectionLoop* l = loopAt(loopsAt(z), c.middle, 0.6 + 0.5 * c.long_);
            if (l == nullptr) return {};
            return std::pair(shapeOf(*l), *l);
        };
        SolidLead found;
        const Flat by{kNear, kNear};
        const double end = std::min(c.low, sections.lowestOver({c.endLow.x - by.x, c.endLow.y - by.y},
                                                               {c.endHigh.x + by.x, c.endHigh.y + by.y}));
        found.length = seat - end;
        const double z = std::min(seat - std::min(kHalfBoard, found.length / 2), c.high);
        const auto section = at(z);
        if (!section) continue;
        found.section = section->first;
        found.at = found.section.middle;
        found.body = c.body;
        // Both well within, off edges that are broken.
        const auto high = at(std::min(seat - kNear, c.high)), low = at(end + std::min(0.3, found.length / 4));
        if (high && low)
            found.lean = {low->first.middle.x - high->first.middle.x, low->first.middle.y - high->first.middle.y};
        for (const SectionLoop& l : loopsAt(z))
            if (l.area < 0 && l.low.x >= section->second.low.x && l.high.x <= section->second.high.x &&
                l.low.y >= section->second.low.y && l.high.y <= section->second.high.y)
                found.bore -= l.area;
        s.leads.push_back(found);
    }
    s.pose.move = {0, 0, -seat};
    s.height = sections.high() - seat;
    return s;
}

}  // namespace

Standing standing(const Solid& solid, Vec3 down) { return found(solid, down, {}); }

Standing standing(const Solid& solid, Vec3 down, double seat) { return found(solid, down, seat); }

std::vector<Standing> standings(const Solid& solid) {
    // Ways in which faces look or axes run, by how much surface says so.
    struct Way {
        Vec3 along;
        double area = 0;
    };
    std::vector<Way> ways;
    const double same = std::cos(kSameWay * M_PI / 180);
    for (const SolidFace& f : solid.faces) {
        if (f.kind == SurfaceKind::Other || f.kind == SurfaceKind::Sphere || norm(f.axis) < 0.5) continue;
        const auto it = std::find_if(ways.begin(), ways.end(),
                                     [&](const Way& w) { return std::abs(dot(w.along, f.axis)) >= same; });
        if (it == ways.end())
            ways.push_back({unit(f.axis), f.area});
        else
            it->area += f.area;
    }
    std::stable_sort(ways.begin(), ways.end(), [](const Way& a, const Way& b) { return a.area > b.area; });
    if (ways.size() > kMostWays / 2) ways.resize(kMostWays / 2);
    std::vector<Standing> all;
    for (const Way& w : ways)
        for (const Vec3 down : {w.along, -w.along})
            if (Standing s = standing(solid, down); !s.leads.empty()) all.push_back(std::move(s));
    std::stable_sort(all.begin(), all.end(),
                     [](const Standing& a, const Standing& b) { return a.leads.size() > b.leads.size(); });
    return all;
}

}  // namespace punch
