#pragma once
// The part on the bench: its states for undo, its footprint, its file, and its recovery copy.
//
// Small parts are derived at once. A large one is derived on another thread: the part is new at once, its footprint
// and the signal changed() follow, and an edit that comes meanwhile overtakes what is being derived.

#include <QObject>
#include <QString>
#include <QThreadPool>
#include <QTimer>
#include <vector>

#include "core/derive.h"
#include "core/part/edit.h"

namespace punch {

class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override { pool_.waitForDone(); }

    bool open() const { return !states_.empty(); }
    /// Counts the parts that were put on the bench: another number is another part.
    int begun() const { return begun_; }
    const Part& part() const { return states_[at_].part; }
    /// That of the part, or of a state shortly before it while a large part is being derived.
    const Footprint& footprint() const { return footprint_; }
    /// That of the part as it was before the last edit, and as it was last saved or opened; empty ones when there is
    /// none.
    const Footprint& footprintBefore() const { return before_; }
    const Footprint& footprintSaved() const { return savedFootprint_; }
    bool settled() const { return settled_; }
    /// Waits until the footprint is that of the part.
    void settle();
    const QString& path() const { return path_; }
    bool dirty() const { return open() && part() != saved_; }
    /// As the file was when it was last read or written.
    const Part& saved() const { return saved_; }
    /// The file holds this now, whoever wrote it.
    void setSaved(const Part& part);

    /// Puts a new part on the bench.
    void begin(const Part& part, const QString& path = {});
    Result<void> load(const QString& path);
    /// Errors keep the document as it is; nothing typed is lost.
    Result<void> save();
    Result<void> saveAs(const QString& path);
    /// Copies a picture into the folder NAME-sources beside the part's file and gives its name from there.
    /// Errors: the part has no file yet, the picture cannot be read, the folder cannot be written.
    Result<QString> keepPicture(const QString& picture) const;
    void close();

    /// Makes `next` the part's state, under a name that undo shows. Nothing happens when it is no change.
    void apply(const QString& what, Part next);
    /// The same, but one after another under one name is one step of undo (typing into a text).
    void applyTyping(const QString& what, Part next);
    void undo();
    void redo();
    QString undoName() const;
    QString redoName() const;

    /// The recovery copy of a file, when it holds work that the file does not. Empty when there is none.
    static QString recoverable(const QString& path);
    void dropRecovery();
    static void dropRecoveryOf(const QString& path);
    /// A finer run of drop-in than the footprint came with.
    void setDropIn(const DropInShare& share);
    /// Takes the recovery copy as an undoable change of the loaded part.
    Result<void> takeRecovery();
    void writeRecoveryNow();

signals:
    void edited();       ///< the part is about to become another: what was said of it is over
    void changed();      ///< part and footprint are new
    void fileChanged();  ///< path or dirty
    void failed(const QString& message);

private:
    struct State {
        Part part;
        QString what;
    };
    /// Copies what the sources name beside another file of the part, where it is not there yet.
    Result<void> takePicturesTo(const QString& path) const;
    static QString recoveryFile(const QString& path);
    QString ownRecoveryFile() const;
    void startRecovery();
    void refresh();
    void show(Footprint footprint);
    void deriveElsewhere();
    void arrived(quint64 generation, Footprint footprint);
    std::vector<State> states_;
    std::size_t at_ = 0;
    Part saved_;
    QString unnamed_;  ///< recovery file of a part that has no file yet; one for each window
    Footprint footprint_, before_, savedFootprint_;
    QString path_;
    QTimer recoveryTimer_;
    bool settled_ = true;
    int begun_ = 0;
    bool deriving_ = false;
    quint64 generation_ = 0;  ///< counts the states that were to be derived
    QThreadPool pool_;
};

}  // namespace punch
