#pragma once
// A station's column of fields: groups with a title, one labelled field a line, scrolling when it is long.

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <functional>
#include <map>

#include "app/document.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "app/view_state.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"
#include "core/part/field_lists.h"

namespace punch {

class FormColumn : public QScrollArea {
    Q_OBJECT
public:
    FormColumn(Document& document, ViewState& view, QWidget* parent = nullptr);

    /// Gives the keyboard to the field of a rule ("ring", "pegClearance") and shows it. False when it is not here.
    bool goTo(const QString& field);

protected:
    QLabel* title(const QString& words);
    WrappedLabel* note(const QString& words = {});
    QHBoxLayout* row(const QString& label, QWidget* field, const QString& name = {});
    /// A field over the column's whole width, under its label.
    void wideRow(const QString& label, QWidget* field, const QString& name);
    void add(QWidget* widget) { box_->addWidget(widget); }
    /// A widget over the whole width that has a name, so that it can be shown, hidden and gone to.
    void own(const QString& name, QWidget* widget);
    /// A row and its label, by the name of its field.
    void setRowVisible(const QString& name, bool visible);
    /// A link that shows and hides these rows and widgets; hidden at first.
    QPushButton* more(const QString& words, const QStringList& rows, const std::vector<QWidget*>& widgets = {});
    void stretch() { box_->addStretch(1); }
    /// How many things stand in the column so far.
    int place() const { return box_->count(); }
    /// Shows or hides what stands from one place up to another.
    void showBetween(int from, int to, bool visible);
    /// Called after every change of the part or the view while the column is seen, and when it comes to be seen;
    /// subclasses show the part's values.
    virtual void refresh() = 0;
    void connectRefresh();

    /// A field bound to a length of the part. `name` is the rule's name in the file.
    LengthEdit* length(const QString& label, const QString& name, std::function<Length(const Part&)> get,
                       std::function<void(Part&, Length)> set, Length least = {}, Length most = Length::fromMm(100));
    QCheckBox* check(const QString& label, const QString& name, std::function<bool(const Part&)> get,
                     std::function<void(Part&, bool)> set);

    QLineEdit* number(const QString& label, const QString& name, Range range, std::function<double(const Part&)> get,
                      std::function<void(Part&, double)> set);
    /// Lengths in one line, each above 0 and up to `most`.
    QLineEdit* lengths(const QString& label, const QString& name, Length most,
                       std::function<std::vector<Length>(const Part&)> get,
                       std::function<void(Part&, std::vector<Length>)> set);
    /// A choice among words, by their index.
    QComboBox* choice(const QString& label, const QString& name, const QStringList& words,
                      std::function<int(const Part&)> get, std::function<void(Part&, int)> set);

    /// The row of a field of a list (core/part/field_lists), named as the list names it. `in` gives its structure in a
    /// part: `[](auto& part) -> auto& { return part.rules; }`.
    template <class S, class In>
    QWidget* field(const std::vector<Field<S>>& list, const char* name, In in) {
        const Field<S>& f = fieldNamed(list, name);
        const QString label = tr(f.label);
        QWidget* widget = std::visit(
            [&](const auto& m) -> QWidget* {
                using M = std::decay_t<decltype(m)>;
                if constexpr (std::is_same_v<M, Choice<S>>) {
                    QStringList words;
                    for (std::size_t i = 0; i < m.words.size(); ++i)
                        words << (f.words.empty() ? toQt(std::string(m.words[i])) : tr(f.words[i]));
                    return choice(
                        label, f.name, words, [in, m](const Part& p) { return m.get(in(p)); },
                        [in, m](Part& p, int at) { m.set(in(p), at); });
                } else if constexpr (std::is_same_v<M, Length S::*>) {
                    return length(
                        label, f.name, [in, m](const Part& p) { return in(p).*m; },
                        [in, m](Part& p, Length l) { in(p).*m = l; }, Length::fromMm(f.range.least),
                        Length::fromMm(f.range.most));
                } else if constexpr (std::is_same_v<M, double S::*>) {
                    return number(
                        label, f.name, f.range, [in, m](const Part& p) { return in(p).*m; },
                        [in, m](Part& p, double value) { in(p).*m = value; });
                } else if constexpr (std::is_same_v<M, bool S::*>) {
                    return check(
                        label, f.name, [in, m](const Part& p) { return in(p).*m; },
                        [in, m](Part& p, bool on) { in(p).*m = on; });
                } else if constexpr (std::is_same_v<M, std::vector<Length> S::*>) {
                    return lengths(
                        label, f.name, Length::fromMm(f.range.most), [in, m](const Part& p) { return in(p).*m; },
                        [in, m](Part& p, std::vector<Length> all) { in(p).*m = std::move(all); });
                } else if constexpr (std::is_same_v<M, std::optional<Length> S::*>) {
                    // Nothing stands for what is not asked for.
                    return length(
                        label, f.name, [in, m](const Part& p) { return (in(p).*m).value_or(Length()); },
                        [in, m](Part& p, Length l) {
                            in(p).*m = l > Length() ? std::optional<Length>(l) : std::nullopt;
                        },
                        Length(), Length::fromMm(f.range.most));
                } else {
                    return nullptr;  // what may be left open belongs to overrides (size_lands.cpp)
                }
            },
            f.member);
        if (widget != nullptr) widget->setToolTip(tr(f.help));
        return widget;
    }

    void showAll();
    void showEvent(QShowEvent* event) override;
    Document& document_;
    ViewState& view_;

private:
    void fill();
    bool stale_ = true;
    QVBoxLayout* box_;
    std::map<QString, QWidget*> fields_;
    std::map<QString, QLabel*> labels_;
    std::vector<std::function<void(const Part&)>> shows_;
};

/// The wheel scrolls the column and never changes what it happens to pass over.
void keepWheelAway(QWidget* field);

/// A single-line text field bound to a text of the part.
QLineEdit* textField(QWidget* parent, const QString& name);

}  // namespace punch
