#include "app/start_view.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "core/base/quantity.h"

namespace punch {

LeadCard::LeadCard(LeadShape shape, const QString& title, const QString& words, QWidget* parent)
    : QPushButton(parent), shape_(shape), title_(title), words_(words) {
    setCheckable(true);
    setAutoExclusive(true);
    setAccessibleName(title);
    setMinimumSize(sizeHint());
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize LeadCard::sizeHint() const { return {theme::em() * 14, theme::em() * 9}; }

void LeadCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double em = theme::em();
    const bool on = isChecked();
    p.setPen(QPen(on || underMouse() ? theme::kPetrol : theme::kLine, on ? 2.5 : 1.4));
    p.setBrush(Qt::white);
    p.drawRoundedRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5), 6, 6);
    if (hasFocus()) {
        p.setPen(QPen(theme::kMarigold, 1.5, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(5, 5, -5, -5), 4, 4);
    }
    const double pitch = em * 2.1;
    for (int i = 0; i < 4; ++i) {
        const QPointF c(width() / 2.0 + (i - 1.5) * pitch, em * 3);
        const double r = em * 0.72;
        p.setPen(QPen(theme::kCopperEdge, 1.2));
        p.setBrush(theme::kCopper);
        i == 0 ? p.drawRect(QRectF(c.x() - r, c.y() - r, 2 * r, 2 * r)) : p.drawEllipse(c, r, r);
        p.setBrush(Qt::white);
        p.drawEllipse(c, r * 0.62, r * 0.62);
        p.setPen(QPen(theme::kSteelEdge, 1));
        p.setBrush(theme::kSteel);
        const double w = r * (shape_ == LeadShape::Rectangular ? 0.5 : 0.4);
        const double h = r * (shape_ == LeadShape::Rectangular ? 0.28 : 0.4);
        shape_ == LeadShape::Round ? p.drawEllipse(c, w, w) : p.drawRect(QRectF(c.x() - w, c.y() - h, 2 * w, 2 * h));
    }
    p.setPen(theme::kInk);
    p.setFont(theme::text(1.05, true));
    p.drawText(QRectF(em * 0.9, em * 5.6, width() - em * 1.8, em * 1.4), Qt::AlignLeft | Qt::AlignVCenter, title_);
    p.setFont(theme::text(0.9));
    p.setPen(theme::kQuiet);
    p.drawText(QRectF(em * 0.9, em * 6.9, width() - em * 1.8, em * 1.4), Qt::AlignLeft | Qt::AlignVCenter, words_);
}

