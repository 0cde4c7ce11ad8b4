#include "app/kin/family_card.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>

#include "app/library_list.h"
#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/derive.h"
#include "core/release/formats.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

const Gauge* worstOf(const Footprint& f) {
    const Gauge* worst = nullptr;
    for (const Gauge& g : f.gauges)
        if (g.state != GaugeState::Go && (worst == nullptr || badness(g.state) > badness(worst->state))) worst = &g;
    return worst;
}

}  // namespace

FamilyCard::FamilyCard(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("familyCard");
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    by_ = new QComboBox(this);
    by_->setObjectName("familyBy");
    by_->setAccessibleName(tr("Family"));
    by_->addItems({tr("this part alone"), tr("also with other ways"), tr("one for each column of letters")});
    keepWheelAway(by_);
    box->addWidget(by_);
    connect(by_, &QComboBox::activated, this, [this](int at) {
        changeFamily(tr("family"), [&](Family& f) {
            f.columns = at == 2;
            if (at == 0) {
                f.names.clear();
            } else if (f.names.empty() || (at == 2) != (f.names.find("{column}") != std::string::npos)) {
                // What the name counts is what varies.
                f.names = document_.part().name;
                const Formation* varies = document_.part().formations.empty() ? nullptr : &document_.part().formations.front();
                const std::string count = varies != nullptr ? std::to_string(varies->pins.size()) : "";
                const std::size_t where = count.empty() ? std::string::npos : f.names.rfind(count);
                if (at == 2)
                    f.names += " {column}";
                else if (where != std::string::npos)
                    f.names.replace(where, count.size(), "{ways}");
                else
                    f.names += "-{ways}";
            }
        });
    });
    names_ = textField(this, "familyNames");
    names_->setAccessibleName(tr("Rule of names"));
    box->addWidget(names_);
    connect(names_, &QLineEdit::editingFinished, this, [this] {
        if (!names_->isModified()) return;
        names_->setModified(false);
        changeFamily(tr("names of the family"), [&](Family& f) { f.names = names_->text().trimmed().toStdString(); });
    });
    range_ = new QWidget(this);
    auto* line = new QHBoxLayout(range_);
    line->setContentsMargins(0, 0, 0, 0);
    from_ = whole("familyFrom", tr("ways from"), &Family::from);
    to_ = whole("familyTo", tr("to"), &Family::to);
    step_ = whole("familyStep", tr("by"), &Family::step);
    line->addStretch();
    box->addWidget(range_);
    troubles_ = new WrappedLabel(this);
    troubles_->setObjectName("familyTroubles");
    troubles_->setStyleSheet(theme::styled("color: @vermilion;"));
    box->addWidget(troubles_);
    list_ = new QListWidget(this);
    list_->setObjectName("familyMembers");
    list_->setAccessibleName(tr("Members of the family"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setFixedHeight(theme::em() * 9);
    box->addWidget(list_);
    connect(list_, &QListWidget::currentRowChanged, this, &FamilyCard::showMember);
    drawing_ = new QLabel(this);
    drawing_->setAlignment(Qt::AlignCenter);
    box->addWidget(drawing_);
    words_ = new WrappedLabel(this);
    words_->setObjectName("familyWords");
    words_->setFont(theme::text(0.9));
    box->addWidget(words_);
    auto* buttons = new QHBoxLayout;
    openIt_ = new QPushButton(tr("Open it"), this);
    openIt_->setObjectName("openMember");
    openIt_->setProperty("role", "link");
    writeAll_ = new QPushButton(tr("Write them all…"), this);
    writeAll_->setObjectName("writeMembers");
    buttons->addWidget(openIt_);
    buttons->addStretch();
    buttons->addWidget(writeAll_);
    box->addLayout(buttons);
    connect(openIt_, &QPushButton::clicked, this, [this] {
        const int row = list_->currentRow();
        if (row >= 0 && row < static_cast<int>(members_.size()) && members_[static_cast<std::size_t>(row)].why.isEmpty())
            emit memberWanted(members_[static_cast<std::size_t>(row)].part);
    });
    connect(writeAll_, &QPushButton::clicked, this, [this] {
        exportTo(QFileDialog::getExistingDirectory(this, tr("Folder for all members"),
                                                   QFileInfo(document_.path()).absolutePath()));
    });
    rest_.setSingleShot(true);
    rest_.setInterval(300);
    pool_.setMaxThreadCount(1);
    connect(&rest_, &QTimer::timeout, this, &FamilyCard::begin);
    connect(&document_, &Document::changed, this, &FamilyCard::refresh);
    refresh();
}

FamilyCard::~FamilyCard() { pool_.waitForDone(); }

QLineEdit* FamilyCard::whole(const QString& name, const QString& label, int Family::*field) {
    auto* words = new QLabel(label, range_);
    words->setFont(theme::text(0.9));
    auto* edit = textField(range_, name);
    edit->setAccessibleName(label);
    edit->setFont(theme::digits());
    edit->setFixedWidth(theme::em() * 3);
    range_->layout()->addWidget(words);
    range_->layout()->addWidget(edit);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, field, label] {
        if (!edit->isModified()) return;
        bool good = false;
        const int n = edit->text().trimmed().toInt(&good);
        good = good && n >= 1 && n <= kMostPins;
        markWrong(edit, !good);
        if (!good) return view_.say(tr("%1: a whole number from 1 to %2").arg(label).arg(kMostPins));
        edit->setModified(false);
        view_.say({});
        changeFamily(tr("ways of the family"), [&](Family& f) { f.*field = n; });
    });
    return edit;
}

