#include "core/model/model.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "core/part/drawing_value.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Parameter)

namespace {
// Plausible sizes for what nothing has been read of yet.
constexpr double kPitch = 5.08;
constexpr double kRowGap = 7.62;
constexpr double kCircle = 12.0;
constexpr double kStart = 90.0;
constexpr double kStep = 30.0;
constexpr double kBetweenFormations = 10.0;
constexpr double kLead = 1.0;
constexpr double kLeadThickness = 0.8;
constexpr double kLeadEnd = 1.2;
constexpr double kLeadLength = 3.2;
constexpr double kSpotDiameter = 1.5;
constexpr double kBodyMargin = 3.0;
constexpr double kBodyDepth = 5.0;
constexpr double kBodyHeight = 10.0;

bool givesDirection(const Part& part, const Formation& f) {
    const Formation& shape = shapeOf(part, f);
    return !traitsOf(f).mirrors && traitsOf(shape).straight;
}

std::string withoutSpaces(std::string text) {
    std::erase(text, ' ');
    return text;
}
}  // namespace

Model::Model(const Part& part, const std::string& free) {
    for (const Formation& f : part.formations)
        if (givesDirection(part, f)) {
            direction_ = f.id;
            break;
        }
    ringGives_ = direction_.empty() && !part.body.present && part.faces.empty();
    for (const Formation& f : part.formations) addFormation(part, free, f);
    double spots = 0;
    for (const Spot& spot : part.spots) addSpot(part, free, spot, span_ / 2 + 2.5 * spots++);
    addFaces(part, free);
    for (const std::string& instrument : part.zeros) add(part, free, "zero." + instrument, "zero of " + instrument, 0);
    for (const Reading& r : part.readings)
        if (r.contact == Contact::Quantity && !r.name.empty() && !has(r.name))
            add(part, free, r.name, r.name, r.raw.empty() ? 10.0 : r.raw.front().value.mm());
    addPictures(part, free);
    // Twins are joined to what they mirror once everything has its index.
    for (Ref& ref : features_)
        if (ref.kind == Kind::Spot) {
            const Spot& spot = part.spots[ref.owner];
            if (!spot.twinOf.empty()) ref.mirrored = featureIndex(spot.twinOf);
        }
    for (std::size_t i = 0; i < part.formations.size(); ++i) {
        const Formation& f = part.formations[i];
        const Formation* of = traitsOf(f).mirrors ? formationById(part, f.twinOf) : nullptr;
        if (traitsOf(f).mirrors && of == nullptr)
            complaints_.push_back({f.id, "it mirrors a formation that is not there"});
        for (std::size_t k = 0; of != nullptr && k < std::min(f.pins.size(), of->pins.size()); ++k)
            features_[static_cast<std::size_t>(featureIndex(f.pins[k]))].mirrored = featureIndex(of->pins[k]);
    }
    // A mirror of a mirror of itself has no place: such a twin stands still.
    for (std::size_t i = 0; i < features_.size(); ++i) {
        int at = static_cast<int>(i);
        for (std::size_t steps = 0; at >= 0; ++steps) {
            if (steps > features_.size()) {
                features_[i].mirrored = -1;
                complaints_.push_back({features_[i].id, "it mirrors itself"});
                break;
            }
            at = features_[static_cast<std::size_t>(at)].mirrored;
        }
    }
    bindFormulas(part);
    addSample(part);
    numberUnknowns();
}

int Model::add(const Part& part, const std::string& free, std::string name, std::string words, double assumed,
               bool isAngle) {
    Parameter p;
    p.name = std::move(name);
    p.words = std::move(words);
    p.assumed = assumed;
    p.isAngle = isAngle;
    p.kind = parameterKind(p.name);
    p.isPositive = traitsOf(p.kind).positive && !isAngle;
    if (isAngle) {
        if (const auto it = part.turned.find(p.name); it != part.turned.end()) p.assumed = it->second.degrees();
    } else if (const auto it = part.assumed.find(p.name); it != part.assumed.end()) {
        p.assumed = it->second.mm();
    }
    if (const auto it = part.given.find(p.name); it != part.given.end()) {
        p.state = Parameter::State::Given;
        p.typed = it->second.typed;
    } else if (const auto taken = part.taken.find(p.name); taken != part.taken.end() && p.name != free) {
        p.state = Parameter::State::Taken;
        p.fixed = taken->second.mm();
    }
    index_[p.name] = parameters_.size();
    parameters_.push_back(std::move(p));
    return static_cast<int>(parameters_.size()) - 1;
}

void Model::addFeature(Ref ref) {
    featureIndex_[ref.id] = static_cast<int>(features_.size());
    features_.push_back(std::move(ref));
}

