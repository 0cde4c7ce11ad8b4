#pragma once
// The look: paper, ink and metal. Every colour has one role; a colour never carries a meaning alone.

#include <QColor>
#include <QFont>
#include <QString>

#include "core/artwork/palette.h"
#include "core/footprint.h"

namespace punch::theme {

inline const QColor kPaper = QRgb(palette::kPaper);
inline const QColor kGraph(0xDF, 0xE6, 0xDC);
inline const QColor kCopper = QRgb(palette::kCopper);
inline const QColor kCopperEdge = QRgb(palette::kCopperEdge);
inline const QColor kInk = QRgb(palette::kInk);
inline const QColor kPencil(0x8C, 0x93, 0x96);
inline const QColor kQuiet(0x6B, 0x76, 0x7B);
inline const QColor kCourtyard = QRgb(palette::kCourtyard);
inline const QColor kKeepout(0xC9, 0x66, 0x3A);
inline const QColor kBodySlate = QRgb(palette::kBodySlate);
inline const QColor kPetrol = QRgb(palette::kPetrol);
inline const QColor kPetrolPale(0xE3, 0xF0, 0xEE);
inline const QColor kVermilion = QRgb(palette::kVermilion);
inline const QColor kVermilionPale(0xFB, 0xE9, 0xE4);
inline const QColor kMarigold(0xD9, 0x97, 0x1A);
inline const QColor kMarigoldInk(0x9A, 0x66, 0x08);
inline const QColor kMarigoldPale(0xFF, 0xF7, 0xE6);
inline const QColor kDatum(0x7A, 0x4B, 0x8C);
inline const QColor kGo(0x2E, 0x7D, 0x4F);
inline const QColor kSteel = QRgb(palette::kSteel);
inline const QColor kSteelEdge = QRgb(palette::kSteelEdge);
inline const QColor kMask = QRgb(palette::kMask);
inline const QColor kMasked(0xE4, 0xE6, 0xDC);  // the board under its mask, seen from above
inline const QColor kLaminate = QRgb(palette::kLaminate);
inline const QColor kLine(0xD3, 0xDA, 0xD6);
inline const QColor kRail(0xDF, 0xE4, 0xE0);
inline const QColor kStrip(0xF1, 0xF3, 0xF1);
inline const QColor kEdge(0xC3, 0xCC, 0xC8);  ///< of fields and buttons
inline const QColor kAdvice(0xEF, 0xF6, 0xF4);
inline const QColor kAdviceEdge(0xBF, 0xD6, 0xD2);
inline const QColor kVermilionInk(0x9E, 0x2F, 0x1A);
inline const QColor kSheet(0xFE, 0xFE, 0xFC);     ///< a page behind a drawing
inline const QColor kBodyPale(0xE6, 0xEB, 0xEE);  ///< a body, filled
inline const QColor kBodyCut(0xD3, 0xDD, 0xE5);   ///< cut through
inline const QColor kLeadPale(0xC4, 0xCF, 0xD8);  ///< a lead without a land around its hole
inline const QColor kLaminateEdge = QRgb(palette::kLaminateEdge);
inline const QColor kPrinted(0x80, 0x80, 0x80);  ///< outline of the body on paper
inline const QColor kAssembly(0xB9, 0xBE, 0xBE);
inline const QColor kKeepoutPale(0xFA, 0xF1, 0xE6);
inline const QColor kIdle(0xA9, 0xB2, 0xB0);  ///< cannot be used, or unknown
inline const QColor kFaint(0xC9, 0xCF, 0xCC);
inline const QColor kHover(0x7D, 0xA9, 0xAD);  ///< under the mouse
inline const QColor kHoverTag(0xC8, 0xE4, 0xE0);
inline const QColor kRow(0xF1, 0xF6, 0xF5);  ///< a line of a list that is chosen or touched
inline const QColor kBar(0xE8, 0xEC, 0xEA);  ///< behind a bar of a list
inline const QColor kCellUnknown(0xEE, 0xF0, 0xEF);
inline const QColor kCellNear(0xE0, 0xF0, 0xE6);  ///< enough, by less than half as much again
inline const QColor kCellFar(0xF4, 0xF6, 0xF5);
inline const QColor kTrialsIn(0x8F, 0xB8, 0x9F);
inline const QColor kRoomBad(0xF3, 0xD3, 0xCB);
inline const QColor kRoomGood(0xB5, 0xDB, 0xC4);

/// The same, seen through: `share` of it covers.
QColor through(QColor colour, double share);
/// A style sheet or rich text with its colours in: "@petrol" becomes "#0f5c63".
QString styled(QString text);

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
