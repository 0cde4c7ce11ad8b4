#include "fuzz/targets.h"

#include <unistd.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>

#include "core/base/quantity.h"
#include "core/derive.h"
#include "core/drawing/pdf_pages.h"
#include "core/drawing/read_dxf.h"
#include "core/foreign/csv_pads.h"
#include "core/foreign/drill_holes.h"
#include "core/foreign/gerber_pads.h"
#include "core/foreign/ipc2581_pads.h"
#include "core/foreign/take_in.h"
#include "core/measure/entry.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/picture/read_picture.h"
#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "core/size/fab_profiles.h"
#include "core/symbol/symbol_drawing.h"
#include "core/verdicts/gauges.h"

namespace punch::fuzz {
namespace {

/// What the command line makes of a part: derive, check, export, and its text again.
void partFile(std::string_view bytes) {
    const auto part = fromText(bytes, "fuzzed");
    if (!part) return;
    const std::string text = toText(*part);
    // What was read can be read again, and says the same.
    const auto again = fromText(text, "written");
    if (!again || toText(*again) != text) std::abort();
    Footprint f = derive(*part);
    DropInOptions options;
    options.trials = 50;
    options.worlds = 1;
    options.threads = 1;
    const DropInReport report = dropIn(*part, f, options);
    (void)deriveJson(*part, f, &report);
    (void)worstState(f.gauges);
    (void)releaseFiles(*part, f, {Format::Gerber, Format::Drill, Format::Csv, Format::Svg});
}

const Part& somePart() {
    static const Part part = [] {
        Part p = withSpot(*newRow(4));
        return withSpot(p, SpotKind::Lug);
    }();
    return part;
}

void entryLine(std::string_view bytes) {
    for (const Unit unit : {Unit::Mm, Unit::Mil}) {
        const auto entry = parseEntry(somePart(), std::nullopt, bytes, unit, false);
        if (entry) (void)derive(withReading(somePart(), entry->reading));
    }
    (void)completeEntry(somePart(), bytes);
}

void formula(std::string_view bytes) {
    (void)parseLength(bytes, Unit::Mm);
    (void)parseNumber(bytes);
    (void)Formula::namesIn(bytes);
    (void)Formula::parse(bytes, Unit::Mil, Formula::Kind::Length,
                         [](const std::string&) { return Formula::Kind::Length; });
}

/// Whatever the name says: the first bytes choose the decoder.
void picture(std::string_view bytes) { (void)pictureFromBytes(bytes, "fuzzed"); }

/// Boards of others: the first letters do not say which reader is meant, so each gets it.
void foreign(std::string_view bytes) {
    const auto taken = [](const ForeignFile& file) {
        for (const ForeignPattern& p : file.patterns)
            if (p.pads.size() <= 12)
                if (const auto made = takenIn(p, {})) (void)derive(made->part);
    };
    if (const auto read = padsFromIpc2581(bytes, "fuzzed")) taken(*read);
    if (const auto read = padsFromCsv(bytes, "fuzzed")) taken(*read);
    if (const auto read = padsFromGerber(bytes, "fuzzed")) {
        ForeignPattern p;
        for (const GerberObject& o : read->pads) p.pads.push_back(o.pad);
        taken({{p}, {}});
    }
    (void)holesFromDrill(bytes, false, "fuzzed");
    if (const auto symbol = symbolDrawingFromText(bytes)) {
        const auto again = symbolDrawingFromText(symbolDrawingText(*symbol));
        if (!again) std::abort();
        for (const SymbolShape& s : symbol->shapes) (void)inkOf(s, {});
    }
}

void dxf(std::string_view bytes) { (void)dxfFromText(bytes, "fuzzed", std::nullopt); }

/// A file that is there for as long as it is looked at.
class Scratch {
public:
    Scratch(const char* name, std::string_view bytes)
        : folder_(std::filesystem::temp_directory_path() / ("punchbit-fuzz-" + std::to_string(::getpid()))),
          file_(folder_ / name) {
        std::filesystem::create_directories(folder_);
        std::ofstream(file_, std::ios::binary).write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    }
    ~Scratch() { std::filesystem::remove_all(folder_); }
    Scratch(const Scratch&) = delete;
    Scratch& operator=(const Scratch&) = delete;
    const std::filesystem::path& folder() const { return folder_; }
    std::string file() const { return file_.string(); }

private:
    std::filesystem::path folder_, file_;
};

/// Through the worker that reads every PDF.
void pdfPage(std::string_view bytes) {
    const Scratch scratch("page.pdf", bytes);
    const auto pages = PdfPages::open(scratch.file());
    if (!pages) return;
    const auto size = pages->sizeOf(0);
    if (!size) return;
    (void)pages->texts(0, *size);
    (void)pages->draw(0, *size, 0.05);
}

/// The library's own fab profiles, the other JSON that the command line reads.
void profiles(std::string_view bytes) {
    const Scratch scratch(kProfilesFile, bytes);
    (void)profilesOf(scratch.folder().string());
}

}  // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> all = {{"part", partFile}, {"entry", entryLine}, {"formula", formula},
                                            {"png", picture},   {"jpeg", picture},    {"tiff", picture},
                                            {"bmp", picture},   {"webp", picture},    {"pdf", pdfPage},
                                            {"dxf", dxf},       {"foreign", foreign}, {"profiles", profiles}};
    return all;
}

const Target* targetByName(std::string_view name) {
    for (const Target& t : targets())
        if (name == t.name) return &t;
    return nullptr;
}

}  // namespace punch::fuzz
