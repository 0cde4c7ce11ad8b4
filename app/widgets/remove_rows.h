#pragma once
// Rows that are made anew at each refresh.

#include <QLayout>
#include <QLayoutItem>
#include <QWidget>

namespace punch {

/// Empties the layout. Its widgets go once control is back in the event loop: one of them may have asked for it.
inline void removeRows(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget() != nullptr) item->widget()->deleteLater();
        delete item;
    }
}

}  // namespace punch
