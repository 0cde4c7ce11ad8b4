#include "app/pins/pinout_dialog.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"

namespace punch {

PinoutDialog::PinoutDialog(const Part& part, std::string variant, QWidget* parent)
    : QDialog(parent), part_(part), variant_(std::move(variant)) {
    setWindowTitle(tr("%1-%2").arg(toQt(part.name), toQt(variant_)));
    setObjectName("pinoutDialog");
    resize(theme::em() * 34, theme::em() * 26);
    auto* box = new QVBoxLayout(this);
    auto* inner = new QWidget;
    auto* form = new QFormLayout(inner);
    description_ = textField(this, "pinoutDescription");
    value_ = textField(this, "pinoutValue");
    description_->setPlaceholderText(part.description.empty() ? tr("as the part's") : toQt(part.description));
    value_->setPlaceholderText(part.value.empty() ? tr("as the part's") : toQt(part.value));
    if (const Variant* v = variantOf(part, variant_)) {
        description_->setText(toQt(v->description));
        value_->setText(toQt(v->value));
    }
    form->addRow(tr("Description"), description_);
    form->addRow(tr("Value"), value_);
    for (const Mark& m : marksAround(part, variant_)) {
        auto* where = new QComboBox(inner);
        where->setObjectName(toQt("markIn-" + m.id));
        where->setAccessibleName(toQt(m.name));
        // In the order of MarkIn.
        where->addItems({tr("in all"), tr("not in this one"), tr("in this one alone")});
        where->setCurrentIndex(static_cast<int>(markIn(part, variant_, m.id)));
        keepWheelAway(where);
        form->addRow(m.name.empty() ? toQt(nameOf(m.kind)) : toQt(m.name), where);
        marks_.emplace_back(m.id, where);
    }
    if (marks_.empty()) form->addRow(new QLabel(tr("The part has no marks that could differ."), inner));
    auto* scrolled = new QScrollArea(this);
    scrolled->setWidgetResizable(true);
    scrolled->setFrameShape(QFrame::NoFrame);
    scrolled->setWidget(inner);
    box->addWidget(scrolled, 1);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    auto* leave = new QPushButton(tr("Leave it"), this);
    leave->setAutoDefault(false);
    auto* keep = new QPushButton(tr("Keep it"), this);
    keep->setObjectName("keepPinout");
    keep->setProperty("role", "main");
    keep->setDefault(true);
    buttons->addWidget(leave);
    buttons->addWidget(keep);
    box->addLayout(buttons);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(keep, &QPushButton::clicked, this, &QDialog::accept);
}

Part PinoutDialog::chosen() const {
    Part next = part_;
    for (Variant& v : next.variants)
        if (v.name == variant_) {
            v.description = description_->text().trimmed().toStdString();
            v.value = value_->text().trimmed().toStdString();
        }
    for (const auto& [mark, where] : marks_)
        next = withMarkIn(std::move(next), variant_, mark, static_cast<MarkIn>(where->currentIndex()));
    return next;
}

}  // namespace punch
