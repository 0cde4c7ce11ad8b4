#include "app/pins/bench_note_line.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QStyle>
#include <algorithm>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/pins/bench_notes.h"

namespace punch {

BenchNoteLine::BenchNoteLine(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    note_ = new QLineEdit(this);
    note_->setObjectName("benchNote");
    note_->setAccessibleName(tr("Bench note"));
    note_->setPlaceholderText(tr("1 2 10k fully left"));
    note_->setMaximumWidth(theme::em() * 10);
    line->addWidget(new QLabel(tr("The meter says"), this));
    line->addWidget(note_);
    words_ = new WrappedLabel(this);
    words_->setObjectName("benchNotes");
    line->addWidget(words_, 1);
    drop_ = new QPushButton(tr("drop the last"), this);
    drop_->setObjectName("dropNote");
    drop_->setProperty("role", "link");
    line->addWidget(drop_);
    connect(note_, &QLineEdit::editingFinished, this, &BenchNoteLine::addNote);
    connect(drop_, &QPushButton::clicked, this, [this] {
        Part next = document_.part();
        if (!next.benchNotes.empty()) next.benchNotes.pop_back();
        document_.apply(tr("removal of a bench note"), std::move(next));
    });
}

void BenchNoteLine::refresh() {
    const std::vector<BenchNote>& all = document_.part().benchNotes;
    const RoleProposal proposal = proposedRoles(all);
    QStringList says;
    // A common names its contacts.
    const bool named = std::any_of(proposal.roles.begin(), proposal.roles.end(),
                                   [](const ProposedRole& r) { return r.role == PinRole::Common; });
    for (const ProposedRole& r : proposal.roles)
        if (!named || r.role != PinRole::Contact) says << tr("%1 is %2").arg(toQt(r.pin), toQt(r.words));
    for (const std::string& o : proposal.open) says << toQt(o);
    if (!proposal.measure.empty()) says << tr("measure next: %1").arg(toQt(proposal.measure.front()));
    if (!all.empty() && says.isEmpty()) says << toQt(benchNoteWords(all.back()));
    words_->setText(says.isEmpty() ? tr("Two pins, ohms, “open” or “beep”, and the position") : says.join("; "));
    // All of them, as they were typed.
    QStringList lines;
    for (const BenchNote& n : all) lines << toQt(benchNoteWords(n));
    words_->setToolTip(lines.join('\n'));
    drop_->setVisible(!all.empty());
}

void BenchNoteLine::addNote() {
    if (!document_.open() || note_->text().trimmed().isEmpty()) return;
    const auto note = benchNoteFromText(note_->text().toStdString());
    note_->setProperty("wrong", !note);
    note_->style()->polish(note_);
    if (!note) return view_.say(toQt(note.error().text()));
    note_->clear();
    view_.say({});
    Part next = document_.part();
    next.benchNotes.push_back(*note);
    document_.apply(tr("bench note"), std::move(next));
}

}  // namespace punch
