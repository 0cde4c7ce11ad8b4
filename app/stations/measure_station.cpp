#include "app/stations/measure_station.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "core/measure/instruments.h"

namespace punch {

MeasureStation::MeasureStation(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), entry_(entry) {
    const int em = theme::em();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(em * 3 / 4, em / 2, em * 3 / 4, em / 2);
    layout->setSpacing(em / 3);

    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Notebook"), this);
    title->setFont(theme::text(1.1, true));
    summary_ = new QLabel(this);
    summary_->setProperty("role", "quiet");
    summary_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    head->addWidget(title);
    head->addWidget(summary_, 1);
    layout->addLayout(head);

    auto* with = new QHBoxLayout;
    instrument_ = new QComboBox(this);
    instrument_->setObjectName("instrument");
    instrument_->setAccessibleName(tr("Instrument"));
    instrument_->setToolTip(tr("Instrument of the next readings: its step and stated limit make their doubt"));
    specimen_ = new QComboBox(this);
    specimen_->setObjectName("specimen");
    specimen_->setAccessibleName(tr("Specimen"));
    specimen_->setToolTip(tr("On which sample the next readings are taken. What differs between samples is spread"));
    specimen_->addItem(tr("part in hand"));
    for (int i = 1; i <= 9; ++i) specimen_->addItem(tr("sample %1").arg(i));
    fromBelow_ = new QCheckBox(tr("drawn from below"), this);
    fromBelow_->setObjectName("fromBelow");
    fromBelow_->setToolTip(tr("The drawing shows the part from below: its left is the part's right"));
    with->addWidget(instrument_, 1);
    with->addWidget(specimen_);
    with->addWidget(fromBelow_);
    layout->addLayout(with);
    connect(instrument_, &QComboBox::activated, this, [this] {
        entry_.setInstrument(instrument_->currentData().toString());
        refreshInstruments();
    });
    connect(specimen_, &QComboBox::activated, this, [this](int i) { entry_.setSpecimen(i); });
    connect(fromBelow_, &QCheckBox::clicked, this, [this](bool on) { entry_.setFromBelow(on); });
    refreshInstruments();

    auto* card = new QFrame(this);
    card->setProperty("role", "entry");
    auto* cardLayout = new QVBoxLayout(card);
    cardLayout->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    cardLayout->setSpacing(em / 5);
    asked_ = new WrappedLabel(card);
    cardLayout->addWidget(asked_);
    line_ = new QLineEdit(card);
    line_->setObjectName("entryLine");
    line_->setAccessibleName(tr("Entry line"));
    line_->setFont(theme::digits(1.25));
    line_->setPlaceholderText(tr("type what you read"));
    line_->setToolTip(
        tr("Values of the reading above: 16.25 16.23, 0.64in, (33.3-19.4)/2\n"
           "Or a whole reading: feature [feature] contact [direction] values\n"
           "  1 4 outside 16.25     1 width 1.00     1 length 3.00\n"
           "  peg 1 across inside 2.86     left 1 near 2.23     body along 20.70\n"
           "  1 10 centres 9 steps 0.1in     1 peg along coordinate -3.5     1 2 angle 30\n"
           "  body across 10.2 ±0.1     body along letter A     left 1 near 2.2 below     A = 20.3 ±0.2\n"
           "features: pin number, name, left, right, front, rear, top, seat, body\n"
           "contacts: outside, inside, centres, width, thickness, diameter, length, height, near, far, middle,\n"
           "  angle, rim (three chords)     directions: along, across, direct\n"
           "remarks: coordinate, below, specimen 2, 9 steps GRID, same 3 (as reading 3), letter B, drawing\n"
           "Three letters are enough; Tab completes."));
    line_->installEventFilter(this);
    cardLayout->addWidget(line_);
    hint_ = new WrappedLabel(card);
    hint_->setFont(theme::text(0.85));
    cardLayout->addWidget(hint_);
    layout->addWidget(card);

    notebook_ = new Notebook(document, view, entry, this);
    layout->addWidget(notebook_, 1);

    slipCard_ = new QFrame(this);
    slipCard_->setObjectName("slipCard");
    slipCard_->setProperty("role", "entry");
    auto* slipBox = new QVBoxLayout(slipCard_);
    slipBox->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    slipBox->setSpacing(em / 5);
    slipWords_ = new WrappedLabel(slipCard_);
    slipWords_->setObjectName("slipWords");
    slipWords_->setFont(theme::text(0.9));
    auto* slipLine = new QHBoxLayout;
    mend_ = new QPushButton(slipCard_);
    mend_->setObjectName("mendSlip");
    mend_->setProperty("role", "main");
    keepSlip_ = new QPushButton(tr("It is meant"), slipCard_);
    keepSlip_->setObjectName("keepSlip");
    keepSlip_->setProperty("role", "link");
    slipLine->addWidget(mend_);
    slipLine->addWidget(keepSlip_);
    slipLine->addStretch();
    slipBox->addWidget(slipWords_);
    slipBox->addLayout(slipLine);
    layout->addWidget(slipCard_);
    connect(mend_, &QPushButton::clicked, this, &MeasureStation::mendSlip);
    connect(keepSlip_, &QPushButton::clicked, this, &MeasureStation::keepSlip);

    adviceCard_ = new QFrame(this);
    adviceCard_->setProperty("role", "advice");
    auto* advice = new QVBoxLayout(adviceCard_);
    advice->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    advice->setSpacing(em / 5);
    adviceTitle_ = new QLabel(adviceCard_);
    adviceTitle_->setFont(theme::text(1.0, true));
    adviceWords_ = new WrappedLabel(adviceCard_);
    adviceWords_->setFont(theme::text(0.9));
    auto* buttons = new QHBoxLayout;
    take_ = new QPushButton(adviceCard_);
    take_->setObjectName("takePitch");
    take_->setProperty("role", "main");
    keep_ = new QPushButton(tr("Keep as read"), adviceCard_);
    keep_->setObjectName("keepPitch");
    keep_->setProperty("role", "link");
    buttons->addWidget(take_);
    buttons->addWidget(keep_);
    buttons->addStretch();
    otherAdvice_ = new QPushButton(adviceCard_);
    otherAdvice_->setObjectName("otherAdvice");
    otherAdvice_->setProperty("role", "link");
    otherAdvice_->setToolTip(tr("What the readings say about another size"));
    buttons->addWidget(otherAdvice_);
    connect(otherAdvice_, &QPushButton::clicked, this, [this] { nextAdvice(1); });
    advice->addWidget(adviceTitle_);
    advice->addWidget(adviceWords_);
    advice->addLayout(buttons);
    layout->addWidget(adviceCard_);

    connect(line_, &QLineEdit::textEdited, this, [this] {
        markWrong(line_, false);
        showHint();
    });
    connect(line_, &QLineEdit::returnPressed, this, &MeasureStation::submit);
    connect(&document_, &Document::changed, this, &MeasureStation::refresh);
    connect(&entry_, &ReadingEntry::changed, this, &MeasureStation::refresh);
    connect(&view_, &ViewState::unitChanged, this, &MeasureStation::refresh);
    connect(&view_, &ViewState::chosenChanged, this, [this] {
        if (document_.open()) refreshSlips();
    });
    connect(notebook_, &Notebook::editWanted, this, [this](int row) { replaceLine(entry_.edit(row)); });
    connect(take_, &QPushButton::clicked, this, &MeasureStation::takeOrReleaseStandard);
    connect(keep_, &QPushButton::clicked, this, &MeasureStation::takeOrReleaseStandard);
    connect(&view_, &ViewState::seriesChanged, this, &MeasureStation::refresh);
}

void MeasureStation::type(const QString& text) {
    line_->setFocus();
    line_->insert(text);
    markWrong(line_, false);
    showHint();
}

void MeasureStation::replaceLine(const QString& text) {
    line_->setText(text);
    line_->setFocus();
    line_->selectAll();
    markWrong(line_, false);
    showHint();
}

void MeasureStation::submit() {
    if (line_->text().trimmed().isEmpty() && !view_.series()) return;
    if (const auto taken = entry_.take(line_->text()); !taken) {
        // What was typed stays, to be mended.
        markWrong(line_, true);
        hint_->setProperty("role", "warn");
        hint_->setText(toQt(taken.error().text()));
        hint_->setStyleSheet("color: #C4432A;");
        return;
    }
    line_->clear();
    showHint();
}

void MeasureStation::showHint() {
    hint_->setStyleSheet("color: #6B767B;");
    QStringList words;
    if (document_.open())
        for (const std::string& w : completeEntry(document_.part(), line_->text().toStdString())) words << toQt(w);
    if (!words.isEmpty())
        hint_->setText(tr("Tab: %1").arg(words.join(" · ")));
    else if (view_.series())
        hint_->setText(entry_.seriesReading() >= 0
                           ? tr("Type it again, or Enter for the next one · Esc ends the series")
                       : entry_.pending() ? tr("Type what you read · Enter passes it over · Esc ends the series")
                                          : tr("Esc ends the series"));
    else if (entry_.editing() >= 0)
        hint_->setText(tr("Enter keeps the change · Esc leaves it"));
    else if (!line_->text().isEmpty())
        hint_->setText(tr("Enter adds it · several values with spaces"));
    else if (entry_.pending())
        hint_->setText(tr("↑ ↓ another way to read it · or name it: 1 4 outside 16.25"));
    else
        hint_->setText(tr("Point at the sheet, or name it: 1 4 outside 16.25"));
}

bool MeasureStation::eventFilter(QObject* object, QEvent* event) {
    if (object != line_ || event->type() != QEvent::KeyPress) return QWidget::eventFilter(object, event);
    auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down) {
        entry_.cycle(key->key() == Qt::Key_Down ? 1 : -1);
        return true;
    }
    if (key->key() == Qt::Key_Escape) {
        line_->clear();
        if (view_.series())
            entry_.endSeries();
        else
            entry_.clear();
        markWrong(line_, false);
        showHint();
        return true;
    }
    if (key->key() == Qt::Key_Tab && document_.open()) {
        const auto words = completeEntry(document_.part(), line_->text().toStdString());
        if (words.empty()) return false;
        QString text = line_->text();
        text = text.left(text.lastIndexOf(' ') + 1) + toQt(words.front()) + " ";
        line_->setText(text);
        showHint();
        return true;
    }
    return QWidget::eventFilter(object, event);
}

