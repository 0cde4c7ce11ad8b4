#pragma once
// The marks of a part as a list grouped by what they are for, and a menu that adds one.

#include <QPushButton>
#include <QVBoxLayout>

#include "app/document.h"
#include "app/view_state.h"
#include "core/part/mark_kinds.h"

namespace punch {

class MarkList : public QWidget {
    Q_OBJECT
public:
    MarkList(Document& document, ViewState& view, QWidget* parent = nullptr);
    void refresh();
    /// Adds a mark as it is offered, and chooses it.
    void addMark(MarkKind kind);
    QWidget* addButton() const { return add_; }

private:
    Document& document_;
    ViewState& view_;
    QVBoxLayout* rows_;
    QPushButton* add_;
};

/// "its outline crosses itself", "loose", "cut away from an opening"; empty when all is well.
QString markState(const Footprint& footprint, const std::string& id, bool* bad = nullptr);

}  // namespace punch
