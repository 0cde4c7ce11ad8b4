#include "app/pins/symbol_dialog.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/symbol/symbol_drawing.h"

namespace punch {

SymbolDialog::SymbolDialog(const Part& part, QWidget* parent) : QDialog(parent), part_(part) {
    setWindowTitle(tr("Symbol of %1").arg(toQt(part.name)));
    setObjectName("symbolDialog");
    resize(theme::em() * 60, theme::em() * 32);
    auto* box = new QVBoxLayout(this);
    auto* middle = new QHBoxLayout;
    auto* left = new QVBoxLayout;
    auto* begin = new QPushButton(tr("Begin with…"), this);
    begin->setObjectName("symbolBegin");
    begin->setAutoDefault(false);
    auto* menu = new QMenu(begin);
    for (const SymbolBeginning& b : symbolBeginnings())
        menu->addAction(tr(b.name), this, [this, lines = QString(b.lines)] {
            if (!text_->toPlainText().isEmpty() && !text_->toPlainText().endsWith('\n')) text_->appendPlainText(QString());
            text_->moveCursor(QTextCursor::End);
            text_->insertPlainText(lines);
        });
    begin->setMenu(menu);
    left->addWidget(begin, 0, Qt::AlignLeft);
    text_ = new QPlainTextEdit(this);
    text_->setObjectName("symbolLines");
    text_->setAccessibleName(tr("Shapes and attributes, one a line"));
    text_->setFont(theme::digits());
    text_->setPlaceholderText(tr("line 0 0  2.54 0\narc 0 0  1 1  2 0\ncircle 0 0  1.27 0\npolygon 0 0  1 0  1 1 filled\n"
                                 "text 0 2.54 \"NO\"\nRating = 230 V 5 A shown\nwithout block"));
    text_->setPlainText(toQt(symbolDrawingText(part.symbol)));
    left->addWidget(text_, 1);
    words_ = new WrappedLabel(this);
    words_->setObjectName("symbolTrouble");
    left->addWidget(words_);
    middle->addLayout(left, 2);
    view_ = new SymbolView(this);
    middle->addWidget(view_, 3);
    box->addLayout(middle, 1);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    auto* leave = new QPushButton(tr("Leave it"), this);
    leave->setAutoDefault(false);
    keep_ = new QPushButton(tr("Keep the symbol"), this);
    keep_->setObjectName("keepSymbol");
    keep_->setProperty("role", "main");
    buttons->addWidget(leave);
    buttons->addWidget(keep_);
    box->addLayout(buttons);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(keep_, &QPushButton::clicked, this, &QDialog::accept);
    connect(text_, &QPlainTextEdit::textChanged, this, &SymbolDialog::typed);
    connect(view_, &SymbolView::placeClicked, this, [this](double x, double y) {
        text_->insertPlainText(QString(" %1 %2 ").arg(x).arg(y));
        text_->setFocus();
    });
    typed();
    text_->setFocus();
}

void SymbolDialog::typed() {
    const auto read = symbolDrawingFromText(text_->toPlainText().toStdString());
    keep_->setEnabled(read.has_value());
    words_->setStyleSheet(read ? QString() : theme::styled("color: @vermilion;"));
    words_->setText(read ? tr("Places in mm from the middle of the block. Click on the symbol to put a place into the line.")
                         : toQt(read.error().text()));
    // What cannot be read leaves the drawing as it was.
    if (read) part_.symbol = *read;
    view_->show(part_, {}, -1);
}

}  // namespace punch
