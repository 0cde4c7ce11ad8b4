#pragma once
// Edits of a Part that more than one caller needs: each takes a Part and gives the changed one, or a Problem.

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

inline constexpr int kMostPins = 2000;

/// A loose row of `pins` pins with a body of plausible size around it. Errors: fewer than 1 or more than kMostPins.
Result<Part> newRow(int pins);

/// What a formation is to look like.
struct FormationPlan {
    FormationKind kind = FormationKind::Row;
    std::vector<int> rows = {4};  ///< pins in each row; of a row, ring or single one number; of a grid equal ones
    std::vector<int> leftOut;     ///< of a grid
    bool middle = false;          ///< of a ring: one more pin, in the middle
    bool arc = false;
    std::string twinOf;
    Axis mirror = Axis::Along;
};

/// The rows that a typed count names: "4"; "8 3" (two numbers for two rows, one counts for both); of a grid "4 x 3",
/// columns x rows. Errors: no whole numbers, none at all.
Result<std::vector<int>> rowsFromText(FormationKind kind, const std::string& typed);

/// A part with one loose formation and a body of plausible size. Errors: as withFormation.
Result<Part> newPart(const FormationPlan& plan);

/// A part without pins or a body: a fiducial, a logo, a screw's hole.
Part newPartWithoutPins();

/// Adds a formation, loose. Two rows start aligned, a further formation starts parallel to the first, a twin mirrors
/// about the middle of the body: as given values that can be freed. Errors: no pins, more than kMostPins, unequal
/// columns of a grid, a left-out position outside it, a twin of nothing.
Result<Part> withFormation(Part part, const FormationPlan& plan);

/// Gives a formation another shape. Pins keep their identifiers in geometric order; readings on removed pins stay, as
/// orphans. Errors: as withFormation.
Result<Part> withShape(Part part, const std::string& formation, const FormationPlan& plan);
FormationPlan planOf(const Part& part, const Formation& formation);

/// Removes a formation; its parameters go with it. A part may be left without any: a fiducial, a logo, a screw.
Result<Part> withoutFormation(Part part, const std::string& formation);

/// Changes the number of pins of a row or ring, at its end; readings on removed pins stay, as orphans.
Result<Part> withPinCount(Part part, std::size_t formation, int pins);

/// Draws a formation's origin at a place while nothing determines it. Frame: the origin of the first formation.
Part withFormationDrawnAt(Part part, const std::string& formation, Point origin);

/// Lets a pin stand off its formation's pattern, by parameters of its own, or takes it back.
Part withMovedPin(Part part, const FeatureId& pin, bool moved);

/// Adds a single feature, drawn in front of the row's middle until it is measured. Names are unique.
Part withSpot(Part part, SpotKind kind = SpotKind::Peg);
/// Adds the mirror image of a single feature about the middle of the body (as a given value that can be freed).
Part withSpotTwin(Part part, const FeatureId& of);
Part withFace(Part part, FaceKind kind, Axis axis, bool positive);

/// Joins every reading on feature `from` to feature `to` instead.
Part withRejoined(Part part, const FeatureId& from, const FeatureId& to);

/// Gives a parameter a typed value or formula; an empty text frees it. A taken value goes with it.
Part withGiven(Part part, const std::string& parameter, const std::string& typed, Unit unit);

/// Draws a peg at a place while nothing determines it. The place also says on which side of a pin its readings go.
/// Frame: the leftmost pin of the first formation.
Part withSpotDrawnAt(Part part, const FeatureId& peg, Point place);

/// Removes a single feature or a face; its readings stay, as orphans.
Part withoutFeature(Part part, const FeatureId& id);

/// Adds a reading at the end, or before position `at`, and gives it its identifier.
Part withReading(Part part, Reading reading, std::optional<std::size_t> at = {});

/// Takes or releases a standard value for a parameter ("pitch").
Part withTaken(Part part, const std::string& parameter, std::optional<Length> value);

/// Adds a mark, with an identifier of its own.
Part withMark(Part part, Mark mark);
/// Without it, and without the potential that it may carry.
Part withoutMark(Part part, const std::string& id);
/// Sets one of its fields as typed; empty: as usual. Errors: what checkedMarkValue refuses.
Result<Part> withMarkValue(Part part, const std::string& id, const std::string& key, const std::string& typed);
/// A mark of the kind as it is offered: attached to the body, at plausible sizes.
Mark newMark(MarkKind kind);
/// The same on a part that may have no body: then its places hold on the datum.
Mark newMark(MarkKind kind, const Part& part);
/// Two corners of a rectangle beyond a face of the body, over its whole width; `depth` as typed.
std::vector<Anchored> pointsBeyond(Side side, const std::string& depth);

/// Gives `pins` a potential of this name; an existing one of that name is replaced. A pin has one potential.
/// Errors: no pins, no name, more than 100 kV.
Result<Part> withPotential(Part part, Potential potential);

/// Refuses what no jaws can show: zero or negative (unless it is a coordinate), over 1 m. What is only unlikely is
/// asked about later (measure/slips.h).
Result<Length> plausibleSize(const Part& part, const Reading& reading, Length value);

}  // namespace punch
