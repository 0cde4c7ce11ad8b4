#include "core/part/part.h"

#include <algorithm>

namespace punch {

const Formation* formationOf(const Part& part, const FeatureId& pin) {
    for (const Formation& f : part.formations)
        if (std::find(f.pins.begin(), f.pins.end(), pin) != f.pins.end()) return &f;
    return nullptr;
}

const Peg* pegOf(const Part& part, const FeatureId& id) {
    const auto it = std::find_if(part.pegs.begin(), part.pegs.end(), [&](const Peg& p) { return p.id == id; });
    return it == part.pegs.end() ? nullptr : &*it;
}

namespace {
int numberAt(const Formation& f, std::size_t index) {
    const auto n = static_cast<int>(f.numbers.fromLeft ? index : f.pins.size() - 1 - index);
    return f.numbers.start + n * f.numbers.step;
}
}  // namespace

std::string pinNumber(const Part& part, const FeatureId& pin) {
    const Formation* f = formationOf(part, pin);
    if (f == nullptr) return {};
    const auto at = std::find(f->pins.begin(), f->pins.end(), pin) - f->pins.begin();
    return std::to_string(numberAt(*f, static_cast<std::size_t>(at)));
}

FeatureId pinByNumber(const Part& part, const std::string& number) {
    for (const Formation& f : part.formations)
        for (std::size_t i = 0; i < f.pins.size(); ++i)
            if (std::to_string(numberAt(f, i)) == number) return f.pins[i];
    return {};
}

FeatureId firstPin(const Part& part) {
    FeatureId first;
    int least = 0;
    for (const Formation& f : part.formations)
        for (std::size_t i = 0; i < f.pins.size(); ++i)
            if (const int n = numberAt(f, i); first.empty() || n < least) {
                least = n;
                first = f.pins[i];
            }
    return first;
}

std::vector<FeatureId> allPins(const Part& part) {
    std::vector<FeatureId> pins;
    for (const Formation& f : part.formations) pins.insert(pins.end(), f.pins.begin(), f.pins.end());
    return pins;
}

bool isFace(const FeatureId& id) { return id == kLeftFace || id == kRightFace || id == kFrontFace || id == kRearFace; }

bool featureExists(const Part& part, const FeatureId& id) {
    if (id == kBody || isFace(id)) return part.body.present;
    return pegOf(part, id) != nullptr || formationOf(part, id) != nullptr;
}

std::string featureWords(const Part& part, const FeatureId& id) {
    if (id == kBody) return "body";
    if (id == kLeftFace) return "left face";
    if (id == kRightFace) return "right face";
    if (id == kFrontFace) return "front face";
    if (id == kRearFace) return "rear face";
    if (const Peg* peg = pegOf(part, id)) return peg->name;
    if (const std::string number = pinNumber(part, id); !number.empty()) return "pin " + number;
    return "removed feature " + id;
}

}  // namespace punch
