#include "core/part/json_fields.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch {

Fields::Fields(const Json& object, std::string path, std::vector<std::string>& errors)
    : object_(object), path_(std::move(path)), errors_(&errors) {
    if (!object_.is_object()) {
        if (!object_.is_null()) fail(path_, "an object in { } is expected");
        object_ = Json::object();
    }
}

const Fields::Json* Fields::find(const std::string& key) {
    used_.insert(key);
    const auto it = object_.find(key);
    return it == object_.end() ? nullptr : &*it;
}

std::string Fields::text(const std::string& key, std::string fallback) {
    const Json* j = find(key);
    if (j == nullptr) return fallback;
    if (j->is_string()) return j->get<std::string>();
    fail(at(key), "a text in quotes is expected");
    return fallback;
}

bool Fields::flag(const std::string& key, bool fallback) {
    const Json* j = find(key);
    if (j == nullptr) return fallback;
    if (j->is_boolean()) return j->get<bool>();
    fail(at(key), "true or false is expected");
    return fallback;
}

int Fields::whole(const std::string& key, int fallback) {
    const Json* j = find(key);
    if (j == nullptr) return fallback;
    if (j->is_number_integer() && std::abs(j->get<double>()) <= 1e9) return j->get<int>();
    fail(at(key), "a whole number is expected");
    return fallback;
}

double Fields::finite(const Json& j, const std::string& path) {
    if (j.is_number() && std::isfinite(j.get<double>())) return j.get<double>();
    fail(path, "a finite number is expected");
    return 0;
}

double Fields::number(const std::string& key, double fallback) {
    const Json* j = find(key);
    return j == nullptr ? fallback : finite(*j, at(key));
}

Length Fields::lengthOf(const Json& j, const std::string& path) {
    if (j.is_string()) {
        const auto value = parseLength(j.get<std::string>(), Unit::Mm);
        if (value) return *value;
        fail(path, value.error().text());
        return {};
    }
    const double mm = finite(j, path);
    if (std::abs(mm) > 10000) fail(path, "more than 10 m");
    return Length::fromMm(mm);
}

Length Fields::lengthAt(const std::string& key, Length fallback) {
    const Json* j = find(key);
    return j == nullptr ? fallback : lengthOf(*j, at(key));
}

Length Fields::positiveLength(const std::string& key, Length fallback) {
    const Length value = lengthAt(key, fallback);
    if (value < Length()) fail(at(key), "a length here is not negative");
    if (value > Length::fromMm(1000)) fail(at(key), "more than 1 m");
    return value;
}

std::optional<Length> Fields::optionalLength(const std::string& key) {
    const Json* j = find(key);
    if (j == nullptr || j->is_null()) return {};
    return positiveLength(key, {});
}

std::vector<std::pair<std::string, Fields::Json>> Fields::list(const std::string& key) {
    std::vector<std::pair<std::string, Json>> items;
    const Json* j = find(key);
    if (j == nullptr) return items;
    if (!j->is_array()) {
        fail(at(key), "a list in [ ] is expected");
        return items;
    }
    for (const Json& item : *j) items.emplace_back(fmt::format("{}[{}]", at(key), items.size()), item);
    return items;
}

std::vector<std::string> Fields::texts(const std::string& key) {
    std::vector<std::string> values;
    for (const auto& [path, j] : list(key)) {
        if (j.is_string())
            values.push_back(j.get<std::string>());
        else
            fail(path, "a text in quotes is expected");
    }
    return values;
}

double Fields::share(const std::string& key, double fallback) {
    const double value = number(key, fallback);
    if (value < 0 || value > 1000) fail(at(key), "a number from 0 to 1000 is expected");
    return std::clamp(value, 0.0, 1000.0);
}

bool Fields::oneOf(const std::string& key, const std::string& yes, const std::string& no) {
    const std::string word = text(key, yes);
    if (word != yes && word != no) fail(at(key), "either " + yes + " or " + no);
    return word != no;
}

std::optional<Fields::Json> Fields::json(const std::string& key) {
    const Json* j = find(key);
    return j == nullptr ? std::nullopt : std::optional(*j);
}

Fields Fields::object(const std::string& key) {
    const Json* j = find(key);
    return Fields(j == nullptr ? Json::object() : *j, at(key), *errors_);
}

std::map<std::string, Fields::Json> Fields::all() {
    std::map<std::string, Json> values;
    for (const auto& [key, j] : object_.items()) {
        used_.insert(key);
        values[key] = j;
    }
    return values;
}

UnknownFields Fields::rest() const {
    Json left = Json::object();
    for (const auto& [key, j] : object_.items())
        if (!used_.contains(key)) left[key] = j;
    return left.empty() ? UnknownFields() : left.dump();
}

void putText(nlohmann::ordered_json& j, const char* key, const std::string& text) {
    if (!text.empty()) j[key] = text;
}

nlohmann::ordered_json withUnknown(nlohmann::ordered_json j, const UnknownFields& unknown) {
    if (unknown.empty()) return j;
    const auto kept = nlohmann::ordered_json::parse(unknown);
    for (const auto& [key, value] : kept.items())
        if (!j.contains(key)) j[key] = value;
    return j;
}

nlohmann::ordered_json lengthsToJson(const std::vector<Length>& lengths) {
    auto j = nlohmann::ordered_json::array();
    for (const Length length : lengths) j.push_back(length.mm());
    return j;
}

nlohmann::ordered_json lengthsToJson(const std::map<std::string, Length>& lengths) {
    auto j = nlohmann::ordered_json::object();
    for (const auto& [key, length] : lengths) j[key] = length.mm();
    return j;
}

void repairIdentifiers(Part& part, Fields& fields) {
    std::set<std::string> seen = {kBody, kLeftFace, kRightFace, kFrontFace, kRearFace, kTopFace, kSeatingPlane};
    const auto forAll = [&](const auto& visit) {
        for (Formation& f : part.formations) {
            visit(f.id, "f", "formations");
            for (FeatureId& pin : f.pins) visit(pin, "p", "formations.pins");
        }
        for (Spot& spot : part.spots) visit(spot.id, "peg", "features");
        for (Face& face : part.faces) visit(face.id, "face", "faces");
        for (Reading& r : part.readings) visit(r.id, "r", "readings");
        for (Mark& m : part.marks) visit(m.id, "m", "marks");
        for (SolidFile& s : part.solids) visit(s.id, "solid", "solids");
        for (Source& s : part.sources) visit(s.id, "s", "sources");
    };
    forAll([&](std::string& id, const char*, const char* what) {
        if (!id.empty() && !seen.insert(id).second) fields.fail(what, "the identifier “" + id + "” stands twice");
        const std::size_t digits = id.find_first_of("0123456789");
        if (digits != std::string::npos && id.size() - digits < 9)
            part.nextId = std::max(part.nextId, std::atoi(id.c_str() + digits) + 1);
    });
    forAll([&](std::string& id, const char* stem, const char*) {
        while (id.empty() || (id == stem)) id = stem + std::to_string(part.nextId++);
    });
}

}  // namespace punch
