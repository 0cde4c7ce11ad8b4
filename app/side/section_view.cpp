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
    if (const FeatureId pin = firstPin(document.part()); !pin.empty()) return pin;
    // Without pins a peg or a screw's hole.
    const auto& holes = document.footprint().bareHoles;
    return holes.empty() ? FeatureId() : holes.front().id;
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

/// A slot is cut twice, across and along; a round hole once, over the lead's corners. Empty for a face.
std::vector<SectionView::Cut> SectionView::cutsOf(const FeatureId& id) const {
    const Footprint& f = document_.footprint();
    const Part& part = document_.part();
    std::vector<Cut> cuts;
    Cut cut;
    cut.board = part.rules.boardThickness;
    cut.standoff = part.body.standoff;
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
    if (f.pad(id) == nullptr && f.bareHole(id) == nullptr) return {};
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
            for (const Conductor& lug : f.board().copper())
                if (lug.id == id) cut.worstRing = ringOf(part.rules, lug);
        }
        setLead(cut, hole->peg.across);
        cut.sized = hole->sized;
        cut.length = cut.standoff + cut.board * 0.9;
        cut.leadWords = hole->flat ? tr("lug %1\nover corners") : tr("peg Ø %1");
        if (hole->slotLength > Length())
            addBoth(hole->slotLength, hole->peg, hole->plated ? min(hole->land.width, hole->land.length) : Length(),
                    hole->plated ? max(hole->land.width, hole->land.length) : Length());
    }
    if (cuts.empty()) cuts.push_back(cut);
    return cuts;
}

