#include "cli/board_command.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <sstream>

#include "cli/parts_read.h"
#include "core/base/quantity.h"
#include "core/board/board_check.h"
#include "core/board/board_files.h"
#include "core/board/board_picture.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

std::vector<std::string> split(const std::string& text, char by = ',') {
    std::vector<std::string> all;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, by);) all.push_back(one);
    return all;
}

Result<TrialBoard> placed(TrialBoard b, const std::string& typed, const fs::path& folder) {
    const auto words = split(typed);
    const auto wrong = [&](const char* why) {
        return problem(why, "--place " + typed, "Write PART,X,Y or PART,X,Y,TURN or PART,X,Y,TURN,bottom");
    };
    if (words.size() < 3 || words.size() > 5) return wrong("it takes a part and a place");
    const auto x = parseLength(words[1], Unit::Mm), y = parseLength(words[2], Unit::Mm);
    if (!x) return tl::make_unexpected(x.error());
    if (!y) return tl::make_unexpected(y.error());
    double turn = 0;
    if (words.size() > 3) {
        char* end = nullptr;
        turn = std::strtod(words[3].c_str(), &end);
        if (words[3].empty() || *end != 0 || !std::isfinite(turn)) return wrong("the turn is no number of degrees");
    }
    if (words.size() > 4 && words[4] != "bottom" && words[4] != "top") return wrong("the side is top or bottom");
    const auto part = loadPart(words[0]);
    if (!part) return tl::make_unexpected(part.error());
    std::error_code error;
    const fs::path named = fs::proximate(fs::absolute(words[0], error), folder, error);
    b = withPart(std::move(b), (error ? fs::path(words[0]) : named).generic_string(), part->reference, {*x, *y});
    b.placings.back().turn = Angle::fromDegrees(turn);
    b.placings.back().bottom = words.size() > 4 && words[4] == "bottom";
    return b;
}

Result<TrialBoard> changed(TrialBoard b, const BoardArguments& a, const fs::path& folder) {
    if (!a.name.empty()) b.name = a.name;
    if (a.thickness > 0) b.thickness = Length::fromMm(a.thickness);
    if (!a.size.empty()) {
        const auto words = split(a.size, 'x');
        const auto w = parseLength(words.empty() ? "" : words[0], Unit::Mm);
        const auto h = parseLength(words.size() < 2 ? "" : words[1], Unit::Mm);
        if (!w || !h || !(*w > Length()) || !(*h > Length()) || words.size() > 2)
            return problem("a size is WIDTHxHEIGHT", "--size " + a.size, "Write it as 80x60");
        b.outline = {};
        b.outline.width = *w;
        b.outline.height = *h;
    }
    if (!a.corners.empty()) {
        const auto rings = outlineFromCorners(a.corners);
        if (!rings) return tl::make_unexpected(rings.error());
        b.outline.rings = *rings;
    }
    if (!a.outline.empty()) {
        const auto rings = outlineFromDxf(a.outline, a.unit == "mm"     ? std::optional(1.0)
                                                     : a.unit == "inch" ? std::optional(25.4)
                                                     : a.unit == "mil"  ? std::optional(0.0254)
                                                                        : std::nullopt);
        if (!rings) return tl::make_unexpected(rings.error());
        b.outline.rings = *rings;
    }
    for (const std::string& name : a.remove) {
        const auto it =
            std::find_if(b.placings.begin(), b.placings.end(), [&](const Placing& p) { return p.designator == name; });
        if (it == b.placings.end()) return problem("there is no " + name + " on it", b.name, "See punch board FILE");
        b.placings.erase(it);
    }
    for (const std::string& typed : a.place) {
        auto next = placed(std::move(b), typed, folder);
        if (!next) return next;
        b = std::move(*next);
    }
    for (const std::string& typed : a.holes) {
        const auto words = split(typed);
        std::vector<Length> numbers;
        for (const std::string& w : words)
            if (const auto l = parseLength(w, Unit::Mm)) numbers.push_back(*l);
        if (numbers.size() != 3 || words.size() != 3 || !(numbers[2] > Length()))
            return problem("a hole is X,Y,DIAMETER", "--hole " + typed, "Write it as 5,5,3.2");
        BoardHole h;
        h.id = "h" + std::to_string(b.nextId++);
        h.at = {numbers[0], numbers[1]};
        h.diameter = numbers[2];
        h.clear = 2.0 * h.diameter;
        b.holes.push_back(h);
    }
    return b;
}

}  // namespace

