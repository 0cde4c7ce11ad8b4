#pragma once
// The geometry of a contact: what a reading says about the features it touches, as an expression of the unknowns.
//
// For features A and B with centres c, half extents h along the unit direction d, which points from A to B as drawn:
//   outside (c_B - c_A).d + h_A + h_B;  inside the same with minus;  centres (c_B - c_A).d;  size 2 h;
//   from a face: distance from the face to the near edge, the far edge or the centre;
//   direct: the Euclidean distance, with the half extents along the joining line.
// "As drawn" means as the assumed values draw it, so that the sign does not depend on the order of the readings.

#include <map>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/model/model.h"

namespace punch {

/// Errors: a removed feature ("orphan"), a contact that these features do not have.
Result<Expr> contactExpr(const Part& part, const Reading& reading, const std::map<FeatureId, Feature>& features,
                         const std::map<FeatureId, Feature>& drawn);

/// "pins 1 and 4, outside", "pin 1, width", "body, along the row", "left face to pin 1, near edge".
std::string readingWords(const Part& part, const Reading& reading);

/// The same for a narrow column: "1 ↔ 4, outside", "left face → 1, near edge".
std::string readingShortWords(const Part& part, const Reading& reading);

/// The contacts that make sense for the chosen features, the usual one first. `b` may be empty.
struct ContactChoice {
    Contact contact;
    Axis axis;
};
std::vector<ContactChoice> contactChoices(const Part& part, const FeatureId& a, const FeatureId& b);

}  // namespace punch
