#include "app/document.h"
#include "app/qt_text.h"

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSaveFile>
#include <QStandardPaths>

#include "core/base/atomic_file.h"
#include "core/part/file.h"
#include "core/part/source_file.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {
constexpr std::size_t kMostStates = 1000;
// A copy is due this long after the first edit that it lacks, however fast the next ones come.
constexpr int kRecoveryDelayMs = 1000;
/// Pins and readings from which on a part is derived on another thread: about a frame's time.
constexpr std::size_t kLarge = 350;

bool isLarge(const Part& part) {
    std::size_t size = part.readings.size();
    for (const Formation& f : part.formations) size += f.pins.size();
    return size > kLarge;
}
}  // namespace

Document::Document(QObject* parent) : QObject(parent) {
    unnamed_ =
        QString("unnamed-%1-%2").arg(QCoreApplication::applicationPid()).arg(reinterpret_cast<quintptr>(this), 0, 16);
    recoveryTimer_.setSingleShot(true);
    recoveryTimer_.setInterval(kRecoveryDelayMs);
    connect(&recoveryTimer_, &QTimer::timeout, this, &Document::writeRecoveryNow);
}

void Document::startRecovery() {
    if (!recoveryTimer_.isActive()) recoveryTimer_.start();
}

void Document::begin(const Part& part, const QString& path) {
    emit edited();
    states_ = {{part, {}}};
    ++begun_;
    footprint_ = {};
    at_ = 0;
    path_ = path;
    saved_ = path.isEmpty() ? Part{} : part;
    refresh();
    emit fileChanged();
}

Result<void> Document::load(const QString& path) {
    auto part = loadPart(path.toStdString());
    if (!part) return tl::make_unexpected(part.error());
    begin(*part, path);
    return {};
}

void Document::setSaved(const Part& part) {
    saved_ = part;
    emit fileChanged();
}

Result<void> Document::save() {
    if (path_.isEmpty()) return problem("the part has no file yet", {}, "Choose one with Save as");
    return saveAs(path_);
}

namespace {

/// A large scan is not held in memory for this; the copy appears whole or not at all.
bool copyWhole(QFile& from, const QString& to) {
    QSaveFile kept(to);
    if (!kept.open(QIODevice::WriteOnly) || !from.seek(0)) return false;
    std::vector<char> block(1 << 20);
    for (qint64 n = 0; (n = from.read(block.data(), static_cast<qint64>(block.size()))) != 0;)
        if (n < 0 || kept.write(block.data(), n) != n) return false;
    return kept.commit();
}

}  // namespace

Result<void> Document::takePicturesTo(const QString& path) const {
    const QDir from = QFileInfo(path_).dir();
    const QDir to = QFileInfo(path).dir();
    if (path_.isEmpty() || from == to) return {};
    std::vector<std::string> files;
    for (const Source& s : part().sources) files.push_back(s.picture);
    for (const SolidFile& s : part().solids) files.push_back(s.file);
    for (const std::string& named : files) {
        const QString name = QString::fromStdString(named);
        // What a stranger's part names outside its folder is neither read nor written anywhere.
        if (name.isEmpty() || !sourceFile(path_.toStdString(), named) || !sourceFile(path.toStdString(), named) ||
            QFileInfo::exists(to.filePath(name)) || !QFileInfo(from.filePath(name)).isFile())
            continue;
        QFile kept(from.filePath(name));
        const QFileInfo file(to.filePath(name));
        if (!to.mkpath(file.path()) || !kept.open(QIODevice::ReadOnly) || !copyWhole(kept, file.filePath()))
            return problem("the pictures of the part cannot be kept there", file.filePath().toStdString(),
                           "Check whether there is room for them");
    }
    return {};
}

Result<void> Document::saveAs(const QString& path) {
    // The pictures first: a part never stands anywhere without its evidence.
    if (auto kept = takePicturesTo(path); !kept) return kept;
    auto done = savePart(part(), path.toStdString());
    if (!done) return done;
    dropRecovery();
    recoveryTimer_.stop();
    path_ = path;
    saved_ = part();
    settle();
    savedFootprint_ = footprint_;
    emit fileChanged();
    return {};
}

Result<QString> Document::keepPicture(const QString& picture) const {
    if (path_.isEmpty())
        return problem("the part has no file yet", "picture",
                       "Save the part first, so that its pictures have a place beside it");
    QFile from(picture);
    const auto failed = [&](const QString& why) {
        return problem(why.toStdString(), picture.toStdString(), "Check whether there is room beside the part");
    };
    if (!from.open(QIODevice::ReadOnly)) return failed(tr("the file cannot be opened"));
    const QFileInfo part(path_);
    const QString folder = part.completeBaseName() + "-sources";
    // By its content, so that two pictures of one name do not meet, and one that comes twice is kept once.
    QCryptographicHash hash(QCryptographicHash::Sha256);
    if (!hash.addData(&from)) return failed(tr("the file cannot be read"));
    const QString name = hash.result().toHex().left(12) + " " + QFileInfo(picture).fileName();
    const QString to = part.dir().filePath(folder + "/" + name);
    if (QFileInfo(to).size() == from.size() && QFileInfo(to).isFile()) return folder + "/" + name;
    if (!part.dir().mkpath(folder)) return failed(tr("the folder %1 cannot be made").arg(folder));
    if (!copyWhole(from, to)) return failed(tr("the file cannot be kept in %1").arg(folder));
    return folder + "/" + name;
}

