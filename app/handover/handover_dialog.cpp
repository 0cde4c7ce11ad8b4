#include "app/handover/handover_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "core/derive.h"
#include "core/pins/variants.h"
#include "core/release/step_out.h"

namespace punch {
namespace {

constexpr int kFormat = Qt::UserRole;
constexpr const char* kTicked = "handover/formats";

QString sizeWords(std::size_t bytes) {
    if (bytes < 1000) return QObject::tr("%1 bytes").arg(bytes);
    if (bytes < 1000000) return QObject::tr("%1 kB").arg(static_cast<double>(bytes) / 1000, 0, 'f', 1);
    return QObject::tr("%1 MB").arg(static_cast<double>(bytes) / 1e6, 0, 'f', 1);
}

}  // namespace

HandoverDialog::HandoverDialog(Document& document, ViewState& view, QWidget* parent)
    : QDialog(parent), document_(document), view_(view) {
    setObjectName("handover");
    setWindowTitle(tr("What leaves: %1").arg(toQt(document.part().name)));
    resize(860, 680);
    pool_.setMaxThreadCount(1);
    auto* box = new QVBoxLayout(this);
    auto* chips = new QHBoxLayout;
    const auto chip = [&](const QString& words, const QString& name, std::vector<Format> formats) {
        auto* b = new QPushButton(words, this);
        b->setObjectName(name);
        connect(b, &QPushButton::clicked, this, [this, formats = std::move(formats)] { choose(formats); });
        chips->addWidget(b);
    };
    std::vector<Format> all;
    for (const FormatKind& kind : formats()) all.push_back(kind.format);
    for (const Occasion& o : occasions()) chip(tr(o.words), toQt("for-" + std::string(o.name)), o.formats);
    chip(tr("All of it"), "for-all", all);
    chips->addStretch();
    box->addLayout(chips);
    auto* how = new QHBoxLayout;
    const auto combo = [&](const QString& label, const char* name, const QStringList& words) {
        auto* c = new QComboBox(this);
        c->setObjectName(name);
        c->setAccessibleName(label);
        c->addItems(words);
        how->addWidget(new QLabel(label, this));
        how->addWidget(c);
        how->addSpacing(theme::em());
        connect(c, &QComboBox::currentIndexChanged, this, &HandoverDialog::inputsChanged);
        return c;
    };
    // In the order of Origin and of ZeroOrientation.
    origin_ = combo(tr("0, 0 is"), "releaseOrigin",
                    {tr("the datum"), tr("pin 1"), tr("middle of the pins"), tr("middle of the body")});
    zero_ = combo(tr("Turned"), "releaseZero",
                  {tr("as the part"), tr("IPC-7351 A: pin 1 upper left"), tr("IPC-7351 B: pin 1 lower left")});
    turn_ = combo(tr("and by"), "releaseTurn", {"0°", "90°", "180°", "270°"});
    how->addStretch();
    box->addLayout(how);
    tree_ = new QTreeWidget(this);
    tree_->setObjectName("handoverTree");
    tree_->setAccessibleName(tr("Files"));
    tree_->setColumnCount(3);
    tree_->setHeaderLabels({tr("File"), tr("Size"), tr("Read again")});
    tree_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    tree_->header()->setStretchLastSection(true);
    tree_->setUniformRowHeights(true);
    const QStringList ticked = QSettings().value(kTicked).toStringList();
    for (const FormatKind& kind : formats()) {
        auto* item = new QTreeWidgetItem(tree_, {tr(kind.words)});
        item->setData(0, kFormat, static_cast<int>(kind.format));
        const bool on = ticked.isEmpty() || ticked.contains(kind.name);
        item->setCheckState(0, on ? Qt::Checked : Qt::Unchecked);
        item->setExpanded(true);
        QFont bold = theme::text(1.0, true);
        item->setFont(0, bold);
    }
    box->addWidget(tree_, 1);
    connect(tree_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
        if (column == 0 && item->parent() == nullptr) begin();
    });
    warnings_ = new WrappedLabel(this);
    warnings_->setObjectName("handoverWarnings");
    box->addWidget(warnings_);
    loose_ = new QCheckBox(this);
    loose_->setObjectName("writeLoose");
    box->addWidget(loose_);
    connect(loose_, &QCheckBox::toggled, this, &HandoverDialog::refresh);
    auto* line = new QHBoxLayout;
    message_ = new WrappedLabel(this);
    message_->setObjectName("handoverMessage");
    line->addWidget(message_, 1);
    write_ = new QPushButton(this);
    write_->setObjectName("handoverWrite");
    write_->setProperty("role", "main");
    line->addWidget(write_);
    box->addLayout(line);
    connect(write_, &QPushButton::clicked, this, [this] {
        const QString start =
            document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
        writeTo(QFileDialog::getExistingDirectory(this, tr("Folder for the files"), start));
    });
    const auto& pads = document_.footprint().pads;
    const auto loose = std::count_if(pads.begin(), pads.end(), [](const Pad& p) { return !p.firm; });
    loose_->setVisible(loose > 0);
    loose_->setText(
        tr("Write it although %1 of %2 pads are loose and stand where nobody read them; drawing and report say LOOSE")
            .arg(loose)
            .arg(pads.size()));
    QStringList lines{tr("It leaves as: %1").arg(toQt(stampOf(document_.part(), document_.footprint()).line))};
    for (const std::string& w : releaseWarnings(document_.footprint())) lines << "✕ " + toQt(w);
    warnings_->setText(lines.join('\n'));
    warnings_->setStyleSheet(theme::styled(lines.size() == 1 ? "color: @ink;" : "color: @vermilionInk;"));
    begin();
}

