#pragma once
// Files of others, opened for comparing or taking in: their patterns to choose from, and what was left out of them.

#include <QComboBox>
#include <QStringList>
#include <set>

#include "app/widgets/wrapped_label.h"
#include "core/foreign/foreign_pads.h"

namespace punch {

/// A part's pads, where it is one, else what readForeign() reads. Errors: as readForeign, or as loadPart; a part that
/// is loose.
Result<ForeignFile> openForeign(const QStringList& files);

/// What the file dialog offers.
QString foreignFilter();

/// The pads that belong together with one of them: each within `reach` (mm, edge to edge) of another.
std::set<std::size_t> groupOf(const PadPattern& pattern, std::size_t pad, double reach);

}  // namespace punch
