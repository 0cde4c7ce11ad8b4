#pragma once
// The chosen mark: its name, what its kind has, its places with what they hold on. Built anew only when what it has
// changes, so that typing keeps its field.

#include <QComboBox>
#include <QGridLayout>
#include <QVBoxLayout>
#include <functional>
#include <vector>

#include "app/document.h"
#include "app/stations/typed_edit.h"
#include "app/view_state.h"
#include "core/part/mark_kinds.h"

namespace punch {

class MarkEditor : public QFrame {
    Q_OBJECT
public:
    MarkEditor(Document& document, ViewState& view, QWidget* parent = nullptr);
    void refresh();
    /// The Tab key comes here from that widget.
    void setAfter(QWidget* widget) { after_ = widget; }

    /// A logo's figure from a file. What is wrong with it, and what was left out, is said.
    void bringIn(const QString& file);

private:
    const Mark* mark() const;
    void change(const QString& what, const std::function<void(Mark&)>& how);
    Result<void> setValue(const MarkField& field, const std::string& typed);
    void build(const Mark& mark);
    void addField(const Mark& mark, const MarkField& field);
    void addPlace(const Mark& mark, std::size_t index);
    void addHold(QGridLayout* grid, int row, const Mark& shown, std::size_t index, bool alongX);
    void addButtons(const Mark& mark);
    /// What of the mark decides which fields there are.
    std::string shapeOf(const Mark& mark) const;

    Document& document_;
    ViewState& view_;
    QVBoxLayout* box_;
    QWidget* inner_ = nullptr;
    QWidget* after_ = nullptr;
    std::string shape_;
    std::vector<std::function<void(const Mark&)>> shows_;
};

/// Features that a place along x (or y) may hold on, with their words.
std::vector<std::pair<FeatureId, QString>> holdChoices(const Part& part, const std::string& mark, bool alongX);

}  // namespace punch
