#include "core/shape/shape.h"

#include "core/measure/adjust.h"
#include "core/part/ruled_marks.h"
#include "core/shape/laid_marks.h"
#include "core/shape/traced_outline.h"

namespace punch {

PUNCH_VALUE_IS_HERE(BodyBox)
PUNCH_VALUE_IS_HERE(LaidMark)
PUNCH_VALUE_IS_HERE(Shaped)

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
    box.shape = {Purpose::Body, {}, "body", RoundedPolygon::rectangle(box.rect), box.allFirm()};
    box.shape.places = {{{kLeftFace}, {kFrontFace}}, {{kRightFace}, {kRearFace}}};
    if (const auto traced = tracedOutline(part, adjustment, datum); !traced.empty()) box.shape.form = Polygons{traced};
    return box;
}

Shaped shaped(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Point datum) {
    Shaped s;
    s.body = bodyBox(part, adjustment, datum);
    const Anchors anchors(part, adjustment);
    s.ruled = ruledMarks(part);
    s.ruledLaid = laidMarks(s.ruled, anchors, s.body);
    if (part.marks.empty()) return s;
    s.laid = laidMarks(part.marks, anchors, s.body);
    s.keepouts = keepoutAreas(part, s.laid);
    s.cutOuts = cutAreas(part, s.laid);
    for (const Mark& m : part.marks)
        for (std::size_t i = 0; i < m.points.size(); ++i) {
            const std::string place = m.id + "." + std::to_string(i);
            s.markChains["x:" + place] = anchors.chain(m.points[i], true, chains);
            s.markChains["y:" + place] = anchors.chain(m.points[i], false, chains);
        }
    return s;
}

}  // namespace punch
