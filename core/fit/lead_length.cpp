#include "core/fit/lead_length.h"

namespace punch {

PastBoard pastBoard(const Part& part, const LeadFit& lead) {
    const Length mean = lead.length - part.rules.boardThickness - part.body.standoff;
    return {mean - lead.lengthDoubt, mean, mean + lead.lengthDoubt, lead.lengthFirm};
}

}  // namespace punch
