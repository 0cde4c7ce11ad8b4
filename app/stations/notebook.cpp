#include "app/stations/notebook.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>
#include <algorithm>
#include <cmath>

#include "app/pictures/picture_work.h"
#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

/// A small drawing of how the jaws stood.
void drawContact(QPainter& p, const QRectF& box, const Reading& r, const QColor& color) {
    p.setPen(QPen(color, 1.6));
    const double y = box.center().y();
    const double h = box.height() * 0.42;
    const QColor block(0xB9, 0xC9, 0xC9);
    const auto bar = [&](double x) { p.drawLine(QPointF(x, y - h), QPointF(x, y + h)); };
    const auto leadBox = [&](double x, double w) { p.fillRect(QRectF(x - w / 2, y - h * 0.6, w, h * 1.2), block); };
    switch (r.contact) {
        case Contact::Outside:
            leadBox(box.center().x(), box.width() * 0.5);
            bar(box.left() + 2);
            bar(box.right() - 2);
            p.drawLine(QPointF(box.left() + 2, y), QPointF(box.right() - 2, y));
            break;
        case Contact::Inside:
            leadBox(box.left() + 4, 7);
            leadBox(box.right() - 4, 7);
            bar(box.left() + 9);
            bar(box.right() - 9);
            p.drawLine(QPointF(box.left() + 9, y), QPointF(box.right() - 9, y));
            break;
        case Contact::Centres:
            p.drawEllipse(QPointF(box.left() + 4, y), 3, 3);
            p.drawEllipse(QPointF(box.right() - 4, y), 3, 3);
            p.drawLine(QPointF(box.left() + 7, y), QPointF(box.right() - 7, y));
            break;
        case Contact::Size:
            leadBox(box.center().x(), box.width() * 0.3);
            bar(box.center().x() - box.width() * 0.22);
            bar(box.center().x() + box.width() * 0.22);
            break;
        default:
            p.fillRect(QRectF(box.left(), y - h, 4, 2 * h), block);
            leadBox(box.right() - 4, 7);
            p.drawLine(QPointF(box.left() + 5, y), QPointF(box.right() - (r.contact == Contact::FaceFar      ? 1
                                                                          : r.contact == Contact::FaceCentre ? 4
                                                                                                             : 8),
                                                           y));
            break;
    }
}

