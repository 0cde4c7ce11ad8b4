#include "app/board/board_model.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>

#include "app/qt_text.h"

namespace punch {

BoardModel::BoardModel(QObject* parent) : QObject(parent) {
    states_.push_back({});
    pool_.setMaxThreadCount(1);
    save_.setSingleShot(true);
    save_.setInterval(800);
    connect(&save_, &QTimer::timeout, this, &BoardModel::write);
    reread_.setSingleShot(true);
    reread_.setInterval(200);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &reread_, qOverload<>(&QTimer::start));
    connect(&reread_, &QTimer::timeout, this, [this] {
        cache_.clear();
        refresh();
    });
}

BoardModel::~BoardModel() {
    if (save_.isActive()) write();
    pool_.waitForDone();
}

QString BoardModel::folder() const { return QFileInfo(path_).absolutePath(); }

QString BoardModel::named(const QString& file) const { return QDir(folder()).relativeFilePath(file); }

Result<void> BoardModel::open(const QString& path) {
    // What the one before is waiting with goes into its own file.
    if (save_.isActive()) {
        save_.stop();
        write();
    }
    TrialBoard board;
    if (QFileInfo::exists(path)) {
        auto read = loadBoard(path.toStdString());
        if (!read) return tl::make_unexpected(read.error());
        board = std::move(*read);
    } else {
        board.name = QFileInfo(path).completeBaseName().toStdString();
        if (const auto saved = saveBoard(board, path.toStdString()); !saved) return saved;
    }
    path_ = QFileInfo(path).absoluteFilePath();
    states_ = {{std::move(board), {}}};
    at_ = 0;
    cache_.clear();
    refresh();
    return {};
}

void BoardModel::apply(const QString& what, TrialBoard next) {
    if (next == board()) return;
    states_.resize(at_ + 1);
    states_.push_back({std::move(next), what});
    ++at_;
    save_.start();
    refresh();
}

void BoardModel::applyMoving(const QString& what, TrialBoard next) {
    if (next == board()) return;
    if (at_ > 0 && at_ + 1 == states_.size() && states_[at_].what == what) {
        states_[at_].board = std::move(next);
        save_.start();
        refresh();
    } else {
        apply(what, std::move(next));
    }
}

void BoardModel::undo() {
    if (at_ == 0) return;
    --at_;
    save_.start();
    refresh();
}

void BoardModel::redo() {
    if (at_ + 1 >= states_.size()) return;
    ++at_;
    save_.start();
    refresh();
}

void BoardModel::write() {
    if (path_.isEmpty()) return;
    if (const auto saved = saveBoard(board(), path_.toStdString()); !saved)
        emit failed(tr("Not saved. %1").arg(toQt(saved.error().text())));
}

void BoardModel::readParts() {
    const TrialBoard& b = board();
    TrialBoard missing;
    for (const Placing& p : b.placings)
        if (!cache_.contains({p.file, p.designator})) missing.placings.push_back(p);
    auto read = boardParts(missing, folder().toStdString());
    for (std::size_t i = 0; i < read.size(); ++i)
        cache_[{missing.placings[i].file, missing.placings[i].designator}] = {
            std::make_shared<const BoardPart>(std::move(read[i]))};
    parts_.clear();
    QStringList files;
    for (const Placing& p : b.placings) {
        parts_.push_back(cache_[{p.file, p.designator}].part);
        const QString file = QDir(folder()).filePath(toQt(p.file));
        if (QFileInfo::exists(file)) files << file;
    }
    for (const QString& file : files)
        if (!watcher_.files().contains(file)) watcher_.addPath(file);
}

void BoardModel::refresh() {
    readParts();
    ++generation_;
    emit changed();
    begin();
}

void BoardModel::begin() {
    if (running_) return;
    running_ = true;
    pool_.start([this, board = board(), parts = parts_, generation = generation_] {
        std::vector<BoardPart> copies;
        for (const auto& p : parts) copies.push_back(*p);
        auto laid = std::make_shared<LaidBoard>(laidBoard(board, std::move(copies)));
        BoardJudgement judgement = judged(*laid);
        QMetaObject::invokeMethod(
            this, [this, generation, laid, judgement] { arrived(generation, laid, judgement); }, Qt::QueuedConnection);
    });
}

void BoardModel::arrived(quint64 generation, std::shared_ptr<LaidBoard> laid, BoardJudgement judgement) {
    running_ = false;
    laid_ = std::move(*laid);
    judgement_ = std::move(judgement);
    judgedGeneration_ = generation;
    emit judgedNew();
    if (generation != generation_) begin();
}

void BoardModel::settle() {
    while (judgedGeneration_ != generation_) {
        begin();
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(this);
    }
    if (save_.isActive()) {
        save_.stop();
        write();
    }
}

}  // namespace punch
