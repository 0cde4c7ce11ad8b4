#pragma once
// What a multimeter says about pins: notes between two pins in each position, and what they make of a switch or a
// potentiometer. What they leave open is said, with the measurement that would decide.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

/// "1 2 10k", "3 4 0.2 lever up", "1 3 open lever down": two pins, ohms with k, M, R or Ω, "open" or "beep", position.
/// Errors: it names no two pins, no value.
Result<BenchNote> benchNoteFromText(std::string_view typed);
std::string benchNoteWords(const BenchNote& note);

enum class PinRole {
    Common,   ///< joined to other contacts in other positions
    Contact,  ///< joined to a common in some positions
    End,      ///< of a resistance track
    Wiper,
    Coil,    ///< one of two with the same resistance in all positions
    Joined,  ///< always joined to another
    Free,    ///< open against all in every position
};

struct ProposedRole {
    std::string pin;
    PinRole role = PinRole::Free;
    std::string words;  ///< "common: to 2 lever up, to 3 lever down"
};

struct RoleProposal {
    std::vector<ProposedRole> roles;   ///< of what is decided, by pin as the notes name them
    std::vector<std::string> open;     ///< what is not decided, and why
    std::vector<std::string> measure;  ///< "1 to 3, lever up": what would decide, the best first
};
RoleProposal proposedRoles(const std::vector<BenchNote>& notes);

/// Below it two pins are joined; above it by no contact.
inline constexpr double kJoinedOhms = 5;
/// Resistances of a track add up to within this share, or to within the leads of a meter.
inline constexpr double kTrackShare = 0.03, kMeterOhms = 1;

const char* roleWords(PinRole role);

}  // namespace punch
