#include "app/side/chain_view.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QPushButton>
#include <algorithm>

#include "app/qt_text.h"
#include "app/side/section_view.h"
#include "app/theme.h"
#include "app/widgets/remove_rows.h"

namespace punch {
namespace {

/// One step: what, how, and the value. A step with a link takes focus and clicks.
class StepRow : public QWidget {
public:
    StepRow(QString label, QString detail, QString value, bool link, QWidget* parent)
        : QWidget(parent), label_(std::move(label)), detail_(std::move(detail)), value_(std::move(value)), link_(link) {
        setFixedHeight(theme::em() * (detail_.isEmpty() ? 3 : 3) / 2 + (detail_.isEmpty() ? 0 : theme::em()));
        setCursor(link_ ? Qt::PointingHandCursor : Qt::ArrowCursor);
        setFocusPolicy(link_ ? Qt::TabFocus : Qt::NoFocus);
        setAccessibleName(label_ + " " + detail_ + " " + value_);
    }
    std::function<void()> follow;

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const double em = theme::em();
        if (underMouse() || hasFocus()) p.fillRect(rect(), theme::kPetrolPale);
        p.setPen(QPen(theme::kLine, 1.5));
        p.drawLine(QPointF(5, 0), QPointF(5, height()));
        p.setPen(Qt::NoPen);
        p.setBrush(theme::kPetrol);
        p.drawEllipse(QPointF(5, em * 0.75), 3.2, 3.2);
        p.setFont(theme::digits(0.95));
        p.setPen(theme::kInk);
        const double w = value_.isEmpty() ? 0 : p.fontMetrics().horizontalAdvance(value_) + 6;
        p.drawText(QRectF(0, 0, width() - 2, em * 1.5), Qt::AlignRight | Qt::AlignVCenter, value_);
        p.setFont(theme::text(0.95));
        p.setPen(link_ ? theme::kPetrol : theme::kInk);
        const QRectF box(16, 0, width() - 16 - w, em * 1.5);
        p.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(label_, Qt::ElideRight, static_cast<int>(box.width())));
        if (detail_.isEmpty()) return;
        p.setFont(theme::text(0.85));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(16, em * 1.3, width() - 16, em), Qt::AlignLeft | Qt::AlignVCenter, detail_);
    }
    void enterEvent(QEnterEvent*) override {
        if (link_) update();
    }
    void leaveEvent(QEvent*) override { update(); }
    void mouseReleaseEvent(QMouseEvent*) override {
        if (follow) follow();
    }
    void keyPressEvent(QKeyEvent* e) override {
        if ((e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter || e->key() == Qt::Key_Space) && follow)
            follow();
        else
            QWidget::keyPressEvent(e);
    }

private:
    QString label_, detail_, value_;
    bool link_;
};

}  // namespace

ChainView::ChainView(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme::em() / 3);
    title_ = new QLabel(this);
    title_->setWordWrap(true);
    title_->setProperty("role", "title");
    layout->addWidget(title_);
    auto* chips = new QHBoxLayout;
    chips->setSpacing(theme::em() / 3);
    choice_ = new QButtonGroup(this);
    const QStringList names = {tr("hole"), tr("land"), tr("x"), tr("y")};
    for (int i = 0; i < names.size(); ++i) {
        auto* chip = new QPushButton(names[i], this);
        chip->setProperty("role", "chip");
        static constexpr const char* kNames[] = {"chain-hole", "chain-land", "chain-x", "chain-y"};
        chip->setObjectName(kNames[i]);
        chip->setCheckable(true);
        choice_->addButton(chip, i);
        chips->addWidget(chip);
    }
    chips->addStretch();
    choice_->button(0)->setChecked(true);
    layout->addLayout(chips);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inner = new QWidget(scroll);
    inner->setObjectName("scrolled");
    steps_ = new QVBoxLayout(inner);
    steps_->setContentsMargins(0, 0, 4, 0);
    steps_->setSpacing(0);
    scroll->setWidget(inner);
    layout->addWidget(scroll, 1);
    connect(choice_, &QButtonGroup::idClicked, this, [this](int id) { view_.setChainOf(static_cast<ChainOf>(id)); });
    connect(&document_, &Document::changed, this, &ChainView::refresh);
    connect(&view_, &ViewState::changed, this, &ChainView::refresh);
    connect(&view_, &ViewState::unitChanged, this, &ChainView::refresh);
}

