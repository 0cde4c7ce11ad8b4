#include "app/commands.h"

#include <QRegularExpression>
#include <QStringList>
#include <algorithm>

namespace punch {

std::vector<const Command*> matching(const std::vector<Command>& commands, const QString& asked) {
    const QStringList words = asked.split(QRegularExpression("\\s+"), Qt::SkipEmptyParts);
    std::vector<std::pair<int, const Command*>> ranked;
    for (const Command& c : commands) {
        bool all = true;
        int rank = 0;
        const QString text = " " + c.name + " " + c.what;
        for (const QString& w : words) {
            all &= text.contains(w, Qt::CaseInsensitive);
            // A whole word before the beginning of one, in the name before what stands behind it.
            const QRegularExpression whole("\\b" + QRegularExpression::escape(w) + "\\b",
                                           QRegularExpression::CaseInsensitiveOption);
            rank += c.name.contains(whole)                        ? 4
                    : text.contains(whole)                        ? 3
                    : text.contains(" " + w, Qt::CaseInsensitive) ? 1
                                                                  : 0;
        }
        if (all) ranked.emplace_back(rank, &c);
    }
    // Of equals the one of fewer words is the closer one. Asked for nothing, all come in their own order.
    if (!words.isEmpty())
        std::stable_sort(ranked.begin(), ranked.end(), [](const auto& a, const auto& b) {
            const auto length = [](const Command* c) { return c->name.size() + c->what.size(); };
            return a.first != b.first ? a.first > b.first : length(a.second) < length(b.second);
        });
    std::vector<const Command*> found;
    for (const auto& entry : ranked) found.push_back(entry.second);
    return found;
}

}  // namespace punch
