#include "cli/approve_command.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <ctime>
#include <nlohmann/json.hpp>

#include "cli/parts_read.h"
#include "core/approval/approval.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

void print(const Part& part, const Footprint& f, const ApprovalState& s) {
    fmt::print("{}: {}\n  SHA-256 {}\n", part.name, standingWords(s), s.digest);
    if (s.stage == Stage::Released && !s.otherProgram.empty())
        fmt::print("  its footprint was derived by Punchbit {}\n", s.otherProgram);
    if (!part.approval.checked.by.empty())
        fmt::print("  checked by {} on {}{}\n", part.approval.checked.by, part.approval.checked.date,
                   part.approval.checked.digest == s.digest ? "" : ", before it was changed");
    for (const LetPass& p : s.passes)
        fmt::print("  let pass   {:<18} {}: {} ({}, {})\n", p.gauge, p.says, p.reason, p.by, p.date);
    for (const Blocking& b : s.blocking)
        fmt::print("  {:<10} {:<18} {}{}\n", stateName(b.state), b.gauge, b.says,
                   b.letPass.empty() ? "" : ", was let pass when it said: " + b.letPass);
    for (const std::string& w : changedSince(part, f)) fmt::print("  since version {}: {}\n", s.version, w);
    for (const Version& v : part.approval.versions)
        fmt::print("  version {} by {} on {}{}\n", v.number, v.released.by, v.released.date,
                   v.note.empty() ? "" : ": " + v.note);
}

void printJson(const Part& part, const Footprint& f, const ApprovalState& s) {
    using Json = nlohmann::ordered_json;
    Json j = {{"part", part.name},        {"standing", standingWords(s)},
              {"digest", s.digest},       {"version", s.version},
              {"changed", s.changed},     {"blocking", Json::array()},
              {"letPass", Json::array()}, {"changes", changedSince(part, f)}};
    for (const Blocking& b : s.blocking)
        j["blocking"].push_back({{"gauge", b.gauge}, {"state", stateName(b.state)}, {"says", b.says}});
    for (const LetPass& p : s.passes)
        j["letPass"].push_back({{"gauge", p.gauge}, {"says", p.says}, {"reason", p.reason}, {"by", p.by}});
    fmt::print("{}\n", j.dump(2, ' ', false, Json::error_handler_t::replace));
}

}  // namespace

int approveCommand(const ApproveArguments& a) {
    const auto read = loadPart(a.part);
    if (!read) return failed(read.error());
    const Footprint f = derive(*read);
    const std::string date = !a.date.empty() ? a.date : fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
    Result<Part> part = *read;
    const auto then = [&](bool wanted, const auto& step) {
        if (wanted && part) part = step(*part);
    };
    then(!a.withdraw.empty(), [&](const Part& p) { return Result<Part>(withoutPass(p, a.withdraw)); });
    then(!a.pass.empty(), [&](const Part& p) { return withPass(p, f, a.pass, a.reason, a.by, date); });
    then(a.check, [&](const Part& p) { return checkedPart(p, a.by, date); });
    then(a.release, [&](const Part& p) { return releasedPart(p, f, a.by, date, a.note); });
    if (!part) return failed(part.error());
    if (*part != *read)
        if (const auto saved = savePart(*part, a.part); !saved) return failed(saved.error());
    const ApprovalState s = standingOf(*part, f);
    a.json ? printJson(*part, f, s) : print(*part, f, s);
    return s.stage == Stage::Released ? 0 : 1;
}

}  // namespace punch