void Model::addFormation(const Part& part, const std::string& free, const Formation& f) {
    const std::string prefix = parameterPrefix(part, f);
    const auto parameter = [&](const char* name, std::string words, double assumed, bool isAngle = false) {
        return add(part, free, prefix + name, prefix.empty() ? std::move(words) : f.id + " " + words, assumed, isAngle);
    };
    Pattern p;
    p.kind = f.kind;
    p.clockwise = f.clockwise;
    p.middle = f.middle;
    p.mirror = f.mirror;
    p.round = shapeOf(part, f).lead == LeadShape::Round;
    p.oval = shapeOf(part, f).lead == LeadShape::Oval;
    const FormationTraits& traits = traitsOf(f);
    const bool twin = traits.mirrors && formationById(part, f.twinOf) != nullptr;
    if (!prefix.empty() && !twin) {
        p.x = parameter("x", "along", 0);
        p.y = parameter("y", "across", kBetweenFormations * static_cast<double>(patterns_.size()));
        if (!traits.around && (traits.straight || traits.mirrors) && f.id != direction_)
            p.turn = parameter("turn", "turn", 0, true);
    }
    const auto pitchOf = [&](int index) {
        const Parameter& q = parameters_[static_cast<std::size_t>(index)];
        return q.state == Parameter::State::Taken ? q.fixed : q.assumed;
    };
    const auto slots = slotsOf(part, f);
    if (traits.around) {
        p.circle = parameter("circle", "pin circle diameter", kCircle);
        p.start = parameter("start", "start angle", kStart, true);
        const auto around = static_cast<double>(f.pins.size()) - (f.middle ? 1 : 0);
        p.ringStep = 360.0 / std::max(around, 1.0);
        if (f.arc) p.step = parameter("step", "angle between pins", kStep, true);
        if (ringGives_ && prefix.empty() &&
            parameters_[static_cast<std::size_t>(p.start)].state != Parameter::State::Given)
            fix(p.start, parameters_[static_cast<std::size_t>(p.start)].assumed);
    } else if (traits.mirrors) {
        if (twin) p.axis = parameter("axis", "mirror axis", span_ / 2);
    } else if (traits.straight) {
        p.pitch = parameter("pitch", "pitch", kPitch);
        if (traits.rowShift && f.ownPitch) p.rearPitch = parameter("rearPitch", "rear pitch", kPitch);
        if (traits.rowGap) p.rowGap = parameter("rowGap", "row gap", kRowGap);
        if (traits.rowShift) p.rowShift = parameter("rowShift", "rear row, along", 0);
        if (prefix.empty())
            for (const Slot& s : slots) span_ = std::max(span_, s.place * pitchOf(p.pitch));
    }
    if (!twin) {
        p.width = parameter("lead.width", f.lead == LeadShape::Round ? "lead diameter" : "lead width", kLead);
        if (f.lead == LeadShape::Rectangular || f.lead == LeadShape::Oval)
            p.thickness = parameter("lead.thickness", "lead thickness", kLeadThickness);
        p.length = parameter("lead.length", "lead length", kLeadLength);
        if (f.end != LeadEnd::Plain) {
            p.endWidth = parameter("lead.end.width", "width of the lead's end", kLeadEnd);
            // What is flattened has two sides, whatever the shank's section.
            p.endThickness = parameter("lead.end.thickness", "thickness of the lead's end", kLeadThickness);
        }
    }
    const std::set<FeatureId> moved(f.moved.begin(), f.moved.end());
    for (std::size_t i = 0; i < f.pins.size(); ++i) {
        Ref ref;
        ref.id = f.pins[i];
        ref.owner = patterns_.size();
        ref.slot = slots[i];
        if (moved.contains(ref.id)) {
            const std::string who = "pin " + pinNumber(part, ref.id);
            ref.dx = add(part, free, ref.id + ".dx", who + ", off its place along", 0);
            ref.dy = add(part, free, ref.id + ".dy", who + ", off its place across", 0);
        }
        addFeature(std::move(ref));
    }
    patterns_.push_back(p);
}

