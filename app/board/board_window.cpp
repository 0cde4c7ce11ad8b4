#include "app/board/board_window.h"

#include <QAction>
#include <QCheckBox>
#include <QCloseEvent>
#include <QDir>
#include <QDrag>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QMimeData>
#include <QScrollArea>
#include <QUrl>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/base/text_table.h"
#include "core/board/board_files.h"
#include "core/library/library.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

/// Parts that can be dragged onto the board, as files.
class PartList : public QListWidget {
public:
    using QListWidget::QListWidget;

protected:
    void startDrag(Qt::DropActions) override {
        if (currentItem() == nullptr) return;
        auto* mime = new QMimeData;
        mime->setUrls({QUrl::fromLocalFile(currentItem()->data(Qt::UserRole).toString())});
        auto* drag = new QDrag(this);
        drag->setMimeData(mime);
        drag->exec(Qt::CopyAction);
    }
};

QLabel* heading(const QString& words, QWidget* parent) {
    auto* l = new QLabel(words, parent);
    l->setFont(theme::text(1.0, true));
    l->setContentsMargins(0, 8, 0, 0);
    return l;
}

}  // namespace

BoardWindow::BoardWindow(const QString& library, QWidget* parent) : QMainWindow(parent), library_(library) {
    setObjectName("boardWindow");
    setAttribute(Qt::WA_DeleteOnClose, false);
    resize(1280, 800);
    auto* central = new QWidget(this);
    auto* whole = new QVBoxLayout(central);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(0);
    auto* line = new QHBoxLayout;
    line->setSpacing(0);
    sheet_ = new BoardSheet(model_, view_, central);
    line->addWidget(buildColumn());
    line->addWidget(sheet_, 1);
    line->addWidget(buildSide());
    whole->addLayout(line, 1);
    message_ = new WrappedLabel(central);
    message_->setObjectName("boardMessage");
    message_->setContentsMargins(12, 6, 12, 6);
    message_->hide();
    whole->addWidget(message_);
    setCentralWidget(central);
    buildKeys();
    connect(&model_, &BoardModel::changed, this, &BoardWindow::refresh);
    connect(&model_, &BoardModel::judgedNew, this, &BoardWindow::refreshFindings);
    connect(&model_, &BoardModel::failed, this, [this](const QString& words) { say(words); });
    connect(sheet_, &BoardSheet::chosenChanged, this, &BoardWindow::refresh);
    connect(sheet_, &BoardSheet::partDropped, this, [this](const QString& file, Point at) { addPart(file, at); });
    connect(sheet_, &BoardSheet::partWanted, this, [this](const std::string& id) {
        if (const Placing* p = placingById(model_.board(), id))
            emit partWanted(QDir(model_.folder()).filePath(toQt(p->file)));
    });
    fillParts();
}

LengthEdit* BoardWindow::length(const char* name, const QString& words, std::function<void(TrialBoard&, Length)> set,
                                Length least, Length most) {
    auto* e = new LengthEdit(
        view_,
        [this, words, set](Length l) -> Result<void> {
            edit(words, [&](TrialBoard& b) { set(b, l); });
            return {};
        },
        this);
    e->setObjectName(name);
    e->setAccessibleName(words);
    e->setLimits(least, most);
    return e;
}

void BoardWindow::edit(const QString& what, const std::function<void(TrialBoard&)>& change) {
    TrialBoard next = model_.board();
    change(next);
    say({});
    model_.apply(what, std::move(next));
}

