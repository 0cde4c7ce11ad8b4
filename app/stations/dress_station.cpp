#include "app/stations/dress_station.h"
#include "app/qt_text.h"

#include <QHBoxLayout>

#include "core/dress/courtyard.h"

namespace punch {

DressStation::DressStation(Document& document, ViewState& view, QWidget* parent) : FormColumn(document, view, parent) {
    const auto dressField = [this](const char* name) {
        field(
            dressFields(), name, [](auto& part) -> auto& { return part.dress; });
    };
    title(tr("Top silkscreen"));
    for (const char* name : {"outline", "outlineAllowance", "line", "mark", "referenceText"}) dressField(name);
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
    dressField("textHeight");
    note(tr("Ink stays 0.15 mm clear of mask openings and bare holes; lines that come nearer are cut away."));

    title(tr("Assembly drawing"));
    dressField("valueText");

    title(tr("Courtyard"));
    const Field<Dress>& density = fieldNamed(dressFields(), "density");
    const auto& densities = std::get<Choice<Dress>>(density.member);
    QStringList words;
    for (const std::string_view word : densities.words) words << toQt(std::string(word));
    choice(
        tr(density.label), "density", words, [densities](const Part& p) { return densities.get(p.dress); },
        [densities](Part& p, int at) {
            densities.set(p.dress, at);
            p.dress.courtyardExcess.reset();
        })
        ->setToolTip(tr(density.help));
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