HandoverDialog::~HandoverDialog() {
    QStringList names;
    for (const FormatKind& kind : formats())
        if (itemOf(kind.format)->checkState(0) == Qt::Checked) names << kind.name;
    QSettings().setValue(kTicked, names);
    pool_.waitForDone();
}

QTreeWidgetItem* HandoverDialog::itemOf(Format format) const {
    for (int i = 0; i < tree_->topLevelItemCount(); ++i)
        if (tree_->topLevelItem(i)->data(0, kFormat).toInt() == static_cast<int>(format)) return tree_->topLevelItem(i);
    return nullptr;
}

std::vector<Format> HandoverDialog::ticked() const {
    std::vector<Format> all;
    for (const FormatKind& kind : formats())
        if (itemOf(kind.format)->checkState(0) == Qt::Checked) all.push_back(kind.format);
    return all;
}

void HandoverDialog::tick(Format format, bool on) {
    itemOf(format)->setCheckState(0, on ? Qt::Checked : Qt::Unchecked);
}

void HandoverDialog::choose(const std::vector<Format>& wanted) {
    {
        const QSignalBlocker quiet(tree_);
        for (const FormatKind& kind : formats())
            tick(kind.format, std::find(wanted.begin(), wanted.end(), kind.format) != wanted.end());
    }
    begin();
}

void HandoverDialog::inputsChanged() {
    made_.clear();
    ++generation_;
    begin();
}

void HandoverDialog::begin() {
    std::vector<Format> missing;
    for (const Format f : ticked())
        if (!made_.contains(f)) missing.push_back(f);
    for (const FormatKind& kind : formats()) show(kind.format);
    refresh();
    if (missing.empty() || running_) return;
    running_ = true;
    // As the pinout that is chosen.
    const Part& kept = document_.part();
    const auto as = view_.variant().empty() || variantOf(kept, view_.variant()) == nullptr
                        ? Result<Part>(kept)
                        : asVariant(kept, view_.variant());
    const Part part = withOrigin(as ? *as : kept, static_cast<Origin>(origin_->currentIndex()));
    const Turning turning{static_cast<ZeroOrientation>(zero_->currentIndex()), turn_->currentIndex()};
    const std::string home = QFileInfo(document_.path()).absolutePath().toStdString();
    pool_.start(
        [this, part, turning, home, missing, stamp = stampOf(kept, document_.footprint()), generation = generation_] {
            const Footprint f = derive(part);
            const Footprint turned = turnedFor(part, f, turning);
            std::map<Format, Made> made;
            for (const Format format : missing) {
                Made& m = made[format];
                auto files = releaseFiles(part, f, {format}, home, stamp, turning);
                if (!files) {
                    m.why = toQt(files.error().text());
                    continue;
                }
                m.files = std::move(*files);
                m.checked = checkedFiles(m.files, turned);
                if (m.files.empty() && format == Format::Step)
                    for (const std::string& words : missingBodies(part, home)) m.why = toQt(words);
            }
            QMetaObject::invokeMethod(
                this, [this, generation, made = std::move(made)]() mutable { arrived(generation, std::move(made)); },
                Qt::QueuedConnection);
        });
}

