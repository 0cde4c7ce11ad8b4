#include "core/approval/approval.h"

#include <fmt/format.h>
#include <openssl/evp.h>

#include <algorithm>
#include <array>

#include "core/derive.h"
#include "core/library/difference.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"
#include "core/version.h"

namespace punch {
namespace {

/// The part without what does not count.
Part counting(Part part) {
    part.approval = {};
    part.history.clear();
    part.notes.clear();
    part.nextId = 1;
    for (Make& m : part.makes)
        for (Part& p : m.part) p = counting(p);
    return part;
}

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t\r\n");
    return from == std::string::npos ? std::string() : text.substr(from, text.find_last_not_of(" \t\r\n") - from + 1);
}

const LetPass* passOf(const Part& part, const std::string& gauge) {
    return findIn(part.approval.passes, [&](const LetPass& p) { return p.gauge == gauge; });
}

/// Does it say what it said? The share that drops in is counted by trials, more or fewer of them.
bool saysTheSame(const Gauge& g, const LetPass& pass) {
    constexpr double kTrials = 0.01;
    if (g.id == GaugeId::DropIn && g.value && pass.value) return std::abs(*g.value - *pass.value) <= kTrials;
    return pass.says == gaugeSays(g);
}

bool blocks(const Gauge& g) { return g.state != GaugeState::Go && g.state != GaugeState::Watch; }

Problem nameless(const char* what) { return {"nobody says who did it", what, "Give a name"}; }

}  // namespace

std::string digestOf(const Part& part) {
    const std::string text = toText(counting(part));
    std::array<unsigned char, EVP_MAX_MD_SIZE> bytes{};
    unsigned int length = 0;
    EVP_Digest(text.data(), text.size(), bytes.data(), &length, EVP_sha256(), nullptr);
    std::string hex;
    for (unsigned int i = 0; i < length; ++i) hex += fmt::format("{:02x}", bytes[i]);
    return hex;
}

std::string gaugeSays(const Gauge& gauge) { return fill(gauge.words, gauge.of, Unit::Mm, 3); }

ApprovalState standingOf(const Part& part, const Footprint& f) {
    ApprovalState s;
    s.digest = digestOf(part);
    for (const Gauge& g : f.gauges) {
        if (!blocks(g)) continue;
        const LetPass* pass = passOf(part, g.name);
        if (pass != nullptr && saysTheSame(g, *pass))
            s.passes.push_back(*pass);
        else
            s.blocking.push_back({g.name, g.title, gaugeSays(g), pass != nullptr ? pass->says : "", g.state});
    }
    const Approval& a = part.approval;
    if (!a.versions.empty()) {
        const Version& last = a.versions.back();
        s.version = last.number;
        s.changed = last.released.digest != s.digest;
        if (last.program != kVersion) s.otherProgram = last.program.empty() ? "an unknown one" : last.program;
    }
    if (s.version > 0 && !s.changed)
        s.stage = Stage::Released;
    else if (!a.checked.digest.empty() && a.checked.digest == s.digest)
        s.stage = Stage::Checked;
    return s;
}

std::string standingWords(const ApprovalState& s) {
    const std::string since = s.version > 0 && s.changed ? fmt::format(", changed since version {}", s.version) : "";
    switch (s.stage) {
        case Stage::Released: break;
        case Stage::Checked: return "checked" + since;
        case Stage::Draft: return "draft" + since;
    }
    return fmt::format("released, version {}", s.version);
}

Result<Part> checkedPart(Part part, const std::string& by, const std::string& date) {
    if (trimmed(by).empty()) return tl::make_unexpected(nameless("check"));
    part.approval.checked = {trimmed(by), date, digestOf(part)};
    return part;
}

