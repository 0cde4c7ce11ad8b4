#include "core/library/library.h"

#include <algorithm>
#include <atomic>
#include <thread>

#include "core/derive.h"
#include "core/part/file.h"

namespace punch {

namespace fs = std::filesystem;

Result<std::vector<LibraryPart>> readLibrary(const fs::path& folder) {
    std::error_code error;
    if (!fs::is_directory(folder, error)) return problem("there is no such folder", folder.string());
    std::vector<LibraryPart> all;
    for (auto it = fs::recursive_directory_iterator(folder, fs::directory_options::skip_permission_denied, error);
         it != fs::recursive_directory_iterator() && all.size() < kMostParts; it.increment(error)) {
        if (error) break;
        if (it->is_regular_file(error) && it->path().extension() == ".punch") all.push_back({it->path(), {}, {}});
    }
    std::sort(all.begin(), all.end(), [](const LibraryPart& a, const LibraryPart& b) { return a.file < b.file; });
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        for (std::size_t i = next++; i < all.size(); i = next++) {
            const auto part = loadPart(all[i].file);
            if (part)
                all[i].pattern = patternOf(*part, derive(*part));
            else
                all[i].trouble = part.error().text();
        }
    };
    std::vector<std::thread> threads;
    for (unsigned i = 1; i < std::max(1U, std::thread::hardware_concurrency()); ++i) threads.emplace_back(work);
    work();
    for (std::thread& t : threads) t.join();
    return all;
}

std::vector<LibraryMatch> matching(const std::vector<LibraryPart>& library, const PadPattern& pattern,
                                   const fs::path& but) {
    std::vector<LibraryMatch> all;
    for (const LibraryPart& p : library) {
        std::error_code error;
        if (!p.pattern || (!but.empty() && fs::equivalent(p.file, but, error))) continue;
        if (auto how = coincide(pattern, *p.pattern)) all.push_back({p.file, p.pattern->name, std::move(*how)});
    }
    std::stable_sort(all.begin(), all.end(), [](const LibraryMatch& a, const LibraryMatch& b) {
        if (a.how.mirrored != b.how.mirrored) return b.how.mirrored;
        if (a.how.differs.size() != b.how.differs.size()) return a.how.differs.size() < b.how.differs.size();
        return a.how.worst < b.how.worst;
    });
    return all;
}

}  // namespace punch
