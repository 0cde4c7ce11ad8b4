#include "cli/export_command.h"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cstdio>
#include <filesystem>
#include <iterator>
#include <map>
#include <mutex>
#include <thread>
#include <utility>

#include "cli/parts_read.h"
#include "core/base/text_table.h"
#include "core/derive.h"
#include "core/library/library.h"
#include "core/part/file.h"
#include "core/release/file_check.h"
#include "core/release/formats.h"
#include "core/release/paper_out.h"
#include "core/release/report.h"
#include "core/release/report_pdf.h"
#include "core/release/step_out.h"

namespace punch {
namespace {

/// Parts, and those in folders.
Result<std::vector<std::string>> partsOf(const std::vector<std::string>& files) {
    std::vector<std::string> all;
    for (const std::string& file : files) {
        if (!std::filesystem::is_directory(file)) {
            all.push_back(file);
            continue;
        }
        const auto inside = libraryFiles(file);
        if (!inside) return tl::make_unexpected(inside.error());
        for (const auto& one : *inside) all.push_back(one.string());
    }
    if (all.empty())
        return problem("there are no parts in it", files.front(), "Name .punch files, or a folder of them");
    return all;
}

constexpr std::pair<const char*, Origin> kOrigins[] = {
    {"datum", Origin::Datum}, {"pin1", Origin::PinOne}, {"pins", Origin::MiddleOfPins}, {"body", Origin::MiddleOfBody}};

}  // namespace

int exportCommand(const ExportArguments& arguments) {
    std::vector<Format> chosen;
    for (const std::string& name : arguments.formats) {
        const auto format = formatFromName(name);
        if (!format) return failed(format.error());
        chosen.push_back(*format);
    }
    for (const Occasion& o : occasions())
        if (o.name == arguments.purpose) chosen.insert(chosen.end(), o.formats.begin(), o.formats.end());
    if (arguments.formats.empty() && arguments.purpose.empty())
        for (const FormatKind& kind : formats()) chosen.push_back(kind.format);
    Turning turning;
    if (arguments.zero == "A") turning.zero = ZeroOrientation::LevelA;
    if (arguments.zero == "B") turning.zero = ZeroOrientation::LevelB;
    turning.quarters = arguments.turn / 90;
    Origin origin = Origin::Datum;
    for (const auto& [name, value] : kOrigins)
        if (arguments.origin == name) origin = value;
    const auto files = partsOf(arguments.files);
    if (!files) return failed(files.error());
    // Names that fall together where case does not count would write over each other.
    std::map<std::string, std::string> stems;
    std::mutex lock;
    std::atomic<std::size_t> next{0};
    std::atomic<bool> good{true};
    const bool step = std::find(chosen.begin(), chosen.end(), Format::Step) != chosen.end();
    // Some parts at a time go to the disk together: one folder is written by one at a time.
    constexpr std::size_t kTogether = 16;
    struct Made {
        std::vector<NamedContent> files;
        std::size_t parts = 0;
    };
    const auto write = [&](Made& of) -> Result<void> {
        const Made made = std::exchange(of, {});
        if (made.files.empty()) return {};
        if (const auto written = writeAllAtomically(arguments.folder, made.files); !written) return written;
        const std::lock_guard hold(lock);
        for (const NamedContent& c : made.files)
            fmt::print("{}\n", (std::filesystem::path(arguments.folder) / c.name).string());
        return {};
    };
    const auto one = [&](const std::string& file, Made& into) -> Result<void> {
        const auto read = loadFollowed(file);
        if (!read) return tl::make_unexpected(read.error());
        const Part part = withOrigin(*read, origin);
        {
            const std::lock_guard hold(lock);
            const auto [it, fresh] = stems.emplace(lower(fileStem(part.name)), file);
            if (!fresh)
                return problem("its files would be named as those of " + it->second, file,
                               "Give one of them another name");
        }
        const Footprint f = derive(part);
        const std::string home = std::filesystem::absolute(file).parent_path().string();
        auto made = releaseFiles(part, f, chosen, home, stampOf(*read, f), turning);
        if (!made) return tl::make_unexpected(made.error());
        if (arguments.check)
            if (const auto seen = allGood(checkedFiles(*made, turnedFor(part, f, turning))); !seen)
                return tl::make_unexpected(seen.error());
        std::vector<std::string> notes = releaseWarnings(f);
        if (step)
            for (std::string& missing : missingBodies(part, home)) notes.push_back(std::move(missing));
        {
            const std::lock_guard hold(lock);
            for (const std::string& line : notes)
                fmt::print(stderr, "punch: note: {}{}\n", files->size() > 1 ? part.name + ": " : "", line);
        }
        std::move(made->begin(), made->end(), std::back_inserter(into.files));
        if (++into.parts >= kTogether) return write(into);
        return {};
    };
    const auto work = [&] {
        Made made;
        const auto say = [&](const Result<void>& done) {
            if (done) return;
            const std::lock_guard hold(lock);
            good = false;
            fmt::print(stderr, "punch: {}\n", done.error().text());
        };
        for (std::size_t i = next++; i < files->size(); i = next++) say(one((*files)[i], made));
        say(write(made));
    };
    const unsigned most = arguments.threads > 0 ? static_cast<unsigned>(arguments.threads)
                                                : std::max(1U, std::thread::hardware_concurrency());
    std::vector<std::thread> threads;
    for (unsigned i = 1; i < std::min<std::size_t>(most, files->size()); ++i) threads.emplace_back(work);
    work();
    for (std::thread& t : threads) t.join();
    return good ? 0 : 2;
}

int reportCommand(const ReportArguments& arguments) {
    const auto files = partsOf(arguments.files);
    if (!files) return failed(files.error());
    std::vector<NamedContent> made;
    for (const std::string& file : *files) {
        const auto part = loadFollowed(file);
        if (!part) return failed(part.error());
        const Footprint f = derive(*part);
        const ReportContent content = reportContent(*part, f, arguments.date, stampOf(*part, f), std::filesystem::absolute(file).parent_path().string());
        auto html = reportHtml(*part, f, content);
        auto pdf = reportPdf(*part, f, content);
        if (!html || !pdf) return failed(!html ? html.error() : pdf.error());
        const std::string stem = fileStem(part->name);
        for (const NamedContent& other : made)
            if (lower(other.name) == lower(stem + "-report.pdf")) return failed({"two parts have this name", part->name, "Give one of them another name"});
        made.push_back({stem + "-report.html", std::move(*html)});
        made.push_back({stem + "-report.pdf", std::move(*pdf)});
    }
    if (const auto written = writeAllAtomically(arguments.folder, made); !written) return failed(written.error());
    for (const NamedContent& c : made) fmt::print("{}\n", (std::filesystem::path(arguments.folder) / c.name).string());
    return 0;
}

int paperCommand(const PaperArguments& arguments) {
    const auto files = partsOf(arguments.files);
    if (!files) return failed(files.error());
    PaperOptions options;
    options.mirrored = arguments.mirrored;
    const std::string page = lower(arguments.page);
    for (const auto& [name, w, h] : {std::tuple{"a4", 210.0, 297.0}, {"a3", 297.0, 420.0}, {"letter", 215.9, 279.4}})
        if (page == name) {
            options.pageWidth = w;
            options.pageHeight = h;
        }
    if (!arguments.printed.empty()) {
        const std::size_t comma = arguments.printed.find(',');
        try {
            options.printedX = std::stod(arguments.printed.substr(0, comma));
            options.printedY =
                comma == std::string::npos ? options.printedX : std::stod(arguments.printed.substr(comma + 1));
        } catch (const std::exception&) {
            return failed(
                {"“" + arguments.printed + "” is no pair of lengths", "--printed", "As in --printed 100.4,99.3"});
        }
    }
    std::vector<Part> parts;
    for (const std::string& file : *files) {
        auto part = loadFollowed(file);
        if (!part) return failed(part.error());
        parts.push_back(std::move(*part));
    }
    std::vector<Footprint> footprints;
    for (const Part& p : parts) footprints.push_back(derive(p));
    std::vector<PaperPart> on;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const bool loose =
            std::any_of(footprints[i].pads.begin(), footprints[i].pads.end(), [](const Pad& p) { return !p.firm; });
        if (loose && !arguments.loose)
            return failed({"it has loose pads, which stand where nobody read them", parts[i].name,
                           "Read what it asks for, or say --loose"});
        on.push_back({&parts[i], &footprints[i]});
    }
    const auto pdf = paperPdf(on, options);
    if (!pdf) return failed(pdf.error());
    if (const auto written = writeAtomically(arguments.out, *pdf); !written) return failed(written.error());
    return 0;
}

}  // namespace punch
