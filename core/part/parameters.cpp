#include "core/part/parameters.h"

#include "core/part/slots.h"

namespace punch {

std::string parameterPrefix(const Part& part, const Formation& formation) {
    return part.formations.empty() || part.formations.front().id == formation.id ? "" : formation.id + ".";
}

std::string leadPrefix(const Part& part, const Formation& formation) {
    return parameterPrefix(part, shapeOf(part, formation));
}

}  // namespace punch
