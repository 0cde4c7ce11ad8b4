#include "app/library_list.h"

#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/transform.h"
#include "app/theme.h"
#include "app/widgets/state_mark.h"
#include "core/derive.h"
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
constexpr int kMostShown = 2000;

QString evidence(const Part& part) {
    bool drawing = false;
    bool caliper = false;
    for (const Reading& r : part.readings) (r.drawing || r.raw.empty() ? drawing : caliper) = true;
    if (!drawing && !caliper) return part.formations.empty() ? QObject::tr("by rule") : QObject::tr("not read yet");
    return drawing && caliper ? QObject::tr("drawing and caliper")
           : drawing          ? QObject::tr("drawing")
                              : QObject::tr("caliper");
}

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

constexpr std::size_t kAtOnce = 150;  // pins of a part that is derived while the list is filled

std::size_t pinCount(const Part& part) {
    std::size_t pins = 0;
    for (const Formation& f : part.formations) pins += f.pins.size();
    return pins;
}

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
}

void LibraryList::showMenu(const QPoint& at) {
    const QListWidgetItem* item = list_->itemAt(at);
    if (item == nullptr) return;
    const QString path = item->data(kPath).toString();
    QMenu menu(this);
    menu.addAction(tr("Open"), this, [this, path] { emit partWanted(path); });
    menu.addAction(tr("Copy as…"), this, [this, path] { copyAs(path, askedName(tr("Copy as"), path)); });
    menu.addAction(tr("Rename…"), this, [this, path] { rename(path, askedName(tr("Rename"), path)); });
    menu.addAction(tr("Move to the trash"), this, [this, path] { moveToTrash(path); });
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
    const QString to = QFileInfo(path).dir().filePath(toQt(fileStem(name.toStdString())) + ".punch");
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

void LibraryList::setFolder(const QString& folder) {
    folder_ = folder;
    reload();
}

LibraryList::~LibraryList() {
    ++*round_;
    for (const QPointer<QThread>& worker : workers_)
        if (worker != nullptr) worker->wait();
}

/// Its drawing, state and words.
void LibraryList::fill(QListWidgetItem& item, const Part& part, const Footprint& f) {
    item.setText(toQt(part.name));
    item.setData(kWords,
                 part.readings.empty()
                     ? tr("%1\n%2").arg(toQt(part.description), evidence(part))
                     : tr("%1\n%2, %3 readings").arg(toQt(part.description), evidence(part)).arg(part.readings.size()));
    const GaugeState worst = worstState(f.gauges);
    const auto n = std::count_if(f.gauges.begin(), f.gauges.end(), [&](const Gauge& g) { return g.state == worst; });
    item.setData(kVerdict, worst == GaugeState::Go ? tr("go") : tr("%1 %2").arg(n).arg(toQt(stateName(worst))));
    item.setData(kState, static_cast<int>(worst));
    item.setData(kSearch, toQt(searchWords(part, f)));
    item.setData(Qt::DecorationRole,
                 thumbnail(part, f, QSize(theme::em() * 9 / 2, theme::em() * 3), devicePixelRatioF()));
}

/// Parts with very many pins come when they are derived; the window goes on meanwhile.
void LibraryList::deriveBeside(std::vector<std::pair<QString, Part>> parts) {
    if (parts.empty()) return;
    const auto round = round_;
    QThread* worker = QThread::create([this, round, now = round->load(), parts = std::move(parts)] {
        for (const auto& [path, part] : parts) {
            if (*round != now) return;
            auto f = std::make_shared<const Footprint>(derive(part));
            QMetaObject::invokeMethod(
                this,
                [this, round, now, path = path, part = part, f] {
                    if (*round != now) return;
                    for (int i = 0; i < list_->count(); ++i)
                        if (list_->item(i)->data(kPath).toString() == path) fill(*list_->item(i), part, *f);
                    filter(search_->text());
                },
                Qt::QueuedConnection);
        }
    });
    connect(worker, &QThread::finished, worker, &QObject::deleteLater);
    workers_.emplace_back(worker);
    worker->start();
}

void LibraryList::reload() {
    ++*round_;
    std::erase_if(workers_, [](const QPointer<QThread>& worker) { return worker == nullptr; });
    std::vector<std::pair<QString, Part>> large;
    list_->clear();
    const QDir dir(folder_);
    QString name = dir.dirName();
    name.replace('-', ' ');
    for (qsizetype i = 0; i < name.size(); ++i)
        if (i == 0 || name[i - 1] == ' ') name[i] = name[i].toUpper();
    title_->setText(folder_.isEmpty() ? tr("No library") : name);
    const auto files =
        folder_.isEmpty() ? QStringList() : dir.entryList({QStringLiteral("*") + kFileSuffix}, QDir::Files, QDir::Name);
    for (const QString& file : files.mid(0, kMostShown)) {
        const QString path = dir.filePath(file);
        auto* item = new QListWidgetItem(QFileInfo(file).completeBaseName(), list_);
        item->setData(kPath, path);
        const auto part = loadPart(path.toStdString());
        if (!part) {
            item->setData(kWords, toQt(part.error().what));
            item->setData(kVerdict, tr("unreadable"));
            item->setData(kState, static_cast<int>(GaugeState::NoGo));
            item->setToolTip(toQt(part.error().text()));
            continue;
        }
        if (pinCount(*part) <= kAtOnce) {
            fill(*item, *part, derive(*part));
            continue;
        }
        item->setText(toQt(part->name));
        item->setData(kWords, tr("looking at it …"));
        large.emplace_back(path, *part);
    }
    deriveBeside(std::move(large));
    count_->setText(list_->count() == 1 ? tr("1 part") : tr("%1 parts").arg(list_->count()));
    empty_->setText(folder_.isEmpty()     ? tr("Choose a folder to keep your parts in.")
                    : list_->count() == 0 ? tr("No parts in this folder yet.")
                                          : QString());
    empty_->setVisible(!empty_->text().isEmpty());
    filter(search_->text());
}

void LibraryList::filter(const QString& words) {
    for (int i = 0; i < list_->count(); ++i) {
        const QListWidgetItem& item = *list_->item(i);
        const QString known = item.text() + " " + item.data(kWords).toString() + "\n" + item.data(kSearch).toString();
        list_->item(i)->setHidden(!hasWords(searchWords(known.toStdString()), words.toStdString()));
    }
}

}  // namespace punch