void Document::close() {
    states_.clear();
    path_.clear();
    footprint_ = {};
    settled_ = true;
    recoveryTimer_.stop();
    emit fileChanged();
}

void Document::apply(const QString& what, Part next) {
    if (!open() || next == part()) return;
    emit edited();
    states_.resize(at_ + 1);
    states_.push_back({std::move(next), what});
    if (states_.size() > kMostStates) states_.erase(states_.begin());
    at_ = states_.size() - 1;
    startRecovery();
    refresh();
    emit fileChanged();
}

void Document::applyTyping(const QString& what, Part next) {
    const bool goesOn = open() && at_ > 0 && at_ + 1 == states_.size() && states_[at_].what == what;
    if (!goesOn) return apply(what, std::move(next));
    emit edited();
    states_[at_].part = std::move(next);
    startRecovery();
    refresh();
    emit fileChanged();
}

void Document::undo() {
    if (!open() || at_ == 0) return;
    emit edited();
    --at_;
    startRecovery();
    refresh();
    emit fileChanged();
}

void Document::redo() {
    if (!open() || at_ + 1 >= states_.size()) return;
    emit edited();
    ++at_;
    startRecovery();
    refresh();
    emit fileChanged();
}

QString Document::undoName() const { return open() && at_ > 0 ? states_[at_].what : QString(); }
QString Document::redoName() const { return open() && at_ + 1 < states_.size() ? states_[at_ + 1].what : QString(); }

void Document::refresh() {
    ++generation_;
    if (isLarge(part()) && !footprint_.gauges.empty()) {
        settled_ = false;
        if (!deriving_) deriveElsewhere();
        return;
    }
    show(derive(part()));
}

void Document::show(Footprint footprint) {
    before_ = std::move(footprint_);
    footprint_ = std::move(footprint);
    if (before_.gauges.empty()) savedFootprint_ = footprint_;
    settled_ = true;
    emit changed();
}

void Document::deriveElsewhere() {
    deriving_ = true;
    pool_.start([this, copy = part(), generation = generation_] {
        Footprint footprint = derive(copy);
        QMetaObject::invokeMethod(
            this, [this, generation, f = std::move(footprint)]() mutable { arrived(generation, std::move(f)); },
            Qt::QueuedConnection);
    });
}

void Document::setDropIn(const DropInShare& share) {
    punch::setDropIn(part(), footprint_, share);
    emit changed();
}

void Document::arrived(quint64 generation, Footprint footprint) {
    deriving_ = false;
    if (!open() || settled_) return;
    if (generation != generation_) {
        // Newer input came meanwhile: this one is not shown.
        deriveElsewhere();
        return;
    }
    show(std::move(footprint));
}

void Document::settle() {
    if (settled_ || !open()) return;
    ++generation_;
    show(derive(part()));
}

namespace {
QString recoveryFolder() { return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovery"; }
}  // namespace

QString Document::recoveryFile(const QString& path) {
    if (!path.isEmpty()) {
        const QByteArray key = QFileInfo(path).absoluteFilePath().toUtf8();
        return recoveryFolder() + "/" +
               QString::fromLatin1(QCryptographicHash::hash(key, QCryptographicHash::Sha1).toHex()) + kFileSuffix;
    }
    // Parts without a file: each window has its own copy; the newest one whose window is gone.
    const QFileInfoList all =
        QDir(recoveryFolder()).entryInfoList({QString("unnamed*%1").arg(kFileSuffix)}, QDir::Files, QDir::Time);
    for (const QFileInfo& file : all) {
        const QStringList words = file.completeBaseName().split('-');
        const bool alive = words.size() > 1 && QFileInfo::exists("/proc/" + words[1]);
        if (!alive || words[1].toLongLong() == QCoreApplication::applicationPid()) return file.filePath();
    }
    return {};
}

QString Document::ownRecoveryFile() const {
    return path_.isEmpty() ? recoveryFolder() + "/" + unnamed_ + kFileSuffix : recoveryFile(path_);
}

QString Document::recoverable(const QString& path) {
    const QString copy = recoveryFile(path);
    if (copy.isEmpty() || !QFile::exists(copy)) return {};
    const auto kept = loadPart(copy.toStdString());
    if (!kept) return {};
    if (!path.isEmpty())
        if (const auto now = loadPart(path.toStdString()); now && *now == *kept) return {};
    return copy;
}

void Document::dropRecovery() { QFile::remove(ownRecoveryFile()); }

void Document::dropRecoveryOf(const QString& path) {
    if (const QString file = recoveryFile(path); !file.isEmpty()) QFile::remove(file);
}

Result<void> Document::takeRecovery() {
    const QString file = recoveryFile(path_);
    auto kept = loadPart(file.toStdString());
    if (!kept) return tl::make_unexpected(kept.error());
    if (open())
        apply(tr("recovered work"), *kept);
    else
        begin(*kept);
    // What was taken is this window's now.
    if (path_.isEmpty()) {
        writeRecoveryNow();
        if (file != ownRecoveryFile()) QFile::remove(file);
    }
    return {};
}

void Document::writeRecoveryNow() {
    recoveryTimer_.stop();
    if (!open()) return;
    if (!dirty()) {
        dropRecovery();
        return;
    }
    const QString copy = ownRecoveryFile();
    QDir().mkpath(QFileInfo(copy).path());
    if (const auto done = savePart(part(), copy.toStdString()); !done)
        emit failed(tr("The recovery copy could not be written. %1").arg(toQt(done.error().text())));
}

}  // namespace punch
