// What PictureWork does with the numbers of a drawing, the places of readings, and the outline of the body.

#include <algorithm>
#include <cmath>

#include "app/pictures/picture_work.h"
#include "app/qt_text.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"

namespace punch {

namespace {}  // namespace

// ------------------------------------------------------------------ numbers of a drawing

int PictureWork::textAt(PixelPoint at) const {
    const Drawing* drawing = image() == nullptr ? nullptr : image()->drawing();
    if (drawing == nullptr) return -1;
    Drawing numbers;
    std::vector<int> index;
    for (std::size_t i = 0; i < drawing->texts.size(); ++i)
        if (!dimensionsIn(drawing->texts[i].text, view_.unit()).empty()) {
            numbers.texts.push_back(drawing->texts[i]);
            index.push_back(static_cast<int>(i));
        }
    const int hit = textNear(numbers, at, 2 * reach_);
    return hit < 0 ? -1 : index[static_cast<std::size_t>(hit)];
}

std::pair<FeatureId, FeatureId> PictureWork::offeredBetween() const {
    const Drawing* drawing = image() == nullptr ? nullptr : image()->drawing();
    if (drawing == nullptr || offeredText_ < 0) return {};
    const DrawnText& text = drawing->texts[static_cast<std::size_t>(offeredText_)];
    if (!text.spans) return {};
    const auto at = [&](PixelPoint p) {
        Rim rim;
        rim.centre = p;
        rim.width = rim.height = 1.0 / source()->nominalMmPerPixel();
        return featureReadAt(document_.part(), chosen_, rim);
    };
    return {at(text.spans->first), at(text.spans->second)};
}

Result<void> PictureWork::takeDimension(const QString& typed, Reading reading) {
    if (offeredText_ < 0) return problem("no number was chosen", "dimension", "Click one on the page");
    const OfferedDimension* offer = offered_.empty() ? nullptr : &offered_.front();
    if (offer != nullptr && !offer->letter.empty() && typed.trimmed() == toQt(offer->letter)) {
        reading.name = offer->letter;
    } else {
        const Unit unit = offer == nullptr ? view_.unit() : offer->unit;
        auto value = parseDrawingValue(typed.trimmed().toStdString(), unit);
        if (!value) return tl::make_unexpected(value.error());
        if (const auto plausible = plausibleSize(document_.part(), reading, value->nominal); !plausible)
            return tl::make_unexpected(plausible.error());
        reading.drawing = *value;
    }
    reading.source = chosen_;
    reading.place = offeredAt_;
    reading.fromBelow = source()->fromBelow();
    offered_.clear();
    offeredText_ = -1;
    document_.apply(tr("dimension of the drawing"), withReading(document_.part(), std::move(reading)));
    emit changed();
    return {};
}

int PictureWork::readingAt(PixelPoint at) const {
    const auto& readings = document_.part().readings;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (readings[i].place && readings[i].source == chosen_ && apart(*readings[i].place, at) < 2 * reach_)
            return static_cast<int>(i);
    return -1;
}

bool PictureWork::showPlace(std::size_t index) {
    const auto& readings = document_.part().readings;
    if (index >= readings.size()) return false;
    const Reading r = readings[index];
    if (!r.place && !r.pick) return false;
    choose(r.source);
    if (source() == nullptr || source()->width == 0) return false;
    view_.setStation(Station::Measure);
    view_.setSources(true);
    view_.light(r.id);
    emit placeShown(r.place ? *r.place : r.pick->a);
    return true;
}

// ------------------------------------------------------------------ the outline

void PictureWork::setHalf(bool on) {
    half_ = on;
    if (document_.part().body.trace && tool_ != Tool::Outline) {
        Part next = document_.part();
        next.body.trace->half = on;
        document_.apply(tr("half of the outline"), std::move(next));
    }
    emit changed();
}

void PictureWork::setLeaveOut(Length detail) {
    leaveOut_ = detail;
    if (!document_.part().body.trace) return;
    Part next = document_.part();
    next.body.trace->leaveOut = detail;
    document_.apply(tr("detail left out"), std::move(next));
}

void PictureWork::removeOutline() {
    Part next = document_.part();
    next.body.trace.reset();
    document_.apply(tr("outline taken out"), std::move(next));
}

void PictureWork::closeOutline() {
    const std::size_t least = half_ ? 2 : 3;
    if (places_.size() < least)
        return view_.say(half_ ? tr("Half an outline needs two places on the part's axis at least")
                               : tr("An outline needs three places at least"));
    std::vector<PixelPoint> points = places_;
    const std::size_t n = points.size();
    if (const Grey* grey = image()->grey()) {
        // Each side is laid on the edge that runs along it; corners are where sides meet.
        std::vector<std::optional<Edge>> sides(n);
        for (std::size_t i = 0; i + (half_ ? 1 : 0) < n; ++i)
            sides[i] = edgeNear(*grey, places_[i], places_[(i + 1) % n], edgeReach());
        for (std::size_t i = 0; i < n; ++i) {
            const auto& before = sides[(i + n - 1) % n];
            const auto& after = sides[i];
            if (before && after) {
                if (const auto c = corner(*before, *after); c && apart(*c, places_[i]) < 1.5 * edgeReach())
                    points[i] = *c;
            } else if (before && apart(before->b, places_[i]) < 1.5 * edgeReach()) {
                points[i] = before->b;
            } else if (after && apart(after->a, places_[i]) < 1.5 * edgeReach()) {
                points[i] = after->a;
            }
        }
    }
    Part next = document_.part();
    next.body.present = true;
    next.body.trace = Trace{chosen_, points, half_, leaveOut_, {}};
    setTool(Tool::None);
    if (!joined())
        view_.tell(tr("The outline is kept; it lies on the part once a pin or an edge is read in the picture"));
    document_.apply(tr("outline traced"), std::move(next));
}

}  // namespace punch
