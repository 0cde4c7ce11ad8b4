#pragma once
// Where a number comes from: the steps that lead to it, each with a link to what can be changed there.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/quantity.h"

namespace punch {

/// One step of "where does this number come from?".
struct ChainStep {
    enum class Link { None, Reading, Rule, Parameter, Feature };
    std::string label;   ///< "least hole, fit level B"
    std::string detail;  ///< "+ {}": each {} stands for the next length of `of`
    std::vector<Length> of;
    std::optional<Length> value;
    Link link = Link::None;
    std::string target;  ///< reading id, rule field or parameter name
    double weight = 0;   ///< share of a reading in the value, 0 when it makes no sense
    friend bool operator==(const ChainStep&, const ChainStep&) = default;
};
using Chain = std::vector<ChainStep>;
/// By what they lead to: "x:p1", "hole:p1", "pitch".
using Chains = std::map<std::string, Chain>;

/// The text of a template such as "{} {u} spare" in the display unit.
std::string fill(const std::string& text, const std::vector<Length>& of, Unit unit, int digits = 3);

}  // namespace punch