void ChainView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

bool ChainView::showMark(Shown& now) {
    const bool dressing = view_.station() == Station::Dress;
    const LaidMark* mark =
        dressing ? findIn(document_.footprint().laid, [&](const LaidMark& m) { return m.id == view_.mark(); })
                 : nullptr;
    // A mark has places, no holes and lands; surface lands have theirs.
    const Chains& chains = document_.footprint().chains;
    const auto lands = mark == nullptr ? chains.end() : chains.find("lands:" + mark->id);
    const bool places = mark != nullptr && !mark->points.empty();
    choice_->button(0)->setEnabled(mark == nullptr);
    choice_->button(1)->setEnabled(mark == nullptr || lands != chains.end());
    if (!places && lands == chains.end()) return false;
    const bool y = view_.chainOf() == ChainOf::Y;
    if (lands != chains.end() && view_.chainOf() == ChainOf::Land) {
        choice_->button(1)->setChecked(true);
        now.steps = lands->second;
        title_->setText(tr("Where the lands of %1 come from").arg(toQt(mark->name)));
        return true;
    }
    choice_->button(y ? 3 : 2)->setChecked(true);
    const int place = std::clamp(view_.markPlace(), 0, static_cast<int>(mark->points.size()) - 1);
    const auto chain = chains.find((y ? "y:" : "x:") + mark->id + "." + std::to_string(place));
    if (chain == chains.end()) return false;
    now.steps = chain->second;
    const Point at = mark->points[static_cast<std::size_t>(place)];
    title_->setText(tr("Where %1, place %2, %3 %4 comes from")
                        .arg(toQt(mark->name))
                        .arg(place + 1)
                        .arg(y ? tr("y") : tr("x"), view_.length(y ? at.y : at.x, 3)));
    return true;
}

void ChainView::refresh() {
    if (!isVisible()) return;  // filled when it is looked at
    Shown now;
    now.unit = view_.unit();
    if (document_.open() && !showMark(now)) {
        const Footprint& f = document_.footprint();
        const FeatureId id = shownFeature(document_, view_);
        const bool bare = f.bareHole(id) != nullptr;
        choice_->button(1)->setEnabled(!bare);
        const ChainOf of = bare && view_.chainOf() == ChainOf::Land ? ChainOf::Hole : view_.chainOf();
        choice_->button(static_cast<int>(of))->setChecked(true);
        static const char* const keys[] = {"hole:", "land:", "x:", "y:"};
        const auto chain = f.chains.find(keys[static_cast<int>(of)] + id);
        if (chain != f.chains.end()) {
            now.steps = chain->second;
            const bool size = of == ChainOf::Hole || of == ChainOf::Land;
            const QString value = now.steps.empty() || !now.steps.back().value
                                      ? QString()
                                      : view_.length(*now.steps.back().value, size ? 2 : 3);
            static const char* const names[] = {"hole", "land", "x", "y"};
            title_->setText(tr("Where %1 %2 comes from").arg(tr(names[static_cast<int>(of)]), value));
        }
    }
    // The same chain keeps its rows, and with them the place of the keyboard.
    if (now == shown_) return;
    shown_ = std::move(now);
    removeRows(steps_);
    for (const ChainStep& s : shown_.steps) {
        QString detail = toQt(fill(s.detail, s.of, view_.unit()));
        if (s.weight > 0) detail += tr("weight %1").arg(s.weight, 0, 'f', 2);
        auto* row = new StepRow(toQt(s.label), detail, s.value ? view_.value(*s.value) : QString(),
                                s.link != ChainStep::Link::None, this);
        const QString target = toQt(s.target);
        if (s.link == ChainStep::Link::Reading) row->follow = [this, target] { emit readingWanted(target); };
        if (s.link == ChainStep::Link::Rule) row->follow = [this, target] { emit ruleWanted(target); };
        if (s.link == ChainStep::Link::Parameter) row->follow = [this, target] { emit parameterWanted(target); };
        steps_->addWidget(row);
    }
    steps_->addStretch();
}

}  // namespace punch