void SectionView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!document_.open()) return;
    const FeatureId id = shownFeature(document_, view_);
    const std::vector<Cut> cuts = cutsOf(id);
    if (cuts.empty()) {
        p.setFont(theme::text(1.1, true));
        p.setPen(theme::kInk);
        p.drawText(QRectF(0, 0, width(), 1.5 * theme::em()), Qt::AlignLeft | Qt::AlignVCenter, tr("Section"));
        p.setFont(theme::text(0.9));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(0, 1.8 * theme::em(), width(), 4 * theme::em()), Qt::TextWordWrap,
                   tr("The part has no pins and no holes: nothing of it goes through the board."));
        return;
    }
    const double em = theme::em();
    p.setFont(theme::text(1.1, true));
    p.setPen(theme::kInk);
    p.drawText(QRectF(0, 0, width(), 1.5 * em), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(tr("Section through %1").arg(toQt(featureWords(document_.part(), id))),
                                          Qt::ElideRight, width()));
    if (cuts.front().hole <= Length()) {
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

/// Where a cut's parts stand in the widget, px.
struct SectionView::Drawn {
    Drawn(const Cut& cut, const QRectF& room) : area(room) {
        const double em = theme::em();
        const double below = std::max((cut.length - cut.standoff - cut.board).mm(), 0.3) + 0.3;
        const double above = cut.standoff.mm() + 0.7;
        const double wide = std::max(cut.land.mm(), cut.hole.mm() + 0.6) + 1.2;
        s = std::min(area.width() / wide, (area.height() - 1.4 * em) / (above + cut.board.mm() + below));
        cx = area.center().x();
        top = area.top() + above * s;
        bottom = top + cut.board.mm() * s;
        r = cut.hole.mm() / 2 * s;
        copper = std::max(0.035 * s * 2, 3.0);
        seat = top - copper - px(cut.standoff);
        tip = seat + px(cut.length);
    }
    double px(Length l) const { return l.mm() * s; }
    QRectF area;
    double s = 1;                ///< px for each mm
    double cx = 0;               ///< middle of the hole
    double top = 0, bottom = 0;  ///< faces of the board
    double r = 0;                ///< of the hole
    double copper = 0;           ///< its thickness
    double seat = 0, tip = 0;    ///< underside of the body, end of the lead
};

void SectionView::paintCut(QPainter& p, const Cut& cut, const QRectF& area) {
    const double em = theme::em();
    const Drawn d(cut, area);
    p.setFont(theme::digits(0.85));
    p.setPen(theme::kQuiet);
    p.drawText(QRectF(d.area.left(), d.area.top() - 1.8 * em, d.area.width(), 1.5 * em),
               Qt::AlignRight | Qt::AlignVCenter,
               width() < 18 * em ? tr("%1 : 1").arg(d.s / 3.78, 0, 'f', 0)
                                 : tr("%1 · %2 : 1").arg(view_.unitText()).arg(d.s / 3.78, 0, 'f', 0));
    paintBoard(p, cut, d);
    paintLead(p, cut, d);
    paintFillet(p, cut, d);
    paintWords(p, cut, d);
}

/// Board, left and right of the hole, with its copper and mask.
void SectionView::paintBoard(QPainter& p, const Cut& cut, const Drawn& d) {
    const double rLargest = std::max(cut.largest.mm() / 2 * d.s, d.r);
    for (const double side : {-1.0, 1.0}) {
        const double inner = d.cx + side * (d.r + (cut.land > Length() ? d.copper : 0));
        const double outer = side < 0 ? d.area.left() : d.area.right();
        QRectF board = QRectF(QPointF(std::min(inner, outer), d.top), QPointF(std::max(inner, outer), d.bottom));
        p.fillRect(board, theme::kLaminate);
        p.save();
        p.setClipRect(board);
        p.setPen(QPen(theme::kLaminateEdge, 1));
        for (double x = board.left() - board.height(); x < board.right(); x += 8)
            p.drawLine(QPointF(x, board.bottom()), QPointF(x + board.height(), board.top()));
        p.restore();
        if (cut.land > Length()) {
            const double land = d.px(cut.land) / 2;
            for (const bool upper : {true, false}) {
                const double y = upper ? d.top - d.copper : d.bottom;
                p.fillRect(
                    QRectF(QPointF(d.cx + side * d.r, y), QPointF(d.cx + side * land, y + d.copper)).normalized(),
                    theme::kCopper);
                const double mask = d.cx + side * (land + 0.05 * d.s);
                if ((outer - mask) * side > 0)
                    p.fillRect(QRectF(QPointF(mask, y), QPointF(outer, y + d.copper * 0.8)).normalized(), theme::kMask);
            }
            p.fillRect(QRectF(QPointF(d.cx + side * d.r, d.top), QPointF(inner, d.bottom)).normalized(),
                       theme::kCopper);
        }
        // Where its wall may stand.
        if (const double w = d.px(cut.wander); w > 0.5) {
            QColor band = theme::kPetrol;
            band.setAlphaF(0.22F);
            p.fillRect(QRectF(QPointF(d.cx + side * d.r - w, d.top), QPointF(d.cx + side * d.r + w, d.bottom)), band);
        }
        // The hole at its largest.
        if (rLargest > d.r + 0.5) {
            p.setPen(QPen(theme::kVermilion, 1, Qt::DotLine));
            p.drawLine(QPointF(d.cx + side * rLargest, d.top), QPointF(d.cx + side * rLargest, d.bottom));
        }
    }
}

void SectionView::paintLead(QPainter& p, const Cut& cut, const Drawn& d) {
    // Body underside.
    p.setPen(QPen(theme::kBodySlate, 1));
    p.setBrush(theme::kBodyCut);
    p.drawRect(QRectF(d.area.left() + d.area.width() * 0.14, d.area.top(), d.area.width() * 0.72,
                      std::max(d.seat - d.area.top(), 3.0)));
    // Lead at its mean, with its largest and smallest.
    const auto formed = [&] {
        // The end is wider over the last third, or below the board.
        const double h = d.px(cut.shank) / 2;
        const double e = d.px(cut.end) / 2;
        const double from =
            std::max(d.seat + (d.tip - d.seat) * 0.62, std::min(d.bottom + d.copper, d.tip - 0.3 * (d.tip - d.seat)));
        const double slope = (d.tip - from) * 0.3;
        QPainterPath path(QPointF(d.cx - h, d.seat));
        for (const QPointF& q :
             {QPointF(d.cx + h, d.seat), QPointF(d.cx + h, from), QPointF(d.cx + e, from + slope),
              QPointF(d.cx + e, d.tip - slope), QPointF(d.cx + h * 0.5, d.tip), QPointF(d.cx - h * 0.5, d.tip),
              QPointF(d.cx - e, d.tip - slope), QPointF(d.cx - e, from + slope), QPointF(d.cx - h, from)})
            path.lineTo(q);
        path.closeSubpath();
        return path;
    };
    const auto lead = [&](Length width) {
        const double h = d.px(width) / 2;
        const double chamfer = std::min(h * 0.5, d.px(cut.length) * 0.15);
        QPainterPath path(QPointF(d.cx - h, d.seat));
        path.lineTo(d.cx + h, d.seat);
        path.lineTo(d.cx + h, d.tip - chamfer);
        path.lineTo(d.cx + h - chamfer * 0.7, d.tip);
        path.lineTo(d.cx - h + chamfer * 0.7, d.tip);
        path.lineTo(d.cx - h, d.tip - chamfer);
        path.closeSubpath();
        return path;
    };
    const bool loose = !cut.sized;
    p.setPen(QPen(loose ? theme::kMarigold : theme::kSteelEdge, 1.2, loose ? Qt::DashLine : Qt::SolidLine));
    p.setBrush(cut.land > Length() ? theme::kSteel : theme::kLeadPale);
    p.drawPath(cut.end > Length() ? formed() : lead(cut.lead));
    if (cut.sized) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(theme::kInk, 1, Qt::DashLine));
        p.drawPath(lead(cut.most));
        p.setPen(QPen(theme::kSteelEdge, 1, Qt::DotLine));
        p.drawPath(lead(cut.least));
    }
}

