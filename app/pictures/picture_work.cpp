#include "app/pictures/picture_work.h"

#include "core/part/source_file.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QPointer>
#include <QThread>
#include <QThreadPool>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "core/measure/reading_result.h"

namespace punch {

namespace {

constexpr double kDegrees = 180 / 3.14159265358979323846;
constexpr qint64 kLargeFile = 6'000'000;  // bytes: beyond, a file is opened beside the window

std::string keyOf(const Source& s) {
    return QString("%1#%2#%3,%4,%5,%6#%7")
        .arg(toQt(s.picture))
        .arg(s.page)
        .arg(s.left)
        .arg(s.top)
        .arg(s.width)
        .arg(s.height)
        .arg(s.mmPerUnit)
        .toStdString();
}

QStringList notesOf(const Evidence& e) {
    QStringList notes;
    if (e.picture)
        for (const std::string& note : e.picture->notes) notes << toQt(note);
    if (e.drawing)
        for (const std::string& note : e.drawing->notes) notes << toQt(note);
    return notes;
}

}  // namespace

PictureWork::PictureWork(Document& document, ViewState& view, QObject* parent)
    : QObject(parent), document_(document), view_(view) {
    connect(&document_, &Document::changed, this, &PictureWork::onPart);
    connect(&document_, &Document::fileChanged, this, &PictureWork::onPart);
    blink_.setInterval(600);
    connect(&blink_, &QTimer::timeout, this, [this] {
        blinkPicture_ = !blinkPicture_;
        emit changed();
    });
}

void PictureWork::forget() {
    found_.reset();
    laid_.reset();
    dropped_.clear();
    region_.reset();
    pinOne_ = 0;
    tool_ = Tool::None;
    places_.clear();
    offered_.clear();
    offeredText_ = -1;
    lastRead_.clear();
    target_.clear();
    blink_.stop();
    wipe_.reset();
    ruler_.reset();
    refused_.clear();
    scaleBy_.reset();
}

void PictureWork::onPart() {
    if (!document_.open() || document_.begun() != begun_) {
        begun_ = document_.begun();
        chosen_.clear();
        images_.clear();
        troubles_.clear();
        forget();
    }
    if (document_.open() && source() == nullptr) {
        chosen_.clear();
        forget();
        for (const Source& s : document_.part().sources)
            if (!s.picture.empty() && s.width > 0) chosen_ = s.id;
    }
    if (laid_ && found_) laid_ = laidOver();
    emit changed();
}

const Source* PictureWork::source() const {
    if (!document_.open()) return nullptr;
    for (const Source& s : document_.part().sources)
        if (s.id == chosen_) return &s;
    return nullptr;
}

const PictureImage* PictureWork::image() const { return imageOf(chosen_); }

QString PictureWork::trouble() const {
    const Source* s = source();
    if (s == nullptr) return {};
    const auto it = troubles_.find(keyOf(*s));
    return it == troubles_.end() ? QString() : it->second;
}

void PictureWork::beside(const QString& what, std::function<std::function<void()>()> work) const {
    busy_ = what;
    ++running_;
    const QPointer<PictureWork> guard(const_cast<PictureWork*>(this));
    QThreadPool::globalInstance()->start([guard, work = std::move(work)] {
        auto done = std::make_shared<std::function<void()>>(work());
        QMetaObject::invokeMethod(qApp, [guard, done] {
            if (guard.isNull()) return;
            if (--guard->running_ == 0) guard->busy_.clear();
            (*done)();
            emit guard->changed();
        });
    });
}

void PictureWork::settle() {
    while (running_ > 0) {
        QCoreApplication::processEvents(QEventLoop::ExcludeUserInputEvents);
        QThread::msleep(2);
    }
}

const PictureImage* PictureWork::imageOf(const std::string& source) const {
    if (!document_.open()) return nullptr;
    const Source* s = nullptr;
    for (const Source& other : document_.part().sources)
        if (other.id == source) s = &other;
    if (s == nullptr || s->picture.empty() || s->width == 0) return nullptr;
    const std::string key = keyOf(*s);
    const auto it = images_.find(key);
    if (it != images_.end()) return it->second.get();
    // Opened when first looked at, and kept.
    images_[key] = nullptr;
    const auto beside_ = sourceFile(document_.path().toStdString(), s->picture);
    if (!beside_) {
        troubles_[key] = toQt(beside_.error().text());
        return nullptr;
    }
    const QString file = toQt(beside_->string());
    const auto open = [file = file.toStdString(), choice = choiceOf(*s)]() -> Result<std::shared_ptr<PictureImage>> {
        auto evidence = openEvidence(file, choice);
        if (!evidence) return tl::make_unexpected(evidence.error());
        return std::make_shared<PictureImage>(std::move(*evidence), choice);
    };
    const auto keep = [this, key](const Result<std::shared_ptr<PictureImage>>& image) {
        troubles_[key] = image ? QString() : toQt(image.error().text());
        images_[key] = image ? *image : nullptr;
    };
    if (QFileInfo(file).size() <= kLargeFile) {
        keep(open());
        return images_[key].get();
    }
    troubles_[key] = tr("being opened…");
    const int begun = begun_;
    beside(tr("opening %1…").arg(toQt(s->title)), [this, open, keep, begun]() -> std::function<void()> {
        auto image = open();
        return [this, image, keep, begun] {
            if (begun == begun_) keep(image);
        };
    });
    return nullptr;
}

void PictureWork::choose(const std::string& source) {
    if (chosen_ == source) return;
    chosen_ = source;
    forget();
    emit changed();
}

Result<void> PictureWork::bringIn(const QString& file, const EvidenceChoice& choice) {
    if (document_.path().isEmpty())
        return problem("the part has no file yet", "picture",
                       "Save the part first, so that its pictures have a place beside it");
    if (QFileInfo(file).size() > kLargeFile) {
        const int begun = begun_;
        beside(tr("opening %1…").arg(QFileInfo(file).fileName()),
               [this, file, choice, begun]() -> std::function<void()> {
                   auto evidence = openEvidence(file.toStdString(), choice);
                   if (!evidence) return [this, words = toQt(evidence.error().text())] { view_.say(words); };
                   const QStringList notes = notesOf(*evidence);
                   auto image = std::make_shared<PictureImage>(std::move(*evidence), choice);
                   return [this, file, choice, image, notes, begun] {
                       if (begun == begun_) keepBroughtIn(file, choice, image, notes);
                   };
               });
        emit changed();
        return {};
    }
    auto evidence = openEvidence(file.toStdString(), choice);
    if (!evidence) return tl::make_unexpected(evidence.error());
    const QStringList notes = notesOf(*evidence);
    keepBroughtIn(file, choice, std::make_shared<PictureImage>(std::move(*evidence), choice), notes);
    return {};
}

void PictureWork::keepBroughtIn(const QString& file, const EvidenceChoice& choice, std::shared_ptr<PictureImage> image,
                                const QStringList& notes) {
    const auto kept = document_.keepPicture(file);
    if (!kept) return view_.say(toQt(kept.error().text()));
    Evidence shown;  // what the source is made of, without its pixels
    shown.kind = image->kind();
    if (image->drawing() != nullptr) shown.drawing = *image->drawing();
    if (const Picture* p = image->picture()) {
        Picture head;
        head.width = p->width;
        head.height = p->height;
        head.dpi = p->dpi;
        shown.picture = std::move(head);
    }
    auto [part, id] = withSource(
        document_.part(), sourceFrom(shown, choice, QFileInfo(file).fileName().toStdString(), kept->toStdString()));
    images_[keyOf(part.sources.back())] = std::move(image);
    document_.apply(tr("picture %1").arg(QFileInfo(file).fileName()), std::move(part));
    choose(id);
    view_.setLens(Lens::Source, true);
    view_.tell(notes.join(" · "));
    emit broughtIn();
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
        if (laid_) laid_ = laidOver();
    }
    emit changed();
}

