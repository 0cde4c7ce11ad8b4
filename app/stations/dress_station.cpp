#include "app/stations/dress_station.h"

#include <QAbstractItemView>
#include <QHBoxLayout>

#include "app/qt_text.h"
#include "core/symbol/symbol_drawing.h"
#include "core/advise/local_fiducials.h"
#include "core/dress/courtyard.h"

namespace punch {
namespace {

auto dressOf = [](auto& part) -> auto& { return part.dress; };

}  // namespace

DressStation::DressStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    title(tr("Attached to the part"));
    marks_ = new MarkList(document, view, this);
    add(marks_);
    finePitch_ = note();
    localPair_ = new QPushButton(tr("Put a pair of local fiducials"), this);
    localPair_->setObjectName("localFiducials");
    localPair_->setProperty("role", "link");
    localPair_->setToolTip(tr("On a diagonal, outside copper and body, attached to the lands"));
    add(localPair_);
    connect(localPair_, &QPushButton::clicked, this, [this] {
        document_.settle();
        document_.apply(tr("local fiducials"), withLocalFiducials(document_.part(), document_.footprint()));
    });
    editor_ = new MarkEditor(document, view, this);
    editor_->setAfter(marks_->addButton());
    add(editor_);
    buildInk();
    title(tr("Courtyard"));
    const Field<Dress>& density = fieldNamed(dressFields(), "density");
    const auto& densities = std::get<Choice<Dress>>(density.member);
    QStringList words;
    for (const std::string_view word : densities.words) words << toQt(std::string(word));
    choice(
        tr(density.label), "density", words, [densities](const Part& p) { return densities.get(p.dress); },
        [densities](Part& p, int at) {
            densities.set(p.dress, at);
            p.dress.courtyardExcess.reset();
        })
        ->setToolTip(tr(density.help));
    excess_ = length(
        tr("Excess"), "courtyardExcess", [this](const Part&) { return document_.footprint().courtyardExcess; },
        [](Part& p, Length l) { p.dress.courtyardExcess = l; }, {}, Length::fromMm(50));
    excessNote_ = note();
    stretch();
    connectRefresh();
    connect(&view_, &ViewState::markChanged, this, [this] {
        if (isVisible() && document_.open()) refresh();
    });
}

/// What is printed by rule.
void DressStation::buildInk() {
    title(tr("Top silkscreen, by rule"));
    for (const char* name : {"outline", "outlineAllowance", "outlineCorners", "cornerLength", "leastInk", "line",
                             "mark", "turnable", "referenceText"})
        field(dressFields(), name, dressOf);
    reference_ = textField(this, "reference");
    QHBoxLayout* letters = row(tr("Class letter"), reference_, "reference");
    reference_->setMaximumWidth(theme::em() * 4);
    reference_->setToolTip(tr("IEC 81346-2: X for terminals and connectors, K for relays, S for switches"));
    auto* classes = new QComboBox(this);
    classes->addItem(tr("by class…"));
    for (const bool iec : {true, false})
        for (const ReferenceLetter& l : referenceLetters())
            classes->addItem(tr("%1  %2 (%3)").arg(iec ? l.iec81346 : l.ieee315, tr(l.part), iec ? "IEC 81346-2" : "IEEE 315"),
                             QString(iec ? l.iec81346 : l.ieee315));
    classes->setObjectName("referenceClass");
    classes->setAccessibleName(tr("Class letter by class of part"));
    classes->setMaximumWidth(theme::em() * 7);
    classes->view()->setMinimumWidth(theme::em() * 26);
    keepWheelAway(classes);
    letters->addWidget(classes);
    connect(classes, &QComboBox::activated, this, [this, classes](int at) {
        if (at <= 0 || !document_.open()) return;
        Part next = document_.part();
        next.reference = classes->itemData(at).toString().toStdString();
        classes->setCurrentIndex(0);
        document_.apply(tr("class letter"), std::move(next));
    });
    connect(reference_, &QLineEdit::editingFinished, this, [this] {
        if (!reference_->isModified()) return;
        const QString text = reference_->text().trimmed();
        if (text.isEmpty() || text.size() > 8) {
            markWrong(reference_, true);
            view_.say(tr("Class letter: type one to eight letters"));
            return;
        }
        reference_->setModified(false);
        markWrong(reference_, false);
        view_.say({});
        Part next = document_.part();
        next.reference = text.toStdString();
        document_.apply(tr("class letter"), std::move(next));
    });
    field(dressFields(), "textHeight", dressOf);
    note(tr("Ink stays 0.15 mm clear of mask openings, bare holes and cut-outs; lines that come nearer are cut away."));
    title(tr("Assembly drawing, by rule"));
    field(dressFields(), "valueText", dressOf);
}

void DressStation::refresh() {
    const Part& part = document_.part();
    marks_->refresh();
    const auto pitch = pitchAskingForFiducials(part, document_.footprint());
    finePitch_->setVisible(pitch.has_value());
    localPair_->setVisible(pitch.has_value());
    if (pitch)
        finePitch_->setText(tr("Pitch %1: a placement machine looks for two fiducials at the part itself.")
                                .arg(view_.length(*pitch, 2)));
    editor_->refresh();
    setRowVisible("cornerLength", part.dress.outline && part.dress.outlineCorners);
    if (!reference_->hasFocus() && !reference_->property("wrong").toBool()) reference_->setText(toQt(part.reference));
    const Length rule = ruledExcess(part, document_.footprint().attached);
    const bool relaxed = part.dress.courtyardExcess && *part.dress.courtyardExcess < rule;
    excessNote_->setText(relaxed ? tr("Less than the rule asks (%1).").arg(view_.length(rule, 2))
                                 : tr("Around body, lands and travel; the rule asks %1.").arg(view_.length(rule, 2)));
}

}  // namespace punch
