#include "app/stations/size_station.h"
#include "app/kin/makes_card.h"
#include "app/qt_text.h"
#include "app/widgets/remove_rows.h"

#include <QHBoxLayout>
#include <QRegularExpression>
#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"
#include "core/part/carriers.h"
#include "core/part/numbering.h"
#include "core/size/drill_lists.h"

namespace punch {

SizeStation::SizeStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    setObjectName("sizeStation");
    resultTitle_ = title(tr("Holes and lands"));
    result_ = note();
    result_->setFont(theme::digits(0.9));
    result_->setWordWrap(false);
    buildWays();
    buildLands();
    buildRules();
    buildPotentials();
    buildIec();
    buildCutOuts();
    title(tr("Several makes"));
    own("makesCard", new MakesCard(document, view, this));
    buildFab();
    stretch();
    connectRefresh();
}

/// Where the fields of the rules and of the insulation stand in a part.
constexpr auto kRules = [](auto& part) -> auto& { return part.rules; };
constexpr auto kInsulating = [](auto& part) -> auto& { return part.rules.iec; };

void SizeStation::buildRules() {
    const auto rule = [this](const char* name) { return field(ruleFields(), name, kRules); };
    title(tr("By which rule"));
    rule("hole");
    rule("level");
    factor_ = rule("holeFactor");
    rule("leadAtMean");
    rule("drills");
    ownDrills_ = rule("ownDrills");
    rule("land");
    ring_ = rule("ring");
    rule("platedTolerance");
    rule("fewestDrills");

    title(tr("Peg holes"));
    pegResult_ = note();
    pegResult_->setFont(theme::digits(0.9));
    rule("pegClearance");
    rule("bareTolerance");
}

void SizeStation::buildPotentials() {
    title(tr("Potentials"));
    voltageResult_ = note();
    potentials_ = new QWidget(this);
    potentialRows_ = new QVBoxLayout(potentials_);
    potentialRows_->setContentsMargins(0, 0, 0, 0);
    potentialRows_->setSpacing(2);
    add(potentials_);
    potentialName_ = textField(this, "potentialName");
    potentialName_->setPlaceholderText(tr("line"));
    row(tr("Name"), potentialName_, "potentialName");
    potentialVolts_ = textField(this, "potentialVolts");
    potentialVolts_->setPlaceholderText("230");
    potentialVolts_->setFont(theme::digits());
    potentialVolts_->setAlignment(Qt::AlignRight);
    row(tr("Volts"), potentialVolts_, "potentialVolts");
    potentialKind_ = new QComboBox(this);
    potentialKind_->addItems({tr("a.c. r.m.s."), tr("d.c."), tr("peak")});
    row(tr("Kind"), potentialKind_, "potentialKind");
    potentialSource_ = textField(this, "potentialSource");
    potentialSource_->setPlaceholderText(tr("mains"));
    potentialSource_->setToolTip(
        tr("A.c. of one source subtracts, of different ones adds; a phase may follow: “mains 120”"));
    row(tr("Source, phase °"), potentialSource_, "potentialSource");
    potentialPins_ = textField(this, "potentialPins");
    potentialPins_->setPlaceholderText(tr("1 2 or 1-4"));
    potentialPins_->setToolTip(
        tr("Pins, and by name what else carries it: a screw or metal peg, a cut-out, a keepout, the board edge"));
    row(tr("On"), potentialPins_, "potentialPins");
    connect(potentialPins_, &QLineEdit::returnPressed, this, &SizeStation::addPotential);
    auto* give = new QPushButton(tr("Give it to the pins"), this);
    give->setObjectName("addPotential");
    add(give);
    connect(give, &QPushButton::clicked, this, &SizeStation::addPotential);
    field(ruleFields(), "voltageStandard", kRules);
    column_ = field(ruleFields(), "voltageColumn", kRules);
}

/// What IEC 60664-1 has to know.
void SizeStation::buildIec() {
    for (const Field<Insulating>& f : insulatingFields())
        iec_.push_back(field(insulatingFields(), f.name, kInsulating));
}

void SizeStation::refreshVoltage() {
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    const bool iec = part.rules.standard == VoltageStandard::Iec60664;
    column_->setEnabled(!iec);
    for (QWidget* field : iec_) field->setEnabled(iec);
    if (f.voltages.empty()) {
        voltageResult_->setText(part.potentials.empty() ? tr("None named: no voltage distance is checked.")
                                                        : tr("One potential only: nothing to keep apart."));
        return;
    }
    const VoltagePair& w = f.voltages.front();
    const QString who = tr("Worst pair %1 and %2: %3 apart")
                            .arg(toQt(featureWords(part, w.a)), toQt(featureWords(part, w.b)), view_.length(w.gap, 2));
    if (!w.refused.empty())
        voltageResult_->setText(tr("%1. No distance is known: %2.").arg(who, toQt(w.refused)));
    else if (w.clearance && w.creepage)
        voltageResult_->setText(tr("%1. Clearance %2 at %3 V impulse, creepage %4 at %5 V r.m.s.")
                                    .arg(who, view_.length(*w.clearance, 2))
                                    .arg(w.impulse.volts(), 0, 'f', 0)
                                    .arg(view_.length(*w.creepage, 2))
                                    .arg(w.rms.volts(), 0, 'f', 0));
    else
        voltageResult_->setText(
            tr("%1, %2 asked at %3 V peak.").arg(who, view_.length(w.needed, 2)).arg(w.peak.volts(), 0, 'f', 0));
}

