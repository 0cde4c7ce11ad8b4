#pragma once
// Every command by name, with its shortcut: what the ask box offers, and what the keys do.

#include <QKeySequence>
#include <QString>
#include <functional>
#include <vector>

namespace punch {

struct Command {
    QString name;
    QKeySequence keys;  ///< may be empty
    std::function<void()> run;
    QString what;  ///< a few more words to be found by; may be empty
};

/// The commands in which every word of `asked` occurs; those with the most words that begin one of theirs first.
std::vector<const Command*> matching(const std::vector<Command>& commands, const QString& asked);

}  // namespace punch
