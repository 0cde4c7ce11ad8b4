#include "app/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QFontMetrics>

namespace punch::theme {

QColor stateColor(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return kGo;
        case GaugeState::Watch: return kMarigold;
        case GaugeState::NoGo: return kVermilion;
        case GaugeState::Unknown: break;
    }
    return QColor(0xA9, 0xB2, 0xB0);
}

QColor stateInk(GaugeState state) {
    if (state == GaugeState::Watch) return kMarigoldInk;
    if (state == GaugeState::Unknown) return kQuiet;
    return stateColor(state);
}

QFont digits(double factor, bool bold) {
    QFont font = QFontDatabase::systemFont(QFontDatabase::FixedFont);
    font.setPointSizeF(QApplication::font().pointSizeF() * factor);
    font.setBold(bold);
    return font;
}

QFont text(double factor, bool bold) {
    QFont font = QApplication::font();
    font.setPointSizeF(font.pointSizeF() * factor);
    font.setBold(bold);
    return font;
}

int em() { return QFontMetrics(QApplication::font()).height(); }

QString styleSheet() {
    // Sizes follow the font, so that larger text makes larger controls.
    const int pad = em() / 4;
    return QStringLiteral(R"(
QWidget { color: #24333A; }
QWidget#column, QWidget#side { background: #FFFFFF; }
QWidget#topBar { background: #FFFFFF; border-bottom: 1px solid #D3DAD6; }
QScrollArea, QScrollArea > QWidget > QWidget#scrolled { background: #FFFFFF; border: none; }
QLabel[role="title"] { font-weight: bold; }
QLabel[role="quiet"] { color: #6B767B; }
QLabel[role="warn"] { color: #C4432A; }
QLineEdit, QPlainTextEdit {
  background: #FFFFFF; border: 1px solid #C3CCC8; border-radius: 4px; padding: %1px %2px;
  selection-background-color: #0F5C63; selection-color: #FFFFFF; }
QLineEdit:focus, QPlainTextEdit:focus { border: 2px solid #0F5C63; padding: %3px %4px; }
QLineEdit[wrong="true"] { border: 2px solid #C4432A; background: #FBE9E4; padding: %3px %4px; }
QPushButton { background: #FFFFFF; border: 1px solid #C3CCC8; border-radius: 4px; padding: %1px %5px; }
QPushButton:hover { border-color: #0F5C63; }
QPushButton:focus { border: 2px solid #0F5C63; padding: %3px %6px; }
QPushButton:disabled { color: #A9B2B0; }
QPushButton[role="main"] { background: #0F5C63; color: #FFFFFF; border-color: #0F5C63; font-weight: bold; }
QPushButton[role="main"]:disabled { background: #C3CCC8; border-color: #C3CCC8; }
QPushButton[role="link"] { border: none; background: transparent; color: #0F5C63; font-weight: bold; padding: %1px; }
QPushButton[role="link"]:hover, QPushButton[role="link"]:focus { text-decoration: underline; }
QPushButton[role="chip"] { border-radius: %7px; padding: %3px %5px; color: #6B767B; }
QPushButton[role="chip"]:checked { background: #E3F0EE; border-color: #0F5C63; color: #0F5C63; }
QFrame[role="entry"] { background: #FFF7E6; border: 2px solid #D9971A; border-radius: 6px; }
QFrame[role="advice"] { background: #EFF6F4; border: 1px solid #BFD6D2; border-radius: 6px; }
QFrame[role="card"] { background: #FFFFFF; border: 1px solid #D3DAD6; border-radius: 6px; }
QFrame[role="line"] { background: #D3DAD6; border: none; max-height: 1px; min-height: 1px; }
QListView { border: 1px solid #D3DAD6; background: #FFFFFF; }
QToolTip { background: #24333A; color: #FFFFFF; border: none; padding: 4px; }
)")
        .arg(pad)
        .arg(pad * 2)
        .arg(pad - 1)
        .arg(pad * 2 - 1)
        .arg(pad * 3)
        .arg(pad * 3 - 1)
        .arg(em() * 3 / 4);
}

}  // namespace punch::theme
