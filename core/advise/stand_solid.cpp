#include "core/advise/stand_solid.h"

#include "core/solid/found_solid.h"

namespace punch {

StoodSolid withSolid(const Part& part, const Footprint& footprint, const Solid& solid,
                     const std::vector<Standing>& standings, const std::string& name, const std::string& file,
                     const std::string& digest) {
    const auto sockets = socketsOf(footprint);
    const auto poses = fitPoses(standings, sockets);
    StoodSolid stood{part, {}, !poses.empty()};
    SolidFile s;
    if (stood.met)
        s = placedBy(foundIn(solid, poses.front().standing), poses.front(), sockets);
    else
        s = foundIn(solid, standings.empty() ? standing(solid, {0, 0, -1}) : standings.front());
    s.name = name;
    s.file = file;
    s.digest = digest;
    s.id = stood.id = "solid" + std::to_string(stood.part.nextId++);
    stood.part.solids.push_back(std::move(s));
    return stood;
}

}  // namespace punch
