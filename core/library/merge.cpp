#include "core/library/merge.h"

#include <algorithm>
#include <map>
#include <set>

#include "core/base/json_text.h"
#include "core/part/file.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

const char* const kIdentities[] = {"id", "number", "name", "gauge"};

/// By which field the things of these lists are told apart; none when one of them has none, or two have the same.
const char* identityOf(std::initializer_list<const Json*> lists) {
    for (const char* key : kIdentities) {
        bool good = true;
        for (const Json* list : lists) {
            std::set<std::string> seen;
            for (const Json& one : *list)
                good = good && one.is_object() && one.contains(key) && one[key].is_string() &&
                       !one[key].get_ref<const std::string&>().empty() &&
                       seen.insert(one[key].get<std::string>()).second;
        }
        if (good) return key;
    }
    return nullptr;
}

const Json* in(const Json& list, const char* key, const std::string& identity) {
    for (const Json& one : list)
        if (one[key] == identity) return &one;
    return nullptr;
}

std::string shown(const Json* j) {
    if (j == nullptr) return "gone";
    std::string text = j->dump(-1, ' ', false, Json::error_handler_t::replace);
    if (text.size() > 40) text = text.substr(0, 37) + "…";
    return text;
}

class Merge {
public:
    std::vector<std::string> conflicts;

    /// None: it is gone. Each may be none: it was not there.
    std::optional<Json> merged(const Json* base, const Json* ours, const Json* theirs, const std::string& path) {
        const auto same = [](const Json* a, const Json* b) { return a == nullptr || b == nullptr ? a == b : *a == *b; };
        const auto value = [](const Json* j) { return j != nullptr ? std::optional<Json>(*j) : std::nullopt; };
        if (same(ours, theirs) || same(base, theirs)) return value(ours);
        if (same(base, ours)) return value(theirs);
        // A list that is empty stands in no file.
        const Json none = Json::array();
        const Json* some = ours != nullptr ? ours : theirs;
        if (some != nullptr && some->is_array() && (base == nullptr || base->is_array())) {
            if (ours == nullptr) ours = &none;
            if (theirs == nullptr) theirs = &none;
        }
        if (ours != nullptr && theirs != nullptr) {
            const Json nothing = ours->is_array() ? Json::array() : Json::object();
            const Json& before = base != nullptr ? *base : nothing;
            if (ours->is_object() && theirs->is_object() && before.is_object())
                return fields(before, *ours, *theirs, path);
            if (ours->is_array() && theirs->is_array() && before.is_array())
                if (const char* key = identityOf({&before, ours, theirs}))
                    return things(before, *ours, *theirs, key, path);
            if (path == "nextId" && ours->is_number_integer() && theirs->is_number_integer())
                return Json(std::max(ours->get<long long>(), theirs->get<long long>()));
        }
        conflicts.push_back(path + ": " + shown(ours) + " here, " + shown(theirs) + " there");
        return value(ours);
    }

private:
    static const Json* at(const Json& object, const std::string& key) {
        const auto it = object.find(key);
        return it == object.end() ? nullptr : &*it;
    }

    Json fields(const Json& base, const Json& ours, const Json& theirs, const std::string& path) {
        Json out = Json::object();
        std::vector<std::string> keys;
        std::set<std::string> seen;
        for (const Json* from : {&ours, &theirs})
            for (const auto& [key, ignored] : from->items())
                if (seen.insert(key).second) keys.push_back(key);
        for (const std::string& key : keys)
            if (auto value =
                    merged(at(base, key), at(ours, key), at(theirs, key), path.empty() ? key : path + "." + key))
                out[key] = std::move(*value);
        return out;
    }

