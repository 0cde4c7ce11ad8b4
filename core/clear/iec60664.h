#pragma once
// IEC 60664-1:2007: clearance by impulse voltage (tables F.1, F.2, A.2) and creepage by r.m.s. volts (table F.4).
//
// Clearance   the rated impulse voltage follows from the voltage to neutral and the overvoltage category, next row up;
//             its clearance is that of an inhomogeneous field, next column up, never less than the peak voltage asks,
//             never less than the pollution degree allows, times the altitude's factor (linear between rows)
// Creepage    linear between the rows, of the material group, or of printed wiring; mains with its rationalised
//             voltage; never less than the clearance
// Reinforced  twice the creepage; the clearance of the next rated impulse voltage
// Beyond the tables (over 1000 V, over 10 000 m) nothing is extrapolated: it is an error.
// Degree 1 without the columns of printed wiring takes those of degree 2, which ask for more.

#include "core/base/length.h"
#include "core/base/result.h"
#include "core/base/voltage.h"
#include "core/part/rules.h"

namespace punch {

/// Rated impulse voltage. Errors: over 1000 V to neutral.
Result<Voltage> iecImpulse(OvervoltageCategory category, Voltage toNeutral);
/// The next one of the rated series. Errors: above 12 kV.
Result<Voltage> iecNextImpulse(Voltage impulse);
/// Of an impulse or a peak, at 2000 m. Errors: above 12 kV.
Result<Length> iecClearance(Voltage impulse, PollutionDegree pollution, bool printedWiring);
/// Factor on clearances; metres above the sea. Errors: above 10 000 m.
Result<double> iecAltitudeFactor(double metres);
/// Basic insulation. Errors: over 1000 V r.m.s.
Result<Length> iecCreepage(Voltage rms, PollutionDegree pollution, MaterialGroup group, bool printedWiring);
/// What mains counts as: 110 to 127 V as 125, 220 to 240 as 250, 380 to 415 between lines as 400.
Voltage iecRationalised(Voltage mains);
/// A slot narrower than this is crossed as if it were filled (X).
Length iecLeastSlot(PollutionDegree pollution);

/// What two potentials ask of each other.
struct IecAsk {
    Length clearance, creepage;
    Voltage impulse, rms;  ///< that they follow from
    Length needed() const { return clearance > creepage ? clearance : creepage; }
};

/// `rms` and `peak` between the two, `toNeutral` the larger of both against the reference. Errors: as above.
Result<IecAsk> iecAsk(const Insulating& rules, Voltage rms, Voltage peak, Voltage toNeutral, bool mains);

}  // namespace punch
