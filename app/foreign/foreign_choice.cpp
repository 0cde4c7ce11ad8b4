#include "app/foreign/foreign_choice.h"

#include <QCoreApplication>
#include <cmath>
#include <set>

#include "app/qt_text.h"
#include "core/derive.h"
#include "core/foreign/take_in.h"
#include "core/part/file.h"

namespace punch {

Result<ForeignFile> openForeign(const QStringList& files) {
    if (files.size() == 1 && files.front().endsWith(kFileSuffix)) {
        const auto part = loadPart(files.front().toStdString());
        if (!part) return tl::make_unexpected(part.error());
        const Footprint f = derive(*part);
        if (!patternOf(*part, f))
            return problem("its pads are loose: nothing can be laid onto them", part->name, "Read what it asks for");
        return ForeignFile{{foreignOf(*part, f)}, {}};
    }
    std::vector<std::string> names;
    for (const QString& file : files) names.push_back(file.toStdString());
    return readForeign(names);
}

QString foreignFilter() {
    return QCoreApplication::translate("punch", "Parts, Gerber and drill files together, IPC-2581, tables "
                                                "(*.punch *.gbr *.ger *.gtl *.gbl *.art *.drl *.xnc *.nc *.xml *.cvg *.csv *.txt);;Any file (*)");
}

std::set<std::size_t> groupOf(const PadPattern& pattern, std::size_t pad, double reach) {
    std::set<std::size_t> group{pad};
    std::vector<std::size_t> open{pad};
    while (!open.empty()) {
        const PatternPad& a = pattern.pads[open.back()];
        open.pop_back();
        for (std::size_t i = 0; i < pattern.pads.size(); ++i) {
            if (group.contains(i)) continue;
            const PatternPad& b = pattern.pads[i];
            const double edges = (std::max(a.land, a.hole) + std::max(b.land, b.hole)) / 2;
            if (std::hypot(a.x - b.x, a.y - b.y) - edges > reach) continue;
            group.insert(i);
            open.push_back(i);
        }
    }
    return group;
}

}  // namespace punch