void MeasureStation::refresh() {
    if (!document_.open()) return;
    const Footprint& f = document_.footprint();
    const auto n = document_.part().readings.size();
    const Gauge* readings = f.gauge("readings");
    const QString unit = view_.unitText();
    summary_->setText(n == 0 || readings == nullptr ? tr("nothing read yet")
                                                    : tr("%1 · in %2").arg(toQt(readings->words), unit));
    const QString lead = entry_.editing() >= 0 ? QString()
                         : view_.series()      ? tr("Series · ")
                         : entry_.chosen()     ? tr("Reading · ")
                         : entry_.pending()    ? tr("Next reading · ")
                                               : QString();
    asked_->setText(lead + entry_.words());
    if (line_->property("wrong").toBool() == false) showHint();
    refreshInstruments();
    refreshSlips();
    refreshAdvice();
}

void MeasureStation::startSeries() {
    if (!document_.open()) return;
    entry_.startSeries();
    line_->clear();
    line_->setFocus();
    showHint();
}

void MeasureStation::refreshInstruments() {
    const QString now = entry_.instrument();
    instrument_->clear();
    if (document_.open())
        for (const Instrument& i : document_.part().instruments) instrument_->addItem(toQt(i.words), toQt(i.name));
    for (const Instrument& i : instruments())
        if (i.name != kGridSteps && !showsAngles(i.name)) instrument_->addItem(toQt(i.words), toQt(i.name));
    instrument_->addItem(tr("a drawing's values"), QString(ReadingEntry::kDrawing));
    instrument_->setCurrentIndex(std::max(0, instrument_->findData(now)));
    const bool drawing = now == ReadingEntry::kDrawing;
    specimen_->setVisible(!drawing);
    fromBelow_->setVisible(drawing);
}