void HandoverDialog::arrived(quint64 generation, std::map<Format, Made> made) {
    running_ = false;
    if (generation == generation_)
        for (auto& [format, m] : made) made_[format] = std::move(m);
    begin();
}

void HandoverDialog::show(Format format) {
    const QSignalBlocker quiet(tree_);
    QTreeWidgetItem* item = itemOf(format);
    qDeleteAll(item->takeChildren());
    item->setText(1, {});
    item->setText(2, {});
    if (item->checkState(0) != Qt::Checked) return;
    const auto it = made_.find(format);
    if (it == made_.end()) return item->setText(2, tr("is being made…"));
    std::size_t bytes = 0;
    for (const CheckedFile& f : it->second.checked) {
        auto* child =
            new QTreeWidgetItem(item, {toQt(f.name), sizeWords(f.bytes), (f.good ? "● " : "✕ ") + toQt(f.words)});
        child->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
        child->setForeground(2, f.good ? theme::stateInk(GaugeState::Go) : theme::stateInk(GaugeState::NoGo));
        bytes += f.bytes;
    }
    item->setText(1, bytes > 0 ? sizeWords(bytes) : QString());
    item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
    if (it->second.checked.empty())
        item->setText(2, it->second.why.isEmpty() ? tr("nothing to write") : it->second.why);
    item->setExpanded(true);
}

void HandoverDialog::refresh() {
    std::size_t files = 0;
    bool ready = true;
    for (const Format f : ticked()) {
        const auto it = made_.find(f);
        ready = ready && it != made_.end();
        if (it != made_.end()) files += it->second.files.size();
    }
    write_->setText(ready ? tr("Write %1 files…").arg(files) : tr("Write the files…"));
    write_->setEnabled(ready && files > 0);
}

void HandoverDialog::settle() {
    while (true) {
        begin();
        if (!running_) return;
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(this);
    }
}

void HandoverDialog::writeTo(const QString& folder) {
    if (folder.isEmpty()) return;
    const std::vector<Format> chosen = ticked();
    if (chosen.empty()) return say(tr("Nothing is ticked: tick what is to leave"));
    if (loose_->isVisibleTo(this) && !loose_->isChecked())
        return say(tr(
            "Nothing was written: some pads are loose. Tick above that they may leave, or read what is missing first"));
    settle();
    std::vector<NamedContent> files;
    std::vector<CheckedFile> checked;
    QStringList left;
    for (const Format f : chosen) {
        const Made& m = made_.at(f);
        if (m.files.empty() && !m.why.isEmpty()) left << m.why;
        files.insert(files.end(), m.files.begin(), m.files.end());
        checked.insert(checked.end(), m.checked.begin(), m.checked.end());
    }
    auto done = allGood(checked);
    // A format that refuses the part keeps all of them back; one without its bodies is left out and said.
    for (const Format f : chosen)
        if (f != Format::Step && !made_.at(f).why.isEmpty())
            done = tl::make_unexpected(Problem{made_.at(f).why.toStdString(), {}, {}});
    if (done) done = writeAllAtomically(folder.toStdString(), files);
    if (!done) return say(tr("Nothing was written. %1").arg(toQt(done.error().text())));
    QStringList words{tr("%1 files written to %2").arg(files.size()).arg(QDir::toNativeSeparators(folder))};
    words << left;
    say(words.join(". "), left.isEmpty());
}

void HandoverDialog::say(const QString& words, bool good) {
    message_->setText(words);
    message_->setStyleSheet(theme::styled(good ? "color: @go;" : "color: @vermilion;"));
}

}  // namespace punch
