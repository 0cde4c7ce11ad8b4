#include "cli/pins_command.h"

#include <fmt/format.h>

#include <cstdio>
#include <iostream>
#include <iterator>

#include "cli/parts_read.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/part/names.h"
#include "core/pins/bench_notes.h"
#include "core/pins/pin_checks.h"
#include "core/pins/pin_table.h"
#include "core/pins/variants.h"

namespace punch {
namespace {

std::string joined(const std::vector<std::string>& all) { return fmt::format("{}", fmt::join(all, ", ")); }

/// The table taken into the part, with what was made of its columns.
Result<void> take(Part& part, const Footprint& footprint, const std::string& from) {
    std::string text;
    if (from == "-")
        text.assign(std::istreambuf_iterator<char>(std::cin), {});
    else if (const auto whole = readWhole(from))
        text = *whole;
    else
        return tl::make_unexpected(whole.error());
    std::vector<std::string> numbers;
    for (const Pad& p : footprint.pads) numbers.push_back(p.number);
    const auto read = pinsFromText(text, numbers);
    if (!read) return tl::make_unexpected(read.error());
    fmt::print(stderr, "columns: {}\n", joined(read->columns));
    for (const std::string& line : read->leftLines) fmt::print(stderr, "left out: {}\n", line);
    part.pins = read->pins;
    return {};
}

}  // namespace

int pinsCommand(const PinsArguments& arguments) {
    auto part = loadPart(arguments.part);
    if (!part) return failed(part.error());
    const Footprint footprint = derive(*part);
    if (!arguments.from.empty())
        if (const auto taken = take(*part, footprint, arguments.from); !taken) return failed(taken.error());
    for (const std::string& typed : arguments.notes) {
        const auto note = benchNoteFromText(typed);
        if (!note) return failed(note.error());
        part->benchNotes.push_back(*note);
    }
    if (!arguments.from.empty() || !arguments.notes.empty())
        if (const auto saved = savePart(*part, arguments.part); !saved) return failed(saved.error());
    if (!arguments.variant.empty()) {
        auto as = asVariant(*part, arguments.variant);
        if (!as) return failed(as.error());
        for (const std::string& words : variantDifference(*part, {}, arguments.variant))
            fmt::print(stderr, "{}\n", words);
        part = std::move(*as);
    }
    if (arguments.csv) {
        fmt::print("{}", pinsCsv(part->pins));
    } else {
        const Joints joints = jointsOf(part->pins, footprint.pads);
        for (std::size_t i = 0; i < part->pins.size(); ++i) {
            const Pin& p = part->pins[i];
            std::vector<std::string> pads;
            for (const FeatureId& id : joints.pads[i]) pads.push_back(footprint.pad(id)->number);
            fmt::print("{:>5}  {:<20} {:<22} {}\n", p.number, joined(p.names), nameOf(p.kind),
                       pads.empty() ? "no pad" : "pad " + joined(pads));
        }
        const RoleProposal proposal = proposedRoles(part->benchNotes);
        for (const ProposedRole& role : proposal.roles) fmt::print("  by the notes, {} is {}\n", role.pin, role.words);
        for (const std::string& words : proposal.open) fmt::print("  undecided: {}\n", words);
        if (!proposal.measure.empty()) fmt::print("  measure next: {}\n", proposal.measure.front());
    }
    bool wrong = false;
    for (const PinTrouble& t : pinTroubles(part->pins, footprint.pads)) {
        wrong = wrong || t.weight == PinTrouble::Weight::Wrong;
        fmt::print(stderr, "{}: {}\n", t.weight == PinTrouble::Weight::Wrong ? "wrong" : "doubtful", t.words);
    }
    return wrong ? 1 : 0;
}

}  // namespace punch
