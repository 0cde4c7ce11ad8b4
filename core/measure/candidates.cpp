// Which readings a person can take with calipers on a part, the quicker ones first.

#include <algorithm>
#include <set>

#include "core/measure/next_reading.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"

namespace punch {
namespace {

constexpr std::size_t kMostAllAgainstAll = 12;
constexpr std::size_t kFirstFew = 3;

class Candidate {
public:
    explicit Candidate(std::vector<Reading>& all) : all_(all) {}
    void add(const FeatureId& a, const FeatureId& b, Contact contact, Axis axis) {
        if (a == b || a.empty()) return;
        Reading r;
        r.a = a;
        r.b = b;
        r.contact = contact;
        r.axis = axis;
        all_.push_back(std::move(r));
    }
    void size(const FeatureId& a, Axis axis) { add(a, {}, Contact::Size, axis); }
    void end(const FeatureId& a, Axis axis) {
        size(a, axis);
        all_.back().atEnd = true;
    }
    void both(const FeatureId& a, const FeatureId& b, Axis axis) {
        add(a, b, Contact::Outside, axis);
        add(a, b, Contact::Inside, axis);
    }

private:
    std::vector<Reading>& all_;
};

/// The pins of a formation that give leverage: the ends of each row and what stands next to them, in number order
/// where that makes no difference.
struct Ends {
    std::vector<std::vector<FeatureId>> rows;  ///< from the end with the lower numbers
    FeatureId middle;
    bool ring = false;
};

Ends endsOf(const Part& part, const Formation& f) {
    Ends ends;
    ends.ring = traitsOf(shapeOf(part, f)).around;
    const auto slots = slotsOf(part, f);
    std::map<int, std::vector<FeatureId>> rows;
    for (std::size_t i = 0; i < f.pins.size(); ++i) {
        if (slots[i].row < 0)
            ends.middle = f.pins[i];
        else
            rows[slots[i].row].push_back(f.pins[i]);
    }
    for (auto& [row, pins] : rows) {
        if (!f.numbers.fromLeft && !ends.ring) std::reverse(pins.begin(), pins.end());
        ends.rows.push_back(std::move(pins));
    }
    if (!f.numbers.fromFront) std::reverse(ends.rows.begin(), ends.rows.end());
    return ends;
}

void ringReadings(Candidate& c, const Ends& ends) {
    if (ends.rows.empty()) return;
    const auto& pins = ends.rows.front();
    const std::size_t n = pins.size();
    const std::size_t step = std::max<std::size_t>(1, n / 8);
    for (std::size_t i = 0; i < n / 2; i += step) c.both(pins[i], pins[i + n / 2], Axis::Direct);
    for (std::size_t i = 0; i < n; i += step) c.both(pins[i], pins[(i + 1) % n], Axis::Direct);
    if (n > 2) c.both(pins.front(), pins.back(), Axis::Direct);
    for (std::size_t i = 0; i < n; i += step) {
        if (!ends.middle.empty()) c.both(ends.middle, pins[i], Axis::Direct);
        c.both(pins[i], pins[(i + n / 3) % n], Axis::Direct);
    }
    for (std::size_t i = 0; i < n; i += step)
        for (const Axis axis : {Axis::Along, Axis::Across}) c.both(pins[0], pins[i], axis);
}

void rowReadings(Candidate& c, const Ends& ends) {
    for (const auto& row : ends.rows) {
        if (row.size() < 2) continue;
        c.add(row.front(), row.back(), Contact::Outside, Axis::Along);
    }
    for (std::size_t k = 0; k + 1 < ends.rows.size(); ++k) {
        const auto& a = ends.rows[k];
        const auto& b = ends.rows[k + 1];
        c.both(a.front(), b.front(), Axis::Across);
        c.both(a.back(), b.back(), Axis::Across);
        c.both(a.front(), b.front(), Axis::Along);
        c.both(a.front(), b.back(), Axis::Along);
        c.both(a.front(), b.back(), Axis::Direct);
        c.both(a.back(), b.front(), Axis::Direct);
    }
    if (ends.rows.size() > 2) {
        c.both(ends.rows.front().front(), ends.rows.back().front(), Axis::Across);
        c.both(ends.rows.front().front(), ends.rows.back().back(), Axis::Direct);
    }
    for (const auto& row : ends.rows) {
        if (row.size() < 2) continue;
        c.add(row[0], row[1], Contact::Inside, Axis::Along);
        if (row.size() > 2) c.add(row.front(), row.back(), Contact::Inside, Axis::Along);
    }
}

void sizeReadings(Candidate& c, const Part& part, const Formation& f, const FeatureId& pin) {
    const LeadShape lead = shapeOf(part, f).lead;
    c.size(pin, Axis::Along);
    if (lead == LeadShape::Rectangular || lead == LeadShape::Oval) c.size(pin, Axis::Across);
    if (shapeOf(part, f).end != LeadEnd::Plain)
        for (const Axis axis : {Axis::Along, Axis::Across}) c.end(pin, axis);
}

/// The pins of a formation that faces are read against: its ends, and what stands off its pattern.
std::vector<FeatureId> readAgainstFaces(const Formation& f, const FeatureId& first, const FeatureId& last) {
    std::vector<FeatureId> pins = {first, last};
    for (const FeatureId& id : f.moved)
        if (id != first && id != last) pins.push_back(id);
    return pins;
}

}  // namespace

std::vector<Reading> candidateReadings(const Part& part, Candidates which) {
    std::vector<Reading> all;
    Candidate c(all);
    std::vector<std::pair<const Formation*, Ends>> formations;
    for (const Formation& f : part.formations) formations.emplace_back(&f, endsOf(part, f));
    const auto firstOf = [](const Ends& e) { return e.rows.empty() ? e.middle : e.rows.front().front(); };
    const auto lastOf = [](const Ends& e) { return e.rows.empty() ? e.middle : e.rows.front().back(); };

    for (const auto& [f, ends] : formations) {
        const std::size_t before = all.size();
        if (ends.ring)
            ringReadings(c, ends);
        else
            rowReadings(c, ends);
        // The width is read right after the first span.
        std::vector<Reading> sizes;
        Candidate own(sizes);
        sizeReadings(own, part, *f, firstOf(ends));
        const auto at = all.begin() + static_cast<std::ptrdiff_t>(std::min(before + 1, all.size()));
        all.insert(at, sizes.begin(), sizes.end());
        for (const FeatureId& pin : f->moved)
            for (const Axis axis : {Axis::Along, Axis::Across})
                c.both(pin, pin == firstOf(ends) ? lastOf(ends) : firstOf(ends), axis);
    }
    const auto between = [&](const Ends& a, const Ends& b) {
        std::vector<std::pair<FeatureId, FeatureId>> pairs;
        for (const auto& pair : {std::pair{firstOf(a), firstOf(b)}, std::pair{lastOf(a), lastOf(b)},
                                 std::pair{firstOf(a), lastOf(b)}, std::pair{lastOf(a), firstOf(b)}})
            if (std::find(pairs.begin(), pairs.end(), pair) == pairs.end()) pairs.push_back(pair);
        for (const auto& [p, q] : pairs)
            for (const Axis axis : {Axis::Across, Axis::Along, Axis::Direct}) c.both(p, q, axis);
    };
    // Of many formations each is read against the first few, the last one and the one before it: reading each against
    // each would be more than anybody takes, and adds little.
    const std::size_t n = formations.size();
    for (std::size_t k = 1; k < n; ++k)
        for (std::size_t i = 0; i < k; ++i)
            if (n <= kMostAllAgainstAll || i < kFirstFew || i + 1 == k || k + 1 == n)
                between(formations[i].second, formations[k].second);
    for (std::size_t s = 0; s < part.spots.size(); ++s) {
        const Spot& spot = part.spots[s];
        if (spot.kind != SpotKind::Mark) c.size(spot.id, Axis::Along);
        if (spot.flat) c.size(spot.id, Axis::Across);
        for (std::size_t i = 0; i < n; ++i) {
            if (n > kMostAllAgainstAll && i >= kFirstFew && i + 1 < n) continue;
            const Ends& ends = formations[i].second;
            const FeatureId a = firstOf(ends);
            const FeatureId z = lastOf(ends);
            for (const Contact contact : {Contact::Outside, Contact::Inside}) {
                c.add(spot.id, a, contact, Axis::Across);
                c.add(spot.id, z, contact, Axis::Along);
                c.add(spot.id, z, contact, Axis::Across);
                c.add(spot.id, a, contact, Axis::Along);
            }
            c.both(spot.id, a, Axis::Direct);
        }
        for (std::size_t t = 0; t < s; ++t)
            if (part.spots.size() <= kMostAllAgainstAll || t < kFirstFew || t + 1 == s)
                for (const Axis axis : {Axis::Along, Axis::Across, Axis::Direct})
                    c.both(part.spots[t].id, spot.id, axis);
    }
    if (formations.empty()) {
        // Without pins all is read against faces.
        if (part.body.present) {
            c.size(kBody, Axis::Along);
            c.size(kBody, Axis::Across);
        }
        for (const Spot& spot : part.spots) {
            if (part.body.present) {
                c.add(kLeftFace, spot.id, Contact::FaceNear, Axis::Along);
                c.add(kRearFace, spot.id, Contact::FaceNear, Axis::Across);
            }
            for (const Face& face : part.faces)
                if (face.axis != Axis::Height) c.add(face.id, spot.id, Contact::FaceNear, face.axis);
        }
        for (const Face& face : part.faces)
            if (part.body.present && face.axis == Axis::Height)
                c.add(kSeatingPlane, face.id, Contact::Outside, Axis::Height);
            else if (part.body.present)
                c.add(face.axis == Axis::Along ? kLeftFace : kRearFace, face.id, Contact::Outside, face.axis);
    } else {
        const Ends& ends = formations.front().second;
        const FeatureId a = firstOf(ends);
        const FeatureId leftmost = formations.front().first->numbers.fromLeft ? a : lastOf(ends);
        if (part.body.present) {
            c.size(kBody, Axis::Along);
            c.add(kLeftFace, leftmost, Contact::FaceNear, Axis::Along);
            c.size(kBody, Axis::Across);
            c.add(kRearFace, a, Contact::FaceNear, Axis::Across);
            for (const auto& [f, e] : formations)
                for (const FeatureId& pin : readAgainstFaces(*f, firstOf(e), lastOf(e))) {
                    for (const char* face : {kLeftFace, kRightFace}) c.add(face, pin, Contact::FaceNear, Axis::Along);
                    for (const char* face : {kRearFace, kFrontFace}) c.add(face, pin, Contact::FaceNear, Axis::Across);
                }
            for (const Spot& spot : part.spots) {
                for (const char* face : {kLeftFace, kRightFace}) c.add(face, spot.id, Contact::FaceNear, Axis::Along);
                for (const char* face : {kRearFace, kFrontFace}) c.add(face, spot.id, Contact::FaceNear, Axis::Across);
            }
        }
        for (const Face& face : part.faces) {
            if (face.axis == Axis::Height)
                c.add(part.body.present ? FeatureId(kSeatingPlane) : a, face.id, Contact::Outside, Axis::Height);
            else
                c.add(face.id, a, Contact::FaceNear, face.axis);
        }
    }
    std::set<std::string> lengths;
    for (const auto& [f, ends] : formations)
        if (lengths.insert(shapeOf(part, *f).id).second) c.size(firstOf(ends), Axis::Height);
    if (part.body.present) c.size(kBody, Axis::Height);
    if (which == Candidates::All) {
        const auto pins = allPins(part);
        for (std::size_t i = 0; i < pins.size(); ++i)
            for (std::size_t k = i + 1; k < pins.size(); ++k)
                for (const Axis axis : {Axis::Along, Axis::Across}) c.both(pins[i], pins[k], axis);
    }
    return all;
}

}  // namespace punch
