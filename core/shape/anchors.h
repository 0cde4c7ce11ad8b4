#pragma once
// Where anchored places stand, by the same model as the pads: so they follow every reading and have a doubt.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <optional>
#include <string>

#include "core/base/chain.h"
#include "core/base/result.h"
#include "core/model/expr.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;
class ChainReadings;

/// A length that follows from the part.
struct Held {
    Expr value;  ///< mm
    bool firm = true;
    Length doubt;  ///< 95 % half interval; 0 while it is loose
    Length length() const { return Length::fromMm(value.value()); }
};

struct HeldPlace {
    Point at;
    bool firm = true;
    Length doubt;  ///< the larger of both axes
    Expr x, y;     ///< mm
};

/// "datum", "pin 3", "rear face".
std::string holdWords(const Part& part, const FeatureId& of);

/// A place held on a body's nearest faces or its middle, with the lengths from there, to 0.01; none within `snap`.
Anchored heldOnBody(const Rect& body, Point at, Length snap);

class Anchors {
public:
    Anchors(const Part& part, const Adjustment& adjustment);
    const Part& part() const { return part_; }

    /// Errors: what is held on is gone, has no place along the axis, holds on itself; a length that cannot be read.
    Result<HeldPlace> place(const Anchored& anchored) const;
    /// A typed length, "0.3" or "pitch/2 + 1mm". Errors: it cannot be read, a name that the part does not have.
    Result<Held> length(const std::string& typed) const;
    /// A typed angle, degrees. Errors: the same.
    Result<double> angle(const std::string& typed) const;
    /// The middle of a feature. Errors: it is gone.
    Result<HeldPlace> middle(const FeatureId& feature) const;
    /// What a place along x (or y) is made of: the readings behind what it holds on, that, and how far it stands away.
    Chain chain(const Anchored& anchored, bool alongX, const ChainReadings& readings) const;

private:
    Result<Expr> coordinate(const Hold& hold, bool alongX, int depth) const;
    Result<Expr> typedExpr(const std::string& typed, bool angle) const;
    Held held(const Expr& e) const;

    const Part& part_;
    const Adjustment& adjustment_;
    Expr datumX_, datumY_;
};

}  // namespace punch