int boardCommand(const BoardArguments& a) {
    std::error_code error;
    const fs::path file(a.board);
    // Also of a file that is named from where one stands.
    const fs::path whole = fs::absolute(file.empty() ? "." : file, error);
    const fs::path folder = whole.parent_path();
    const bool there = fs::exists(file, error);
    const bool edits = !a.size.empty() || !a.outline.empty() || !a.corners.empty() || !a.name.empty() ||
                       a.thickness > 0 || !a.place.empty() || !a.holes.empty() || !a.remove.empty() || a.fiducials;
    if (!there && !edits) return failed({"there is no such file", a.board, "Begin one with --size or --outline"});
    Result<TrialBoard> board = there ? loadBoard(file) : Result<TrialBoard>(TrialBoard{});
    if (!board) return failed(board.error());
    if (!there && a.name.empty()) board->name = file.stem().string();
    const TrialBoard before = *board;
    board = changed(*board, a, folder);
    if (!board) return failed(board.error());
    LaidBoard laid = laidBoard(*board, boardParts(*board, folder));
    if (a.fiducials) {
        const auto offered = offeredFiducials(laid);
        if (!offered) return failed(offered.error());
        board->fiducials = *offered;
        laid = laidBoard(*board, boardParts(*board, folder));
    }
    if (!there || *board != before)
        if (const auto saved = saveBoard(*board, file); !saved) return failed(saved.error());
    const BoardJudgement judgement = judged(laid);
    if (a.json) {
        using Json = nlohmann::ordered_json;
        Json j = {{"board", board->name},
                  {"state", stateName(judgement.worst())},
                  {"parts", Json::array()},
                  {"findings", Json::array()}};
        for (const LaidPart& p : laid.parts)
            j["parts"].push_back({{"designator", p.placing.designator},
                                  {"part", p.of.part.name},
                                  {"at", {p.placing.at.x.mm(), p.placing.at.y.mm()}},
                                  {"turn", p.placing.turn.degrees()},
                                  {"side", p.placing.bottom ? "bottom" : "top"}});
        for (const BoardFinding& f : judgement.findings) {
            Json at = Json::array();
            for (const Point& p : f.line) at.push_back({p.x.mm(), p.y.mm()});
            const auto kind = std::find_if(boardCheckKinds().begin(), boardCheckKinds().end(),
                                           [&](const auto& k) { return k.check == f.check; });
            j["findings"].push_back({{"check", kind->name},
                                     {"state", stateName(f.state)},
                                     {"words", fill(f.words, f.of, Unit::Mm, 2)},
                                     {"about", f.about},
                                     {"at", at}});
        }
        fmt::print("{}\n", j.dump(2, ' ', false, Json::error_handler_t::replace));
    } else {
        fmt::print("{}\n", board->name);
        for (const LaidPart& p : laid.parts)
            fmt::print("  {:<6} {:<16} {:8.3f} {:8.3f}  {:g}°{}\n", p.placing.designator, p.of.part.name,
                       p.placing.at.x.mm(), p.placing.at.y.mm(), p.placing.turn.degrees(),
                       p.placing.bottom ? "  bottom" : "");
        for (const BoardFinding& f : judgement.findings) {
            const auto kind = std::find_if(boardCheckKinds().begin(), boardCheckKinds().end(),
                                           [&](const auto& k) { return k.check == f.check; });
            fmt::print("  {:<8} {:<18} {}\n", stateName(f.state), kind->title, fill(f.words, f.of, Unit::Mm, 2));
        }
    }
    if (!a.files.empty()) {
        const auto files = boardFiles(laid);
        if (!files) return failed(files.error());
        if (const auto written = writeAllAtomically(a.files, *files); !written) return failed(written.error());
        for (const NamedContent& f : *files) fmt::print("{}\n", (fs::path(a.files) / f.name).string());
    }
    if (!a.picture.empty()) {
        const auto png = boardPicture(laid, folder, 1280, 800);
        if (!png) return failed(png.error());
        if (const auto written = writeAtomically(a.picture, *png); !written) return failed(written.error());
    }
    switch (judgement.worst()) {
        case GaugeState::NoGo: return 1;
        case GaugeState::Unknown: return 3;
        default: return 0;
    }
}

}  // namespace punch
