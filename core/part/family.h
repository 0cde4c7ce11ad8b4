#pragma once
// Families: one set of readings and drawings for parts that differ in how many ways they have, or by the column of a
// letter table. Which member a part is follows from core/family; here stands what the user said.

#include <map>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/formation.h"

namespace punch {

/// Which way a feature goes when ways are added in the middle of the pattern.
enum class FamilyFollow {
    ByPlace,  ///< with the end that it stands nearer to; what stands in the middle stays there
    Left,     ///< stays with the left end
    Middle,   ///< half way
    Right,    ///< goes with the right end
};

struct Family {
    PUNCH_VALUE(Family)
    std::string names;               ///< "QB-TB{ways}", "PW-VS {column}"; empty: there is no family
    bool columns = false;            ///< a member for each column of the letter table
    int from = 2, to = 12, step = 1; ///< ways, where it is not by columns
    std::map<std::string, int> ways; ///< by column, where its name does not say them
    std::string formation;           ///< whose ways vary; empty: the first
    std::map<FeatureId, FamilyFollow> follows;
    UnknownFields unknown;
    friend bool operator==(const Family&, const Family&);
};

/// What the readings of a member were taken on, where that had another number of ways.
struct Sample {
    PUNCH_VALUE(Sample)
    std::vector<Formation> formations;  ///< those of the part with other ways, as they are on the sample
    /// By feature (of a formation or of what mirrors: by its identifier): how many pitches of the first of
    /// `formations` it stands further to the right on the member than on the sample.
    std::map<FeatureId, double> grown;
    bool drawingsAreOwn = false;  ///< drawings and their letters show the member; else what was measured
    UnknownFields unknown;
    friend bool operator==(const Sample&, const Sample&);
};

}  // namespace punch
