#include "app/side/section_view.h"

#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/fit/lead_length.h"
#include "core/geometry/shapes.h"
#include "core/part/numbering.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

/// A choice that the wheel does not change.
class QuietChoice : public QComboBox {
public:
    using QComboBox::QComboBox;

protected:
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }
};

}  // namespace

FeatureId shownFeature(const Document& document, const ViewState& view) {
    if (!document.open()) return {};
    for (const FeatureId& id : {view.second(), view.first()})
        if (document.footprint().pad(id) != nullptr || document.footprint().bareHole(id) != nullptr) return id;
    return firstPin(document.part());
}

struct SectionView::Cut {
    QString title;
    Length hole, largest, land;  // land 0: a bare hole
    Length worstRing;            // at the largest hole and the worst registration
    Length wander;               // of the hole's place, 95 %
    Length lead, most, least;    // mean, largest and smallest
    Length shank, end;           // where the lead's end is formed; 0: as the lead
    bool sized = false;
    Length board, standoff, length;
    bool lengthFirm = false;
    QString leadWords;
    bool ofPin = false;  // of a pin: how far it sticks out is said
    bool twin = false;   // one of two cuts that share the view
};

SectionView::SectionView(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setAccessibleName(tr("Section"));
    board_ = new QuietChoice(this);
    board_->setObjectName("sectionBoard");
    board_->setAccessibleName(tr("Board thickness"));
    board_->setFont(theme::text(0.85));
    board_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    connect(board_, &QComboBox::activated, this, [this] {
        Part next = document_.part();
        next.rules.boardThickness = Length::fromMm(board_->currentData().toDouble());
        document_.apply(tr("board thickness"), std::move(next));
    });
    const auto again = [this] {
        fillBoard();
        update();
    };
    connect(&document_, &Document::changed, this, again);
    connect(&view_, &ViewState::changed, this, [this] { update(); });
    connect(&view_, &ViewState::unitChanged, this, again);
    fillBoard();
}

/// The usual thicknesses, and the part's own where it is none of them.
void SectionView::fillBoard() {
    board_->setVisible(document_.open());
    if (!document_.open()) return;
    std::vector<double> all = {0.8, 1.0, 1.2, 1.6, 2.0, 2.4, 3.2};
    const double now = document_.part().rules.boardThickness.mm();
    if (std::none_of(all.begin(), all.end(), [&](double t) { return std::abs(t - now) < 1e-6; })) all.push_back(now);
    std::sort(all.begin(), all.end());
    board_->clear();
    for (const double t : all) {
        board_->addItem(tr("board %1").arg(view_.length(Length::fromMm(t), 2)), t);
        if (std::abs(t - now) < 1e-6) board_->setCurrentIndex(board_->count() - 1);
    }
    board_->adjustSize();
    board_->move(0, height() - board_->height());
}

void SectionView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    board_->move(0, height() - board_->height());
}

QSize SectionView::sizeHint() const { return {17 * theme::em(), 18 * theme::em()}; }