QWidget* BoardWindow::buildColumn() {
    auto* column = new QWidget(this);
    column->setFixedWidth(theme::em() * 20);
    auto* box = new QVBoxLayout(column);
    box->setContentsMargins(12, 8, 12, 8);
    box->setSpacing(5);
    const Length least = Length::fromMm(1), most = Length::fromMm(2000);
    name_ = new QLineEdit(column);
    name_->setObjectName("boardName");
    name_->setAccessibleName(tr("Name of the board"));
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        const QString typed = name_->text().trimmed();
        if (!typed.isEmpty()) edit(tr("name"), [&](TrialBoard& b) { b.name = typed.toStdString(); });
    });
    box->addWidget(name_);
    box->addWidget(heading(tr("Outline"), column));
    width_ = length(
        "boardWidth", tr("Width"), [](TrialBoard& b, Length l) { b.outline.width = l; }, least, most);
    height_ = length(
        "boardHeight", tr("Height"), [](TrialBoard& b, Length l) { b.outline.height = l; }, least, most);
    corner_ = length(
        "boardCorner", tr("Corner radius"), [](TrialBoard& b, Length l) { b.outline.corner = l; }, Length(), most);
    thickness_ = length(
        "boardThickness", tr("Thickness"), [](TrialBoard& b, Length l) { b.thickness = l; }, Length::fromMm(0.1),
        Length::fromMm(10));
    const auto pair = [&](const QString& a, QWidget* one, const QString& b, QWidget* two) {
        auto* row = new QHBoxLayout;
        row->addWidget(new QLabel(a, column));
        row->addWidget(one, 1);
        row->addWidget(new QLabel(b, column));
        row->addWidget(two, 1);
        box->addLayout(row);
    };
    pair(tr("Size"), width_, tr("x"), height_);
    pair(tr("Corners"), corner_, tr("thick"), thickness_);
    corners_ = new QLineEdit(column);
    corners_->setObjectName("boardCorners");
    corners_->setAccessibleName(tr("Corners of an own edge"));
    corners_->setPlaceholderText(tr("or corners: 0,0 100,0 100,60 0,60"));
    corners_->setToolTip(tr("An own edge by its corners, x,y of each; empty: the rectangle"));
    box->addWidget(corners_);
    connect(corners_, &QLineEdit::editingFinished, this, [this] {
        if (!corners_->isModified()) return;
        const std::string typed = corners_->text().trimmed().toStdString();
        const auto rings = typed.empty() ? Result<Polygons>(Polygons{}) : outlineFromCorners(typed);
        markWrong(corners_, !rings);
        if (!rings) return say(toQt(rings.error().text()));
        corners_->setModified(false);
        edit(tr("edge"), [&](TrialBoard& b) { b.outline.rings = *rings; });
        sheet_->fit();
    });
    outlineWords_ = new WrappedLabel(column);
    box->addWidget(outlineWords_);
    auto* buttons = new QHBoxLayout;
    const auto button = [&](const QString& words, const char* name, const QString& tip, QBoxLayout* into) {
        auto* b = new QPushButton(words, column);
        b->setObjectName(name);
        b->setToolTip(tip);
        into->addWidget(b);
        return b;
    };
    connect(button(tr("Edge from DXF…"), "boardOutline",
                   tr("Closed lines of a drawing become the edge and its cut-outs"), buttons),
            &QPushButton::clicked, this, [this] {
                const QString file =
                    QFileDialog::getOpenFileName(this, tr("Edge of the board"), model_.folder(), tr("DXF (*.dxf)"));
                if (!file.isEmpty()) takeOutline(file);
            });
    connect(button(tr("Screw hole"), "boardHole", tr("A mounting hole, with room for its screw's head"), buttons),
            &QPushButton::clicked, this, &BoardWindow::addHole);
    box->addLayout(buttons);
    auto* more = new QHBoxLayout;
    connect(button(tr("Three fiducials"), "boardFiducials",
                   tr("Global ones where there is room, none symmetrical; pressed again: none"), more),
            &QPushButton::clicked, this, &BoardWindow::offerFiducials);
    more->addStretch();
    box->addLayout(more);
    box->addWidget(heading(tr("Parts of the library"), column));
    search_ = new QLineEdit(column);
    search_->setObjectName("boardSearch");
    search_->setPlaceholderText(tr("find a part"));
    search_->setClearButtonEnabled(true);
    box->addWidget(search_);
    connect(search_, &QLineEdit::textChanged, this, [this](const QString& text) {
        for (int i = 0; i < parts_->count(); ++i)
            parts_->item(i)->setHidden(!parts_->item(i)->text().contains(text, Qt::CaseInsensitive));
    });
    parts_ = new PartList(column);
    parts_->setObjectName("boardParts");
    parts_->setAccessibleName(tr("Parts of the library"));
    parts_->setFrameShape(QFrame::NoFrame);
    parts_->setDragEnabled(true);
    parts_->setToolTip(tr("Drag one onto the board, or press it twice"));
    box->addWidget(parts_, 1);
    connect(parts_, &QListWidget::itemActivated, this,
            [this](QListWidgetItem* item) { addPart(item->data(Qt::UserRole).toString()); });
    buildChosen(box);
    return column;
}

