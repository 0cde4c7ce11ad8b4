#include "app/commands.h"

#include <QRegularExpression>
#include <QStringList>

namespace punch {

std::vector<const Command*> matching(const std::vector<Command>& commands, const QString& asked) {
    const QStringList words = asked.split(QRegularExpression("\\s+"), Qt::SkipEmptyParts);
    std::vector<const Command*> found;
    for (const Command& c : commands) {
        bool all = true;
        for (const QString& w : words) all &= c.name.contains(w, Qt::CaseInsensitive) || c.what.contains(w, Qt::CaseInsensitive);
        if (all) found.push_back(&c);
    }
    return found;
}

}  // namespace punch