/// The fillet of solder, from the land up the lead.
void SectionView::paintFillet(QPainter& p, const Cut& cut, const Drawn& d) {
    const Length wetted = cut.end > Length() ? cut.shank : cut.lead;
    if (cut.land > Length() && cut.sized && cut.most < cut.land && d.tip > d.bottom + d.copper + 4) {
        QColor solder = theme::kSteel;
        solder.setAlphaF(0.75F);
        const double foot = std::min(d.px(cut.land) / 2, d.px(wetted) / 2 + (d.tip - d.bottom) * 0.8);
        const double height = std::min((d.tip - d.bottom - d.copper) * 0.75, (foot - d.px(wetted) / 2) * 1.2);
        for (const double side : {-1.0, 1.0}) {
            QPainterPath fillet(QPointF(d.cx + side * d.px(wetted) / 2, d.bottom + d.copper));
            fillet.lineTo(d.cx + side * foot, d.bottom + d.copper);
            fillet.quadTo(QPointF(d.cx + side * (d.px(wetted) / 2 + (foot - d.px(wetted) / 2) * 0.25),
                                  d.bottom + d.copper + height * 0.25),
                          QPointF(d.cx + side * d.px(wetted) / 2, d.bottom + d.copper + height));
            fillet.closeSubpath();
            p.setPen(QPen(theme::kSteelEdge, 0.8));
            p.setBrush(solder);
            p.drawPath(fillet);
        }
    }
}

/// Words, each in a place of its own.
void SectionView::paintWords(QPainter& p, const Cut& cut, const Drawn& d) {
    const double em = theme::em();
    p.setFont(theme::text(0.9));
    const double mid = (d.top + d.bottom) / 2;
    const auto word = [&](const QRectF& box, Qt::Alignment align, const QString& text, const QColor& color) {
        QRectF tight = p.fontMetrics().boundingRect(box.toRect(), static_cast<int>(align), text);
        p.fillRect(tight.adjusted(-2, 0, 2, 0), theme::through(Qt::white, 0.75));
        p.setPen(color);
        p.drawText(box, static_cast<int>(align), text);
    };
    const double half = d.area.width() / 2;
    word(QRectF(d.area.left() + 2, mid - em, half, em * 2), Qt::AlignLeft | Qt::AlignVCenter,
         tr("place ±%1").arg(view_.value(cut.wander, 2)), theme::kPetrol);
    word(QRectF(d.cx, mid - em, half - 2, em * 2), Qt::AlignRight | Qt::AlignVCenter,
         cut.largest > cut.hole ? tr("hole %1 to %2").arg(view_.value(cut.hole, 2), view_.value(cut.largest, 2))
                                : tr("hole %1").arg(view_.value(cut.hole, 2)),
         theme::kInk);
    const double low = d.bottom + d.copper + 3;
    word(QRectF(d.area.left(), low, half, em * 2.6), Qt::AlignLeft | Qt::AlignTop,
         cut.sized ? cut.leadWords.arg(view_.value(cut.lead, 2)) : tr("lead not measured"),
         cut.sized ? theme::kInk : theme::kMarigoldInk);
    if (cut.land > Length())
        word(QRectF(d.cx, low, half, em * 2.6), Qt::AlignRight | Qt::AlignTop,
             tr("ring %1\nat worst %2").arg(view_.value((cut.land - cut.hole) / 2, 2), view_.value(cut.worstRing, 2)),
             cut.worstRing < Length() ? theme::kVermilion : theme::kGo);
    else
        word(QRectF(d.cx, low, half, em * 1.2), Qt::AlignRight | Qt::AlignTop, tr("bare hole"), theme::kInk);
    if (cut.ofPin && cut.land > Length()) {
        const Length out = cut.length - cut.standoff - cut.board;
        const QString text = !cut.lengthFirm  ? tr("length not measured")
                             : out < Length() ? tr("ends inside the board")
                                              : tr("sticks out %1").arg(view_.value(out, 2));
        word(QRectF(d.cx, std::min(d.tip - em * 0.6, d.area.bottom() - em * 1.3), half, em * 1.2),
             Qt::AlignRight | Qt::AlignTop, text, cut.lengthFirm ? theme::kInk : theme::kMarigoldInk);
    }
}

}  // namespace punch
