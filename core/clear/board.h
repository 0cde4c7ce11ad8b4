#pragma once
// What of a board distances depend on, without a copy of it: pads, bare holes, cut-outs, faces, keepouts. A trial puts
// other cut-outs in place of those that are there.

#include <vector>

#include "core/base/find_in.h"
#include "core/place/placed.h"
#include "core/shape/shaped.h"
#include "core/size/pads.h"

namespace punch {

struct Board {
    const std::vector<Pad>& pads;
    const std::vector<BareHole>& bareHoles;
    const std::vector<FaceLine>& faces;
    const std::vector<Shape>& keepouts;
    const std::vector<Shape>& cutOuts;
    const AttachedCopper& attached;

    /// The same with these cut-outs, which have to outlive it.
    Board with(const std::vector<Shape>& cuts) const { return {pads, bareHoles, faces, keepouts, cuts, attached}; }
    std::vector<Conductor> copper() const { return copperOf(pads, bareHoles, attached); }
    const Pad* pad(const FeatureId& id) const {
        return findIn(pads, [&](const Pad& p) { return p.id == id; });
    }
    const BareHole* bareHole(const FeatureId& id) const {
        return findIn(bareHoles, [&](const BareHole& h) { return h.id == id; });
    }
};

}  // namespace punch
