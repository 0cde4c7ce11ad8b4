#include "app/stations/place_station.h"

#include "app/qt_text.h"

namespace punch {

PlaceStation::PlaceStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    buildFormations();
    buildNumbers();
    afterNumbers_ = place();
    buildDatum();
    buildFeatures();
    title(tr("Coordinates"));
    coordinates_ = note();
    coordinates_->setFont(theme::digits(0.9));
    coordinates_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    coordinates_->setWordWrap(false);
    stretch();
    connectRefresh();
}

void PlaceStation::buildDatum() {
    title(tr("Datum"));
    datum_ = new QComboBox(this);
    datum_->addItem(tr("middle of the pins"), 0);
    datum_->addItem(tr("first pin"), 1);
    datum_->addItem(tr("chosen feature"), 2);
    datum_->addItem(tr("middle of two chosen"), 3);
    row(tr("Datum at the"), datum_, "datum");
    connect(datum_, &QComboBox::activated, this, [this](int i) {
        if (i == 2 && view_.first().empty()) {
            view_.say(tr("Point at a pin, a peg or a face on the sheet first"));
            refresh();
            return;
        }
        if (i == 3 && (view_.first().empty() || view_.second().empty())) {
            view_.say(tr("Point at two features on the sheet first"));
            refresh();
            return;
        }
        setDatum(static_cast<DatumKind>(i), i >= 2 ? view_.first() : FeatureId(),
                 i == 3 ? view_.second() : FeatureId());
    });
}

void PlaceStation::setDatum(DatumKind kind, const FeatureId& feature, const FeatureId& second) {
    if (!document_.open()) return;
    Part next = document_.part();
    next.datum.kind = kind;
    next.datum.feature = feature;
    next.datum.second = second;
    document_.apply(tr("datum"), std::move(next));
}

void PlaceStation::refreshDatum() {
    const Part& part = document_.part();
    datum_->setCurrentIndex(static_cast<int>(part.datum.kind));
    datum_->setItemText(
        3, part.datum.kind == DatumKind::Between
               ? tr("middle of %1 and %2")
                     .arg(toQt(featureWords(part, part.datum.feature)), toQt(featureWords(part, part.datum.second)))
               : tr("middle of two chosen"));
    datum_->setItemText(
        2, part.datum.kind == DatumKind::Feature ? toQt(featureWords(part, part.datum.feature)) : tr("chosen feature"));
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
    for (const MarkPoint& m : document_.footprint().marks) line(m.name, m.at, m.doubt);
    coordinates_->setText(table + tr("\nin %1, from the datum").arg(view_.unitText()));
}

void PlaceStation::refresh() {
    const bool pins = !document_.part().formations.empty();
    if (pins != pinsShown_) showBetween(firstOfFormation_, afterNumbers_, pins);
    pinsShown_ = pins;
    refreshFormations();
    if (pins) refreshNumbers();
    refreshDatum();
    refreshFeatures();
}

}  // namespace punch
