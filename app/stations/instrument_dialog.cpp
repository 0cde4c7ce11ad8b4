#include "app/stations/instrument_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>

#include "app/qt_text.h"
#include "app/widgets/length_edit.h"
#include "core/base/quantity.h"

namespace punch {

InstrumentDialog::InstrumentDialog(Document& document, QWidget* parent) : QDialog(parent), document_(document) {
    setObjectName("instrumentDialog");
    setWindowTitle(tr("Add an instrument"));
    auto* form = new QFormLayout(this);
    words_ = new QLineEdit(this);
    words_->setObjectName("instrumentWords");
    words_->setPlaceholderText(tr("as in long caliper 300"));
    form->addRow(tr("Name"), words_);
    const auto field = [&](const QString& name, const QString& label, const QString& value) {
        auto* edit = new QLineEdit(value, this);
        edit->setObjectName("instrument-" + name);
        fields_[name] = edit;
        form->addRow(label, edit);
    };
    field("step", tr("Step of its display (mm)"), "0.01");
    field("limit", tr("Stated error to 100 mm, ± (mm)"), "0.03");
    field("limitLong", tr("Stated error above 100 mm, ± (mm)"), "0.04");
    field("edge", tr("Handling, edge to edge (mm)"), "0.01");
    field("sameEdge", tr("Handling, same edge to same edge (mm)"), "0.03");
    field("byEye", tr("Handling, middle by eye (mm)"), "0.10");
    wrong_ = new QLabel(this);
    wrong_->setProperty("role", "warn");
    form->addRow(wrong_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    connect(buttons, &QDialogButtonBox::accepted, this, &InstrumentDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    form->addRow(buttons);
}

void InstrumentDialog::accept() {
    Instrument i;
    i.words = words_->text().trimmed().toStdString();
    markWrong(words_, i.words.empty());
    if (i.words.empty()) {
        wrong_->setText(tr("Give it a name"));
        return;
    }
    const std::pair<QString, double*> values[] = {{"step", &i.step},           {"limit", &i.limit},
                                                  {"limitLong", &i.limitLong}, {"edge", &i.edge},
                                                  {"sameEdge", &i.sameEdge},   {"byEye", &i.byEye}};
    for (const auto& [name, value] : values) {
        const auto length = parseLength(fields_[name]->text().toStdString(), Unit::Mm);
        const bool good = length && *length >= Length() && *length <= Length::fromMm(10);
        markWrong(fields_[name], !good);
        if (!good) {
            wrong_->setText(length ? tr("An error lies between 0 and 10 mm") : toQt(length.error().text()));
            return;
        }
        *value = length->mm();
    }
    Part next = document_.part();
    i.name = "own-" + std::to_string(next.nextId++);
    next.instruments.push_back(i);
    document_.apply(tr("instrument"), std::move(next));
    QDialog::accept();
}

}  // namespace punch
