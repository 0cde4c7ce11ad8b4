// The cards under the notebook: what looks like a slip, and what the readings say about standard sizes.

#include <algorithm>

#include "app/qt_text.h"
#include "app/stations/measure_station.h"

namespace punch {

// ------------------------------------------------------------------ slips

const Slip* MeasureStation::slip() const {
    for (const Slip& s : document_.footprint().slips)
        if (std::find(putOff_.begin(), putOff_.end(), s.reading + s.words) == putOff_.end()) return &s;
    return nullptr;
}

void MeasureStation::refreshSlips() {
    const Part& part = document_.part();
    const Slip* s = slip();
    int orphan = -1;
    const std::size_t judged = std::min(part.readings.size(), document_.footprint().readings.size());
    for (std::size_t i = 0; i < judged && orphan < 0; ++i)
        if (document_.footprint().readings[i].state == ReadingState::Orphan) orphan = static_cast<int>(i);
    slipCard_->setVisible(s != nullptr || orphan >= 0);
    if (s != nullptr) {
        int number = 0;
        for (std::size_t i = 0; i < part.readings.size(); ++i)
            if (part.readings[i].id == s->reading) number = static_cast<int>(i) + 1;
        slipWords_->setText(number > 0 ? tr("Reading %1: %2").arg(number).arg(toQt(s->words)) : toQt(s->words));
        mend_->setText(toQt(s->todo));
        mend_->setVisible(s->mended.has_value());
        const Slip* other = otherAnswer(*s);
        keepSlip_->setText(other != nullptr ? toQt(other->todo) : tr("It is meant"));
        keepSlip_->setVisible(true);
    } else if (orphan >= 0) {
        const bool pointed = !view_.first().empty();
        slipWords_->setText(tr("Reading %1 was taken on a feature that is no longer there. %2")
                                .arg(orphan + 1)
                                .arg(pointed ? tr("Join it to what you point at?")
                                             : tr("Point at the feature that it belongs to, or remove the reading.")));
        mend_->setText(pointed ? tr("Join it to %1").arg(toQt(featureWords(part, view_.first()))) : QString());
        mend_->setVisible(pointed);
        keepSlip_->setVisible(false);
    }
}

const Slip* MeasureStation::otherAnswer(const Slip& s) const {
    for (const Slip& other : document_.footprint().slips)
        if (&other != &s && other.words == s.words && other.reading == s.reading && other.mended) return &other;
    return nullptr;
}

void MeasureStation::mendSlip() {
    if (!document_.open()) return;
    const Slip* s = slip();
    if (s != nullptr && s->mended) {
        const Part mended = *s->mended;
        document_.apply(tr("mended slip"), mended);
    } else {
        const auto& readings = document_.footprint().readings;
        for (std::size_t i = 0; i < readings.size(); ++i)
            if (readings[i].state == ReadingState::Orphan) {
                if (!entry_.rejoin(static_cast<int>(i)))
                    view_.say(tr("Point at the feature that the reading belongs to"));
                break;
            }
    }
    line_->setFocus();
}

void MeasureStation::keepSlip() {
    const Slip* s = document_.open() ? slip() : nullptr;
    if (s == nullptr) return;
    if (const Slip* other = otherAnswer(*s)) {
        document_.apply(tr("answer"), Part(*other->mended));
        line_->setFocus();
        return;
    }
    putOff_.push_back(s->reading + s->words);
    refreshSlips();
    line_->setFocus();
}

// ------------------------------------------------------------------ standard sizes

const SizeAdvice* MeasureStation::advice() const {
    std::vector<const SizeAdvice*> firm;
    for (const SizeAdvice& a : document_.footprint().sizes)
        if (a.firm && !a.nearest.empty()) firm.push_back(&a);
    if (firm.empty()) return nullptr;
    // What the readings speak against comes first, whatever was looked at.
    for (const SizeAdvice* a : firm)
        if (a->speaksAgainst() && adviceAt_ == 0) return a;
    const auto n = static_cast<int>(firm.size());
    return firm[static_cast<std::size_t>(((adviceAt_ % n) + n) % n)];
}

void MeasureStation::nextAdvice(int by) {
    adviceAt_ += by;
    refreshAdvice();
}

void MeasureStation::refreshAdvice() {
    const SizeAdvice* shown = advice();
    const auto& formations = document_.part().formations;
    const bool known = shown != nullptr &&
                       !(shown->parameter == "pitch" && (formations.empty() || formations.front().pins.size() < 2));
    adviceCard_->setVisible(known);
    if (!known) return;
    const SizeAdvice& a = *shown;
    const ParameterValue* value = document_.footprint().parameter(a.parameter);
    QString name = value == nullptr ? toQt(a.name) : toQt(value->words);
    if (!name.isEmpty()) name[0] = name[0].toUpper();
    const QString read = tr("%1 ± %2").arg(view_.value(Length::fromMm(a.asRead)),
                                           view_.length(Length::fromMm(kNinetyFive * a.u + a.span)));
    const bool fits = a.nearest.front().fit != Fit::Excluded;
    if (a.taken) {
        adviceTitle_->setText(tr("%1 %2 taken").arg(name, view_.length(*a.taken, 2)));
        const QString words = a.speaksAgainst() ? tr("%1 is taken, but the readings speak against it (%2 σ).")
                                                      .arg(view_.length(*a.taken, 2))
                                                      .arg(a.takenK, 0, 'f', 1)
                                                : toQt(a.words);
        adviceWords_->setText(tr("Read %1. ").arg(read) + words);
    } else {
        adviceTitle_->setText(tr("%1 %2").arg(name, read));
        adviceWords_->setText(toQt(a.words));
        if (fits) take_->setText(tr("Take %1").arg(view_.length(a.nearest.front().standard, 2)));
    }
    take_->setVisible(!a.taken && fits);
    keep_->setVisible(a.taken.has_value());
    int firm = 0;
    for (const SizeAdvice& each : document_.footprint().sizes) firm += each.firm;
    otherAdvice_->setVisible(firm > 1);
    otherAdvice_->setText(tr("next of %1").arg(firm));
}

void MeasureStation::takeOrReleaseStandard() {
    if (!document_.open()) return;
    const SizeAdvice* a = advice();
    if (a == nullptr) {
        view_.say(tr("No size is measured yet that could be a standard one"));
    } else if (a->taken) {
        document_.apply(tr("%1 as read").arg(toQt(a->name)), withTaken(document_.part(), a->parameter, {}));
    } else if (a->nearest.front().fit != Fit::Excluded) {
        document_.apply(tr("standard %1").arg(toQt(a->name)),
                        withTaken(document_.part(), a->parameter, a->nearest.front().standard));
    } else {
        view_.say(tr("No standard %1 fits the readings").arg(toQt(a->name)));
    }
    if (isVisible()) line_->setFocus();
}

}  // namespace punch
