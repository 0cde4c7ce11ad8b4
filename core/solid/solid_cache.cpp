#include "core/solid/solid_cache.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/base/cache_folder.h"
#include "core/base/packed.h"
#include "core/version.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

/// Goes up when what is packed is another thing.
constexpr int kLayout = 1;

fs::path folder() { return cacheFolder("solids"); }

std::string headOf(const std::string& digest, const SolidLimits& limits) {
    return fmt::format("punchbit {} {} {} {:g} {:g}\n", kVersion, kLayout, digest, limits.deflection, limits.angle);
}

fs::path fileOf(const std::string& digest, const SolidLimits& limits) {
    const fs::path where = folder();
    if (where.empty() || digest.empty()) return {};
    return where / fmt::format("{}-{:g}-{:g}.mesh", digest, limits.deflection, limits.angle);
}

/// Every number that points somewhere does.
bool sound(const Solid& s) {
    const auto within = [](int i, std::size_t n) { return i >= 0 && static_cast<std::size_t>(i) < n; };
    for (const Triangle& t : s.triangles)
        for (const int i : {t.a, t.b, t.c})
            if (!within(i, s.corners.size())) return false;
    for (const SolidFace& f : s.faces)
        if (!within(f.body, s.bodies.size()) || f.first < 0 || f.count < 0 ||
            static_cast<std::size_t>(f.first) + static_cast<std::size_t>(f.count) > s.triangles.size())
            return false;
    return true;
}

void makeRoom(const fs::path& where) {
    struct Kept {
        fs::file_time_type when;
        fs::path path;
        double megabytes = 0;
    };
    std::vector<Kept> all;
    double sum = 0;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(where, error)) {
        Kept k{entry.last_write_time(error), entry.path(), static_cast<double>(entry.file_size(error)) / 1e6};
        sum += k.megabytes;
        all.push_back(std::move(k));
    }
    std::sort(all.begin(), all.end(), [](const Kept& a, const Kept& b) { return a.when < b.when; });
    for (const Kept& k : all) {
        if (sum <= kMostKept) return;
        fs::remove(k.path, error);
        sum -= k.megabytes;
    }
}

}  // namespace

std::optional<Solid> keptSolid(const std::string& digest, const SolidLimits& limits) {
    const fs::path file = fileOf(digest, limits);
    std::error_code error;
    if (file.empty() || !fs::is_regular_file(file, error)) return {};
    const auto bytes = readWhole(file.string());
    const std::string head = headOf(digest, limits);
    if (!bytes || !bytes->starts_with(head)) return {};
    try {
        Packed from(bytes->substr(head.size()));
        Solid solid;
        unpack(from, solid);
        if (!sound(solid)) return {};
        return solid;
    } catch (const std::exception&) {
        return {};
    }
}

void keepSolid(const std::string& digest, const Solid& solid, const SolidLimits& limits) {
    const fs::path file = fileOf(digest, limits);
    if (file.empty()) return;
    std::error_code error;
    fs::create_directories(file.parent_path(), error);
    if (error) return;
    Packed to;
    pack(to, solid);
    if (writeAtomically(file.string(), headOf(digest, limits) + to.take())) makeRoom(file.parent_path());
}

}  // namespace punch
