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

/// The commands in which every word of `asked` occurs; those that have them as whole words first, then those
/// that have words beginning with them.
std::vector<const Command*> matching(const std::vector<Command>& commands, const QString& asked);

}  // namespace punch
