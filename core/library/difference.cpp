#include "core/library/difference.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/geometry/shapes.h"
#include "core/model/contacts.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

constexpr double kSameLength = 0.0005;  // mm

class Words {
public:
    std::vector<std::string> all;

    void text(const char* what, const std::string& a, const std::string& b) {
        if (a != b) all.push_back(fmt::format("{} “{}” → “{}”", what, a, b));
    }
    /// Names that only one of them has.
    void names(const char* what, const std::vector<std::string>& a, const std::vector<std::string>& b) {
        for (const std::string& n : b)
            if (std::find(a.begin(), a.end(), n) == a.end()) all.push_back(fmt::format("{} {} is new", what, n));
        for (const std::string& n : a)
            if (std::find(b.begin(), b.end(), n) == b.end()) all.push_back(fmt::format("{} {} is gone", what, n));
    }
    /// A number of each pad: where all change alike it is said once.
    void each(const char* what, const std::map<std::string, double>& a, const std::map<std::string, double>& b) {
        std::map<std::pair<long, long>, std::vector<std::string>> changes;
        std::size_t both = 0;
        for (const auto& [name, from] : a)
            if (const auto it = b.find(name); it != b.end()) {
                ++both;
                if (std::abs(it->second - from) >= kSameLength)
                    changes[{std::lround(from * 1e4), std::lround(it->second * 1e4)}].push_back(name);
            }
        for (const auto& [values, pads] : changes) {
            std::string of = pads.size() == both && both > 1 ? "all" : pads.front();
            if (pads.size() != both)
                for (std::size_t i = 1; i < pads.size(); ++i) of += (i < 4 ? ", " + pads[i] : i == 4 ? ", …" : "");
            all.push_back(fmt::format("{} of {} {:.3f} → {:.3f}", what, of, static_cast<double>(values.first) / 1e4,
                                      static_cast<double>(values.second) / 1e4));
        }
    }
};

}  // namespace

std::vector<std::string> differenceWords(const Part& a, const Footprint& fa, const Part& b, const Footprint& fb) {
    Words w;
    w.text("name", a.name, b.name);
    w.text("description", a.description, b.description);
    w.text("value", a.value, b.value);
    std::map<std::string, double> pa, pb;
    for (const auto& [to, f] : {std::pair(&pa, &fa), std::pair(&pb, &fb)})
        for (const ParameterValue& p : f->parameters)
            if (p.firm() && !p.angle) (*to)[p.name] = p.value.mm();
    for (const auto& [name, from] : pa)
        if (const auto it = pb.find(name); it != pb.end() && std::abs(it->second - from) >= kSameLength)
            w.all.push_back(fmt::format("{} {:.3f} → {:.3f}", name, from, it->second));
    std::vector<std::string> na, nb;
    std::map<std::string, double> xa, xb, ya, yb, ha, hb, la, lb;
    const auto fill = [](const Footprint& f, std::vector<std::string>& names, auto& x, auto& y, auto& hole,
                         auto& land) {
        for (const Pad& p : f.pads) {
            names.push_back(p.number);
            x[p.number] = p.at.x.mm();
            y[p.number] = p.at.y.mm();
            hole[p.number] = p.hole.mm();
            land[p.number] = shownLand(p).width.mm();
        }
        for (const BareHole& h : f.bareHoles) {
            names.push_back(h.name);
            x[h.name] = h.at.x.mm();
            y[h.name] = h.at.y.mm();
            hole[h.name] = h.size.mm();
        }
    };
    fill(fa, na, xa, ya, ha, la);
    fill(fb, nb, xb, yb, hb, lb);
    w.names("pad", na, nb);
    w.each("hole", ha, hb);
    w.each("land", la, lb);
    w.each("x", xa, xb);
    w.each("y", ya, yb);
    const auto marks = [](const Part& p) {
        std::vector<std::string> all;
        for (const Mark& m : p.marks) all.push_back(m.name);
        return all;
    };
    w.names("mark", marks(a), marks(b));
    const auto solids = [](const Part& p) {
        std::vector<std::string> all;
        for (const SolidFile& s : p.solids) all.push_back(s.name);
        return all;
    };
    w.names("body", solids(a), solids(b));
    // Readings by what they are of.
    std::map<std::string, double> ra, rb;
    const auto readings = [](const Part& p, const Footprint& f, auto& to) {
        for (std::size_t i = 0; i < p.readings.size() && i < f.readings.size(); ++i)
            if (!inDegrees(p.readings[i].contact)) to[readingWords(p, p.readings[i])] = f.readings[i].stats.mean;
    };
    readings(a, fa, ra);
    readings(b, fb, rb);
    for (const auto& [name, from] : ra) {
        const auto it = rb.find(name);
        if (it == rb.end())
            w.all.push_back(fmt::format("reading {} is gone", name));
        else if (std::abs(it->second - from) >= kSameLength)
            w.all.push_back(fmt::format("reading {} {:.3f} → {:.3f}", name, from, it->second));
    }
    for (const auto& [name, to] : rb)
        if (!ra.contains(name)) w.all.push_back(fmt::format("reading {} is new", name));
    for (const Gauge& g : fb.gauges)
        if (const Gauge* was = fa.gauge(g.name); was != nullptr && was->state != g.state)
            w.all.push_back(fmt::format("gauge {} {} → {}", g.name, stateName(was->state), stateName(g.state)));
    return w.all;
}

}  // namespace punch
