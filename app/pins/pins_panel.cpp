#include "app/pins/pins_panel.h"

#include <QApplication>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMimeData>
#include <QVBoxLayout>
#include <algorithm>
#include <set>

#include "app/pins/pinout_dialog.h"
#include "app/pins/symbol_dialog.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/names.h"
#include "core/pins/pin_checks.h"
#include "core/pins/variants.h"

namespace punch {
namespace {

QString joinedWords(const std::vector<std::string>& all) {
    QStringList words;
    for (const std::string& s : all) words << toQt(s);
    return words.join(", ");
}

std::vector<std::string> numbersOf(const Footprint& f) {
    std::vector<std::string> all;
    for (const Pad& p : f.pads) all.push_back(p.number);
    return all;
}

}  // namespace

QString PinsPanel::cellOf(const Pin& p, int column) {
    switch (column) {
        case Col::Number: return toQt(p.number);
        case Col::Names: return joinedWords(p.names);
        case Col::Kind: return p.kind == PinKind::NotSaid ? QString() : toQt(nameOf(p.kind));
        case Col::Side: {
            // "left +2": two steps left free before it.
            QString words = p.side == PinSide::ByKind ? QString() : toQt(nameOf(p.side));
            if (p.gap > 0) words += (words.isEmpty() ? "+" : " +") + QString::number(p.gap);
            return words;
        }
        case Col::Group: return toQt(p.group);
        case Col::Element: return toQt(p.element);
        case Col::Pads: return joinedWords(p.pads);
        default: return toQt(p.note);
    }
}

PinsPanel::PinsPanel(Document& document, ViewState& view, Sheet& sheet, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), sheet_(sheet) {
    setObjectName("pinsPanel");
    // It takes the width that the sheet has, and asks for none.
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    auto* box = new QVBoxLayout(this);
    const int em = theme::em();
    box->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    box->setSpacing(em / 4);
    buildTop();
    auto* line = new QHBoxLayout;
    table_ = new QTableWidget(0, Col::Count, this);
    table_->setObjectName("pins");
    table_->setAccessibleName(tr("Pins"));
    table_->setHorizontalHeaderLabels(
        {tr("Pin"), tr("Names"), tr("Kind"), tr("Side"), tr("Group"), tr("Element"), tr("Pads"), tr("Note")});
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(em * 3 / 2);
    table_->setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                            QAbstractItemView::EditKeyPressed);
    table_->setSelectionBehavior(QAbstractItemView::SelectItems);
    table_->setDragEnabled(true);
    table_->setTabKeyNavigation(true);
    const int widths[] = {3, 9, 8, 4, 5, 5, 4, 12};
    for (int i = 0; i < Col::Count; ++i) table_->setColumnWidth(i, widths[i] * em);
    table_->horizontalHeader()->setStretchLastSection(true);
    table_->installEventFilter(this);
    line->addWidget(table_, 3);
    symbol_ = new SymbolView(this);
    line->addWidget(symbol_, 1);
    box->addLayout(line, 1);
    notes_ = new BenchNoteLine(document_, view_, this);
    box->addWidget(notes_);
    connect(table_, &QTableWidget::cellChanged, this, &PinsPanel::typed);
    connect(table_, &QTableWidget::itemSelectionChanged, this, &PinsPanel::chooseRow);
    connect(symbol_, &SymbolView::pinClicked, this, [this](int pin) { table_->setCurrentCell(pin, Col::Names); });
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&view_, &ViewState::chosenChanged, this, [this] {
        if (isVisible()) refresh();
    });
    sheet_.setAcceptDrops(true);
    sheet_.installEventFilter(this);
}