void PictureWork::setDrawnScale(double ratio) {
    Part next = document_.part();
    for (Source& s : next.sources)
        if (s.id == chosen_ && s.exactScale) {
            s.dpiStated = ratio > 0;
            // A DXF has its own size; a page is as many pixels to the part's inch as it is drawn larger.
            if (s.mmPerUnit == 0) s.dpi = kPageDpi * (ratio > 0 ? ratio : 1);
        }
    document_.apply(tr("size of the drawing"), std::move(next));
}

std::vector<StatedScale> PictureWork::scalesStatedHere() const {
    const Drawing* drawing = image() == nullptr ? nullptr : image()->drawing();
    if (drawing == nullptr || image()->kind() != EvidenceKind::Pdf) return {};
    return scalesStated(*drawing);
}

void PictureWork::setAbove(Length above) {
    Part next = document_.part();
    for (Source& s : next.sources)
        if (s.id == chosen_) s.above = above;
    document_.apply(tr("height above the glass"), std::move(next));
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
    if (laid_ && found_ && !found_->features.empty()) {
        // By what was laid over: from pixels to the straightened frame of what was found, to the footprint.
        const Found& f = *found_;
        const double m = s->fromBelow() ? -1 : 1;
        const FoundFeature& one = f.features.front();
        const double a = m * f.angle / kDegrees, ca = std::cos(a), sa = std::sin(a);
        const QTransform straight(ca * m * f.scale.x, -sa * m * f.scale.x, -sa * f.scale.y, -ca * f.scale.y, 0, 0);
        const QPointF first = straight.map(QPointF(one.seen.rim.centre.x, one.seen.rim.centre.y));
        const QTransform found = straight * QTransform::fromTranslate(one.x - first.x(), one.y - first.y());
        const double t = laid_->turn / kDegrees;
        const Point datum = document_.footprint().datum;
        return found * QTransform(std::cos(t), std::sin(t), -std::sin(t), std::cos(t), laid_->x + datum.x.mm(),
                                  laid_->y + datum.y.mm());
    }
    const double n = s->nominalMmPerPixel();
    const double mirror = s->fromBelow() ? -1 : 1;
    const bool read = joined();
    double sx = parameter(".scaleX", 1), sy = parameter(".scaleY", 1), angle = 0, ox = 0, oy = 0;
    if (read) {
        angle = parameter(".angle", 0) / kDegrees;
        ox = parameter(".x", 0);
        oy = parameter(".y", 0);
    } else {
        // Not joined to the part yet: its middle on the datum, straightened by what was found or said to be level.
        angle = found_ ? mirror * found_->angle / kDegrees : parameter(".angle", 0) / kDegrees;
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

bool PictureWork::joined() const {
    return document_.open() &&
           std::any_of(document_.part().readings.begin(), document_.part().readings.end(), [&](const Reading& r) {
               return r.pick && r.source == chosen_ && r.contact == Contact::Picture;
           });
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

}  // namespace punch
