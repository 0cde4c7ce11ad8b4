#pragma once
// What people said of a part as a whole: who checked it, which gauges were let pass and why, which versions went out.
//
// How far a part has come is not kept: it follows from these and from what the part is now (core/approval/approval.h).
// So nothing that is edited afterwards stays checked or released by mistake.

#include <optional>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/source.h"

namespace punch {

struct Part;

/// A person's name beside a date ("2026-11-29") and the digest of what was looked at (core/approval, digestOf).
struct Signed {
    std::string by;
    std::string date;
    std::string digest;  ///< SHA-256, 64 hexadecimal digits; empty: nobody did
    UnknownFields unknown = {};
    friend bool operator==(const Signed&, const Signed&) = default;
};

/// A gauge that is neither go nor watch, and that a person lets pass. It holds as long as the gauge says the same.
struct LetPass {
    std::string gauge;            ///< its name, "copper-to-copper"
    std::string says;             ///< what it said, in mm
    std::optional<double> value;  ///< that it had
    std::string reason;
    std::string by;
    std::string date;
    UnknownFields unknown = {};
    friend bool operator==(const LetPass&, const LetPass&) = default;
};

/// A version that went out.
struct Version {
    PUNCH_VALUE(Version)
    int number = 1;
    std::string note;     ///< what is new in it
    std::string program;  ///< version of Punchbit that derived it
    Signed released;
    std::vector<LetPass> passed;
    std::vector<Part> frozen;  ///< the part as it was; of the last version alone
    UnknownFields unknown;
    friend bool operator==(const Version& a, const Version& b);
};

struct Approval {
    PUNCH_VALUE(Approval)
    Signed checked;
    std::vector<LetPass> passes;
    std::vector<Version> versions;  ///< the oldest first
    UnknownFields unknown;
    friend bool operator==(const Approval& a, const Approval& b);
};

}  // namespace punch
