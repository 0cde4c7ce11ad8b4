#include "app/stations/reading_details.h"

#include <QDialogButtonBox>
#include <QFormLayout>

#include "app/qt_text.h"
#include "core/measure/instruments.h"
#include "core/model/contacts.h"

namespace punch {

ReadingDetails::ReadingDetails(Document& document, int reading, QWidget* parent)
    : QDialog(parent), document_(document) {
    setObjectName("readingDetails");
    const Part& part = document.part();
    const Reading& r = part.readings.at(static_cast<std::size_t>(reading));
    id_ = r.id;
    setWindowTitle(tr("Reading %1 · %2").arg(reading + 1).arg(toQt(readingWords(part, r))));
    auto* form = new QFormLayout(this);
    instrument_ = new QComboBox(this);
    instrument_->setObjectName("detailInstrument");
    const bool angle = r.contact == Contact::Angle;
    for (const std::vector<Instrument>* all : {&part.instruments, &instruments()})
        for (const Instrument& i : *all)
            if (showsAngles(i.name) == angle) instrument_->addItem(toQt(i.words), toQt(i.name));
    instrument_->setCurrentIndex(std::max(0, instrument_->findData(toQt(r.instrument))));
    instrument_->setEnabled(!r.drawing);
    form->addRow(tr("Instrument"), instrument_);
    specimen_ = new QSpinBox(this);
    specimen_->setObjectName("detailSpecimen");
    specimen_->setRange(0, 99);
    specimen_->setSpecialValueText(tr("the part in hand"));
    specimen_->setPrefix(tr("sample "));
    specimen_->setValue(r.specimen);
    form->addRow(tr("Taken on"), specimen_);
    source_ = new QComboBox(this);
    source_->setObjectName("detailSource");
    source_->addItem(tr("not said"), QString());
    for (const Source& s : part.sources) source_->addItem(toQt(s.title), toQt(s.id));
    source_->setCurrentIndex(std::max(0, source_->findData(toQt(r.source))));
    form->addRow(tr("Source"), source_);
    letter_ = new QLineEdit(toQt(r.name), this);
    letter_->setObjectName("detailLetter");
    letter_->setPlaceholderText(tr("for formulas, as in B"));
    form->addRow(tr("Letter or name"), letter_);
    fromBelow_ = new QCheckBox(tr("the drawing shows the part from below"), this);
    fromBelow_->setObjectName("detailFromBelow");
    fromBelow_->setChecked(r.fromBelow);
    form->addRow(QString(), fromBelow_);
    note_ = new QLineEdit(toQt(r.note), this);
    note_->setObjectName("detailNote");
    form->addRow(tr("Note"), note_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    connect(buttons, &QDialogButtonBox::accepted, this, &ReadingDetails::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    form->addRow(buttons);
}

void ReadingDetails::accept() {
    Part next = document_.part();
    for (Reading& r : next.readings) {
        if (r.id != id_) continue;
        if (!r.drawing) r.instrument = instrument_->currentData().toString().toStdString();
        r.specimen = specimen_->value();
        r.source = source_->currentData().toString().toStdString();
        r.name = letter_->text().trimmed().toStdString();
        r.note = note_->text().trimmed().toStdString();
        r.fromBelow = fromBelow_->isChecked();
    }
    document_.apply(tr("details of a reading"), std::move(next));
    QDialog::accept();
}

}  // namespace punch
