#pragma once
// Random parts for scans: every kind of formation, pegs and lugs beside it, and how the scan went.

#include <random>

#include "core/part/formation.h"
#include "demo/maker/scan_maker.h"

namespace punch::test {

struct TrueScene {
    maker::Scene scene;
    FormationKind kind = FormationKind::Row;
    bool arc = false, middle = false;
    double pitch = 0;      ///< mm; 0 of a ring
    double circle = 0;     ///< mm, of a ring
    std::size_t pins = 0;  ///< the first things are the pins
    int leftOut = 0;
};

/// `number` steps through kinds, shapes, dust, gloss and contrast; the rest is drawn from it as a seed.
TrueScene randomScene(int number, double dpi);

/// The second generator: the same part in another look, drawn by other code (tests/support/other_scans.cpp).
maker::Scan otherScan(const TrueScene& scene);

}  // namespace punch::test
