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
    return kIdle;
}

QColor stateInk(GaugeState state) {
    if (state == GaugeState::Watch) return kMarigoldInk;
    if (state == GaugeState::Unknown) return kQuiet;
    return stateColor(state);
}

QColor through(QColor colour, double share) {
    colour.setAlphaF(static_cast<float>(share));
    return colour;
}

QString styled(QString text) {
    // Longer names first, so that none is taken for the beginning of another.
    static const std::pair<const char*, QColor> names[] = {
        {"@vermilionPale", kVermilionPale},
        {"@vermilionInk", kVermilionInk},
        {"@vermilion", kVermilion},
        {"@marigoldPale", kMarigoldPale},
        {"@marigoldInk", kMarigoldInk},
        {"@marigold", kMarigold},
        {"@petrolPale", kPetrolPale},
        {"@petrol", kPetrol},
        {"@adviceEdge", kAdviceEdge},
        {"@advice", kAdvice},
        {"@white", Qt::white},
        {"@quiet", kQuiet},
        {"@strip", kStrip},
        {"@edge", kEdge},
        {"@idle", kIdle},
        {"@line", kLine},
        {"@rail", kRail},
        {"@ink", kInk},
        {"@go", kGo},
    };
    for (const auto& [name, colour] : names) text.replace(QLatin1String(name), colour.name(QColor::HexRgb));
    return text;
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
    return styled(QStringLiteral(R"(
QWidget { color: @ink; }
QWidget#column, QWidget#side { background: @white; }
QWidget#topBar { background: @white; border-bottom: 1px solid @line; }
QScrollArea, QScrollArea > QWidget > QWidget#scrolled { background: @white; border: none; }
QLabel[role="title"] { font-weight: bold; }
QLabel[role="quiet"] { color: @quiet; }
QLabel[role="warn"] { color: @vermilion; }
QLineEdit, QPlainTextEdit {
  background: @white; border: 1px solid @edge; border-radius: 4px; padding: %1px %2px;
  selection-background-color: @petrol; selection-color: @white; }
QLineEdit:focus, QPlainTextEdit:focus { border: 2px solid @petrol; padding: %3px %4px; }
QLineEdit[wrong="true"] { border: 2px solid @vermilion; background: @vermilionPale; padding: %3px %4px; }
QPushButton { background: @white; border: 1px solid @edge; border-radius: 4px; padding: %1px %5px; }
QPushButton:hover { border-color: @petrol; }
QPushButton:focus { border: 2px solid @petrol; padding: %3px %6px; }
QPushButton:disabled { color: @idle; }
QPushButton[role="main"] { background: @petrol; color: @white; border-color: @petrol; font-weight: bold; }
QPushButton[role="main"]:disabled { background: @edge; border-color: @edge; }
QPushButton[role="link"] { border: none; background: transparent; color: @petrol; font-weight: bold; padding: %1px; }
QPushButton[role="link"]:hover, QPushButton[role="link"]:focus { text-decoration: underline; }
QPushButton[role="chip"] { border-radius: %7px; padding: %3px %5px; color: @quiet; }
QPushButton[role="chip"]:disabled, QPushButton[role="chip"]:checked:disabled { background: @rail; border-color: @line; color: @quiet; }
QPushButton[role="chip"]:checked:enabled { background: @petrolPale; border-color: @petrol; color: @petrol; }
QPushButton[role="row"] { text-align: left; border: 1px solid transparent; background: transparent; color: @ink; padding: %3px %5px; }
QPushButton[role="row"]:hover { border-color: @edge; }
QPushButton[role="row"]:focus { border: 1px solid @petrol; }
QPushButton[role="row"]:checked { background: @petrolPale; color: @petrol; font-weight: bold; }
QFrame[role="entry"] { background: @marigoldPale; border: 2px solid @marigold; border-radius: 6px; }
QFrame[role="advice"] { background: @advice; border: 1px solid @adviceEdge; border-radius: 6px; }
QFrame[role="card"] { background: @white; border: 1px solid @line; border-radius: 6px; }
QFrame[role="line"] { background: @line; border: none; max-height: 1px; min-height: 1px; }
QListView { border: 1px solid @line; background: @white; }
QToolTip { background: @ink; color: @white; border: none; padding: 4px; }
)"))
        .arg(pad)
        .arg(pad * 2)
        .arg(pad - 1)
        .arg(pad * 2 - 1)
        .arg(pad * 3)
        .arg(pad * 3 - 1)
        .arg(em() * 3 / 4);
}

}  // namespace punch::theme
