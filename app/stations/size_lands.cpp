// Size: the land and hole of a pin, a formation or the whole part; what is set against the rules, and its undoing.

#include <QHBoxLayout>

#include "app/qt_text.h"
#include "app/side/section_view.h"
#include "app/stations/size_station.h"
#include "core/clear/room.h"
#include "core/geometry/shapes.h"
#include "core/part/numbering.h"
#include "core/size/pad_rules.h"

namespace punch {

void SizeStation::buildLands() {
    title(tr("One land"));
    landOf_ = new QComboBox(this);
    row(tr("For"), landOf_, "landOf");
    connect(landOf_, &QComboBox::activated, this, [this] { refreshLands(); });
    landNote_ = note();
    landShape_ = new QComboBox(this);
    landShape_->addItem(tr("by rule"), -1);
    for (const auto& [shape, word] : Names<LandShape>::table) landShape_->addItem(toQt(word), static_cast<int>(shape));
    row(tr("Shape"), landShape_, "landShape");
    connect(landShape_, &QComboBox::activated, this, [this](int) {
        changeOverride(tr("shape of a land"), [this](PadOverride& o) {
            const int shape = landShape_->currentData().toInt();
            o.shape = shape < 0 ? std::nullopt : std::optional(static_cast<LandShape>(shape));
        });
    });
    landField(tr("Width"), "landWidth", &PadOverride::land, Sign::Above);
    landField(tr("Length"), "landLength", &PadOverride::landLength, Sign::Above);
    landField(tr("Hole"), "landHole", &PadOverride::hole, Sign::Above);
    landField(tr("Corner radius"), "landCorner", &PadOverride::corner, Sign::Above);
    landField(tr("Off hole, x"), "landOffsetX", &PadOverride::offsetX, Sign::Any);
    landField(tr("Off hole, y"), "landOffsetY", &PadOverride::offsetY, Sign::Any);
    landField(tr("On inner layers"), "landInner", &PadOverride::inner, Sign::Above);
    landField(tr("On solder side"), "landBottom", &PadOverride::bottom, Sign::Above);
    landField(tr("Slot over ends"), "landSlotLength", &PadOverride::holeLength, Sign::Above);
    landField(tr("Mask, per side"), "landMask", &PadOverride::maskMargin, Sign::NotNegative);
    landHead_ = textField(this, "landHead");
    landHead_->setFont(theme::digits());
    landHead_->setAlignment(Qt::AlignRight);
    landHead_->setToolTip(tr("A screw's head or a washer on the board: it counts as copper on both faces"));
    row(tr("Metal around it"), landHead_, "landHead");
    connect(landHead_, &QLineEdit::editingFinished, this, [this] {
        const std::string target = landTarget();
        if (!landHead_->isModified() || spotOf(document_.part(), target) == nullptr) return;
        const QString typed = landHead_->text().trimmed();
        const auto value = typed.isEmpty() ? Result<Length>(Length()) : parseLength(typed.toStdString(), view_.unit());
        if (!value || *value < Length() || *value > Length::fromMm(100)) {
            markWrong(landHead_, true);
            view_.say(value ? tr("Metal around it: a diameter from 0 to 100 mm") : toQt(value.error().text()));
            return;
        }
        landHead_->setModified(false);
        markWrong(landHead_, false);
        view_.say({});
        Part next = document_.part();
        for (Spot& spot : next.spots)
            if (spot.id == target) spot.head = *value;
        document_.apply(tr("metal on the board"), std::move(next));
    });
    landTurn_ = textField(this, "landTurn");
    landTurn_->setFont(theme::digits());
    landTurn_->setAlignment(Qt::AlignRight);
    row(tr("Turned, °"), landTurn_, "landTurn");
    connect(landTurn_, &QLineEdit::editingFinished, this, [this] {
        if (!landTurn_->isModified()) return;
        const QString typed = landTurn_->text().trimmed();
        const auto value = parseNumber(typed.toStdString());
        if (!typed.isEmpty() && (!value || std::abs(*value) > 360)) {
            markWrong(landTurn_, true);
            view_.say(value ? tr("Turned: between -360 and 360 degrees") : toQt(value.error().text()));
            return;
        }
        landTurn_->setModified(false);
        markWrong(landTurn_, false);
        view_.say({});
        changeOverride(tr("turn of a land"), [&](PadOverride& o) {
            o.turn = typed.isEmpty() ? std::nullopt : std::optional(Angle::fromDegrees(*value));
        });
    });
    const auto tick = [&](const QString& words, const QString& name, std::optional<bool> PadOverride::*field) {
        auto* box = new QCheckBox(words, this);
        box->setObjectName(name);
        add(box);
        connect(box, &QCheckBox::clicked, this, [this, words, field](bool on) {
            changeOverride(words, [&](PadOverride& o) { o.*field = on ? std::optional(true) : std::nullopt; });
        });
        landTicks_.push_back({box, field});
    };
    tick(tr("slot for a blade"), "landSlot", &PadOverride::slot);
    tick(tr("soldered in, with a land"), "landPlated", &PadOverride::plated);
    tick(tr("tented"), "landTented", &PadOverride::tented);
    tick(tr("paste"), "landPaste", &PadOverride::paste);
    landLayers_ = new QComboBox(this);
    landLayers_->addItem(tr("through the board"), -1);
    landLayers_->addItem(tr("part side only"), static_cast<int>(PadLayers::Top));
    landLayers_->addItem(tr("solder side only"), static_cast<int>(PadLayers::Bottom));
    row(tr("Lands"), landLayers_, "landLayers");
    connect(landLayers_, &QComboBox::activated, this, [this](int) {
        changeOverride(tr("layers of a land"), [this](PadOverride& o) {
            const int layers = landLayers_->currentData().toInt();
            o.layers = layers < 0 ? std::nullopt : std::optional(static_cast<PadLayers>(layers));
        });
    });
    landReason_ = textField(this, "landReason");
    landReason_->setPlaceholderText(tr("why"));
    row(tr("Reason"), landReason_, "landReason");
    connect(landReason_, &QLineEdit::editingFinished, this, [this] {
        if (!landReason_->isModified()) return;
        landReason_->setModified(false);
        changeOverride(tr("reason"),
                       [this](PadOverride& o) { o.reason = landReason_->text().trimmed().toStdString(); });
    });
    std::vector<QWidget*> ticks;
    for (const auto& [box, field] : landTicks_)
        if (field != &PadOverride::plated) ticks.push_back(box);
    more(tr("Turn, offset, layers, mask, slot"),
         {"landCorner", "landOffsetX", "landOffsetY", "landInner", "landBottom", "landSlotLength", "landMask",
          "landTurn", "landLayers", "landReason"},
         ticks)
        ->setObjectName("moreLand");
    auto* buttons = new QWidget(this);
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    auto* best = new QPushButton(tr("Best land"), buttons);
    best->setObjectName("bestPad");
    best->setToolTip(tr("The largest that passes everything (Ctrl+B; Ctrl+Shift+B for the whole part)"));
    undoOverride_ = new QPushButton(tr("Back to the rule"), buttons);
    undoOverride_->setObjectName("undoOverride");
    undoOverride_->setToolTip(tr("Takes back what is set here (Ctrl+Backspace)"));
    line->addWidget(best);
    line->addWidget(undoOverride_);
    add(buttons);
    connect(best, &QPushButton::clicked, this, [this] { bestPad(landTarget()); });
    connect(undoOverride_, &QPushButton::clicked, this, [this] { takeOverrideBack(); });
}

void SizeStation::landField(const QString& label, const QString& name, std::optional<Length> PadOverride::*field,
                            Sign sign) {
    auto* edit = textField(this, name);
    edit->setFont(theme::digits());
    edit->setAlignment(Qt::AlignRight);
    row(label, edit, name);
    landFields_.push_back({edit, field});
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, field, label, sign] {
        if (!edit->isModified()) return;
        const QString typed = edit->text().trimmed();
        std::optional<Length> value;
        if (!typed.isEmpty()) {
            const auto length = parseLength(typed.toStdString(), view_.unit());
            QString wrong;
            if (!length)
                wrong = toQt(length.error().text());
            else if (sign == Sign::Above && *length <= Length())
                wrong = tr("a size is above 0");
            else if (sign == Sign::NotNegative && *length < Length())
                wrong = tr("not below 0");
            else if (abs(*length) > Length::fromMm(100))
                wrong = tr("100 mm at most");
            if (!wrong.isEmpty()) {
                markWrong(edit, true);
                view_.say(label + ": " + wrong);
                return;
            }
            value = *length;
        }
        edit->setModified(false);
        markWrong(edit, false);
        view_.say({});
        changeOverride(label, [&](PadOverride& o) { o.*field = value; });
    });
}

