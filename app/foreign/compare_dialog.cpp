#include "app/foreign/compare_dialog.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

/// An arrow's length over what it stands for: as long as can be without leading out of the drawing.
double timesFor(const Comparison& how, const PadPattern& there) {
    double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
    for (const PatternPad& p : there.pads) {
        left = std::min(left, p.x), right = std::max(right, p.x);
        low = std::min(low, p.y), high = std::max(high, p.y);
    }
    const double room = std::max({right - left, high - low, 2.0}) / 4;
    for (const double times : {1000.0, 500.0, 200.0, 100.0, 50.0, 20.0, 10.0, 5.0, 2.0})
        if (how.worst * times <= room) return times;
    return 1;
}

}  // namespace

CompareDialog::CompareDialog(PadPattern own, const ViewState& view, QWidget* parent)
    : QDialog(parent), own_(std::move(own)), view_(view) {
    setWindowTitle(tr("%1 laid over another footprint").arg(toQt(own_.name)));
    setObjectName("compareDialog");
    resize(theme::em() * 70, theme::em() * 42);
    auto* box = new QVBoxLayout(this);
    auto* top = new QHBoxLayout;
    auto* other = new QPushButton(tr("Another file…"), this);
    other->setObjectName("compareOther");
    other->setAutoDefault(false);
    other->setToolTip(tr("A part, copper and drill files of a board together, IPC-2581, a table"));
    pattern_ = new QComboBox(this);
    pattern_->setObjectName("comparePattern");
    pattern_->setAccessibleName(tr("Which of its patterns"));
    pattern_->setMinimumWidth(theme::em() * 12);
    by_ = new QComboBox(this);
    by_->setObjectName("compareBy");
    by_->setAccessibleName(tr("Laid over by"));
    by_->addItems({tr("laid over by the pads"), tr("laid over by the datum")});
    top->addWidget(other);
    top->addWidget(pattern_);
    top->addWidget(by_);
    top->addStretch();
    box->addLayout(top);
    words_ = new WrappedLabel(this);
    words_->setObjectName("compareWords");
    box->addWidget(words_);
    auto* middle = new QHBoxLayout;
    drawing_ = new PatternView(this);
    middle->addWidget(drawing_, 3);
    auto* right = new QVBoxLayout;
    table_ = new QTableWidget(0, 6, this);
    table_->setObjectName("compareTable");
    table_->setHorizontalHeaderLabels({tr("Pad"), tr("There"), tr("x"), tr("y"), tr("Off"), tr("Doubt")});
    table_->verticalHeader()->hide();
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    right->addWidget(table_, 3);
    differs_ = new WrappedLabel(this);
    differs_->setObjectName("compareDiffers");
    differs_->setFont(theme::text(0.9));
    right->addWidget(differs_, 1);
    middle->addLayout(right, 2);
    box->addLayout(middle, 1);
    connect(other, &QPushButton::clicked, this, [this] {
        const QStringList files = QFileDialog::getOpenFileNames(this, tr("What to lay it over"), {}, foreignFilter());
        if (!files.isEmpty()) open(files);
    });
    connect(pattern_, &QComboBox::activated, this, &CompareDialog::again);
    connect(by_, &QComboBox::activated, this, &CompareDialog::again);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { choosePad(row); });
    connect(drawing_, &PatternView::padClicked, this, [this](int pad) {
        for (std::size_t i = 0; i < how_.pads.size(); ++i)
            if (how_.pads[i].other == there_.pads[static_cast<std::size_t>(pad)].number) table_->selectRow(static_cast<int>(i));
    });
}

bool CompareDialog::open(const QStringList& files) {
    auto read = openForeign(files);
    if (!read) {
        words_->setText(toQt(read.error().text()));
        return false;
    }
    file_ = std::move(*read);
    pattern_->clear();
    for (const ForeignPattern& p : file_.patterns) pattern_->addItem(tr("%1, %2 pads").arg(toQt(p.name)).arg(p.pads.size()));
    // The one that lies nearest is what was meant.
    int best = 0;
    double least = 1e300;
    for (std::size_t i = 0; i < file_.patterns.size() && file_.patterns.size() <= 200; ++i) {
        const PadPattern there = patternOf(file_.patterns[i]);
        const Comparison c = compared(own_, there, AlignBy::Pads);
        const double cost = c.rms + static_cast<double>(c.alone.size() + c.otherAlone.size());
        if (c.pads.empty() || cost >= least) continue;
        least = cost;
        best = static_cast<int>(i);
    }
    pattern_->setCurrentIndex(best);
    pattern_->setVisible(file_.patterns.size() > 1);
    again();
    return true;
}

void CompareDialog::again() {
    const int at = pattern_->currentIndex();
    if (at < 0 || at >= static_cast<int>(file_.patterns.size())) return;
    there_ = patternOf(file_.patterns[static_cast<std::size_t>(at)]);
    how_ = compared(own_, there_, by_->currentIndex() == 1 ? AlignBy::Datum : AlignBy::Pads);
    const double times = timesFor(how_, there_);
    drawing_->show(own_, there_, how_, times);
    const auto mm = [&](double v, int digits = 3) { return view_.value(Length::fromMm(v), digits); };
    if (how_.pads.empty())
        words_->setText(tr("No pad lies near one of %1: nothing can be compared.").arg(toQt(there_.name)));
    else
        words_->setText(tr("%1 (dashed) over %2 (copper): worst %3, r.m.s. %4; turned by %5°, shifted by %6, %7. Arrows are "
                           "%8 times as long as they are.%9")
                            .arg(toQt(own_.name), toQt(there_.name), view_.length(Length::fromMm(how_.worst), 3),
                                 view_.length(Length::fromMm(how_.rms), 3), QString::number(how_.turn, 'f', 2), mm(how_.x),
                                 mm(how_.y), QString::number(times),
                                 how_.byNumber ? QString() : tr(" Paired by where they lie, since no number is in both.")));
    table_->setRowCount(static_cast<int>(how_.pads.size()));
    for (std::size_t i = 0; i < how_.pads.size(); ++i) {
        const PadDeviation& d = how_.pads[i];
        const QString cells[] = {toQt(d.one), toQt(d.other), mm(d.dx), mm(d.dy), mm(d.off), mm(d.doubt)};
        for (int c = 0; c < 6; ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setFont(theme::digits(0.9));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (c == 4 && d.off > d.doubt + 0.0005) item->setForeground(theme::kVermilion);
            table_->setItem(static_cast<int>(i), c, item);
        }
    }
    QStringList differs;
    for (const std::string& words : how_.differs) differs << toQt(words);
    for (const std::string& note : file_.notes) differs << tr("note: %1").arg(toQt(note));
    constexpr int kMost = 14;
    if (differs.size() > kMost) differs = differs.mid(0, kMost) << tr("and %1 more").arg(differs.size() - kMost);
    differs_->setText(differs.isEmpty() ? tr("Sizes and numbers are the same.") : differs.join('\n'));
}

void CompareDialog::choosePad(int row) {
    if (row < 0 || row >= static_cast<int>(how_.pads.size())) return drawing_->light(-1);
    for (std::size_t k = 0; k < there_.pads.size(); ++k)
        if (there_.pads[k].number == how_.pads[static_cast<std::size_t>(row)].other) return drawing_->light(static_cast<int>(k));
}

}  // namespace punch
