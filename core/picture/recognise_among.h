#pragma once
// Formations among places of which some belong to another one or to none: letters, moulding marks, a second part.
//
// Method   neighbours give directions and pitches, the commonest first; along each, runs of places at that pitch are
//          gathered, runs that lie beside each other are put together, and what the most places explain regularly wins
//          (picture/recognise judges each set). Circles through neighbours likewise. What is left is looked at again.
//          The work is bounded by the number of sets, not by time.

#include <vector>

#include "core/picture/recognise.h"

namespace punch {

struct FormationAmong {
    RecognisedFormation formation;
    std::vector<int> members;  ///< indices of the places given; formation.positions count in these
    double score = 0;          ///< members, less what is irregular in it
};

/// The one that explains most first; each of three places or more, unless there are no more than two places at all.
std::vector<FormationAmong> formationsAmong(const std::vector<FoundPlace>& places, std::size_t most = 6);

/// How regular a formation is: its members, less empty positions, rows that do not line up, single pins as rows.
double scoreOf(const RecognisedFormation& formation);

}  // namespace punch
