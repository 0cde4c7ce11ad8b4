#include "app/library_list.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScrollBar>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/transform.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/derive.h"
#include "core/library/index.h"
#include "core/library/search.h"
#include "core/part/file.h"
#include "core/release/formats.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

constexpr int kPath = Qt::UserRole;
constexpr int kWords = Qt::UserRole + 1;
constexpr int kVerdict = Qt::UserRole + 2;
constexpr int kState = Qt::UserRole + 3;
constexpr int kSearch = Qt::UserRole + 4;  // all that a search looks through
constexpr int kLarge = Qt::UserRole + 5;   // drawn beside the window
constexpr std::size_t kAtOnce = 60;        // parts that are read while the list is filled
constexpr std::size_t kManyPins = 150;     // of a part that is derived beside the window

class CardPainter : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {100, theme::em() * 21 / 4};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        QPainter& p = *painter;
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
        const double em = theme::em();
        const QRectF box = QRectF(option.rect).adjusted(1, 3, -1, -3);
        const bool here = (option.state & (QStyle::State_Selected | QStyle::State_MouseOver)) != 0;
        p.setPen(QPen(here ? theme::kPetrol : theme::kLine, here ? 1.8 : 1.2));
        p.setBrush(Qt::white);
        p.drawRoundedRect(box, 5, 5);
        const QRectF picture(box.left() + em * 0.4, box.top() + em * 0.35, em * 4.6, box.height() - em * 0.7);
        p.fillRect(picture, theme::kPaper);
        const auto pixmap = index.data(Qt::DecorationRole).value<QPixmap>();
        if (!pixmap.isNull()) {
            const QSizeF size = pixmap.deviceIndependentSize();
            p.drawPixmap(QPointF(picture.center().x() - size.width() / 2, picture.center().y() - size.height() / 2),
                         pixmap);
        }
        const auto state = static_cast<GaugeState>(index.data(kState).toInt());
        const QString verdict = index.data(kVerdict).toString();
        p.setFont(theme::text(0.85, true));
        const double w = p.fontMetrics().horizontalAdvance(verdict);
        p.setPen(theme::stateInk(state));
        const QRectF line(picture.right() + em * 0.5, box.top() + em * 0.3, box.right() - picture.right() - em,
                          em * 1.2);
        p.drawText(line, Qt::AlignRight | Qt::AlignVCenter, verdict);
        drawStateMark(p, QPointF(line.right() - w - em * 0.6, line.center().y()), em * 0.26, state);
        p.setFont(theme::text(1.0, true));
        p.setPen(theme::kInk);
        p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(index.data().toString(), Qt::ElideRight,
                                              static_cast<int>(line.width() - w - em * 1.2)));
        p.setFont(theme::text(0.85));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(line.left(), line.bottom(), line.width(), box.bottom() - line.bottom() - 3),
                   Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, index.data(kWords).toString());
        p.restore();
    }
};

}  // namespace

QPixmap thumbnail(const Part& part, const Footprint& f, QSize size, double ratio) {
    QPixmap pixmap(size * ratio);
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setRenderHint(QPainter::Antialiasing);
    Rect box = boundsOf(artwork(part, f, Layer::Body));
    for (const SeenCopper& seen : seenCopper(part, f, false)) box.add(boundsOf({seen.shape}));
    if (box.empty) return pixmap;
    SheetTransform t;
    t.scale = std::min((size.width() - 4) / std::max(box.width().mm(), 0.1),
                       (size.height() - 4) / std::max(box.height().mm(), 0.1));
    const Point m = box.middle();
    t.origin = QPointF(size.width() / 2.0 - m.x.mm() * t.scale, size.height() / 2.0 + m.y.mm() * t.scale);
    const auto layer = [&](Layer which, const QPen& pen, const QColor& fill) {
        p.setPen(pen);
        p.setBrush(fill);
        for (const Shape& shape : artwork(part, f, which)) p.drawPath(pathOf(shape, t));
    };
    layer(Layer::Body, QPen(theme::kBodySlate, 1), theme::kBodyPale);
    p.setPen(QPen(theme::kCopperEdge, 0.7));
    p.setBrush(theme::kCopper);
    for (const SeenCopper& seen : seenCopper(part, f, false)) p.drawPath(pathOf(seen.shape, t));
    layer(Layer::PlatedHoles, QPen(theme::kCopperEdge, 0.7), Qt::white);
    layer(Layer::BareHoles, QPen(theme::kInk, 0.9), Qt::white);
    return pixmap;
}

