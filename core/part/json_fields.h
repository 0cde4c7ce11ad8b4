#pragma once
// Reading JSON objects field by field: every mistake is collected with its path, every unknown field is kept.

#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "core/part/names.h"
#include "core/part/part.h"

namespace punch {

class Fields {
public:
    using Json = nlohmann::ordered_json;

    Fields(const Json& object, std::string path, std::vector<std::string>& errors);

    std::string at(const std::string& key) const { return path_.empty() ? key : path_ + "." + key; }
    void fail(const std::string& path, const std::string& what) { errors_->push_back(path + ": " + what); }
    void skip(const std::string& key) { used_.insert(key); }
    Fields sub(const Json& object, const std::string& path) { return Fields(object, path, *errors_); }

    std::string text(const std::string& key, std::string fallback);
    bool flag(const std::string& key, bool fallback);
    int whole(const std::string& key, int fallback);
    double number(const std::string& key, double fallback);
    /// A length: a number in mm, or a text with a unit.
    Length lengthAt(const std::string& key, Length fallback);
    /// The same, not negative and at most 1 m.
    Length positiveLength(const std::string& key, Length fallback);
    std::optional<Length> optionalLength(const std::string& key);
    Length lengthOf(const Json& j, const std::string& path);
    double finite(const Json& j, const std::string& path);
    std::vector<std::string> texts(const std::string& key);
    /// A number from 0 to 1000, such as an error in mm.
    double share(const std::string& key, double fallback);
    /// Is the word `yes`, which is also what a missing field means, rather than `no`?
    bool oneOf(const std::string& key, const std::string& yes, const std::string& no);
    std::optional<Json> json(const std::string& key);
    /// The elements of a list with their paths; empty when the field is missing.
    std::vector<std::pair<std::string, Json>> list(const std::string& key);
    Fields object(const std::string& key);
    std::map<std::string, Json> all();

    template <class T>
    T choice(const std::string& key, T fallback) {
        const std::string name = text(key, nameOf(fallback));
        std::string known;
        for (const auto& [value, word] : Names<T>::table) {
            if (word == name) return value;
            known += (known.empty() ? "" : ", ") + std::string(word);
        }
        fail(at(key), "“" + name + "” is none of " + known);
        return fallback;
    }

    /// The fields that nobody asked for.
    UnknownFields rest() const;

private:
    const Json* find(const std::string& key);
    Json object_;
    std::string path_;
    std::vector<std::string>* errors_;
    std::set<std::string> used_;
};

void putText(nlohmann::ordered_json& j, const char* key, const std::string& text);
nlohmann::ordered_json withUnknown(nlohmann::ordered_json j, const UnknownFields& unknown);
nlohmann::ordered_json lengthsToJson(const std::vector<Length>& lengths);
nlohmann::ordered_json lengthsToJson(const std::map<std::string, Length>& lengths);

/// Refuses identifiers that are missing or stand twice, and puts nextId past every number that is in use.
void repairIdentifiers(Part& part, Fields& fields);

}  // namespace punch
