#include "app/stations/fit_station.h"

#include "core/fit/lead_length.h"

namespace punch {

FitStation::FitStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    title(tr("Board"));
    length(
        tr("Thickness"), "boardThickness", [](const Part& p) { return p.rules.boardThickness; },
        [](Part& p, Length l) { p.rules.boardThickness = l; }, Length::fromMm(0.1), Length::fromMm(20));
    note(tr("Usual: 0.8, 1.0, 1.2, 1.6, 2.0, 2.4, 3.2 mm."));
    title(tr("Body"));
    check(
        tr("The part has a body"), "bodyPresent", [](const Part& p) { return p.body.present; },
        [](Part& p, bool on) { p.body.present = on; });
    length(
        tr("Standoff"), "standoff", [](const Part& p) { return p.body.standoff; },
        [](Part& p, Length l) { p.body.standoff = l; }, {}, Length::fromMm(100));
    body_ = note();
    title(tr("Lead"));
    lead_ = note();
    note(
        tr("The section at the right shows board, barrel and lead at true scale. Read the lead's length below the body "
           "(“1 length 3.00”) and the body's height (“body height 12.5”) in Measure."));
    stretch();
    connectRefresh();
}

void FitStation::refresh() {
    const Footprint& f = document_.footprint();
    if (!f.body)
        body_->setText(tr("No body: the courtyard goes around the lands alone."));
    else if (!f.body->allFirm())
        body_->setText(tr("Its faces are loose: read the body along and across, and from a face to a pin."));
    else
        body_->setText(
            tr("%1 along, %2 across, %3.")
                .arg(view_.length(f.body->rect.width()), view_.length(f.body->rect.height()),
                     f.body->heightFirm ? tr("%1 high").arg(view_.length(f.body->height)) : tr("height not measured")));
    const PastBoard past = pastBoard(document_.part(), f.leads.front());
    if (!past.firm)
        lead_->setText(tr("Its length is not measured."));
    else
        lead_->setText(tr("%1 long below the body, sticks out %2 to %3 past the board. Solderable from %4, clear of "
                          "the next board up to %5.")
                           .arg(view_.length(f.leads.front().length, 2), view_.value(past.shortest, 2),
                                view_.length(past.longest, 2), view_.length(leastPastBoard(), 1),
                                view_.length(mostPastBoard(), 1)));
}

}  // namespace punch