Result<Part> withPass(Part part, const Footprint& f, const std::string& gauge, const std::string& reason,
                      const std::string& by, const std::string& date) {
    const Gauge* g = f.gauge(gauge);
    if (g == nullptr) return problem(fmt::format("there is no gauge “{}”", gauge), part.name, "See punch check");
    if (!blocks(*g))
        return problem(fmt::format("{} is {} and needs nobody's pass", g->title, stateName(g->state)), part.name,
                       "Leave it as it is");
    if (trimmed(by).empty()) return tl::make_unexpected(nameless(g->title.c_str()));
    if (trimmed(reason).empty())
        return problem("a gauge passes only with a reason", g->title, "Say why this part may go all the same");
    part = withoutPass(std::move(part), gauge);
    part.approval.passes.push_back({gauge, gaugeSays(*g), g->value, trimmed(reason), trimmed(by), date});
    return part;
}

Part withoutPass(Part part, const std::string& gauge) {
    std::erase_if(part.approval.passes, [&](const LetPass& p) { return p.gauge == gauge; });
    return part;
}

Result<Part> releasedPart(Part part, const Footprint& f, const std::string& by, const std::string& date,
                          const std::string& note) {
    const ApprovalState s = standingOf(part, f);
    if (trimmed(by).empty()) return tl::make_unexpected(nameless("release"));
    if (s.stage == Stage::Released && s.otherProgram.empty())
        return problem(fmt::format("it is version {} as it stands", s.version), part.name, "Nothing is to be released");
    if (part.approval.checked.digest != s.digest)
        return problem("nobody checked it as it is now", part.name, "Check it first");
    if (!s.blocking.empty()) {
        std::string which;
        for (const Blocking& b : s.blocking) which += (which.empty() ? "" : "; ") + b.title + ": " + b.says;
        return problem("not every gauge is go or watch: " + which, part.name,
                       "Mend them, or let each of them pass with a reason");
    }
    Version v;
    v.number = s.version + 1;
    v.note = trimmed(note);
    v.program = kVersion;
    v.released = {trimmed(by), date, s.digest};
    v.passed = s.passes;
    Part frozen = part;
    frozen.approval = {};
    frozen.makes.clear();
    // A make in a version would hold parts in parts; what of it counts is in the digest.
    v.frozen.push_back(std::move(frozen));
    for (Version& before : part.approval.versions) before.frozen.clear();
    part.approval.passes = s.passes;
    part.approval.versions.push_back(std::move(v));
    return part;
}

std::vector<std::string> changedSince(const Part& part, const Footprint& f) {
    if (part.approval.versions.empty() || part.approval.versions.back().released.digest == digestOf(part)) return {};
    const Version& last = part.approval.versions.back();
    if (last.frozen.empty()) return {"what version " + std::to_string(last.number) + " was is not kept"};
    Part was = last.frozen.front();
    was.makes = part.makes;
    auto words = differenceWords(was, derive(was), part, f);
    // What has no words of its own has changed all the same.
    if (words.empty()) words.push_back("something that moves no number by more than 0.001 mm");
    return words;
}

std::vector<std::string> Stamp::all() const {
    if (line.empty()) return {};
    std::vector<std::string> lines{line};
    lines.insert(lines.end(), passes.begin(), passes.end());
    return lines;
}

Stamp stampOf(const Part& part, const Footprint& f) {
    const ApprovalState s = standingOf(part, f);
    Stamp stamp;
    stamp.digest = s.digest;
    stamp.standing = s;
    stamp.revision = s.stage == Stage::Released  ? std::to_string(s.version)
                     : s.stage == Stage::Checked ? "checked"
                                                 : "draft";
    stamp.line = fmt::format("{}, {}, {}", part.name, standingWords(s), s.digest.substr(0, 12));
    if (!s.otherProgram.empty() && s.stage == Stage::Released)
        stamp.line += fmt::format(", released with Punchbit {}", s.otherProgram);
    for (const LetPass& p : s.passes)
        stamp.passes.push_back(fmt::format("let pass by {}: {}: {}: {}", p.by, p.gauge, p.says, p.reason));
    for (const Blocking& b : s.blocking)
        stamp.passes.push_back(fmt::format("{}: {}: {}", stateName(b.state), b.gauge, b.says));
    return stamp;
}

}  // namespace punch