void Model::addSpot(const Part& part, const std::string& free, const Spot& spot, double drawnX) {
    SpotRef s;
    s.mark = spot.kind == SpotKind::Mark;
    s.round = !spot.flat;
    s.mirror = spot.mirror;
    const auto parameter = [&](const char* name, const char* words, double assumed) {
        alias_[withoutSpaces(spot.name) + name] = spot.id + name;
        return add(part, free, spot.id + name, spot.name + words, assumed);
    };
    if (!spot.twinOf.empty() && spotOf(part, spot.twinOf) != nullptr) {
        s.axis = parameter(".axis", ", mirror axis", span_ / 2);
    } else {
        // Without pins the first of them is where the frame begins.
        const bool begins = part.formations.empty() && spots_.empty();
        s.x = parameter(".x", ", along", begins ? 0 : drawnX);
        s.y = parameter(".y", ", across", begins ? 0 : -3.5);
        if (begins) begin({s.x, s.y});
        if (spot.flat) {
            s.width = parameter(".width", " width", kSpotDiameter);
            s.thickness = parameter(".thickness", " thickness", kLeadThickness);
        } else if (!s.mark) {
            s.width = parameter(".diameter", " diameter", kSpotDiameter);
        }
    }
    Ref ref;
    ref.id = spot.id;
    ref.kind = Kind::Spot;
    ref.owner = spots_.size();
    spots_.push_back(s);
    addFeature(std::move(ref));
}

void Model::addFaces(const Part& part, const std::string& free) {
    const auto addFace = [&](const FeatureId& id, Kind kind, int at, Axis axis, int side) {
        Ref ref;
        ref.id = id;
        ref.kind = kind;
        ref.owner = faces_.size();
        faces_.push_back({at, 1, side, axis});
        addFeature(std::move(ref));
    };
    if (part.body.present) {
        // Around the field of the first formation, as it is drawn before anything is read.
        double left = 0, right = span_, front = 0, rear = 0;
        const auto drawn = [&](int index) {
            const Parameter& p = parameters_[static_cast<std::size_t>(index)];
            return p.state == Parameter::State::Taken ? p.fixed : p.assumed;
        };
        if (!patterns_.empty() && patterns_.front().circle >= 0) {
            right = rear = drawn(patterns_.front().circle) / 2;
            left = front = -right;
        } else if (!patterns_.empty() && patterns_.front().rowGap >= 0) {
            for (const Slot& s : slotsOf(part, part.formations.front()))
                rear = std::max(rear, s.row * drawn(patterns_.front().rowGap));
        }
        left_ = add(part, free, "body.left", "left face", left - kBodyMargin);
        right_ = add(part, free, "body.right", "right face", right + kBodyMargin);
        rear_ = add(part, free, "body.rear", "rear face", rear + kBodyDepth);
        front_ = add(part, free, "body.front", "front face", front - kBodyDepth);
        height_ = add(part, free, "body.height", "body height", kBodyHeight);
        if (part.formations.empty() && part.spots.empty()) begin({left_, front_});
        addFace(kLeftFace, Kind::BodyFace, left_, Axis::Along, -1);
        addFace(kRightFace, Kind::BodyFace, right_, Axis::Along, +1);
        addFace(kFrontFace, Kind::BodyFace, front_, Axis::Across, -1);
        addFace(kRearFace, Kind::BodyFace, rear_, Axis::Across, +1);
        addFace(kTopFace, Kind::BodyFace, height_, Axis::Height, +1);
        addFace(kSeatingPlane, Kind::BodyFace, -1, Axis::Height, -1);
        Ref ref;
        ref.id = kBody;
        ref.kind = Kind::Body;
        addFeature(std::move(ref));
    }
    for (const Face& f : part.faces) {
        const double far = f.axis == Axis::Along ? span_ + 2 * kBodyMargin : 2 * kBodyDepth;
        alias_[withoutSpaces(f.name) + ".at"] = f.id + ".at";
        const int at = add(part, free, f.id + ".at", f.name, f.positive ? far : -far);
        addFace(f.id, Kind::Face, at, f.axis, f.positive ? 1 : -1);
    }
}

void Model::begin(const std::vector<int>& places) {
    for (const int i : places)
        if (const Parameter& p = parameters_[static_cast<std::size_t>(i)]; p.state == Parameter::State::Free)
            fix(i, p.assumed);
}

void Model::addPictures(const Part& part, const std::string& free) {
    for (const Source& s : part.sources) {
        const bool used = std::any_of(part.readings.begin(), part.readings.end(),
                                      [&](const Reading& r) { return r.pick && r.source == s.id; });
        if (!used) continue;
        const std::string who = s.title.empty() ? s.id : s.title;
        PictureTerm t;
        t.source = s.id;
        t.nominal = s.nominalMmPerPixel();
        t.mirrored = s.fromBelow();
        t.scaleX = add(part, free, s.id + ".scaleX", who + ", scale along x", 1);
        t.scaleY = add(part, free, s.id + ".scaleY", who + ", scale along y", 1);
        t.angle = add(part, free, s.id + ".angle", who + ", turn", 0, true);
        t.x = add(part, free, s.id + ".x", who + ", shift along x", 0);
        t.y = add(part, free, s.id + ".y", who + ", shift along y", 0);
        for (const bool bright : {true, false}) {
            const double u = rimOffsetU(part, s, bright);
            if (u <= 0) continue;
            const int rim = add(part, free, s.id + (bright ? ".rimBright" : ".rimDark"),
                                who + (bright ? ", rims bright on dark" : ", rims dark on bright"), 0);
            (bright ? t.rimBright : t.rimDark) = rim;
            priors_.push_back({rim, -1, 0, u});
        }
        const auto priors = picturePriors(part, t);
        priors_.insert(priors_.end(), priors.begin(), priors.end());
        pictures_.push_back(std::move(t));
    }
}

