// What clicks on the picture mean, by the tool in hand.

#include <QRegularExpression>
#include <QTemporaryDir>
#include <algorithm>
#include <cmath>

#include "app/pictures/picture_work.h"
#include "app/qt_text.h"
#include "core/drawing/find_in_drawing.h"
#include "core/measure/entry.h"
#include "core/measure/reading_result.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/part/names.h"
#include "core/picture/rectify.h"

namespace punch {

namespace {

/// "new peg" as a target: the feature is made when it is read.
constexpr const char* kNew = "new ";

}  // namespace

void PictureWork::setTool(Tool tool) {
    tool_ = tool;
    places_.clear();
    offered_.clear();
    offeredText_ = -1;
    view_.say({});
    emit changed();
}

int PictureWork::placesWanted() const {
    switch (tool_) {
        case Tool::KnownLength:
        case Tool::Level:
        case Tool::Region: return 2;
        case Tool::Square: return 4;
        case Tool::Read: return how_ == How::Edge ? 2 : how_ == How::Corner ? 4 : how_ == How::RimPlaces ? 0 : 1;
        case Tool::None:
        case Tool::Dimension: return 1;
        case Tool::Outline: break;
    }
    return 0;
}

void PictureWork::setHow(How how) {
    how_ = how;
    places_.clear();
    emit changed();
}

void PictureWork::setTarget(const FeatureId& id) {
    target_ = id;
    places_.clear();
    emit changed();
}

int PictureWork::foundAt(PixelPoint at) const {
    if (!found_) return -1;
    for (std::size_t i = 0; i < found_->features.size(); ++i) {
        const Rim& r = found_->features[i].seen.rim;
        if (apart(at, r.centre) < std::max(r.width / 2 + 3, 8.0)) return static_cast<int>(i);
    }
    return -1;
}

bool PictureWork::clickAt(PixelPoint at, bool shift) {
    if (image() == nullptr) return false;
    const Drawing* drawing = image()->kind() == EvidenceKind::Dxf ? image()->drawing() : nullptr;
    // What is drawn exactly is met exactly.
    const auto exact = [&](PixelPoint p) {
        const auto there = drawing == nullptr ? std::nullopt : placeNear(*drawing, p, reach_);
        if (const auto onPage = there ? std::nullopt : snapped(p, reach_)) return onPage->at;
        return there ? there->at : p;
    };
    switch (tool_) {
        case Tool::None: break;
        case Tool::Read:
            if (placesWanted() == 1) {
                readHere(at);
            } else {
                places_.push_back(exact(at));
                if (static_cast<int>(places_.size()) == placesWanted()) readBetween();
                emit changed();
            }
            return true;
        case Tool::Dimension: {
            offeredText_ = textAt(at);
            offered_.clear();
            if (offeredText_ < 0) {
                view_.say(tr("No number stands here. In a scanned page type it into the notebook, with its source"));
            } else {
                const DrawnText& text = image()->drawing()->texts[static_cast<std::size_t>(offeredText_)];
                offered_ = dimensionsIn(text.text, view_.unit());
                offeredAt_ = text.middle;
                view_.say({});
                if (offered_.front().angle) {
                    // Taken as a length it would be wrong.
                    offered_.clear();
                    offeredText_ = -1;
                    view_.say(tr("This is an angle: type it into the notebook, as in “1 2 angle 30”"));
                } else {
                    emit dimensionWanted();
                }
            }
            emit changed();
            return true;
        }
        case Tool::Outline:
            if (places_.size() > 2 && apart(at, places_.front()) < reach_) {
                closeOutline();
                return true;
            }
            places_.push_back(exact(at));
            emit changed();
            return true;
        default:
            if (static_cast<int>(places_.size()) >= placesWanted()) places_.clear();
            places_.push_back(tool_ == Tool::Region ? at : exact(at));
            if (static_cast<int>(places_.size()) == placesWanted()) {
                if (tool_ == Tool::KnownLength) emit lengthWanted();
                if (tool_ == Tool::Square) emit squareWanted();
                if (tool_ == Tool::Level) giveLevel();
                if (tool_ == Tool::Region) {
                    const PixelPoint a = places_[0], b = places_[1];
                    region_ = PixelRegion{static_cast<int>(std::min(a.x, b.x)), static_cast<int>(std::min(a.y, b.y)),
                                          static_cast<int>(std::abs(b.x - a.x)) + 1,
                                          static_cast<int>(std::abs(b.y - a.y)) + 1};
                    setTool(Tool::None);
                }
            }
            emit changed();
            return true;
    }
    if (const int reading = readingAt(at); reading >= 0) {
        emit readingPointed(reading);
        return true;
    }
    if (const int hit = foundAt(at); hit >= 0) {
        shift ? setPinOne(static_cast<std::size_t>(hit)) : drop(static_cast<std::size_t>(hit));
        return true;
    }
    for (std::size_t i = 0; found_ && i < found_->leftOut.size(); ++i) {
        const Rim& r = found_->leftOut[i].seen.rim;
        if (apart(at, r.centre) < std::max(r.width / 2 + 3, 8.0)) {
            takeBackLeftOut(i);
            return true;
        }
    }
    for (std::size_t i = 0; i < dropped_.size(); ++i) {
        const Rim& r = dropped_[i].seen.rim;
        if (apart(at, r.centre) < std::max(r.width / 2 + 3, 8.0)) {
            bringBack(i);
            return true;
        }
    }
    return false;
}

std::optional<SnappedPlace> PictureWork::snapped(PixelPoint at, double reach) const {
    if (image() == nullptr || image()->kind() != EvidenceKind::Pdf || image()->grey() == nullptr) return {};
    return snapOnPage(*image()->grey(), at, std::min(reach, 40.0));
}

// ------------------------------------------------------------------ reading by hand

void PictureWork::pick(const FeatureId& wanted, PixelPoint at, double u, std::optional<double> size, double uSize,
                       const QString& words, double rimOffset) {
    Part next = document_.part();
    FeatureId feature = wanted;
    if (feature.starts_with(kNew)) {
        const std::string kind = feature.substr(4);
        if (kind == "pin") {
            FormationPlan plan;
            plan.kind = FormationKind::Single;
            plan.rows = {1};
            auto with = withFormation(next, plan);
            if (!with) return view_.say(toQt(with.error().text()));
            next = std::move(*with);
            next.formations.back().lead = LeadShape::Round;
            feature = next.formations.back().pins.front();
        } else {
            for (const auto& [k, word] : Names<SpotKind>::table)
                if (word == kind) next = withSpot(std::move(next), k);
            feature = next.spots.back().id;
        }
    }
    next = withPick(std::move(next), chosen_, feature, at, u, size, uSize, rimOffset);
    lastRead_ = feature;
    view_.tell(tr("%1: %2").arg(toQt(featureWords(next, feature)), words));
    document_.apply(tr("read in the picture"), std::move(next));
}

void PictureWork::readHere(PixelPoint at) {
    const FeatureId feature = target_.empty() ? view_.first() : target_;
    if (feature.empty() || feature == kBody)
        return view_.say(tr("Choose first what to read: a pin, a peg, a face or something new"));
    if (isFace(document_.part(), feature))
        return view_.say(tr("A face is read by an edge: choose “edge”, then click two places along it"));
    const bool place = how_ == How::Place;
    if (image()->kind() == EvidenceKind::Dxf) {
        const auto there = placeNear(*image()->drawing(), at, reach_);
        if (!there || (there->kind != DrawnPlace::Kind::Centre && !place))
            return view_.say(tr("No circle is drawn here: click inside one, or choose “place” for an end or a corner"));
        return pick(feature, there->at, kLeastPickU,
                    there->kind == DrawnPlace::Kind::Centre ? std::optional(there->diameter) : std::nullopt,
                    kLeastPickU, tr("taken as it is drawn"));
    }
    const double reach = 3.5 / source()->nominalMmPerPixel();
    auto rim = place ? std::nullopt : rimAround(*image()->grey(), at, std::clamp(reach, 12.0, 600.0));
    // On a page the rim is the inner edge of a line, whose middle is meant.
    if (rim && image()->kind() == EvidenceKind::Pdf) rim->width += lineWidthAround(*image()->grey(), *rim);
    if (!rim)
        return pick(feature, at, kClickU, {}, 0,
                    place ? tr("the place itself, ± 1 pixel. Arrow keys move it by a tenth")
                          : tr("no rim here: the place itself was taken, ± 1 pixel. Arrow keys move it by a tenth"));
    pick(feature, rim->centre, rim->u, rim->shape == RimShape::Round ? std::optional(rim->width) : std::nullopt,
         rim->uSize,
         tr("rim found, %1 ± %2 pixels across").arg(rim->width, 0, 'f', 2).arg(kNinetyFive * rim->u, 0, 'f', 2),
         rim->contrast > 0 ? rim->offset : -rim->offset);
}

void PictureWork::readBetween() {
    const std::vector<PixelPoint> places = std::move(places_);
    places_.clear();
    const FeatureId feature = target_.empty() ? view_.first() : target_;
    if (feature.empty() || feature == kBody)
        return view_.say(tr("Choose first what to read: a pin, a peg, a face or something new"));
    const Grey* grey = image()->grey();
    const bool face = !feature.starts_with(kNew) && isFace(document_.part(), feature);
    const auto edge = [&](PixelPoint a, PixelPoint b) -> Edge {
        if (const auto drawn = drawnAlong(a, b)) return {drawn->first, drawn->second, kLeastPickU, 1};
        if (grey != nullptr)
            if (const auto found = edgeNear(*grey, a, b, edgeReach())) return *found;
        return {a, b, grey == nullptr ? kLeastPickU : kClickU, 0};
    };
    if (how_ == How::RimPlaces) {
        auto circle = circleThrough(places);
        if (!circle) return view_.say(tr("These places lie on a line: choose three or more around the rim"));
        if (face) return view_.say(tr("A face has no rim: choose a pin, a peg or something new"));
        double u = circle->uCentre * std::max(kClickU, circle->scatter);
        double uSize = 2 * circle->uRadius * std::max(kClickU, circle->scatter);
        bool helped = false;
        // The places say where the rim is; the picture says it more exactly, when it shows it.
        for (const bool bright : {true, false}) {
            if (grey == nullptr || helped) break;
            const auto rim = fitRound(*grey, {circle->centre, 2 * circle->radius, 2 * circle->radius, 0, bright});
            if (!rim || apart(rim->centre, circle->centre) > 0.2 * circle->radius ||
                std::abs(rim->width / 2 - circle->radius) > 0.15 * circle->radius)
                continue;
            circle->centre = rim->centre;
            circle->radius = rim->width / 2;
            u = rim->u;
            uSize = rim->uSize;
            helped = true;
        }
        return pick(feature, circle->centre, u, 2 * circle->radius, uSize,
                    tr("%1 through %2 places, ± %3 pixels")
                        .arg(helped ? tr("the rim") : tr("a circle"))
                        .arg(places.size())
                        .arg(kNinetyFive * u, 0, 'f', 2));
    }
    if (how_ == How::Edge) {
        if (!face) return view_.say(tr("An edge belongs to a face: choose the left, right, front or rear one"));
        if (faceAxis(document_.part(), feature) == Axis::Height)
            return view_.say(tr("This face lies level: a picture from above does not show it"));
        const Edge e = edge(places[0], places[1]);
        return pick(feature, {(e.a.x + e.b.x) / 2, (e.a.y + e.b.y) / 2}, e.u, {}, 0,
                    e.found > 0 ? tr("edge found, ± %1 pixels").arg(kNinetyFive * e.u, 0, 'f', 2)
                                : tr("no edge here: the line itself was taken, ± 1 pixel"));
    }
    if (face) return view_.say(tr("A corner belongs to no face: read each face by its edge"));
    const Edge one = edge(places[0], places[1]), other = edge(places[2], places[3]);
    const auto at = corner(one, other);
    if (!at) return view_.say(tr("These edges do not meet: choose two places on each of two edges"));
    const double u = std::hypot(one.u, other.u);
    pick(feature, *at, u, {}, 0, tr("corner of two edges, ± %1 pixels").arg(kNinetyFive * u, 0, 'f', 2));
}

std::optional<std::pair<PixelPoint, PixelPoint>> PictureWork::drawnAlong(PixelPoint a, PixelPoint b) const {
    if (image()->kind() != EvidenceKind::Dxf) return {};
    const auto one = pieceNear(*image()->drawing(), a, reach_);
    const auto other = pieceNear(*image()->drawing(), b, reach_);
    return one && other && *one == *other ? one : std::nullopt;
}

void PictureWork::giveLevel() {
    PixelPoint a = places_[0], b = places_[1];
    double u = kClickU;
    if (const auto drawn = drawnAlong(a, b)) {
        a = drawn->first;
        b = drawn->second;
        u = kLeastPickU;
    } else if (const Grey* grey = image()->grey()) {
        if (const auto edge = edgeNear(*grey, a, b, edgeReach())) {
            a = edge->a;
            b = edge->b;
            u = edge->u;
        }
    } else {
        u = kLeastPickU;
    }
    auto next = withLevel(document_.part(), chosen_, a, b, u);
    if (!next) {
        places_.clear();
        return view_.say(toQt(next.error().text()));
    }
    view_.tell(u < kClickU ? tr("An edge runs along here: it is level") : tr("The two places are level"));
    setTool(Tool::None);
    document_.apply(tr("level in the picture"), std::move(*next));
}

void PictureWork::nudge(double dx, double dy) {
    if (!places_.empty()) {
        places_.back() = {places_.back().x + dx, places_.back().y + dy};
        emit changed();
        return;
    }
    Part next = document_.part();
    for (Reading& r : next.readings)
        if (r.pick && r.source == chosen_ && r.a == lastRead_ && !r.a.empty())
            r.pick->a = {r.pick->a.x + dx, r.pick->a.y + dy};
    document_.applyTyping(tr("nudged"), std::move(next));
}

void PictureWork::finish() {
    if (tool_ == Tool::Read && how_ == How::RimPlaces && !places_.empty()) {
        places_.size() < 3 ? view_.say(tr("Three places around the rim are needed")) : readBetween();
        emit changed();
    }
    if (tool_ == Tool::Outline && !places_.empty()) closeOutline();
}

void PictureWork::takeBack() {
    if (places_.empty()) return;
    places_.pop_back();
    emit changed();
}

// ------------------------------------------------------------------ making square

Result<void> PictureWork::makeSquare(const QString& typed) {
    const Picture* picture = image() == nullptr ? nullptr : image()->picture();
    if (picture == nullptr || places_.size() != 4)
        return problem("four corners are needed first", "rectangle", "Click them one after the other around it");
    const QStringList sides = typed.split(QRegularExpression("[xX×*]|\\bby\\b"), Qt::SkipEmptyParts);
    if (sides.size() != 2)
        return problem("the rectangle has two sides", typed.toStdString(), "Type them as in 85.6 x 54");
    std::array<Length, 2> sizes;
    for (int i = 0; i < 2; ++i) {
        const auto side = parseLength(sides[i].trimmed().toStdString(), view_.unit());
        if (!side) return tl::make_unexpected(side.error());
        sizes[static_cast<std::size_t>(i)] = *side;
    }
    std::array<PixelPoint, 4> corners;
    std::copy(places_.begin(), places_.end(), corners.begin());
    auto square = madeSquare(*picture, corners, sizes[0].mm(), sizes[1].mm());
    if (!square) return tl::make_unexpected(square.error());
    QImage image(square->picture.data.data(), square->picture.width, square->picture.height,
                 static_cast<qsizetype>(square->picture.width) * square->picture.channels,
                 square->picture.channels == 1 ? QImage::Format_Grayscale8 : QImage::Format_RGB888);
    image.setDotsPerMeterX(static_cast<int>(std::lround(square->picture.dpi->x / 0.0254)));
    image.setDotsPerMeterY(static_cast<int>(std::lround(square->picture.dpi->y / 0.0254)));
    QTemporaryDir folder;
    const QString from = toQt(source()->title);
    const QString file = folder.filePath(tr("square %1.png").arg(from.section('.', 0, 0)));
    if (!image.save(file)) return problem("there is no room to keep the new picture", file.toStdString());
    const PictureFace face = source()->face;
    if (auto kept = bringIn(file); !kept) return kept;
    settle();
    // Its scale is known as well as the corners were clicked: at worst by a pixel over each side.
    Part part = document_.part();
    const double grown = square->picture.dpi->x / 25.4 * sizes[0].mm() / apart(corners[0], corners[1]);
    for (const std::size_t i : {0U, 1U}) {
        auto with = withKnownLength(part, chosen_, square->corners[i], square->corners[i + 1],
                                    sides[static_cast<int>(i)].trimmed().toStdString(), view_.unit(),
                                    kClickU * std::max(grown, 1.0));
        if (with) part = std::move(*with);
    }
    for (Source& s : part.sources)
        if (s.id == chosen_) {
            s.face = face;
            s.note = square->picture.notes.back() + "; from " + from.toStdString();
        }
    document_.apply(tr("made square"), std::move(part));
    view_.tell(tr("Made square. What stands above the rectangle's plane is shifted, away from the camera"));
    return {};
}

}  // namespace punch
