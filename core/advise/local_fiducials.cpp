#include "core/advise/local_fiducials.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/dress/courtyard.h"
#include "core/part/edit.h"
#include "core/part/mark_kinds.h"

namespace punch {

std::optional<Length> pitchAskingForFiducials(const Part& part, const Footprint& f) {
    std::optional<Length> least;
    const auto offer = [&](Length pitch) {
        if (pitch > Length() && pitch <= finePitch() + Length::fromNm(1) && (!least || pitch < *least)) least = pitch;
    };
    for (std::size_t i = 0; i < f.laid.size(); ++i) {
        const Mark& mark = part.marks[i];
        if (mark.kind == MarkKind::Fiducial && valueOf(mark, "reach") == "this part") return {};
        if (mark.kind == MarkKind::SurfaceLands && f.laid[i].wrong.empty() && valueOf(mark, "package") != "chip")
            offer(f.laid[i].length("pitch"));
    }
    for (const ParameterValue& p : f.parameters)
        if (p.name == "pitch" || p.name.ends_with(".pitch"))
            if (p.doubt) offer(p.value);
    return least;
}

Part withLocalFiducials(Part part, const Footprint& f) {
    Mark mark = newMark(MarkKind::Fiducial);
    mark.set["reach"] = "this part";
    // Equal to those that are there.
    Length ring = Length::fromMm(3);
    for (std::size_t i = 0; i < f.laid.size(); ++i)
        if (part.marks[i].kind == MarkKind::Fiducial && f.laid[i].length("ring") > Length()) {
            mark.set = part.marks[i].set;
            ring = f.laid[i].length("ring");
        }
    mark.set["reach"] = "this part";
    // Around all that stands there; the ring touches the corner.
    const Rect box = courtyardContent(f.board(), f.body);
    const Length off = ring / 2 / std::numbers::sqrt2;
    FeatureId hold = kDatumFeature;
    Point base;
    for (std::size_t i = 0; i < f.laid.size(); ++i)
        if (f.laid[i].kind == MarkKind::SurfaceLands && !f.laid[i].points.empty()) {
            hold = f.laid[i].id + ".0";
            base = f.laid[i].points.front();
            mark.set["side"] = valueOf(part.marks[i], "side");
            break;
        }
    const auto typed = [](Length l) {
        // Outwards, to a hundredth.
        return fmt::format("{:.2f}", std::copysign(std::ceil(std::abs(l.mm()) * 100 - 1e-6) / 100, l.mm()));
    };
    const Point at[] = {{box.left - off, box.top + off}, {box.right + off, box.bottom - off}};
    for (int i = 0; i < 2; ++i) {
        Mark one = mark;
        one.name = i == 0 ? "local fiducial, rear left" : "local fiducial, front right";
        one.points = {
            {{hold, HoldAt::Middle, typed(at[i].x - base.x)}, {hold, HoldAt::Middle, typed(at[i].y - base.y)}}};
        part = withMark(std::move(part), std::move(one));
    }
    return part;
}

}  // namespace punch
