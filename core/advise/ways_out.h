#pragma once
// What mends a pair that stands too near for its voltage: a slot between, smaller or oval lands, coating, another fit.
//
// Each way is a changed part, and its effect is what derive() says about it: nothing is promised that is not computed.

#include <string>
#include <vector>

#include "core/advise/slot_for.h"
#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

struct WayOut {
    std::string words;                ///< "slot 1.6 wide, 17.7 long"
    Part part;                        ///< with it
    Length before, after;             ///< of the pair's tightest way
    Length needed;                    ///< what that way needs then
    bool mends = false;               ///< no pair of the part fails any more, nor any gauge that did not fail before
    std::string against;              ///< what speaks against it: a gauge that fails then
    std::optional<CutOut> slot = {};  ///< that it cuts
};

/// Every way that lengthens the distance or shortens what is asked, those that mend first.
std::vector<WayOut> waysOut(const Part& part, const Footprint& footprint, const FeatureId& a, const FeatureId& b);

/// What makes room for the lands of a formation that have none (core/clear/room): oval lands across the row, a turn of
/// them, a slot between, a tighter fit, holes from the mean lead, a coating; each with the land that it then allows.
struct RoomWay {
    std::string words;
    Part part;           ///< with it, and the best land where there is one
    Length least, most;  ///< of the room then
    Length best;         ///< 0: still none
    std::string mostBy;
    std::string against;  ///< a gauge that fails then and did not before
    bool mends() const { return best > Length() && against.empty(); }
};
std::vector<RoomWay> waysToRoom(const Part& part, const Footprint& footprint, const std::string& formation);

/// The best land for every formation, one after the other, so that none takes the room that another took before it.
/// Errors: a formation has no room, said with what binds.
Result<Part> withBestPads(Part part);
/// The same for these pins alone, one formation after another.
Result<Part> withBestPads(Part part, const std::vector<FeatureId>& pins);

}  // namespace punch