void FamilyCard::changeFamily(const QString& what, const std::function<void(Family&)>& change) {
    if (!document_.open()) return;
    Part next = document_.part();
    change(next.family);
    document_.apply(what, std::move(next));
}

void FamilyCard::refresh() {
    if (!document_.open()) return;
    const Family& family = document_.part().family;
    const bool some = !family.names.empty();
    by_->setCurrentIndex(!some ? 0 : family.columns ? 2 : 1);
    if (!names_->hasFocus() || !names_->isModified()) names_->setText(toQt(family.names));
    for (const auto& [edit, value] : {std::pair{from_, family.from}, {to_, family.to}, {step_, family.step}})
        if (!edit->hasFocus() || !edit->isModified()) edit->setText(QString::number(value));
    names_->setVisible(some);
    range_->setVisible(some && !family.columns);
    QStringList troubles;
    for (const std::string& words : familyTroubles(document_.part())) troubles << toQt(words);
    troubles_->setText(troubles.join('\n'));
    troubles_->setVisible(!troubles.isEmpty());
    for (QWidget* w : std::initializer_list<QWidget*>{list_, drawing_, words_, openIt_, writeAll_}) w->setVisible(some);
    if (!some) {
        members_.clear();
        list_->clear();
        of_ = {};
        ++generation_;
        return;
    }
    if (document_.part() == of_) return;
    ++generation_;
    rest_.start();
}

void FamilyCard::begin() {
    if (!document_.open() || document_.part().family.names.empty()) return;
    if (running_) return rest_.start();
    running_ = true;
    of_ = document_.part();
    pool_.start([this, part = document_.part(), generation = generation_] {
        std::vector<Member> members;
        for (const FamilyMember& m : familyMembers(part)) {
            Member one;
            one.member = m;
            if (auto made = asMember(part, m)) {
                one.footprint = derive(made->part);
                one.notes = std::move(made->notes);
                one.part = std::move(made->part);
            } else {
                one.why = toQt(made.error().text());
            }
            members.push_back(std::move(one));
        }
        QMetaObject::invokeMethod(
            this, [this, generation, members = std::move(members)]() mutable { arrived(generation, std::move(members)); },
            Qt::QueuedConnection);
    });
}

void FamilyCard::arrived(quint64 generation, std::vector<Member> members) {
    running_ = false;
    if (generation != generation_) return rest_.start();
    const int row = std::max(list_->currentRow(), 0);
    members_ = std::move(members);
    list_->clear();
    for (const Member& m : members_) {
        const GaugeState state = m.why.isEmpty() ? worstState(m.footprint.gauges) : GaugeState::NoGo;
        auto* item = new QListWidgetItem(tr("%1 %2 · %3 ways").arg(stateGlyph(state), toQt(m.member.name)).arg(m.member.ways), list_);
        item->setToolTip(m.why.isEmpty() ? toQt(stateName(state)) : m.why);
        item->setForeground(state == GaugeState::NoGo ? theme::kVermilion : theme::kInk);
    }
    list_->setCurrentRow(std::min(row, list_->count() - 1));
    showMember(list_->currentRow());
}

void FamilyCard::showMember(int row) {
    const bool there = row >= 0 && row < static_cast<int>(members_.size());
    openIt_->setEnabled(there && members_[static_cast<std::size_t>(row)].why.isEmpty());
    if (!there) {
        drawing_->clear();
        words_->clear();
        return;
    }
    const Member& m = members_[static_cast<std::size_t>(row)];
    if (!m.why.isEmpty()) {
        drawing_->clear();
        words_->setText(m.why);
        return;
    }
    drawing_->setPixmap(thumbnail(m.part, m.footprint, QSize(theme::em() * 18, theme::em() * 6), devicePixelRatioF()));
    QStringList words;
    const Gauge* worst = worstOf(m.footprint);
    words << (worst == nullptr ? tr("Every gauge is go.")
                               : tr("%1: %2").arg(toQt(worst->title), toQt(fill(worst->words, worst->of, view_.unit(), 2))));
    if (const auto& body = m.footprint.body)
        words << tr("Body %1 × %2.").arg(view_.value(body->rect.width(), 2), view_.length(body->rect.height(), 2));
    for (const std::string& note : m.notes) words << toQt(note);
    words_->setText(words.join('\n'));
}

void FamilyCard::settle() {
    if (!document_.open() || document_.part().family.names.empty()) return;
    while (of_ != document_.part() || running_ || members_.empty()) {
        rest_.stop();
        begin();
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(this);
        if (familyMembers(document_.part()).empty()) return;
    }
}

void FamilyCard::exportTo(const QString& folder) {
    if (folder.isEmpty() || !document_.open()) return;
    settle();
    std::vector<Format> chosen;
    for (const FormatKind& kind : formats()) chosen.push_back(kind.format);
    std::vector<NamedContent> all;
    for (const Member& m : members_) {
        if (!m.why.isEmpty()) return view_.say(tr("Nothing was written. %1: %2").arg(toQt(m.member.name), m.why));
        const auto files = releaseFiles(m.part, m.footprint, chosen, QFileInfo(document_.path()).absolutePath().toStdString());
        if (!files) return view_.say(tr("Nothing was written. %1: %2").arg(toQt(m.member.name), toQt(files.error().text())));
        all.insert(all.end(), files->begin(), files->end());
    }
    const auto done = writeAllAtomically(folder.toStdString(), all);
    if (!done) return view_.say(tr("Nothing was written. %1").arg(toQt(done.error().text())));
    view_.tell(tr("%1 files of %2 members written to %3").arg(all.size()).arg(members_.size()).arg(QDir::toNativeSeparators(folder)));
}

}  // namespace punch
