#include "app/stations/mark_list.h"

#include <QLabel>
#include <QMenu>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/edit.h"
#include "core/part/names.h"

namespace punch {

QString markState(const Footprint& f, const std::string& id, bool* bad) {
    if (bad != nullptr) *bad = false;
    for (const LaidMark& m : f.laid) {
        if (m.id != id) continue;
        if (bad != nullptr) *bad = !m.wrong.empty();
        if (!m.wrong.empty()) return toQt(m.wrong);
        if (!m.firm) return QObject::tr("loose: its place is not measured");
    }
    if (const auto it = f.inkWords.find(id); it != f.inkWords.end()) return toQt(it->second);
    const auto note = f.attached.notes.find(id);
    return note == f.attached.notes.end() ? QString() : toQt(note->second);
}

MarkList::MarkList(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme::em() / 3);
    auto* inner = new QWidget(this);
    rows_ = new QVBoxLayout(inner);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(2);
    layout->addWidget(inner);
    auto* add = new QPushButton(tr("Add a mark …"), this);
    add->setObjectName("addMark");
    add->setToolTip(tr("What tells the ways round apart, keeps room, is cut out of the board or printed"));
    auto* menu = new QMenu(add);
    const char* group = nullptr;
    for (const MarkKindInfo& kind : markKinds()) {
        if (group != groupWords(kind.group)) {
            group = groupWords(kind.group);
            menu->addSection(tr(group));
        }
        QAction* action = menu->addAction(toQt(nameOf(kind.kind)));
        action->setToolTip(tr(kind.help));
        action->setObjectName("add " + toQt(nameOf(kind.kind)));
        connect(action, &QAction::triggered, this, [this, k = kind.kind] { addMark(k); });
    }
    menu->setToolTipsVisible(true);
    add->setMenu(menu);
    layout->addWidget(add);
    add_ = add;
}

void MarkList::addMark(MarkKind kind) {
    if (!document_.open()) return;
    Mark mark = newMark(kind, document_.part());
    Part next = withMark(document_.part(), std::move(mark));
    const std::string id = next.marks.back().id;
    document_.apply(toQt(nameOf(kind)), std::move(next));
    view_.setMark(id);
}

void MarkList::refresh() {
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (QWidget* old = item->widget()) {
            old->setParent(nullptr);
            old->deleteLater();
        }
        delete item;
    }
    const Part& part = document_.part();
    for (const MarkGroup group :
         {MarkGroup::WayRound, MarkGroup::Room, MarkGroup::Board, MarkGroup::Copper, MarkGroup::Print}) {
        bool headed = false;
        for (const Mark& m : part.marks) {
            if (markKind(m.kind).group != group) continue;
            if (!headed) {
                auto* head = new QLabel(tr(groupWords(group)), this);
                head->setProperty("role", "quiet");
                rows_->addWidget(head);
                headed = true;
            }
            bool bad = false;
            const QString state = markState(document_.footprint(), m.id, &bad);
            const QString kind = toQt(nameOf(m.kind)), name = m.name.empty() ? kind : toQt(m.name);
            auto* row = new QPushButton(name == kind ? name : tr("%1 · %2").arg(name, kind), this);
            row->setObjectName("mark " + toQt(m.id));
            row->setProperty("role", "row");
            row->setCheckable(true);
            row->setChecked(view_.mark() == m.id);
            row->setToolTip(state.isEmpty() ? tr(markKind(m.kind).help) : state);
            row->setAccessibleName(name + " " + kind + " " + state);
            connect(row, &QPushButton::clicked, this,
                    [this, id = m.id](bool on) { view_.setMark(on ? id : std::string()); });
            rows_->addWidget(row);
            if (state.isEmpty()) continue;
            auto* words = new QLabel(state, this);
            words->setProperty("role", bad ? "warn" : "quiet");
            words->setWordWrap(true);
            words->setIndent(theme::em());
            rows_->addWidget(words);
        }
    }
    if (part.marks.empty()) {
        auto* none =
            new QLabel(tr("Nothing is attached to the part yet. The outline, the pin 1 mark and the texts below "
                          "are drawn by rule."),
                       this);
        none->setProperty("role", "quiet");
        none->setWordWrap(true);
        rows_->addWidget(none);
    }
}

}  // namespace punch
