#pragma once
// What every control says when the mouse rests on it, by its name. Fields of core/part/field_lists say their own.

#include <QWidget>

namespace punch {

/// Gives its tip to every control under `root` that has none and is in the table.
void giveTips(QWidget* root);

}  // namespace punch