/// What the reading was taken on, out of its picture.
void drawPick(QPainter& p, const QRectF& box, const Reading& r, const PictureImage& image) {
    PixelPoint middle = r.place ? *r.place : r.pick->a;
    double reach = r.place ? 0.02 * std::max(image.width(), image.height()) : std::max(1.5 * r.pick->size, 60.0);
    if (r.pick && (r.contact == Contact::PictureLength || r.contact == Contact::PictureLevel)) {
        middle = {(r.pick->a.x + r.pick->b.x) / 2, (r.pick->a.y + r.pick->b.y) / 2};
        reach = 1.2 * std::hypot(r.pick->b.x - r.pick->a.x, r.pick->b.y - r.pick->a.y);
    }
    const double scale = box.width() / reach;
    p.save();
    p.setClipRect(box);
    image.paint(
        p, QTransform(scale, 0, 0, scale, box.center().x() - scale * middle.x, box.center().y() - scale * middle.y),
        box, 1.0);
    p.restore();
    p.setPen(QPen(theme::kLine, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(box);
}

class RowPainter : public QStyledItemDelegate {
public:
    const PictureWork* pictures = nullptr;

    RowPainter(Document& document, ViewState& view, QObject* parent)
        : QStyledItemDelegate(parent), document_(document), view_(view) {}

    /// A title that is too long for one line takes two.
    int titleLines(const QStyleOptionViewItem& option, std::size_t i) const {
        const double room = roomForTitle(QRectF(option.rect.isValid() && option.rect.width() > 50
                                                    ? QRectF(option.rect)
                                                    : QRectF(static_cast<const QWidget*>(option.widget)->rect())),
                                         mean(i));
        const QFontMetricsF metrics(theme::text(0.9, true));
        return metrics.horizontalAdvance(title(i)) > room ? 2 : 1;
    }
    /// What is said under a reading takes two lines where it must.
    int wordLines(const QStyleOptionViewItem& option, std::size_t i) const {
        const double room = option.widget == nullptr ? 200 : option.widget->width() - theme::em() * 5.0;
        return QFontMetricsF(theme::text(0.85)).horizontalAdvance(said(i)) > room ? 2 : 1;
    }
    QString said(std::size_t i) const {
        const ReadingResult& result = document_.footprint().readings[i];
        const auto& asked = result.stats.asked;
        const bool any = std::find(asked.begin(), asked.end(), true) != asked.end();
        return toQt(result.words) + (any ? tr(" Space: yes") : QString());
    }
    QString title(std::size_t i) const {
        return toQt(readingShortWords(document_.part(), document_.part().readings[i]));
    }
    QString mean(std::size_t i) const {
        const ReadingStats& stats = document_.footprint().readings[i].stats;
        if (!stats.usable) return QStringLiteral("—");
        const Reading& r = document_.part().readings[i];
        if (!r.sameAs.empty()) return QStringLiteral("same");
        if (r.contact == Contact::Picture && r.pick)
            return QString::number(r.axis == Axis::Across ? r.pick->a.y : r.pick->a.x, 'f', 2) + QStringLiteral(" px");
        return inDegrees(r.contact) ? QString::number(stats.mean, 'f', 2) + QStringLiteral("°")
                                    : view_.value(Length::fromMm(stats.mean));
    }
    /// What stands before the raw values: a drawing's text, a letter, the specimen.
    QString remarks(const Reading& r) const {
        QStringList words;
        if (r.drawing)
            words << tr("drawing %1%2")
                         .arg(toQt(r.drawing->typed), r.drawing->unit == Unit::Mm || namesUnit(r.drawing->typed)
                                                          ? QString()
                                                          : toQt(unitName(r.drawing->unit)));
        if (!r.name.empty()) words << tr("letter %1").arg(toQt(r.name));
        if (!r.sameAs.empty())
            for (std::size_t i = 0; i < document_.part().readings.size(); ++i)
                if (document_.part().readings[i].id == r.sameAs) words << tr("as reading %1").arg(i + 1);
        if (r.specimen > 0) words << tr("sample %1:").arg(r.specimen);
        return words.join(QStringLiteral(" · "));
    }
    double roomForTitle(const QRectF& box, const QString& meanText) const {
        const double em = theme::em();
        return box.width() - em * 0.9 - em * 3.1 - QFontMetricsF(theme::digits(1.0, true)).horizontalAdvance(meanText) -
               8;
    }

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto& results = document_.footprint().readings;
        const auto i = static_cast<std::size_t>(index.row());
        const bool more = i < results.size() && !results[i].words.empty();
        const double lines = i < results.size() ? titleLines(option, i) : 1;
        return {100,
                static_cast<int>(theme::em() * ((more ? 3.4 + 1.2 * wordLines(option, i) : 3.35) + 1.1 * (lines - 1)))};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto i = static_cast<std::size_t>(index.row());
        if (i >= document_.part().readings.size() || i >= document_.footprint().readings.size()) return;
        const Reading& reading = document_.part().readings[i];
        const ReadingResult& result = document_.footprint().readings[i];
        QPainter& p = *painter;
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
        const bool doubt =
            isDoubtful(result.state) || result.state == ReadingState::Orphan || !result.stats.question.empty();
        const double em = theme::em();
        const QRectF box(option.rect);
        if (doubt) p.fillRect(box, theme::kVermilionPale);
        const FeatureId& hovered = view_.hovered();
        const bool touched = !hovered.empty() && hovered != kBody &&
                             (reading.a == hovered || reading.b == hovered || reading.c == hovered);
        if (reading.id == view_.lit() || touched) p.fillRect(box, theme::kPetrolPale);
        if ((option.state & QStyle::State_Selected) != 0) {
            p.fillRect(QRectF(box.left(), box.top(), 3, box.height()), theme::kPetrol);
            if (!doubt) p.fillRect(box.adjusted(3, 0, 0, 0), theme::kRow);
        }
        const QColor main = doubt ? theme::kVermilion : theme::kPetrol;
        const QRectF in = box.adjusted(em * 0.4, em * 0.25, -em * 0.5, 0);
        p.setFont(theme::text(0.8));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(in.left(), in.top(), em * 1.3, em * 1.2), Qt::AlignLeft | Qt::AlignVCenter,
                   QString::number(index.row() + 1));
        const QRectF icon(in.left() + em * 1.3, in.top(), em * 1.7, em * 1.2);
        const PictureImage* image =
            (reading.pick || reading.place) && pictures != nullptr ? pictures->imageOf(reading.source) : nullptr;
        if (image != nullptr)
            drawPick(p, QRectF(icon.left(), icon.top() + 1, em * 1.6, em * 1.6), reading, *image);
        else
            drawContact(p, icon, reading, main);
        const double left = in.left() + em * 3.1;
        p.setFont(theme::digits(1.0, true));
        const QString meanText = mean(i);
        const double meanWidth = p.fontMetrics().horizontalAdvance(meanText) + 4;
        p.setPen(main);
        p.drawText(QRectF(in.right() - meanWidth, in.top(), meanWidth, em * 1.2), Qt::AlignRight | Qt::AlignVCenter,
                   meanText);
        p.setFont(theme::text(0.9, true));
        p.setPen(doubt ? theme::kVermilion : theme::kInk);
        const double room = roomForTitle(box, meanText);
        const int lines = titleLines(option, i);
        p.drawText(QRectF(left, in.top() + em * 0.1, room, em * 1.1 * lines),
                   Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, title(i));
        // Raw values as typed; one that is asked about is struck through.
        p.setFont(theme::digits(0.9));
        double x = left;
        const double y = in.top() + em * (1.2 + 1.1 * (lines - 1));
        const QString u = !result.stats.usable ? QString()
                          : inDegrees(reading.contact)
                              ? QStringLiteral("±%1°").arg(kNinetyFive * result.stats.u, 0, 'f', 2)
                              : QStringLiteral("±") + view_.value(Length::fromMm(kNinetyFive * result.stats.u));
        const double uWidth = p.fontMetrics().horizontalAdvance(u) + 4;
        if (const QString remark = remarks(reading); !remark.isEmpty()) {
            p.setPen(theme::kQuiet);
            const QString shown =
                p.fontMetrics().elidedText(remark, Qt::ElideRight, static_cast<int>(in.right() - uWidth - x));
            p.drawText(QRectF(x, y, in.right() - uWidth - x, em * 1.1), Qt::AlignLeft | Qt::AlignVCenter, shown);
            x += p.fontMetrics().horizontalAdvance(shown) + em * 0.6;
        }
        for (std::size_t k = 0; k < reading.raw.size(); ++k) {
            const RawValue& raw = reading.raw[k];
            QString typed = toQt(raw.typed);
            if (raw.unit != Unit::Mm && !namesUnit(raw.typed)) typed += toQt(unitName(raw.unit));
            const double w = p.fontMetrics().horizontalAdvance(typed);
            if (x + w > in.right() - uWidth) {
                p.drawText(QPointF(x, y + em * 0.85), QStringLiteral("…"));
                break;
            }
            const bool asked = k < result.stats.asked.size() && result.stats.asked[k];
            p.setPen(asked ? theme::kVermilion : theme::kQuiet);
            p.drawText(QRectF(x, y, w + 2, em * 1.1), Qt::AlignLeft | Qt::AlignVCenter, typed);
            if (asked) p.drawLine(QPointF(x, y + em * 0.55), QPointF(x + w, y + em * 0.55));
            x += w + em * 0.6;
        }
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(in.right() - uWidth, y, uWidth, em * 1.1), Qt::AlignRight | Qt::AlignVCenter, u);
        // The bar: from the middle, in standardised residuals; its full half is 3.29.
        const QRectF bar(left, y + em * 1.4, in.right() - left, 3.5);
        p.setPen(Qt::NoPen);
        p.setBrush(theme::kBar);
        p.drawRoundedRect(bar, 1.5, 1.5);
        const bool judged = result.state == ReadingState::Agrees || isDoubtful(result.state);
        if (judged) {
            const double share = std::clamp(result.w / kInDoubt, -1.0, 1.0);
            const double mid = bar.center().x();
            const double end = mid + share * bar.width() / 2;
            p.setBrush(main);
            p.drawRect(QRectF(std::min(mid, end), bar.top(), std::abs(end - mid), bar.height()));
            p.fillRect(QRectF(mid - 0.5, bar.top() - 2, 1, bar.height() + 4), theme::kInk);
        } else if (result.state == ReadingState::Unchecked) {
            p.setFont(theme::text(0.75));
            p.setPen(theme::kQuiet);
            const QString words = tr("nothing checks this");
            const double w = p.fontMetrics().horizontalAdvance(words) + 8;
            p.fillRect(QRectF(left, bar.top() - em * 0.4, w, em * 0.8),
                       (option.state & QStyle::State_Selected) != 0 ? theme::kRow : Qt::white);
            p.drawText(QRectF(left, bar.top() - em * 0.5, w, em), Qt::AlignLeft | Qt::AlignVCenter, words);
        }
        if (!result.words.empty()) {
            p.setFont(theme::text(0.85));
            p.setPen(theme::kVermilion);
            p.drawText(QRectF(left, bar.bottom() + 2, in.right() - left, box.bottom() - bar.bottom() - 3),
                       Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, said(i));
        }
        p.setPen(QPen(theme::kLine, 1));
        p.drawLine(box.bottomLeft(), box.bottomRight());
        p.restore();
    }