void SectionView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!document_.open()) return;
    const FeatureId id = shownFeature(document_, view_);
    const Footprint& f = document_.footprint();
    const Part& part = document_.part();
    std::vector<Cut> cuts;
    Cut cut;
    cut.title = tr("Section through %1").arg(toQt(featureWords(part, id)));
    cut.board = part.rules.boardThickness;
    cut.standoff = part.body.standoff;
    // A slot is cut twice, across and along; a round hole once, over the lead's corners.
    const auto setLead = [](Cut& one, const Extent& size) {
        one.lead = size.mean;
        one.most = size.most;
        one.least = size.least;
    };
    const auto addBoth = [&](Length slotLength, const LeadSection& section, Length landAcross, Length landAlong) {
        for (const bool along : {false, true}) {
            Cut one = cut;
            one.title = along ? tr("along the slot") : tr("across the slot");
            one.twin = true;
            const Length by = along ? slotLength - cut.hole : Length();
            one.hole = cut.hole + by;
            one.largest = cut.largest + by;
            one.land = along ? landAlong : landAcross;
            setLead(one, along ? section.wide : section.thick);
            one.leadWords = tr("lead %1");
            cuts.push_back(one);
        }
    };
    if (const Pad* pad = f.pad(id)) {
        const LeadFit& lead = f.leads[pad->formation];
        const Land& land = shownLand(*pad);
        cut.hole = pad->hole;
        cut.wander = 1.96 * part.rules.fab.wander;
        cut.largest = pad->holeLargest;
        cut.land = min(land.width, land.length);
        cut.worstRing = pad->hole > Length() ? ringOf(part.rules, *pad) : Length();
        setLead(cut, lead.section.across);
        cut.sized = lead.sized;
        cut.length = lead.length;
        cut.lengthFirm = lead.lengthFirm;
        cut.ofPin = true;
        cut.leadWords = lead.section.byEnd ? tr("formed end %1\nover corners")
                        : pad->leadRound   ? tr("lead Ø %1")
                                           : tr("lead %1\nover corners");
        if (pad->endX > Length()) {
            cut.shank = pad->leadRound ? pad->leadX : hypot(pad->leadX, pad->leadY);
            cut.end = lead.end == LeadEnd::Formed ? hypot(pad->endX, pad->endY) : max(pad->endX, pad->endY);
        }
        if (pad->slotLength > Length())
            addBoth(pad->slotLength, lead.section, min(land.width, land.length), max(land.width, land.length));
    } else if (const BareHole* hole = f.bareHole(id)) {
        cut.hole = hole->size;
        // A bare hole is drilled in a pass of its own.
        cut.wander =
            1.96 * (hole->plated ? part.rules.fab.wander : hypot(part.rules.fab.wander, part.rules.fab.passes));
        cut.largest = hole->sizeLargest;
        if (hole->plated) {
            cut.land = min(hole->land.width, hole->land.length);
            for (const Pad& lug : copperPads(f))
                if (lug.id == id) cut.worstRing = ringOf(part.rules, lug);
        }
        setLead(cut, hole->peg.across);
        cut.sized = hole->sized;
        cut.length = cut.standoff + cut.board * 0.9;
        cut.leadWords = hole->flat ? tr("lug %1\nover corners") : tr("peg Ø %1");
        if (hole->slotLength > Length())
            addBoth(hole->slotLength, hole->peg, hole->plated ? min(hole->land.width, hole->land.length) : Length(),
                    hole->plated ? max(hole->land.width, hole->land.length) : Length());
    } else {
        return;
    }
    if (cuts.empty()) cuts.push_back(cut);
    const double em = theme::em();
    p.setFont(theme::text(1.1, true));
    p.setPen(theme::kInk);
    p.drawText(QRectF(0, 0, width(), 1.5 * em), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(cut.title, Qt::ElideRight, width()));
    if (cut.hole <= Length()) {
        p.setFont(theme::text(0.9));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(0, 1.8 * em, width(), 3 * em), Qt::TextWordWrap,
                   tr("A surface land: no hole to cut through."));
        return;
    }
    const double below = board_->height() + 0.3 * em;
    const double each = (height() - 1.8 * em - below) / static_cast<double>(cuts.size());
    for (std::size_t i = 0; i < cuts.size(); ++i) {
        const double at = 1.8 * em + static_cast<double>(i) * each;
        const double head = cuts[i].twin ? 1.6 * em : 0;
        if (cuts[i].twin) {
            p.setFont(theme::text(0.95, true));
            p.setPen(theme::kQuiet);
            p.drawText(QRectF(0, at, width(), 1.4 * em), Qt::AlignLeft | Qt::AlignVCenter, cuts[i].title);
        }
        paintCut(p, cuts[i], QRectF(0, at + head, width(), each - head));
    }
}

