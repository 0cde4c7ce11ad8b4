#pragma once
// The geometry of a contact: what a reading says about the features it touches, as an expression of the unknowns.
//
// For features A and B with centres c, half extents h along the unit direction d, which points from A to B as drawn:
//   outside (c_B - c_A).d + h_A + h_B;  inside the same with minus;  centres (c_B - c_A).d;  size 2 h;
//   from a face: distance from the face to the near edge, the far edge or the centre;
//   direct: the Euclidean distance, with the half extents along the joining line (half of what flat jaws span over a
//   rectangle or an oval in that direction);
//   height: the difference of levels;  angle: of the line A to B against +x, or A-B-C at B, in degrees;
//   rim: the diameter;  signed: (c_B - c_A) along +x or +y, whatever is drawn.
// "As drawn" means as the assumed values draw it, so that the sign does not depend on the order of the readings.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/model/model.h"

namespace punch {

/// `b` and `c` are null for features that the reading does not have. `sign`: drawnSign() of the features as drawn.
/// Errors: a contact that these features do not have. Contact::Quantity is no contact.
Result<Expr> contactExpr(const Reading& reading, const Feature* a, const Feature* b, const Feature* c, double sign);

/// -1 when B is drawn to the left of, in front of or below A along the reading's axis, else +1.
double drawnSign(const Reading& reading, const Feature* a, const Feature* b);

/// A feature's identifier as the reading means it: on a drawing from below, left and right faces are exchanged.
FeatureId asMeant(const Reading& reading, const FeatureId& id);

/// The same contact on the same features, whichever of two was named first.
bool sameContact(const Reading& a, const Reading& b);

/// "pins 1 and 4, outside", "pin 1, width", "body, along the row", "left face to pin 1, near edge".
std::string readingWords(const Part& part, const Reading& reading);

/// The same for a narrow column: "1 ↔ 4, outside", "left face → 1, near edge".
std::string readingShortWords(const Part& part, const Reading& reading);

/// The contacts that make sense for the chosen features, the usual one first. `b` may be empty.
struct ContactChoice {
    Contact contact;
    Axis axis;
    bool atEnd = false;  ///< across a lead's formed end
};
std::vector<ContactChoice> contactChoices(const Part& part, const FeatureId& a, const FeatureId& b);

/// Words and numbers of features looked up once, for many readings.
class FeatureNames {
public:
    explicit FeatureNames(const Part& part);
    std::string words(const FeatureId& id) const;
    const std::string* pin(const FeatureId& id) const;

private:
    const Part& part_;
    std::map<FeatureId, std::string> numbers_;
};
std::string readingWords(const Part& part, const Reading& reading, const FeatureNames& names);

}  // namespace punch
