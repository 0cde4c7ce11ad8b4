#pragma once
// The look: paper, ink and metal. Every colour has one role; a colour never carries a meaning alone.

#include <QColor>
#include <QFont>
#include <QString>

#include "core/footprint.h"

namespace punch::theme {

inline const QColor kPaper(0xFA, 0xF7, 0xEF);
inline const QColor kGraph(0xDF, 0xE6, 0xDC);
inline const QColor kCopper(0xB9, 0x78, 0x3B);
inline const QColor kCopperEdge(0x7E, 0x4D, 0x1F);
inline const QColor kInk(0x24, 0x33, 0x3A);
inline const QColor kPencil(0x8C, 0x93, 0x96);
inline const QColor kQuiet(0x6B, 0x76, 0x7B);
inline const QColor kCourtyard(0x2B, 0x8A, 0x78);
inline const QColor kKeepout(0xC9, 0x66, 0x3A);
inline const QColor kBodySlate(0x7D, 0x93, 0xA3);
inline const QColor kPetrol(0x0F, 0x5C, 0x63);
inline const QColor kPetrolPale(0xE3, 0xF0, 0xEE);
inline const QColor kVermilion(0xC4, 0x43, 0x2A);
inline const QColor kVermilionPale(0xFB, 0xE9, 0xE4);
inline const QColor kMarigold(0xD9, 0x97, 0x1A);
inline const QColor kMarigoldInk(0x9A, 0x66, 0x08);
inline const QColor kMarigoldPale(0xFF, 0xF7, 0xE6);
inline const QColor kDatum(0x7A, 0x4B, 0x8C);
inline const QColor kGo(0x2E, 0x7D, 0x4F);
inline const QColor kSteel(0xB4, 0xBC, 0xC2);
inline const QColor kSteelEdge(0x6F, 0x7A, 0x82);
inline const QColor kMask(0x7F, 0xB0, 0x9A);
inline const QColor kLaminate(0xEF, 0xE7, 0xCF);
inline const QColor kLine(0xD3, 0xDA, 0xD6);
inline const QColor kRail(0xDF, 0xE4, 0xE0);

QColor stateColor(GaugeState state);
/// Dark enough for text.
QColor stateInk(GaugeState state);

/// Tabular digits.
QFont digits(double factor = 1.0, bool bold = false);
QFont text(double factor = 1.0, bool bold = false);
/// Height of a line of the application's text, px: everything drawn by hand is sized from it.
int em();

QString styleSheet();

}  // namespace punch::theme
