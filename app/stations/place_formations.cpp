// Place: the formation, its shape and its parameters.

#include <QHBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/stations/place_station.h"
#include "core/part/formation_kinds.h"
#include "core/part/slots.h"

namespace punch {
namespace {

QString kindWords(FormationKind kind) { return toQt(nameOf(kind)); }

/// "4", "8 3", "4 x 3".
QString countText(const Formation& f) {
    if (traitsOf(f).grid) return QStringLiteral("%1 x %2").arg(f.rows.empty() ? 1 : f.rows.front()).arg(f.rows.size());
    if (!f.rows.empty()) {
        QStringList rows;
        for (const int n : f.rows) rows << QString::number(n);
        return rows.join(' ');
    }
    return QString::number(f.pins.size() - (f.middle ? 1 : 0));
}

}  // namespace

const Formation& PlaceStation::formation() const {
    const Formation* f = formationById(document_.part(), formation_);
    return f == nullptr ? document_.part().formations.front() : *f;
}

Formation& PlaceStation::formationIn(Part& part) const {
    for (Formation& f : part.formations)
        if (f.id == formation_) return f;
    return part.formations.front();
}

void PlaceStation::buildFormations() {
    title(tr("Formations"));
    auto* line = new QWidget(this);
    auto* box = new QHBoxLayout(line);
    box->setContentsMargins(0, 0, 0, 0);
    formations_ = new QComboBox(line);
    formations_->setObjectName("formations");
    formations_->setAccessibleName(tr("Formation"));
    formations_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    addFormation_ = new QToolButton(line);
    addFormation_->setText(tr("Add"));
    addFormation_->setObjectName("addFormation");
    addFormation_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(addFormation_);
    for (const auto& [kind, word] : Names<FormationKind>::table)
        menu->addAction(kindWords(kind), this, [this, kind = kind] { addFormation(kind); });
    addFormation_->setMenu(menu);
    removeFormation_ = new QPushButton(tr("Remove"), line);
    removeFormation_->setObjectName("removeFormation");
    box->addWidget(formations_, 1);
    box->addWidget(addFormation_);
    box->addWidget(removeFormation_);
    add(line);
    noPins_ = note(tr("The part has no pins. What lies on the board is attached in Dress."));
    firstOfFormation_ = place();
    connect(formations_, &QComboBox::activated, this, [this] {
        formation_ = formations_->currentData().toString().toStdString();
        view_.choose({}, {});
        refresh();
    });
    connect(removeFormation_, &QPushButton::clicked, this, [this] {
        if (!hasPins()) return;
        auto next = withoutFormation(document_.part(), formation().id);
        if (!next) return view_.say(toQt(next.error().text()));
        document_.apply(tr("removal of a formation"), std::move(*next));
    });
    buildShape();
    buildTwins();
    buildLeads();
    buildPins();
}

void PlaceStation::buildShape() {
    kind_ = new QComboBox(this);
    for (const auto& [kind, word] : Names<FormationKind>::table)
        kind_->addItem(kindWords(kind), static_cast<int>(kind));
    row(tr("Shape"), kind_, "kind");
    connect(kind_, &QComboBox::activated, this, [this] {
        const auto kind = static_cast<FormationKind>(kind_->currentData().toInt());
        reshape(tr("shape of the formation"), [&](FormationPlan& plan) {
            plan.kind = kind;
            plan.rows = rowsOfKind(kind, plan.rows);
            if (traitsOf(kind).mirrors && plan.twinOf.empty())
                for (const Formation& f : document_.part().formations)
                    if (f.id != formation().id && !traitsOf(f).mirrors) plan.twinOf = f.id;
        });
    });
    count_ = new QLineEdit(this);
    count_->setAlignment(Qt::AlignRight);
    count_->setFont(theme::digits());
    row(tr("Pins"), count_, "pins");
    countWords_ = note();
    connect(count_, &QLineEdit::editingFinished, this, &PlaceStation::takeCount);
}

/// What a formation mirrors, and what only some kinds have.
void PlaceStation::buildTwins() {
    twinOf_ = new QComboBox(this);
    row(tr("Mirrors"), twinOf_, "twinOf");
    connect(twinOf_, &QComboBox::activated, this, [this] {
        reshape(tr("mirrored formation"),
                [this](FormationPlan& plan) { plan.twinOf = twinOf_->currentData().toString().toStdString(); });
    });
    mirror_ = new QComboBox(this);
    mirror_->addItem(tr("left and right"), static_cast<int>(Axis::Along));
    mirror_->addItem(tr("front and rear"), static_cast<int>(Axis::Across));
    row(tr("Exchanging"), mirror_, "mirror");
    connect(mirror_, &QComboBox::activated, this, [this] {
        reshape(tr("direction of the mirror"),
                [this](FormationPlan& plan) { plan.mirror = static_cast<Axis>(mirror_->currentData().toInt()); });
    });
    const auto box2 = [&](const QString& words, const QString& name,
                          const std::function<void(FormationPlan&, bool)>& set) {
        auto* check = new QCheckBox(words, this);
        check->setObjectName(name);
        add(check);
        connect(check, &QCheckBox::clicked, this,
                [this, set, words](bool on) { reshape(words, [&](FormationPlan& plan) { set(plan, on); }); });
        return check;
    };
    middle_ = box2(tr("One more pin in the middle"), "middlePin", [](FormationPlan& p, bool on) { p.middle = on; });
    arc_ = box2(tr("An arc, its step measured"), "arc", [](FormationPlan& p, bool on) { p.arc = on; });
    const auto flag = [&](const QString& words, const QString& name, bool Formation::*member) {
        auto* check = new QCheckBox(words, this);
        check->setObjectName(name);
        add(check);
        connect(check, &QCheckBox::clicked, this, [this, member, words](bool on) {
            Part next = document_.part();
            formationIn(next).*member = on;
            document_.apply(words, std::move(next));
        });
        return check;
    };
    clockwise_ = flag(tr("Clockwise, seen from the part side"), "clockwise", &Formation::clockwise);
    ownPitch_ = flag(tr("A pitch of its own in the rear row"), "ownPitch", &Formation::ownPitch);
}

void PlaceStation::buildLeads() {
    lead_ = new QComboBox(this);
    for (const auto& [shape, word] : Names<LeadShape>::table) lead_->addItem(toQt(word), static_cast<int>(shape));
    row(tr("Leads"), lead_, "lead");
    connect(lead_, &QComboBox::activated, this, [this] {
        Part next = document_.part();
        formationIn(next).lead = static_cast<LeadShape>(lead_->currentData().toInt());
        document_.apply(tr("shape of leads"), std::move(next));
    });
    end_ = new QComboBox(this);
    end_->addItem(tr("plain or pointed"), static_cast<int>(LeadEnd::Plain));
    end_->addItem(tr("formed wider"), static_cast<int>(LeadEnd::Formed));
    end_->addItem(tr("kinked, springs"), static_cast<int>(LeadEnd::Sprung));
    end_->setToolTip(tr("A flattened or swaged end goes through the hole as it is; a kinked one springs and holds"));
    row(tr("Their ends"), end_, "leadEnd");
    connect(end_, &QComboBox::activated, this, [this] {
        Part next = document_.part();
        formationIn(next).end = static_cast<LeadEnd>(end_->currentData().toInt());
        document_.apply(tr("ends of leads"), std::move(next));
    });
}

/// What can be done with the pin that is pointed at, and the parameters.
void PlaceStation::buildPins() {
    auto* pins = new QWidget(this);
    auto* pinLine = new QVBoxLayout(pins);
    pinLine->setSpacing(0);
    pinLine->setContentsMargins(0, 0, 0, 0);
    movedPin_ = new QPushButton(pins);
    movedPin_->setObjectName("movedPin");
    leaveOut_ = new QPushButton(pins);
    leaveOut_->setObjectName("leaveOut");
    putBack_ = new QPushButton(tr("Put all back"), pins);
    putBack_->setObjectName("putBack");
    for (QPushButton* b : {movedPin_, leaveOut_, putBack_}) {
        b->setProperty("role", "link");
        pinLine->addWidget(b, 0, Qt::AlignLeft);
    }
    add(pins);
    connect(movedPin_, &QPushButton::clicked, this, &PlaceStation::toggleMovedPin);
    connect(leaveOut_, &QPushButton::clicked, this, &PlaceStation::leaveOutPin);
    connect(putBack_, &QPushButton::clicked, this,
            [this] { reshape(tr("all positions of the grid"), [](FormationPlan& plan) { plan.leftOut.clear(); }); });

    parameters_ = new ParameterList(document_, view_, this);
    add(parameters_);
    pitchChoice_ = new QComboBox(this);
    row(tr("Standard pitch"), pitchChoice_, "pitch");
    connect(pitchChoice_, &QComboBox::activated, this, [this] {
        const QVariant mm = pitchChoice_->currentData();
        const std::string name = parameterPrefix(document_.part(), formation()) + "pitch";
        document_.apply(mm.isValid() ? tr("standard pitch") : tr("pitch as read"),
                        withTaken(document_.part(), name,
                                  mm.isValid() ? std::optional(Length::fromMm(mm.toDouble())) : std::nullopt));
    });
}

bool PlaceStation::hasPins() {
    if (!document_.open()) return false;
    if (document_.part().formations.empty()) view_.say(tr("The part has no pins: add a formation first"));
    return !document_.part().formations.empty();
}

void PlaceStation::reshape(const QString& what, const std::function<void(FormationPlan&)>& change) {
    if (!hasPins()) return;
    FormationPlan plan = planOf(document_.part(), formation());
    change(plan);
    auto next = withShape(document_.part(), formation().id, plan);
    if (!next) {
        view_.say(toQt(next.error().text()));
        refresh();
        return;
    }
    view_.say({});
    document_.apply(what, std::move(*next));
}

void PlaceStation::takeCount() {
    if (!count_->isModified() || !document_.open()) return;
    const Formation& f = formation();
    FormationPlan plan = planOf(document_.part(), f);
    const auto rows = rowsFromText(f.kind, count_->text().toStdString());
    auto next = rows ? Result<Part>(document_.part()) : tl::make_unexpected(rows.error());
    if (rows) {
        if (traitsOf(f).grid && rows->front() > 0) {
            // Positions that were left out stay so where they still exist.
            const int old = plan.rows.front();
            std::vector<int> kept;
            for (const int p : plan.leftOut)
                if (p / old < static_cast<int>(rows->size()) && p % old < rows->front())
                    kept.push_back(p / old * rows->front() + p % old);
            plan.leftOut = kept;
        }
        plan.rows = *rows;
        next = withShape(document_.part(), f.id, plan);
    }
    markWrong(count_, !next);
    view_.say(next ? QString() : toQt(next.error().text()));
    if (!next) return;
    count_->setModified(false);
    document_.apply(tr("pin count"), std::move(*next));
}

void PlaceStation::addFormation(FormationKind kind) {
    if (!document_.open()) return;
    FormationPlan plan;
    plan.kind = kind;
    plan.rows = traitsOf(kind).usual;
    if (traitsOf(kind).mirrors && !hasPins()) return;
    if (traitsOf(kind).mirrors) plan.twinOf = traitsOf(formation()).mirrors ? formation().twinOf : formation().id;
    auto next = withFormation(document_.part(), plan);
    if (!next) return view_.say(toQt(next.error().text()));
    view_.choose({}, {});
    formation_ = next->formations.back().id;
    document_.apply(tr("formation"), std::move(*next));
}

void PlaceStation::toggleMovedPin() {
    if (!document_.open()) return;
    const FeatureId pin = view_.first();
    const Formation* f = formationOf(document_.part(), pin);
    if (f == nullptr) return view_.say(tr("Point at a pin on the sheet first"));
    const bool moved = std::find(f->moved.begin(), f->moved.end(), pin) != f->moved.end();
    document_.apply(tr("pin off its place"), withMovedPin(document_.part(), pin, !moved));
}

void PlaceStation::leaveOutPin() {
    if (!document_.open()) return;
    const FeatureId pin = view_.first();
    const Formation* f = formationOf(document_.part(), pin);
    if (f == nullptr || !traitsOf(*f).grid) return view_.say(tr("Point at a pin of a grid first"));
    const auto places = slotsOf(document_.part(), *f);
    const Slot slot =
        places[static_cast<std::size_t>(std::find(f->pins.begin(), f->pins.end(), pin) - f->pins.begin())];
    formation_ = f->id;
    reshape(tr("position left out"),
            [&](FormationPlan& plan) { plan.leftOut.push_back(slot.row * plan.rows.front() + slot.column); });
}

void PlaceStation::refreshFormations() {
    const Part& part = document_.part();
    formations_->setEnabled(!part.formations.empty());
    removeFormation_->setEnabled(!part.formations.empty());
    noPins_->setVisible(part.formations.empty());
    if (part.formations.empty()) {
        formations_->clear();
        return;
    }
    if (const Formation* pointed = formationOf(part, view_.first())) formation_ = pointed->id;
    const Formation& f = formation();
    formation_ = f.id;
    formations_->clear();
    for (const Formation& each : part.formations) {
        const QString pins = traitsOf(each).count == PinCount::None && !traitsOf(each).mirrors
                                 ? QString()
                                 : tr(" of %1").arg(countText(each));
        formations_->addItem(tr("%1 · %2%3").arg(toQt(each.id), kindWords(each.kind), pins), toQt(each.id));
        if (each.id == f.id) formations_->setCurrentIndex(formations_->count() - 1);
    }
    kind_->setCurrentIndex(kind_->findData(static_cast<int>(f.kind)));
    if (!count_->property("wrong").toBool() && !count_->hasFocus()) count_->setText(countText(f));
    const FormationTraits& traits = traitsOf(f);
    const bool ring = traits.around;
    const bool twin = traits.mirrors;
    const auto showRow = [](QWidget* field, bool on) {
        field->setVisible(on);
        // The label is the field's neighbour in its line.
        for (QLabel* label : field->parentWidget()->findChildren<QLabel*>())
            if (label->buddy() == field) label->setVisible(on);
    };
    showRow(count_, traits.count != PinCount::None);
    showRow(twinOf_, twin);
    showRow(mirror_, twin);
    showRow(lead_, !twin);
    showRow(end_, !twin);
    middle_->setVisible(ring);
    arc_->setVisible(ring);
    clockwise_->setVisible(ring);
    ownPitch_->setVisible(traits.rowShift);
    middle_->setChecked(f.middle);
    arc_->setChecked(f.arc);
    clockwise_->setChecked(f.clockwise);
    ownPitch_->setChecked(f.ownPitch);
    lead_->setCurrentIndex(lead_->findData(static_cast<int>(f.lead)));
    end_->setCurrentIndex(end_->findData(static_cast<int>(f.end)));
    const QString typedAs = tr(traits.countWords);
    countWords_->setText(traits.grid ? typedAs.arg(f.leftOut.size()) : typedAs);
    countWords_->setVisible(!countWords_->text().isEmpty());
    twinOf_->clear();
    for (const Formation& each : part.formations)
        if (each.id != f.id) twinOf_->addItem(toQt(each.id), toQt(each.id));
    twinOf_->setCurrentIndex(twinOf_->findData(toQt(f.twinOf)));
    mirror_->setCurrentIndex(mirror_->findData(static_cast<int>(f.mirror)));
    const FeatureId pin = formationOf(part, view_.first()) != nullptr ? view_.first() : FeatureId();
    const bool moved = std::find(f.moved.begin(), f.moved.end(), pin) != f.moved.end();
    const QString pinWords = toQt(featureWords(part, pin));
    movedPin_->setVisible(!pin.empty());
    movedPin_->setText(moved ? tr("Put %1 back into its pattern").arg(pinWords)
                             : tr("Free %1 from its pattern").arg(pinWords));
    leaveOut_->setVisible(!pin.empty() && traits.grid);
    leaveOut_->setText(tr("Leave %1 out").arg(pinWords));
    putBack_->setVisible(traits.grid && !f.leftOut.empty());

    const std::string prefix = parameterPrefix(part, f);
    std::vector<std::string> names;
    for (const char* name : {"x", "y", "turn", "pitch", "rearPitch", "rowGap", "rowShift", "circle", "start", "step",
                             "axis", "lead.width", "lead.thickness"})
        if (name != std::string("lead.thickness") || f.lead == LeadShape::Rectangular || f.lead == LeadShape::Oval)
            names.push_back(prefix + name);
    if (f.end != LeadEnd::Plain)
        for (const char* name : {"lead.end.width", "lead.end.thickness"}) names.push_back(prefix + name);
    for (const FeatureId& id : f.moved) {
        names.push_back(id + ".dx");
        names.push_back(id + ".dy");
    }
    parameters_->show(names);

    const SizeAdvice* advice = document_.footprint().size(prefix + "pitch");
    const bool pitched = advice != nullptr;
    showRow(pitchChoice_, pitched);
    if (!pitched) return;
    const SizeAdvice& a = *advice;
    pitchChoice_->setToolTip(toQt(a.words));
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
}

}  // namespace punch
