#include "cli/family_command.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "cli/parts_read.h"
#include "core/advise/join_ways.h"
#include "core/derive.h"
#include "core/family/family.h"
#include "core/library/makes.h"
#include "core/part/file.h"
#include "core/part/names.h"
#include "core/release/formats.h"
#include "core/release/makes_json.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

/// The worst gauge in words; nothing when all are go.
std::string worstWords(const Footprint& f) {
    const Gauge* worst = nullptr;
    for (const Gauge& g : f.gauges)
        if (g.state != GaugeState::Go && (worst == nullptr || badness(g.state) > badness(worst->state))) worst = &g;
    return worst == nullptr ? "" : worst->title + ": " + fill(worst->words, worst->of, Unit::Mm, 2);
}

std::string millimetres(Length l) { return fmt::format("{:.3f}", l.mm()); }

void printJoined(const Part& part, const Footprint& f) {
    if (f.dropIn.known) fmt::print("{:<20} {:6.2f} % drop in\n", part.name + ", as read", 100 * f.dropIn.share);
    for (std::size_t k = 0; k < f.makeFits.size(); ++k) {
        const MakeFit& m = f.makeFits[k];
        if (m.why.empty())
            fmt::print("{:<20} {:6.2f} % drop in, leads up to {} mm apart\n", m.name, 100 * m.dropIn.share,
                       millimetres(f.makes[k].apart));
        else
            fmt::print("{:<20} {}\n", m.name, m.why);
        for (const std::string& words : f.makes[k].alone) fmt::print("  {}\n", words);
    }
    for (const JoinedHole& h : f.joined) {
        fmt::print("  {:<10} {:<9} {}{}", h.name, nameOf(h.kind), millimetres(h.size),
                   h.length > Length() ? " x " + millimetres(h.length) : "");
        if (h.over > Length()) fmt::print(", {} too large", millimetres(h.over));
        fmt::print("{}\n", h.why.empty() ? "" : " (" + h.why + ")");
    }
}

}  // namespace

int familyCommand(const FamilyArguments& arguments) {
    const auto part = loadPart(arguments.part);
    if (!part) return failed(part.error());
    const auto members = familyMembers(*part);
    if (members.empty())
        return failed({"it has no family", arguments.part, "Give a rule of names, as in “QB-TB{ways}”, in Release"});
    std::vector<Format> chosen;
    for (const std::string& name : arguments.formats) {
        const auto format = formatFromName(name);
        if (!format) return failed(format.error());
        chosen.push_back(*format);
    }
    if (chosen.empty())
        for (const FormatKind& kind : formats()) chosen.push_back(kind.format);
    for (const std::string& name : arguments.members)
        if (const auto known = memberNamed(*part, name); !known) return failed(known.error());
    for (const std::string& words : familyTroubles(*part)) fmt::print(stderr, "punch: {}\n", words);
    const std::string home = std::filesystem::absolute(arguments.part).parent_path().string();
    Json all = Json::array();
    bool good = true;
    std::vector<NamedContent> files;
    for (const FamilyMember& m : members) {
        if (!arguments.members.empty() &&
            std::find(arguments.members.begin(), arguments.members.end(), m.name) == arguments.members.end())
            continue;
        const auto made = asMember(*part, m);
        if (!made) {
            good = false;
            fmt::print(stderr, "punch: {}: {}\n", m.name, made.error().text());
            all.push_back({{"name", m.name}, {"ways", m.ways}, {"why", made.error().text()}});
            continue;
        }
        const Footprint f = derive(made->part);
        const GaugeState state = worstState(f.gauges);
        good = good && badness(state) <= badness(GaugeState::Watch);
        if (arguments.json)
            all.push_back({{"name", m.name},
                           {"ways", m.ways},
                           {"state", stateName(state)},
                           {"worst", worstWords(f)},
                           {"notes", made->notes}});
        else
            fmt::print("{:<20} {:>3} ways  {:<8} {}\n", m.name, m.ways, stateName(state), worstWords(f));
        for (const std::string& note : made->notes) fmt::print(stderr, "  {}: {}\n", m.name, note);
        if (arguments.folder.empty()) continue;
        const auto out = releaseFiles(made->part, f, chosen, home);
        if (!out) return failed(out.error());
        files.insert(files.end(), out->begin(), out->end());
    }
    if (arguments.json) fmt::print("{}\n", all.dump(2));
    if (!arguments.folder.empty())
        if (const auto written = writeAllAtomically(arguments.folder, files); !written) return failed(written.error());
    return good ? 0 : 1;
}

int joinCommand(const JoinArguments& arguments) {
    const std::filesystem::path first(arguments.files.front());
    const std::filesystem::path out(arguments.out.empty() ? arguments.files.front() : arguments.out);
    const std::filesystem::path folder = std::filesystem::absolute(out).parent_path();
    Result<Part> part = arguments.files.size() == 1
                            ? loadPart(first)
                            : joinedPart({arguments.files.begin(), arguments.files.end()}, folder);
    if (!part) return failed(part.error());
    if (part->makes.empty())
        return failed({"it takes one make only", first.string(), "Name the parts that shall be joined"});
    if (arguments.files.size() > 1 && arguments.out.empty())
        return failed({"nowhere to write it to", "punch join", "Give a file with --out"});
    if (arguments.files.size() == 1) {
        FollowedMakes now = withMakesAsTheyAre(*part, folder);
        for (const std::string& words : now.changed) fmt::print(stderr, "changed: {}\n", words);
        for (const std::string& words : now.missing) fmt::print(stderr, "punch: {}\n", words);
        part = std::move(now.part);
    }
    if (arguments.best) {
        auto ways = joinWays(*part);
        for (const JoinWay& w : ways)
            fmt::print(stderr, "{:<40} {:6.2f} %  {}\n", w.words, 100 * w.share, w.binds.empty() ? "all go" : w.binds);
        part = std::move(ways.front().part);
    }
    const Footprint f = derive(*part);
    if (arguments.json)
        fmt::print("{}\n", makesJson(*part, f).dump(2));
    else
        printJoined(*part, f);
    if (arguments.files.size() > 1 || arguments.follow || arguments.best)
        if (const auto saved = savePart(*part, out); !saved) return failed(saved.error());
    const Gauge* g = f.gauge("makes");
    if (g != nullptr && g->state != GaugeState::Go)
        fmt::print(stderr, "Makes: {}\n", fill(g->words, g->of, Unit::Mm, 2));
    return g != nullptr && badness(g->state) <= badness(GaugeState::Watch) ? 0 : 1;
}

}  // namespace punch
