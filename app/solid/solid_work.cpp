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

namespace punch {
namespace {

QString notesOf(const Solid& solid) {
    QStringList words;
    for (const std::string& n : solid.notes) words << toQt(n);
    return words.join("; ");
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

void SolidWork::load(const QString& path, const QString& shown, std::function<void(Loaded)> then) {
    ++running_;
    ++reading_;
    wanted_ = true;
    share_ = 0;
    busy_ = tr("reading %1…").arg(shown);
    emit changed();
    pool_.start([this, path = path.toStdString(), then = std::move(then)] {
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
        auto solid = bytes ? worker_.readStep(path, {}, progress) : Result<Solid>(tl::make_unexpected(bytes.error()));
        if (solid) {
            loaded.trouble = notesOf(*solid);
            auto read = std::make_shared<Solid>(std::move(*solid));
            auto standings = std::make_shared<std::vector<Standing>>(punch::standings(*read));
            loaded.solid = std::move(read);
            loaded.standings = std::move(standings);
        } else {
            loaded.trouble = toQt(solid.error().text());
        }
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
    load(toQt(path->string()), QFileInfo(file).fileName(),
         [this, begun, title, name = kept->toStdString(), path = path->string()](const Loaded& loaded) {
             if (begun != document_.begun()) return;
             if (!loaded.solid) return view_.say(loaded.trouble);
             loaded_[path] = loaded;
             asked_[path] = true;
             StoodSolid stood = withSolid(document_.part(), document_.footprint(), *loaded.solid, *loaded.standings,
                                          title.toStdString(), name, loaded.digest);
             document_.apply(tr("body from %1").arg(title), std::move(stood.part));
             if (!stood.met)
                 view_.say(loaded.standings->empty() ? tr("No leads were found in it: it stands as in its file")
                                                     : tr("Its leads meet no holes: it stands as in its file"));
             else if (!loaded.trouble.isEmpty())
                 view_.say(loaded.trouble);
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
            if (begun == document_.begun()) loaded_[at] = loaded;
        });
    }
    makePieces();
    emit changed();
}

/// Made beside the window, whenever they are other ones than before.
void SolidWork::makePieces() {
    SolidsToMake all;
    all.bodies = markedPieces(document_.part(), document_.footprint());
    Packed packed;
    pack(packed, all);
    std::string now = packed.take();
    if (now == piecesOf_) return;
    piecesOf_ = now;
    if (all.bodies.empty()) {
        pieces_.reset();
        piecesTrouble_.clear();
        return;
    }
    ++running_;
    pool_.start([this, all = std::move(all), of = std::move(now)] {
        auto made = worker_.make(all);
        QMetaObject::invokeMethod(
            this,
            [this, of, made = std::make_shared<Result<Solid>>(std::move(made))] {
                --running_;
                // An edit may have overtaken it.
                if (of == piecesOf_) {
                    pieces_ = *made ? std::make_shared<const Solid>(std::move(**made)) : nullptr;
                    piecesTrouble_ = *made ? QString() : toQt(made->error().text());
                }
                emit changed();
            },
            Qt::QueuedConnection);
    });
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

/// As it stands now, by its leads or by hand.
void SolidWork::makeNumbers(SolidFile& file) const {
    for (const StandingSolid& now : document_.footprint().solids)
        if (now.id == file.id) {
            const Pose board = after(now.pose, inverse(standingPose(file)));
            file.turn = now.turn;
            file.x = board.move.x;
            file.y = board.move.y;
        }
}

void SolidWork::turnBy(const std::string& id, Vec3 axis, double degrees) {
    const auto solid = mesh(id);
    Part next = document_.part();
    SolidFile* s = stateOf(next, id);
    if (!solid || s == nullptr) return;
    makeNumbers(*s);
    const Pose before = boardPose(*s);
    const Pose turn = turnAbout(axis, degrees);
    if (std::abs(axis.z) > 0.5) {
        // About the middle of its leads, else of its outline.
        double mx = 0, my = 0, n = 0;
        for (const SolidLeadFound& l : s->leads) {
            mx += l.x;
            my += l.y;
            ++n;
        }
        if (n == 0)
            for (const auto& p : s->outline) {
                mx += p[0];
                my += p[1];
                ++n;
            }
        Pose board = turnAbout({0, 0, 1}, s->turn);
        board.move = {s->x, s->y, 0};
        const Vec3 was = board({n > 0 ? mx / n : 0, n > 0 ? my / n : 0, 0});
        s->turn = std::remainder(s->turn + (axis.z > 0 ? degrees : -degrees), 360.0);
        board = turnAbout({0, 0, 1}, s->turn);
        const Vec3 is = board({n > 0 ? mx / n : 0, n > 0 ? my / n : 0, 0});
        s->x = was.x - is.x;
        s->y = was.y - is.y;
    } else {
        // Another side is down: found anew, its middle stays.
        const Vec3 middle = [&] {
            const Box3 box = boundsOf(*solid);
            return 0.5 * (box.low + box.high);
        }();
        const Vec3 was = before(middle);
        const Pose turned = after(turn, before);
        s->down = inverse(turned).turned({0, 0, -1});
        *s = foundAgain(*solid, *s);
        // How it is turned about z then: x of the board in the new standing.
        const Pose stands = standingPose(*s);
        const Pose flat = after(turned, inverse(stands));
        s->turn = std::atan2(flat.x.y, flat.x.x) * 180 / M_PI;
        s->x = s->y = 0;
        const Vec3 is = boardPose(*s)(middle);
        s->x = was.x - is.x;
        s->y = was.y - is.y;
        for (SolidLeadFound& l : s->leads) l.of.clear();
    }
    s->byLeads = false;
    document_.apply(tr("body turned"), std::move(next));
}

void SolidWork::moveBy(const std::string& id, double x, double y, double z) {
    Part next = document_.part();
    SolidFile* s = stateOf(next, id);
    if (s == nullptr) return;
    makeNumbers(*s);
    s->x += x;
    s->y += y;
    s->lift += z;
    s->byLeads = s->byLeads && x == 0 && y == 0;
    document_.apply(tr("body moved"), std::move(next));
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