int Model::pictureIndex(const std::string& source) const {
    for (std::size_t i = 0; i < pictures_.size(); ++i)
        if (pictures_[i].source == source) return static_cast<int>(i);
    return -1;
}

// ------------------------------------------------------------------ given values and formulas

int Model::parameterIndex(const std::string& name) const {
    auto it = index_.find(name);
    if (it == index_.end())
        if (const auto alias = alias_.find(name); alias != alias_.end()) it = index_.find(alias->second);
    return it == index_.end() ? -1 : static_cast<int>(it->second);
}

int Model::featureIndex(const FeatureId& id) const {
    const auto it = featureIndex_.find(id);
    return it == featureIndex_.end() ? -1 : it->second;
}

void Model::fix(int parameter, double value) {
    Parameter& p = parameters_[static_cast<std::size_t>(parameter)];
    p.state = Parameter::State::Given;
    p.fixed = value;
}

void Model::complain(int parameter, const std::string& words) {
    Parameter& p = parameters_[static_cast<std::size_t>(parameter)];
    p.state = Parameter::State::Free;
    complaints_.push_back({p.name, words});
}

int Model::nameIndex(const Part& part, const std::string& name) {
    if (const int own = parameterIndex(name); own >= 0) return own;
    for (const Reading& r : part.readings) {
        if (r.name != name || r.contact == Contact::Quantity) continue;
        Named n{r, readOn(part, r, r.a), readOn(part, r, r.b), readOn(part, r, r.c)};
        if (n.a < 0 || (!r.b.empty() && n.b < 0) || (!r.c.empty() && n.c < 0)) continue;
        named_.push_back(n);
        return -2 - (static_cast<int>(named_.size()) - 1);
    }
    if (const auto value = letterValue(part.letters, name)) {
        const int index = add(part, {}, name, name, value->nominal.mm());
        if (value->form == DrawingForm::Exact)
            fix(index, value->nominal.mm());
        else
            letterValues_.push_back({index, *value});
        return index;
    }
    return -1;
}

void Model::bindFormulas(const Part& part) {
    const auto isAngleName = [&](const std::string& name) {
        const int i = parameterIndex(name);
        if (i >= 0) return parameters_[static_cast<std::size_t>(i)].isAngle;
        for (const Reading& r : part.readings)
            if (r.name == name) return r.contact == Contact::Angle;
        return false;
    };
    const std::size_t count = parameters_.size();
    for (std::size_t i = 0; i < count; ++i) {
        if (parameters_[i].state != Parameter::State::Given || parameters_[i].typed.empty()) continue;
        const auto index = static_cast<int>(i);
        const Given& given = part.given.at(parameters_[i].name);
        const auto formula = Formula::parse(
            given.typed, given.unit, parameters_[i].isAngle ? Formula::Kind::Angle : Formula::Kind::Length,
            [&](const std::string& n) { return isAngleName(n) ? Formula::Kind::Angle : Formula::Kind::Length; });
        if (!formula) {
            complain(index, formula.error().text());
            continue;
        }
        if (formula->names().empty()) {
            parameters_[i].fixed = formula->value({});
            continue;
        }
        Bound bound{index, *formula, {}};
        std::string missing;
        for (const std::string& name : formula->names()) {
            const int of = nameIndex(part, name);
            if (of == -1) missing += (missing.empty() ? "" : ", ") + name;
            bound.of.push_back(of);
        }
        if (!missing.empty()) {
            complain(index,
                     fmt::format("“{}” names {}, which is no parameter, reading or letter", given.typed, missing));
            continue;
        }
        parameters_[i].state = Parameter::State::Formula;
        bound_.push_back(std::move(bound));
    }
    orderFormulas();
}

void Model::numberUnknowns() {
    unknowns_ = 0;
    for (Parameter& p : parameters_) p.unknown = p.state == Parameter::State::Free ? unknowns_++ : -1;
}

std::vector<double> Model::start() const {
    std::vector<double> values(static_cast<std::size_t>(unknowns_));
    for (const Parameter& p : parameters_)
        if (p.unknown >= 0) values[static_cast<std::size_t>(p.unknown)] = p.assumed;
    return values;
}

}  // namespace punch
