#include "app/stations/fit_station.h"

#include "core/fit/lead_length.h"
#include "core/model/contacts.h"

namespace punch {

FitStation::FitStation(Document& document, ViewState& view, SolidWork& work, QWidget* parent)
    : FormColumn(document, view, parent) {
    title(tr("Body from a file"));
    solids_ = new SolidList(document, view, work, this);
    connect(solids_, &SolidList::fileWanted, this, &FitStation::fileWanted);
    add(solids_);
    title(tr("Board"));
    field(
        ruleFields(), "boardThickness", [](auto& part) -> auto& { return part.rules; });
    note(tr("Usual: 0.8, 1.0, 1.2, 1.6, 2.0, 2.4, 3.2 mm."));
    for (const char* row : {"bodyClear", "roomAbove", "roomBelow"})
        field(
            ruleFields(), row, [](auto& part) -> auto& { return part.rules; });
    title(tr("Body as measured"));
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
    title(tr("Other parts of this kind"));
    spread_ = note();
    stretch();
    connectRefresh();
}

void FitStation::refresh() {
    solids_->refresh();
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
    QStringList words;
    for (const LeadFit& lead : f.leads) {
        const PastBoard past = pastBoard(document_.part(), lead);
        const QString who = f.leads.size() > 1 ? tr("%1: ").arg(toQt(lead.formation)) : QString();
        words << who + (!past.firm ? tr("Its length is not measured.")
                                   : tr("%1 long below the body, sticks out %2 to %3 past the board.")
                                         .arg(view_.length(lead.length, 2), view_.value(past.shortest, 2),
                                              view_.length(past.longest, 2)));
    }
    words << tr("Solderable from %1, clear of the next board up to %2.")
                 .arg(view_.length(leastPastBoard(), 1), view_.length(mostPastBoard(), 1));
    lead_->setText(words.join('\n'));
    // Doubt is what we do not know of this part; how others differ is another thing.
    QStringList spreads;
    for (const Spread& s : f.spreads)
        if (const Reading* r = readingById(document_.part(), s.reading))
            spreads << tr("%1: σ %2, %3")
                           .arg(toQt(readingWords(document_.part(), *r)), view_.length(s.sigma),
                                s.specimens > 0 ? tr("%1 samples").arg(s.specimens) : tr("drawing"));
    spread_->setText(spreads.isEmpty()
                         ? tr("Nothing says how parts of this kind differ: no drawing with a tolerance, and "
                              "calipers on one part cannot tell.")
                         : spreads.join('\n'));
}

}  // namespace punch