std::string SizeStation::landTarget() const { return landOf_->currentData().toString().toStdString(); }

void SizeStation::changeOverride(const QString& what, const std::function<void(PadOverride&)>& change) {
    const std::string target = landTarget();
    if (!document_.open() || target.empty()) return;
    Part next = document_.part();
    PadOverride& o = next.overrides[target];
    change(o);
    // A reason alone sets nothing.
    PadOverride empty;
    empty.reason = o.reason;
    if (o == empty && o.unknown.empty()) next.overrides.erase(target);
    document_.apply(what, std::move(next));
}

void SizeStation::bestPad(const std::string& target) {
    if (!document_.open()) return;
    document_.settle();
    auto next = target == kWholePart ? withBestPads(document_.part())
                                     : withBestPad(document_.part(), document_.footprint(), target);
    if (!next) {
        view_.say(toQt(next.error().text()));
        // What would make room, for the formation that has none.
        const Formation* formation = formationById(document_.part(), target);
        if (formation == nullptr) formation = formationOf(document_.part(), target);
        if (formation == nullptr)
            for (const Formation& f : document_.part().formations)
                if (const auto room = roomOfFormation(document_.part(), document_.footprint(), f.id);
                    room && room->best <= Length() && room->most < mostLand())
                    formation = &f;
        if (formation != nullptr) showRoomWays(formation->id);
        return;
    }
    view_.say({});
    document_.apply(tr("best land"), std::move(*next));
}

