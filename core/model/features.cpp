// Evaluating the model: from values of the unknowns to parameters and features.

#include <cmath>
#include <limits>

#include "core/model/contacts.h"
#include "core/model/model.h"

namespace punch {

Expr Feature::coordinate(Axis axis) const {
    if (axis == Axis::Height) return z.value_or(Expr());
    return axis == Axis::Across ? y : x;
}

Expr Feature::half(Axis axis) const {
    if (axis == Axis::Height) return Expr();
    if (round) return halfX;
    if (!turn) return axis == Axis::Across ? halfY : halfX;
    const Expr c = abs(cosDegrees(*turn));
    const Expr s = abs(sinDegrees(*turn));
    return axis == Axis::Across ? halfAlong(s, c) : halfAlong(c, s);
}

Expr Feature::halfAlong(const Expr& alongX, const Expr& alongY) const {
    if (round) return halfX;
    if (!oval) return halfX * alongX + halfY * alongY;
    // A disc of its shorter side that runs along its longer one.
    const bool wide = halfX.value() >= halfY.value();
    const Expr& radius = wide ? halfY : halfX;
    return wide ? radius + (halfX - halfY) * alongX : radius + (halfY - halfX) * alongY;
}

ModelAt::ModelAt(const Model& model, const std::vector<double>& values) : model_(&model) {
    parameters_.reserve(model.parameters_.size());
    for (const Parameter& p : model.parameters_)
        parameters_.push_back(p.unknown >= 0 ? Expr::unknown(p.unknown, values[static_cast<std::size_t>(p.unknown)])
                                             : Expr(p.fixed));
    for (const Model::Bound& b : model.bound_) {
        std::vector<Expr> of;
        std::vector<double> at;
        for (const int name : b.of) {
            if (name >= 0) {
                of.push_back(parameter(name));
            } else {
                const Model::Named& n = model.named_[static_cast<std::size_t>(-2 - name)];
                Feature features[3];
                const int index[3] = {n.a, n.b, n.c};
                for (int k = 0; k < 3; ++k)
                    if (index[k] >= 0) features[k] = feature(index[k]);
                const auto e = contactExpr(n.reading, &features[0], n.b < 0 ? nullptr : &features[1],
                                           n.c < 0 ? nullptr : &features[2], 1.0);
                of.push_back(e ? *e : Expr());
            }
            at.push_back(of.back().value());
        }
        std::vector<double> derivatives(of.size(), 0.0);
        double value = b.formula.value(at);
        for (std::size_t i = 0; i < of.size(); ++i) {
            derivatives[i] = of[i].gradient().empty() ? 0.0 : b.formula.derivative(at, i);
            if (!std::isfinite(derivatives[i])) derivatives[i] = 0;
        }
        // A division by nothing, for now: it is drawn where it is assumed.
        if (!std::isfinite(value) || std::abs(value) > 1e5)
            value = model.parameters_[static_cast<std::size_t>(b.parameter)].assumed;
        parameters_[static_cast<std::size_t>(b.parameter)] = Expr::chain(value, derivatives, of);
    }
}

const Expr& ModelAt::parameter(const std::string& name) const {
    static const Expr nothing;
    const int index = model_->parameterIndex(name);
    return index < 0 ? nothing : parameter(index);
}

bool Model::isLinear(int feature) const {
    if (!bound_.empty()) return false;
    for (int at = feature; at >= 0; at = features_[static_cast<std::size_t>(at)].mirrored) {
        const Ref& ref = features_[static_cast<std::size_t>(at)];
        if (ref.kind != Kind::Pin) continue;
        const Pattern& p = patterns_[ref.owner];
        const auto isFree = [&](int parameter) {
            return parameter >= 0 && parameters_[static_cast<std::size_t>(parameter)].unknown >= 0;
        };
        if (p.kind == FormationKind::Ring || isFree(p.turn)) return false;
        // A turned rectangle's half extents bend with nothing, but its own axes are not those of the frame.
        if (p.turn >= 0 && parameters_[static_cast<std::size_t>(p.turn)].fixed != 0) return false;
    }
    return true;
}

Expr ModelAt::growth(const Model::Ref& ref, double pitches) const {
    if (ref.onSample || pitches == 0 || model_->growPitch_ < 0) return Expr();
    return pitches * parameter(model_->growPitch_);
}

Feature ModelAt::mirror(const Model::Ref& ref, Axis axis, int axisParameter, double grown, bool levels) const {
    Feature f = feature(ref.mirrored, levels);
    f.id = ref.id;
    Expr& coordinate = axis == Axis::Along ? f.x : f.y;
    coordinate = 2.0 * (parameter(axisParameter) + growth(ref, axis == Axis::Along ? grown : 0)) - coordinate;
    if (f.turn) f.turn = (axis == Axis::Along ? Expr(180) : Expr(0)) - *f.turn;
    return f;
}

Feature ModelAt::pin(const Model::Ref& ref, bool levels) const {
    const Model::Pattern& p = model_->patterns_[ref.owner];
    Feature f;
    if (ref.mirrored >= 0) {
        f = mirror(ref, p.mirror, p.axis, p.grown, levels);
    } else {
        f.id = ref.id;
        f.round = p.round;
        if (p.width >= 0) {
            f.halfX = parameter(p.width) / 2;
            f.halfY = p.thickness >= 0 ? parameter(p.thickness) / 2 : f.halfX;
            f.oval = p.oval;
            if (p.endWidth >= 0) {
                f.endX = parameter(p.endWidth) / 2;
                f.endY = p.endThickness >= 0 ? parameter(p.endThickness) / 2 : *f.endX;
            }
            if (levels) {
                f.height = parameter(p.length);
                f.z = -*f.height;
            }
        }
        if (p.kind == FormationKind::Ring) {
            if (ref.slot.row >= 0) {
                const double way = p.clockwise ? -1.0 : 1.0;
                const Expr angle = parameter(p.start) + (p.step >= 0 ? (way * ref.slot.place) * parameter(p.step)
                                                                     : Expr(way * ref.slot.place * p.ringStep));
                const Expr radius = parameter(p.circle) / 2;
                f.x = radius * cosDegrees(angle);
                f.y = radius * sinDegrees(angle);
                // A flat lead stands with its width along the ring.
                if (!f.round) f.turn = angle + Expr(90);
            }
        } else if (p.pitch >= 0) {
            const bool rear = ref.slot.row % 2 == 1 && p.kind == FormationKind::TwoRows;
            f.x = ref.slot.place * parameter(rear && p.rearPitch >= 0 ? p.rearPitch : p.pitch);
            if (rear && p.rowShift >= 0) f.x = f.x + parameter(p.rowShift);
            if (p.rowGap >= 0) f.y = static_cast<double>(ref.slot.row) * parameter(p.rowGap);
        }
        if (p.turn >= 0) {
            const Expr& t = parameter(p.turn);
            if (t.value() != 0 || !t.gradient().empty()) {
                const Expr c = cosDegrees(t);
                const Expr s = sinDegrees(t);
                const Expr x = f.x;
                f.x = c * x - s * f.y;
                f.y = s * x + c * f.y;
                if (!f.round) f.turn = t;
            }
        }
        if (p.x >= 0) f.x = f.x + parameter(p.x);
        if (p.grown != 0) f.x = f.x + growth(ref, p.grown);
        if (p.y >= 0) f.y = f.y + parameter(p.y);
    }
    if (ref.dx >= 0) f.x = f.x + parameter(ref.dx);
    if (ref.dy >= 0) f.y = f.y + parameter(ref.dy);
    return f;
}

PictureAt ModelAt::picture(int index) const {
    const PictureTerm& t = model_->pictures_[static_cast<std::size_t>(index)];
    const auto rim = [&](int p) { return p < 0 ? Expr(0) : parameter(p); };
    return {parameter(t.scaleX), parameter(t.scaleY), parameter(t.angle), parameter(t.x), parameter(t.y),
            rim(t.rimBright),    rim(t.rimDark),      t.nominal,          t.mirrored};
}

Feature ModelAt::feature(int index, bool levels) const {
    const Model::Ref& ref = model_->features_[static_cast<std::size_t>(index)];
    Feature f;
    f.id = ref.id;
    switch (ref.kind) {
        case Model::Kind::Pin: return pin(ref, levels);
        case Model::Kind::Spot: {
            const Model::SpotRef& s = model_->spots_[ref.owner];
            if (ref.mirrored >= 0 && s.axis >= 0) {
                f = mirror(ref, s.mirror, s.axis, s.grown, levels);
                break;
            }
            f.round = s.round;
            if (s.x >= 0) {
                f.x = parameter(s.x);
                f.y = parameter(s.y);
                if (s.grown != 0) f.x = f.x + growth(ref, s.grown);
            }
            if (s.width >= 0) f.halfX = parameter(s.width) / 2;
            f.halfY = s.thickness >= 0 ? parameter(s.thickness) / 2 : f.halfX;
            break;
        }
        case Model::Kind::BodyFace:
        case Model::Kind::Face: {
            const Model::FaceRef& face = model_->faces_[ref.owner];
            Expr at = face.at >= 0 ? parameter(face.at) : Expr();
            if (face.grown != 0) at = at + growth(ref, face.grown);
            f.faceAxis = face.axis;
            f.side = face.side;
            if (face.axis == Axis::Along)
                f.x = at;
            else if (face.axis == Axis::Across)
                f.y = at;
            else
                f.z = at;
            f.kind = FeatureKind::Face;
            return f;
        }
        case Model::Kind::Body: {
            const auto faceAt = [&](int p, const FeatureId& id) {
                const int face = model_->featureIndex(id);
                const double grown = model_->faces_[model_->features_[static_cast<std::size_t>(face)].owner].grown;
                return grown != 0 ? parameter(p) + growth(ref, grown) : parameter(p);
            };
            const Expr left = faceAt(model_->left_, kLeftFace);
            const Expr right = faceAt(model_->right_, kRightFace);
            const Expr& front = parameter(model_->front_);
            const Expr& rear = parameter(model_->rear_);
            f.x = (left + right) / 2;
            f.y = (front + rear) / 2;
            f.halfX = (right - left) / 2;
            f.halfY = (rear - front) / 2;
            f.height = f.z = parameter(model_->height_);
            f.kind = FeatureKind::Body;
            return f;
        }
    }
    f.kind = FeatureKind::Spot;
    return f;
}

std::map<FeatureId, Feature> ModelAt::features() const {
    std::map<FeatureId, Feature> all;
    for (std::size_t i = 0; i < model_->features_.size(); ++i)
        if (!model_->features_[i].onSample) all.emplace(model_->features_[i].id, feature(static_cast<int>(i)));
    return all;
}

}  // namespace punch