void PinsPanel::buildTop() {
    auto* top = new QHBoxLayout;
    auto* title = new QLabel(tr("<b>Pins and symbol</b>"), this);
    top->addWidget(title);
    variant_ = new QComboBox(this);
    variant_->setObjectName("pinout");
    variant_->setAccessibleName(tr("Pinout"));
    variant_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    top->addWidget(variant_);
    connect(variant_, &QComboBox::activated, this, [this](int at) {
        if (at == variant_->count() - 1) return makeVariant();
        view_.setVariant(at <= 0 ? std::string() : variant_->itemText(at).toStdString());
        refresh();
    });
    words_ = new WrappedLabel(this);
    words_->setObjectName("pinWords");
    top->addWidget(words_, 1);
    const auto button = [&](const QString& words, const char* name) {
        auto* b = new QPushButton(words, this);
        b->setObjectName(name);
        top->addWidget(b);
        return b;
    };
    differs_ = button(tr("What else differs…"), "pinoutDiffers");
    connect(differs_, &QPushButton::clicked, this, [this] {
        if (!document_.open() || variantOf(document_.part(), view_.variant()) == nullptr) return;
        PinoutDialog dialog(document_.part(), view_.variant(), this);
        if (dialog.exec() != QDialog::Accepted) return;
        document_.apply(tr("pinout %1").arg(toQt(view_.variant())), dialog.chosen());
        refresh();
    });
    dropPinout_ = button(tr("Drop this pinout"), "dropPinout");
    forPads_ = button(tr("A pin for each pad"), "pinsOfPads");
    draw_ = button(tr("Draw on the symbol…"), "drawSymbol");
    paste_ = button(tr("Paste a table"), "pastePins");
    take_ = button({}, "takePins");
    take_->setProperty("role", "main");
    leave_ = button(tr("Leave it"), "leavePins");
    connect(forPads_, &QPushButton::clicked, this,
            [this] { setPins(tr("a pin for each pad"), withMissingPins(pins(), document_.footprint().pads)); });
    connect(paste_, &QPushButton::clicked, this, [this] { offer(QApplication::clipboard()->text()); });
    connect(draw_, &QPushButton::clicked, this, [this] {
        if (!document_.open()) return;
        Part shown = document_.part();
        shown.pins = pins();
        SymbolDialog dialog(shown, this);
        if (dialog.exec() != QDialog::Accepted) return;
        Part next = document_.part();
        next.symbol = dialog.drawing();
        document_.apply(tr("drawing on the symbol"), std::move(next));
        refresh();
    });
    connect(dropPinout_, &QPushButton::clicked, this, [this] {
        Part next = document_.part();
        std::erase_if(next.variants, [&](const Variant& v) { return v.name == view_.variant(); });
        const QString what = tr("removal of pinout %1").arg(toQt(view_.variant()));
        view_.setVariant({});
        document_.apply(what, std::move(next));
        refresh();
    });
    connect(take_, &QPushButton::clicked, this, [this] {
        if (!offered_) return;
        std::vector<Pin> taken = std::move(offered_->pins);
        offered_.reset();
        setPins(tr("pins of a table"), std::move(taken));
    });
    connect(leave_, &QPushButton::clicked, this, [this] {
        offered_.reset();
        refresh();
    });
    static_cast<QVBoxLayout*>(layout())->addLayout(top);
}

const std::vector<Pin>& PinsPanel::pins() const {
    if (offered_) return offered_->pins;
    const Part& part = document_.part();
    if (const Variant* v = variantOf(part, view_.variant()); v != nullptr && !v->pins.empty()) return v->pins;
    return part.pins;
}

void PinsPanel::setPins(const QString& what, std::vector<Pin> pins) {
    Part next = document_.part();
    Variant* variant = nullptr;
    for (Variant& v : next.variants)
        if (v.name == view_.variant()) variant = &v;
    (variant != nullptr ? variant->pins : next.pins) = std::move(pins);
    view_.say({});
    document_.apply(what, std::move(next));
    refresh();
}

void PinsPanel::offer(const QString& text) {
    if (!document_.open()) return;
    auto read = pinsFromText(text.toStdString(), numbersOf(document_.footprint()));
    if (!read) return view_.say(tr("Nothing was pasted. %1").arg(toQt(read.error().text())));
    view_.say({});
    offered_ = std::move(*read);
    refresh();
}

