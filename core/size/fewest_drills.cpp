#include "core/size/fewest_drills.h"

#include <algorithm>

namespace punch {

void shareDrills(const Rules& rules, std::vector<LeadFit>& leads) {
    // Each lead is an interval of sizes, from its own hole to the largest that its limits allow. The fewest sizes that
    // hit all intervals: again and again the smallest upper end, together with all intervals that reach down to it.
    struct Reach {
        LeadFit* lead;
        Length least, most;
    };
    std::vector<Reach> open;
    for (LeadFit& lead : leads) {
        if (lead.slotLength > Length() || lead.beyondList) continue;
        const Length most = lead.largestAllowed - rules.platedTolerance;
        open.push_back({&lead, lead.hole, max(lead.hole, most)});
    }
    std::sort(open.begin(), open.end(), [](const Reach& a, const Reach& b) { return a.most < b.most; });
    while (!open.empty()) {
        const Length end = open.front().most;
        // No larger than the largest hole that anyone of them needs, which is a size of the list.
        Length size;
        for (const Reach& r : open)
            if (r.least <= end) size = max(size, r.least);
        std::vector<Reach> rest;
        for (const Reach& r : open) {
            if (r.least > end) {
                rest.push_back(r);
                continue;
            }
            const Length by = size - r.lead->hole;
            if (by > Length()) {
                r.lead->holeChain.push_back(
                    {"drill shared with other pins", "+ {}", {by}, size, ChainStep::Link::Rule, "fewestDrills", 0});
                r.lead->landChain.push_back({"drill shared with other pins",
                                             "+ {}",
                                             {by},
                                             r.lead->land + by,
                                             ChainStep::Link::Rule,
                                             "fewestDrills",
                                             0});
            }
            r.lead->hole += by;
            r.lead->holeLargest += by;
            r.lead->land += by;
            r.lead->bit += by;
        }
        open = std::move(rest);
    }
}

}  // namespace punch