private:
    Document& document_;
    ViewState& view_;
};

}  // namespace

NotebookModel::NotebookModel(Document& document, QObject* parent) : QAbstractListModel(parent), document_(document) {
    connect(&document_, &Document::changed, this, [this] {
        const int now = static_cast<int>(document_.part().readings.size());
        if (now > rows_) {
            beginInsertRows({}, rows_, now - 1);
            rows_ = now;
            endInsertRows();
        } else if (now < rows_) {
            beginRemoveRows({}, now, rows_ - 1);
            rows_ = now;
            endRemoveRows();
        }
        if (rows_ > 0) emit dataChanged(index(0), index(rows_ - 1));
        emit layoutChanged();
    });
}

int NotebookModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : rows_; }

QVariant NotebookModel::data(const QModelIndex& index, int role) const {
    const auto i = static_cast<std::size_t>(index.row());
    if (!index.isValid() || i >= document_.part().readings.size()) return {};
    if (i >= document_.footprint().readings.size()) return {};
    const Reading& r = document_.part().readings[i];
    const ReadingResult& result = document_.footprint().readings[i];
    if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole) return toQt(readingWords(document_.part(), r));
    if (role == Qt::ToolTipRole) {
        QStringList lines{toQt(readingWords(document_.part(), r))};
        if (result.stats.usable) {
            lines << tr("mean %1 mm, ± %2 mm at 95 %")
                         .arg(result.stats.mean, 0, 'f', 3)
                         .arg(kNinetyFive * result.stats.u, 0, 'f', 3);
            if (result.state != ReadingState::Orphan && result.redundancy > 1e-6)
                lines << tr("the part says %1 mm; w = %2").arg(result.expected, 0, 'f', 3).arg(result.w, 0, 'f', 2);
        }
        if (result.stats.spread > 0)
            lines << (result.stats.specimens > 0
                          ? tr("between %1 samples parts differ by %2 mm (1 σ)")
                                .arg(result.stats.specimens)
                                .arg(result.stats.spread, 0, 'f', 3)
                          : tr("by the drawing parts differ by %1 mm (1 σ)").arg(result.stats.spread, 0, 'f', 3));
        if (!result.words.empty()) lines << toQt(result.words);
        return lines.join('\n');
    }
    return {};
}

