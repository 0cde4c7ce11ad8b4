// Place: the numbers of a formation's pins.

#include <QHBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/stations/place_station.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"

namespace punch {

void PlaceStation::buildNumbers() {
    title(tr("Numbers"));
    const auto change = [this](const QString& what, const std::function<void(Numbering&)>& set) {
        if (!hasPins()) return;
        Part next = document_.part();
        set(formationIn(next).numbers);
        document_.apply(what, std::move(next));
    };
    order_ = new QComboBox(this);
    for (const auto& [order, word] : Names<NumberOrder>::table) order_->addItem(toQt(word), static_cast<int>(order));
    row(tr("They run"), order_, "order");
    connect(order_, &QComboBox::activated, this, [this, change] {
        const auto order = static_cast<NumberOrder>(order_->currentData().toInt());
        if (order == NumberOrder::Clicked && formation().numbers.clicked.empty()) return startNumbering();
        change(tr("order of numbers"), [&](Numbering& n) { n.order = order; });
    });
    from_ = new QComboBox(this);
    row(tr("First pin at the"), from_, "from");
    connect(from_, &QComboBox::activated, this,
            [change](int i) { change(tr("first pin"), [&](Numbering& n) { n.fromLeft = i == 0; }); });
    firstRow_ = new QComboBox(this);
    firstRow_->addItems({tr("front row"), tr("rear row")});
    row(tr("Beginning with the"), firstRow_, "firstRow");
    connect(firstRow_, &QComboBox::activated, this,
            [change](int i) { change(tr("first row"), [&](Numbering& n) { n.fromFront = i == 0; }); });
    start_ = new QSpinBox(this);
    start_->setRange(0, 9999);
    start_->setKeyboardTracking(false);
    row(tr("Its number"), start_, "start");
    connect(start_, &QSpinBox::valueChanged, this,
            [change](int value) { change(tr("first number"), [&](Numbering& n) { n.start = value; }); });
    step_ = new QComboBox(this);
    step_->addItem(tr("up"), 1);
    step_->addItem(tr("down"), -1);
    step_->addItem(tr("up by 2"), 2);
    step_->addItem(tr("down by 2"), -2);
    row(tr("Numbers go"), step_, "step");
    connect(step_, &QComboBox::activated, this, [this] {
        Part next = document_.part();
        Formation& f = formationIn(next);
        f.numbers.step = step_->currentData().toInt();
        // Numbers that run down must have room for it.
        const int last = f.numbers.start + f.numbers.step * (static_cast<int>(f.pins.size()) - 1);
        if (last < 0) f.numbers.start += 1 - last;
        document_.apply(tr("direction of numbers"), std::move(next));
    });
    prefix_ = textField(this, "prefix");
    row(tr("Prefix"), prefix_, "prefix");
    connect(prefix_, &QLineEdit::editingFinished, this, [this, change] {
        if (!prefix_->isModified()) return;
        prefix_->setModified(false);
        change(tr("prefix of numbers"), [&](Numbering& n) { n.prefix = prefix_->text().trimmed().toStdString(); });
    });
    const auto check = [&](const QString& words, const QString& name, bool Numbering::*member) {
        auto* box = new QCheckBox(words, this);
        box->setObjectName(name);
        add(box);
        connect(box, &QCheckBox::clicked, this,
                [change, words, member](bool on) { change(words, [&](Numbering& n) { n.*member = on; }); });
        return box;
    };
    rowLetters_ = check(tr("A letter for each row: A1, B1"), "rowLetters", &Numbering::rowLetters);
    shared_ = check(tr("May share numbers with others"), "shared", &Numbering::shared);
    ownNumber_ = textField(this, "ownNumber");
    row(tr("Its own number"), ownNumber_, "ownNumber");
    connect(ownNumber_, &QLineEdit::editingFinished, this, [this, change] {
        const FeatureId pin = view_.first();
        if (!ownNumber_->isModified() || formationOf(document_.part(), pin) == nullptr) return;
        ownNumber_->setModified(false);
        const std::string number = ownNumber_->text().trimmed().toStdString();
        change(tr("number of a pin"), [&](Numbering& n) {
            if (number.empty())
                n.own.erase(pin);
            else
                n.own[pin] = number;
        });
    });
    pointing_ = new QPushButton(tr("Number by pointing"), this);
    pointing_->setObjectName("numberByPointing");
    pointing_->setCheckable(true);
    add(pointing_);
    connect(pointing_, &QPushButton::clicked, this,
            [this](bool on) { on ? startNumbering() : view_.setNumbering(false); });
    connect(&view_, &ViewState::numberingChanged, this, [this] { pointing_->setChecked(view_.numbering()); });
    numberWords_ = note();
}

void PlaceStation::startNumbering() {
    if (!hasPins()) return;
    Part next = document_.part();
    Formation& f = formationIn(next);
    f.numbers.order = NumberOrder::Clicked;
    f.numbers.clicked.clear();
    f.numbers.rowLetters = false;
    document_.apply(tr("numbers by pointing"), std::move(next));
    view_.choose({}, {});
    view_.setNumbering(true);
    view_.say(tr("Point at the pins in the order of their numbers. Esc ends it"));
}

void PlaceStation::numberPin(const FeatureId& pin) {
    const Formation* of = formationOf(document_.part(), pin);
    if (of == nullptr) return;
    formation_ = of->id;
    Part next = document_.part();
    Numbering& n = formationIn(next).numbers;
    if (n.order != NumberOrder::Clicked) n.clicked.clear();
    n.order = NumberOrder::Clicked;
    // Pointing at a pin again takes it out of the order and puts it last.
    std::erase(n.clicked, pin);
    n.clicked.push_back(pin);
    const bool all = n.clicked.size() == of->pins.size();
    document_.apply(tr("number of %1").arg(toQt(featureWords(document_.part(), pin))), std::move(next));
    if (all) {
        view_.setNumbering(false);
        view_.say({});
    }
}

void PlaceStation::turnNumbers() {
    if (!hasPins()) return;
    Part next = document_.part();
    formationIn(next).numbers.fromLeft = !formationIn(next).numbers.fromLeft;
    document_.apply(tr("first pin at the other end"), std::move(next));
}

void PlaceStation::refreshNumbers() {
    const Part& part = document_.part();
    const Formation& f = formation();
    const bool ring = traitsOf(shapeOf(part, f)).around;
    const QStringList ends =
        ring ? QStringList{tr("start, onwards"), tr("start, backwards")} : QStringList{tr("left end"), tr("right end")};
    if (from_->count() != 2 || from_->itemText(0) != ends[0]) {
        from_->clear();
        from_->addItems(ends);
    }
    from_->setCurrentIndex(f.numbers.fromLeft ? 0 : 1);
    firstRow_->setCurrentIndex(f.numbers.fromFront ? 0 : 1);
    order_->setCurrentIndex(order_->findData(static_cast<int>(f.numbers.order)));
    int rows = 0;
    for (const Slot& s : slotsOf(part, f)) rows = std::max(rows, s.row + 1);
    const auto showRow = [](QWidget* field, bool on) {
        field->setVisible(on);
        for (QLabel* label : field->parentWidget()->findChildren<QLabel*>())
            if (label->buddy() == field) label->setVisible(on);
    };
    showRow(order_, f.pins.size() > 1);
    showRow(firstRow_, rows > 1);
    rowLetters_->setVisible(rows > 1);
    const QSignalBlocker quiet(start_);
    start_->setValue(f.numbers.start);
    step_->setCurrentIndex(std::max(0, step_->findData(f.numbers.step)));
    if (!prefix_->hasFocus()) prefix_->setText(toQt(f.numbers.prefix));
    rowLetters_->setChecked(f.numbers.rowLetters);
    shared_->setVisible(part.formations.size() > 1);
    shared_->setChecked(f.numbers.shared);
    const bool pin = formationOf(part, view_.first()) != nullptr;
    showRow(ownNumber_, pin);
    if (pin && !ownNumber_->hasFocus()) {
        const auto own = f.numbers.own.find(view_.first());
        ownNumber_->setText(own == f.numbers.own.end() ? QString() : toQt(own->second));
        ownNumber_->setPlaceholderText(toQt(pinNumber(part, view_.first())));
    }
    pointing_->setVisible(f.pins.size() > 1);
    QStringList wrong;
    for (const Complaint& c : document_.footprint().complaints)
        if (c.parameter == "numbers") wrong << toQt(c.words);
    numberWords_->setText(wrong.join('\n'));
    numberWords_->setStyleSheet(theme::styled("color: @vermilion;"));
    numberWords_->setVisible(!wrong.isEmpty());
}

}  // namespace punch
