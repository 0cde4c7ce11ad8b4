// Scale, finding, taking and comparing: what PictureWork does with the whole picture.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "app/pictures/picture_work.h"
#include "app/qt_text.h"
#include "core/measure/reading_result.h"

namespace punch {

namespace {

/// "4:1", "1:2".
QString ratioWords(double ratio) {
    return ratio >= 1 ? QStringLiteral("%1:1").arg(ratio, 0, 'g', 4) : QStringLiteral("1:%1").arg(1 / ratio, 0, 'g', 4);
}

constexpr double kLargePicture = 12e6;  // pixels: beyond, pins are looked for beside the window
}  // namespace

// ------------------------------------------------------------------ known lengths

Result<void> PictureWork::giveLength(const QString& typed) {
    if (places_.size() < 2)
        return problem("two places are needed first", "known length", "Click the two places on the picture");
    // Places that met what is drawn are worth more than a hand.
    double u = 0;
    for (const PixelPoint& p : places_) {
        const auto met = snapped(p, 2);
        u = std::max(u, met ? std::min(met->u, kClickU) : kClickU);
    }
    auto next = withKnownLength(document_.part(), chosen_, places_[0], places_[1], typed.trimmed().toStdString(),
                                view_.unit(), u);
    if (!next) return tl::make_unexpected(next.error());
    setTool(Tool::None);
    document_.apply(tr("known length"), std::move(*next));
    return {};
}

bool PictureWork::offersRuler() const {
    if (!found_ || found_->scaleRulers.empty()) return false;
    for (const Reading& r : document_.part().readings)
        if (r.pick && r.contact == Contact::PictureLength && r.source == chosen_) return false;
    return true;
}

void PictureWork::takeRuler() {
    if (!offersRuler()) return;
    Part next = document_.part();
    for (const std::size_t i : found_->scaleRulers) {
        const Ruler& r = found_->rulers[i];
        auto with =
            withKnownLength(next, chosen_, r.first, r.last, fmt::format("{}mm", r.length()), Unit::Mm, r.pair().u);
        if (with) next = std::move(*with);
    }
    document_.apply(tr("ruler"), std::move(next));
}

// ------------------------------------------------------------------ finding and taking

Result<void> PictureWork::find() {
    const auto it = std::find_if(images_.begin(), images_.end(), [this, now = image()](const auto& entry) {
        return now != nullptr && entry.second.get() == now;
    });
    if (it == images_.end()) return problem("no picture is open", "find", "Bring one in first");
    const std::shared_ptr<PictureImage> picture = it->second;
    FindOptions options;
    options.fromBelow = source()->fromBelow();
    options.region = region_;
    for (const Reading& r : document_.part().readings)
        if (r.pick && r.contact == Contact::PictureLength && r.source == chosen_ && !r.raw.empty())
            options.pairs.push_back({r.pick->a, r.pick->b, r.raw.front().value.mm(), r.pick->u});
    if (options.pairs.empty() && picture->kind() == EvidenceKind::Pdf) {
        if (!source()->dpiStated)
            return problem("how large the part is drawn is not known yet", toQt(source()->title).toStdString(),
                           "Give a known length, or say that the page is drawn 1:1");
        options.dpi = Dpi{source()->dpi, source()->dpi};
    }
    options.ruler = ruler_;
    options.refused = refused_;
    options.scaleBy = scaleBy_;
    options.lookForRuler =
        picture->kind() == EvidenceKind::Picture;  // its marks are no pins, whatever the scale is from
    tool_ = tool_ == Tool::Region ? Tool::None : tool_;
    if (static_cast<double>(picture->width()) * picture->height() < kLargePicture ||
        picture->kind() == EvidenceKind::Dxf) {
        auto found = picture->find(options);
        if (!found) return tl::make_unexpected(found.error());
        showFound(std::move(found));
        return {};
    }
    if (running_ > 0) return problem("something else is going on", "find", "Wait for it to end");
    const std::string of = chosen_;
    beside(tr("looking for pins…"), [this, picture, options, of]() -> std::function<void()> {
        auto found = std::make_shared<Result<Found>>(picture->find(options));
        return [this, found, of] {
            if (of == chosen_) showFound(std::move(*found));
        };
    });
    emit changed();
    return {};
}

void PictureWork::showFound(Result<Found> found) {
    if (!found) return view_.say(toQt(found.error().text()));
    found_ = std::move(*found);
    laid_.reset();
    dropped_.clear();
    pinOne_ = 0;
    QStringList notes;
    for (const FindNote& note : found_->notes) notes << toQt(note.text);
    view_.tell(notes.join(" · "));
    emit changed();
}

void PictureWork::takeBackLeftOut(std::size_t leftOut) {
    if (!found_) return;
    found_ = withTakenBack(std::move(*found_), leftOut, source()->fromBelow());
    pinOne_ = 0;
    if (laid_) laid_ = laidOver();
    emit changed();
}

void PictureWork::takeOther(std::size_t other) {
    if (!found_) return;
    found_ = withOther(std::move(*found_), other, source()->fromBelow());
    pinOne_ = 0;
    laid_.reset();
    emit changed();
}

void PictureWork::lookAgain() {
    if (const auto done = find(); !done) view_.say(toQt(done.error().text()));
}

void PictureWork::nextRuler() {
    if (!found_ || found_->rulers.empty()) return;
    const std::size_t now = found_->scaleRulers.empty() ? found_->rulers.size() - 1 : found_->scaleRulers.front();
    ruler_ = (now + 1) % found_->rulers.size();
    std::erase(refused_, *ruler_);
    scaleBy_ = ScaleFrom::Ruler;
    lookAgain();
}

void PictureWork::refuseRuler() {
    if (!found_ || found_->scaleRulers.empty()) return;
    refused_.insert(refused_.end(), found_->scaleRulers.begin(), found_->scaleRulers.end());
    ruler_.reset();
    lookAgain();
}

void PictureWork::chooseWitness(std::size_t witness) {
    if (!found_ || witness >= found_->witnesses.size()) return;
    if (witness > 0 && found_->witnesses.front().scale.from == ScaleFrom::Pairs)
        return view_.say(tr("Known lengths count before everything: take them out of the notebook first"));
    scaleBy_ = found_->witnesses[witness].scale.from;
    lookAgain();
}

void PictureWork::clearRegion() {
    region_.reset();
    emit changed();
}

void PictureWork::drop(std::size_t index) {
    if (!found_ || index >= found_->features.size()) return;
    dropped_.push_back(found_->features[index]);
    found_ = withoutFeatures(std::move(*found_), {index}, source()->fromBelow());
    pinOne_ = 0;
    if (laid_) laid_ = laidOver();
    emit changed();
}

void PictureWork::bringBack(std::size_t dropped) {
    if (!found_ || dropped >= dropped_.size()) return;
    found_->features.push_back(dropped_[dropped]);
    dropped_.erase(dropped_.begin() + static_cast<std::ptrdiff_t>(dropped));
    found_ = withoutFeatures(std::move(*found_), {}, source()->fromBelow());
    pinOne_ = 0;
    if (laid_) laid_ = laidOver();
    emit changed();
}

void PictureWork::setPinOne(std::size_t index) {
    if (!found_ || !found_->formation || index >= found_->formation->positions.size()) return;
    pinOne_ = index;
    emit changed();
}

Result<void> PictureWork::take(bool asFormation) {
    if (!found_) return problem("nothing was found yet", "take", "Find the pins first");
    TakeOptions options;
    options.pinOne = pinOne_;
    options.asFormation = asFormation;
    Part part = document_.part();
    // The scale that the finding used stays with the part.
    if (found_->scale.from == ScaleFrom::Ruler && offersRuler())
        for (const std::size_t i : found_->scaleRulers) {
            const Ruler& r = found_->rulers[i];
            if (auto with = withKnownLength(part, chosen_, r.first, r.last, fmt::format("{}mm", r.length()), Unit::Mm,
                                            r.pair().u))
                part = std::move(*with);
        }
    auto next = withFound(std::move(part), chosen_, *found_, options);
    if (!next) return tl::make_unexpected(next.error());
    found_.reset();
    laid_.reset();
    dropped_.clear();
    document_.apply(tr("features from the picture"), std::move(*next));
    emit changed();
    return {};
}

// ------------------------------------------------------------------ comparing

std::optional<Laid> PictureWork::laidOver() const {
    if (!found_ || source() == nullptr) return {};
    return layOver(document_.footprint(), atAdjustedScale(*found_, document_.footprint(), *source()));
}

Result<void> PictureWork::compare() {
    if (!found_) return problem("nothing was found yet", "compare", "Find the pins first");
    if (laid_) {
        laid_.reset();
    } else {
        laid_ = laidOver();
        if (!laid_)
            return problem("what was found does not lie like the footprint's pads", "compare",
                           "Check face and scale, and drop what is none");
    }
    emit changed();
    return {};
}

std::vector<Deviation> PictureWork::deviations() const {
    if (laid_) return laid_->pairs;
    return document_.open() ? deviationsRead(document_.part(), document_.footprint(), chosen_)
                            : std::vector<Deviation>{};
}

void PictureWork::setBlinking(bool on) {
    on ? blink_.start() : blink_.stop();
    blinkPicture_ = true;
    if (on) wipe_.reset();
    emit changed();
}

void PictureWork::setWipe(std::optional<double> at) {
    wipe_ = at ? std::optional(std::clamp(*at, 0.02, 0.98)) : std::nullopt;
    if (at) blink_.stop();
    emit changed();
}

// ------------------------------------------------------------------ words

QString PictureWork::scaleWords() const {
    const Source* s = source();
    if (s == nullptr) return {};
    int lengths = 0;
    for (const Reading& r : document_.part().readings)
        lengths += r.pick && r.contact == Contact::PictureLength && r.source == chosen_ ? 1 : 0;
    if (s->mmPerUnit > 0 && lengths == 0) return tr("drawn at true size, 1 unit is %1 mm").arg(s->mmPerUnit, 0, 'g', 6);
    if (s->exactScale && s->dpiStated && lengths == 0)
        return tr("drawn %1, as was said").arg(ratioWords(s->dpi / kPageDpi));
    const ParameterValue* p = document_.footprint().parameter(chosen_ + ".scaleX");
    const ParameterValue* q = document_.footprint().parameter(chosen_ + ".scaleY");
    const double n = s->nominalMmPerPixel();
    QString others;
    if (found_ && found_->witnesses.size() > 1 &&
        std::none_of(found_->witnesses.begin(), found_->witnesses.end(),
                     [](const ScaleWitness& w) { return w.differs; }))
        others =
            tr("; %1 agrees")
                .arg(found_->witnesses.back().scale.from == ScaleFrom::Dpi ? tr("the file's dpi") : tr("the ruler"));
    if (p != nullptr && q != nullptr && p->firm() && q->firm()) {
        const double share = std::max(p->doubt->mm() / p->value.mm(), q->doubt->mm() / q->value.mm());
        const QString by = lengths == 1  ? tr("one known length")
                           : lengths > 1 ? tr("%1 known lengths").arg(lengths)
                                         : tr("only by the file's dpi");
        if (s->exactScale)
            return tr("drawn %1:1 ± %2 %, %3").arg(1 / p->value.mm(), 0, 'f', 3).arg(100 * share, 0, 'f', 2).arg(by);
        return tr("%1 × %2 mm per pixel ± %3 %, %4")
            .arg(p->value.mm() * n, 0, 'f', 5)
            .arg(q->value.mm() * n, 0, 'f', 5)
            .arg(100 * share, 0, 'f', 2)
            .arg(by + others);
    }
    if (found_)
        return tr("%1 × %2 mm per pixel ± %3 %, by the %4")
            .arg(found_->scale.x, 0, 'f', 5)
            .arg(found_->scale.y, 0, 'f', 5)
            .arg(100 * found_->scale.doubt() / found_->scale.x, 0, 'f', 2)
            .arg(toQt(scaleFromWords(found_->scale.from)) + others);
    if (s->exactScale) return tr("not known yet: give a length that the drawing states, or say 1:1");
    if (s->dpiStated) return tr("%1 dpi by the file: check it against a known length").arg(s->dpi, 0, 'f', 0);
    return tr("not known: the file states no dpi");
}

QString PictureWork::levelWords() const {
    const ParameterValue* p = document_.open() ? document_.footprint().parameter(chosen_ + ".angle") : nullptr;
    // As one looks at the picture; never "-0.00".
    const double side = source() != nullptr && source()->fromBelow() ? -1 : 1;
    const auto hundredths = [](double degrees) { return std::round(100 * degrees) / 100 + 0.0; };
    int lines = 0;
    for (const Reading& r : document_.part().readings)
        lines += r.pick && r.contact == Contact::PictureLevel && r.source == chosen_ ? 1 : 0;
    if (p != nullptr && p->angle && p->angleDoubt)
        return (lines == 0 ? tr("by the pins: turned %1° ± %2°")
                : joined() ? tr("by pins and level lines: turned %1° ± %2°")
                           : tr("by what is level: turned %1° ± %2°"))
            .arg(hundredths(side * p->angle->degrees()), 0, 'f', 2)
            .arg(p->angleDoubt->degrees(), 0, 'f', 2);
    if (found_ && found_->formation)
        return tr("by the pins: turned %1° ± %2°")
            .arg(hundredths(found_->angle), 0, 'f', 2)
            .arg(kNinetyFive * found_->uAngle, 0, 'f', 2);
    return tr("by the pins, once they are found");
}

}  // namespace punch