// ------------------------------------------------------------------ slips

const Slip* MeasureStation::slip() const {
    for (const Slip& s : document_.footprint().slips)
        if (std::find(putOff_.begin(), putOff_.end(), s.reading + s.words) == putOff_.end()) return &s;
    return nullptr;
}

void MeasureStation::refreshSlips() {
    const Part& part = document_.part();
    const Slip* s = slip();
    int orphan = -1;
    const std::size_t judged = std::min(part.readings.size(), document_.footprint().readings.size());
    for (std::size_t i = 0; i < judged && orphan < 0; ++i)
        if (document_.footprint().readings[i].state == ReadingState::Orphan) orphan = static_cast<int>(i);
    slipCard_->setVisible(s != nullptr || orphan >= 0);
    if (s != nullptr) {
        int number = 0;
        for (std::size_t i = 0; i < part.readings.size(); ++i)
            if (part.readings[i].id == s->reading) number = static_cast<int>(i) + 1;
        slipWords_->setText(number > 0 ? tr("Reading %1: %2").arg(number).arg(toQt(s->words)) : toQt(s->words));
        mend_->setText(toQt(s->todo));
        mend_->setVisible(s->mended.has_value());
        keepSlip_->setVisible(true);
    } else if (orphan >= 0) {
        const bool pointed = !view_.first().empty();
        slipWords_->setText(tr("Reading %1 was taken on a feature that is no longer there. %2")
                                .arg(orphan + 1)
                                .arg(pointed ? tr("Join it to what you point at?")
                                             : tr("Point at the feature that it belongs to, or remove the reading.")));
        mend_->setText(pointed ? tr("Join it to %1").arg(toQt(featureWords(part, view_.first()))) : QString());
        mend_->setVisible(pointed);
        keepSlip_->setVisible(false);
    }
}

