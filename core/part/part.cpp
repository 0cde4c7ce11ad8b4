#include "core/part/part.h"

#include <algorithm>
#include <cstdlib>

#include "core/part/mark_kinds.h"
#include "core/part/numbering.h"

namespace punch {
namespace {

template <class T>
const T* byId(const std::vector<T>& all, const std::string& id) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const T& v) { return v.id == id; });
    return it == all.end() ? nullptr : &*it;
}

struct BodyFace {
    const char* id;
    const char* words;
    Axis axis;
};
constexpr BodyFace kBodyFaces[] = {
    {kLeftFace, "left face", Axis::Along},    {kRightFace, "right face", Axis::Along},
    {kFrontFace, "front face", Axis::Across}, {kRearFace, "rear face", Axis::Across},
    {kTopFace, "top", Axis::Height},          {kSeatingPlane, "seating plane", Axis::Height},
};

const BodyFace* bodyFace(const FeatureId& id) {
    if (!id.starts_with("body.")) return nullptr;
    for (const BodyFace& f : kBodyFaces)
        if (id == f.id) return &f;
    return nullptr;
}

}  // namespace

const Formation* formationOf(const Part& part, const FeatureId& pin) {
    for (const Formation& f : part.formations)
        if (std::find(f.pins.begin(), f.pins.end(), pin) != f.pins.end()) return &f;
    return nullptr;
}

const Formation* formationById(const Part& part, const std::string& id) { return byId(part.formations, id); }
const Spot* spotOf(const Part& part, const FeatureId& id) { return byId(part.spots, id); }
const Face* faceOf(const Part& part, const FeatureId& id) { return byId(part.faces, id); }
const Mark* markById(const Part& part, const std::string& id) { return byId(part.marks, id); }
const SolidFile* solidById(const Part& part, const std::string& id) { return byId(part.solids, id); }
const Reading* readingById(const Part& part, const std::string& id) { return byId(part.readings, id); }

std::vector<FeatureId> allPins(const Part& part) {
    std::vector<FeatureId> pins;
    for (const Formation& f : part.formations) pins.insert(pins.end(), f.pins.begin(), f.pins.end());
    return pins;
}

bool isFace(const Part& part, const FeatureId& id) { return bodyFace(id) != nullptr || faceOf(part, id) != nullptr; }

Axis faceAxis(const Part& part, const FeatureId& id) {
    if (const BodyFace* f = bodyFace(id)) return f->axis;
    const Face* f = faceOf(part, id);
    return f == nullptr ? Axis::Along : f->axis;
}

bool featureExists(const Part& part, const FeatureId& id) {
    if (id == kBody || bodyFace(id) != nullptr) return part.body.present;
    return spotOf(part, id) != nullptr || faceOf(part, id) != nullptr || formationOf(part, id) != nullptr;
}

bool carriesVoltage(const Part& part, const FeatureId& id) {
    if (formationOf(part, id) != nullptr) return true;
    if (const Spot* spot = spotOf(part, id)) return hasHole(*spot);
    if (const Face* face = faceOf(part, id)) return face->kind == FaceKind::BoardEdge && face->axis != Axis::Height;
    const Mark* m = markById(part, id);
    return m != nullptr && markKind(m->kind).hasPotential;
}

std::string featureWords(const Part& part, const FeatureId& id) {
    if (id == kBody) return "body";
    if (const BodyFace* f = bodyFace(id)) return f->words;
    if (const Spot* spot = spotOf(part, id)) return spot->name;
    if (const Face* face = faceOf(part, id)) return face->name;
    if (const std::string number = pinNumber(part, id); !number.empty()) return "pin " + number;
    // "make2:0": a hole that another make alone needs.
    if (id.starts_with("make"))
        if (const std::size_t which = static_cast<std::size_t>(std::atoi(id.c_str() + 4)); which >= 1 && which <= part.makes.size())
            return "a hole of " + part.makes[which - 1].name;
    if (const std::size_t slash = id.find("/2"); slash != std::string::npos && spotOf(part, id.substr(0, slash)) != nullptr)
        return spotOf(part, id.substr(0, slash))->name + ", second hole";
    // A pin of the sample that the readings were taken on.
    if (!part.sample.formations.empty()) {
        Part onSample;
        onSample.formations = part.sample.formations;
        if (const std::string number = pinNumber(onSample, id); !number.empty()) return "the sample's pin " + number;
    }
    if (const Mark* mark = markById(part, id)) return mark->name;
    // "m7/3": the third land of a mark.
    if (const std::size_t slash = id.find('/'); slash != std::string::npos)
        if (const Mark* mark = markById(part, id.substr(0, slash))) return mark->name + " " + id.substr(slash + 1);
    return "removed feature " + id;
}

std::string designatorOf(const Part& part) {
    const std::string& r = part.reference;
    if (r.empty()) return "X1";
    return r.back() >= '0' && r.back() <= '9' ? r : r + "1";
}

bool operator==(const Make& a, const Make& b) {
    return a.name == b.name && a.file == b.file && a.by == b.by && a.part == b.part && a.unknown == b.unknown;
}

bool operator==(const Version& a, const Version& b) {
    return a.number == b.number && a.note == b.note && a.program == b.program && a.released == b.released &&
           a.passed == b.passed && a.frozen == b.frozen && a.unknown == b.unknown;
}

bool operator==(const Approval& a, const Approval& b) {
    return a.checked == b.checked && a.passes == b.passes && a.versions == b.versions && a.unknown == b.unknown;
}

}  // namespace punch
