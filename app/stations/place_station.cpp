#include "app/stations/place_station.h"
#include "app/qt_text.h"

#include <QHBoxLayout>

namespace punch {

PlaceStation::PlaceStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    title(tr("Row"));
    count_ = new QLineEdit(this);
    count_->setAlignment(Qt::AlignRight);
    count_->setFont(theme::digits());
    row(tr("Pins"), count_, "pins");
    connect(count_, &QLineEdit::editingFinished, this, [this] {
        if (!count_->isModified() || !document_.open()) return;
        const auto number = parseNumber(count_->text().toStdString());
        QString wrong;
        if (!number) {
            wrong = toQt(number.error().text());
        } else if (*number != std::floor(*number) || std::abs(*number) > 1e6) {
            wrong = tr("%1 is no number of pins. Type a whole number").arg(count_->text());
        } else if (auto next = withPinCount(document_.part(), 0, static_cast<int>(*number)); !next) {
            wrong = toQt(next.error().text());
        } else {
            count_->setModified(false);
            markWrong(count_, false);
            view_.say({});
            document_.apply(tr("pin count"), std::move(*next));
            return;
        }
        markWrong(count_, true);
        view_.say(wrong);
    });
    lead_ = choice<LeadShape>(
        tr("Leads"), "lead", [](const Part& p) { return p.formations.front().lead; },
        [](Part& p, LeadShape s) { p.formations.front().lead = s; });
    pitch_ = note();
    pitchChoice_ = new QComboBox(this);
    row(tr("Pitch"), pitchChoice_, "pitch");
    connect(pitchChoice_, &QComboBox::activated, this, [this] {
        const QVariant mm = pitchChoice_->currentData();
        document_.apply(mm.isValid() ? tr("standard pitch") : tr("pitch as read"),
                        withTaken(document_.part(), "pitch",
                                  mm.isValid() ? std::optional(Length::fromMm(mm.toDouble())) : std::nullopt));
    });

    title(tr("Numbers"));
    from_ = new QComboBox(this);
    from_->addItems({tr("left end"), tr("right end")});
    row(tr("First pin at the"), from_, "from");
    connect(from_, &QComboBox::activated, this, [this](int i) {
        Part next = document_.part();
        next.formations.front().numbers.fromLeft = i == 0;
        document_.apply(tr("first pin"), std::move(next));
    });
    start_ = new QSpinBox(this);
    start_->setRange(0, 9999);
    start_->setKeyboardTracking(false);
    row(tr("Its number"), start_, "start");
    connect(start_, &QSpinBox::valueChanged, this, [this](int n) {
        Part next = document_.part();
        next.formations.front().numbers.start = n;
        document_.apply(tr("first number"), std::move(next));
    });
    step_ = new QComboBox(this);
    step_->addItem(tr("up"), 1);
    step_->addItem(tr("down"), -1);
    step_->addItem(tr("up by 2"), 2);
    step_->addItem(tr("down by 2"), -2);
    row(tr("Numbers run"), step_, "step");
    connect(step_, &QComboBox::activated, this, [this] {
        Part next = document_.part();
        Numbering& n = next.formations.front().numbers;
        n.step = step_->currentData().toInt();
        // Numbers that run down must have room for it.
        const int last = n.start + n.step * (static_cast<int>(next.formations.front().pins.size()) - 1);
        if (last < 0) n.start += 1 - last;
        document_.apply(tr("direction of numbers"), std::move(next));
    });

    title(tr("Datum"));
    datum_ = new QComboBox(this);
    datum_->addItem(tr("middle of the pins"), 0);
    datum_->addItem(tr("first pin"), 1);
    datum_->addItem(tr("chosen feature"), 2);
    row(tr("Datum at the"), datum_, "datum");
    connect(datum_, &QComboBox::activated, this, [this](int i) {
        if (i == 2 && view_.first().empty()) {
            view_.say(tr("Point at a pin, a peg or a face on the sheet first"));
            refresh();
            return;
        }
        setDatum(i == 0   ? DatumKind::MiddleOfPins
                 : i == 1 ? DatumKind::PinOne
                          : DatumKind::Feature,
                 i == 2 ? view_.first() : FeatureId());
    });

    title(tr("Pegs"));
    pegs_ = note();
    auto* buttons = new QWidget(this);
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    auto* add1 = new QPushButton(tr("Add a peg"), buttons);
    add1->setObjectName("addPeg");
    removePeg_ = new QPushButton(tr("Remove"), buttons);
    removePeg_->setObjectName("removePeg");
    line->addWidget(add1);
    line->addWidget(removePeg_);
    line->addStretch();
    add(buttons);
    auto* sides = new QWidget(this);
    auto* sideLine = new QHBoxLayout(sides);
    sideLine->setContentsMargins(0, 0, 0, 0);
    otherSide_ = new QPushButton(tr("Other side of the row"), sides);
    otherSide_->setObjectName("pegOtherSide");
    otherEnd_ = new QPushButton(tr("Other end"), sides);
    otherEnd_->setObjectName("pegOtherEnd");
    for (QPushButton* b : {otherSide_, otherEnd_}) {
        b->setProperty("role", "link");
        sideLine->addWidget(b);
    }
    sideLine->addStretch();
    add(sides);
    connect(otherSide_, &QPushButton::clicked, this, [this] { mirrorPeg(true); });
    connect(otherEnd_, &QPushButton::clicked, this, [this] { mirrorPeg(false); });
    connect(add1, &QPushButton::clicked, this, &PlaceStation::addPeg);
    connect(removePeg_, &QPushButton::clicked, this, &PlaceStation::removeChosenPeg);