/// Features that are chosen together stand in the field that a potential goes to.
void SizeStation::offerPins() {
    const Part& part = document_.part();
    QStringList names;
    for (const FeatureId& id : view_.group())
        names << toQt(formationOf(part, id) != nullptr ? pinNumber(part, id) : featureWords(part, id));
    const std::string now = names.join(' ').toStdString();
    const bool ours = potentialPins_->text().toStdString() == offered_;
    if (now == offered_ || !ours || potentialPins_->hasFocus()) return;
    offered_ = now;
    potentialPins_->setText(toQt(now));
}

void SizeStation::addPotential() {
    if (!document_.open()) return;
    const auto refuse = [&](QLineEdit* field, const QString& message) {
        markWrong(field, true);
        view_.say(message);
        field->setFocus();
    };
    for (QLineEdit* field : {potentialName_, potentialVolts_, potentialPins_, potentialSource_})
        markWrong(field, false);
    Potential p;
    p.name = potentialName_->text().trimmed().toStdString();
    if (p.name.empty()) return refuse(potentialName_, tr("Potential: name it, as in “line”"));
    QString typed = potentialVolts_->text().trimmed();
    if (typed.endsWith('V')) typed.chop(1);
    const auto volts = parseNumber(typed.toStdString());
    if (!volts) return refuse(potentialVolts_, tr("Volts: %1").arg(toQt(volts.error().text())));
    p.kind = static_cast<PotentialKind>(potentialKind_->currentIndex());
    if (p.kind != PotentialKind::Dc && *volts < 0)
        return refuse(potentialVolts_, tr("Volts: r.m.s. volts are not negative"));
    p.volts = Voltage::fromVolts(*volts);
    QStringList source = potentialSource_->text().split(' ', Qt::SkipEmptyParts);
    if (!source.isEmpty()) {
        bool number = false;
        const double degrees = source.last().toDouble(&number);
        if (number && source.size() > 1) {
            if (std::abs(degrees) > 360)
                return refuse(potentialSource_, tr("Source, phase: between -360 and 360 degrees"));
            p.phase = Angle::fromDegrees(degrees);
            source.removeLast();
        }
        p.source = source.join(' ').toStdString();
    }
    const auto carriers = carriersByWords(document_.part(), potentialPins_->text().toStdString());
    if (!carriers) return refuse(potentialPins_, tr("On: %1").arg(toQt(carriers.error().text())));
    p.pins = *carriers;
    offered_.clear();
    auto next = withPotential(document_.part(), p);
    if (!next) return refuse(p.pins.empty() ? potentialPins_ : potentialVolts_, toQt(next.error().text()));
    view_.say({});
    potentialName_->clear();
    potentialVolts_->clear();
    potentialSource_->clear();
    potentialPins_->clear();
    document_.apply(tr("potential"), std::move(*next));
}

/// One block for each formation: which pins, their lead, hole and land.
QString SizeStation::leadWords() const {
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    QString words;
    for (std::size_t i = 0; i < part.formations.size() && i < 6; ++i) {
        const LeadFit& lead = f.leads[i];
        const Formation& formation = part.formations[i];
        const Pad* pad = f.pad(formation.pins.front());
        if (pad == nullptr) continue;
        if (part.formations.size() > 1)
            words +=
                tr("pins %1 to %2\n")
                    .arg(toQt(pinNumber(part, formation.pins.front())), toQt(pinNumber(part, formation.pins.back())));
        const auto line = [&](const QString& name, const QString& value, const QString& how) {
            words += QString("%1%2  %3\n").arg(name, -6).arg(value, 9).arg(how);
        };
        const Extent& across = lead.section.across;
        const QString over = lead.section.byEnd ? tr("formed end") : tr("over corners");
        line(tr("lead"), view_.value(across.mean),
             !lead.sized    ? tr("not measured")
             : across.drawn ? tr("%1 to %2").arg(view_.value(across.least), view_.value(across.most))
                            : tr("± %1, %2").arg(view_.value(across.doubt), over));
        if (lead.end == LeadEnd::Sprung && lead.section.end)
            line(tr("kink"), view_.value(lead.section.end->mean),
                 !lead.section.end->firm ? tr("not measured")
                 : lead.section.end->mean > pad->hole
                     ? tr("springs by %1").arg(view_.value(lead.section.end->mean - pad->hole, 2))
                     : tr("does not hold"));
        if (pad->hole <= Length())
            line(tr("hole"), tr("none"), QString());
        else if (pad->slotLength > Length())
            line(tr("slot"), view_.value(pad->hole, 2),
                 tr("× %1, bit %2").arg(view_.value(pad->slotLength, 2), view_.value(lead.bit, 2)));
        else
            line(tr("hole"), view_.value(pad->hole, 2),
                 std::any_of(f.joined.begin(), f.joined.end(), [&](const JoinedHole& j) { return j.id == pad->id; })
                     ? tr("for all makes")
                 : pad->hole != lead.hole ? tr("by override")
                 : lead.beyondList        ? tr("no drill that large")
                 : lead.passesLargest     ? tr("too large for the level")
                                          : tr("from %1, next up").arg(view_.value(lead.leastHole)));
        const Land& land = shownLand(*pad);
        line(tr("land"),
             land.length == land.width ? view_.value(land.width, 2)
                                       : QString("%1×%2").arg(view_.value(land.width, 2), view_.value(land.length, 2)),
             pad->overridden                          ? tr("by override")
             : part.rules.land == LandRule::FixedRing ? tr("2 × %1 ring").arg(view_.value(part.rules.ring, 2))
                                                      : tr("IPC-2221"));
    }
    return words.trimmed();
}

