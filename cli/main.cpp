// punch: every computation without a display.

#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <cstdio>
#include <filesystem>
#include <iostream>

#include "cli/approve_command.h"
#include "cli/board_command.h"
#include "cli/coupon_command.h"
#include "cli/export_command.h"
#include "cli/family_command.h"
#include "cli/find_command.h"
#include "cli/library_command.h"
#include "cli/parts_read.h"
#include "cli/pins_command.h"
#include "cli/shot_command.h"
#include "cli/solid_command.h"
#include "cli/take_command.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/fit/drop_in.h"
#include "core/geometry/shapes.h"
#include "core/part/file.h"
#include "core/release/derive_json.h"
#include "core/release/formats.h"
#include "core/release/step_out.h"
#include "core/verdicts/gauges.h"
#include "core/version.h"

namespace {

using namespace punch;

// Exit codes of `punch check`, beside kFailed.
constexpr int kGood = 0;
constexpr int kNoGo = 1;
constexpr int kUnknown = 3;

void printTable(const Footprint& f) {
    fmt::print("{}   mm from the datum, x right, y up, seen from the part side\n", f.name);
    fmt::print("{:<10}{:>10}{:>10}{:>10}{:>13}{:>13}\n", "pad", "x", "y", "±", "hole", "land");
    // "1.10 x 3.40": a slot over its rounded ends, a land that is longer than wide.
    const auto size = [](Length a, Length b) {
        return b > Length() && b != a ? fmt::format("{:.2f} x {:.2f}", a.mm(), b.mm()) : fmt::format("{:.2f}", a.mm());
    };
    const auto doubt = [](const PlaceDoubt& d) { return d.fitted ? fmt::format("{:.3f}", d.fitted->mm()) : "loose"; };
    for (const Pad& p : f.pads)
        fmt::print("{:<10}{:>10.3f}{:>10.3f}{:>10}{:>13}{:>13}\n", p.number, p.at.x.mm() + 0.0, p.at.y.mm() + 0.0,
                   doubt(p.doubt), size(p.hole, p.slotLength), size(shownLand(p).width, shownLand(p).length));
    for (const Conductor& c : f.attached.lands)
        if (isSurfaceLand(c))
            fmt::print("{:<10}{:>10.3f}{:>10.3f}{:>10}{:>13}{:>13}\n", c.number, c.at.x.mm() + 0.0, c.at.y.mm() + 0.0,
                       c.firm ? "" : "loose", "none", size(shownLand(c).width, shownLand(c).length));
    for (const BareHole& h : f.bareHoles)
        fmt::print("{:<10}{:>10.3f}{:>10.3f}{:>10}{:>13}{:>13}\n", h.name, h.at.x.mm() + 0.0, h.at.y.mm() + 0.0,
                   doubt(h.doubt), size(h.size, h.slotLength),
                   h.plated ? size(h.land.width, h.land.length) : std::string("bare"));
    for (const SizeAdvice& a : f.sizes)
        if (a.firm)
            fmt::print("{} as read {:.3f} ± {:.3f} mm. {}\n", a.parameter, a.asRead, kNinetyFive * a.u + a.span,
                       a.words);
    for (const LooseMovement& m : f.loose) fmt::print("loose: {}\n", m.words);
    for (const Slip& s : f.slips) fmt::print("asked: {}{}{}\n", s.words, s.todo.empty() ? "" : " ", s.todo);
    for (const Complaint& c : f.complaints) fmt::print("wrong: {}: {}\n", c.parameter, c.words);
    fmt::print("next: {}\n", f.next.words);
}

struct Trials {
    int number = 100000;
    std::uint64_t seed = 1;
    int threads = 0;
};

DropInOptions optionsOf(const Trials& t) {
    DropInOptions options;
    options.trials = t.number;
    options.seed = t.seed;
    options.threads = t.threads;
    return options;
}

int derivePart(const std::string& file, bool json, const Trials& trials) {
    const auto part = loadFollowed(file);
    if (!part) return failed(part.error());
    Footprint f = derive(*part);
    if (json) {
        const DropInReport report = dropIn(*part, f, optionsOf(trials));
        std::cout << deriveJson(*part, f, &report);
    } else
        printTable(f);
    return kGood;
}

void printDropIn(const Part& part, const DropInReport& r) {
    if (!r.share.known) return;
    fmt::print("  drop-in: {:.3f} % of {} trials (95 %: {:.3f} to {:.3f}), worlds {:.2f} to {:.2f} %, seed {}\n",
               100 * r.share.share, r.share.trials, 100 * r.share.low, 100 * r.share.high, 100 * r.bandLow,
               100 * r.bandHigh, r.seed);
    if (!r.share.spreadKnown) fmt::print("  no reading says how parts of the kind differ: one part, many boards\n");
    if (!r.costs.empty() && r.costs.front().cost > 0)
        fmt::print("  costs most: {}, {:.3f} % of the parts\n", r.costs.front().name, 100 * r.costs.front().cost);
    for (const LeastHole& h : r.holes) {
        const std::string who =
            h.about.empty() ? "plated holes"
            : formationById(part, h.about) != nullptr
                ? "holes of " + featureWords(part, formationById(part, h.about)->pins.front()) + " on"
                : "hole of " + featureWords(part, h.about);
        if (h.least > Length())
            fmt::print("  {:g} % would need {} of {:.2f} (now {:.2f})\n", 100 * part.rules.dropInWanted, who,
                       h.least.mm(), h.now.mm());
        else
            fmt::print("  no size of the {} alone lets {:g} % in\n", who, 100 * part.rules.dropInWanted);
    }
}

int check(const std::vector<std::string>& files, const Trials& trials) {
    bool unreadable = false;
    bool noGo = false;
    bool unknown = false;
    for (const std::string& file : files) {
        const auto part = loadFollowed(file);
        if (!part) {
            failed(part.error());
            unreadable = true;
            continue;
        }
        Footprint f = derive(*part);
        const DropInReport report = dropIn(*part, f, optionsOf(trials));
        fmt::print("{}\n", part->name);
        for (const Gauge& g : f.gauges) {
            std::string about;
            for (const std::string& id : g.about)
                about += (about.empty() ? "   " : ", ") +
                         (readingById(*part, id) != nullptr ? "reading " + id : featureWords(*part, id));
            fmt::print("  {:<8} {:<18} {}{}\n", stateName(g.state), g.name, fill(g.words, g.of, Unit::Mm, 2), about);
            noGo |= g.state == GaugeState::NoGo;
            unknown |= g.state == GaugeState::Unknown;
        }
        printDropIn(*part, report);
    }
    return unreadable ? kFailed : noGo ? kNoGo : unknown ? kUnknown : kGood;
}

int format(const std::string& file) {
    const auto part = loadPart(file);
    if (!part) return failed(part.error());
    if (const auto saved = savePart(*part, file); !saved) return failed(saved.error());
    return kGood;
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app("Punchbit on the command line: from readings and scans to a checked footprint.", "punch");
    app.set_version_flag("--version", std::string("punch ") + punch::kVersion);
    app.require_subcommand(1);
    std::string file;
    bool json = false;
    std::vector<std::string> files;
    ExportArguments out;

    auto* deriveCommand = app.add_subcommand("derive", "Print the footprint that follows from a part");
    deriveCommand->add_option("FILE", file, "a .punch file")->required();
    deriveCommand->add_flag("--json", json, "as JSON (docs/derive-json.md)");
    auto* checkCommand = app.add_subcommand(
        "check", "Read the gauges: exit 0 go or watch, 1 a no-go, 3 something unknown, 2 unreadable");
    checkCommand->add_option("FILE", files, ".punch files, or the folder of a library")->required();
    LibraryCheckArguments libraryCheck;
    checkCommand->add_option("--junit", libraryCheck.junit, "of a library: JUnit XML into this file");
    checkCommand->add_option("--sarif", libraryCheck.sarif, "of a library: SARIF 2.1.0 into this file");
    auto* exportOption =
        app.add_subcommand("export", "Write files of parts or of whole libraries, all of a part or none");
    exportOption->add_option("FILES", out.files, ".punch files, or folders of them")->required();
    exportOption->add_option("--to", out.folder, "folder for the files; made when missing")->required();
    exportOption->add_option("--format", out.formats, formatNames() + "; all when none is named");
    exportOption
        ->add_option("--origin", out.origin, "where 0, 0 is: the part's datum, pin 1, the pins' middle, the body's")
        ->check(CLI::IsMember({"datum", "pin1", "pins", "body"}));
    std::vector<std::string> purposes;
    for (const Occasion& o : occasions()) purposes.emplace_back(o.name);
    exportOption->add_option("--for", out.purpose, "formats by what they are for")->check(CLI::IsMember(purposes));
    exportOption->add_flag("--check", out.check, "read each file again before it is written");
    exportOption->add_option("--zero", out.zero, "zero orientation of IPC-7351: A pin 1 upper left, B lower left")
        ->check(CLI::IsMember({"A", "B"}));
    exportOption->add_option("--turn", out.turn, "degrees besides, counter-clockwise")
        ->check(CLI::IsMember({0, 90, 180, 270}));
    exportOption->add_option("--threads", out.threads, "0: as many as the machine has")->check(CLI::Range(0, 64));
    ReportArguments report;
    auto* reportOption = app.add_subcommand("report", "Write the report that stands for a footprint, as PDF and HTML");
    reportOption->add_option("FILES", report.files, ".punch files, or folders of them")->required();
    reportOption->add_option("--to", report.folder, "folder for them; made when missing")->required();
    reportOption->add_option("--date", report.date, "that it bears");
    PaperArguments paper;
    auto* paperOption = app.add_subcommand("paper", "Draw parts on paper at 1:1, several on a sheet, as PDF");
    paperOption->add_option("FILES", paper.files, ".punch files, or folders of them")->required();
    paperOption->add_option("--out", paper.out, "the PDF")->required();
    paperOption->add_option("--page", paper.page, "A4, A3 or letter")
        ->check(CLI::IsMember({"A4", "A3", "letter"}, CLI::ignore_case));
    paperOption->add_option("--printed", paper.printed, "what 100 mm measured in print: X,Y");
    paperOption->add_flag("--mirrored", paper.mirrored, "to lay the underside on it");
    paperOption->add_flag("--loose", paper.loose, "loose parts too; it stands on the sheet");
    Trials trials;
    for (CLI::App* command : {deriveCommand, checkCommand}) {
        command->add_option("--seed", trials.seed, "of drop-in's random numbers; 1 when not given");
        command->add_option("--trials", trials.number, "of drop-in; 100000 when not given")
            ->check(CLI::Range(1, 10000000));
        command->add_option("--threads", trials.threads, "0: as many as the machine has")->check(CLI::Range(0, 64));
    }
    FindArguments find;
    auto* findOption =
        app.add_subcommand("find", "Find pins, pads, holes and their formation in a scan (docs/find-json.md)");
    findOption->add_option("IMAGE", find.image, "PNG, JPEG, TIFF, BMP, WebP, PDF or DXF")->required();
    findOption->add_flag("--json", find.json, "as JSON");
    findOption->add_option("--dpi", find.dpi, "pixels to the inch, instead of the file's own; a ruler goes before it");
    findOption->add_option("--pair", find.pairs, "X1,Y1,X2,Y2,LENGTH: two pixels a known length apart; may be repeated")
        ->take_all();
    findOption->add_option("--face", find.face, "the face that the picture shows")
        ->required()
        ->check(CLI::IsMember({"part", "solder"}));
    findOption->add_option("--page", find.page, "page of a PDF, from 1");
    findOption->add_option("--square", find.square,
                           "X1,Y1,X2,Y2,X3,Y3,X4,Y4,W,H: corners of a rectangle of known size, to make the photograph "
                           "square before anything else");
    findOption->add_option("--ruler", find.ruler, "which of the rulers found counts, from 1, or none");
    findOption->add_option("--scale-by", find.scaleBy, "what counts where the ruler and the dpi differ")
        ->check(CLI::IsMember({"ruler", "dpi"}));
    findOption->add_option("--unit", find.unit, "unit of a DXF that does not say it")
        ->check(CLI::IsMember({"mm", "inch", "mil"}));
    findOption->add_option("--region", find.region, "X,Y,W,H: pixels to look in");
    SolidArguments solid;
    auto* solidOption = app.add_subcommand(
        "solid", "Find the leads in a STEP file, and stand it on a part's holes (docs/solid-json.md)");
    solidOption->add_option("FILE", solid.file, "a STEP file: AP203, AP214 or AP242")->required();
    solidOption->add_option("--part", solid.part, "a .punch file on whose holes it is stood");
    solidOption->add_flag("--place", solid.place, "it becomes the part's body and is kept beside it");
    solidOption->add_flag("--take", solid.take, "the same, and its leads become readings of the part");
    solidOption->add_flag("--json", solid.json, "as JSON");
    ShotArguments shot;
    auto* shotOption = app.add_subcommand("shot", "Draw a part into a PNG: its sheet, or board and body in space");
    shotOption->add_option("FILE", shot.part, "a .punch file")->required();
    shotOption->add_option("--to", shot.to, "the PNG")->required();
    shotOption->add_option("--view", shot.wanted.view, "one of " + pictureViews());
    shotOption->add_option("--size", shot.size, "WIDTHxHEIGHT in pixels; 1280x800 when not given");
    shotOption->add_option("--lifted", shot.wanted.lift, "mm that the body is lifted off the board")
        ->check(CLI::Range(0.0, 1000.0));
    shotOption->add_option("--cut", shot.wanted.cut, "share that is cut away from the front")
        ->check(CLI::Range(0.0, 1.0));
    shotOption->add_option("--yaw", shot.wanted.yaw, "degrees about the board's axis, in place of the view's");
    shotOption->add_option("--pitch", shot.wanted.pitch, "degrees above the board")->check(CLI::Range(-90.0, 90.0));
    MatchArguments match;
    auto* matchOption = app.add_subcommand(
        "match", "Find parts of a library whose pads coincide, turned, mirrored, renumbered: exit 1 where none do");
    matchOption->add_option("FILES", match.files, "a .punch file, copper and drill files of a board, or a scan")
        ->required();
    matchOption->add_option("--pattern", match.pattern, "which of the patterns in a board's files");
    matchOption->add_option("--face", match.find.face, "of a scan: which face it shows")
        ->check(CLI::IsMember({"part", "solder"}));
    matchOption->add_option("--dpi", match.find.dpi, "of a scan");
    matchOption->add_option("--pair", match.find.pairs, "of a scan: X1,Y1,X2,Y2,LENGTH")->allow_extra_args(false);
    matchOption->add_option("--in", match.folder, "a folder of .punch files, and those in it")->required();
    matchOption->add_flag("--json", match.json, "as JSON");
    ListArguments list;
    auto* listOption = app.add_subcommand("list", "List the parts of a library with their states");
    listOption->add_option("FOLDER", list.folder, "a folder of .punch files, and those in it")->required();
    auto* searchOption = app.add_subcommand(
        "search", "Find parts by words: name, pins, sources, numbers (\"5.08 4 way\"): exit 1 where none has them all");
    searchOption->add_option("FOLDER", list.folder, "a folder of .punch files, and those in it")->required();
    std::vector<std::string> searchFor;
    searchOption->add_option("WORDS", searchFor, "what to look for")->required();
    for (auto* option : {listOption, searchOption}) {
        option->add_flag("--wrong", list.wrong, "only what is not go");
        option->add_flag("--json", list.json, "as JSON");
    }
    CompareArguments compare;
    auto* compareOption = app.add_subcommand(
        "compare", "Lay two footprints onto each other: how far each pad is off: exit 1 where something differs");
    compareOption->add_option("FILE", compare.one, "a .punch file")->required();
    compareOption->add_option("OTHER", compare.others, "another one, or copper and drill files, IPC-2581, a table")
        ->required();
    compareOption->add_option("--pattern", compare.pattern, "which of the patterns in these files");
    compareOption->add_option("--by", compare.by, "pads, or datum")->check(CLI::IsMember({"pads", "datum"}));
    compareOption->add_option("--svg", compare.svg, "the overlay with arrows, into this file");
    compareOption->add_option("--times", compare.times, "how much longer arrows are than they are")
        ->check(CLI::Range(1.0, 1000.0));
    compareOption->add_option("--within", compare.within, "mm that a pad may be off")->check(CLI::Range(0.0, 100.0));
    compareOption->add_flag("--json", compare.json, "as JSON");
    std::vector<std::string> mergeFiles;
    std::string mergeSetUp;
    auto* mergeOption = app.add_subcommand(
        "merge",
        "Merge two edits of a part, fact by fact, for version control: exit 1 where they contradict each other");
    mergeOption->add_option("FILES", mergeFiles, "the version before both, ours (which gets the result), theirs");
    mergeOption->add_option("--set-up", mergeSetUp, "make git do so in the repository of this folder");
    FamilyArguments family;
    auto* familyOption = app.add_subcommand(
        "family",
        "Derive the members of a family (other ways, or the columns of a letter table): exit 1 where one is not go");
    familyOption->add_option("FILE", family.part, "a .punch file")->required();
    familyOption->add_option("MEMBERS", family.members, "by name; none: all");
    familyOption->add_option("--out", family.folder, "write their files into this folder");
    familyOption->add_option("--format", family.formats, formatNames());
    familyOption->add_flag("--json", family.json, "as JSON");
    JoinArguments join;
    auto* joinOption =
        app.add_subcommand("join", "Join parts into one footprint that takes each of them: exit 1 where it does not");
    joinOption->add_option("FILES", join.files, "two or more .punch files; one that was joined: how it takes its makes")
        ->required();
    joinOption->add_option("--out", join.out, "the file that gets the joined part");
    joinOption->add_flag("--follow", join.follow, "keep what changed in the makes' files");
    joinOption->add_flag("--best", join.best, "try round holes, slots and two holes, and keep the best");
    joinOption->add_flag("--json", join.json, "as JSON");
    TakeArguments take;
    auto* takeOption = app.add_subcommand(
        "take", "Make parts of the pads in Gerber and drill files, IPC-2581, a table, or another part");
    takeOption->add_option("FILES", take.files, "files of one board; a .punch file: its pads without its evidence")
        ->required();
    takeOption->add_option("--pattern", take.patterns, "which of the patterns in them; none: all are listed");
    takeOption->add_flag("--all", take.all, "all of them");
    takeOption->add_option("--to", take.folder, "the folder that gets the parts");
    PinsArguments pins;
    auto* pinsOption =
        app.add_subcommand("pins", "Show what each pin does and what is wrong with it: exit 1 where something is");
    pinsOption->add_option("FILE", pins.part, "a .punch file")->required();
    pinsOption->add_option("--from", pins.from, "take them from a table or a drawing's text; - is standard input");
    pinsOption->add_option("--note", pins.notes, "keep what a multimeter said: \"1 2 10k fully left\"")
        ->allow_extra_args(false);
    pinsOption->add_option("--variant", pins.variant, "as this variant, and how it differs");
    pinsOption->add_flag("--csv", pins.csv, "as CSV");
    std::string other;
    auto* diffOption = app.add_subcommand("diff", "Say what differs between two parts: exit 1 where something does");
    diffOption->add_option("FILE", file, "a .punch file")->required();
    diffOption->add_option("OTHER", other, "another one, or a later version")->required();
    ApproveArguments approve;
    auto* approveOption = app.add_subcommand(
        "approve",
        "Say how far a part has come; check it, let gauges pass, release it: exit 0 released as it stands, 1 not");
    approveOption->add_option("FILE", approve.part, "a .punch file")->required();
    approveOption->add_option("--by", approve.by, "who says so");
    approveOption->add_option("--date", approve.date, "when; today when not given");
    approveOption->add_flag("--check", approve.check, "somebody looked at it as it is");
    approveOption->add_option("--pass", approve.pass, "let this gauge pass as it stands");
    approveOption->add_option("--reason", approve.reason, "why");
    approveOption->add_option("--withdraw", approve.withdraw, "take back that this gauge was let pass");
    approveOption->add_flag("--release", approve.release, "freeze a version");
    approveOption->add_option("--note", approve.note, "what is new in it");
    approveOption->add_flag("--json", approve.json, "as JSON");
    BoardArguments board;
    auto* boardOption = app.add_subcommand(
        "board", "Put parts on a trial board and judge them together: exit as check; write its files");
    boardOption->add_option("FILE", board.board, "a .board file; begun with --size or --outline where there is none")
        ->required();
    boardOption->add_option("--name", board.name, "of the board");
    boardOption->add_option("--size", board.size, "WIDTHxHEIGHT of a rectangle");
    boardOption->add_option("--corners", board.corners, "of an own edge: \"0,0 100,0 100,60 0,60\"");
    boardOption->add_option("--outline", board.outline, "a DXF with its edge and cut-outs");
    boardOption->add_option("--unit", board.unit, "of a DXF that does not say it")
        ->check(CLI::IsMember({"mm", "inch", "mil"}));
    boardOption->add_option("--thickness", board.thickness, "mm")->check(CLI::Range(0.1, 10.0));
    boardOption->add_option("--place", board.place, "PART,X,Y[,TURN[,bottom]]")->allow_extra_args(false);
    boardOption->add_option("--remove", board.remove, "the part of this designator")->allow_extra_args(false);
    boardOption->add_option("--hole", board.holes, "X,Y,DIAMETER of a mounting hole")->allow_extra_args(false);
    boardOption->add_flag("--fiducials", board.fiducials, "put three where there is room");
    boardOption->add_option("--files", board.files, "write Gerber, drill, IPC-2581 and tables into this folder");
    boardOption->add_option("--picture", board.picture, "draw it in space into this PNG");
    boardOption->add_flag("--json", board.json, "as JSON");
    CouponArguments coupon;
    auto* couponOption = app.add_subcommand(
        "coupon", "Write a fit coupon: the pattern with graded holes, pegs and rings; or take the copy that fitted");
    couponOption->add_option("FILE", coupon.part, "a .punch file")->required();
    couponOption->add_option("--to", coupon.folder, "folder for its files");
    couponOption->add_option("--step", coupon.step, "mm from copy to copy")->check(CLI::Range(0.01, 0.5));
    couponOption->add_option("--narrower", coupon.narrower, "copies with narrower holes")->check(CLI::Range(0, 25));
    couponOption->add_option("--wider", coupon.wider, "copies with wider ones")->check(CLI::Range(0, 25));
    couponOption->add_flag("--no-rings", coupon.noRings, "without single pads of graded rings");
    couponOption->add_option("--from", coupon.from, "the .coupon file of one that came back");
    couponOption->add_option("--holes", coupon.holes, "label of the copy whose holes fitted");
    couponOption->add_option("--pegs", coupon.pegs, "label of the copy whose pegs' holes fitted");
    couponOption->add_option("--picture", coupon.picture, "draw it into this PNG");
    couponOption->add_option("--date", coupon.date, "today when not given");
    auto* formatCommand = app.add_subcommand("fmt", "Write a .punch file in its standard form");
    formatCommand->add_option("FILE", file, "a .punch file")->required();

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e);
        return code == 0 ? 0 : kFailed;
    }
    if (deriveCommand->parsed()) return derivePart(file, json, trials);
    if (checkCommand->parsed() && files.size() == 1 && std::filesystem::is_directory(files.front())) {
        libraryCheck.folder = files.front();
        return libraryCheckCommand(libraryCheck);
    }
    if (checkCommand->parsed()) return check(files, trials);
    if (findOption->parsed()) return findCommand(find);
    if (solidOption->parsed()) return solidCommand(solid);
    if (shotOption->parsed()) return shotCommand(std::move(shot));
    if (matchOption->parsed()) return matchCommand(match);
    for (const std::string& word : searchFor) list.words += word + " ";
    if (listOption->parsed() || searchOption->parsed()) return listCommand(list);
    if (compareOption->parsed()) return compareCommand(compare);
    if (mergeOption->parsed()) {
        if (!mergeSetUp.empty() && mergeFiles.empty()) return mergeSetUpCommand(mergeSetUp);
        if (mergeFiles.size() == 3) return mergeCommand(mergeFiles[0], mergeFiles[1], mergeFiles[2]);
        return failed({"it takes three files", "punch merge", "Give the version before both, ours and theirs"});
    }
    if (takeOption->parsed()) return takeCommand(take);
    if (familyOption->parsed()) return familyCommand(family);
    if (joinOption->parsed()) return joinCommand(join);
    if (pinsOption->parsed()) return pinsCommand(pins);
    if (diffOption->parsed()) return diffCommand(file, other);
    if (couponOption->parsed()) return couponCommand(coupon);
    if (boardOption->parsed()) return boardCommand(board);
    if (approveOption->parsed()) return approveCommand(approve);
    if (exportOption->parsed()) return exportCommand(out);
    if (reportOption->parsed()) return reportCommand(report);
    if (paperOption->parsed()) return paperCommand(paper);
    return format(file);
}
