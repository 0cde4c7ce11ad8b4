#include "app/stations/dress_station.h"
#include "app/qt_text.h"

#include <QHBoxLayout>

#include "core/dress/courtyard.h"

namespace punch {

DressStation::DressStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    title(tr("Top silkscreen"));
    check(
        tr("Outline around the body"), "outline", [](const Part& p) { return p.dress.outline; },
        [](Part& p, bool on) { p.dress.outline = on; });
    length(
        tr("Outside the body by"), "outlineAllowance", [](const Part& p) { return p.dress.outlineAllowance; },
        [](Part& p, Length l) { p.dress.outlineAllowance = l; }, {}, Length::fromMm(20));
    length(
        tr("Line"), "line", [](const Part& p) { return p.dress.line; }, [](Part& p, Length l) { p.dress.line = l; },
        Length::fromMm(0.05), Length::fromMm(2));
    choice<PinOneMark>(
        tr("Pin 1 mark"), "mark", [](const Part& p) { return p.dress.mark; },
        [](Part& p, PinOneMark m) { p.dress.mark = m; });
    check(
        tr("Reference text"), "referenceText", [](const Part& p) { return p.dress.referenceText; },
        [](Part& p, bool on) { p.dress.referenceText = on; });
    reference_ = textField(this, "reference");
    row(tr("Class letter"), reference_, "reference");
    reference_->setToolTip(tr("IEC 81346-2: X for terminals and connectors, K for relays, S for switches"));
    connect(reference_, &QLineEdit::editingFinished, this, [this] {
        if (!reference_->isModified()) return;
        const QString text = reference_->text().trimmed();
        if (text.isEmpty() || text.size() > 8) {
            markWrong(reference_, true);
            view_.say(tr("Class letter: type one to eight letters"));
            return;
        }
        reference_->setModified(false);
        markWrong(reference_, false);
        view_.say({});
        Part next = document_.part();
        next.reference = text.toStdString();
        document_.apply(tr("class letter"), std::move(next));
    });
    length(
        tr("Text height"), "textHeight", [](const Part& p) { return p.dress.textHeight; },
        [](Part& p, Length l) { p.dress.textHeight = l; }, Length::fromMm(0.3), Length::fromMm(20));
    note(tr("Ink stays 0.15 mm clear of mask openings and bare holes; lines that come nearer are cut away."));

    title(tr("Assembly drawing"));
    check(
        tr("Value text in the body"), "valueText", [](const Part& p) { return p.dress.valueText; },
        [](Part& p, bool on) { p.dress.valueText = on; });

    title(tr("Courtyard"));
    choice<Density>(
        tr("IPC-7351 density"), "density", [](const Part& p) { return p.dress.density; },
        [](Part& p, Density d) {
            p.dress.density = d;
            p.dress.courtyardExcess.reset();
        });
    excess_ = length(
        tr("Excess"), "courtyardExcess",
        [](const Part& p) { return p.dress.courtyardExcess.value_or(courtyardExcessOf(p.dress.density)); },
        [](Part& p, Length l) { p.dress.courtyardExcess = l; }, {}, Length::fromMm(50));
    excessNote_ = note();