QString SizeStation::pegWords() const {
    QString pegs;
    for (const BareHole& h : document_.footprint().bareHoles) {
        const QString section = !h.sized ? tr("not measured")
                                : h.flat ? tr("%1 × %2").arg(view_.value(h.flatX, 2), view_.value(h.flatY, 2))
                                         : tr("Ø %1").arg(view_.value(h.peg.across.mean, 3));
        const QString hole = h.slotLength > Length()
                                 ? tr("slot %1 × %2").arg(view_.value(h.size, 2), view_.length(h.slotLength, 2))
                                 : tr("hole %1").arg(view_.length(h.size, 2));
        pegs += tr("%1 %2 → %3%4\n").arg(toQt(h.name), section, hole, h.plated ? tr(", plated") : QString());
    }
    return pegs.isEmpty() ? tr("no pegs") : pegs.trimmed();
}

void SizeStation::refreshPotentials() {
    const Part& part = document_.part();
    removeRows(potentialRows_);
    for (std::size_t i = 0; i < part.potentials.size(); ++i) {
        const Potential& p = part.potentials[i];
        QStringList pins;
        for (const FeatureId& id : p.pins)
            pins << toQt(formationOf(part, id) != nullptr ? pinNumber(part, id) : featureWords(part, id));
        auto* box = new QWidget(potentials_);
        auto* lay = new QHBoxLayout(box);
        lay->setContentsMargins(0, 0, 0, 0);
        const bool anyPin = std::any_of(p.pins.begin(), p.pins.end(),
                                        [&](const FeatureId& id) { return formationOf(part, id) != nullptr; });
        auto* text = new QLabel((anyPin ? tr("<b>%1</b> · pins %2 · %3 V %4") : tr("<b>%1</b> · %2 · %3 V %4"))
                                    .arg(toQt(p.name).toHtmlEscaped(), pins.join(", "))
                                    .arg(p.volts.volts())
                                    .arg(toQt(nameOf(p.kind))),
                                box);
        text->setWordWrap(true);
        auto* drop = new QPushButton(tr("drop"), box);
        drop->setProperty("role", "link");
        drop->setToolTip(tr("Takes the potential away from its pins"));
        drop->setAccessibleName(tr("Drop potential %1").arg(toQt(p.name)));
        connect(drop, &QPushButton::clicked, this, [this, i] {
            Part next = document_.part();
            if (i >= next.potentials.size()) return;
            next.potentials.erase(next.potentials.begin() + static_cast<std::ptrdiff_t>(i));
            document_.apply(tr("removal of a potential"), std::move(next));
        });
        lay->addWidget(text, 1);
        lay->addWidget(drop);
        potentialRows_->addWidget(box);
    }
}

void SizeStation::refresh() {
    offerPins();
    const Part& part = document_.part();
    resultTitle_->setText(tr("Holes and lands · %1").arg(view_.unitText()));
    result_->setText(leadWords());
    ring_->setEnabled(part.rules.land == LandRule::FixedRing);
    factor_->setEnabled(part.rules.hole == HoleRule::HouseFactor);
    ownDrills_->setEnabled(part.rules.drills == DrillList::Own);
    pegResult_->setText(pegWords());
    refreshPotentials();
    refreshVoltage();
    refreshLands();
    refreshCutOuts();
    refreshFab();
    if (!(part == waysOf_)) {
        if (view_.offered()) view_.offer({});
        ways_->hide();
        waysRest_->start();
    }
}

}  // namespace punch
