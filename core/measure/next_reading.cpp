#include "core/measure/next_reading.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "core/measure/adjust.h"
#include "core/measure/fitted.h"
#include "core/measure/instruments.h"
#include "core/part/slots.h"

namespace punch {
namespace {

constexpr double kLeastGain = 0.02;  // a reading that takes less off the doubt is not worth the time

/// Which contacts are among readings, found at once however many there are.
class Contacts {
public:
    explicit Contacts(const std::vector<Reading>& readings) : readings_(readings) {
        for (std::size_t i = 0; i < readings.size(); ++i) at_[keyOf(readings[i])].push_back(i);
    }
    /// The readings of the same contact; empty when there is none.
    std::vector<std::size_t> like(const Reading& c) const {
        std::vector<std::size_t> found;
        if (const auto it = at_.find(keyOf(c)); it != at_.end())
            for (const std::size_t i : it->second)
                if (sameContact(readings_[i], c)) found.push_back(i);
        return found;
    }

private:
    static std::string keyOf(const Reading& r) { return r.a < r.b ? r.a + " " + r.b : r.b + " " + r.a; }
    const std::vector<Reading>& readings_;
    std::unordered_map<std::string, std::vector<std::size_t>> at_;
};

/// The instrument that was last in hand, for lengths.
std::string instrumentInHand(const Part& part) {
    for (auto r = part.readings.rbegin(); r != part.readings.rend(); ++r)
        if (!r->drawing && instrumentByName(part, r->instrument) != nullptr && !showsAngles(r->instrument) &&
            r->instrument != kGridSteps)
            return r->instrument;
    return Reading().instrument;
}

/// Variance of one value read with an instrument, mm².
double plannedVariance(const Instrument& i, Contact contact) {
    const double s = startingHandling(i, handlingOf(contact));
    return std::max(i.limit * i.limit / 3 + s * s + i.step * i.step / 12, 1e-10);
}

/// Do the jaws know on which side of each other the two features stand, and is there room between them?
bool canBeRead(const Part& part, const Adjustment& a, const Reading& r, const Expr& f) {
    constexpr double kLeastRoom = 0.1;  // mm, between inner jaws
    if (r.contact == Contact::Inside && f.value() < kLeastRoom && a.firm(f)) return false;
    const auto fa = a.features().find(r.a);
    const auto fb = a.features().find(r.b);
    if (fa == a.features().end() || fb == a.features().end() || r.axis == Axis::Direct || r.axis == Axis::Height)
        return true;
    const auto isPlace = [](const Feature& v) { return v.kind == FeatureKind::Pin || v.kind == FeatureKind::Spot; };
    if (!isPlace(fa->second) || !isPlace(fb->second)) return true;
    const double apart = std::abs(fb->second.coordinate(r.axis).value() - fa->second.coordinate(r.axis).value());
    // A pin that stands off its place by less than its width has only its neighbours to be read against.
    for (const Formation& formation : part.formations)
        for (const FeatureId& id : formation.moved)
            if (r.contact == Contact::Outside && (id == r.a || id == r.b)) return true;
    return apart > fa->second.half(r.axis).value() + fb->second.half(r.axis).value();
}

struct Open {
    const Reading* reading;
    Expr f;
    bool taken;
};

/// How much of what is loose in `e` a reading of `f` closes: 1 all of it, 0 nothing.
double frees(const Adjustment& a, const Eigen::VectorXd& looseE, const Expr& f) {
    Eigen::VectorXd nf = Eigen::VectorXd::Zero(a.loose().cols());
    for (const auto& [index, d] : f.gradient()) nf += d * a.loose().row(index).transpose();
    const double size = nf.norm() * looseE.norm();
    if (nf.norm() < 1e-9 || size < 1e-15) return 0;
    const double c = nf.dot(looseE) / size;
    return c * c;
}

/// A place with the covariance of what is left of it after the best fit.
struct Place {
    const Feature* feature;
    double xx, xy, yy;
};

double largest(double xx, double xy, double yy) { return (xx + yy) / 2 + std::hypot((xx - yy) / 2, xy); }

/// What has to become firm, the most needed first.
std::vector<Expr> wanted(const Part& part, const Adjustment& a) {
    const auto& features = a.features();
    std::vector<Expr> all;
    for (const Formation& f : part.formations) {
        // Row by row from the front: its far end needs the pitch, its near end the gap and the shift.
        const auto places = slotsOf(part, f);
        const auto want = [&](const FeatureId& id) {
            for (const Expr* e : {&features.at(id).x, &features.at(id).y}) all.push_back(*e);
        };
        for (std::size_t i = 0; i < f.pins.size(); ++i)
            if (i + 1 == f.pins.size() || places[i + 1].row != places[i].row) {
                want(f.pins[i]);
                want(f.pins[i + 1 -
                            static_cast<std::size_t>(std::min<int>(places[i].columns, static_cast<int>(i) + 1))]);
            }
        want(f.pins[f.pins.size() / 2]);
        for (const FeatureId& id : f.moved) want(id);
    }
    for (const Formation& f : part.formations) {
        all.push_back(features.at(f.pins.front()).halfX);
        all.push_back(features.at(f.pins.front()).halfY);
        if (const Feature& lead = features.at(f.pins.front()); lead.endX)
            all.insert(all.end(), {*lead.endX, *lead.endY});
    }
    for (const Spot& spot : part.spots) {
        const Feature& f = features.at(spot.id);
        all.insert(all.end(), {f.halfX, f.halfY, f.y, f.x});
    }
    if (part.body.present) {
        const Feature& body = features.at(kBody);
        all.insert(all.end(), {body.halfX, features.at(kLeftFace).x, body.halfY, features.at(kRearFace).y});
    }
    for (const Face& face : part.faces) all.push_back(features.at(face.id).coordinate(face.axis));
    for (const Formation& f : part.formations)
        if (const auto& height = features.at(f.pins.front()).height) all.push_back(*height);
    if (part.body.present) all.push_back(*features.at(kBody).height);
    return all;
}

}  // namespace

NextReading nextReading(const Part& part, const Adjustment& a, const Enough& enough, Candidates which,
                        const std::vector<Reading>& putOff) {
    const auto& features = a.features();
    const auto candidates = candidateReadings(part, which);
    const std::string inHand = instrumentInHand(part);
    const Instrument* instrument = instrumentByName(part, inHand);
    const auto asking = [&](const Reading& c, bool again) {
        Reading r = c;
        r.instrument = inHand;
        return NextReading{r, readingWords(part, r) + (again ? ", once more" : "")};
    };
    std::vector<Open> open;
    const Contacts known(part.readings);
    const Contacts later(putOff);
    const auto addOpen = [&](bool taken) {
        for (const Reading& c : candidates)
            if (known.like(c).empty() != taken && later.like(c).empty())
                if (auto f = a.equation(c); f && !f->gradient().empty() && canBeRead(part, a, c, *f))
                    open.push_back({&c, std::move(*f), taken});
    };
    if (a.loose().cols() > 0) {
        addOpen(false);
        for (const Expr& e : wanted(part, a)) {
            if (a.firm(e)) continue;
            Eigen::VectorXd looseE = Eigen::VectorXd::Zero(a.loose().cols());
            for (const auto& [index, d] : e.gradient()) looseE += d * a.loose().row(index).transpose();
            const Open* best = nullptr;
            double most = 1e-9;
            for (const Open& o : open)
                if (const double share = frees(a, looseE, o.f); share > most + 1e-6) {
                    most = share;
                    best = &o;
                }
            if (best != nullptr) return asking(*best->reading, false);
        }
    }
    // All firm: is any pad or bare hole too doubtful?
    std::vector<Place> places;
    const Fitted fit(part, a);
    double now = 0;
    bool tooMuch = false;
    for (const auto& [id, feature] : features) {
        if (feature.kind != FeatureKind::Pin && feature.kind != FeatureKind::Spot) continue;
        if (const Spot* spot = spotOf(part, id); spot != nullptr && !hasHole(*spot)) continue;
        const Fitted::Spread s = fit.of(feature);
        if (!s.firm) continue;
        const Place p{&feature, s.xx, s.xy, s.yy};
        const double worst = largest(p.xx, p.xy, p.yy);
        tooMuch = tooMuch || kNinetyFive * std::sqrt(std::max(worst, 0.0)) + s.reach > enough(id);
        now = std::max(now, worst);
        places.push_back(p);
    }
    if (!tooMuch || now <= 0) return {{}, "Enough: every pad is known as well as its hole needs"};
    if (open.empty()) addOpen(false);
    // Places that cannot become the largest need not be looked at.
    std::sort(places.begin(), places.end(),
              [](const Place& p, const Place& q) { return largest(p.xx, p.xy, p.yy) > largest(q.xx, q.xy, q.yy); });
    const Eigen::MatrixXd& c = a.covariances();
    const auto choose = [&]() -> const Open* {
        const Open* best = nullptr;
        double least = now * (1 - kLeastGain) * (1 - kLeastGain);
        for (const Open& o : open) {
            if (!a.firm(o.f)) continue;
            Eigen::VectorXd cf = Eigen::VectorXd::Zero(c.rows());
            for (const auto& [index, d] : o.f.gradient()) cf += d * c.col(index);
            double variance = plannedVariance(*instrument, o.reading->contact);
            if (o.taken) {
                // The same contact once more: the instrument errs as it did.
                Reading again = *o.reading;
                again.instrument = inHand;
                again.raw.resize(1);
                for (const std::size_t before : known.like(again)) {
                    if (!saidTwice(part.readings[before], again)) continue;
                    const Eigen::VectorXd shared = a.sharedError(before);
                    for (const auto& [index, d] : o.f.gradient()) variance -= d * shared(index);
                    cf -= shared;
                    break;
                }
            }
            for (const auto& [index, d] : o.f.gradient()) variance += d * cf(index);
            const Fitted::Common common = fit.common(cf);
            double after = 0;
            for (const Place& p : places) {
                if (largest(p.xx, p.xy, p.yy) <= after) break;
                const auto [x, y] = fit.along(*p.feature, cf, common);
                after =
                    std::max(after, largest(p.xx - x * x / variance, p.xy - x * y / variance, p.yy - y * y / variance));
                if (after >= least) break;
            }
            if (after < least * (1 - 1e-9)) {
                least = after;
                best = &o;
            }
        }
        return best;
    };
    if (const Open* best = choose()) return asking(*best->reading, false);
    open.clear();
    addOpen(true);
    if (const Open* best = choose()) return asking(*best->reading, true);
    return {{}, "No further reading with this instrument helps much; a finer instrument would"};
}

}  // namespace punch
