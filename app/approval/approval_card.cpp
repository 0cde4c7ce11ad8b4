#include "app/approval/approval_card.h"

#include <QDate>
#include <QHBoxLayout>
#include <QSettings>

#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "app/widgets/remove_rows.h"

namespace punch {
namespace {

constexpr const char* kWho = "approval/who";

std::string today() { return QDate::currentDate().toString(Qt::ISODate).toStdString(); }

}  // namespace

ApprovalCard::ApprovalCard(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("approvalCard");
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    const auto label = [&](const char* name) {
        auto* l = new WrappedLabel(this);
        l->setObjectName(name);
        box->addWidget(l);
        return l;
    };
    state_ = label("approvalState");
    since_ = label("approvalSince");
    since_->setFont(theme::text(0.9));
    const auto field = [&](const char* name, const QString& words, const QString& hint) {
        auto* edit = textField(this, name);
        edit->setAccessibleName(words);
        edit->setPlaceholderText(hint);
        edit->setToolTip(words);
        box->addWidget(edit);
        return edit;
    };
    who_ = field("approvalWho", tr("Who approves"), tr("your name"));
    who_->setText(QSettings().value(kWho).toString());
    connect(who_, &QLineEdit::editingFinished, this, [this] { QSettings().setValue(kWho, who_->text().trimmed()); });
    gauges_ = new QWidget(this);
    rows_ = new QVBoxLayout(gauges_);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(2);
    box->addWidget(gauges_);
    note_ = field("approvalNote", tr("What is new in the version"), tr("what is new in this version"));
    auto* buttons = new QHBoxLayout;
    check_ = new QPushButton(tr("I checked it"), this);
    check_->setObjectName("approvalCheck");
    check_->setToolTip(tr("Somebody looked at the part as it is now; an edit makes it a draft again"));
    release_ = new QPushButton(this);
    release_->setObjectName("approvalRelease");
    release_->setProperty("role", "main");
    release_->setToolTip(tr("Freezes a version, with a digest over all that counts; its files carry both"));
    buttons->addWidget(check_);
    buttons->addWidget(release_);
    buttons->addStretch();
    box->addLayout(buttons);
    connect(check_, &QPushButton::clicked, this, [this] {
        if (document_.open()) edit(tr("check"), checkedPart(document_.part(), who(), today()));
    });
    connect(release_, &QPushButton::clicked, this, [this] {
        if (!document_.open()) return;
        document_.settle();
        const auto next =
            releasedPart(document_.part(), document_.footprint(), who(), today(), note_->text().toStdString());
        if (next) note_->clear();
        edit(tr("release"), next);
    });
    connect(&document_, &Document::changed, this, &ApprovalCard::refresh);
    refresh();
}

std::string ApprovalCard::who() const { return who_->text().trimmed().toStdString(); }

void ApprovalCard::edit(const QString& what, const Result<Part>& next) {
    markWrong(who_, !next && who().empty());
    if (!next) return view_.say(toQt(next.error().text()));
    view_.say({});
    document_.apply(what, *next);
}

QLabel* ApprovalCard::line(const QString& words, const char* colour) {
    auto* l = new WrappedLabel(gauges_);
    l->setText(words);
    l->setFont(theme::text(0.9));
    l->setStyleSheet(theme::styled(colour));
    rows_->addWidget(l);
    return l;
}

void ApprovalCard::addBlocking(const Blocking& b) {
    const QString glyph = b.state == GaugeState::NoGo ? "✕ " : "○ ";
    QString words = glyph + toQt(b.title) + ": " + toQt(b.says);
    if (!b.letPass.empty()) words += tr(". It was let pass when it said: %1").arg(toQt(b.letPass));
    line(words, "color: @vermilion;");
    auto* row = new QWidget(gauges_);
    auto* lay = new QHBoxLayout(row);
    lay->setContentsMargins(0, 0, 0, 4);
    auto* reason = textField(row, "reason-" + QString::fromStdString(b.gauge));
    reason->setAccessibleName(tr("Why %1 may pass").arg(toQt(b.title)));
    reason->setPlaceholderText(tr("why it may pass"));
    reason->setToolTip(tr("Stands in the report and in every file that leaves"));
    if (const auto it = reasons_.find(b.gauge); it != reasons_.end()) reason->setText(it->second);
    connect(reason, &QLineEdit::textChanged, this,
            [this, gauge = b.gauge](const QString& text) { reasons_[gauge] = text; });
    auto* pass = new QPushButton(tr("Let pass"), row);
    pass->setToolTip(tr("The gauge blocks no release any more, as long as it says the same"));
    pass->setObjectName("pass-" + QString::fromStdString(b.gauge));
    lay->addWidget(reason, 1);
    lay->addWidget(pass);
    rows_->addWidget(row);
    const auto let = [this, gauge = b.gauge] {
        document_.settle();
        const auto next =
            withPass(document_.part(), document_.footprint(), gauge, reasons_[gauge].toStdString(), who(), today());
        if (next) reasons_.erase(gauge);
        edit(tr("gauge let pass"), next);
    };
    connect(pass, &QPushButton::clicked, this, let);
    connect(reason, &QLineEdit::returnPressed, this, let);
}

void ApprovalCard::addPass(const LetPass& p) {
    auto* row = new QWidget(gauges_);
    auto* lay = new QHBoxLayout(row);
    lay->setContentsMargins(0, 0, 0, 0);
    auto* words = new WrappedLabel(row);
    words->setText(tr("%1 is let pass by %2, %3: %4").arg(toQt(p.gauge), toQt(p.by), toQt(p.date), toQt(p.reason)));
    words->setFont(theme::text(0.9));
    lay->addWidget(words, 1);
    auto* back = new QPushButton(tr("take back"), row);
    back->setObjectName("withdraw-" + QString::fromStdString(p.gauge));
    back->setProperty("role", "link");
    back->setToolTip(tr("The gauge blocks again"));
    lay->addWidget(back);
    connect(back, &QPushButton::clicked, this,
            [this, gauge = p.gauge] { document_.apply(tr("pass taken back"), withoutPass(document_.part(), gauge)); });
    rows_->addWidget(row);
}

void ApprovalCard::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void ApprovalCard::refresh() {
    // The digest and what changed are worth their time only where they are seen.
    if (!document_.open() || !isVisible()) return;
    const Part& part = document_.part();
    const ApprovalState s = standingOf(part, document_.footprint());
    static constexpr const char* kGlyphs[] = {"○", "◐", "●"};  // in the order of Stage
    QString words = QString(kGlyphs[static_cast<int>(s.stage)]) + " " + toQt(standingWords(s));
    if (s.stage == Stage::Checked)
        words += tr(", by %1 on %2").arg(toQt(part.approval.checked.by), toQt(part.approval.checked.date));
    if (s.stage == Stage::Released) {
        const Version& last = part.approval.versions.back();
        words += tr(", by %1 on %2").arg(toQt(last.released.by), toQt(last.released.date));
        if (!s.otherProgram.empty()) words += tr("; Punchbit %1 derived it").arg(toQt(s.otherProgram));
    }
    words += theme::styled("<br><span style='color:@quiet'>") + tr("digest %1").arg(toQt(s.digest.substr(0, 12))) +
             "</span>";
    state_->setText(words);
    QStringList since;
    const auto changes = changedSince(part, document_.footprint());
    constexpr std::size_t kShown = 8;
    for (std::size_t i = 0; i < changes.size() && i < kShown; ++i) since << "· " + toQt(changes[i]);
    if (changes.size() > kShown) since << tr("and %1 more").arg(changes.size() - kShown);
    since_->setText(since.isEmpty() ? QString() : tr("Since version %1:\n%2").arg(s.version).arg(since.join('\n')));
    since_->setVisible(!since.isEmpty());
    // Whoever types a reason goes on typing.
    const QString typing =
        focusWidget() != nullptr && focusWidget()->hasFocus() ? focusWidget()->objectName() : QString();
    removeRows(rows_);
    for (const Blocking& b : s.blocking) addBlocking(b);
    for (const LetPass& p : s.passes) addPass(p);
    if (typing.startsWith("reason-"))
        if (auto* field = gauges_->findChild<QLineEdit*>(typing)) field->setFocus();
    const bool asReleased = s.stage == Stage::Released && s.otherProgram.empty();
    check_->setVisible(s.stage == Stage::Draft);
    release_->setVisible(!asReleased);
    note_->setVisible(!asReleased);
    release_->setText(tr("Release version %1").arg(s.version + 1));
    release_->setEnabled(s.stage != Stage::Draft && s.blocking.empty());
}

}  // namespace punch
