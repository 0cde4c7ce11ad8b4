#pragma once
// From raw values to a mean and its standard uncertainty.
//
//   u² = limit²/3 + s²/n + step²/12                      (rectangular limit, handling s, rectangular step)
//   s² = (8 s0² + sum (n_j - 1) s_j²) / (8 + sum (n_j - 1))   pooled over the readings of one instrument and contact
//
// A raw value further than 6 s0, and at least 4 steps, from the median of its reading is asked about: it stays out
// of mean and pooling until the user says that it is meant.

#include <optional>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

struct ReadingStats {
    bool usable = false;      ///< at least one raw value counts
    double mean = 0;          ///< mm, of the raw values that count
    double u = 0;             ///< standard uncertainty, mm
    std::vector<bool> asked;  ///< per raw value: asked about, does not count
    std::string question;     ///< "16.93 lies 0.70 from its fellows: meant?" or why it is not usable
};

/// One for each reading of the part, in its order.
std::vector<ReadingStats> readingStats(const Part& part);

}  // namespace punch
