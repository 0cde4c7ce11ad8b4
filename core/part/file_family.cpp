// Families, and what a member's readings were taken on, in a part's file.

#include <fmt/format.h>

#include <algorithm>

#include "core/part/file_sections.h"

namespace punch {
namespace {

int ways(Fields& f, const std::string& key, int fallback) {
    const int n = f.whole(key, fallback);
    if (n < 1 || n > kMostPins) f.fail(f.at(key), fmt::format("a part has 1 to {} ways", kMostPins));
    return std::clamp(n, 1, kMostPins);
}

}  // namespace

Json toJson(const Family& v) {
    Json j = {{"names", v.names}};
    if (v.columns) {
        j["by"] = "columns";
        if (!v.ways.empty()) j["ways"] = v.ways;
    } else {
        j["from"] = v.from;
        j["to"] = v.to;
        if (v.step != 1) j["step"] = v.step;
    }
    putText(j, "formation", v.formation);
    if (!v.follows.empty()) {
        Json follows = Json::object();
        for (const auto& [id, side] : v.follows) follows[id] = nameOf(side);
        j["follows"] = follows;
    }
    return withUnknown(j, v.unknown);
}

Family familyFrom(Fields f) {
    Family v;
    v.names = f.text("names", "");
    v.columns = !f.oneOf("by", "ways", "columns");
    v.from = ways(f, "from", v.from);
    v.to = ways(f, "to", v.to);
    v.step = ways(f, "step", v.step);
    Fields byColumn = f.object("ways");
    for (const auto& [column, ignored] : byColumn.all()) v.ways[column] = ways(byColumn, column, 1);
    v.formation = f.text("formation", "");
    Fields follows = f.object("follows");
    for (const auto& [id, ignored] : follows.all())
        v.follows[id] = follows.choice<FamilyFollow>(id, FamilyFollow::ByPlace);
    v.unknown = f.rest();
    return v;
}

Json toJson(const Sample& v) {
    Json grown = Json::object();
    for (const auto& [id, pitches] : v.grown) grown[id] = pitches;
    Json j = {{"formations", listToJson(v.formations)}, {"grown", grown}};
    if (v.drawingsAreOwn) j["drawingsAreOwn"] = true;
    return withUnknown(j, v.unknown);
}

Sample sampleFrom(Fields f) {
    Sample v;
    for (const auto& [path, j] : f.list("formations")) v.formations.push_back(formationFrom(f.sub(j, path)));
    Fields grown = f.object("grown");
    for (const auto& [id, j] : grown.all()) {
        const double pitches = grown.finite(j, grown.at(id));
        if (!(pitches >= -kMostPins && pitches <= kMostPins))
            grown.fail(grown.at(id), fmt::format("at most {} pitches", kMostPins));
        else
            v.grown[id] = pitches;
    }
    v.drawingsAreOwn = f.flag("drawingsAreOwn", false);
    v.unknown = f.rest();
    return v;
}

}  // namespace punch
