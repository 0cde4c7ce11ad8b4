#include "core/foreign/take_in.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "core/derive.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"
#include "core/picture/recognise.h"

namespace punch {
namespace {

/// What a file's rounding may hide of a coordinate, and of a size.
constexpr const char* kRounding = "±0.002";
constexpr std::size_t kMostByThemselves = 400;

struct At {
    double x, y;
};

At holeAt(const ForeignPad& p) { return {p.x + p.holeX, p.y + p.holeY}; }

void turn(ForeignPad& p, double degrees) {
    const double t = degrees * std::numbers::pi / 180, c = std::cos(t), s = std::sin(t);
    const auto both = [&](double& x, double& y) {
        const double ox = x;
        x = c * ox - s * y;
        y = s * ox + c * y;
    };
    both(p.x, p.y);
    both(p.holeX, p.holeY);
    p.turn += degrees;
    p.slotTurn += degrees;
}

class Taking {
public:
    Taking(const ForeignPattern& pattern, const TakeInOptions& options) : options_(options) {
        for (const ForeignPad& p : pattern.pads) (p.plated || p.hole <= 0 ? pins_ : bare_).push_back(p);
        made_.part = newPartWithoutPins();
        Part& part = made_.part;
        part.kind = PartKind::Placed;
        part.name = pattern.name.empty() ? "Taken in" : pattern.name;
        part.dress.referenceText = true;
        Source s;
        s.id = "s" + std::to_string(part.nextId++);
        s.title = options.title.empty() ? pattern.name : options.title;
        s.seen = options.seen;
        s.state = SourceState::TakenIn;
        s.note = "Pads as a file has them" + (options.file.empty() ? std::string() : ": " + options.file);
        source_ = s.id;
        part.sources.push_back(std::move(s));
    }

    Result<TakenIn> take() {
        if (pins_.empty() && bare_.empty()) return problem("it has no pads", made_.part.name, "Choose another");
        if (pins_.size() + bare_.size() > static_cast<std::size_t>(kMostPins))
            return problem(
                fmt::format("{} pads are more than one part has ({})", pins_.size() + bare_.size(), kMostPins),
                made_.part.name, "Choose a group of them");
        std::vector<std::size_t> order;
        if (auto done = takePins(order); !done) return tl::make_unexpected(done.error());
        takeBare();
        numberPins(order);
        setHoles(order);
        setDatum();
        return std::move(made_);
    }

private:
    void read(const FeatureId& a, const FeatureId& b, Contact contact, Axis axis, double mm, bool isSigned) {
        Reading r;
        r.a = a;
        r.b = b;
        r.contact = contact;
        r.axis = axis;
        r.source = source_;
        r.isSigned = isSigned;
        r.drawing = *parseDrawingValue(fmt::format("{:.4f} {}", mm, kRounding), Unit::Mm);
        made_.part = withReading(std::move(made_.part), std::move(r));
    }

    /// `order`: which pad each pin of the part is.
    Result<void> takePins(std::vector<std::size_t>& order) {
        if (pins_.empty()) return {};
        std::vector<FoundPlace> places;
        for (const ForeignPad& p : pins_) places.push_back({holeAt(p).x, holeAt(p).y, 0.001});
        auto formation = pins_.size() > 1 ? recogniseFormation(places) : std::nullopt;
        if (formation && (formation->scatter > 0.003 || formation->positions.empty())) formation.reset();
        if (formation && std::abs(formation->turn) > 0.01) {
            // A part's first row lies level.
            made_.notes.push_back(fmt::format("turned by {:g}°, so that its row lies level", -formation->turn));
            for (ForeignPad& p : pins_) turn(p, -formation->turn);
            for (ForeignPad& p : bare_) turn(p, -formation->turn);
            std::vector<FoundPlace> level;
            for (const ForeignPad& p : pins_) level.push_back({holeAt(p).x, holeAt(p).y, 0.001});
            formation = recogniseFormation(level);
            if (formation && std::abs(formation->turn) > 0.01) formation.reset();
        }
        if (formation && takePattern(*formation, order)) return {};
        if (pins_.size() > kMostByThemselves)
            return problem(fmt::format("{} pads make no pattern, and so many by themselves are more than {}",
                                       pins_.size(), kMostByThemselves),
                           made_.part.name, "Choose a group of them");
        order.clear();
        for (std::size_t i = 0; i < pins_.size(); ++i) {
            auto next = withFormation(made_.part, {FormationKind::Single, {1}, {}, false, false, {}, Axis::Along});
            if (!next) return tl::make_unexpected(next.error());
            made_.part = std::move(*next);
            order.push_back(i);
        }
        readPlaces(order, false);
        return {};
    }

