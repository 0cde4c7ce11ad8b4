#include "core/release/makes_json.h"

#include "core/part/names.h"

namespace punch {

using Json = nlohmann::ordered_json;

Json makesJson(const Part& part, const Footprint& f) {
    Json makes = Json::array(), holes = Json::array();
    makes.push_back({{"name", part.name}, {"dropIn", f.dropIn.known ? Json(f.dropIn.share) : Json()}});
    for (std::size_t k = 0; k < f.makeFits.size(); ++k) {
        const MakeFit& m = f.makeFits[k];
        Json j = {{"name", m.name}};
        if (m.why.empty())
            j["dropIn"] = m.dropIn.share;
        else
            j["why"] = m.why;
        j["apart"] = f.makes[k].apart.mm();
        makes.push_back(std::move(j));
    }
    for (const JoinedHole& h : f.joined)
        holes.push_back({{"hole", h.name}, {"kind", nameOf(h.kind)}, {"apart", h.apart.mm()}, {"size", h.size.mm()},
                         {"length", h.length.mm()}, {"over", h.over.mm()}, {"why", h.why}});
    return {{"each", makes}, {"holes", holes}};
}

}  // namespace punch
