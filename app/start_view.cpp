#include "app/start_view.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "core/base/quantity.h"
#include "core/model/model.h"
#include "core/part/formation_kinds.h"

namespace punch {

FormationCard::FormationCard(const Look& look, QWidget* parent) : QPushButton(parent), look_(look) {
    setCheckable(true);
    setAutoExclusive(true);
    setAccessibleName(look.title);
    setMinimumSize(sizeHint());
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize FormationCard::sizeHint() const { return {theme::em() * 11, theme::em() * 8}; }

void FormationCard::paintEvent(QPaintEvent*) {
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
    // The real formation, placed by the core at its plausible sizes.
    auto part = newPart(look_.plan);
    if (look_.pinless) {
        // Something printed, with a hole beside it.
        const QPointF c(width() / 2.0, em * 2.7);
        p.setPen(QPen(theme::kCopperEdge, 1.1));
        p.setBrush(theme::kCopper);
        p.drawEllipse(c, em * 0.6, em * 0.6);
        p.setPen(QPen(theme::kCopperEdge, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(c, em * 1.5, em * 1.5);
    } else if (part) {
        part->formations.front().ownPitch = look_.ownPitch;
        if (look_.ownPitch) part->assumed["rearPitch"] = Length::fromMm(9);
        const Model model(*part);
        const ModelAt at(model, model.start());
        QList<QPointF> pins;
        QRectF box;
        for (const FeatureId& id : part->formations.front().pins) {
            const Feature f = at.feature(model.featureIndex(id));
            pins << QPointF(f.x.value(), -f.y.value());
            box |= QRectF(pins.last() - QPointF(0.01, 0.01), QSizeF(0.02, 0.02));
        }
        const QRectF room(em, em * 0.9, width() - 2 * em, em * 3.6);
        const double scale = std::min(
            {room.width() / std::max(box.width(), 0.1), room.height() / std::max(box.height(), 0.1), em * 0.22});
        for (const QPointF& pin : pins) {
            const QPointF c = room.center() + (pin - box.center()) * scale;
            const double r = std::min(em * 0.42, scale * 1.8);
            p.setPen(QPen(theme::kCopperEdge, 1.1));
            p.setBrush(theme::kCopper);
            p.drawEllipse(c, r, r);
            p.setBrush(Qt::white);
            p.drawEllipse(c, r * 0.5, r * 0.5);
        }
    }
    p.setPen(theme::kInk);
    p.setFont(theme::text(1.0, true));
    p.drawText(QRectF(em * 0.9, em * 5.2, width() - em * 1.8, em * 1.3), Qt::AlignLeft | Qt::AlignVCenter, look_.title);
    p.setFont(theme::text(0.85));
    p.setPen(theme::kQuiet);
    p.drawText(QRectF(em * 0.9, em * 6.4, width() - em * 1.8, em * 1.2), Qt::AlignLeft | Qt::AlignVCenter, look_.words);
}

/// One card for each way in which pins stand.
QGridLayout* StartView::buildCards(QWidget* inner) {
    auto* cards = new QGridLayout;
    cards->setSpacing(theme::em() * 3 / 4);
    const auto plan = [](FormationKind kind, std::vector<int> rows, bool arc = false) {
        FormationPlan of;
        of.kind = kind;
        of.rows = std::move(rows);
        of.arc = arc;
        return of;
    };
    FormationPlan grid = plan(FormationKind::Grid, {4, 4, 4});
    grid.leftOut = {5};
    const FormationCard::Look looks[] = {
        {plan(FormationKind::Row, {4}), false, tr("Row"), tr("4 pins")},
        {plan(FormationKind::TwoRows, {4, 4}), false, tr("Two rows"), tr("4 4: front and rear")},
        {plan(FormationKind::Staggered, {5, 4}), false, tr("Staggered rows"), tr("5 4: front to rear")},
        {plan(FormationKind::TwoRows, {8, 3}), true, tr("Two unlike rows"), tr("8 3: each with its pitch")},
        {plan(FormationKind::Ring, {6}), false, tr("Ring"), tr("6 pins around")},
        {plan(FormationKind::Ring, {6}, true), false, tr("Arc"), tr("6 pins, step measured")},
        {grid, false, tr("Grid"), tr("4 x 3: columns x rows")},
        {plan(FormationKind::Single, {1}), false, tr("One by one"), tr("each pin by itself")},
        {plan(FormationKind::Single, {1}), false, tr("No pins"), tr("fiducial, logo, screw"), true}};
    int n = 0;
    for (const FormationCard::Look& look : looks) {
        auto* card = new FormationCard(look, inner);
        card->setObjectName("card-" + look.title);
        cards->addWidget(card, n / 5, n % 5);
        cards_.push_back(card);
        connect(card, &QPushButton::clicked, this, &StartView::showChosen);
        ++n;
    }
    cards_.front()->setChecked(true);
    return cards;
}

/// How many pins and pegs, which leads.
QHBoxLayout* StartView::buildCounts(QWidget* inner) {
    const int em = theme::em();
    auto* counts = new QHBoxLayout;
    const auto field = [&](const QString& name, const QString& value, const QString& words) {
        auto* edit = new QLineEdit(value, inner);
        edit->setObjectName(name);
        edit->setFont(theme::digits(1.2));
        edit->setAlignment(Qt::AlignRight);
        edit->setFixedWidth(em * 6);
        auto* after = new QLabel(words, inner);
        after->setBuddy(edit);
        edit->setAccessibleName(words);
        counts->addWidget(edit);
        counts->addWidget(after);
        counts->addSpacing(em);
        connect(edit, &QLineEdit::returnPressed, this, &StartView::make);
        return edit;
    };
    pins_ = field("startPins", "4", tr("pins"));
    lead_ = new QComboBox(inner);
    lead_->setObjectName("startLead");
    lead_->setAccessibleName(tr("Leads"));
    lead_->addItem(tr("rectangular leads"), static_cast<int>(LeadShape::Rectangular));
    lead_->addItem(tr("square leads"), static_cast<int>(LeadShape::Square));
    lead_->addItem(tr("round leads"), static_cast<int>(LeadShape::Round));
    counts->addWidget(lead_);
    counts->addSpacing(em);
    pegs_ = field("startPegs", "0", tr("locating pegs"));
    counts->addStretch();
    return counts;
}

QWidget* StartView::buildFirst(QWidget* inner) {
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
    connect(show, &QPushButton::clicked, this, &StartView::showMe);
    return first_;
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
    label(tr("Choose how its pins stand, as you see them from the part side. Everything can be changed later."), 1.0,
          false, true);
    layout->addLayout(buildCards(inner));
    layout->addSpacing(em / 2);
    layout->addLayout(buildCounts(inner));
    wrong_ = new QLabel(inner);
    wrong_->setProperty("role", "warn");
    wrong_->hide();
    layout->addWidget(wrong_);
    layout->addSpacing(em / 2);
    label(tr("What do you know it from?"), 1.4, true, false);
    label(tr("Calipers: read, type, Enter. A drawing: its values with their letters and tolerances. They are reckoned "
             "together and check each other."),
          1.0, false, true);
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
    layout->addWidget(buildFirst(inner));
    layout->addStretch();
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

FormationCard* StartView::chosen() const {
    for (FormationCard* card : cards_)
        if (card->isChecked()) return card;
    return cards_.front();
}

void StartView::showChosen() {
    const FormationPlan& plan = chosen()->look().plan;
    QStringList rows;
    for (const int r : plan.rows) rows << QString::number(r);
    pins_->setText(traitsOf(plan.kind).grid ? QStringLiteral("%1 x %2").arg(plan.rows.front()).arg(plan.rows.size())
                                            : rows.join(' '));
    const bool pinless = chosen()->look().pinless;
    pins_->setEnabled(!pinless && traitsOf(plan.kind).count != PinCount::None);
    lead_->setEnabled(!pinless);
    if (pinless) pins_->setText(tr("none"));
    markWrong(pins_, false);
    wrong_->hide();
    pins_->setFocus();
    pins_->selectAll();
}

void StartView::make() {
    const auto refuse = [this](QLineEdit* edit, const Problem& p) {
        markWrong(edit, true);
        wrong_->setText(toQt(p.text()));
        wrong_->show();
        edit->setFocus();
    };
    markWrong(pins_, false);
    markWrong(pegs_, false);
    wrong_->hide();
    const FormationCard::Look& look = chosen()->look();
    FormationPlan plan = look.plan;
    if (!look.pinless && traitsOf(plan.kind).count != PinCount::None) {
        const auto rows = rowsFromText(plan.kind, pins_->text().toStdString());
        if (!rows) return refuse(pins_, rows.error());
        // A position that is left out belongs to the picture of the card only.
        plan.leftOut.clear();
        plan.rows = *rows;
    }
    auto part = look.pinless ? Result<Part>(newPartWithoutPins()) : newPart(plan);
    if (!part) return refuse(pins_, part.error());
    if (!look.pinless) part->formations.front().ownPitch = look.ownPitch;
    if (look.ownPitch) part->given.erase("rowShift");
    const auto pegs = parseNumber(pegs_->text().toStdString());
    if (!pegs) return refuse(pegs_, pegs.error());
    if (*pegs < 0 || *pegs > 20 || *pegs != std::floor(*pegs))
        return refuse(pegs_, {"0 to 20 pegs can be set", "locating pegs", "Type a number from 0 to 20"});
    if (!look.pinless) part->formations.front().lead = static_cast<LeadShape>(lead_->currentData().toInt());
    for (int i = 0; i < static_cast<int>(*pegs); ++i) part = withSpot(*part);
    emit partMade(*part);
}

}  // namespace punch
