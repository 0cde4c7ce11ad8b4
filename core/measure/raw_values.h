#pragma once
// From raw values, or a drawing's value, to a mean and its standard uncertainty.
//
//   u² = limit²/3 + s²/n + step²/12                      (rectangular limit, handling s, rectangular step)
//   s² = (8 s0² + sum (n_j - 1) s_j²) / (8 + sum (n_j - 1))   pooled over the readings of one instrument and contact
//   drawing: (high - low)²/12, rectangular over its limits; of exact values 10 nm, so that they keep a weight
//   rim: the chords' u through D = abc / (2 area), on one limit and step
//
// A raw value further than 6 s0, and at least 4 steps, from the median of its reading is asked about: it stays out
// of mean and pooling until the user says that it is meant.
//
// Doubt and spread are two things. Readings of one contact on several specimens differ by handling and by what the
// parts differ; the second part is their spread. A reading of one specimen speaks for the kind with both.

#include <optional>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

struct ReadingStats {
    bool usable = false;      ///< at least one value counts
    double mean = 0;          ///< mm or degrees, of the values that count
    double u = 0;             ///< standard uncertainty, mm or degrees
    double shared = 0;        ///< of u: what every reading of this contact with this instrument is off by alike
    std::vector<bool> asked;  ///< per raw value: asked about, does not count
    std::string question;     ///< "16.93 lies 0.70 from its fellows: meant?" or why it is not usable
    double spread = 0;        ///< how parts of the kind differ in this, as a standard deviation: specimens or drawing
    int specimens = 0;        ///< how many specimens stand behind `spread`; 0 for a drawing's tolerance
};

/// One for each reading of the part, in its order. A reading "same as" another has mean 0, of the difference.
std::vector<ReadingStats> readingStats(const Part& part);

/// Are they one contact on the same features of one specimen, so that the instrument errs alike?
bool saidTwice(const Reading& a, const Reading& b);

/// Least standard uncertainty, mm: below it the arithmetic would rule.
inline constexpr double kLeastU = 1e-5;

/// The diameter of the circle through three points, from the chords between them. None when they form no triangle.
std::optional<double> rimDiameter(double a, double b, double c);

}  // namespace punch