LibraryList::LibraryList(QWidget* parent) : QWidget(parent) {
    setObjectName("column");
    setAttribute(Qt::WA_StyledBackground);
    const int em = theme::em();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(em * 3 / 4, em / 2, em * 3 / 4, em / 2);
    auto* head = new QHBoxLayout;
    title_ = new QLabel(this);
    title_->setFont(theme::text(1.15, true));
    count_ = new QLabel(this);
    count_->setProperty("role", "quiet");
    head->addWidget(title_, 1);
    head->addWidget(count_);
    layout->addLayout(head);
    search_ = new QLineEdit(this);
    search_->setObjectName("librarySearch");
    search_->setAccessibleName(tr("Search the library"));
    search_->setPlaceholderText(tr("part, pin count, size: “5.08 4 way”"));
    layout->addWidget(search_);
    which_ = new QComboBox(this);
    which_->setObjectName("libraryFolders");
    which_->setAccessibleName(tr("Which folder"));
    layout->addWidget(which_);
    connect(which_, &QComboBox::activated, this, &LibraryList::choose);
    list_ = new QListWidget(this);
    list_->setObjectName("library");
    list_->setAccessibleName(tr("Parts of the library"));
    list_->setItemDelegate(new CardPainter(list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMouseTracking(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setStyleSheet("QListWidget { border: none; }");
    layout->addWidget(list_, 1);
    empty_ = new QLabel(this);
    empty_->setWordWrap(true);
    empty_->setProperty("role", "quiet");
    layout->addWidget(empty_);
    auto* other = new QPushButton(tr("Another library…"), this);
    other->setObjectName("otherLibrary");
    other->setProperty("role", "link");
    layout->addWidget(other, 0, Qt::AlignLeft);
    auto* besides = new QPushButton(tr("One more folder…"), this);
    besides->setObjectName("moreLibrary");
    besides->setProperty("role", "link");
    takeOut_ = new QPushButton(tr("Take this folder out"), this);
    takeOut_->setObjectName("lessLibrary");
    takeOut_->setProperty("role", "link");
    layout->addWidget(besides, 0, Qt::AlignLeft);
    layout->addWidget(takeOut_, 0, Qt::AlignLeft);
    connect(besides, &QPushButton::clicked, this, &LibraryList::anotherWanted);
    connect(takeOut_, &QPushButton::clicked, this, [this] {
        QStringList rest = others_;
        rest.removeAll(shownFolder_);
        shownFolder_.clear();
        setOthers(rest);
        emit othersChanged();
    });
    auto* note = new QLabel(tr("The library is a folder of plain text files. Put it under version control."), this);
    note->setWordWrap(true);
    note->setFont(theme::text(0.85));
    note->setProperty("role", "quiet");
    layout->addWidget(note);
    connect(search_, &QLineEdit::textChanged, this, &LibraryList::filter);
    connect(list_, &QListWidget::itemActivated, this,
            [this](QListWidgetItem* item) { emit partWanted(item->data(kPath).toString()); });
    connect(list_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { emit partWanted(item->data(kPath).toString()); });
    connect(other, &QPushButton::clicked, this, &LibraryList::folderWanted);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(list_, &QListWidget::customContextMenuRequested, this, &LibraryList::showMenu);
    connect(list_->verticalScrollBar(), &QScrollBar::valueChanged, this, [this] { seen_.start(); });
    seen_.setSingleShot(true);
    seen_.setInterval(30);
    connect(&seen_, &QTimer::timeout, this, &LibraryList::drawSeen);
    rest_.setSingleShot(true);
    rest_.setInterval(400);
    // Written by another program, by version control, by a colleague.
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &rest_, qOverload<>(&QTimer::start));
    connect(&rest_, &QTimer::timeout, this, &LibraryList::reloadSeen);
}

void LibraryList::showMenu(const QPoint& at) {
    const QListWidgetItem* item = list_->itemAt(at);
    if (item == nullptr) return;
    const QString path = item->data(kPath).toString();
    QMenu menu(this);
    menu.addAction(tr("Open"), this, [this, path] { emit partWanted(path); });
    const bool mayWrite = QFileInfo(QFileInfo(path).absolutePath()).isWritable();
    menu.addAction(tr("Copy as…"), this, [this, path] { copyAs(path, askedName(tr("Copy as"), path)); });
    auto* change = menu.addAction(tr("Rename…"), this, [this, path] { rename(path, askedName(tr("Rename"), path)); });
    auto* trash = menu.addAction(tr("Move to the trash"), this, [this, path] { moveToTrash(path); });
    for (const QString& folder : folders())
        if (QDir(folder) != QFileInfo(path).dir())
            menu.addAction(tr("Move to %1").arg(QDir(folder).dirName()), this,
                           [this, path, folder] { moveTo(path, folder); })
                ->setEnabled(mayWrite && QFileInfo(folder).isWritable());
    for (QAction* action : {change, trash}) action->setEnabled(mayWrite);
    menu.exec(list_->viewport()->mapToGlobal(at));
}

QString LibraryList::askedName(const QString& what, const QString& path) {
    bool ok = false;
    const QString name = QInputDialog::getText(this, what, tr("The part's name"), QLineEdit::Normal,
                                               QFileInfo(path).completeBaseName(), &ok);
    return ok ? name.trimmed() : QString();
}

bool LibraryList::copyAs(const QString& path, const QString& name) {
    if (name.isEmpty()) return false;
    auto part = loadPart(path.toStdString());
    // A copy of what cannot be written beside goes into the own library.
    const bool mayWrite = QFileInfo(QFileInfo(path).absolutePath()).isWritable();
    const QDir folder = mayWrite || folder_.isEmpty() ? QFileInfo(path).dir() : QDir(folder_);
    const QString to = folder.filePath(toQt(fileStem(name.toStdString())) + ".punch");
    if (!part || QFileInfo::exists(to)) {
        emit said(part ? tr("%1 is there already: nothing was written").arg(QFileInfo(to).fileName())
                       : toQt(part.error().text()));
        return false;
    }
    part->name = name.toStdString();
    const auto saved = savePart(*part, to.toStdString());
    if (!saved) emit said(toQt(saved.error().text()));
    reload();
    return saved.has_value();
}

bool LibraryList::rename(const QString& path, const QString& name) {
    // The new one stands before the old one goes.
    return copyAs(path, name) && moveToTrash(path);
}

bool LibraryList::moveToTrash(const QString& path) {
    const bool gone = QFile::moveToTrash(path);
    if (!gone) emit said(tr("%1 could not be moved to the trash; it is still there").arg(QFileInfo(path).fileName()));
    reload();
    return gone;
}

bool LibraryList::moveTo(const QString& path, const QString& folder) {
    const QString to = QDir(folder).filePath(QFileInfo(path).fileName());
    auto part = loadPart(path.toStdString());
    if (!part || QFileInfo::exists(to)) {
        emit said(part ? tr("%1 is there already: nothing was moved").arg(QFileInfo(to).fileName())
                       : toQt(part.error().text()));
        return false;
    }
    // Its pictures go with it, each where it is named from.
    for (const Source& s : part->sources) {
        if (s.picture.empty()) continue;
        const QString from = QFileInfo(path).dir().filePath(toQt(s.picture)),
                      there = QDir(folder).filePath(toQt(s.picture));
        if (!QFileInfo::exists(from) || QFileInfo::exists(there)) continue;
        QDir().mkpath(QFileInfo(there).absolutePath());
        if (!QFile::copy(from, there)) {
            emit said(tr("%1 could not be copied: nothing was moved").arg(toQt(s.picture)));
            return false;
        }
    }
    if (const auto saved = savePart(*part, to.toStdString()); !saved) {
        emit said(toQt(saved.error().text()));
        return false;
    }
    return moveToTrash(path);
}

void LibraryList::setFolder(const QString& folder) {
    folder_ = folder;
    others_.removeAll(folder);
    reloadSeen();
}

void LibraryList::setOthers(const QStringList& folders) {
    others_ = folders;
    others_.removeAll(folder_);
    others_.removeDuplicates();
    reloadSeen();
}

QStringList LibraryList::folders() const {
    QStringList all = others_;
    if (!folder_.isEmpty()) all.prepend(folder_);
    return all;
}

LibraryList::~LibraryList() {
    ++*round_;
    for (const QPointer<QThread>& worker : workers_)
        if (worker != nullptr) worker->wait();
}

QListWidgetItem* LibraryList::itemOf(const QString& path) const {
    const auto it = items_.find(path);
    return it == items_.end() ? nullptr : it->second;
}

/// Its state and words.
void LibraryList::fill(QListWidgetItem& item, const LibraryPart& part) {
    item.setText(toQt(part.name));
    if (!part.trouble.empty()) {
        item.setData(kWords, toQt(part.trouble));
        item.setData(kVerdict, tr("unreadable"));
        item.setData(kState, static_cast<int>(GaugeState::NoGo));
        item.setToolTip(toQt(part.trouble));
        item.setData(kSearch, toQt(part.words));
        return;
    }
    const QString path = item.data(kPath).toString();
    QString where;
    if (folders().size() > 1 || QFileInfo(path).dir() != QDir(folder_)) where = QFileInfo(path).dir().dirName() + " · ";
    item.setData(kWords, toQt(part.description) + "\n" + where + toQt(part.evidence));
    const auto n = std::count_if(part.wrong.begin(), part.wrong.end(),
                                 [&](const LibraryTrouble& t) { return t.state == part.state; });
    item.setData(kVerdict,
                 part.state == GaugeState::Go ? tr("go") : tr("%1 %2").arg(n).arg(toQt(stateName(part.state))));
    item.setData(kState, static_cast<int>(part.state));
    item.setData(kSearch, toQt(searchWords(part.name) + " " + part.words));
    item.setData(kLarge, part.pins > kManyPins);
    QString tip = path;
    if (!QFileInfo(QFileInfo(path).absolutePath()).isWritable()) tip += tr(" (may only be read)");
    for (const LibraryTrouble& t : part.wrong) tip += "\n" + toQt(t.words);
    item.setToolTip(tip);
}

void LibraryList::draw(QListWidgetItem& item) {
    const auto part = loadPart(item.data(kPath).toString().toStdString());
    // What is there is not tried again.
    item.setData(Qt::DecorationRole, QPixmap(1, 1));
    if (!part) return;
    if (item.data(kLarge).toBool()) {
        std::vector<std::pair<QString, Part>> one;
        one.emplace_back(item.data(kPath).toString(), *part);
        deriveBeside(std::move(one));
        return;
    }
    item.setData(Qt::DecorationRole,
                 thumbnail(*part, derive(*part), QSize(theme::em() * 9 / 2, theme::em() * 3), devicePixelRatioF()));
}

void LibraryList::drawSeen() {
    constexpr int kFirst = 12;
    int drawn = 0;
    for (int i = 0; i < list_->count() && drawn < kFirst; ++i) {
        QListWidgetItem* item = list_->item(i);
        if (item->isHidden() || !item->data(Qt::DecorationRole).isNull()) continue;
        const QRect box = list_->visualItemRect(item);
        // Before it was ever shown nothing has a place: then the first ones are made.
        const bool seen =
            list_->isVisible() ? box.bottom() >= 0 && box.top() <= list_->viewport()->height() : i < kFirst;
        if (!seen) {
            if (list_->isVisible() && box.top() > list_->viewport()->height()) break;
            continue;
        }
        if (item->data(kState).isNull()) continue;
        draw(*item);
        ++drawn;
    }
    if (drawn == kFirst) seen_.start();
}

void LibraryList::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (stale_) reload();
    seen_.start();
}

void LibraryList::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    seen_.start();
}

