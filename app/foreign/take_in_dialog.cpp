#include "app/foreign/take_in_dialog.h"

#include <QDate>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

constexpr double kReach = 6;  // mm between edges of pads that a click takes for one part

}  // namespace

TakeInDialog::TakeInDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Take in pads"));
    setObjectName("takeInDialog");
    resize(theme::em() * 64, theme::em() * 40);
    auto* box = new QVBoxLayout(this);
    auto* middle = new QHBoxLayout;
    list_ = new QListWidget(this);
    list_->setObjectName("takePatterns");
    list_->setAccessibleName(tr("Patterns in the file"));
    list_->setMaximumWidth(theme::em() * 18);
    drawing_ = new PatternView(this);
    drawing_->setObjectName("takeDrawing");
    middle->addWidget(list_);
    middle->addWidget(drawing_, 1);
    box->addLayout(middle, 1);
    words_ = new WrappedLabel(this);
    words_->setObjectName("takeWords");
    box->addWidget(words_);
    auto* buttons = new QHBoxLayout;
    auto* other = new QPushButton(tr("Other files…"), this);
    auto* cancel = new QPushButton(tr("Leave it"), this);
    take_ = new QPushButton(this);
    take_->setObjectName("takeIn");
    take_->setProperty("role", "main");
    take_->setDefault(true);
    other->setAutoDefault(false);
    buttons->addWidget(other);
    buttons->addStretch();
    buttons->addWidget(cancel);
    buttons->addWidget(take_);
    box->addLayout(buttons);
    connect(list_, &QListWidget::currentRowChanged, this, &TakeInDialog::showPattern);
    connect(drawing_, &PatternView::chosenChanged, this, &TakeInDialog::say);
    connect(drawing_, &PatternView::padClicked, this, [this](int pad, bool more) {
        const int row = list_->currentRow();
        if (row < 0) return;
        const PadPattern pattern = patternOf(file_.patterns[static_cast<std::size_t>(row)]);
        auto group = groupOf(pattern, static_cast<std::size_t>(pad), kReach);
        if (more) {
            // One pad comes or goes.
            group = drawing_->chosen();
            if (!group.erase(static_cast<std::size_t>(pad))) group.insert(static_cast<std::size_t>(pad));
        }
        drawing_->choose(std::move(group));
    });
    connect(other, &QPushButton::clicked, this, [this] {
        const QStringList files = QFileDialog::getOpenFileNames(this, tr("Files with pads"), {}, foreignFilter());
        if (!files.isEmpty()) open(files);
    });
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    connect(take_, &QPushButton::clicked, this, &QDialog::accept);
    say();
}

bool TakeInDialog::open(const QStringList& files) {
    auto read = openForeign(files);
    if (!read) {
        words_->setText(toQt(read.error().text()));
        words_->setStyleSheet(theme::styled("color: @vermilion;"));
        return false;
    }
    file_ = std::move(*read);
    name_ = QFileInfo(files.front()).fileName();
    list_->clear();
    for (const ForeignPattern& p : file_.patterns) list_->addItem(tr("%1\n%2 pads").arg(toQt(p.name)).arg(p.pads.size()));
    list_->setCurrentRow(0);
    return true;
}

void TakeInDialog::showPattern(int row) {
    if (row < 0 || row >= static_cast<int>(file_.patterns.size())) return;
    drawing_->show(patternOf(file_.patterns[static_cast<std::size_t>(row)]));
    say();
}

void TakeInDialog::say() {
    words_->setStyleSheet({});
    const int row = list_->currentRow();
    take_->setEnabled(row >= 0);
    if (row < 0) {
        words_->setText(tr("Choose copper and drill files of a board together, an IPC-2581 file, or a table."));
        take_->setText(tr("Take in"));
        return;
    }
    const std::size_t all = file_.patterns[static_cast<std::size_t>(row)].pads.size(), some = drawing_->chosen().size();
    take_->setText(some == 0 ? tr("Take in all %1 pads").arg(all) : tr("Take in %1 of %2 pads").arg(some).arg(all));
    QStringList words{tr("Click a pad for its group, with Shift for one more or less, or drag a frame. Every number is marked "
                         "as taken in until readings confirm it.")};
    for (const std::string& note : file_.notes) words << tr("note: %1").arg(toQt(note));
    if (words.size() > 5) words = words.mid(0, 5) << tr("and more");
    words_->setText(words.join('\n'));
}

Result<TakenIn> TakeInDialog::taken() const {
    const int row = list_->currentRow();
    if (row < 0) return problem("nothing is chosen", "taking in", "Choose a pattern");
    ForeignPattern pattern = file_.patterns[static_cast<std::size_t>(row)];
    if (!drawing_->chosen().empty()) {
        std::vector<ForeignPad> pads;
        for (const std::size_t i : drawing_->chosen()) pads.push_back(pattern.pads[i]);
        pattern.pads = std::move(pads);
    }
    const std::string file = name_.toStdString();
    return takenIn(pattern, {pattern.name + " of " + file, file, QDate::currentDate().toString(Qt::ISODate).toStdString()});
}

}  // namespace punch
