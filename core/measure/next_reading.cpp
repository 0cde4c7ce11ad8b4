#include "core/measure/next_reading.h"

#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/instruments.h"
#include "core/model/best_fit.h"

namespace punch {
namespace {

Reading candidate(const FeatureId& a, const FeatureId& b, Contact contact, Axis axis) {
    Reading r;
    r.a = a;
    r.b = b;
    r.contact = contact;
    r.axis = axis;
    return r;
}

bool alreadyTaken(const Part& part, const Reading& c) {
    for (const Reading& r : part.readings) {
        const bool same = (r.a == c.a && r.b == c.b) || (r.a == c.b && r.b == c.a);
        if (same && r.contact == c.contact && r.axis == c.axis) return true;
    }
    return false;
}

/// Standard uncertainty of one value read with the part's latest instrument, mm.
double plannedU(const Part& part, const Reading& c) {
    const std::string& name = part.readings.empty() ? c.instrument : part.readings.back().instrument;
    const Instrument* i = instrumentByName(name);
    if (i == nullptr) i = &instruments().front();
    const double s = startingHandling(*i, handlingOf(c.contact));
    return std::sqrt(i->limit * i->limit / 3 + s * s + i->step * i->step / 12);
}

/// Does a reading with gradient g touch what is loose in `e`?
bool frees(const Adjustment& adjustment, const Expr& f, const Expr& e) {
    if (adjustment.firm(e) || adjustment.firm(f)) return false;
    // The reading helps when the null directions that it closes move e.
    const Eigen::VectorXd nf = adjustment.loose().transpose() * adjustment.dense(f);
    const Eigen::VectorXd ne = adjustment.loose().transpose() * adjustment.dense(e);
    return std::abs(nf.dot(ne)) > 1e-9 * nf.norm() * ne.norm();
}

}  // namespace

std::vector<Reading> candidateReadings(const Part& part) {
    std::vector<Reading> all;
    for (const Formation& f : part.formations) {
        const FeatureId& a = f.numbers.fromLeft ? f.pins.front() : f.pins.back();
        const FeatureId& z = f.numbers.fromLeft ? f.pins.back() : f.pins.front();
        if (f.pins.size() > 1) all.push_back(candidate(a, z, Contact::Outside, Axis::Along));
        all.push_back(candidate(a, {}, Contact::Size, Axis::Along));
        if (f.lead == LeadShape::Rectangular) all.push_back(candidate(a, {}, Contact::Size, Axis::Across));
        if (f.pins.size() > 1) {
            const FeatureId& second = f.numbers.fromLeft ? f.pins[1] : f.pins[f.pins.size() - 2];
            all.push_back(candidate(a, second, Contact::Inside, Axis::Along));
            if (f.pins.size() > 2) all.push_back(candidate(a, z, Contact::Inside, Axis::Along));
        }
        for (const Peg& peg : part.pegs) {
            all.push_back(candidate(peg.id, {}, Contact::Size, Axis::Along));
            all.push_back(candidate(peg.id, a, Contact::Outside, Axis::Across));
            all.push_back(candidate(peg.id, z, Contact::Outside, Axis::Along));
            all.push_back(candidate(peg.id, a, Contact::Inside, Axis::Across));
            all.push_back(candidate(peg.id, z, Contact::Inside, Axis::Along));
        }
        if (part.body.present) {
            all.push_back(candidate(kBody, {}, Contact::Size, Axis::Along));
            all.push_back(candidate(kLeftFace, f.pins.front(), Contact::FaceNear, Axis::Along));
            all.push_back(candidate(kBody, {}, Contact::Size, Axis::Across));
            all.push_back(candidate(kRearFace, a, Contact::FaceNear, Axis::Across));
        }
        all.push_back(candidate(a, {}, Contact::Size, Axis::Height));
        if (part.body.present) all.push_back(candidate(kBody, {}, Contact::Size, Axis::Height));
    }
    return all;
}

NextReading nextReading(const Part& part, const Adjustment& adjustment, double enough) {
    const auto& features = adjustment.features();
    // What has to become firm, the most needed first.
    std::vector<Expr> wanted;
    for (const Formation& f : part.formations)
        if (f.pins.size() > 1) wanted.push_back(features.at(f.pins.back()).x);
    for (const Formation& f : part.formations) {
        wanted.push_back(features.at(f.pins.front()).halfX);
        wanted.push_back(features.at(f.pins.front()).halfY);
    }
    for (const Peg& peg : part.pegs) {
        const Feature& f = features.at(peg.id);
        wanted.insert(wanted.end(), {f.halfX, f.y, f.x});
    }
    if (part.body.present) {
        const Feature& body = features.at(kBody);
        wanted.insert(wanted.end(), {body.halfX, features.at(kLeftFace).x, body.halfY, features.at(kRearFace).y});
    }
    for (const Formation& f : part.formations) wanted.push_back(*features.at(f.pins.front()).height);
    if (part.body.present) wanted.push_back(*features.at(kBody).height);

    std::vector<std::pair<Reading, Expr>> open;
    for (const Reading& c : candidateReadings(part)) {
        if (alreadyTaken(part, c)) continue;
        if (const auto f = contactExpr(part, c, features, features)) open.emplace_back(c, *f);
    }
    const auto asking = [&](const Reading& c) {
        Reading r = c;
        if (!part.readings.empty()) r.instrument = part.readings.back().instrument;
        return NextReading{r, readingWords(part, r)};
    };
    for (const Expr& e : wanted) {
        if (adjustment.firm(e)) continue;
        for (const auto& [c, f] : open)
            if (frees(adjustment, f, e)) return asking(c);
    }
    // All firm: is any pad or bare hole too doubtful?
    std::optional<Expr> worst;
    const BestFit fit(part, features);
    for (const auto& [id, feature] : features) {
        if (feature.kind != FeatureKind::Pin && feature.kind != FeatureKind::Peg) continue;
        const auto [x, y] = fit.remaining(feature);
        for (const Expr& e : {x, y})
            if (adjustment.firm(e) && adjustment.doubt(e) > enough &&
                (!worst || adjustment.u(e) > adjustment.u(*worst)))
                worst = e;
    }
    if (worst) {
        double best = 0.02;  // a reading that takes less than 2 % off the doubt is not worth the time
        const std::pair<Reading, Expr>* chosen = nullptr;
        for (const auto& entry : open) {
            const Expr& f = entry.second;
            if (!adjustment.firm(f)) continue;
            const double u = plannedU(part, entry.first);
            const double cov = adjustment.covariance(f, *worst);
            const double now = adjustment.covariance(*worst, *worst);
            const double after = now - cov * cov / (adjustment.covariance(f, f) + u * u);
            const double gain = 1 - std::sqrt(std::max(after, 0.0) / now);
            if (gain > best + 1e-9) {
                best = gain;
                chosen = &entry;
            }
        }
        if (chosen != nullptr) return asking(chosen->first);
    }
    return {{}, "Enough: every pad is known as well as its hole needs"};
}

}  // namespace punch
