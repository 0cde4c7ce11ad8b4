#include "app/pictures/picture_work.h"

#include <QDir>
#include <QFileInfo>
#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include "app/qt_text.h"

#include "core/measure/reading_result.h"
#include "core/picture/read_picture.h"

namespace punch {

namespace {
constexpr double kDegrees = 180 / 3.14159265358979323846;
}

PictureWork::PictureWork(Document& document, ViewState& view, QObject* parent)
    : QObject(parent), document_(document), view_(view) {
    connect(&document_, &Document::changed, this, &PictureWork::onPart);
    connect(&document_, &Document::fileChanged, this, &PictureWork::onPart);
}

void PictureWork::forget() {
    found_.reset();
    dropped_.clear();
    pinOne_ = 0;
    tool_ = Tool::None;
    ends_.clear();
    lastRead_.clear();
}

void PictureWork::onPart() {
    if (!document_.open() || document_.begun() != begun_) {
        begun_ = document_.begun();
        chosen_.clear();
        images_.clear();
        forget();
    }
    if (document_.open() && source() == nullptr) {
        chosen_.clear();
        forget();
        for (const Source& s : document_.part().sources)
            if (!s.picture.empty() && s.width > 0) chosen_ = s.id;
    }
    emit changed();
}

const Source* PictureWork::source() const {
    if (!document_.open()) return nullptr;
    for (const Source& s : document_.part().sources)
        if (s.id == chosen_) return &s;
    return nullptr;
}

const PictureImage* PictureWork::image() const { return imageOf(chosen_); }

const PictureImage* PictureWork::imageOf(const std::string& source) const {
    if (!document_.open()) return nullptr;
    const Source* s = nullptr;
    for (const Source& other : document_.part().sources)
        if (other.id == source) s = &other;
    if (s == nullptr || s->picture.empty() || s->width == 0) return nullptr;
    const auto it = images_.find(s->picture);
    if (it != images_.end()) return it->second.get();
    // Opened when first looked at, and kept.
    const QString file = QFileInfo(document_.path()).dir().filePath(toQt(s->picture));
    auto picture = readPicture(file.toStdString());
    trouble_ = picture ? QString() : toQt(picture.error().text());
    auto& slot = images_[s->picture];
    if (picture) slot = std::make_shared<PictureImage>(std::move(*picture));
    return slot.get();
}

void PictureWork::choose(const std::string& source) {
    if (chosen_ == source) return;
    chosen_ = source;
    forget();
    emit changed();
}

Result<void> PictureWork::bringIn(const QString& file) {
    auto picture = readPicture(file.toStdString());
    if (!picture) return tl::make_unexpected(picture.error());
    const auto kept = document_.keepPicture(file);
    if (!kept) return tl::make_unexpected(kept.error());
    auto [part, id] =
        withPicture(document_.part(), QFileInfo(file).fileName().toStdString(), kept->toStdString(), *picture);
    QStringList notes;
    for (const std::string& note : picture->notes) notes << toQt(note);
    images_[kept->toStdString()] = std::make_shared<PictureImage>(std::move(*picture));
    document_.apply(tr("picture %1").arg(QFileInfo(file).fileName()), std::move(part));
    choose(id);
    view_.setLens(Lens::Source, true);
    view_.say(notes.join(" · "));
    return {};
}

void PictureWork::remove() {
    if (source() == nullptr) return;
    document_.apply(tr("picture taken out"), withoutPicture(document_.part(), chosen_));
}

void PictureWork::setFace(PictureFace face) {
    const Source* now = source();
    if (now == nullptr || now->face == face) return;
    const bool known = now->face != PictureFace::NotSaid;
    Part next = document_.part();
    for (Source& s : next.sources)
        if (s.id == chosen_) s.face = face;
    // Places read as if from the other face are mirror images: no turn makes them right. Scale and sizes stay.
    const auto gone = known ? std::erase_if(next.readings,
                                            [&](const Reading& r) {
                                                return r.pick && r.source == chosen_ && r.contact == Contact::Picture;
                                            })
                            : 0;
    if (gone > 0) view_.say(tr("The places were read as of the other face: find the pins and take them again"));
    document_.apply(tr("face of the picture"), std::move(next));
    if (found_) {
        // The same places, seen from the other side.
        found_ = withoutFeatures(std::move(*found_), {}, face == PictureFace::SolderSide);
        pinOne_ = 0;
    }
    emit changed();
}

void PictureWork::setOpacity(double opacity) {
    opacity_ = opacity;
    emit changed();
}

// ------------------------------------------------------------------ where it lies

double PictureWork::parameter(const char* name, double otherwise) const {
    const ParameterValue* p = document_.footprint().parameter(chosen_ + name);
    if (p == nullptr) return otherwise;
    return p->angle ? p->angle->degrees() : p->value.mm();
}

QTransform PictureWork::toPart() const {
    const Source* s = source();
    if (s == nullptr) return {};
    const double n = s->nominalMmPerPixel();
    const double mirror = s->fromBelow() ? -1 : 1;
    const bool read =
        std::any_of(document_.part().readings.begin(), document_.part().readings.end(),
                    [&](const Reading& r) { return r.pick && r.source == s->id && r.contact == Contact::Picture; });
    double sx = parameter(".scaleX", 1), sy = parameter(".scaleY", 1), angle = 0, ox = 0, oy = 0;
    if (read) {
        angle = parameter(".angle", 0) / kDegrees;
        ox = parameter(".x", 0);
        oy = parameter(".y", 0);
    } else {
        // Not joined to the part yet: its middle on the datum, straightened once something was found.
        if (found_) angle = mirror * found_->angle / kDegrees;
        const Point datum = document_.footprint().datum;
        const double mx = mirror * s->width * n / 2;
        const double my = -s->height * n / 2;
        const double c = std::cos(angle), si = std::sin(angle);
        ox = mx - (c * datum.x.mm() - si * datum.y.mm()) / sx;
        oy = my - (si * datum.x.mm() + c * datum.y.mm()) / sy;
    }
    const double c = std::cos(angle);
    const double si = std::sin(angle);
    // X = c sx (m n px - ox) + s sy (-n py - oy);  Y = -s sx (m n px - ox) + c sy (-n py - oy).
    return QTransform(c * sx * mirror * n, -si * sx * mirror * n, -si * sy * n, -c * sy * n,
                      -c * sx * ox - si * sy * oy, si * sx * ox - c * sy * oy);
}

Rect PictureWork::outline() const {
    Rect box;
    const Source* s = source();
    if (s == nullptr) return box;
    const QTransform t = toPart();
    const Point datum = document_.footprint().datum;
    for (const QPointF p : {QPointF(0, 0), QPointF(s->width, 0), QPointF(0, s->height), QPointF(s->width, s->height)}) {
        const QPointF q = t.map(p);
        box.add(Point{Length::fromMm(q.x()), Length::fromMm(q.y())} - datum);
    }
    return box;
}

// ------------------------------------------------------------------ known lengths

void PictureWork::setTool(Tool tool) {
    tool_ = tool;
    ends_.clear();
    emit changed();
}

Result<void> PictureWork::giveLength(const QString& typed) {
    if (ends_.size() < 2)
        return problem("two places are needed first", "known length", "Click the two places on the picture");
    auto next = withKnownLength(document_.part(), chosen_, ends_[0], ends_[1], typed.trimmed().toStdString(),
                                view_.unit(), kClickU);
    if (!next) return tl::make_unexpected(next.error());
    setTool(Tool::None);
    document_.apply(tr("known length"), std::move(*next));
    return {};
}

bool PictureWork::offersRuler() const {
    if (!found_ || found_->rulers.empty()) return false;
    for (const Reading& r : document_.part().readings)
        if (r.pick && r.contact == Contact::PictureLength && r.source == chosen_) return false;
    return true;
}

void PictureWork::takeRuler() {
    if (!offersRuler()) return;
    Part next = document_.part();
    for (const Ruler& r : found_->rulers) {
        auto with =
            withKnownLength(next, chosen_, r.first, r.last, fmt::format("{}mm", r.length()), Unit::Mm, r.pair().u);
        if (with) next = std::move(*with);
    }
    document_.apply(tr("ruler"), std::move(next));
}

// ------------------------------------------------------------------ finding and taking

Result<void> PictureWork::find() {
    const PictureImage* picture = image();
    if (picture == nullptr) return problem("no picture is open", "find", "Bring one in first");
    FindOptions options;
    options.fromBelow = source()->fromBelow();
    for (const Reading& r : document_.part().readings)
        if (r.pick && r.contact == Contact::PictureLength && r.source == chosen_ && !r.raw.empty())
            options.pairs.push_back({r.pick->a, r.pick->b, r.raw.front().value.mm(), r.pick->u});
    auto found = findInPicture(picture->picture(), options);
    if (!found) return tl::make_unexpected(found.error());
    found_ = std::move(*found);
    dropped_.clear();
    pinOne_ = 0;
    QStringList notes;
    for (const std::string& note : found_->notes) notes << toQt(note);
    view_.say(notes.join(" · "));
    emit changed();
    return {};
}

void PictureWork::drop(std::size_t index) {
    if (!found_ || index >= found_->features.size()) return;
    dropped_.push_back(found_->features[index]);
    found_ = withoutFeatures(std::move(*found_), {index}, source()->fromBelow());
    pinOne_ = 0;
    emit changed();
}

void PictureWork::bringBack(std::size_t dropped) {
    if (!found_ || dropped >= dropped_.size()) return;
    found_->features.push_back(dropped_[dropped]);
    dropped_.erase(dropped_.begin() + static_cast<std::ptrdiff_t>(dropped));
    found_ = withoutFeatures(std::move(*found_), {}, source()->fromBelow());
    pinOne_ = 0;
    emit changed();
}

void PictureWork::setPinOne(std::size_t index) {
    if (!found_ || !found_->formation || index >= found_->formation->positions.size()) return;
    pinOne_ = index;
    emit changed();
}

Result<void> PictureWork::take() {
    if (!found_) return problem("nothing was found yet", "take", "Find the pins first");
    TakeOptions options;
    options.pinOne = pinOne_;
    Part part = document_.part();
    // The scale that the finding used stays with the part.
    if (found_->scale.from == ScaleFrom::Ruler && offersRuler())
        for (const Ruler& r : found_->rulers)
            if (auto with = withKnownLength(part, chosen_, r.first, r.last, fmt::format("{}mm", r.length()), Unit::Mm,
                                            r.pair().u))
                part = std::move(*with);
    auto next = withFound(std::move(part), chosen_, *found_, options);
    if (!next) return tl::make_unexpected(next.error());
    found_.reset();
    dropped_.clear();
    document_.apply(tr("features from the picture"), std::move(*next));
    emit changed();
    return {};
}

// ------------------------------------------------------------------ clicks

int PictureWork::foundAt(PixelPoint at) const {
    if (!found_) return -1;
    for (std::size_t i = 0; i < found_->features.size(); ++i) {
        const Rim& r = found_->features[i].seen.rim;
        if (std::hypot(at.x - r.centre.x, at.y - r.centre.y) < std::max(r.width / 2 + 3, 8.0))
            return static_cast<int>(i);
    }
    return -1;
}

bool PictureWork::clickAt(PixelPoint at, bool shift) {
    if (image() == nullptr) return false;
    if (tool_ == Tool::KnownLength) {
        if (ends_.size() >= 2) ends_.clear();
        ends_.push_back(at);
        emit changed();
        if (ends_.size() == 2) emit lengthWanted();
        return true;
    }
    if (tool_ == Tool::Read) {
        const FeatureId feature = view_.first();
        if (feature.empty() || isFace(document_.part(), feature)) {
            view_.say(tr("Choose first what to read: a pin, a peg or a hole"));
            return true;
        }
        const double reach = 3.5 / source()->nominalMmPerPixel();
        const auto rim = rimAround(image()->grey(), at, std::clamp(reach, 12.0, 600.0));
        Part next = rim ? withPick(document_.part(), chosen_, feature, rim->centre, rim->u,
                                   rim->shape == RimShape::Round ? std::optional(rim->width) : std::nullopt, rim->uSize)
                        : withPick(document_.part(), chosen_, feature, at, kClickU);
        lastRead_ = feature;
        view_.say(rim ? tr("%1: rim found, %2 ± %3 pixels across")
                            .arg(toQt(featureWords(document_.part(), feature)))
                            .arg(rim->width, 0, 'f', 2)
                            .arg(kNinetyFive * rim->u, 0, 'f', 2)
                      : tr("No rim here: the place itself was taken, ± 1 pixel. Arrow keys move it by a tenth"));
        document_.apply(tr("read in the picture"), std::move(next));
        return true;
    }
    if (const int hit = foundAt(at); hit >= 0) {
        shift ? setPinOne(static_cast<std::size_t>(hit)) : drop(static_cast<std::size_t>(hit));
        return true;
    }
    for (std::size_t i = 0; i < dropped_.size(); ++i) {
        const Rim& r = dropped_[i].seen.rim;
        if (std::hypot(at.x - r.centre.x, at.y - r.centre.y) < std::max(r.width / 2 + 3, 8.0)) {
            bringBack(i);
            return true;
        }
    }
    return false;
}

void PictureWork::nudge(double dx, double dy) {
    if (tool_ == Tool::KnownLength && !ends_.empty()) {
        ends_.back() = {ends_.back().x + dx, ends_.back().y + dy};
        emit changed();
        return;
    }
    Part next = document_.part();
    for (Reading& r : next.readings)
        if (r.pick && r.source == chosen_ && r.a == lastRead_ && r.contact != Contact::PictureLength)
            r.pick->a = {r.pick->a.x + dx, r.pick->a.y + dy};
    document_.applyTyping(tr("nudged"), std::move(next));
}

// ------------------------------------------------------------------ words

QString PictureWork::scaleWords() const {
    const Source* s = source();
    if (s == nullptr) return {};
    int lengths = 0;
    for (const Reading& r : document_.part().readings)
        lengths += r.pick && r.contact == Contact::PictureLength && r.source == chosen_ ? 1 : 0;
    const ParameterValue* p = document_.footprint().parameter(chosen_ + ".scaleX");
    const ParameterValue* q = document_.footprint().parameter(chosen_ + ".scaleY");
    const double n = s->nominalMmPerPixel();
    if (p != nullptr && q != nullptr && p->firm() && q->firm()) {
        const double share = std::max(p->doubt->mm() / p->value.mm(), q->doubt->mm() / q->value.mm());
        return tr("%1 × %2 mm per pixel ± %3 %, %4")
            .arg(p->value.mm() * n, 0, 'f', 5)
            .arg(q->value.mm() * n, 0, 'f', 5)
            .arg(100 * share, 0, 'f', 2)
            .arg(lengths == 1  ? tr("one known length")
                 : lengths > 1 ? tr("%1 known lengths").arg(lengths)
                               : tr("only by the file's dpi"));
    }
    if (found_)
        return tr("%1 × %2 mm per pixel ± %3 %, by the %4")
            .arg(found_->scale.x, 0, 'f', 5)
            .arg(found_->scale.y, 0, 'f', 5)
            .arg(100 * found_->scale.doubt() / found_->scale.x, 0, 'f', 2)
            .arg(toQt(scaleFromWords(found_->scale.from)));
    if (s->dpiStated) return tr("%1 dpi by the file: check it against a known length").arg(s->dpi, 0, 'f', 0);
    return tr("not known: the file states no dpi");
}

QString PictureWork::levelWords() const {
    const ParameterValue* p = document_.open() ? document_.footprint().parameter(chosen_ + ".angle") : nullptr;
    const double side = source() != nullptr && source()->fromBelow() ? -1 : 1;
    if (p != nullptr && p->angle && p->angleDoubt)
        return tr("by the pins: turned %1° ± %2°")
            .arg(side * p->angle->degrees(), 0, 'f', 2)
            .arg(p->angleDoubt->degrees(), 0, 'f', 2);
    if (found_ && found_->formation)
        return tr("by the pins: turned %1° ± %2°")
            .arg(found_->angle, 0, 'f', 2)
            .arg(kNinetyFive * found_->uAngle, 0, 'f', 2);
    return tr("by the pins, once they are found");
}

}  // namespace punch
