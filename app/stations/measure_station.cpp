#include "app/stations/measure_station.h"

#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>

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

    auto* instrument = new QComboBox(this);
    instrument->setAccessibleName(tr("Instrument"));
    instrument->setToolTip(tr("Instrument of the next readings: its step and stated limit make their doubt"));
    for (const Instrument& i : instruments()) instrument->addItem(toQt(i.words), toQt(i.name));
    connect(instrument, &QComboBox::currentIndexChanged, this,
            [this, instrument] { entry_.setInstrument(instrument->currentData().toString()); });
    layout->addWidget(instrument);

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
           "features: pin number, peg name, left, right, front, rear, body\n"
           "contacts: outside, inside, centres, width, thickness, diameter, length, height, near, far, middle\n"
           "directions: along, across, direct. Three letters are enough; Tab completes."));
    line_->installEventFilter(this);
    cardLayout->addWidget(line_);
    hint_ = new WrappedLabel(card);
    hint_->setFont(theme::text(0.85));
    cardLayout->addWidget(hint_);
    layout->addWidget(card);

    notebook_ = new Notebook(document, view, entry, this);
    layout->addWidget(notebook_, 1);

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
    connect(notebook_, &Notebook::editWanted, this, [this](int row) { replaceLine(entry_.edit(row)); });
    connect(take_, &QPushButton::clicked, this, &MeasureStation::takeOrReleasePitch);
    connect(keep_, &QPushButton::clicked, this, [this] {
        document_.apply(tr("pitch as read"), withTaken(document_.part(), "pitch", {}));
        line_->setFocus();
    });
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
    if (line_->text().trimmed().isEmpty()) return;
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
                         : entry_.chosen()     ? tr("Reading · ")
                         : entry_.pending()    ? tr("Next reading · ")
                                               : QString();
    asked_->setText(lead + entry_.words());
    if (line_->property("wrong").toBool() == false) showHint();
    refreshAdvice();
}

void MeasureStation::refreshAdvice() {
    const auto& pitches = document_.footprint().pitches;
    const bool known = !pitches.empty() && pitches.front().firm && document_.part().formations.front().pins.size() > 1;
    adviceCard_->setVisible(known);
    if (!known) return;
    const SizeAdvice& a = pitches.front();
    adviceTitle_->setText(
        tr("Pitch %1 ± %2")
            .arg(view_.value(Length::fromMm(a.asRead)), view_.length(Length::fromMm(kNinetyFive * a.u))));
    adviceWords_->setText(toQt(a.words));
    const bool fits = !a.nearest.empty() && a.nearest.front().fit != Fit::Excluded;
    if (a.taken) {
        const double k = std::abs(a.asRead - a.taken->mm()) / std::hypot(a.u, makeTolerance(a.taken->mm()));
        if (fitOf(k) == Fit::Excluded)
            adviceWords_->setText(tr("%1 is taken, but the readings speak against it (%2 σ).")
                                      .arg(view_.length(*a.taken, 2))
                                      .arg(k, 0, 'f', 1));
        adviceTitle_->setText(tr("Pitch %1 taken").arg(view_.length(*a.taken, 2)));
        adviceWords_->setText(
            tr("Read %1 ± %2. ")
                .arg(view_.value(Length::fromMm(a.asRead)), view_.length(Length::fromMm(kNinetyFive * a.u))) +
            adviceWords_->text());
        take_->setVisible(false);
        keep_->setText(tr("Keep as read"));
        keep_->setVisible(true);
    } else {
        take_->setVisible(fits);
        if (fits) take_->setText(tr("Take %1").arg(view_.length(a.nearest.front().standard, 2)));
        take_->setEnabled(fits);
        keep_->setVisible(false);
    }
}

void MeasureStation::takeOrReleasePitch() {
    if (!document_.open() || document_.footprint().pitches.empty()) return;
    const SizeAdvice& a = document_.footprint().pitches.front();
    if (a.taken) {
        document_.apply(tr("pitch as read"), withTaken(document_.part(), a.parameter, {}));
    } else if (a.firm && !a.nearest.empty() && a.nearest.front().fit != Fit::Excluded) {
        document_.apply(tr("standard pitch"), withTaken(document_.part(), a.parameter, a.nearest.front().standard));
    } else {
        view_.say(a.firm ? tr("No standard pitch fits the readings") : tr("The pitch is not measured yet"));
    }
    if (isVisible()) line_->setFocus();
}

}  // namespace punch
