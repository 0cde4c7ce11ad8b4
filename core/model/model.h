#pragma once
// Model: the features of a part as expressions of its unknowns.
//
// This is where a formation's pattern becomes formulas. The frame: the first formation's first pin (leftmost) is the
// origin, its row runs along +x. The datum is applied later, by subtracting the expression of its place.
// Parameters are named for people and files: "pitch", "lead.width", "lead.thickness", "lead.length" (of the first
// formation; "f2.pitch" of another), "<peg id>.x", ".y", ".diameter", "body.left", ".right", ".front", ".rear",
// ".height".

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/model/expr.h"
#include "core/part/part.h"

namespace punch {

struct Parameter {
    std::string name;             ///< "pitch"
    std::string words;            ///< "pitch", "peg, across"
    double assumed = 0;           ///< mm; where it is drawn while nothing determines it
    std::optional<double> taken;  ///< mm; exact, binds the rest
    int unknown = -1;             ///< index among the unknowns; -1 when taken
};

enum class FeatureKind { Pin, Peg, Face, Body };

struct Feature {
    FeatureId id;
    FeatureKind kind = FeatureKind::Pin;
    Expr x, y;                   ///< centre; for a face the coordinate that it has, the other 0
    Expr halfX, halfY;           ///< half extents along x and y
    std::optional<Expr> height;  ///< lead length below the body, or body height
    bool round = false;
    int side = 0;                 ///< of a face: +1 when its outside is towards +x or +y, else -1
    Axis faceAxis = Axis::Along;  ///< the axis that a face stands across
};

/// Which parameters there are, and which of them are unknowns. Depends on the part's structure only.
class Parameters {
public:
    /// `free` names a parameter whose taken value is ignored, to ask what the readings alone say.
    explicit Parameters(const Part& part, const std::string& free = {});

    const std::vector<Parameter>& all() const { return all_; }
    const Parameter& byName(const std::string& name) const { return all_[index_.at(name)]; }
    bool has(const std::string& name) const { return index_.count(name) > 0; }
    int unknowns() const { return unknowns_; }
    /// The parameter behind an unknown.
    const Parameter& ofUnknown(int unknown) const;

    /// The value of a parameter as an expression, at `values` (by unknown, mm).
    Expr expr(const std::string& name, const std::vector<double>& values) const;
    /// Starting values: the assumed ones.
    std::vector<double> start() const;

private:
    void add(const Part& part, const std::string& free, std::string name, std::string words, double assumed);
    std::vector<Parameter> all_;
    std::map<std::string, std::size_t> index_;
    int unknowns_ = 0;
};

/// "" for the first formation, "f2." for another.
std::string parameterPrefix(const Part& part, const Formation& formation);

/// Every feature at the given values of the unknowns.
std::map<FeatureId, Feature> featuresAt(const Part& part, const Parameters& parameters,
                                        const std::vector<double>& values);

/// Across the lead's corners: its diameter, or the diagonal of a rectangular one.
Expr leadAcross(const Part& part, const Formation& formation, const Parameters& parameters,
                const std::vector<double>& values);

}  // namespace punch
