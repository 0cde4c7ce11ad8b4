#pragma once
// The trial board in its window: its states for undo, its parts as read from their files, and what is judged of it,
// beside the window. It is kept in its file as it is worked on: a crash loses no more than a second.

#include <QFileSystemWatcher>
#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <map>
#include <memory>

#include "core/board/board_check.h"

namespace punch {

class BoardModel : public QObject {
    Q_OBJECT
public:
    explicit BoardModel(QObject* parent = nullptr);
    ~BoardModel() override;

    /// Errors: as loadBoard. Without the file a new board begins there.
    Result<void> open(const QString& path);
    const QString& path() const { return path_; }
    QString folder() const;
    const TrialBoard& board() const { return states_[at_].board; }
    /// One for each placing, in their order.
    const std::vector<std::shared_ptr<const BoardPart>>& parts() const { return parts_; }
    /// As it was last judged; of a state shortly before while something is moved.
    const LaidBoard& laid() const { return laid_; }
    const BoardJudgement& judgement() const { return judgement_; }
    /// Waits until what is judged is the board as it is, and writes its file.
    void settle();

    void apply(const QString& what, TrialBoard next);
    /// The same, but one after another under one name is one step of undo: a drag.
    void applyMoving(const QString& what, TrialBoard next);
    void undo();
    void redo();
    QString undoName() const { return at_ > 0 ? states_[at_].what : QString(); }
    /// A part's file, named from the board's folder.
    QString named(const QString& file) const;

signals:
    void changed();  ///< the board is another
    void judgedNew();
    void failed(const QString& message);

private:
    struct State {
        TrialBoard board;
        QString what;
    };
    struct Kept {
        std::shared_ptr<const BoardPart> part;
    };
    void refresh();
    void readParts();
    void begin();
    void arrived(quint64 generation, std::shared_ptr<LaidBoard> laid, BoardJudgement judgement);
    void write();
    std::vector<State> states_;
    std::size_t at_ = 0;
    QString path_;
    std::map<std::pair<std::string, std::string>, Kept> cache_;  ///< by file and designator
    std::vector<std::shared_ptr<const BoardPart>> parts_;
    LaidBoard laid_;
    BoardJudgement judgement_;
    QFileSystemWatcher watcher_;
    QTimer save_, reread_;
    QThreadPool pool_;
    quint64 generation_ = 0, judgedGeneration_ = 0;
    bool running_ = false;
};

}  // namespace punch
