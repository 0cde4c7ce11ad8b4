#include "core/shape/shape.h"

#include "core/measure/adjust.h"
#include "core/shape/traced_outline.h"

namespace punch {

std::optional<BodyBox> bodyBox(const Part& part, const Adjustment& adjustment, Point datum) {
    if (!part.body.present) return {};
    const auto& features = adjustment.features();
    const auto x = [&](const char* id) { return Length::fromMm(features.at(id).x.value()) - datum.x; };
    const auto y = [&](const char* id) { return Length::fromMm(features.at(id).y.value()) - datum.y; };
    BodyBox box;
    box.rect = {x(kLeftFace), x(kRightFace), y(kFrontFace), y(kRearFace), false};
    box.firm[static_cast<int>(Side::Left)] = adjustment.firm(features.at(kLeftFace).x);
    box.firm[static_cast<int>(Side::Right)] = adjustment.firm(features.at(kRightFace).x);
    box.firm[static_cast<int>(Side::Front)] = adjustment.firm(features.at(kFrontFace).y);
    box.firm[static_cast<int>(Side::Rear)] = adjustment.firm(features.at(kRearFace).y);
    const Expr& height = *features.at(kBody).height;
    box.height = Length::fromMm(height.value());
    box.heightFirm = adjustment.firm(height);
    box.outline = tracedOutline(part, adjustment, datum);
    return box;
}

std::vector<KeepoutArea> keepoutAreas(const Part& part, const std::optional<BodyBox>& box) {
    std::vector<KeepoutArea> all;
    if (!box) return all;
    const Rect& body = box->rect;
    for (const Keepout& k : part.dress.keepouts) {
        KeepoutArea area{k.id, k.name, body, k.maxHeight, box->firm[static_cast<int>(k.side)]};
        switch (k.side) {
            case Side::Front:
                area.rect.top = body.bottom;
                area.rect.bottom = body.bottom - k.depth;
                break;
            case Side::Rear:
                area.rect.bottom = body.top;
                area.rect.top = body.top + k.depth;
                break;
            case Side::Left:
                area.rect.right = body.left;
                area.rect.left = body.left - k.depth;
                break;
            case Side::Right:
                area.rect.left = body.right;
                area.rect.right = body.right + k.depth;
                break;
        }
        all.push_back(area);
    }
    return all;
}

Shaped shaped(const Part& part, const Adjustment& adjustment, Point datum) {
    Shaped s;
    s.body = bodyBox(part, adjustment, datum);
    s.keepouts = keepoutAreas(part, s.body);
    s.cutOuts = cutShapes(part, datum);
    return s;
}

}  // namespace punch