void MeasureStation::mendSlip() {
    if (!document_.open()) return;
    const Slip* s = slip();
    if (s != nullptr && s->mended) {
        const Part mended = *s->mended;
        document_.apply(tr("mended slip"), mended);
    } else {
        const auto& readings = document_.footprint().readings;
        for (std::size_t i = 0; i < readings.size(); ++i)
            if (readings[i].state == ReadingState::Orphan) {
                if (!entry_.rejoin(static_cast<int>(i)))
                    view_.say(tr("Point at the feature that the reading belongs to"));
                break;
            }
    }
    line_->setFocus();
}

void MeasureStation::keepSlip() {
    const Slip* s = document_.open() ? slip() : nullptr;
    if (s == nullptr) return;
    putOff_.push_back(s->reading + s->words);
    refreshSlips();
    line_->setFocus();
}

// ------------------------------------------------------------------ standard sizes

const SizeAdvice* MeasureStation::advice() const {
    std::vector<const SizeAdvice*> firm;
    for (const SizeAdvice& a : document_.footprint().sizes)
        if (a.firm && !a.nearest.empty()) firm.push_back(&a);
    if (firm.empty()) return nullptr;
    // What the readings speak against comes first, whatever was looked at.
    for (const SizeAdvice* a : firm)
        if (a->speaksAgainst() && adviceAt_ == 0) return a;
    const auto n = static_cast<int>(firm.size());
    return firm[static_cast<std::size_t>(((adviceAt_ % n) + n) % n)];
}

void MeasureStation::nextAdvice(int by) {
    adviceAt_ += by;
    refreshAdvice();
}

void MeasureStation::refreshAdvice() {
    const SizeAdvice* shown = advice();
    const auto& f = document_.part().formations.front();
    const bool known = shown != nullptr && !(shown->parameter == "pitch" && f.pins.size() < 2);
    adviceCard_->setVisible(known);
    if (!known) return;
    const SizeAdvice& a = *shown;
    const ParameterValue* value = document_.footprint().parameter(a.parameter);
    QString name = value == nullptr ? toQt(a.name) : toQt(value->words);
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    const QString read =
        tr("%1 ± %2").arg(view_.value(Length::fromMm(a.asRead)), view_.length(Length::fromMm(kNinetyFive * a.u)));
    const bool fits = a.nearest.front().fit != Fit::Excluded;
    if (a.taken) {
        adviceTitle_->setText(tr("%1 %2 taken").arg(name, view_.length(*a.taken, 2)));
        const QString words = a.speaksAgainst() ? tr("%1 is taken, but the readings speak against it (%2 σ).")
                                                      .arg(view_.length(*a.taken, 2))
                                                      .arg(a.takenK, 0, 'f', 1)
                                                : toQt(a.words);
        adviceWords_->setText(tr("Read %1. ").arg(read) + words);
    } else {
        adviceTitle_->setText(tr("%1 %2").arg(name, read));
        adviceWords_->setText(toQt(a.words));
        if (fits) take_->setText(tr("Take %1").arg(view_.length(a.nearest.front().standard, 2)));
    }
    take_->setVisible(!a.taken && fits);
    keep_->setVisible(a.taken.has_value());
    int firm = 0;
    for (const SizeAdvice& each : document_.footprint().sizes) firm += each.firm;
    otherAdvice_->setVisible(firm > 1);
    otherAdvice_->setText(tr("next of %1").arg(firm));
}

void MeasureStation::takeOrReleaseStandard() {
    if (!document_.open()) return;
    const SizeAdvice* a = advice();
    if (a == nullptr) {
        view_.say(tr("No size is measured yet that could be a standard one"));
    } else if (a->taken) {
        document_.apply(tr("%1 as read").arg(toQt(a->name)), withTaken(document_.part(), a->parameter, {}));
    } else if (a->nearest.front().fit != Fit::Excluded) {
        document_.apply(tr("standard %1").arg(toQt(a->name)),
                        withTaken(document_.part(), a->parameter, a->nearest.front().standard));
    } else {
        view_.say(tr("No standard %1 fits the readings").arg(toQt(a->name)));
    }
    if (isVisible()) line_->setFocus();
}

}  // namespace punch
