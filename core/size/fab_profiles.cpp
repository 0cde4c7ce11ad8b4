#include "core/size/fab_profiles.h"

#include <filesystem>

#include "core/base/atomic_file.h"
#include "core/base/json_text.h"
#include "core/part/file_sections.h"

namespace punch {
namespace {

FabProfile fine() {
    FabProfile p;
    p.name = "Orchard Lane, fine";
    p.leastDrill = Length::fromMm(0.15);
    p.leastSlot = Length::fromMm(0.60);
    p.leastWeb = Length::fromMm(0.20);
    p.leastGap = Length::fromMm(0.10);
    p.copperToEdge = Length::fromMm(0.20);
    p.leastMaskWeb = Length::fromMm(0.08);
    p.plating = Length::fromMm(0.08);
    p.slotTolerance = Length::fromMm(0.05);
    p.wander = Length::fromMm(0.015);
    p.passes = Length::fromMm(0.03);
    p.aspect = 10;
    p.mills = {Length::fromMm(0.6), Length::fromMm(0.8), Length::fromMm(1.0), Length::fromMm(1.2),
               Length::fromMm(1.5), Length::fromMm(1.6), Length::fromMm(2.0), Length::fromMm(2.4)};
    return p;
}

FabProfile coarse() {
    FabProfile p;
    p.name = "Barn, coarse";
    p.leastDrill = Length::fromMm(0.40);
    p.leastRing = Length::fromMm(0.10);
    p.leastSlot = Length::fromMm(1.00);
    p.leastWeb = Length::fromMm(0.40);
    p.leastGap = Length::fromMm(0.25);
    p.copperToEdge = Length::fromMm(0.40);
    p.leastMaskWeb = Length::fromMm(0.15);
    p.maskMargin = Length::fromMm(0.10);
    p.plating = Length::fromMm(0.12);
    p.slotTolerance = Length::fromMm(0.15);
    p.wander = Length::fromMm(0.04);
    p.passes = Length::fromMm(0.08);
    p.aspect = 6;
    p.mills = {Length::fromMm(1.0), Length::fromMm(1.5), Length::fromMm(2.0), Length::fromMm(3.0)};
    return p;
}

/// The library's own, in the order of its file.
Result<std::vector<FabProfile>> ownProfiles(const std::string& folder) {
    const std::filesystem::path file = std::filesystem::path(folder) / kProfilesFile;
    std::vector<FabProfile> own;
    std::error_code none;
    if (!std::filesystem::exists(file, none)) return own;
    const auto text = readWhole(file);
    if (!text) return tl::make_unexpected(text.error());
    const auto parsed = parseJson(*text, file.string());
    if (!parsed) return tl::make_unexpected(parsed.error());
    const Json& j = *parsed;
    if (!j.is_array()) return problem("the profiles are no list", file.string(), "Mend it in a text editor");
    std::vector<std::string> errors;
    for (std::size_t i = 0; i < j.size(); ++i)
        if (j[i].is_object()) own.push_back(fabProfileFrom(Fields(j[i], "[" + std::to_string(i) + "]", errors)));
    if (!errors.empty()) return problem(errors.front(), file.string(), "Mend the field in a text editor");
    return own;
}

}  // namespace

const std::vector<FabProfile>& shippedProfiles() {
    static const std::vector<FabProfile> all = {FabProfile{}, fine(), coarse()};
    return all;
}

Result<std::vector<FabProfile>> profilesOf(const std::string& folder) {
    const auto own = ownProfiles(folder);
    if (!own) return tl::make_unexpected(own.error());
    std::vector<FabProfile> all = *own;
    for (const FabProfile& p : shippedProfiles()) {
        bool taken = false;
        for (const FabProfile& o : *own) taken = taken || o.name == p.name;
        if (!taken) all.push_back(p);
    }
    return all;
}

Result<void> keepProfile(const std::string& folder, const FabProfile& profile) {
    auto own = ownProfiles(folder);
    if (!own) return tl::make_unexpected(own.error());
    bool replaced = false;
    for (FabProfile& p : *own)
        if (p.name == profile.name) {
            p = profile;
            replaced = true;
        }
    if (!replaced) own->push_back(profile);
    return writeAtomically(std::filesystem::path(folder) / kProfilesFile, listToJson(*own).dump(2) + "\n");
}

}  // namespace punch
