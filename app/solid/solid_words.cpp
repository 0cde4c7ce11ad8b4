// Words and marks over the picture in space: leads, numbers, scale, what moves, what is measured.

#include <QGuiApplication>
#include <QOpenGLContext>
#include <QPainter>
#include <cmath>

#include "app/qt_text.h"
#include "app/solid/solid_view.h"
#include "app/theme.h"

namespace punch {

QString SolidView::wordsOfLead(const StandingLead& lead) const {
    const QString who = lead.of.empty() ? tr("no hole")
                        : lead.peg      ? toQt(lead.name)
                                        : tr("lead %1").arg(toQt(lead.name));
    QStringList words{who};
    if (lead.gap)
        words << (*lead.gap < Length() ? tr("does not go in by %1").arg(view_.length(-*lead.gap, 3))
                                       : tr("%1 clear").arg(view_.length(*lead.gap, 3)));
    if (!lead.peg) words << tr("%1 out").arg(view_.length(lead.past, 2));
    return words.join(" · ");
}

void SolidView::tag(QPainter& p, QPointF at, const QString& words, const QColor& colour, QPointF to) {
    p.setFont(theme::text(0.9, true));
    QRectF box = QFontMetricsF(p.font()).boundingRect(words).adjusted(-9, -4, 9, 4);
    box.moveCenter(at);
    if (box.left() < 8) box.moveLeft(8);
    if (box.right() > width() - 8) box.moveRight(width() - 8);
    p.setPen(QPen(colour, 1.2));
    p.drawLine(to, QPointF(box.center().x(), to.y() < box.center().y() ? box.top() : box.bottom()));
    p.setBrush(theme::kPetrolPale);
    p.drawRoundedRect(box, box.height() / 2, box.height() / 2);
    p.setPen(colour);
    p.drawText(box, Qt::AlignCenter, words);
}

bool SolidView::possible() {
    static const bool there = [] {
        // It makes a context where there is an X server beside it, and draws nothing with it.
        if (QGuiApplication::platformName() == "offscreen") return false;
        QOpenGLContext context;
        return context.create();
    }();
    return there;
}

QString SolidView::impossibleWords() {
    return tr("There is no OpenGL 2.1 here, so the body is not drawn in space. The section at the right, the sheet and "
              "the gauges do their work all the same.");
}

void SolidView::overlay(QPainter& p) {
    if (!works_) {
        p.setPen(theme::kInk);
        p.setFont(theme::text());
        p.drawText(
            rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
            impossibleWords());
        return;
    }
    if (!document_.open()) return;
    const Footprint& f = document_.footprint();
    const double up = lift_;
    overlayMovers(p);
    for (const StandingSolid& s : f.solids)
        for (const StandingLead& l : s.leads) {
            const bool chosen = !view_.first().empty() && l.of == view_.first();
            const bool wrong = (l.gap && *l.gap < Length()) || l.of.empty() || !l.counted;
            if (!chosen && !wrong) continue;
            const QPointF end = onScreen({l.at.x.mm(), l.at.y.mm(), up - 0.5 * scene_.boardThickness});
            tag(p, end + QPointF(60, camera_.pitch < 0 ? -70 : 84), wordsOfLead(l),
                wrong ? theme::kVermilionInk : theme::kPetrol, end);
        }
    // Numbers at their pads, where they are not too dense.
    p.setFont(theme::digits(0.85, true));
    std::vector<QPointF> taken;
    for (const Pad& pad : f.pads) {
        const QPointF at = onScreen({pad.at.x.mm(), pad.at.y.mm() - shownLand(pad).length.mm() / 2, 0}) +
                           QPointF(0, theme::em() * 0.7);
        if (std::any_of(taken.begin(), taken.end(),
                        [&](QPointF o) { return std::hypot(o.x() - at.x(), o.y() - at.y()) < theme::em() * 1.4; }))
            continue;
        taken.push_back(at);
        p.setPen(theme::kInk);
        p.drawText(QRectF(at.x() - 30, at.y() - theme::em() / 2.0, 60, theme::em()), Qt::AlignCenter, toQt(pad.number));
    }
    // Scale, and where rear and right are.
    double mm = 1;
    for (const double step : {0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0})
        if (step * camera_.scale < 130) mm = step;
    p.setPen(QPen(theme::kInk, 1.6));
    const QPointF a(18, height() - 14);
    p.drawLine(a, a + QPointF(mm * camera_.scale, 0));
    p.setFont(theme::digits(0.9));
    p.drawText(QRectF(a + QPointF(4, -4 - theme::em()), QSizeF(160, theme::em())), Qt::AlignLeft | Qt::AlignVCenter,
               tr("%1 mm").arg(mm));
    if (!work_.busy().isEmpty()) {
        p.setFont(theme::text());
        p.setPen(theme::kPetrol);
        p.drawText(QRectF(0, theme::em() * 3, width(), theme::em() * 2), Qt::AlignCenter,
                   tr("%1 %2 %").arg(work_.busy()).arg(work_.share() * 100, 0, 'f', 0));
    }
    p.setFont(theme::text(0.85));
    const auto arrow = [&](Vec3 way, const QString& words, double row) {
        const QPointF o = onScreen(camera_.middle), e = onScreen(camera_.middle + 3.0 * way);
        const double angle = std::atan2(e.y() - o.y(), e.x() - o.x());
        const double length = std::hypot(e.x() - o.x(), e.y() - o.y());
        const QPointF at(width() - 90, height() - 22 - row * theme::em() * 1.4);
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(at.x(), at.y() - theme::em() / 2.0, 50, theme::em()), Qt::AlignLeft | Qt::AlignVCenter,
                   words);
        if (length < 3) return;
        const QPointF from = at + QPointF(62, 0), d(12 * std::cos(angle), 12 * std::sin(angle));
        p.drawLine(from - d / 2, from + d / 2);
        p.drawEllipse(from + d / 2, 2, 2);
    };
    arrow({0, 1, 0}, tr("rear"), 1);
    arrow({1, 0, 0}, tr("right"), 0);
    overlayMeasure(p);
    if (const auto handle = cutHandle()) {
        // It is dragged along the axis that it cuts across.
        const Vec3 axis = cutAxis_ == 0 ? Vec3{1, 0, 0} : cutAxis_ == 1 ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
        const QPointF way = onScreen(axis) - onScreen({});
        const double length = std::hypot(way.x(), way.y());
        const QPointF d = length > 2 ? 13.0 / length * way : QPointF(0, 13);
        p.setPen(QPen(theme::kPetrol, 2));
        p.drawLine(*handle - d, *handle + d);
        p.setBrush(theme::kPetrolPale);
        p.drawEllipse(*handle, 6, 6);
    }
}