    bool takePattern(const RecognisedFormation& f, std::vector<std::size_t>& order) {
        FormationPlan plan;
        plan.kind = f.kind;
        plan.rows = f.rows;
        plan.leftOut = traitsOf(f.kind).grid ? f.leftOut : std::vector<int>();
        plan.middle = f.middle;
        plan.arc = f.arc;
        if (plan.rows.empty()) plan.rows = {static_cast<int>(f.positions.size()) - (f.middle ? 1 : 0)};
        // Positions left out of what is no grid stand for no pins: then each is by itself.
        if (!traitsOf(f.kind).grid && !f.leftOut.empty()) return false;
        auto next = withFormation(made_.part, plan);
        if (!next || next->formations.back().pins.size() != f.positions.size()) return false;
        next->formations.back().ownPitch = f.rearPitch.has_value();
        if (f.rowShift) next->given.erase(parameterPrefix(*next, next->formations.back()) + "rowShift");
        made_.part = std::move(*next);
        order.clear();
        for (const PatternSlot& s : f.positions) order.push_back(static_cast<std::size_t>(s.place));
        if (f.start) made_.part.turned["start"] = Angle::fromDegrees(f.start->value);
        if (f.circle) made_.part.assumed["circle"] = Length::fromMm(f.circle->value);
        if (f.pitch) made_.part.assumed["pitch"] = Length::fromMm(f.pitch->value);
        if (f.rowGap) made_.part.assumed["rowGap"] = Length::fromMm(f.rowGap->value);
        readPlaces(order, traitsOf(f.kind).straight);
        return true;
    }

    /// Coordinates from the first pin. In rows nothing is read across of what stands in the first one.
    void readPlaces(const std::vector<std::size_t>& order, bool rows) {
        const auto ids = allPins(made_.part);
        first_ = ids.front();
        origin_ = holeAt(pins_[order[0]]);
        const auto slots = rows ? slotsOf(made_.part, made_.part.formations.front()) : std::vector<Slot>();
        for (std::size_t i = 1; i < ids.size(); ++i) {
            const At at = holeAt(pins_[order[i]]);
            read(first_, ids[i], Contact::Centres, Axis::Along, at.x - origin_.x, true);
            if (!rows || slots[i].row != slots[0].row)
                read(first_, ids[i], Contact::Centres, Axis::Across, at.y - origin_.y, true);
        }
    }

    void takeBare() {
        for (std::size_t i = 0; i < bare_.size(); ++i) {
            made_.part = withSpot(std::move(made_.part), SpotKind::MountingHole);
            Spot& spot = made_.part.spots.back();
            if (!bare_[i].number.empty()) spot.name = bare_[i].number;
            const FeatureId id = spot.id;
            const At at = holeAt(bare_[i]);
            if (first_.empty()) {
                first_ = id;
                origin_ = at;
            } else {
                read(first_, id, Contact::Centres, Axis::Along, at.x - origin_.x, true);
                read(first_, id, Contact::Centres, Axis::Across, at.y - origin_.y, true);
            }
            read(id, {}, Contact::Size, Axis::Along, bare_[i].hole, false);
            PadOverride& o = made_.part.overrides[id];
            o.hole = Length::fromMm(bare_[i].hole);
            if (bare_[i].slotLength > bare_[i].hole) {
                o.holeLength = Length::fromMm(bare_[i].slotLength);
                made_.notes.push_back("a bare slot lies along the row here: look which way it lies in the file");
            }
            o.reason = reason();
        }
    }

    std::string reason() const { return "taken in from " + made_.part.sources.front().title; }

    void numberPins(const std::vector<std::size_t>& order) {
        const auto ids = allPins(made_.part);
        std::map<FeatureId, std::string> wanted;
        std::map<std::string, int> count;
        for (std::size_t i = 0; i < ids.size(); ++i) {
            wanted[ids[i]] = pins_[order[i]].number;
            ++count[pins_[order[i]].number];
        }
        const auto agree = [&] {
            const auto numbers = pinNumbers(made_.part);
            return std::all_of(wanted.begin(), wanted.end(),
                               [&](const auto& w) { return w.second.empty() || numbers.at(w.first) == w.second; });
        };
        if (agree()) return;
        // By a rule, where one says them all.
        if (made_.part.formations.size() == 1) {
            const Numbering before = made_.part.formations[0].numbers;
            for (const NumberOrder order_ :
                 {NumberOrder::RowByRow, NumberOrder::Around, NumberOrder::ZigZag, NumberOrder::ByColumn})
                for (const bool left : {true, false})
                    for (const bool front : {true, false}) {
                        Numbering& n = made_.part.formations[0].numbers;
                        n.order = order_;
                        n.fromLeft = left;
                        n.fromFront = front;
                        if (agree()) return;
                    }
            made_.part.formations[0].numbers = before;
        }
        for (Formation& f : made_.part.formations)
            for (const FeatureId& id : f.pins) {
                const std::string& number = wanted[id];
                if (number.empty()) continue;
                f.numbers.own[id] = number;
                if (count[number] > 1) f.numbers.shared = true;
            }
    }

    struct Set {
        PadOverride o;
        int count = 0;
    };