Notebook::Notebook(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent)
    : QListView(parent), document_(document), view_(view), entry_(entry) {
    setObjectName("notebook");
    setAccessibleName(tr("Notebook"));
    setFrameShape(QFrame::NoFrame);
    setModel(new NotebookModel(document, this));
    setItemDelegate(new RowPainter(document, view, this));
    setMouseTracking(true);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setResizeMode(QListView::Adjust);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    connect(&view_, &ViewState::changed, viewport(), [this] { viewport()->update(); });
    connect(&view_, &ViewState::unitChanged, viewport(), [this] { viewport()->update(); });
    connect(model(), &QAbstractItemModel::rowsInserted, this,
            [this](const QModelIndex&, int, int last) { scrollTo(model()->index(last, 0)); });
}

void Notebook::setPictures(const PictureWork& work) {
    static_cast<RowPainter*>(itemDelegate())->pictures = &work;
    connect(&work, &PictureWork::changed, viewport(), qOverload<>(&QWidget::update));
}

void Notebook::goTo(const std::string& id) {
    const auto& readings = document_.part().readings;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (readings[i].id == id) {
            setCurrentIndex(model()->index(static_cast<int>(i), 0));
            scrollTo(currentIndex());
        }
}

void Notebook::keyPressEvent(QKeyEvent* event) {
    const int row = currentIndex().row();
    const bool control = (event->modifiers() & Qt::ControlModifier) != 0;
    if (row >= 0 && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) {
        control ? emit detailsWanted(row) : emit editWanted(row);
    } else if (row >= 0 && event->key() == Qt::Key_Space) {
        entry_.confirmValues(row);
    } else if (row >= 0 && event->key() == Qt::Key_Delete) {
        entry_.removeReading(row);
    } else if (row >= 0 && control && (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down)) {
        const int by = event->key() == Qt::Key_Up ? -1 : 1;
        entry_.moveReading(row, by);
        setCurrentIndex(model()->index(std::clamp(row + by, 0, model()->rowCount() - 1), 0));
    } else {
        QListView::keyPressEvent(event);
    }
}