void SizeStation::bestPadHere(bool wholePart) { bestPad(wholePart ? std::string(kWholePart) : landTarget()); }

void SizeStation::takeOverrideBack() {
    if (!document_.open()) return;
    // The nearest one that is set: what the combo shows, else what that follows.
    const Part& part = document_.part();
    std::vector<std::string> keys = {landTarget()};
    const FeatureId shown = shownFeature(document_, view_);
    if (const Formation* f = formationOf(part, shown)) keys.insert(keys.end(), {shown, f->id});
    keys.emplace_back(kWholePart);
    for (const std::string& key : keys)
        if (part.overrides.contains(key)) {
            document_.apply(tr("override taken back"), withoutOverride(part, key));
            view_.say({});
            return;
        }
    view_.say(tr("Nothing is set against the rules here"));
}

void SizeStation::refreshLands() {
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    const FeatureId shown = shownFeature(document_, view_);
    const Formation* formation = formationOf(part, shown);
    const Spot* spot = spotOf(part, shown);
    // What is offered follows what is pointed at; the choice of pin, formation or part stays.
    const int kept = std::max(landOf_->currentIndex(), 0);
    const bool fresh = landOf_->count() == 0;
    landOf_->clear();
    if (formation != nullptr) {
        landOf_->addItem(tr("pin %1").arg(toQt(pinNumber(part, shown))), toQt(shown));
        landOf_->addItem(
            tr("pins %1 to %2")
                .arg(toQt(pinNumber(part, formation->pins.front())), toQt(pinNumber(part, formation->pins.back()))),
            toQt(formation->id));
        landOf_->addItem(tr("the whole part"), toQt(std::string(kWholePart)));
        landOf_->setCurrentIndex(fresh ? 1 : std::min(kept, 2));
    } else if (spot != nullptr) {
        landOf_->addItem(toQt(spot->name), toQt(shown));
    }
    const std::string target = landTarget();
    const PadOverride own = part.overrides.contains(target) ? part.overrides.at(target) : PadOverride{};
    const Pad* pad = f.pad(shown);
    const auto placeholder = [&](std::optional<Length> PadOverride::*field) -> QString {
        if (pad == nullptr) return {};
        const Land& land = shownLand(*pad);
        if (field == &PadOverride::land) return view_.length(land.width, 3);
        if (field == &PadOverride::landLength) return view_.length(land.length, 3);
        if (field == &PadOverride::hole) return view_.length(pad->hole, 3);
        if (field == &PadOverride::inner) return view_.length(pad->inner.width, 3);
        if (field == &PadOverride::bottom) return view_.length(pad->bottom.width, 3);
        if (field == &PadOverride::maskMargin) return view_.length(pad->maskMargin, 3);
        if (field == &PadOverride::holeLength)
            return pad->slotLength > Length() ? view_.length(pad->slotLength, 3) : tr("round");
        return view_.length(Length(), 3);
    };
    for (const auto& [edit, field] : landFields_) {
        edit->setPlaceholderText(placeholder(field));
        if (edit->hasFocus() || edit->property("wrong").toBool()) continue;
        edit->setText(own.*field ? view_.length(*(own.*field), 3) : QString());
        edit->setProperty("set", (own.*field).has_value());
        edit->setStyleSheet(own.*field ? "color: #9A6608; font-weight: bold;" : "");
    }
    if (!landTurn_->hasFocus() && !landTurn_->property("wrong").toBool()) {
        landTurn_->setText(own.turn ? QString::number(own.turn->degrees()) : QString());
        landTurn_->setPlaceholderText(pad != nullptr ? QString::number(shownLand(*pad).turn.degrees()) : QString());
    }
    landShape_->setCurrentIndex(own.shape ? landShape_->findData(static_cast<int>(*own.shape)) : 0);
    landLayers_->setCurrentIndex(
        own.layers && *own.layers != PadLayers::Through ? landLayers_->findData(static_cast<int>(*own.layers)) : 0);
    for (const auto& [box, field] : landTicks_) {
        box->setChecked((own.*field).value_or(false));
        const bool lug = spot != nullptr && spot->kind == SpotKind::Lug;
        if (field == &PadOverride::plated) box->setVisible(lug);
    }
    setRowVisible("landHead", spot != nullptr);
    if (spot != nullptr && !landHead_->hasFocus() && !landHead_->property("wrong").toBool())
        landHead_->setText(spot->head > Length() ? view_.length(spot->head, 3) : QString());
    if (!landReason_->hasFocus()) landReason_->setText(toQt(own.reason));
    const bool here = part.overrides.contains(target);
    undoOverride_->setEnabled(here);
    QString words;
    if (pad != nullptr) {
        const Land& land = shownLand(*pad);
        words = tr("%1 %2").arg(toQt(nameOf(land.shape)), view_.length(land.width, 2));
        if (land.length != land.width) words += " × " + view_.length(land.length, 2);
        words += pad->hole <= Length() ? tr(", no hole")
                 : pad->slotLength > Length()
                     ? tr(", slot %1 × %2").arg(view_.length(pad->hole, 2), view_.length(pad->slotLength, 2))
                     : tr(", hole %1, bit %2")
                           .arg(view_.length(pad->hole, 2), view_.length(pad->hole + part.rules.fab.plating, 2));
        words += pad->overridden ? tr(". Set against the rules.") : tr(". By the rules.");
        if (pad->layers == PadLayers::Through) {
            const PlaneAdvice plane = planeAdvice(part.rules, *pad);
            words += tr(" In a plane: clear %1, %2 spokes of %3.")
                         .arg(view_.length(plane.clearance, 2))
                         .arg(plane.spokes)
                         .arg(view_.length(plane.spokeWidth, 2));
        }
    }
    landNote_->setText(words);
}

}  // namespace punch
