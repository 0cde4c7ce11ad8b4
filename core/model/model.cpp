#include "core/model/model.h"

#include <algorithm>

namespace punch {

namespace {
// Plausible sizes for what nothing has been read of yet.
constexpr double kPitch = 5.08;
constexpr double kLead = 1.0;
constexpr double kLeadThickness = 0.8;
constexpr double kLeadLength = 3.2;
constexpr double kPegDiameter = 1.5;
constexpr double kBodyMargin = 3.0;
constexpr double kBodyDepth = 5.0;
constexpr double kBodyHeight = 10.0;
}  // namespace

std::string parameterPrefix(const Part& part, const Formation& formation) {
    return part.formations.empty() || part.formations.front().id == formation.id ? "" : formation.id + ".";
}

void Parameters::add(const Part& part, const std::string& free, std::string name, std::string words, double assumed) {
    Parameter p{std::move(name), std::move(words), assumed, {}, -1};
    if (const auto it = part.assumed.find(p.name); it != part.assumed.end()) p.assumed = it->second.mm();
    if (const auto it = part.taken.find(p.name); it != part.taken.end() && p.name != free)
        p.taken = it->second.mm();
    else
        p.unknown = unknowns_++;
    index_[p.name] = all_.size();
    all_.push_back(std::move(p));
}

Parameters::Parameters(const Part& part, const std::string& free) {
    double span = 0;
    double pitch = kPitch;
    for (const Formation& f : part.formations) {
        const std::string prefix = parameterPrefix(part, f);
        add(part, free, prefix + "pitch", prefix + "pitch", kPitch);
        if (prefix.empty()) pitch = all_.back().taken.value_or(all_.back().assumed);
        add(part, free, prefix + "lead.width", f.lead == LeadShape::Round ? "lead diameter" : "lead width", kLead);
        if (f.lead == LeadShape::Rectangular)
            add(part, free, prefix + "lead.thickness", "lead thickness", kLeadThickness);
        add(part, free, prefix + "lead.length", "lead length", kLeadLength);
        span = std::max(span, pitch * static_cast<double>(f.pins.size() - 1));
    }
    double pegs = 0;
    for (const Peg& peg : part.pegs) {
        add(part, free, peg.id + ".x", peg.name + ", along", span / 2 + 2.5 * pegs);
        add(part, free, peg.id + ".y", peg.name + ", across", -3.5);
        add(part, free, peg.id + ".diameter", peg.name + " diameter", kPegDiameter);
        ++pegs;
    }
    if (part.body.present) {
        add(part, free, "body.left", "left face", -kBodyMargin);
        add(part, free, "body.right", "right face", span + kBodyMargin);
        add(part, free, "body.rear", "rear face", kBodyDepth);
        add(part, free, "body.front", "front face", -kBodyDepth);
        add(part, free, "body.height", "body height", kBodyHeight);
    }
}

const Parameter& Parameters::ofUnknown(int unknown) const {
    return *std::find_if(all_.begin(), all_.end(), [&](const Parameter& p) { return p.unknown == unknown; });
}

Expr Parameters::expr(const std::string& name, const std::vector<double>& values) const {
    const Parameter& p = byName(name);
    return p.taken ? Expr(*p.taken) : Expr::unknown(p.unknown, values[static_cast<std::size_t>(p.unknown)]);
}

std::vector<double> Parameters::start() const {
    std::vector<double> values(static_cast<std::size_t>(unknowns_));
    for (const Parameter& p : all_)
        if (p.unknown >= 0) values[static_cast<std::size_t>(p.unknown)] = p.assumed;
    return values;
}

std::map<FeatureId, Feature> featuresAt(const Part& part, const Parameters& parameters,
                                        const std::vector<double>& values) {
    std::map<FeatureId, Feature> features;
    for (const Formation& f : part.formations) {
        const std::string prefix = parameterPrefix(part, f);
        const auto get = [&](const char* name) { return parameters.expr(prefix + name, values); };
        const Expr pitch = get("pitch");
        const Expr halfWidth = get("lead.width") / 2;
        const Expr halfThickness = f.lead == LeadShape::Rectangular ? get("lead.thickness") / 2 : halfWidth;
        for (std::size_t i = 0; i < f.pins.size(); ++i) {
            Feature pin;
            pin.id = f.pins[i];
            pin.x = static_cast<double>(i) * pitch;
            pin.halfX = halfWidth;
            pin.halfY = halfThickness;
            pin.height = get("lead.length");
            pin.round = f.lead == LeadShape::Round;
            features[pin.id] = pin;
        }
    }
    for (const Peg& peg : part.pegs) {
        Feature f;
        f.id = peg.id;
        f.kind = FeatureKind::Peg;
        f.x = parameters.expr(peg.id + ".x", values);
        f.y = parameters.expr(peg.id + ".y", values);
        f.halfX = f.halfY = parameters.expr(peg.id + ".diameter", values) / 2;
        f.round = true;
        features[f.id] = f;
    }
    if (part.body.present) {
        const auto face = [&](const char* id, Axis axis, int side) {
            Feature f;
            f.id = id;
            f.kind = FeatureKind::Face;
            (axis == Axis::Along ? f.x : f.y) = parameters.expr(id, values);
            f.faceAxis = axis;
            f.side = side;
            features[f.id] = f;
            return axis == Axis::Along ? f.x : f.y;
        };
        const Expr left = face(kLeftFace, Axis::Along, -1);
        const Expr right = face(kRightFace, Axis::Along, +1);
        const Expr front = face(kFrontFace, Axis::Across, -1);
        const Expr rear = face(kRearFace, Axis::Across, +1);
        Feature body;
        body.id = kBody;
        body.kind = FeatureKind::Body;
        body.x = (left + right) / 2;
        body.y = (front + rear) / 2;
        body.halfX = (right - left) / 2;
        body.halfY = (rear - front) / 2;
        body.height = parameters.expr("body.height", values);
        features[body.id] = body;
    }
    return features;
}

Expr leadAcross(const Part& part, const Formation& formation, const Parameters& parameters,
                const std::vector<double>& values) {
    const std::string prefix = parameterPrefix(part, formation);
    const Expr width = parameters.expr(prefix + "lead.width", values);
    if (formation.lead == LeadShape::Round) return width;
    if (formation.lead == LeadShape::Square) return hypot(width, width);
    return hypot(width, parameters.expr(prefix + "lead.thickness", values));
}

}  // namespace punch