    title(tr("Coordinates"));
    coordinates_ = note();
    coordinates_->setFont(theme::digits(0.9));
    coordinates_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    coordinates_->setWordWrap(false);
    stretch();
    connectRefresh();
}

void PlaceStation::addPeg() {
    if (document_.open()) document_.apply(tr("peg"), withSpot(document_.part()));
}

void PlaceStation::removeChosenPeg() {
    const Part& part = document_.part();
    const FeatureId id = spotOf(part, view_.first()) != nullptr ? view_.first()
                         : part.spots.empty()                   ? FeatureId()
                                                               : part.spots.back().id;
    if (!id.empty()) document_.apply(tr("removal of %1").arg(toQt(featureWords(part, id))), withoutFeature(part, id));
}

void PlaceStation::mirrorPeg(bool across) {
    if (!document_.open() || document_.part().spots.empty()) return;
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    const FeatureId id = spotOf(part, view_.first()) != nullptr ? view_.first() : part.spots.back().id;
    const FeatureId& left = part.formations.front().pins.front();
    const FeatureId& right = part.formations.front().pins.back();
    Point at = f.bareHole(id)->at - f.pad(left)->at;
    if (across)
        at.y = -at.y;
    else
        at.x = f.pad(right)->at.x - f.pad(left)->at.x - at.x;
    document_.apply(tr("place of %1").arg(toQt(featureWords(part, id))), withSpotDrawnAt(part, id, at));
}

void PlaceStation::setDatum(DatumKind kind, const FeatureId& feature) {
    if (!document_.open()) return;
    Part next = document_.part();
    next.datum.kind = kind;
    next.datum.feature = feature;
    document_.apply(tr("datum"), std::move(next));
}

void PlaceStation::turnNumbers() {
    if (!document_.open()) return;
    Part next = document_.part();
    next.formations.front().numbers.fromLeft = !next.formations.front().numbers.fromLeft;
    document_.apply(tr("first pin at the other end"), std::move(next));
}

void PlaceStation::refresh() {
    const Part& part = document_.part();
    if (part.formations.empty()) return;
    const Formation& f = part.formations.front();
    if (!count_->property("wrong").toBool() && !count_->hasFocus()) count_->setText(QString::number(f.pins.size()));
    from_->setCurrentIndex(f.numbers.fromLeft ? 0 : 1);
    const QSignalBlocker quiet(start_);
    start_->setValue(f.numbers.start);
    step_->setCurrentIndex(std::max(0, step_->findData(f.numbers.step)));
    datum_->setCurrentIndex(part.datum.kind == DatumKind::MiddleOfPins ? 0
                            : part.datum.kind == DatumKind::PinOne     ? 1
                                                                       : 2);
    datum_->setItemText(
        2, part.datum.kind == DatumKind::Feature ? toQt(featureWords(part, part.datum.feature)) : tr("chosen feature"));
    const SizeAdvice& a = *document_.footprint().size("pitch");
    if (f.pins.size() < 2)
        pitch_->setText(tr("One pin has no pitch."));
    else if (!a.firm)
        pitch_->setText(tr("Pitch not measured yet: read across two pins."));
    else
        pitch_->setText(tr("Pitch as read %1 ± %2. %3")
                            .arg(view_.value(Length::fromMm(a.asRead)), view_.length(Length::fromMm(kNinetyFive * a.u)),
                                 toQt(a.words)));
    pitchChoice_->clear();
    pitchChoice_->addItem(tr("as read"));
    bool listed = !a.taken;
    for (const StandardJudgement& s : a.nearest) {
        pitchChoice_->addItem(tr("%1, %2 σ").arg(view_.length(s.standard, 2)).arg(s.k, 0, 'f', s.k < 10 ? 1 : 0),
                              s.standard.mm());
        if (a.taken && *a.taken == s.standard) {
            pitchChoice_->setCurrentIndex(pitchChoice_->count() - 1);
            listed = true;
        }
    }
    if (!listed) {
        pitchChoice_->addItem(view_.length(*a.taken, 2), a.taken->mm());
        pitchChoice_->setCurrentIndex(pitchChoice_->count() - 1);
    }
    pitchChoice_->setEnabled(f.pins.size() > 1 && pitchChoice_->count() > 1);
    for (QPushButton* b : {removePeg_, otherSide_, otherEnd_}) b->setEnabled(!part.spots.empty());
    pegs_->setText(
        part.spots.empty()
            ? tr("None. A peg gets a bare hole of its own.")
            : tr("Bare holes, read against the pins. Drag a loose one on the sheet to where it sits on the part."));
    const auto doubt = [&](const std::optional<Length>& d) { return d ? view_.value(*d) : tr("loose"); };
    QString table = tr("%1%2%3%4").arg(tr("pin"), -6).arg("x", 9).arg("y", 9).arg("±", 8);
    const auto line = [&](const std::string& name, Point at, const PlaceDoubt& d) {
        table += QString("\n%1%2%3%4")
                     .arg(toQt(name).left(6), -6)
                     .arg(view_.value(at.x), 9)
                     .arg(view_.value(at.y), 9)
                     .arg(doubt(d.fitted), 8);
    };
    for (const Pad& p : document_.footprint().pads) line(p.number, p.at, p.doubt);
    for (const BareHole& h : document_.footprint().bareHoles) line(h.name, h.at, h.doubt);
    coordinates_->setText(table + tr("\nin %1, from the datum").arg(view_.unitText()));
}

}  // namespace punch