QWidget* BoardWindow::buildSide() {
    auto* side = new QWidget(this);
    side->setFixedWidth(theme::em() * 24);
    auto* box = new QVBoxLayout(side);
    box->setContentsMargins(12, 8, 12, 8);
    box->setSpacing(6);
    space_ = new BoardSpace(model_, side);
    box->addWidget(space_, 2);
    auto* views = new QHBoxLayout;
    for (const auto& [words, from] : {std::pair{tr("slanted"), SeenFrom::Slanted},
                                      {tr("above"), SeenFrom::Above},
                                      {tr("below"), SeenFrom::Below},
                                      {tr("front"), SeenFrom::Front}}) {
        auto* b = new QPushButton(words, side);
        b->setProperty("role", "link");
        connect(b, &QPushButton::clicked, this, [this, from = from] { space_->look(from); });
        views->addWidget(b);
    }
    views->addStretch();
    box->addLayout(views);
    state_ = new QLabel(side);
    state_->setFont(theme::text(1.0, true));
    box->addWidget(state_);
    findings_ = new QListWidget(side);
    findings_->setObjectName("boardFindings");
    findings_->setAccessibleName(tr("What is judged"));
    findings_->setFrameShape(QFrame::NoFrame);
    findings_->setWordWrap(true);
    findings_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    findings_->setSpacing(2);
    box->addWidget(findings_, 3);
    connect(findings_, &QListWidget::currentRowChanged, this, [this](int row) { sheet_->light(row); });
    auto* buttons = new QHBoxLayout;
    side_ = new QPushButton(side);
    side_->setObjectName("boardFlip");
    connect(side_, &QPushButton::clicked, this, [this] {
        sheet_->setBelow(!sheet_->fromBelow());
        refresh();
    });
    buttons->addWidget(side_);
    buttons->addStretch();
    auto* write = new QPushButton(tr("Write the files…"), side);
    write->setObjectName("boardExport");
    write->setProperty("role", "main");
    write->setToolTip(tr("Gerber, drill, IPC-2581, placement table and bill of material, all or none"));
    connect(write, &QPushButton::clicked, this,
            [this] { exportTo(QFileDialog::getExistingDirectory(this, tr("Folder for the files"), model_.folder())); });
    buttons->addWidget(write);
    box->addLayout(buttons);
    return side;
}