/// Parts with very many pins come when they are derived; the window goes on meanwhile.
void LibraryList::deriveBeside(std::vector<std::pair<QString, Part>> parts) {
    const auto round = round_;
    QThread* worker = QThread::create([this, round, now = round->load(), parts = std::move(parts)] {
        for (const auto& [path, part] : parts) {
            if (*round != now) return;
            auto f = std::make_shared<const Footprint>(derive(part));
            QMetaObject::invokeMethod(
                this,
                [this, round, now, path = path, part = part, f] {
                    if (*round != now) return;
                    if (QListWidgetItem* item = itemOf(path))
                        item->setData(
                            Qt::DecorationRole,
                            thumbnail(part, *f, QSize(theme::em() * 9 / 2, theme::em() * 3), devicePixelRatioF()));
                },
                Qt::QueuedConnection);
        }
    });
    connect(worker, &QThread::finished, worker, &QObject::deleteLater);
    workers_.emplace_back(worker);
    worker->start();
}

/// Many parts that nobody knows: a few at a time, so that the list fills while one looks.
void LibraryList::readBeside(const QString& folder, std::vector<std::filesystem::path> files) {
    const auto round = round_;
    ++reading_;
    QThread* worker = QThread::create([this, round, now = round->load(), folder, files = std::move(files)] {
        constexpr std::size_t kPiece = 64;
        for (std::size_t from = 0; from < files.size() && *round == now; from += kPiece) {
            const auto begin = files.begin() + static_cast<std::ptrdiff_t>(from);
            const std::vector<std::filesystem::path> piece(
                begin, begin + static_cast<std::ptrdiff_t>(std::min(kPiece, files.size() - from)));
            auto parts = std::make_shared<const std::vector<LibraryPart>>(libraryParts(piece));
            remember(folder.toStdString(), *parts);
            QMetaObject::invokeMethod(
                this,
                [this, round, now, parts] {
                    if (*round != now) return;
                    for (const LibraryPart& p : *parts)
                        if (QListWidgetItem* item = itemOf(QString::fromStdString(p.file.string()))) fill(*item, p);
                    filter(search_->text());
                    seen_.start();
                },
                Qt::QueuedConnection);
        }
        QMetaObject::invokeMethod(
            this, [this, round, now] { reading_ -= *round == now ? 1 : 0; }, Qt::QueuedConnection);
    });
    connect(worker, &QThread::finished, worker, &QObject::deleteLater);
    workers_.emplace_back(worker);
    worker->start();
}

