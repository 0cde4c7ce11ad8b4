#pragma once
// What the trials of drop-in draw from; used by drop_in and drop_in_trials alone.

#include <Eigen/Core>
#include <cstdint>
#include <string>
#include <vector>

#include "core/fit/best_seat.h"
#include "core/fit/drop_in.h"
#include "core/fit/random.h"

namespace punch {

// What each draw of a trial is for; far enough apart that no two meet.
inline constexpr std::uint64_t kWander = 1000, kSize = 100000, kPlace = 200000, kSpread = 300000, kPasses = 400000,
                               kWorld = 500000;

/// A place or a size of the part, and how doubt and spread move it.
struct Quantity {
    double value = 0;        ///< mm, at the best estimate
    Eigen::VectorXd world;   ///< change for each standard normal of the doubt
    Eigen::VectorXd spread;  ///< change for each standardised draw of the spread
};

/// A lead or peg, and its hole.
struct TrialLead {
    FeatureId id;
    std::size_t x = 0, y = 0, halfX = 0, halfY = 0;  ///< quantities
    std::size_t endX = 0, endY = 0;                  ///< of a formed end
    bool formed = false;
    enum class Section { Round, Oval, Corners } section = Section::Round;
    double c = 1, s = 0;  ///< cosine and sine of its turn
    bool pin = true;
    // Its hole.
    double hx = 0, hy = 0, sx = 0, sy = 0;
    double size = 0, tolerance = 0;  ///< finished diameter or width, least, and what it may be more
    bool plated = true;
    std::string group;  ///< formation or peg whose holes have one size
};

struct SpreadColumn {
    std::string name;
    bool uniform = false;
};

/// What is left out of the trials, and what is added to hole sizes.
struct TrialVariant {
    bool wander = true, plated = true, bare = true, passes = true, place = true;
    int spread = -1;                              ///< a column of the spread at nothing
    bool allPlated = false;                       ///< `more` goes to every plated hole
    std::string group;                            ///< or to this group's
    double more = 0;                              ///< mm of diameter
    const std::vector<double>* values = nullptr;  ///< quantities of a world instead of the best estimate
};

struct DropIn::Data {
    std::string why;
    std::vector<Quantity> quantities;
    std::vector<TrialLead> leads;
    std::vector<SpreadColumn> spreads;
    Eigen::Index worldSize = 0;
    double wander = 0, passes = 0, place = 0;
    bool bothPasses = false;
    bool holesElsewhere = false;  ///< some hole lies off its lead: several makes share it
    bool otherPart = false;       ///< the parts are not those that the board was made for
    double wanted = 0.999;
    std::vector<double> base;
    Rules rules;
    std::vector<std::pair<std::string, double>> groups;  ///< name and size now, formations first

    /// Does the trial go in with the part shifted by nothing but the mean of its places, wherever its holes wander to
    /// by their distance? True only where goesIn() of its seats is; much quicker, since few numbers are drawn.
    bool surelyIn(std::uint64_t seed, std::uint64_t trial, const TrialVariant& v) const;
    bool goesInto(std::uint64_t seed, std::uint64_t trial, const TrialVariant& v, std::vector<Seat>& seats) const {
        if (surelyIn(seed, trial, v)) return true;
        this->seats(seed, trial, v, seats);
        return goesIn(seats);
    }
    /// The part's places and sizes in a trial: the variant's, moved by the spread.
    void drawValues(const Draw& draw, const TrialVariant& v, std::vector<double>& values) const;

    void seats(std::uint64_t seed, std::uint64_t trial, const TrialVariant& v, std::vector<Seat>& out,
               std::vector<std::size_t>* owner = nullptr) const;
    int count(int trials, std::uint64_t seed, int threads, const TrialVariant& v) const;
    /// Does the wanted share go in?
    bool enoughGoIn(int trials, std::uint64_t seed, int threads, const TrialVariant& v) const;
    LeastHole leastHole(const std::string& group, double now, int trials, std::uint64_t seed, int threads) const;
};

}  // namespace punch