void PinsPanel::fillRow(int row, const Pin& pin, const QString& joined, const QString& trouble) {
    for (int column = 0; column < Col::Count; ++column) {
        QTableWidgetItem* item = table_->item(row, column);
        if (item == nullptr) {
            item = new QTableWidgetItem;
            table_->setItem(row, column, item);
        }
        QString text = cellOf(pin, column);
        const bool own = column == Col::Pads && pin.pads.empty() && !pin.number.empty();
        if (own) text = joined;
        const auto held = wrong_.find({pin.number, column});
        if (held != wrong_.end()) text = held->second;
        item->setText(text);
        item->setForeground(held != wrong_.end() || (!trouble.isEmpty() && column == Col::Number) ? theme::kVermilion
                            : own                                                                 ? theme::kQuiet
                                                                                                  : theme::kInk);
        item->setFont(theme::text(1.0, column == Col::Number));
        item->setToolTip(trouble);
        item->setFlags(offered_
                           ? Qt::ItemIsEnabled | Qt::ItemIsSelectable
                           : Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDragEnabled);
    }
}

void PinsPanel::refresh() {
    if (!document_.open()) return;
    // Another part: what was offered, mistyped and chosen for the one before is not its.
    if (begun_ != document_.begun()) {
        begun_ = document_.begun();
        offered_.reset();
        wrong_.clear();
        view_.setVariant({});
    }
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    filling_ = true;
    variant_->clear();
    variant_->addItem(part.variants.empty() ? tr("this part") : tr("the part itself"));
    for (const Variant& v : part.variants) variant_->addItem(toQt(v.name));
    variant_->addItem(tr("another pinout…"));
    variant_->setCurrentIndex(std::max(0, view_.variant().empty() ? 0 : variant_->findText(toQt(view_.variant()))));
    const std::vector<Pin>& all = pins();
    const std::vector<PinTrouble> troubles = pinTroubles(all, f.pads);
    const Joints joints = jointsOf(all, f.pads);
    std::map<std::size_t, QString> byPin;
    std::vector<std::size_t> wrong;
    for (const PinTrouble& t : troubles)
        for (const std::size_t i : t.pins) {
            byPin.emplace(i, toQt(t.words));
            if (t.weight == PinTrouble::Weight::Wrong) wrong.push_back(i);
        }
    const int rows = static_cast<int>(all.size()) + (offered_ ? 0 : 1);
    if (table_->rowCount() != rows) table_->setRowCount(rows);
    for (std::size_t i = 0; i < all.size(); ++i) {
        std::vector<std::string> numbers;
        for (const FeatureId& id : joints.pads[i])
            if (const Pad* pad = f.pad(id)) numbers.push_back(pad->number);
        fillRow(static_cast<int>(i), all[i], joinedWords(numbers), byPin.contains(i) ? byPin[i] : QString());
    }
    if (!offered_) fillRow(rows - 1, Pin(), {}, {});
    int chosen = table_->currentRow();
    const auto joined = [&](int row) {
        if (row < 0 || row >= static_cast<int>(joints.pads.size())) return false;
        const auto& pads = joints.pads[static_cast<std::size_t>(row)];
        return std::find(pads.begin(), pads.end(), view_.first()) != pads.end();
    };
    // Of two pins at one pad the row stays where it is.
    if (!view_.first().empty() && !joined(chosen))
        for (int i = 0; i < static_cast<int>(joints.pads.size()); ++i)
            if (joined(i)) {
                chosen = i;
                table_->setCurrentCell(chosen, std::max(0, table_->currentColumn()));
                break;
            }
    Part shown = part;
    shown.pins = all;
    symbol_->show(shown, wrong, chosen);
    // What comes next.
    if (offered_) {
        QStringList columns;
        for (const std::string& c : offered_->columns) columns << toQt(c);
        QString words = tr("Read as: %1.").arg(columns.join(" · "));
        if (!offered_->leftLines.empty())
            words += " " + tr("Left out: %1 × “%2”")
                               .arg(offered_->leftLines.size())
                               .arg(toQt(offered_->leftLines.front()).left(40));
        words_->setText(words);
        take_->setText(tr("Take these %1").arg(all.size()));
    } else if (all.empty())
        words_->setText(tr("Type number and name in the first line, or paste what a spreadsheet or a drawing says."));
    else if (troubles.empty() && variantOf(part, view_.variant()) != nullptr) {
        const auto differs = variantDifference(part, {}, view_.variant());
        QStringList lines;
        for (const std::string& d : differs) lines << toQt(d);
        words_->setText(differs.empty() ? tr("As the part itself.")
                                        : toQt(differs.front()) +
                                              (differs.size() > 1 ? tr(", and %1 more differ").arg(differs.size() - 1)
                                                                  : QString()));
        words_->setToolTip(lines.join('\n'));
    } else if (troubles.empty())
        words_->setText(tr("All %1 are joined to their pads.").arg(all.size()));
    else
        words_->setText(toQt(troubles.front().words) +
                        (troubles.size() > 1 ? tr(", and %1 more").arg(troubles.size() - 1) : QString()));
    words_->setProperty("role", !offered_ && !troubles.empty() && troubles.front().weight == PinTrouble::Weight::Wrong
                                    ? "warn"
                                    : "quiet");
    words_->style()->polish(words_);
    take_->setVisible(offered_.has_value());
    leave_->setVisible(offered_.has_value());
    forPads_->setVisible(!offered_ && !joints.alone.empty());
    paste_->setVisible(!offered_);
    draw_->setVisible(!offered_ && !all.empty());
    differs_->setVisible(!offered_ && variantOf(part, view_.variant()) != nullptr);
    dropPinout_->setVisible(!offered_ && variantOf(part, view_.variant()) != nullptr);
    notes_->refresh();
    filling_ = false;
}