void LibraryList::settle() {
    while (reading_ > 0) QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 50);
    drawSeen();
}

void LibraryList::reloadSeen() {
    stale_ = true;
    if (isVisible()) reload();
}

void LibraryList::reload() {
    stale_ = false;
    ++*round_;
    reading_ = 0;
    std::erase_if(workers_, [](const QPointer<QThread>& worker) { return worker == nullptr; });
    const int scrolled = list_->verticalScrollBar()->value();
    list_->clear();
    items_.clear();
    const auto titled = [](const QString& folder) {
        QString name = QDir(folder).dirName();
        name.replace('-', ' ');
        for (qsizetype i = 0; i < name.size(); ++i)
            if (i == 0 || name[i - 1] == ' ') name[i] = name[i].toUpper();
        return name;
    };
    title_->setText(folder_.isEmpty() ? tr("No library") : titled(folder_));
    const QStringList all = folders();
    if (!all.contains(shownFolder_)) shownFolder_.clear();
    which_->clear();
    which_->addItem(tr("all %1 folders").arg(all.size()));
    for (const QString& folder : all)
        which_->addItem(titled(folder) + (QFileInfo(folder).isWritable() ? QString() : tr(", may only be read")),
                        folder);
    which_->setCurrentIndex(shownFolder_.isEmpty() ? 0 : static_cast<int>(all.indexOf(shownFolder_)) + 1);
    which_->setVisible(all.size() > 1);
    takeOut_->setVisible(!shownFolder_.isEmpty() && others_.contains(shownFolder_));
    for (const QString& folder : all) {
        if (!shownFolder_.isEmpty() && folder != shownFolder_) continue;
        auto known = knownLibrary(folder.toStdString());
        if (known && known->read > 0 && known->read <= kAtOnce) known = indexedLibrary(folder.toStdString());
        if (!known) {
            emit said(toQt(known.error().text()));
            continue;
        }
        std::vector<std::filesystem::path> unread;
        for (const LibraryPart& p : known->parts) {
            const QString path = QString::fromStdString(p.file.string());
            if (items_.contains(path)) continue;
            auto* item = new QListWidgetItem(QFileInfo(path).completeBaseName(), list_);
            item->setData(kPath, path);
            items_[path] = item;
            if (!p.name.empty() || !p.trouble.empty()) {
                fill(*item, p);
            } else {
                item->setData(kWords, tr("looking at it …"));
                unread.push_back(p.file);
            }
        }
        if (!unread.empty()) readBeside(folder, std::move(unread));
    }
    count();
    filter(search_->text());
    list_->verticalScrollBar()->setValue(scrolled);
    drawSeen();
    watch();
}