    PadOverride overrideOf(const ForeignPad& p) const {
        PadOverride o;
        o.shape = p.shape;
        o.land = Length::fromMm(p.landX);
        if (p.shape == LandShape::Rectangle || p.shape == LandShape::Oval || p.shape == LandShape::RoundedRectangle)
            o.landLength = Length::fromMm(p.landY);
        if (p.shape != LandShape::Round && std::abs(p.turn) > 1e-6) o.turn = Angle::fromDegrees(p.turn);
        if (std::hypot(p.holeX, p.holeY) > 1e-5) {
            o.offsetX = Length::fromMm(-p.holeX);
            o.offsetY = Length::fromMm(-p.holeY);
        }
        if (p.hole > 0)
            o.hole = Length::fromMm(p.hole);
        else
            o.layers = PadLayers::Top;
        if (p.slotLength > p.hole) o.holeLength = Length::fromMm(p.slotLength);
        o.reason = reason();
        return o;
    }

    void setHoles(const std::vector<std::size_t>& order) {
        const auto ids = allPins(made_.part);
        if (ids.empty()) return;
        // What most pads have is set at the whole part, the others' own at themselves.
        std::vector<Set> sets;
        for (const std::size_t i : order) {
            const PadOverride o = overrideOf(pins_[i]);
            const auto it = std::find_if(sets.begin(), sets.end(), [&](const Set& s) { return s.o == o; });
            if (it == sets.end())
                sets.push_back({o, 1});
            else
                ++it->count;
        }
        const Set& most =
            *std::max_element(sets.begin(), sets.end(), [](const Set& a, const Set& b) { return a.count < b.count; });
        made_.part.overrides[kWholePart] = most.o;
        bool across = false;
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const ForeignPad& p = pins_[order[i]];
            PadOverride o = overrideOf(p);
            across = across || (p.slotLength > p.hole && std::abs(std::remainder(p.slotTurn, 180)) > 0.5);
            if (o == most.o) continue;
            // Each of the common fields that this pad does not have is taken back to its plain value.
            if (most.o.turn && !o.turn) o.turn = Angle();
            if (most.o.offsetX && !o.offsetX) o.offsetX = o.offsetY = Length();
            if (most.o.holeLength && !o.holeLength) o.holeLength = o.hole;
            if (most.o.layers && !o.layers) o.layers = PadLayers::Through;
            made_.part.overrides[ids[i]] = o;
        }
        if (across) made_.notes.push_back("slots lie along their leads' longer side: read the lead, and look at them");
    }

    void setDatum() {
        if (made_.part.formations.empty()) return;
        const auto near = [](double x, double y) { return std::hypot(x, y) < 1e-3; };
        // The file's own origin, where it is pin 1; the pins' middle is the datum anyhow.
        if (near(origin_.x, origin_.y)) made_.part.datum.kind = DatumKind::PinOne;
    }

    TakeInOptions options_;
    TakenIn made_;
    std::vector<ForeignPad> pins_, bare_;
    std::string source_;
    FeatureId first_;
    At origin_{0, 0};
};

}  // namespace

Result<TakenIn> takenIn(const ForeignPattern& pattern, const TakeInOptions& options) {
    return Taking(pattern, options).take();
}

ForeignPattern foreignOf(const Part& part, const Footprint& f) {
    ForeignPattern all;
    all.name = part.name;
    for (const Pad& pad : f.pads) {
        const Land& land = shownLand(pad);
        ForeignPad p;
        p.number = pad.number;
        p.x = land.at.x.mm();
        p.y = land.at.y.mm();
        p.shape = land.shape;
        p.landX = land.width.mm();
        p.landY = land.length.mm();
        p.turn = land.turn.degrees();
        p.hole = pad.hole.mm();
        p.holeX = (pad.at.x - land.at.x).mm();
        p.holeY = (pad.at.y - land.at.y).mm();
        p.slotLength = pad.slotLength.mm();
        p.slotTurn = pad.slotTurn.degrees();
        all.pads.push_back(std::move(p));
    }
    for (const BareHole& h : f.bareHoles) {
        ForeignPad p;
        p.number = h.name;
        p.x = h.at.x.mm();
        p.y = h.at.y.mm();
        p.hole = h.size.mm();
        p.slotLength = h.slotLength.mm();
        p.slotTurn = h.slotTurn.degrees();
        p.plated = h.plated;
        if (h.plated) {
            p.shape = h.land.shape;
            p.landX = h.land.width.mm();
            p.landY = h.land.length.mm();
            p.turn = h.land.turn.degrees();
        }
        all.pads.push_back(std::move(p));
    }
    return all;
}

Result<TakenIn> copyOf(const Part& part, const std::string& name, bool withEvidence, const std::string& seen) {
    if (withEvidence) {
        TakenIn copy{part, {}};
        copy.part.name = name;
        return copy;
    }
    auto made = takenIn(foreignOf(part, derive(part)), {part.name, {}, seen});
    if (!made) return made;
    made->part.name = name;
    made->part.description = part.description;
    made->part.reference = part.reference;
    made->part.pins = part.pins;
    made->part.rules = part.rules;
    return made;
}

}  // namespace punch
