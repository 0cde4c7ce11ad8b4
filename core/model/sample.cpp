// A member of a family: its features grown from the sample's, and those of the sample, which the readings are of.

#include <algorithm>

#include "core/model/model.h"
#include "core/part/drawing_value.h"
#include "core/part/formation_kinds.h"

namespace punch {
namespace {

/// A drawing with a table of letters shows every column's part: its numbers and letters are the member's own.
bool isOwn(const Part& part, const Reading& r) {
    if (!part.sample.drawingsAreOwn || r.pick || !r.sameAs.empty()) return false;
    return r.drawing || (r.raw.empty() && !r.name.empty() && letterValue(part.letters, r.name));
}

}  // namespace

int Model::sampleIndex(const FeatureId& id) const {
    const auto it = sampleIndex_.find(id);
    return it == sampleIndex_.end() ? featureIndex(id) : it->second;
}

int Model::readOn(const Part& part, const Reading& reading, const FeatureId& id) const {
    const int own = isOwn(part, reading) ? featureIndex(id) : -1;
    return own >= 0 ? own : sampleIndex(id);
}

bool Model::saysMember(const Part& part, int parameter, int depth) const {
    if (!part.sample.drawingsAreOwn || depth > 8) return false;
    for (const Bound& b : bound_) {
        if (b.parameter != parameter) continue;
        for (const int of : b.of) {
            if (of < 0) {
                if (isOwn(part, named_[static_cast<std::size_t>(-2 - of)].reading)) return true;
                continue;
            }
            const std::string& name = parameters_[static_cast<std::size_t>(of)].name;
            if (letterValue(part.letters, name) || saysMember(part, of, depth + 1)) return true;
        }
    }
    return false;
}

double Model::grownOf(const Part& part, const std::string& feature, int parameter) const {
    const auto it = part.sample.grown.find(feature);
    return it == part.sample.grown.end() || saysMember(part, parameter) ? 0.0 : it->second;
}

void Model::addSample(const Part& part) {
    if (part.sample.formations.empty()) return;
    const Formation& varies = part.sample.formations.front();
    for (std::size_t i = 0; i < part.formations.size(); ++i) {
        Pattern& p = patterns_[i];
        if (part.formations[i].id == varies.id) growPitch_ = p.pitch;
        p.grown = grownOf(part, part.formations[i].id, p.axis >= 0 ? p.axis : p.x);
    }
    for (std::size_t i = 0; i < part.spots.size(); ++i)
        spots_[i].grown = grownOf(part, part.spots[i].id, spots_[i].axis >= 0 ? spots_[i].axis : spots_[i].x);
    for (const Ref& ref : features_)
        if (ref.kind == Kind::BodyFace || ref.kind == Kind::Face)
            if (FaceRef& face = faces_[ref.owner]; face.axis == Axis::Along && face.at >= 0)
                face.grown = grownOf(part, ref.id, face.at);

    Part onSample;
    onSample.formations = part.formations;
    for (Formation& f : onSample.formations)
        for (const Formation& there : part.sample.formations)
            if (there.id == f.id) f = there;
    std::vector<Ref> refs;
    for (std::size_t i = 0; i < onSample.formations.size(); ++i) {
        const Formation& f = onSample.formations[i];
        const auto slots = slotsOf(onSample, f);
        for (std::size_t k = 0; k < f.pins.size(); ++k) {
            Ref ref;
            // What is on both may stand off its place.
            if (const int own = featureIndex(f.pins[k]); own >= 0) {
                ref.dx = features_[static_cast<std::size_t>(own)].dx;
                ref.dy = features_[static_cast<std::size_t>(own)].dy;
            }
            ref.id = f.pins[k];
            ref.owner = i;
            ref.slot = slots[k];
            refs.push_back(std::move(ref));
        }
    }
    for (const Ref& ref : features_)
        if (ref.kind != Kind::Pin) refs.push_back(ref);
    for (Ref& ref : refs) {
        ref.onSample = true;
        sampleIndex_[ref.id] = static_cast<int>(features_.size());
        features_.push_back(ref);
    }
    // What mirrors, mirrors what is on the sample too.
    for (const Spot& spot : part.spots)
        // What mirrors itself stands still here too.
        if (!spot.twinOf.empty() && features_[static_cast<std::size_t>(featureIndex(spot.id))].mirrored >= 0)
            features_[static_cast<std::size_t>(sampleIndex(spot.id))].mirrored = sampleIndex(spot.twinOf);
    const auto mirrors = [&](const Formation& f) {
        const Formation* member = formationById(part, f.id);
        const int own = member == nullptr || member->pins.empty() ? -1 : featureIndex(member->pins.front());
        return own >= 0 && features_[static_cast<std::size_t>(own)].mirrored >= 0;
    };
    for (const Formation& f : onSample.formations) {
        const Formation* of = mirrors(f) && traitsOf(f).mirrors ? formationById(onSample, f.twinOf) : nullptr;
        for (std::size_t k = 0; of != nullptr && k < std::min(f.pins.size(), of->pins.size()); ++k)
            features_[static_cast<std::size_t>(sampleIndex(f.pins[k]))].mirrored = sampleIndex(of->pins[k]);
    }
    // A formula that names a reading means what was read.
    for (Named& n : named_) {
        n.a = n.reading.a.empty() ? -1 : readOn(part, n.reading, n.reading.a);
        n.b = n.reading.b.empty() ? -1 : readOn(part, n.reading, n.reading.b);
        n.c = n.reading.c.empty() ? -1 : readOn(part, n.reading, n.reading.c);
    }
}

}  // namespace punch