void LibraryList::count() {
    count_->setText(list_->count() == 1 ? tr("1 part") : tr("%1 parts").arg(list_->count()));
    empty_->setText(folder_.isEmpty()     ? tr("Choose a folder to keep your parts in.")
                    : list_->count() == 0 ? tr("No parts in this folder yet.")
                                          : QString());
    empty_->setVisible(!empty_->text().isEmpty());
}

void LibraryList::choose(int row) {
    shownFolder_ = row <= 0 ? QString() : which_->itemData(row).toString();
    reload();
}

void LibraryList::watch() {
    if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
    // The folders that parts lie in; a file that is written anew appears in its folder.
    QStringList places;
    for (const QString& folder : folders())
        if (QFileInfo(folder).isDir()) places << folder;
    for (const auto& [path, ignored] : items_) {
        const QString folder = QFileInfo(path).absolutePath();
        if (!places.contains(folder) && places.size() < 200) places << folder;
    }
    if (!places.isEmpty()) watcher_.addPaths(places);
}

void LibraryList::filter(const QString& words) {
    const std::string typed = words.toStdString();
    for (int i = 0; i < list_->count(); ++i) {
        QListWidgetItem& item = *list_->item(i);
        item.setHidden(!typed.empty() && !hasWords(item.data(kSearch).toString().toStdString(), typed));
    }
    seen_.start();
}

}  // namespace punch