void SectionView::paintCut(QPainter& p, const Cut& cut, const QRectF& area) {
    const double em = theme::em();
    const double below = std::max((cut.length - cut.standoff - cut.board).mm(), 0.3) + 0.3;
    const double above = cut.standoff.mm() + 0.7;
    const double wide = std::max(cut.land.mm(), cut.hole.mm() + 0.6) + 1.2;
    const double s = std::min(area.width() / wide, (area.height() - 1.4 * em) / (above + cut.board.mm() + below));
    const double cx = area.center().x();
    const double top = area.top() + above * s;  // top face of the board
    const double bottom = top + cut.board.mm() * s;
    const double r = cut.hole.mm() / 2 * s;
    const double rLargest = std::max(cut.largest.mm() / 2 * s, r);
    const double copper = std::max(0.035 * s * 2, 3.0);
    const auto px = [&](Length l) { return l.mm() * s; };

    p.setFont(theme::digits(0.85));
    p.setPen(theme::kQuiet);
    p.drawText(QRectF(area.left(), area.top() - 1.8 * em, area.width(), 1.5 * em), Qt::AlignRight | Qt::AlignVCenter,
               width() < 18 * em ? tr("%1 : 1").arg(s / 3.78, 0, 'f', 0)
                                 : tr("%1 · %2 : 1").arg(view_.unitText()).arg(s / 3.78, 0, 'f', 0));

    // Board, left and right of the hole.
    for (const double side : {-1.0, 1.0}) {
        const double inner = cx + side * (r + (cut.land > Length() ? copper : 0));
        const double outer = side < 0 ? area.left() : area.right();
        QRectF board = QRectF(QPointF(std::min(inner, outer), top), QPointF(std::max(inner, outer), bottom));
        p.fillRect(board, theme::kLaminate);
        p.save();
        p.setClipRect(board);
        p.setPen(QPen(QColor(0xD9, 0xCE, 0xA8), 1));
        for (double x = board.left() - board.height(); x < board.right(); x += 8)
            p.drawLine(QPointF(x, board.bottom()), QPointF(x + board.height(), board.top()));
        p.restore();
        if (cut.land > Length()) {
            const double land = px(cut.land) / 2;
            for (const bool upper : {true, false}) {
                const double y = upper ? top - copper : bottom;
                p.fillRect(QRectF(QPointF(cx + side * r, y), QPointF(cx + side * land, y + copper)).normalized(),
                           theme::kCopper);
                const double mask = cx + side * (land + 0.05 * s);
                if ((outer - mask) * side > 0)
                    p.fillRect(QRectF(QPointF(mask, y), QPointF(outer, y + copper * 0.8)).normalized(), theme::kMask);
            }
            p.fillRect(QRectF(QPointF(cx + side * r, top), QPointF(inner, bottom)).normalized(), theme::kCopper);
        }
        // Where its wall may stand.
        if (const double w = px(cut.wander); w > 0.5) {
            QColor band = theme::kPetrol;
            band.setAlphaF(0.22F);
            p.fillRect(QRectF(QPointF(cx + side * r - w, top), QPointF(cx + side * r + w, bottom)), band);
        }
        // The hole at its largest.
        if (rLargest > r + 0.5) {
            p.setPen(QPen(theme::kVermilion, 1, Qt::DotLine));
            p.drawLine(QPointF(cx + side * rLargest, top), QPointF(cx + side * rLargest, bottom));
        }
    }
    // Body underside.
    const double seat = top - copper - px(cut.standoff);
    p.setPen(QPen(theme::kBodySlate, 1));
    p.setBrush(QColor(0xD3, 0xDD, 0xE5));
    p.drawRect(
        QRectF(area.left() + area.width() * 0.14, area.top(), area.width() * 0.72, std::max(seat - area.top(), 3.0)));
    // Lead at its mean, with its largest and smallest.
    const double tip = seat + px(cut.length);
    const auto formed = [&] {
        // The end is wider over the last third, or below the board.
        const double h = px(cut.shank) / 2;
        const double e = px(cut.end) / 2;
        const double from = std::max(seat + (tip - seat) * 0.62, std::min(bottom + copper, tip - 0.3 * (tip - seat)));
        const double slope = (tip - from) * 0.3;
        QPainterPath path(QPointF(cx - h, seat));
        for (const QPointF& q : {QPointF(cx + h, seat), QPointF(cx + h, from), QPointF(cx + e, from + slope),
                                 QPointF(cx + e, tip - slope), QPointF(cx + h * 0.5, tip), QPointF(cx - h * 0.5, tip),
                                 QPointF(cx - e, tip - slope), QPointF(cx - e, from + slope), QPointF(cx - h, from)})
            path.lineTo(q);
        path.closeSubpath();
        return path;
    };
    const auto lead = [&](Length width) {
        const double h = px(width) / 2;
        const double chamfer = std::min(h * 0.5, px(cut.length) * 0.15);
        QPainterPath path(QPointF(cx - h, seat));
        path.lineTo(cx + h, seat);
        path.lineTo(cx + h, tip - chamfer);
        path.lineTo(cx + h - chamfer * 0.7, tip);
        path.lineTo(cx - h + chamfer * 0.7, tip);
        path.lineTo(cx - h, tip - chamfer);
        path.closeSubpath();
        return path;
    };
    const bool loose = !cut.sized;
    p.setPen(QPen(loose ? theme::kMarigold : theme::kSteelEdge, 1.2, loose ? Qt::DashLine : Qt::SolidLine));
    p.setBrush(cut.land > Length() ? theme::kSteel : QColor(0xC4, 0xCF, 0xD8));
    p.drawPath(cut.end > Length() ? formed() : lead(cut.lead));
    if (cut.sized) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(theme::kInk, 1, Qt::DashLine));
        p.drawPath(lead(cut.most));
        p.setPen(QPen(theme::kSteelEdge, 1, Qt::DotLine));
        p.drawPath(lead(cut.least));
    }
    // The fillet of solder, from the land up the lead.
    const Length wetted = cut.end > Length() ? cut.shank : cut.lead;
    if (cut.land > Length() && cut.sized && cut.most < cut.land && tip > bottom + copper + 4) {
        QColor solder = theme::kSteel;
        solder.setAlphaF(0.75F);
        const double foot = std::min(px(cut.land) / 2, px(wetted) / 2 + (tip - bottom) * 0.8);
        const double height = std::min((tip - bottom - copper) * 0.75, (foot - px(wetted) / 2) * 1.2);
        for (const double side : {-1.0, 1.0}) {
            QPainterPath fillet(QPointF(cx + side * px(wetted) / 2, bottom + copper));
            fillet.lineTo(cx + side * foot, bottom + copper);
            fillet.quadTo(
                QPointF(cx + side * (px(wetted) / 2 + (foot - px(wetted) / 2) * 0.25), bottom + copper + height * 0.25),
                QPointF(cx + side * px(wetted) / 2, bottom + copper + height));
            fillet.closeSubpath();
            p.setPen(QPen(theme::kSteelEdge, 0.8));
            p.setBrush(solder);
            p.drawPath(fillet);
        }
    }
    // Words, each in a place of its own.
    p.setFont(theme::text(0.9));
    const double mid = (top + bottom) / 2;
    const auto word = [&](const QRectF& box, Qt::Alignment align, const QString& text, const QColor& color) {
        QRectF tight = p.fontMetrics().boundingRect(box.toRect(), static_cast<int>(align), text);
        p.fillRect(tight.adjusted(-2, 0, 2, 0), QColor(255, 255, 255, 190));
        p.setPen(color);
        p.drawText(box, static_cast<int>(align), text);
    };
    const double half = area.width() / 2;
    word(QRectF(area.left() + 2, mid - em, half, em * 2), Qt::AlignLeft | Qt::AlignVCenter,
         tr("place ±%1").arg(view_.value(cut.wander, 2)), theme::kPetrol);
    word(QRectF(cx, mid - em, half - 2, em * 2), Qt::AlignRight | Qt::AlignVCenter,
         cut.largest > cut.hole ? tr("hole %1 to %2").arg(view_.value(cut.hole, 2), view_.value(cut.largest, 2))
                                : tr("hole %1").arg(view_.value(cut.hole, 2)),
         theme::kInk);
    const double low = bottom + copper + 3;
    word(QRectF(area.left(), low, half, em * 2.6), Qt::AlignLeft | Qt::AlignTop,
         cut.sized ? cut.leadWords.arg(view_.value(cut.lead, 2)) : tr("lead not measured"),
         cut.sized ? theme::kInk : theme::kMarigoldInk);
    if (cut.land > Length())
        word(QRectF(cx, low, half, em * 2.6), Qt::AlignRight | Qt::AlignTop,
             tr("ring %1\nat worst %2").arg(view_.value((cut.land - cut.hole) / 2, 2), view_.value(cut.worstRing, 2)),
             cut.worstRing < Length() ? theme::kVermilion : theme::kGo);
    else
        word(QRectF(cx, low, half, em * 1.2), Qt::AlignRight | Qt::AlignTop, tr("bare hole"), theme::kInk);
    if (cut.ofPin && cut.land > Length()) {
        const Length out = cut.length - cut.standoff - cut.board;
        const QString text = !cut.lengthFirm  ? tr("length not measured")
                             : out < Length() ? tr("ends inside the board")
                                              : tr("sticks out %1").arg(view_.value(out, 2));
        word(QRectF(cx, std::min(tip - em * 0.6, area.bottom() - em * 1.3), half, em * 1.2),
             Qt::AlignRight | Qt::AlignTop, text, cut.lengthFirm ? theme::kInk : theme::kMarigoldInk);
    }
}

}  // namespace punch