void BoardWindow::buildKeys() {
    const auto key = [this](const QKeySequence& keys, auto run) {
        auto* action = new QAction(this);
        action->setShortcut(keys);
        connect(action, &QAction::triggered, this, run);
        addAction(action);
    };
    key(QKeySequence::Undo, [this] { model_.undo(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { model_.redo(); });
    key(Qt::Key_F6, [this] { side_->click(); });
    key(Qt::Key_F8, [this] { sheet_->fit(); });
    key(QKeySequence::Save, [this] {
        model_.settle();
        say(tr("The board is kept as it is worked on: %1").arg(QFileInfo(model_.path()).fileName()), true);
    });
    key(QKeySequence::Close, [this] { close(); });
}

void BoardWindow::fillParts() {
    parts_->clear();
    const auto files = libraryFiles(library_.toStdString());
    if (!files) return;
    for (const auto& file : *files) {
        auto* item = new QListWidgetItem(toQt(file.stem().string()), parts_);
        item->setData(Qt::UserRole, toQt(file.string()));
        item->setToolTip(toQt(file.string()));
    }
}

void BoardWindow::addPart(const QString& file, std::optional<Point> at) {
    const auto part = loadPart(file.toStdString());
    if (!part) return say(toQt(part.error().text()));
    const Rect r = boundsOf(ringsOf(model_.board().outline));
    // One after the other beside the middle, so that none hides another.
    const int number = static_cast<int>(model_.board().placings.size());
    const Point place = at.value_or(
        Point{r.middle().x + Length::fromMm(5 * (number % 5)), r.middle().y - Length::fromMm(5 * (number % 4))});
    TrialBoard next = withPart(model_.board(), model_.named(file).toStdString(), part->reference, place);
    const std::string id = next.placings.back().id;
    say({});
    model_.apply(tr("part"), std::move(next));
    sheet_->choose(id);
    sheet_->setFocus();
}

void BoardWindow::takeOutline(const QString& file, std::optional<double> mmPerUnit) {
    const auto rings = outlineFromDxf(file.toStdString(), mmPerUnit);
    if (!rings && rings.error().what == kNoUnit && !mmPerUnit) {
        static constexpr std::pair<const char*, double> kUnits[] = {{"mm", 1}, {"inch", 25.4}, {"mil", 0.0254}};
        QStringList words;
        for (const auto& [name, ignored] : kUnits) words << name;
        bool good = false;
        const QString chosen = QInputDialog::getItem(
            this, tr("Edge of the board"), tr("The drawing does not say its unit. It is in"), words, 0, false, &good);
        if (good) takeOutline(file, kUnits[words.indexOf(chosen)].second);
        return;
    }
    if (!rings) return say(toQt(rings.error().text()));
    edit(tr("outline"), [&](TrialBoard& b) { b.outline.rings = *rings; });
    sheet_->fit();
}

void BoardWindow::addHole() {
    BoardHole h;
    edit(tr("hole"), [&](TrialBoard& b) {
        const Rect r = boundsOf(ringsOf(b.outline)).grown(-Length::fromMm(5));
        // The first corner that has none yet.
        h.at = r.middle();
        for (const Point& corner :
             {Point{r.left, r.bottom}, Point{r.right, r.top}, Point{r.right, r.bottom}, Point{r.left, r.top}})
            if (std::none_of(b.holes.begin(), b.holes.end(),
                             [&](const BoardHole& o) { return distance(o.at, corner) < h.clear; })) {
                h.at = corner;
                break;
            }
        h.id = "h" + std::to_string(b.nextId++);
        b.holes.push_back(h);
    });
    sheet_->choose(h.id);
}

void BoardWindow::offerFiducials() {
    if (!model_.board().fiducials.empty()) return edit(tr("no fiducials"), [](TrialBoard& b) { b.fiducials.clear(); });
    model_.settle();
    const auto offered = offeredFiducials(model_.laid());
    if (!offered) return say(toQt(offered.error().text()));
    edit(tr("fiducials"), [&](TrialBoard& b) { b.fiducials = *offered; });
}

void BoardWindow::exportTo(const QString& folder) {
    if (folder.isEmpty()) return;
    model_.settle();
    const auto files = boardFiles(model_.laid());
    const auto done =
        files ? writeAllAtomically(folder.toStdString(), *files) : Result<void>(tl::make_unexpected(files.error()));
    if (!done) return say(tr("Nothing was written. %1").arg(toQt(done.error().text())));
    const GaugeState worst = model_.judgement().worst();
    say(tr("%1 files written to %2%3")
            .arg(files->size())
            .arg(QDir::toNativeSeparators(folder),
                 worst == GaugeState::NoGo      ? tr(", although the board is no-go: see the list")
                 : worst == GaugeState::Unknown ? tr(", although something is unknown: see the list")
                                                : QString()),
        worst != GaugeState::NoGo && worst != GaugeState::Unknown);
}

void BoardWindow::refresh() {
    const TrialBoard& b = model_.board();
    setWindowTitle(tr("%1: trial board").arg(toQt(b.name)));
    if (!name_->hasFocus()) name_->setText(toQt(b.name));
    const bool own = b.outline.own();
    const Rect r = boundsOf(ringsOf(b.outline));
    width_->setLength(own ? r.width() : b.outline.width);
    height_->setLength(own ? r.height() : b.outline.height);
    corner_->setLength(b.outline.corner);
    for (QWidget* w : {static_cast<QWidget*>(width_), static_cast<QWidget*>(height_), static_cast<QWidget*>(corner_)})
        w->setEnabled(!own);
    thickness_->setLength(b.thickness);
    if (!corners_->hasFocus()) {
        // What a drawing drew with its arcs is no line to type.
        const bool few = own && b.outline.rings.front().size() <= 24;
        corners_->setText(few ? toQt(cornersAsTyped(b.outline.rings)) : QString());
        corners_->setModified(false);
    }
    outlineWords_->setText(
        own ? tr("The edge is an own one (undo: Ctrl+Z); cut-outs in it: %1.").arg(b.outline.rings.size() - 1)
            : QString());
    outlineWords_->setVisible(own);
    side_->setText(sheet_->fromBelow() ? tr("Look from the top") : tr("Look from below"));
    refreshChosen();
}

void BoardWindow::refreshFindings() {
    const BoardJudgement& j = model_.judgement();
    const QSignalBlocker quiet(findings_);
    findings_->clear();
    for (const BoardFinding& f : j.findings) {
        const auto kind = std::find_if(boardCheckKinds().begin(), boardCheckKinds().end(),
                                       [&](const auto& k) { return k.check == f.check; });
        auto* item = new QListWidgetItem(
            stateGlyph(f.state) + " " + tr(kind->title) + ": " + toQt(fill(f.words, f.of, view_.unit(), 2)), findings_);
        item->setForeground(theme::stateInk(f.state));
    }
    const GaugeState worst = j.worst();
    state_->setText(stateGlyph(worst) + " " +
                    (worst == GaugeState::Go ? tr("Nothing is wrong between the parts")
                                             : tr("The board is %1").arg(toQt(stateName(worst)))));
    state_->setStyleSheet(QString("color: %1;").arg(theme::stateInk(worst).name()));
}

void BoardWindow::say(const QString& words, bool good) {
    message_->setText(words);
    message_->setVisible(!words.isEmpty());
    message_->setStyleSheet(theme::styled(good ? "background: @advice; color: @ink;"
                                               : "background: @vermilionPale; color: @vermilionInk;"));
}

}  // namespace punch
