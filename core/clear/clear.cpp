#include "core/clear/clear.h"

#include "core/clear/room.h"
#include "core/clear/surroundings.h"
#include "core/clear/voltage_pairs.h"

namespace punch {

Cleared cleared(const Part& part, const Board& board) {
    return {voltagePairs(part, board), surroundings(part, board), halos(part), rooms(part, board)};
}

}  // namespace punch
