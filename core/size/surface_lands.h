#pragma once
// Surface lands from package dimensions: the equations and tables of IPC-7351B, section 3.
//
// L is the size over the terminals, T the length of a terminal, W its width, each with limits. With C = max - min,
//   Smin = Lmin - 2 Tmax, Smax = Lmax - 2 Tmin, C_S = sqrt(C_L² + 2 C_T²), Smax' = Smax - ((Smax - Smin) - C_S) / 2
//   Z = Lmin + 2 J_T + sqrt(C_L² + F² + P²)    outside over both lands
//   G = Smax' - 2 J_H - sqrt(C_S² + F² + P²)   between them
//   X = Wmin + 2 J_S + sqrt(C_W² + F² + P²)    width of a land
// with toe J_T, heel J_H and side J_S by lead form and density, fabrication tolerance F, placement tolerance P.

#include <string>
#include <vector>

#include "core/base/chain.h"
#include "core/base/length.h"
#include "core/part/rules.h"

namespace punch {

enum class LeadForm {
    GullWing,      ///< pitch above 0.625
    FineGullWing,  ///< pitch to 0.625
    JLead,         ///< its toe points inward: Z takes the heel's goal, G the toe's
    Chip,          ///< 1.6 x 0.8 or larger
    SmallChip,
    FlatLead,
    NoLead,
    Castellated,  ///< half holes plated at a carrier's edge
};

/// Goals of one lead form, mm, at densities A (most), B (nominal), C (least material).
struct LandGoals {
    LeadForm form;
    const char* words;
    double toe[3], heel[3], side[3], courtyard[3];
};
const std::vector<LandGoals>& landGoals();
const LandGoals& goalsOf(LeadForm form);

struct Limits {
    Length least, most;
    Length spread() const { return most - least; }
};

struct PackageSize {
    Limits overall, terminal, width;
    LeadForm form = LeadForm::Chip;
    Density density = Density::B;  ///< a connector's is A
    Length fabrication = Length::fromMm(0.10), placement = Length::fromMm(0.10);
};

/// A pair of lands that face each other.
struct SurfaceLands {
    Length z, g, x;               ///< as the equations give them
    Length length, apart, width;  ///< of a land along the row's axis, between middles, across: rounded to 0.05
    std::string trimmed;          ///< why it is smaller than the goals ask; empty when it is not
    Chain chain;
};

/// `pitch`: of neighbours; 0 for none. `leastGap`: of copper. A land that would stand nearer to its neighbour, or to
/// the one that faces it, is trimmed.
SurfaceLands surfaceLands(const PackageSize& package, Length pitch, Length leastGap);

}  // namespace punch
