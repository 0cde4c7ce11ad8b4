#pragma once
// The mark of a state, told by shape as well as by colour: go a disc, watch a triangle, no-go a cross, unknown a ring.

#include <QPainter>

#include "app/theme.h"

namespace punch {

/// The same in a line of text.
inline QString stateGlyph(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return QStringLiteral("●");
        case GaugeState::Watch: return QStringLiteral("▲");
        case GaugeState::NoGo: return QStringLiteral("✕");
        case GaugeState::Unknown: break;
    }
    return QStringLiteral("○");
}

inline void drawStateMark(QPainter& p, QPointF at, double r, GaugeState state) {
    const QColor color = theme::stateColor(state);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    switch (state) {
        case GaugeState::Go:
            p.setPen(Qt::NoPen);
            p.setBrush(color);
            p.drawEllipse(at, r, r);
            break;
        case GaugeState::Watch:
            p.setPen(Qt::NoPen);
            p.setBrush(color);
            p.drawPolygon(QPolygonF{at + QPointF(0, -r * 1.2), at + QPointF(r * 1.2, r), at + QPointF(-r * 1.2, r)});
            break;
        case GaugeState::NoGo:
            p.setPen(QPen(color, r * 0.7, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(at - QPointF(r * 0.8, r * 0.8), at + QPointF(r * 0.8, r * 0.8));
            p.drawLine(at - QPointF(r * 0.8, -r * 0.8), at + QPointF(r * 0.8, -r * 0.8));
            break;
        case GaugeState::Unknown:
            p.setPen(QPen(color, 1.5));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(at, r * 0.85, r * 0.85);
            break;
    }
    p.restore();
}

}  // namespace punch
