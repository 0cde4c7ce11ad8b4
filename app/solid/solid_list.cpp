#include "app/solid/solid_list.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"
#include "core/advise/solid_evidence.h"
#include "core/advise/stand_solid.h"
#include "core/base/quantity.h"
#include "core/part/numbering.h"

namespace punch {
namespace {

/// "-y", or the direction as numbers.
QString wayWords(Vec3 d) {
    const double all[] = {d.x, d.y, d.z};
    for (int i = 0; i < 3; ++i)
        if (std::abs(all[i]) > 1 - 1e-9) return QString(all[i] > 0 ? "+" : "-") + QChar('x' + i);
    return QString("%1, %2, %3").arg(d.x, 0, 'f', 3).arg(d.y, 0, 'f', 3).arg(d.z, 0, 'f', 3);
}

WrappedLabel* wrapped(const QString& words, QWidget* parent) {
    auto* label = new WrappedLabel(parent);
    label->setText(words);
    return label;
}

QPushButton* link(const QString& words, const QString& name, QWidget* parent) {
    auto* button = new QPushButton(words, parent);
    button->setObjectName(name);
    return button;
}

}  // namespace

SolidList::SolidList(Document& document, ViewState& view, SolidWork& work, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), work_(work) {
    setObjectName("solids");
    rows_ = new QVBoxLayout(this);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(theme::em() / 3);
    connect(&work_, &SolidWork::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

void SolidList::refresh() {
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (QWidget* old = item->widget()) {
            old->setParent(nullptr);
            old->deleteLater();
        }
        delete item;
    }
    if (!document_.open()) return;
    const Part& part = document_.part();
    for (const SolidFile& file : part.solids)
        for (const StandingSolid& s : document_.footprint().solids)
            if (s.id == file.id) addCard(s, file);
    if (const QString trouble = work_.piecesTrouble(); !trouble.isEmpty()) {
        auto* said = wrapped(tr("The pieces of the body cannot be made: %1").arg(trouble), this);
        said->setProperty("role", "warn");
        rows_->addWidget(said);
    }
    if (!work_.busy().isEmpty()) {
        auto* words = wrapped(tr("%1 %2 %").arg(work_.busy()).arg(work_.share() * 100, 0, 'f', 0), this);
        rows_->addWidget(words);
        auto* end = link(tr("End it"), "solidCancel", this);
        connect(end, &QPushButton::clicked, &work_, &SolidWork::cancel);
        rows_->addWidget(end);
    } else {
        if (part.solids.empty()) {
            auto* words =
                wrapped(tr("A STEP file is stood on the holes by its leads: whatever its frame, unit and turn."), this);
            words->setProperty("role", "quiet");
            rows_->addWidget(words);
        }
        auto* add = link(tr("Bring in a STEP file …"), "solidBring", this);
        add->setToolTip(
            tr("Read beside the window and kept with the part; its leads are found and put into the holes"));
        connect(add, &QPushButton::clicked, this, &SolidList::fileWanted);
        rows_->addWidget(add);
    }
}

QString SolidList::howItStands(const StandingSolid& s, const SolidFile& file, bool* good) const {
    std::size_t in = 0, touching = 0, alone = 0, off = 0;
    const StandingLead* worst = nullptr;
    for (const StandingLead& l : s.leads) {
        if (l.of.empty()) {
            ++alone;
            continue;
        }
        ++in;
        if (l.gap && *l.gap < Length()) ++touching;
        if (!l.counted) ++off;
        if (worst == nullptr || l.off > worst->off) worst = &l;
    }
    QStringList words;
    *good = in > 0 && touching == 0 && alone == 0 && off == 0 && s.without.empty();
    if (s.leads.empty())
        words << tr("No leads were found in it.");
    else if (*good)
        words << tr("All %1 leads stand in their holes.").arg(in);
    else {
        if (in == 0) words << tr("No lead meets a hole.");
        if (touching > 0) words << tr("%1 of %2 leads do not go in.").arg(touching).arg(in);
        if (off > 0) {
            QStringList names;
            for (const StandingLead& l : s.leads)
                if (!l.of.empty() && !l.counted) names << toQt(l.name);
            words << (s.sure ? tr("Lead %1 stands off: %2.").arg(names.join(", "), view_.length(worst->off, 2))
                             : tr("One of the leads stands off; too few to tell which."));
        }
        if (alone > 0) words << tr("%1 leads stand over no hole.").arg(alone);
        if (!s.without.empty()) {
            QStringList names;
            for (const FeatureId& id : s.without)
                if (const Pad* p = document_.footprint().pad(id)) names << toQt(p->number);
            words << tr("No lead in hole %1.").arg(names.join(", "));
        }
    }
    if (worst != nullptr)
        words << tr("Worst: %1, %2 off its hole's middle.")
                     .arg(worst->peg ? toQt(worst->name) : tr("lead %1").arg(toQt(worst->name)),
                          view_.length(worst->off, 3));
    words << tr("The file's %1 is down; turned by %2°.").arg(wayWords(file.down)).arg(s.turn, 0, 'f', 1);
    if (std::abs(s.lift.mm()) > 1e-9) words << tr("Lifted by %1.").arg(view_.length(s.lift, 2));
    if (!file.byLeads) words << tr("Stood by hand.");
    return words.join(' ');
}

void SolidList::addCard(const StandingSolid& s, const SolidFile& file) {
    auto* head = new QHBoxLayout;
    auto* name = new QLabel(toQt(file.name), this);
    name->setFont(theme::text(1.0, true));
    head->addWidget(name, 1);
    auto* out = link(tr("Remove"), "solidRemove " + toQt(file.id), this);
    out->setToolTip(tr("Takes the body off the part; its file stays beside it"));
    connect(out, &QPushButton::clicked, this, [this, id = file.id] { work_.remove(id); });
    head->addWidget(out);
    auto* line = new QWidget(this);
    line->setLayout(head);
    head->setContentsMargins(0, 0, 0, 0);
    rows_->addWidget(line);
    bool good = false;
    auto* words = wrapped(howItStands(s, file, &good), this);
    words->setObjectName("solidStands");
    words->setProperty("role", good ? "advice" : "warn");
    rows_->addWidget(words);
    if (const QString trouble = work_.trouble(file.id); !trouble.isEmpty()) {
        auto* said = wrapped(trouble, this);
        said->setObjectName("solidTrouble");
        said->setProperty("role", "warn");
        rows_->addWidget(said);
    }
    if (work_.fileChanged(file.id)) {
        auto* changed = wrapped(tr("Its file is another than when it was brought in."), this);
        changed->setProperty("role", "warn");
        rows_->addWidget(changed);
        auto* again = link(tr("Find its leads anew"), "solidAgain", this);
        connect(again, &QPushButton::clicked, this, [this, id = file.id] { work_.lookAgain(id); });
        rows_->addWidget(again);
    }
    addTable(s);
    addWays(file);
    addHand(file);
    if (s.leads.empty()) return;
    const auto apart = solidDisagreements(document_.part(), document_.footprint(), file.id);
    if (!apart.empty()) {
        auto* said = wrapped(
            tr("The file and the other readings disagree: %1%2.")
                .arg(toQt(apart.front()), apart.size() > 1 ? tr(" and %1 more").arg(apart.size() - 1) : QString()),
            this);
        said->setObjectName("solidDisagrees");
        said->setProperty("role", "warn");
        rows_->addWidget(said);
    }
    auto* take = link(tr("Take its leads as readings"), "solidTake " + toQt(file.id), this);
    take->setToolTip(
        tr("Places, sections and lengths, with the doubt of a nominal drawing; a footprint can be made of them alone"));
    connect(take, &QPushButton::clicked, this, [this, id = file.id] {
        if (const auto done = work_.takeLeads(id); !done) view_.say(toQt(done.error().text()));
    });
    rows_->addWidget(take);
}

void SolidList::addTable(const StandingSolid& s) {
    if (s.leads.empty()) return;
    auto* table = new QWidget(this);
    table->setObjectName("solidLeads");
    auto* grid = new QGridLayout(table);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(1);
    grid->setHorizontalSpacing(theme::em() / 3);
    int column = 0;
    for (const QString& head : {tr("Lead"), tr("clear"), tr("off"), tr("past board")}) {
        auto* l = new QLabel(head, table);
        l->setProperty("role", "quiet");
        grid->addWidget(l, 0, column, column == 0 ? Qt::AlignLeft : Qt::AlignRight);
        ++column;
    }
    constexpr int kMostRows = 12;
    std::vector<const StandingLead*> shown;
    for (const StandingLead& l : s.leads) shown.push_back(&l);
    // Where there are many, those that matter most.
    const bool many = shown.size() > kMostRows;
    const auto gap = [](const StandingLead* l) { return l->gap ? l->gap->mm() : l->of.empty() ? -1e9 : 1e9; };
    if (many) {
        std::stable_sort(shown.begin(), shown.end(), [&](const auto* a, const auto* b) { return gap(a) < gap(b); });
        shown.resize(kMostRows);
    } else {
        std::stable_sort(shown.begin(), shown.end(), [](const auto* a, const auto* b) {
            return !a->of.empty() && (b->of.empty() || numberLess(a->name, b->name));
        });
    }
    int row = 1;
    for (const StandingLead* l : shown) {
        const auto cell = [&](const QString& text, int at, bool bad) {
            auto* label = new QLabel(text, table);
            label->setFont(at == 0 ? theme::text(1.0, true) : theme::digits());
            label->setStyleSheet(bad ? theme::styled("color: @vermilion;") : QString());
            grid->addWidget(label, row, at, at == 0 ? Qt::AlignLeft : Qt::AlignRight);
        };
        cell(l->of.empty() ? tr("no hole") : toQt(l->name), 0, l->of.empty());
        cell(l->gap ? view_.value(*l->gap, 3) : tr("–"), 1, l->gap && *l->gap < Length());
        cell(l->of.empty() ? tr("–") : view_.value(l->off, 3), 2, !l->counted);
        cell(view_.value(l->past, 2), 3, !l->peg && l->past < Length::fromMm(0.5));
        ++row;
    }
    rows_->addWidget(table);
    if (many) {
        auto* rest = new QLabel(tr("the %1 with least room of %2").arg(kMostRows).arg(s.leads.size()), this);
        rest->setProperty("role", "quiet");
        rows_->addWidget(rest);
    }
}

void SolidList::addWays(const SolidFile& file) {
    const auto& ways = work_.ways(file.id);
    if (ways.size() < 2) return;
    std::size_t equal = 0;
    for (const FittedPose& w : ways) equal += isEquivalent(w, ways.front()) ? 1 : 0;
    auto* words = wrapped(equal > 1 ? tr("It stands as well in %1 ways; choose the one that is meant.").arg(equal)
                                    : tr("Nothing else fits as well."),
                          this);
    words->setObjectName("solidWaysWords");
    words->setProperty("role", equal > 1 ? "warn" : "quiet");
    rows_->addWidget(words);
    auto* box = new QComboBox(this);
    box->setObjectName("solidWays");
    box->setToolTip(tr("How else it could stand on these holes, best first"));
    const StandingSolid* now = nullptr;
    for (const StandingSolid& s : document_.footprint().solids)
        if (s.id == file.id) now = &s;
    int at = -1;
    for (std::size_t i = 0; i < ways.size(); ++i) {
        const FittedPose& w = ways[i];
        QString text = tr("%1 leads in, turned %2°, %3 off")
                           .arg(w.matches.size())
                           .arg(std::round(w.turn) + 0.0, 0, 'f', 0)
                           .arg(view_.length(Length::fromMm(w.rms), 3));
        if (isEquivalent(w, ways.front()) && equal > 1) text = tr("as good: ") + text;
        box->addItem(text);
        if (now != nullptr && norm(w.pose.move - now->pose.move) < 0.05 && dot(w.pose.x, now->pose.x) > 0.9999)
            at = static_cast<int>(i);
    }
    if (at < 0) {
        box->insertItem(0, tr("as it stands"));
        at = 0;
        connect(box, &QComboBox::activated, this, [this, id = file.id](int i) {
            if (i > 0) work_.takeWay(id, static_cast<std::size_t>(i - 1));
        });
    } else {
        connect(box, &QComboBox::activated, this,
                [this, id = file.id](int i) { work_.takeWay(id, static_cast<std::size_t>(i)); });
    }
    box->setCurrentIndex(at);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
    rows_->addWidget(box);
}

void SolidList::addHand(const SolidFile& file) {
    auto* hand = new QWidget(this);
    auto* line = new QHBoxLayout(hand);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(theme::em() / 4);
    const auto turn = [&](const QString& words, const char* name, Vec3 axis) {
        auto* button = link(words, name, hand);
        button->setToolTip(tr("By 90°, counter-clockwise; with its leads found anew where another side is down"));
        connect(button, &QPushButton::clicked, this, [this, id = file.id, axis] { work_.turnBy(id, axis, 90); });
        line->addWidget(button);
    };
    line->addWidget(new QLabel(tr("Turn 90°"), hand));
    turn("x", "solidTurnX", {1, 0, 0});
    turn("y", "solidTurnY", {0, 1, 0});
    turn("z", "solidTurnZ", {0, 0, 1});
    line->addStretch(1);
    rows_->addWidget(hand);
    addNumbers(file);
    auto* places = new QWidget(this);
    auto* row = new QHBoxLayout(places);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(theme::em() / 4);
    auto* lie = link(tr("Lay it on a face"), "solidSeat", places);
    lie->setToolTip(tr("Then click in space at the flat face that lies on the board"));
    connect(lie, &QPushButton::clicked, this, [this, id = file.id] {
        work_.wantFace(work_.faceWanted() == id ? std::string() : id);
        if (!work_.faceWanted().empty()) view_.say(tr("Click in space at the flat face that lies on the board"));
    });
    row->addWidget(lie);
    auto* centre = link(tr("Centre it"), "solidCentre", places);
    centre->setToolTip(
        tr("Its outline's middle in the middle of what is chosen on the sheet: one pin or face, or several"));
    connect(centre, &QPushButton::clicked, this, [this, id = file.id] {
        std::vector<FeatureId> chosen = view_.group();
        if (chosen.empty() && !view_.first().empty()) chosen.push_back(view_.first());
        if (!view_.second().empty()) chosen.push_back(view_.second());
        work_.centreOn(id, chosen);
    });
    row->addWidget(centre);
    row->addStretch(1);
    rows_->addWidget(places);
    addMotions(file);
    if (!file.byLeads) {
        auto* back = link(tr("Stand it by its leads again"), "solidByLeads", this);
        connect(back, &QPushButton::clicked, this, [this, id = file.id] { work_.standByLeads(id); });
        rows_->addWidget(back);
    }
}

/// Bodies of the file that move, their ends typed; and which one moves too.
void SolidList::addMotions(const SolidFile& file) {
    const auto solid = work_.mesh(file.id);
    for (const SolidMotion& m : file.motions) {
        auto* line = new QWidget(this);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(theme::em() / 4);
        auto* name =
            new QLabel(m.motion.turns ? tr("%1 turns").arg(toQt(m.name)) : tr("%1 slides").arg(toQt(m.name)), line);
        name->setToolTip(m.motion.turns ? tr("Degrees from where the file has it, counter-clockwise")
                                        : tr("mm from where the file has it, along its direction"));
        row->addWidget(name, 1);
        const auto end = [&](double value, const char* which, bool first) {
            auto* edit = new QLineEdit(QString::number(value), line);
            edit->setObjectName(QString("solidMove %1 %2").arg(which).arg(m.body));
            edit->setToolTip(first ? tr("Where its motion begins, from where the file has it")
                                   : tr("Where its motion ends, from where the file has it"));
            edit->setAlignment(Qt::AlignRight);
            edit->setFixedWidth(theme::em() * 4);
            connect(edit, &QLineEdit::editingFinished, this, [this, edit, id = file.id, m, first] {
                if (!edit->isModified()) return;
                const auto typed = parseNumber(edit->text().toStdString());
                const bool good = typed && std::abs(*typed) <= 3600;
                markWrong(edit, !good);
                if (!good) return view_.say(tr("“%1” is none: type degrees, or mm of a slide").arg(edit->text()));
                edit->setModified(false);
                SolidMotion next = m;
                (first ? next.motion.from : next.motion.to) = *typed;
                work_.setMotion(id, next);
            });
            row->addWidget(edit);
        };
        end(m.motion.from, "from", true);
        row->addWidget(new QLabel(tr("to"), line));
        end(m.motion.to, "to", false);
        row->addWidget(new QLabel(m.motion.turns ? tr("°") : tr("mm"), line));
        auto* out = link(tr("Still"), QString("solidStill %1").arg(m.body), line);
        out->setToolTip(tr("It does not move"));
        connect(out, &QPushButton::clicked, this,
                [this, id = file.id, body = m.body] { work_.removeMotion(id, body); });
        row->addWidget(out);
        rows_->addWidget(line);
        auto* said = wrapped(m.touches ? tr("It touches the rest at %1%2.")
                                             .arg(*m.touches, 0, 'f', 1)
                                             .arg(m.motion.turns ? tr("°") : tr(" mm"))
                                       : tr("It moves freely there."),
                             this);
        said->setObjectName(QString("solidTouches %1").arg(m.body));
        said->setProperty("role", m.touches ? "warn" : "quiet");
        rows_->addWidget(said);
    }
    if (!solid || solid->bodies.size() < 2) return;
    auto* box = new QComboBox(this);
    box->setObjectName("solidMoves");
    box->setToolTip(tr("A knob, a lever or a plunger: a body of its own in the file"));
    box->addItem(tr("A body of it moves …"));
    for (std::size_t i = 0; i < solid->bodies.size() && i < 200; ++i)
        box->addItem(solid->bodies[i].name.empty() ? tr("body %1").arg(i + 1) : toQt(solid->bodies[i].name));
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
    connect(box, &QComboBox::activated, this, [this, box, id = file.id, solid](int at) {
        box->setCurrentIndex(0);
        const SolidFile* now = solidById(document_.part(), id);
        if (at > 0 && now != nullptr) work_.setMotion(id, usualMotion(*solid, *now, at - 1));
    });
    rows_->addWidget(box);
}

/// Where it stands as numbers, to be typed over.
void SolidList::addNumbers(const SolidFile& file) {
    const StandingSolid* now = nullptr;
    for (const StandingSolid& s : document_.footprint().solids)
        if (s.id == file.id) now = &s;
    if (now == nullptr) return;
    const Vec3 at = after(now->pose, inverse(standingPose(file))).move;
    auto* numbers = new QWidget(this);
    auto* grid = new QGridLayout(numbers);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(2);
    int row = 0;
    const auto field = [&](const QString& label, QLineEdit* edit, const char* name, const QString& tip) {
        edit->setObjectName(name);
        edit->setToolTip(tip);
        edit->setAlignment(Qt::AlignRight);
        edit->setFixedWidth(theme::em() * 8);
        grid->addWidget(new QLabel(label, numbers), row, 0);
        grid->addWidget(edit, row++, 1, Qt::AlignRight);
    };
    const auto length = [&](const QString& label, double value, Vec3 way, const char* name, const QString& tip) {
        auto* edit = new LengthEdit(
            view_,
            [this, id = file.id, value, way](Length typed) -> Result<void> {
                const double by = typed.mm() - value;
                if (std::abs(by) > 1e-6) work_.moveBy(id, by * way.x, by * way.y, by * way.z);
                return {};
            },
            numbers);
        edit->setLimits(Length::fromMm(-1000), Length::fromMm(1000));
        edit->setLength(Length::fromMm(value));
        field(label, edit, name, tip);
    };
    length(tr("x"), at.x, {1, 0, 0}, "solidX",
           tr("Of its frame's beginning, from the datum; typed, it stands by hand"));
    length(tr("y"), at.y, {0, 1, 0}, "solidY",
           tr("Of its frame's beginning, from the datum; typed, it stands by hand"));
    length(tr("Lifted by"), file.lift, {0, 0, 1}, "solidLiftBy", tr("Above the board"));
    auto* angle = new QLineEdit(QString::number(now->turn, 'f', 2), numbers);
    connect(angle, &QLineEdit::editingFinished, this, [this, angle, id = file.id, was = now->turn] {
        if (!angle->isModified()) return;
        const auto typed = parseNumber(angle->text().toStdString());
        markWrong(angle, !typed);
        if (!typed) return view_.say(tr("“%1” is no angle: type degrees, as in 12.5").arg(angle->text()));
        angle->setModified(false);
        if (std::abs(*typed - was) > 1e-6) work_.turnBy(id, {0, 0, 1}, *typed - was);
    });
    field(tr("Turned by, °"), angle, "solidTurned", tr("About z, counter-clockwise"));
    rows_->addWidget(numbers);
}

}  // namespace punch
