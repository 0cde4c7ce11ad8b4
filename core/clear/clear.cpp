#include "core/clear/clear.h"

#include "core/clear/room.h"
#include "core/clear/surroundings.h"
#include "core/clear/voltage_pairs.h"

namespace punch {

PUNCH_VALUE_IS_HERE(VoltagePair)
PUNCH_VALUE_IS_HERE(Room)
PUNCH_VALUE_IS_HERE(Cleared)

Cleared cleared(const Part& part, const Board& board) {
    Cleared out;
    out.voltages = voltagePairs(part, board);
    out.around = surroundings(part, board);
    out.halos = halos(part);
    out.rooms = rooms(part, board);
    return out;
}

}  // namespace punch
