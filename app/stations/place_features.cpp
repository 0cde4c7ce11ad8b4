// Place: pegs, locks, lugs, holes, marks and faces.

#include <QHBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/stations/place_station.h"
#include "core/part/edit_several.h"

namespace punch {

void PlaceStation::buildFeatures() {
    title(tr("Pegs, holes, marks and faces"));
    spots_ = new QComboBox(this);
    row(tr("Feature"), spots_, "spots");
    connect(spots_, &QComboBox::activated, this, [this] {
        spot_ = spots_->currentData().toString().toStdString();
        view_.choose(spot_, {});
    });
    spotWords_ = note();
    auto* buttons = new QWidget(this);
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    auto* peg = new QPushButton(tr("Add a peg"), buttons);
    peg->setObjectName("addPeg");
    auto* more = new QToolButton(buttons);
    more->setText(tr("More"));
    more->setObjectName("addFeature");
    more->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(more);
    for (const auto& [kind, word] : Names<SpotKind>::table)
        menu->addAction(toQt(word), this, [this, kind = kind] { addSpot(kind); });
    menu->addSeparator();
    menu->addAction(tr("panel, in front"), this, [this] { addFace(FaceKind::Panel, Axis::Across, false); });
    menu->addAction(tr("board edge, in front"), this, [this] { addFace(FaceKind::BoardEdge, Axis::Across, false); });
    menu->addAction(tr("board edge, behind"), this, [this] { addFace(FaceKind::BoardEdge, Axis::Across, true); });
    menu->addAction(tr("board edge, at the left"), this, [this] { addFace(FaceKind::BoardEdge, Axis::Along, false); });
    menu->addAction(tr("board edge, at the right"), this, [this] { addFace(FaceKind::BoardEdge, Axis::Along, true); });
    menu->addAction(tr("plug face, in front"), this, [this] { addFace(FaceKind::Plug, Axis::Across, false); });
    menu->addAction(tr("knob face, in front"), this, [this] { addFace(FaceKind::Knob, Axis::Across, false); });
    menu->addAction(tr("knob face, on top"), this, [this] { addFace(FaceKind::Knob, Axis::Height, true); });
    more->setMenu(menu);
    removeSpot_ = new QPushButton(tr("Remove"), buttons);
    removeSpot_->setObjectName("removePeg");
    line->addWidget(peg);
    line->addWidget(more);
    line->addWidget(removeSpot_);
    line->addStretch();
    add(buttons);
    connect(peg, &QPushButton::clicked, this, &PlaceStation::addPeg);
    connect(removeSpot_, &QPushButton::clicked, this, &PlaceStation::removeChosenPeg);

    spotName_ = textField(this, "featureName");
    row(tr("Name"), spotName_, "featureName");
    connect(spotName_, &QLineEdit::editingFinished, this, [this] {
        if (!spotName_->isModified() || !document_.open()) return;
        const std::string name = spotName_->text().trimmed().toStdString();
        const FeatureId id = chosenSpot();
        Part next = document_.part();
        bool taken = name.empty();
        for (const Spot& s : next.spots) taken = taken || (s.name == name && s.id != id);
        for (const Face& f : next.faces) taken = taken || (f.name == name && f.id != id);
        markWrong(spotName_, taken);
        if (taken) return view_.say(tr("“%1” is no free name. Names of features are unique").arg(toQt(name)));
        for (Spot& s : next.spots)
            if (s.id == id) s.name = name;
        for (Face& f : next.faces)
            if (f.id == id) f.name = name;
        spotName_->setModified(false);
        view_.say({});
        document_.apply(tr("name of a feature"), std::move(next));
    });
    flat_ = new QCheckBox(tr("Flat: width and thickness"), this);
    flat_->setObjectName("flat");
    add(flat_);
    connect(flat_, &QCheckBox::clicked, this, [this](bool on) {
        Part next = document_.part();
        for (Spot& s : next.spots)
            if (s.id == chosenSpot()) s.flat = on;
        document_.apply(tr("section of a feature"), std::move(next));
    });
    spotParameters_ = new ParameterList(document_, view_, this);
    add(spotParameters_);
    auto* sides = new QWidget(this);
    auto* sideLine = new QHBoxLayout(sides);
    sideLine->setContentsMargins(0, 0, 0, 0);
    otherSide_ = new QPushButton(tr("Other side"), sides);
    otherSide_->setObjectName("pegOtherSide");
    otherSide_->setToolTip(tr("Draws it on the other side of the row, while it is loose"));
    otherEnd_ = new QPushButton(tr("Other end"), sides);
    otherEnd_->setObjectName("pegOtherEnd");
    twinSpot_ = new QPushButton(tr("Add its mirror image"), this);
    twinSpot_->setObjectName("twinFeature");
    for (QPushButton* b : {otherSide_, otherEnd_, twinSpot_}) b->setProperty("role", "link");
    sideLine->addWidget(otherSide_);
    sideLine->addWidget(otherEnd_);
    sideLine->addStretch();
    add(sides);
    add(twinSpot_);
    connect(otherSide_, &QPushButton::clicked, this, [this] { mirrorPeg(true); });
    connect(otherEnd_, &QPushButton::clicked, this, [this] { mirrorPeg(false); });
    connect(twinSpot_, &QPushButton::clicked, this,
            [this] { document_.apply(tr("mirror image"), withSpotTwin(document_.part(), chosenSpot())); });
}

FeatureId PlaceStation::chosenSpot() const {
    const Part& part = document_.part();
    const auto there = [&](const FeatureId& id) { return spotOf(part, id) != nullptr || faceOf(part, id) != nullptr; };
    if (there(view_.first())) return view_.first();
    if (there(spot_)) return spot_;
    return !part.spots.empty() ? part.spots.back().id : !part.faces.empty() ? part.faces.back().id : FeatureId();
}

void PlaceStation::addSpot(SpotKind kind) {
    if (!document_.open()) return;
    Part next = withSpot(document_.part(), kind);
    spot_ = next.spots.back().id;
    document_.apply(toQt(nameOf(kind)), std::move(next));
}

void PlaceStation::addFace(FaceKind kind, Axis axis, bool positive) {
    if (!document_.open()) return;
    Part next = withFace(document_.part(), kind, axis, positive);
    spot_ = next.faces.back().id;
    document_.apply(toQt(nameOf(kind)), std::move(next));
}

void PlaceStation::removeChosenPeg() {
    if (!document_.open()) return;
    const Part& part = document_.part();
    const FeatureId id = chosenSpot();
    if (!id.empty()) document_.apply(tr("removal of %1").arg(toQt(featureWords(part, id))), withoutFeature(part, id));
}

void PlaceStation::removeChosen() {
    if (!document_.open()) return;
    if (!view_.group().empty()) {
        auto next = withoutFeatures(document_.part(), view_.group());
        if (!next) return view_.say(toQt(next.error().text()));
        const auto n = view_.group().size();
        view_.setGroup({});
        document_.apply(tr("removal of %1 features").arg(n), std::move(*next));
        return;
    }
    const FeatureId id = view_.first();
    const Part& part = document_.part();
    if (spotOf(part, id) != nullptr || faceOf(part, id) != nullptr) return removeChosenPeg();
    if (formationOf(part, id) != nullptr)
        view_.say(tr("A pin belongs to its formation: change the number of pins in Place, or leave the position out"));
    else if (id.empty())
        view_.say(tr("Point at a peg, lock, lug, hole or face first"));
    else
        view_.say(tr("%1 cannot be removed").arg(toQt(featureWords(part, id))));
}

void PlaceStation::mirrorPeg(bool across) {
    if (!document_.open()) return;
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    const FeatureId id = chosenSpot();
    if (spotOf(part, id) == nullptr) return view_.say(tr("Choose a peg, lock or hole first"));
    const auto now = f.place(id);
    if (!now) return;
    Point at = *now + f.datum;
    if (across)
        at.y = -at.y;
    else if (!hasPins())
        return;
    else
        at.x = f.place(part.formations.front().pins.back())->x + f.datum.x - at.x;
    document_.apply(tr("place of %1").arg(toQt(featureWords(part, id))), withSpotDrawnAt(part, id, at));
}

void PlaceStation::refreshFeatures() {
    const Part& part = document_.part();
    const FeatureId id = chosenSpot();
    spot_ = id;
    spots_->clear();
    for (const Spot& s : part.spots)
        spots_->addItem(s.name == nameOf(s.kind) ? toQt(s.name) : tr("%1 (%2)").arg(toQt(s.name), toQt(nameOf(s.kind))),
                        toQt(s.id));
    for (const Face& f : part.faces) spots_->addItem(toQt(f.name), toQt(f.id));
    spots_->setCurrentIndex(spots_->findData(toQt(id)));
    const Spot* spot = spotOf(part, id);
    const Face* face = faceOf(part, id);
    const bool any = spot != nullptr || face != nullptr;
    for (QWidget* w : std::initializer_list<QWidget*>{removeSpot_, otherSide_, otherEnd_, twinSpot_})
        w->setEnabled(any);
    for (QPushButton* b : {otherSide_, otherEnd_, twinSpot_}) b->setVisible(spot != nullptr && spot->twinOf.empty());
    flat_->setVisible(spot != nullptr && spot->kind != SpotKind::Mark && spot->twinOf.empty());
    flat_->setChecked(spot != nullptr && spot->flat);
    spotName_->setEnabled(any);
    if (!spotName_->hasFocus() && !spotName_->property("wrong").toBool())
        spotName_->setText(spot != nullptr ? toQt(spot->name) : face != nullptr ? toQt(face->name) : QString());
    spotWords_->setText(!any              ? tr("None. A peg, lock or lug gets a bare hole of its own.")
                        : spot == nullptr ? tr("A face, read against the seating plane, the body or a pin.")
                        : !spot->twinOf.empty()
                            ? tr("The mirror image of %1.").arg(toQt(featureWords(part, spot->twinOf)))
                            : tr("Read against the pins. Drag a loose one on the sheet to where it sits."));
    std::vector<std::string> names;
    for (const char* name : {".x", ".y", ".diameter", ".width", ".thickness", ".axis", ".at"})
        names.push_back(id + name);
    spotParameters_->show(names);
}

}  // namespace punch