StartView::StartView(QWidget* parent) : QWidget(parent) {
    const int em = theme::em();
    auto* outer = new QHBoxLayout(this);
    auto* inner = new QWidget(this);
    inner->setMaximumWidth(em * 66);
    outer->addWidget(inner, 0, Qt::AlignTop);
    outer->addStretch(1);
    auto* layout = new QVBoxLayout(inner);
    layout->setContentsMargins(em * 5 / 2, em * 2, em * 2, em * 2);
    layout->setSpacing(em * 2 / 3);
    const auto label = [&](const QString& words, double size, bool bold, bool quiet) {
        auto* l = new QLabel(words, inner);
        l->setFont(theme::text(size, bold));
        l->setWordWrap(true);
        if (quiet) l->setProperty("role", "quiet");
        layout->addWidget(l);
        return l;
    };
    label(tr("What are you holding?"), 1.8, true, false);
    label(tr("A row of pins. Choose its leads as you see them at their ends; everything can be changed later."), 1.0,
          false, true);
    auto* cards = new QHBoxLayout;
    cards->setSpacing(em);
    cards_ = {
        new LeadCard(LeadShape::Rectangular, tr("Row, rectangular leads"), tr("wider one way than the other"), inner),
        new LeadCard(LeadShape::Square, tr("Row, square leads"), tr("the same both ways"), inner),
        new LeadCard(LeadShape::Round, tr("Row, round leads"), tr("wire or turned pins"), inner)};
    for (LeadCard* card : cards_) cards->addWidget(card);
    cards_.front()->setChecked(true);
    layout->addLayout(cards);
    layout->addSpacing(em);
    label(tr("How many?"), 1.4, true, false);
    auto* counts = new QHBoxLayout;
    const auto field = [&](const QString& name, const QString& value, const QString& words) {
        auto* edit = new QLineEdit(value, inner);
        edit->setObjectName(name);
        edit->setFont(theme::digits(1.2));
        edit->setAlignment(Qt::AlignRight);
        edit->setFixedWidth(em * 5);
        auto* after = new QLabel(words, inner);
        after->setBuddy(edit);
        edit->setAccessibleName(words);
        counts->addWidget(edit);
        counts->addWidget(after);
        counts->addSpacing(em * 2);
        connect(edit, &QLineEdit::returnPressed, this, &StartView::make);
        return edit;
    };
    pins_ = field("startPins", "4", tr("pins"));
    pegs_ = field("startPegs", "0", tr("locating pegs"));
    counts->addStretch();
    layout->addLayout(counts);
    wrong_ = new QLabel(inner);
    wrong_->setProperty("role", "warn");
    wrong_->hide();
    layout->addWidget(wrong_);
    layout->addSpacing(em);
    label(tr("What do you know it from?"), 1.4, true, false);
    label(tr("Calipers: read, type, Enter. Sources such as a drawing's link or a picture are kept with the part."), 1.0,
          false, true);
    layout->addSpacing(em / 2);
    auto* go = new QHBoxLayout;
    auto* make = new QPushButton(tr("Put it on the bench"), inner);
    make->setObjectName("putOnBench");
    make->setProperty("role", "main");
    make->setMinimumSize(em * 16, em * 3);
    auto* enter = new QLabel(tr("Enter"), inner);
    enter->setProperty("role", "quiet");
    go->addWidget(make);
    go->addWidget(enter);
    go->addStretch();
    layout->addLayout(go);
    connect(make, &QPushButton::clicked, this, &StartView::make);
    layout->addSpacing(em);
    first_ = new QWidget(inner);
    auto* first = new QVBoxLayout(first_);
    first->setContentsMargins(0, 0, 0, 0);
    auto* firstTitle = new QLabel(tr("First time here?"), first_);
    firstTitle->setFont(theme::text(1.1, true));
    first->addWidget(firstTitle);
    auto* firstLine = new QHBoxLayout;
    firstLine->addWidget(
        new QLabel(tr("Look at the terminal QB-TB4: fifteen readings, one checked footprint."), first_));
    auto* show = new QPushButton(tr("Show me"), first_);
    show->setProperty("role", "link");
    show->setObjectName("showMe");
    firstLine->addWidget(show);
    firstLine->addStretch();
    first->addLayout(firstLine);
    layout->addWidget(first_);
    layout->addStretch();
    connect(show, &QPushButton::clicked, this, &StartView::showMe);
}

void StartView::setShowMe(bool possible) { first_->setVisible(possible); }

void StartView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme::kPaper);
    p.setPen(theme::kGraph);
    const int step = theme::em() * 3 / 2;
    for (int x = step; x < width(); x += step) p.drawLine(x, 0, x, height());
    for (int y = step; y < height(); y += step) p.drawLine(0, y, width(), y);
}

void StartView::make() {
    const auto whole = [](QLineEdit* edit) -> Result<int> {
        const auto value = parseNumber(edit->text().toStdString());
        if (!value) return tl::make_unexpected(value.error());
        if (*value != std::floor(*value) || std::abs(*value) > 1e6)
            return problem("this is no whole number", "“" + edit->text().toStdString() + "”",
                           "Type how many there are");
        return static_cast<int>(*value);
    };
    const auto refuse = [this](QLineEdit* edit, const Problem& p) {
        markWrong(edit, true);
        wrong_->setText(toQt(p.text()));
        wrong_->show();
        edit->setFocus();
    };
    markWrong(pins_, false);
    markWrong(pegs_, false);
    wrong_->hide();
    const auto pins = whole(pins_);
    if (!pins) return refuse(pins_, pins.error());
    auto part = newRow(*pins);
    if (!part) return refuse(pins_, part.error());
    const auto pegs = whole(pegs_);
    if (!pegs) return refuse(pegs_, pegs.error());
    if (*pegs < 0 || *pegs > 20)
        return refuse(pegs_, {"0 to 20 pegs can be set", "locating pegs", "Type a number from 0 to 20"});
    for (LeadCard* card : cards_)
        if (card->isChecked()) part->formations.front().lead = card->shape();
    for (int i = 0; i < *pegs; ++i) part = withSpot(*part);
    emit partMade(*part);
}

}  // namespace punch
