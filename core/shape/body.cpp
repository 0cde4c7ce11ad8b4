#include "core/shape/body.h"

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

}  // namespace punch