void Notebook::mouseMoveEvent(QMouseEvent* event) {
    const QModelIndex index = indexAt(event->pos());
    const auto& readings = document_.part().readings;
    view_.light(index.isValid() && index.row() < static_cast<int>(readings.size())
                    ? readings[static_cast<std::size_t>(index.row())].id
                    : std::string());
    QListView::mouseMoveEvent(event);
}

void Notebook::mouseReleaseEvent(QMouseEvent* event) {
    QListView::mouseReleaseEvent(event);
    // A click on the small picture shows the place itself.
    const QModelIndex index = indexAt(event->pos());
    const auto& readings = document_.part().readings;
    if (!index.isValid() || index.row() >= static_cast<int>(readings.size())) return;
    const Reading& r = readings[static_cast<std::size_t>(index.row())];
    if ((r.place || r.pick) && event->pos().x() < theme::em() * 3.4) emit placeWanted(index.row());
}

void Notebook::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const QModelIndex index = indexAt(event->pos()); index.isValid()) emit editWanted(index.row());
}

void Notebook::leaveEvent(QEvent* event) {
    view_.light({});
    QListView::leaveEvent(event);
}

void Notebook::contextMenuEvent(QContextMenuEvent* event) {
    const QModelIndex index = indexAt(event->pos());
    if (!index.isValid()) return;
    const int row = index.row();
    QMenu menu(this);
    menu.addAction(tr("Change values\tEnter"), this, [this, row] { emit editWanted(row); });
    if (!document_.footprint().readings[static_cast<std::size_t>(row)].stats.question.empty())
        menu.addAction(tr("These values are meant\tSpace"), this, [this, row] { entry_.confirmValues(row); });
    const ReadingState state = document_.footprint().readings[static_cast<std::size_t>(row)].state;
    if (state == ReadingState::Orphan)
        menu.addAction(tr("Join it to what is pointed at"), this, [this, row] {
            if (!entry_.rejoin(row)) view_.say(tr("Point at a feature on the sheet first"));
        });
    if (const Reading& r = document_.part().readings[static_cast<std::size_t>(row)]; r.place || r.pick)
        menu.addAction(tr("Show it in its source"), this, [this, row] { emit placeWanted(row); });
    menu.addAction(tr("Where and how it was taken\tCtrl+Enter"), this, [this, row] { emit detailsWanted(row); });
    menu.addAction(tr("Earlier\tCtrl+Up"), this, [this, row] { entry_.moveReading(row, -1); });
    menu.addAction(tr("Later\tCtrl+Down"), this, [this, row] { entry_.moveReading(row, 1); });
    menu.addAction(tr("Remove\tDelete"), this, [this, row] { entry_.removeReading(row); });
    menu.exec(event->globalPos());
}

}  // namespace punch
