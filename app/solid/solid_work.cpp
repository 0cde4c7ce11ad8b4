#include "app/solid/solid_work.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QRunnable>
#include <cmath>

#include "app/qt_text.h"
#include "core/advise/solid_evidence.h"
#include "core/advise/stand_solid.h"
#include "core/base/atomic_file.h"
#include "core/body/pieces.h"
#include "core/part/source_file.h"
#include "core/solid/found_solid.h"
#include "core/solid/solid_cache.h"

namespace punch {
namespace {

QString notesOf(const Solid& solid) {
    QStringList words;
    for (const std::string& n : solid.notes) words << toQt(n);
    return words.join("; ");
}

tl::unexpected<Problem> notRead(const SolidFile& file) {
    return problem("its file is not read yet, or cannot be", file.name, "Wait until it is, or bring it in again");
}

}  // namespace

SolidWork::SolidWork(Document& document, ViewState& view, QObject* parent)
    : QObject(parent), document_(document), view_(view) {
    pool_.setMaxThreadCount(1);
    connect(&document_, &Document::changed, this, &SolidWork::onPart);
}

SolidWork::~SolidWork() {
    wanted_ = false;
    pool_.waitForDone();
}

void SolidWork::load(const QString& path, const QString& shown, std::function<void(Loaded)> then,
                     std::function<void(const Loaded&)> prepare) {
    ++running_;
    ++reading_;
    wanted_ = true;
    share_ = 0;
    busy_ = tr("reading %1…").arg(shown);
    emit changed();
    pool_.start([this, path = path.toStdString(), then = std::move(then), prepare = std::move(prepare)] {
        Loaded loaded;
        const auto progress = [this](double share) {
            QMetaObject::invokeMethod(
                this,
                [this, share] {
                    share_ = share;
                    emit changed();
                },
                Qt::QueuedConnection);
            return wanted_.load();
        };
        // What is no plain file would keep the program that reads it waiting.
        const auto bytes = readWhole(path);
        if (bytes) loaded.digest = digestOf(*bytes);
        auto solid = bytes ? Result<Solid>(Solid{}) : Result<Solid>(tl::make_unexpected(bytes.error()));
        if (auto kept = bytes ? keptSolid(loaded.digest) : std::nullopt) {
            solid = std::move(*kept);
        } else if (bytes) {
            solid = worker_.readStep(path, {}, progress);
            if (solid) keepSolid(loaded.digest, *solid);
        }
        if (solid) {
            loaded.trouble = notesOf(*solid);
            auto read = std::make_shared<Solid>(std::move(*solid));
            auto standings = std::make_shared<std::vector<Standing>>(punch::standings(*read));
            loaded.solid = std::move(read);
            loaded.standings = std::move(standings);
        } else {
            loaded.trouble = toQt(solid.error().text());
        }
        if (loaded.solid && prepare) prepare(loaded);
        QMetaObject::invokeMethod(
            this,
            [this, then, loaded] {
                --running_;
                if (--reading_ == 0) busy_.clear();
                then(loaded);
                emit changed();
            },
            Qt::QueuedConnection);
    });
}

Result<void> SolidWork::bringIn(const QString& file) {
    const auto kept = document_.keepPicture(file);
    if (!kept) return tl::make_unexpected(kept.error());
    const auto path = sourceFile(document_.path().toStdString(), kept->toStdString());
    if (!path) return tl::make_unexpected(path.error());
    const int begun = document_.begun();
    const QString title = QFileInfo(file).completeBaseName();
    // Stood beside the window, on the part as it is now; once more where it was edited meanwhile.
    struct Stood {
        Part part;
        std::optional<StoodSolid> stood;
    };
    auto ready = std::make_shared<Stood>(Stood{document_.part(), {}});
    const auto stand = [title = title.toStdString(), name = kept->toStdString()](const Part& part, const Footprint& f,
                                                                                 const Loaded& loaded) {
        return withSolid(part, f, *loaded.solid, *loaded.standings, title, name, loaded.digest);
    };
    load(
        toQt(path->string()), QFileInfo(file).fileName(),
        [this, begun, title, path = path->string(), ready, stand](const Loaded& loaded) {
            if (begun != document_.begun()) return;
            if (!loaded.solid) return view_.say(loaded.trouble);
            loaded_[path] = loaded;
            asked_[path] = true;
            StoodSolid stood = ready->stood && ready->part == document_.part()
                                   ? std::move(*ready->stood)
                                   : stand(document_.part(), document_.footprint(), loaded);
            document_.apply(tr("body from %1").arg(title), std::move(stood.part));
            if (!stood.met)
                view_.say(loaded.standings->empty() ? tr("No leads were found in it: it stands as in its file")
                                                    : tr("Its leads meet no holes: it stands as in its file"));
            else if (!loaded.trouble.isEmpty())
                view_.say(loaded.trouble);
        },
        [ready, stand, footprint = document_.footprint()](const Loaded& loaded) {
            ready->stood = stand(ready->part, footprint, loaded);
        });
    return {};
}

void SolidWork::remove(const std::string& id) {
    Part next = document_.part();
    std::erase_if(next.solids, [&](const SolidFile& s) { return s.id == id; });
    document_.apply(tr("body removed"), std::move(next));
}

void SolidWork::cancel() {
    wanted_ = false;
    emit changed();
}

void SolidWork::onPart() {
    if (!document_.open()) return;
    if (begun_ != document_.begun()) {
        begun_ = document_.begun();
        loaded_.clear();
        asked_.clear();
        ways_.clear();
        pieces_.reset();
        piecesOf_.clear();
    }
    for (const SolidFile& s : document_.part().solids) {
        const auto path = sourceFile(document_.path().toStdString(), s.file);
        if (!path || asked_[path->string()]) continue;
        asked_[path->string()] = true;
        load(toQt(path->string()), toQt(s.name), [this, begun = begun_, at = path->string()](const Loaded& loaded) {
            if (begun != document_.begun()) return;
            loaded_[at] = loaded;
            findTouches();
        });
    }
    makePieces();
    findTouches();
    emit changed();
}

std::optional<FirstTouch> SolidWork::touch(const std::string& of, int body) const {
    const auto it = touches_.find({of, body});
    return it == touches_.end() ? std::nullopt : it->second;
}

void SolidWork::wantFace(const std::string& id) {
    faceWanted_ = id;
    emit changed();
}

const SolidWork::Loaded* SolidWork::loadedOf(const SolidFile& file) const {
    const auto path = sourceFile(document_.path().toStdString(), file.file);
    if (!path) return nullptr;
    const auto it = loaded_.find(path->string());
    return it == loaded_.end() ? nullptr : &it->second;
}

QString SolidWork::trouble(const std::string& id) const {
    const SolidFile* file = solidById(document_.part(), id);
    if (file == nullptr) return {};
    const auto path = sourceFile(document_.path().toStdString(), file->file);
    if (!path) return toQt(path.error().text());
    const Loaded* loaded = loadedOf(*file);
    return loaded == nullptr ? QString() : loaded->trouble;
}

std::shared_ptr<const Solid> SolidWork::mesh(const std::string& id) const {
    const SolidFile* file = solidById(document_.part(), id);
    const Loaded* loaded = file == nullptr ? nullptr : loadedOf(*file);
    return loaded == nullptr ? nullptr : loaded->solid;
}

bool SolidWork::fileChanged(const std::string& id) const {
    const SolidFile* file = solidById(document_.part(), id);
    const Loaded* loaded = file == nullptr ? nullptr : loadedOf(*file);
    return loaded != nullptr && loaded->solid && loaded->digest != file->digest;
}

const std::vector<FittedPose>& SolidWork::ways(const std::string& id) const {
    static const std::vector<FittedPose> none;
    const SolidFile* file = solidById(document_.part(), id);
    const Loaded* loaded = file == nullptr ? nullptr : loadedOf(*file);
    if (loaded == nullptr || !loaded->standings) return none;
    const auto sockets = socketsOf(document_.footprint());
    Ways& known = ways_[id];
    const bool same =
        known.sockets.size() == sockets.size() &&
        std::equal(sockets.begin(), sockets.end(), known.sockets.begin(),
                   [](const Socket& a, const Socket& b) { return a.id == b.id && a.at == b.at && a.size == b.size; });
    if (!same) known = {fitPoses(*loaded->standings, sockets), sockets};
    return known.poses;
}

SolidFile* SolidWork::stateOf(Part& part, const std::string& id) const {
    for (SolidFile& s : part.solids)
        if (s.id == id) return &s;
    return nullptr;
}

void SolidWork::takeWay(const std::string& id, std::size_t way) {
    const auto& all = ways(id);
    const auto solid = mesh(id);
    Part next = document_.part();
    SolidFile* s = stateOf(next, id);
    if (way >= all.size() || !solid || s == nullptr) return;
    const SolidFile was = *s;
    *s = placedBy(foundIn(*solid, all[way].standing), all[way], ways_[id].sockets);
    s->id = was.id;
    s->name = was.name;
    s->file = was.file;
    s->digest = was.digest;
    s->unknown = was.unknown;
    document_.apply(tr("body stands another way"), std::move(next));
}

template <class Change>
void SolidWork::change(const std::string& id, const QString& what, const Change& how) {
    const auto solid = mesh(id);
    Part next = document_.part();
    SolidFile* s = stateOf(next, id);
    if (s == nullptr) return;
    Result<SolidFile> changed = how(*s, solid.get());
    if (!changed) return view_.say(toQt(changed.error().text()));
    *s = std::move(*changed);
    document_.apply(what, std::move(next));
}

void SolidWork::turnBy(const std::string& id, Vec3 axis, double degrees) {
    change(id, tr("body turned"), [&](const SolidFile& s, const Solid* solid) -> Result<SolidFile> {
        // About z nothing has to be found anew.
        if (solid == nullptr && std::abs(axis.z) < 0.5) return notRead(s);
        return turnedBy(s, solid == nullptr ? Solid{} : *solid, document_.footprint(), axis, degrees);
    });
}

void SolidWork::moveBy(const std::string& id, double x, double y, double z) {
    change(id, tr("body moved"), [&](const SolidFile& s, const Solid*) -> Result<SolidFile> {
        return movedBy(s, document_.footprint(), {x, y, z});
    });
}

void SolidWork::seatOn(const std::string& id, std::size_t face) {
    change(id, tr("body seated on a face"), [&](const SolidFile& s, const Solid* solid) -> Result<SolidFile> {
        if (solid == nullptr) return notRead(s);
        return seatedOn(s, *solid, document_.footprint(), face);
    });
}

void SolidWork::centreOn(const std::string& id, const std::vector<FeatureId>& features) {
    change(id, tr("body centred"),
           [&](const SolidFile& s, const Solid*) { return centredOn(s, document_.footprint(), features); });
}

void SolidWork::setMotion(const std::string& id, const SolidMotion& motion) {
    const SolidFile* file = solidById(document_.part(), id);
    const auto solid = mesh(id);
    if (file == nullptr || !solid) return;
    ++running_;
    pool_.start([this, file = *file, solid, motion, begun = document_.begun()] {
        auto changed = std::make_shared<Result<SolidFile>>(withMotion(file, *solid, motion));
        QMetaObject::invokeMethod(
            this,
            [this, file, changed, begun] {
                --running_;
                if (begun != document_.begun()) return;
                Part next = document_.part();
                SolidFile* s = stateOf(next, file.id);
                if (!*changed)
                    view_.say(toQt(changed->error().text()));
                else if (s != nullptr && *s == file) {
                    *s = std::move(**changed);
                    document_.apply(tr("body moves"), std::move(next));
                }
                emit this->changed();
            },
            Qt::QueuedConnection);
    });
}

void SolidWork::removeMotion(const std::string& id, int body) {
    change(id, tr("body moves no more"), [&](SolidFile s, const Solid*) -> Result<SolidFile> {
        std::erase_if(s.motions, [&](const SolidMotion& m) { return m.body == body; });
        return s;
    });
}

void SolidWork::standByLeads(const std::string& id) { takeWay(id, 0); }

Result<void> SolidWork::takeLeads(const std::string& id) {
    const std::size_t before = document_.part().readings.size();
    auto next = withSolidLeads(document_.part(), document_.footprint(), id);
    if (!next) return tl::make_unexpected(next.error());
    const std::size_t more = next->readings.size() - std::min(before, next->readings.size());
    document_.apply(tr("leads of the body taken as readings"), std::move(*next));
    document_.settle();
    const auto apart = solidDisagreements(document_.part(), document_.footprint(), id);
    view_.say(
        apart.empty()
            ? tr("%1 readings taken from it; all agree").arg(more)
            : tr("%1 readings taken from it; %2 disagree: %3").arg(more).arg(apart.size()).arg(toQt(apart.front())));
    return {};
}

void SolidWork::lookAgain(const std::string& id) {
    const SolidFile* file = solidById(document_.part(), id);
    const Loaded* loaded = file == nullptr ? nullptr : loadedOf(*file);
    if (loaded == nullptr || !loaded->solid) return;
    Part next = document_.part();
    SolidFile* s = stateOf(next, id);
    *s = foundAgain(*loaded->solid, *s);
    s->digest = loaded->digest;
    document_.apply(tr("body found anew"), std::move(next));
}

void SolidWork::settle() {
    while (running_ > 0) {
        pool_.waitForDone(50);
        QCoreApplication::processEvents();
    }
    QCoreApplication::processEvents();
}

}  // namespace punch
