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
    auto* sources = new QPushButton(tr("Sources ›"), this);
    sources->setObjectName("toSources");
    sources->setProperty("role", "link");
    sources->setToolTip(tr("Pictures of the part: scans, photographs (F11)"));
    head->addWidget(sources);
    connect(sources, &QPushButton::clicked, this, &MeasureStation::sourcesWanted);
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
    entered_ = text;
    line_->setFocus();
    line_->selectAll();
    markWrong(line_, false);
    showHint();
}

void MeasureStation::submit() {
    if (!document_.open() || (line_->text().trimmed().isEmpty() && !view_.series())) return;
    if (const auto taken = entry_.take(line_->text()); !taken) {
        // What was typed stays, to be mended.
        markWrong(line_, true);
        hint_->setProperty("role", "warn");
        hint_->setText(toQt(taken.error().text()));
        hint_->setStyleSheet(theme::styled("color: @vermilion;"));
        return;
    }
    line_->clear();
    entered_.clear();
    showHint();
}

void MeasureStation::showHint() {
    hint_->setStyleSheet(theme::styled("color: @quiet;"));
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
    if (object != line_) return QWidget::eventFilter(object, event);
    if (event->type() == QEvent::ShortcutOverride) {
        // With nothing typed that was not entered, undo and redo are the part's.
        auto* key = static_cast<QKeyEvent*>(event);
        if ((key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) && line_->text() == entered_) {
            event->ignore();
            return true;
        }
    }
    if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(object, event);
    auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down) {
        entry_.cycle(key->key() == Qt::Key_Down ? 1 : -1);
        return true;
    }
    if (key->key() == Qt::Key_Escape) {
        line_->clear();
        entered_.clear();
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
    summary_->setText(n == 0 || readings == nullptr ? tr("nothing read yet")
                                                    : toQt(fill(readings->words, readings->of, view_.unit(), 2)));
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

}  // namespace punch
