// The lower half of the sources column: what was found, and how far pads are off.

#include <algorithm>
#include <cmath>

#include "app/pictures/sources_column.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "core/measure/reading_result.h"

namespace punch {

QString SourcesColumn::farthest() const {
    // How far what was read lies from where the part has it: x and y of one feature together.
    std::map<FeatureId, double> off2;
    const Part& part = document_.part();
    const auto& results = document_.footprint().readings;
    const Source* s = work_.source();
    for (std::size_t i = 0; s != nullptr && i < std::min(part.readings.size(), results.size()); ++i) {
        const Reading& r = part.readings[i];
        if (r.contact == Contact::Picture && r.source == s->id && results[i].stats.usable)
            off2[r.a] += std::pow(results[i].stats.mean - results[i].expected, 2);
    }
    const auto most =
        std::max_element(off2.begin(), off2.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    if (most == off2.end()) return {};
    return tr("; %1 is farthest off, by %2")
        .arg(toQt(featureWords(part, most->first)), view_.length(Length::fromMm(std::sqrt(most->second)), 3));
}

void SourcesColumn::refreshWitnesses() {
    const auto& found = work_.found();
    // They stand beside each other where they disagree; else a word says that they agree.
    const bool several = found && std::any_of(found->witnesses.begin(), found->witnesses.end(),
                                              [](const ScaleWitness& w) { return w.differs; });
    witnesses_->setVisible(several);
    rulerRow_->setVisible(found && !found->rulers.empty() && (work_.offersRuler() || found->scaleRulers.empty()));
    if (auto* next = rulerRow_->findChild<QPushButton*>("nextRuler"))
        next->setVisible(found && (found->rulers.size() > 1 || found->scaleRulers.empty()));
    if (auto* none = rulerRow_->findChild<QPushButton*>("noRuler"))
        none->setVisible(found && !found->scaleRulers.empty());
    // As many lines as there are witnesses; they stay the same widgets while they are clicked.
    auto lines = witnesses_->findChildren<QPushButton*>(QString(), Qt::FindDirectChildrenOnly);
    const std::size_t wanted = several ? found->witnesses.size() : 0;
    while (static_cast<std::size_t>(lines.size()) < wanted) {
        auto* b = new QPushButton(witnesses_);
        b->setProperty("role", "chip");
        b->setCheckable(true);
        b->setObjectName(QStringLiteral("witness%1").arg(lines.size() + 1));
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        witnesses_->layout()->addWidget(b);
        const auto which = static_cast<std::size_t>(lines.size());
        connect(b, &QPushButton::clicked, this, [this, which] { work_.chooseWitness(which); });
        lines.push_back(b);
    }
    for (int i = 0; i < lines.size(); ++i) {
        const bool there = static_cast<std::size_t>(i) < wanted;
        lines[i]->setVisible(there);
        if (!there) continue;
        const ScaleWitness& w = found->witnesses[static_cast<std::size_t>(i)];
        lines[i]->setText(tr("%1 %2 dpi%3")
                              .arg(w.scale.from == ScaleFrom::Ruler   ? tr("ruler")
                                   : w.scale.from == ScaleFrom::Dpi   ? tr("file")
                                   : w.scale.from == ScaleFrom::Pairs ? tr("lengths")
                                                                      : tr("drawing"))
                              .arg(25.4 / w.scale.x, 0, 'f', 0)
                              .arg(w.differs ? tr(" ▲") : QString()));
        lines[i]->setToolTip(tr("%1: %2 mm per pixel, %3. A click lets it count")
                                 .arg(toQt(w.words))
                                 .arg(w.scale.x, 0, 'f', 5)
                                 .arg(w.rules ? tr("counts")
                                      : w.differs
                                          ? tr("%1 % off").arg(100 * (w.scale.x / found->scale.x - 1), 0, 'f', 1)
                                          : tr("agrees")));
        lines[i]->setChecked(w.rules);
    }
}

void SourcesColumn::refreshFound() {
    found_->clear();
    const auto& found = work_.found();
    // A tool in hand needs the room, except the one that reads features one by one.
    const bool room = work_.tool() == PictureWork::Tool::None || work_.tool() == PictureWork::Tool::Read;
    found_->setVisible(room && (found.has_value() || work_.joined()));
    card_->setVisible(room && found.has_value() && !found->features.empty());
    if (work_.laid() || !found) refreshDeviations();
    if (!found) return;
    compare_->setText(work_.laid() ? tr("Take it off the footprint") : tr("Compare with the footprint"));
    take_->setVisible(found->formation.has_value());
    otherPart_->setVisible(!found->others.empty() && !work_.laid());
    if (!found->others.empty())
        otherPart_->setText(tr("The other part: %1 pins").arg(found->others.front().members.size()));
    if (!found->formation) formation_->setText(tr("No formation was recognised in it"));
    if (work_.laid()) {
        const Laid& laid = *work_.laid();
        QString words = tr("Laid over the footprint: %1 of %2 pads and holes, r.m.s. %3")
                            .arg(laid.pairs.size())
                            .arg(laid.pairs.size() + laid.alone.size())
                            .arg(view_.length(Length::fromMm(laid.rms), 3));
        if (!laid.alone.empty())
            words += tr("; nothing for %1").arg(toQt(featureWords(document_.part(), laid.alone.front())));
        if (!laid.surplus.empty()) words += tr("; %1 more in the picture").arg(laid.surplus.size());
        formation_->setText(words);
        return;
    }
    const std::size_t pins = found->formation ? found->formation->positions.size() : 0;
    for (std::size_t i = 0; i < found->features.size(); ++i) {
        const FoundFeature& f = found->features[i];
        const QString size =
            f.seen.rim.shape == RimShape::Round
                ? view_.value(Length::fromMm(f.width), 3)
                : tr("%1 × %2").arg(view_.value(Length::fromMm(f.width), 2), view_.value(Length::fromMm(f.height), 2));
        const QString who = i < pins && i == work_.pinOne() ? tr("pin 1") : toQt(foundKindName(f.kind));
        const bool flat = foundShapeName(f) == "rectangular";
        auto* item =
            new QListWidgetItem(QStringLiteral("%1 %2 %3 ±%4 %5")
                                    .arg(who, -5)
                                    .arg(flat ? tr("flat") : toQt(foundShapeName(f)), -6)
                                    .arg(size, 11)
                                    .arg(view_.value(Length::fromMm(kNinetyFive * f.uSize), 3), view_.unitText()),
                                found_);
        item->setToolTip(tr("its place ± %1; sure by %2 %; double click: this is pin 1")
                             .arg(view_.length(Length::fromMm(kNinetyFive * f.u), 3))
                             .arg(100 * f.seen.confidence, 0, 'f', 0));
    }
    if (found->formation) {
        const double u = found->formation->pitch ? withScaleU(*found, *found->formation->pitch) : 0;
        const auto standard = standardPitch(*found->formation, u);
        QString words = toQt(formationWords(*found->formation));
        if (found->formation->pitch)
            words += standard ? tr(". Pitch ± %1 mm: %2 mm fits").arg(kNinetyFive * u, 0, 'f', 3).arg(*standard)
                              : tr(". Pitch ± %1 mm").arg(kNinetyFive * u, 0, 'f', 3);
        if (found->sure < 0.95) words += tr(". Sure by %1 %").arg(100 * found->sure, 0, 'f', 0);
        formation_->setText(words);
    }
}

/// How far each pad is off what the picture shows.
void SourcesColumn::refreshDeviations() {
    for (const Deviation& d : work_.deviations()) {
        const Pad* pad = document_.footprint().pad(d.id);
        const QString who =
            pad == nullptr ? toQt(featureWords(document_.part(), d.id)) : tr("pin %1").arg(toQt(pad->number));
        const auto value = [&](double mm) {
            return (mm > -0.0005 ? QStringLiteral("+") : QStringLiteral("-")) +
                   view_.value(Length::fromMm(std::abs(mm)), 3);
        };
        auto* item = new QListWidgetItem(QStringLiteral("%1 x %2  y %3  %4 %5")
                                             .arg(who, -7)
                                             .arg(value(d.x))
                                             .arg(value(d.y))
                                             .arg(view_.value(Length::fromMm(d.off()), 3))
                                             .arg(view_.unitText()),
                                         found_);
        item->setToolTip(tr("the picture less the footprint%1")
                             .arg(d.size ? tr("; its size is %1 mm off").arg(*d.size, 0, 'f', 3) : QString()));
    }
}

}  // namespace punch
