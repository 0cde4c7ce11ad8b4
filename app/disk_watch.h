#pragma once
// The part's file as another program leaves it: what changed there is taken over, merged with what was not saved yet,
// or asked about; nothing that was typed is lost, and nothing that somebody else wrote is written over unseen.

#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>

#include "app/document.h"
#include "app/view_state.h"

namespace punch {

class DiskWatch : public QObject {
    Q_OBJECT
public:
    DiskWatch(Document& document, ViewState& view, QWidget* window);
    /// Looks at the file now. False: both say different things of one fact, and the user has not decided; then nothing
    /// may be written.
    bool look();

    /// What is done where both say different things: set in tests, else asked.
    enum class Choice { Ask, Mine, Theirs, Wait };
    void setChoice(Choice choice) { choice_ = choice; }

private:
    Choice ask(const std::vector<std::string>& conflicts);
    void watch();
    Document& document_;
    ViewState& view_;
    QWidget* window_;
    QFileSystemWatcher watcher_;
    QTimer rest_;
    Choice choice_ = Choice::Ask;
    bool asking_ = false;
};

}  // namespace punch
