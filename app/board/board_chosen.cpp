// The numbers of what is chosen on the trial board: a part's place, turn, side and designator, a screw hole's sizes.

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <cmath>

#include "app/board/board_window.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "core/base/find_in.h"

namespace punch {

void BoardWindow::buildChosen(QVBoxLayout* box) {
    chosen_ = new QWidget(this);
    auto* lay = new QVBoxLayout(chosen_);
    lay->setContentsMargins(0, 0, 0, 0);
    lay->setSpacing(5);
    chosenWords_ = new WrappedLabel(chosen_);
    chosenWords_->setFont(theme::text(1.0, true));
    lay->addWidget(chosenWords_);
    const Length far = Length::fromMm(5000);
    x_ = length(
        "chosenX", tr("x"),
        [this](TrialBoard& b, Length l) {
            for (Placing& p : b.placings)
                if (p.id == sheet_->chosen()) p.at.x = l;
            for (BoardHole& h : b.holes)
                if (h.id == sheet_->chosen()) h.at.x = l;
        },
        -far, far);
    y_ = length(
        "chosenY", tr("y"),
        [this](TrialBoard& b, Length l) {
            for (Placing& p : b.placings)
                if (p.id == sheet_->chosen()) p.at.y = l;
            for (BoardHole& h : b.holes)
                if (h.id == sheet_->chosen()) h.at.y = l;
        },
        -far, far);
    const auto row = [&](QWidget* parent, QBoxLayout* into,
                         std::initializer_list<std::pair<QString, QWidget*>> fields) {
        auto* line = new QHBoxLayout;
        for (const auto& [words, field] : fields) {
            if (!words.isEmpty()) line->addWidget(new QLabel(words, parent));
            line->addWidget(field, 1);
        }
        into->addLayout(line);
    };
    row(chosen_, lay, {{tr("x"), x_}, {tr("y"), y_}});
    partRows_ = new QWidget(chosen_);
    auto* part = new QVBoxLayout(partRows_);
    part->setContentsMargins(0, 0, 0, 0);
    part->setSpacing(5);
    designator_ = new QLineEdit(partRows_);
    designator_->setObjectName("chosenDesignator");
    designator_->setAccessibleName(tr("Designator"));
    connect(designator_, &QLineEdit::editingFinished, this, [this] {
        const std::string typed = designator_->text().trimmed().toStdString();
        const Placing* p = placingById(model_.board(), sheet_->chosen());
        if (p == nullptr || typed == p->designator) return;
        const auto& all = model_.board().placings;
        const bool taken = std::any_of(all.begin(), all.end(),
                                       [&](const Placing& o) { return o.id != p->id && o.designator == typed; });
        markWrong(designator_, typed.empty() || taken);
        if (typed.empty() || taken)
            return say(taken ? tr("%1 is there already").arg(toQt(typed)) : tr("A part on a board has a designator"));
        edit(tr("designator"), [&](TrialBoard& b) {
            for (Placing& o : b.placings)
                if (o.id == sheet_->chosen()) o.designator = typed;
        });
    });
    turn_ = new QLineEdit(partRows_);
    turn_->setObjectName("chosenTurn");
    turn_->setAccessibleName(tr("Turn in degrees"));
    connect(turn_, &QLineEdit::editingFinished, this, [this] {
        bool good = false;
        const double degrees = QString(turn_->text()).remove(QChar(0xB0)).trimmed().toDouble(&good);
        markWrong(turn_, !good || !std::isfinite(degrees));
        if (!good || !std::isfinite(degrees)) return say(tr("“%1” is no number of degrees").arg(turn_->text()));
        edit(tr("turn"), [&](TrialBoard& b) {
            for (Placing& o : b.placings)
                if (o.id == sheet_->chosen()) o.turn = Angle::fromDegrees(std::fmod(degrees, 360));
        });
    });
    row(partRows_, part, {{tr("Called"), designator_}, {tr("turn °"), turn_}});
    bottom_ = new QCheckBox(tr("On the bottom"), partRows_);
    bottom_->setObjectName("chosenBottom");
    connect(bottom_, &QCheckBox::clicked, this, [this] { sheet_->turnOver(); });
    auto* quarter = new QPushButton(tr("Quarter turn"), partRows_);
    quarter->setObjectName("chosenQuarter");
    quarter->setToolTip(tr("Page Up and Page Down; Shift and the wheel turn by 5°"));
    connect(quarter, &QPushButton::clicked, this, [this] { sheet_->turnChosen(90); });
    row(partRows_, part, {{QString(), bottom_}, {QString(), quarter}});
    lay->addWidget(partRows_);
    holeRows_ = new QWidget(chosen_);
    auto* hole = new QVBoxLayout(holeRows_);
    hole->setContentsMargins(0, 0, 0, 0);
    const auto holeField = [&](const char* name, const QString& words, Length BoardHole::*member) {
        return length(
            name, words,
            [this, member](TrialBoard& b, Length l) {
                for (BoardHole& h : b.holes)
                    if (h.id == sheet_->chosen()) h.*member = l;
            },
            Length::fromMm(0.2), Length::fromMm(50));
    };
    hole_ = holeField("chosenHole", tr("Hole"), &BoardHole::diameter);
    clear_ = holeField("chosenClear", tr("Screw's head"), &BoardHole::clear);
    row(holeRows_, hole, {{tr("Hole"), hole_}, {tr("head"), clear_}});
    lay->addWidget(holeRows_);
    auto* remove = new QPushButton(tr("Take it off the board"), chosen_);
    remove->setObjectName("chosenRemove");
    remove->setProperty("role", "link");
    connect(remove, &QPushButton::clicked, this, [this] { sheet_->removeChosen(); });
    lay->addWidget(remove);
    box->addWidget(chosen_);
}

void BoardWindow::refreshChosen() {
    const TrialBoard& b = model_.board();
    const Placing* p = placingById(b, sheet_->chosen());
    const BoardHole* h = findIn(b.holes, [&](const BoardHole& o) { return o.id == sheet_->chosen(); });
    chosen_->setVisible(p != nullptr || h != nullptr);
    partRows_->setVisible(p != nullptr);
    holeRows_->setVisible(h != nullptr);
    if (p != nullptr) {
        const std::size_t at = static_cast<std::size_t>(p - b.placings.data());
        const BoardPart* part = at < model_.parts().size() ? model_.parts()[at].get() : nullptr;
        chosenWords_->setText(toQt(p->designator) + ": " +
                              (part == nullptr || !part->trouble.empty() ? toQt(p->file) : toQt(part->part.name)));
        if (!designator_->hasFocus()) designator_->setText(toQt(p->designator));
        if (!turn_->hasFocus()) turn_->setText(QString::number(p->turn.degrees()));
        bottom_->setChecked(p->bottom);
        x_->setLength(p->at.x);
        y_->setLength(p->at.y);
    }
    if (h != nullptr) {
        chosenWords_->setText(tr("Screw hole %1").arg(toQt(h->id)));
        x_->setLength(h->at.x);
        y_->setLength(h->at.y);
        hole_->setLength(h->diameter);
        clear_->setLength(h->clear);
    }
}

}  // namespace punch