QString SolidView::moverWords(const SceneMover& mover) const {
    const auto value = [&](double v) {
        return mover.motion.turns ? tr("%1°").arg(v, 0, 'f', 1) : view_.length(Length::fromMm(v), 2);
    };
    const auto touch = work_.touch(mover.of, mover.body);
    if (touch) return tr("%1 touches at %2").arg(toQt(mover.name), value(touch->at));
    return tr("%1: %2 to %3, free").arg(toQt(mover.name), value(mover.motion.from), value(mover.motion.to));
}

void SolidView::overlayMovers(QPainter& p) {
    for (std::size_t i = 0; i < scene_.movers.size(); ++i) {
        const SceneMover& m = scene_.movers[i];
        const auto touch = work_.touch(m.of, m.body);
        if (touch) {
            const QPointF at = onScreen(touch->where + Vec3{0, 0, lift_});
            p.setPen(QPen(theme::kVermilion, 2));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(at, 7, 7);
            tag(p, at + QPointF(80, -60), moverWords(m), theme::kVermilionInk, at);
            continue;
        }
        if (i != mover_ || held_ != Held::Mover) continue;
        const QPointF at = onScreen(m.motion.at + Vec3{0, 0, lift_});
        tag(p, at + QPointF(80, -90), moverWords(m), theme::kPetrol, at);
    }
}

void SolidView::overlayMeasure(QPainter& p) {
    if (!measuring_ && work_.faceWanted().empty()) return;
    QString words;
    if (!work_.faceWanted().empty())
        words = tr("Click at the flat face that lies on the board.");
    else if (things_.empty())
        words = tr("Measure: click at a face, an edge or a round face.");
    else if (things_.size() == 1)
        words =
            (things_[0].radius > 0
                 ? tr("%1, diameter %2; and now the other one.")
                       .arg(toQt(things_[0].words), view_.length(Length::fromMm(2 * things_[0].radius), 3))
             : things_[0].length > 0
                 ? tr("Edge, %1 long; and now the other one.").arg(view_.length(Length::fromMm(things_[0].length), 3))
                 : tr("%1; and now the other one.").arg(toQt(things_[0].words)));
    QPointF from, to;
    if (measure_) {
        QStringList all;
        if (measure_->length) all << view_.length(Length::fromMm(*measure_->length), 3);
        if (measure_->angle) all << tr("%1°").arg(*measure_->angle, 0, 'f', 2);
        words = tr("%1 %2").arg(all.join(", "), toQt(measure_->words));
        from = onScreen(measure_->from);
        to = onScreen(measure_->to);
        p.setPen(QPen(theme::kPetrol, 2));
        p.drawLine(from, to);
        for (const QPointF& end : {from, to}) {
            p.setBrush(theme::kPetrol);
            p.drawEllipse(end, 3, 3);
        }
        tag(p, (from + to) / 2 + QPointF(40, -44), all.join(", "), theme::kPetrol, (from + to) / 2);
    } else if (!things_.empty()) {
        p.setBrush(theme::kPetrol);
        p.setPen(Qt::NoPen);
        p.drawEllipse(onScreen(things_.back().at), 4, 4);
    }
    p.setFont(theme::text(1.0, true));
    QRectF box = QFontMetricsF(p.font()).boundingRect(words).adjusted(-12, -5, 12, 5);
    box.moveCenter(QPointF(width() / 2.0, theme::em() * 3.6));
    p.setPen(QPen(theme::kPetrol, 1));
    p.setBrush(theme::kPetrolPale);
    p.drawRoundedRect(box, box.height() / 2, box.height() / 2);
    p.setPen(theme::kPetrol);
    p.drawText(box, Qt::AlignCenter, words);
}

}  // namespace punch