    Json things(const Json& base, const Json& ours, const Json& theirs, const char* key, const std::string& path) {
        Json out = Json::array();
        const auto put = [&](const std::string& id) {
            if (auto value = merged(in(base, key, id), in(ours, key, id), in(theirs, key, id), path + "[" + id + "]"))
                out.push_back(std::move(*value));
        };
        // Who moved them says their order; where both did, this side.
        const auto order = [&](const Json& list) {
            std::vector<std::string> ids;
            for (const Json& one : list)
                if (in(base, key, one[key]) != nullptr) ids.push_back(one[key]);
            return ids;
        };
        const auto kept = [&](const Json& list) {
            std::vector<std::string> ids = order(base);
            std::erase_if(ids, [&](const std::string& id) { return in(list, key, id) == nullptr; });
            return ids;
        };
        const bool theyMoved = order(theirs) != kept(theirs), weMoved = order(ours) != kept(ours);
        const Json &first = theyMoved && !weMoved ? theirs : ours, &second = &first == &ours ? theirs : ours;
        std::set<std::string> done;
        // What only the other side has comes after what stands before it there.
        const auto following = [&](const std::string& id) {
            for (std::size_t i = 0; i < second.size(); ++i) {
                if (second[i][key] != id) continue;
                for (std::size_t k = i + 1; k < second.size(); ++k) {
                    const std::string next = second[k][key];
                    if (in(first, key, next) != nullptr || done.contains(next)) break;
                    done.insert(next);
                    put(next);
                }
            }
        };
        for (std::size_t k = 0; k < second.size() && in(first, key, second[k][key]) == nullptr; ++k) {
            done.insert(second[k][key]);
            put(second[k][key]);
        }
        for (const Json& one : first) {
            const std::string id = one[key];
            if (done.insert(id).second) put(id);
            following(id);
        }
        return out;
    }
};

/// Every text that is this identifier, or a place of it ("m7.2"), also where it is a key.
void rename(Json& j, const std::string& from, const std::string& to) {
    const auto is = [&](const std::string& s) { return s == from || s.starts_with(from + "."); };
    if (j.is_string()) {
        const std::string s = j.get<std::string>();
        if (is(s)) j = to + s.substr(from.size());
        return;
    }
    if (j.is_array())
        for (Json& one : j) rename(one, from, to);
    if (!j.is_object()) return;
    Json out = Json::object();
    for (auto& [key, value] : j.items()) {
        rename(value, from, to);
        out[is(key) ? to + key.substr(from.size()) : key] = std::move(value);
    }
    j = std::move(out);
}

/// By identifier: what stands there.
void identifiers(const Json& j, std::map<std::string, const Json*>& all) {
    if (j.is_object()) {
        if (const auto it = j.find("id"); it != j.end() && it->is_string()) all[it->get<std::string>()] = &j;
        for (const auto& [key, value] : j.items()) identifiers(value, all);
    }
    if (j.is_array())
        for (const Json& one : j) identifiers(one, all);
}

}  // namespace

Result<MergedPart> mergedPart(std::string_view base, std::string_view ours, std::string_view theirs) {
    Json sides[3];
    int at = 0;
    // In standard form, so that the way in which each was written makes no difference.
    for (const auto& [text, where] : {std::pair(base, "the version before both"), std::pair(ours, "this side"),
                                      std::pair(theirs, "the other side")}) {
        const auto part = fromText(text, where);
        if (!part) return tl::make_unexpected(part.error());
        const auto json = parseJson(toText(*part), where);
        if (!json) return tl::make_unexpected(json.error());
        sides[at++] = *json;
    }
    std::map<std::string, const Json*> before, here, there;
    identifiers(sides[0], before);
    identifiers(sides[1], here);
    identifiers(sides[2], there);
    long long next = 1;
    for (const Json& side : sides) next = std::max(next, side.value("nextId", 1LL));
    std::vector<std::pair<std::string, std::string>> renamed;
    for (const auto& [id, what] : there)
        if (!before.contains(id) && here.contains(id) && *here[id] != *what) {
            const std::size_t digits = id.find_first_of("0123456789");
            renamed.emplace_back(id, id.substr(0, digits) + std::to_string(next++));
        }
    for (const auto& [from, to] : renamed) rename(sides[2], from, to);
    Merge merge;
    const auto out = merge.merged(&sides[0], &sides[1], &sides[2], "");
    MergedPart merged;
    merged.conflicts = std::move(merge.conflicts);
    const auto part = fromText(out->dump(), "both together");
    if (!part) return tl::make_unexpected(part.error());
    merged.text = toText(*part);
    return merged;
}

}  // namespace punch