void PinsPanel::chooseRow() {
    if (filling_ || !document_.open()) return;
    const int row = table_->currentRow();
    const Joints joints = jointsOf(pins(), document_.footprint().pads);
    const bool known =
        row >= 0 && row < static_cast<int>(joints.pads.size()) && !joints.pads[static_cast<std::size_t>(row)].empty();
    view_.choose(known ? joints.pads[static_cast<std::size_t>(row)].front() : FeatureId(), {});
}

void PinsPanel::makeVariant() {
    refresh();
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Another pinout"), tr("Its name, added to the part's"),
                                               QLineEdit::Normal, {}, &ok)
                             .trimmed();
    if (!ok || name.isEmpty()) return;
    Part next = document_.part();
    if (variantOf(next, name.toStdString()) != nullptr) return view_.say(tr("There is a pinout %1 already").arg(name));
    Variant v;
    v.name = name.toStdString();
    v.pins = pins();
    next.variants.push_back(std::move(v));
    view_.setVariant(name.toStdString());
    document_.apply(tr("pinout %1").arg(name), std::move(next));
    refresh();
}

void PinsPanel::joinAt(QPointF at, int row) {
    const FeatureId id = sheet_.featureAt(at);
    const Pad* pad = document_.footprint().pad(id);
    if (pad == nullptr || row < 0 || row >= static_cast<int>(pins().size())) return;
    const QString number = toQt(pins()[static_cast<std::size_t>(row)].number);
    setPins(tr("pin %1 joined to pad %2").arg(number, toQt(pad->number)),
            joinedTo(pins(), static_cast<std::size_t>(row), pad->number));
}

bool PinsPanel::eventFilter(QObject* watched, QEvent* event) {
    if (watched == table_ && event->type() == QEvent::KeyPress) {
        const auto& key = static_cast<const QKeyEvent&>(*event);
        if (key.matches(QKeySequence::Paste)) {
            offer(QApplication::clipboard()->text());
            return true;
        }
        if (key.matches(QKeySequence::Copy)) {
            QApplication::clipboard()->setText(toQt(pinsCsv(pins())));
            return true;
        }
        if ((key.key() == Qt::Key_Up || key.key() == Qt::Key_Down) && (key.modifiers() & Qt::AltModifier) != 0 &&
            !offered_) {
            movePin(table_->currentRow(), key.key() == Qt::Key_Up ? -1 : 1);
            return true;
        }
        if (key.key() == Qt::Key_Delete && !offered_) {
            removeRows();
            return true;
        }
    }
    if (watched == &sheet_ && isVisible()) {
        if (event->type() == QEvent::DragEnter || event->type() == QEvent::DragMove) {
            auto* drag = static_cast<QDragMoveEvent*>(event);
            if (drag->source() == table_) {
                drag->acceptProposedAction();
                return true;
            }
        }
        if (event->type() == QEvent::Drop) {
            auto* drop = static_cast<QDropEvent*>(event);
            if (drop->source() == table_) {
                joinAt(drop->position(), table_->currentRow());
                drop->acceptProposedAction();
                return true;
            }
        }
    }
    return QWidget::eventFilter(watched, event);
}

}  // namespace punch
