#include "core/library/library.h"

#include <algorithm>
#include <atomic>
#include <thread>

#include "core/derive.h"
#include "core/library/search.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"

namespace punch {

namespace fs = std::filesystem;

Result<std::vector<fs::path>> libraryFiles(const fs::path& folder) {
    std::error_code error;
    if (!fs::is_directory(folder, error)) return problem("there is no such folder", folder.string());
    std::vector<fs::path> all;
    for (auto it = fs::recursive_directory_iterator(folder, fs::directory_options::skip_permission_denied, error);
         it != fs::recursive_directory_iterator() && all.size() < kMostParts; it.increment(error)) {
        if (error) break;
        if (it->is_regular_file(error) && it->path().extension() == ".punch") all.push_back(it->path());
    }
    std::sort(all.begin(), all.end());
    return all;
}

std::string evidenceWords(const Part& part) {
    bool drawing = false, caliper = false, taken = false;
    for (const Reading& r : part.readings) {
        const bool in = std::any_of(part.sources.begin(), part.sources.end(), [&](const Source& s) {
            return s.id == r.source && s.state == SourceState::TakenIn;
        });
        (in ? taken : r.drawing || r.raw.empty() ? drawing : caliper) = true;
    }
    std::string words;
    for (const auto& [is, word] : {std::pair{drawing, "drawing"}, {caliper, "caliper"}, {taken, "taken in"}})
        if (is) words += (words.empty() ? "" : " and ") + std::string(word);
    if (words.empty()) return part.formations.empty() ? "by rule" : "not read yet";
    return words + ", " + std::to_string(part.readings.size()) + (part.readings.size() == 1 ? " reading" : " readings");
}

LibraryPart libraryPart(const fs::path& file) {
    LibraryPart p;
    p.file = file;
    const auto part = loadPart(file);
    if (!part) {
        p.name = file.stem().string();
        p.trouble = part.error().text();
        p.words = searchWords(p.name);
        return p;
    }
    const Footprint f = derive(*part);
    p.pattern = patternOf(*part, f);
    p.name = part->name;
    p.description = part->description;
    p.words = searchWords(*part, f);
    p.evidence = evidenceWords(*part);
    p.pins = allPins(*part).size();
    p.state = worstState(f.gauges);
    std::vector<const Gauge*> wrong;
    for (const Gauge& g : f.gauges)
        if (g.state != GaugeState::Go) wrong.push_back(&g);
    std::stable_sort(wrong.begin(), wrong.end(),
                     [](const Gauge* a, const Gauge* b) { return badness(a->state) > badness(b->state); });
    for (const Gauge* g : wrong)
        p.wrong.push_back({g->state, g->name, g->title + ": " + fill(g->words, g->of, Unit::Mm, 2)});
    return p;
}

std::vector<LibraryPart> libraryParts(const std::vector<fs::path>& files) {
    std::vector<LibraryPart> all(files.size());
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        for (std::size_t i = next++; i < all.size(); i = next++) all[i] = libraryPart(files[i]);
    };
    std::vector<std::thread> threads;
    for (unsigned i = 1; i < std::max(1U, std::thread::hardware_concurrency()); ++i) threads.emplace_back(work);
    work();
    for (std::thread& t : threads) t.join();
    return all;
}

Result<std::vector<LibraryPart>> readLibrary(const fs::path& folder) {
    const auto files = libraryFiles(folder);
    if (!files) return tl::make_unexpected(files.error());
    return libraryParts(*files);
}

std::vector<LibraryMatch> matching(const std::vector<LibraryPart>& library, const PadPattern& pattern,
                                   const fs::path& but) {
    std::vector<LibraryMatch> all;
    for (const LibraryPart& p : library) {
        std::error_code error;
        if (!p.pattern || (!but.empty() && fs::equivalent(p.file, but, error))) continue;
        // A few places that are known: the others of the part may lie anywhere.
        if (!pattern.whole && pattern.pins > 0 && pattern.pins != p.pins) continue;
        if (auto how = pattern.whole ? coincide(pattern, *p.pattern) : contained(pattern, *p.pattern))
            all.push_back({p.file, p.pattern->name, std::move(*how)});
    }
    std::stable_sort(all.begin(), all.end(), [](const LibraryMatch& a, const LibraryMatch& b) {
        if (a.how.mirrored != b.how.mirrored) return b.how.mirrored;
        if (a.how.differs.size() != b.how.differs.size()) return a.how.differs.size() < b.how.differs.size();
        return a.how.worst < b.how.worst;
    });
    return all;
}

}  // namespace punch
