#pragma once
// Drop-in: how many parts of the kind go into how many boards, by a virtual gauge.
//
// A trial draws a part (pin places: doubt and spread; lead and peg sizes) and a board (hole places: registration and
// wander; finished sizes) and asks for the best seat (core/fit/best_seat). Its least room is the trial's spare room;
// the share of trials where it is not negative drops in.
//
// Laws      limits of a drawing: uniform; spread by specimens: normal; drill wander: normal in each axis, per hole;
//           bare against plated holes: a common shift, normal; finished sizes: uniform over their tolerance; a pin's
//           place in the part, where a limit is given: uniform in each axis
// Doubt     is not spread: what is not known of the kind is drawn once for a world, with its full covariance, and parts
//           are drawn within it. The share is that at the best estimate; the band is what 5 to 95 % of the worlds give.
//           A drawing's tolerance is spread and no doubt of the kind's middle.
// Costs     the share with one tolerance at nothing, from the same random numbers
// Random    counted, not streamed: each draw is a hash of seed, trial and what it is for, so that threads and left-out
//           tolerances change nothing else
// Source    docs/numbers.md, "Drop-in"; Wilson 1927 for the interval.

#include <cstdint>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "core/fit/drop_in_share.h"
#include "core/part/part.h"
#include "core/size/pads.h"

namespace punch {

class Adjustment;
struct Way;

struct DropInOptions {
    int trials = 100000;
    std::uint64_t seed = 1;
    int threads = 0;    ///< 0: as many as the machine has
    bool costs = true;  ///< what each tolerance costs
    bool band = true;   ///< over worlds
    bool holes = true;  ///< the least holes
    int worlds = 100;   ///< each with trials / worlds, at least 1000
};

inline constexpr int kCoarseTrials = 2000;  ///< of derive()

/// What one tolerance costs.
struct ToleranceCost {
    std::string name;  ///< "place of the holes"
    double share = 0;  ///< that drops in without it
    double cost = 0;   ///< share of the parts that it costs
};

/// The least size at which the wanted share drops in.
struct LeastHole {
    std::string about;  ///< formation or peg; empty: all plated holes by the same step
    Length now;
    Length least;  ///< 0: no size of the list is large enough
};

struct DropInReport {
    DropInShare share;
    std::uint64_t seed = 1;
    double bandLow = 0, bandHigh = 0;             ///< of 5 and 95 % of the worlds
    double least = 0, middle = 0, most = 0;       ///< spare room, mm
    std::vector<int> histogram;                   ///< trials in equal classes from histogramFrom
    double histogramFrom = 0, histogramStep = 0;  ///< mm
    std::vector<ToleranceCost> costs;             ///< the dearest first
    std::vector<LeastHole> holes;
    FeatureId tightest;  ///< binds most often where the part does not go in; may be empty
};

/// What the trials draw from.
class DropIn {
public:
    /// `way`: the parts are as this way to explain the readings says, the board is as its holes are drawn.
    DropIn(const Part& part, const Adjustment& adjustment, const Sized& sized, const Way* way = nullptr);
    ~DropIn();
    DropIn(DropIn&&) noexcept;
    DropIn& operator=(DropIn&&) noexcept;

    /// Empty, or why nothing can be said: "pin 3 is loose".
    const std::string& why() const;
    /// Only the share at the best estimate.
    DropInShare share(int trials, std::uint64_t seed, int threads = 1) const;
    /// The first kCoarseTrials of them, or as many as follow the hand where the seats are tight and the leads many.
    DropInShare coarse(std::uint64_t seed) const;
    DropInReport report(const DropInOptions& options) const;
    /// Spare room of one trial at the best estimate, mm.
    double spare(std::uint64_t seed, std::uint64_t trial) const;

private:
    void addBand(const DropInOptions& options, int trials, DropInReport& report) const;
    void addCosts(const DropInOptions& options, int trials, DropInReport& report) const;
    void addLeastHoles(const DropInOptions& options, int trials, DropInReport& report) const;
    struct Data;
    std::unique_ptr<Data> d_;
};

/// Of the ways to explain the readings the one with which the fewest go in; without ways that of the adjustment.
DropIn worstDropIn(const Part& part, const Adjustment& adjustment, const Sized& sized);

/// 95 % Wilson interval of a share.
std::pair<double, double> wilson(int in, int trials);

}  // namespace punch
