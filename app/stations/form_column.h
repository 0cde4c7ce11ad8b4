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
#include "app/theme.h"
#include "app/view_state.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"
#include "core/part/names.h"

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
    /// A row and its label, by the name of its field.
    void setRowVisible(const QString& name, bool visible);
    /// A link that shows and hides these rows and widgets; hidden at first.
    QPushButton* more(const QString& words, const QStringList& rows, const std::vector<QWidget*>& widgets = {});
    void stretch() { box_->addStretch(1); }
    /// Called after every change of the part or the view while the column is seen, and when it comes to be seen;
    /// subclasses show the part's values.
    virtual void refresh() = 0;
    void connectRefresh();

    /// A field bound to a length of the part. `name` is the rule's name in the file.
    LengthEdit* length(const QString& label, const QString& name, std::function<Length(const Part&)> get,
                       std::function<void(Part&, Length)> set, Length least = {}, Length most = Length::fromMm(100));
    QCheckBox* check(const QString& label, const QString& name, std::function<bool(const Part&)> get,
                     std::function<void(Part&, bool)> set);

    /// A choice among the names of an enumeration.
    template <class T>
    QComboBox* choice(const QString& label, const QString& name, std::function<T(const Part&)> get,
                      std::function<void(Part&, T)> set, const std::map<T, QString>& words = {}) {
        auto* combo = new QComboBox(this);
        for (const auto& [value, word] : Names<T>::table) {
            const auto own = words.find(value);
            combo->addItem(own != words.end() ? own->second : toQt(word), static_cast<int>(value));
        }
        row(label, combo, name);
        connect(combo, &QComboBox::activated, this, [this, combo, set, label](int) {
            Part next = document_.part();
            set(next, static_cast<T>(combo->currentData().toInt()));
            document_.apply(label, std::move(next));
        });
        shows_.push_back([combo, get](const Part& part) {
            const int at = combo->findData(static_cast<int>(get(part)));
            if (at >= 0) combo->setCurrentIndex(at);
        });
        return combo;
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

/// A single-line text field bound to a text of the part.
QLineEdit* textField(QWidget* parent, const QString& name);

}  // namespace punch