    title(tr("Keepout"));
    keepoutName_ = textField(this, "keepoutName");
    row(tr("Name"), keepoutName_, "keepoutName");
    connect(keepoutName_, &QLineEdit::editingFinished, this, [this] {
        if (!keepoutName_->isModified()) return;
        keepoutName_->setModified(false);
        const std::string name = keepoutName_->text().trimmed().toStdString();
        editKeepout([name](Keepout& k) { k.name = name; }, tr("keepout name"));
    });
    keepoutSide_ = new QComboBox(this);
    for (const auto& [side, word] : Names<Side>::table)
        keepoutSide_->addItem(tr("%1 face").arg(toQt(word)), static_cast<int>(side));
    row(tr("Beyond the"), keepoutSide_, "keepoutSide");
    connect(keepoutSide_, &QComboBox::activated, this, [this] {
        const auto side = static_cast<Side>(keepoutSide_->currentData().toInt());
        editKeepout([side](Keepout& k) { k.side = side; }, tr("keepout side"));
    });
    keepoutDepth_ = length(
        tr("Depth"), "keepoutDepth",
        [](const Part& p) { return p.dress.keepouts.empty() ? Length::fromMm(3) : p.dress.keepouts.front().depth; },
        [](Part& p, Length l) {
            if (!p.dress.keepouts.empty()) p.dress.keepouts.front().depth = l;
        },
        Length::fromMm(0.01), Length::fromMm(500));
    keepoutHeight_ = length(
        tr("Nothing taller than"), "keepoutHeight",
        [](const Part& p) { return p.dress.keepouts.empty() ? Length::fromMm(2) : p.dress.keepouts.front().maxHeight; },
        [](Part& p, Length l) {
            if (!p.dress.keepouts.empty()) p.dress.keepouts.front().maxHeight = l;
        },
        {}, Length::fromMm(500));
    add_ = new QPushButton(tr("Add a keepout"), this);
    add_->setObjectName("addKeepout");
    add(add_);
    connect(add_, &QPushButton::clicked, this, &DressStation::addKeepout);
    remove_ = new QPushButton(tr("Remove it"), this);
    remove_->setObjectName("removeKeepout");
    add(remove_);
    connect(remove_, &QPushButton::clicked, this, [this] {
        const auto& keepouts = document_.part().dress.keepouts;
        if (keepouts.empty()) return;
        document_.apply(tr("removal of a keepout"), withoutKeepout(document_.part(), keepouts.front().id));
    });
    stretch();
    connectRefresh();
}

void DressStation::editKeepout(const std::function<void(Keepout&)>& change, const QString& what) {
    Part next = document_.part();
    if (next.dress.keepouts.empty()) return;
    change(next.dress.keepouts.front());
    document_.apply(what, std::move(next));
}

void DressStation::addKeepout() {
    if (!document_.open() || !document_.part().dress.keepouts.empty()) return;
    Part next = document_.part();
    next.dress.keepouts.push_back(
        {"k" + std::to_string(next.nextId++), "travel", Side::Front, Length::fromMm(3), Length::fromMm(2), {}});
    document_.apply(tr("keepout"), std::move(next));
}

void DressStation::refresh() {
    const Part& part = document_.part();
    const bool any = !part.dress.keepouts.empty();
    for (QWidget* w : {static_cast<QWidget*>(keepoutName_), static_cast<QWidget*>(keepoutSide_),
                       static_cast<QWidget*>(keepoutDepth_), static_cast<QWidget*>(keepoutHeight_)})
        w->setEnabled(any);
    // Before there is a keepout its fields would only look as if they did something.
    for (const char* name : {"keepoutName", "keepoutSide", "keepoutDepth", "keepoutHeight"}) setRowVisible(name, any);
    remove_->setVisible(any);
    add_->setVisible(!any);
    if (!keepoutName_->hasFocus()) keepoutName_->setText(any ? toQt(part.dress.keepouts.front().name) : QString());
    if (any) keepoutSide_->setCurrentIndex(keepoutSide_->findData(static_cast<int>(part.dress.keepouts.front().side)));
    if (!reference_->hasFocus() && !reference_->property("wrong").toBool()) reference_->setText(toQt(part.reference));
    const Length rule = courtyardExcessOf(part.dress.density);
    const bool relaxed = part.dress.courtyardExcess && *part.dress.courtyardExcess < rule;
    excessNote_->setText(relaxed ? tr("Less than the rule asks (%1).").arg(view_.length(rule, 2))
                                 : tr("Around body, lands and travel; the rule asks %1.").arg(view_.length(rule, 2)));
}

}  // namespace punch
