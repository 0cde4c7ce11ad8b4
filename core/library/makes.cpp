#include "core/library/makes.h"

#include <algorithm>

#include "core/derive.h"
#include "core/library/difference.h"
#include "core/part/file.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

std::string namedFrom(const fs::path& file, const fs::path& folder) {
    std::error_code error;
    const fs::path near = fs::proximate(fs::absolute(file, error), fs::absolute(folder.empty() ? "." : folder, error), error);
    return (error || near.empty() ? file : near).generic_string();
}

fs::path fileOf(const std::string& named, const fs::path& folder) {
    const fs::path file(named);
    return file.is_absolute() ? file : folder / file;
}

Result<Part> readMake(const fs::path& file) {
    auto part = loadPart(file);
    if (!part) return part;
    if (!part->makes.empty())
        return problem("it takes several makes itself", file.string(), "Join the parts that it was made of");
    part->solids.clear();
    return part;
}

}  // namespace

Part withEvidenceOf(Part part, const Part& from) {
    part.sources = from.sources;
    part.formations = from.formations;
    part.spots = from.spots;
    part.faces = from.faces;
    part.body = from.body;
    part.readings = from.readings;
    part.assumed = from.assumed;
    part.taken = from.taken;
    part.given = from.given;
    part.turned = from.turned;
    part.letters = from.letters;
    part.instruments = from.instruments;
    part.zeros = from.zeros;
    part.sample = from.sample;
    part.nextId = std::max(part.nextId, from.nextId);
    return part;
}

Result<Part> joinedPart(const std::vector<fs::path>& files, const fs::path& folder) {
    if (files.size() < 2)
        return problem("one part alone is no joining", files.empty() ? "" : files.front().string(),
                       "Name two or more .punch files");
    auto part = readMake(files.front());
    if (!part) return part;
    const std::string first = part->name;
    part->copiedFrom = namedFrom(files.front(), folder);
    part->family = {};
    for (std::size_t i = 1; i < files.size(); ++i) {
        part = withMake(std::move(*part), files[i], folder);
        if (!part) return part;
    }
    part->name = first + " and others";
    part->description = first;
    for (const Make& m : part->makes) part->description += " or " + m.name;
    return part;
}

Result<Part> withMake(Part part, const fs::path& file, const fs::path& folder) {
    auto make = readMake(file);
    if (!make) return make;
    Make m;
    m.name = make->name;
    m.file = namedFrom(file, folder);
    const auto same = std::find_if(part.makes.begin(), part.makes.end(), [&](const Make& o) { return o.file == m.file; });
    if (same != part.makes.end() || (!part.copiedFrom.empty() && part.copiedFrom == m.file))
        return problem("“" + m.name + "” is among the makes already", file.string(), "Choose another part");
    m.part = {std::move(*make)};
    part.makes.push_back(std::move(m));
    return part;
}

FollowedMakes withMakesAsTheyAre(const Part& part, const fs::path& folder) {
    FollowedMakes now{part, {}, {}};
    const auto said = [&](const std::string& name, const Part& before, const Part& after) {
        for (const std::string& words : differenceWords(before, derive(before), after, derive(after)))
            now.changed.push_back(name + ": " + words);
        if (now.changed.empty()) now.changed.push_back(name + ": something that moves no number");
    };
    if (!part.makes.empty() && !part.copiedFrom.empty()) {
        const auto own = readMake(fileOf(part.copiedFrom, folder));
        if (!own) {
            now.missing.push_back(own.error().text());
        } else if (Part next = withEvidenceOf(part, *own); next != part) {
            Part before = part;
            before.makes.clear();
            Part after = next;
            after.makes.clear();
            said(own->name, before, after);
            now.part = std::move(next);
        }
    }
    for (Make& m : now.part.makes) {
        if (m.file.empty()) continue;
        auto read = readMake(fileOf(m.file, folder));
        if (!read) {
            now.missing.push_back(read.error().text());
            continue;
        }
        if (!m.part.empty() && m.part.front() == *read) continue;
        if (!m.part.empty()) said(m.name, m.part.front(), *read);
        m.name = read->name;
        m.part = {std::move(*read)};
    }
    return now;
}

}  // namespace punch
