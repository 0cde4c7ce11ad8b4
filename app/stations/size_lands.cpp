// Size: the land and hole of a pin, a formation or the whole part; what is set against the rules, and its undoing.

#include <QHBoxLayout>
#include <algorithm>

#include "app/qt_text.h"
#include "app/side/section_view.h"
#include "app/stations/size_station.h"
#include "core/clear/room.h"
#include "core/geometry/shapes.h"
#include "core/part/edit_several.h"
#include "core/part/numbering.h"
#include "core/size/pad_rules.h"

namespace punch {

void SizeStation::buildLands() {
    title(tr("One land"));
    landOf_ = new QComboBox(this);
    row(tr("For"), landOf_, "landOf");
    connect(landOf_, &QComboBox::activated, this, [this] { refreshLands(); });
    landNote_ = note();
    // Shape and size first, then the rest behind a link.
    static constexpr std::string_view kFirst[] = {"landShape", "landWidth", "landLength", "landHole"};
    const auto isFirst = [](std::string_view name) {
        return std::find(std::begin(kFirst), std::end(kFirst), name) != std::end(kFirst);
    };
    for (const std::string_view name : kFirst) landField(fieldNamed(overrideFields(), name));
    QStringList rest;
    for (const Field<PadOverride>& f : overrideFields())
        if (!isFirst(f.name)) {
            landField(f);
            if (std::string_view(f.name) != "landPlated") rest << f.name;
        }
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
    landReason_ = textField(this, "landReason");
    landReason_->setPlaceholderText(tr("why"));
    row(tr("Reason"), landReason_, "landReason");
    connect(landReason_, &QLineEdit::editingFinished, this, [this] {
        if (!landReason_->isModified()) return;
        landReason_->setModified(false);
        changeOverride(tr("reason"),
                       [this](PadOverride& o) { o.reason = landReason_->text().trimmed().toStdString(); });
    });
    more(tr("Turn, offset, layers, mask, slot"), rest << "landReason")->setObjectName("moreLand");
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

namespace {

/// A typed length as a field wants it, or what is wrong with it.
QString wrongLength(const Result<Length>& length, Sign sign, double most) {
    if (!length) return toQt(length.error().text());
    if (sign == Sign::Above && *length <= Length()) return QObject::tr("a size is above 0");
    if (sign == Sign::NotNegative && *length < Length()) return QObject::tr("not below 0");
    if (abs(*length) > Length::fromMm(most)) return QObject::tr("%1 mm at most").arg(most);
    return {};
}

/// What is seen of a field that follows the rule.
constexpr const char* kByRule = "by rule";

}  // namespace

void SizeStation::landField(const Field<PadOverride>& f) {
    const QString label = tr(f.label);
    const auto typed = [&](auto read, auto shown, auto followed) {
        auto* edit = textField(this, f.name);
        edit->setFont(theme::digits());
        edit->setAlignment(Qt::AlignRight);
        edit->setToolTip(tr(f.help));
        row(label, edit, f.name);
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, label, read] {
            if (!edit->isModified()) return;
            const QString wrong = read(edit->text().trimmed());
            markWrong(edit, !wrong.isEmpty());
            if (!wrong.isEmpty()) return view_.say(label + ": " + wrong);
            edit->setModified(false);
        });
        landShows_.push_back([edit, shown, followed](const PadOverride& own, const Pad* pad) {
            edit->setPlaceholderText(followed(pad));
            if (edit->hasFocus() || edit->property("wrong").toBool()) return;
            const QString text = shown(own);
            edit->setText(text);
            edit->setProperty("set", !text.isEmpty());
            edit->setStyleSheet(theme::styled(text.isEmpty() ? "" : "color: @marigoldInk; font-weight: bold;"));
        });
    };
    std::visit(
        [&](const auto& m) {
            using M = std::decay_t<decltype(m)>;
            if constexpr (std::is_same_v<M, std::optional<Length> PadOverride::*>) {
                typed(
                    [this, label, m, sign = f.sign, most = f.range.most](const QString& text) -> QString {
                        std::optional<Length> value;
                        if (!text.isEmpty()) {
                            const auto length = parseLength(text.toStdString(), view_.unit());
                            if (const QString wrong = wrongLength(length, sign, most); !wrong.isEmpty()) return wrong;
                            value = *length;
                        }
                        view_.say({});
                        changeOverride(label, [&](PadOverride& o) { o.*m = value; });
                        return {};
                    },
                    [this, m](const PadOverride& own) { return own.*m ? view_.length(*(own.*m), 3) : QString(); },
                    [this, m](const Pad* pad) { return followed(pad, m); });
            } else if constexpr (std::is_same_v<M, std::optional<Angle> PadOverride::*>) {
                typed(
                    [this, label, m, range = f.range](const QString& text) -> QString {
                        const auto value = parseNumber(text.toStdString());
                        if (!text.isEmpty() && !value) return toQt(value.error().text());
                        if (!text.isEmpty() && !range.holds(*value)) return toQt(range.words() + " degrees");
                        view_.say({});
                        changeOverride(label, [&](PadOverride& o) {
                            o.*m = text.isEmpty() ? std::nullopt : std::optional(Angle::fromDegrees(*value));
                        });
                        return {};
                    },
                    [m](const PadOverride& own) { return own.*m ? QString::number((own.*m)->degrees()) : QString(); },
                    [](const Pad* pad) {
                        return pad != nullptr ? QString::number(shownLand(*pad).turn.degrees()) : QString();
                    });
            } else if constexpr (std::is_same_v<M, std::optional<bool> PadOverride::*>) {
                auto* box = new QCheckBox(label, this);
                box->setToolTip(tr(f.help));
                own(f.name, box);
                connect(box, &QCheckBox::clicked, this, [this, label, m](bool on) {
                    changeOverride(label, [&](PadOverride& o) { o.*m = on ? std::optional(true) : std::nullopt; });
                });
                landShows_.push_back(
                    [box, m](const PadOverride& o, const Pad*) { box->setChecked((o.*m).value_or(false)); });
            } else if constexpr (std::is_same_v<M, Choice<PadOverride>>) {
                auto* combo = new QComboBox(this);
                combo->addItem(tr(kByRule));
                for (std::size_t i = 0; i < m.words.size(); ++i)
                    combo->addItem(f.words.empty() ? toQt(std::string(m.words[i])) : tr(f.words[i]));
                combo->setToolTip(tr(f.help));
                row(label, combo, f.name);
                connect(combo, &QComboBox::activated, this,
                        [this, label, m](int at) { changeOverride(label, [&](PadOverride& o) { m.set(o, at - 1); }); });
                landShows_.push_back(
                    [combo, m](const PadOverride& o, const Pad*) { combo->setCurrentIndex(m.get(o) + 1); });
            }
        },
        f.member);
}

/// What a length is while nothing is set against the rule.
QString SizeStation::followed(const Pad* pad, std::optional<Length> PadOverride::*field) const {
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
}

std::string SizeStation::landTarget() const { return landOf_->currentData().toString().toStdString(); }

std::vector<std::string> SizeStation::landTargets() const {
    if (!view_.group().empty()) return view_.group();
    const std::string target = landTarget();
    return target.empty() ? std::vector<std::string>{} : std::vector<std::string>{target};
}

void SizeStation::changeOverride(const QString& what, const std::function<void(PadOverride&)>& change) {
    const std::vector<std::string> targets = landTargets();
    if (!document_.open() || targets.empty()) return;
    document_.apply(what, withOverrides(document_.part(), targets, change));
}

void SizeStation::bestPad(const std::string& target) {
    if (!document_.open()) return;
    document_.settle();
    if (!view_.group().empty() && target != kWholePart) {
        auto all = withBestPads(document_.part(), view_.group());
        if (!all) return view_.say(toQt(all.error().text()));
        return keepBest(tr("best land of %1 pins").arg(view_.group().size()), std::move(*all));
    }
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
    keepBest(tr("best land"), std::move(*next));
}

/// The largest land passes everything, often by little: says what watches it now.
void SizeStation::keepBest(const QString& what, Part next) {
    view_.say({});
    const std::vector<Gauge> before = document_.footprint().gauges;
    document_.apply(what, std::move(next));
    document_.settle();
    for (const Gauge& now : document_.footprint().gauges) {
        const auto was = std::find_if(before.begin(), before.end(), [&](const Gauge& g) { return g.id == now.id; });
        if (now.state != GaugeState::Watch || was == before.end() || was->state == GaugeState::Watch) continue;
        view_.tell(tr("%1 watches the best land: %2. It is the largest that passes; a smaller one leaves more")
                       .arg(toQt(now.title), toQt(punch::fill(now.words, now.of, view_.unit(), 2))));
    }
}

void SizeStation::bestPadHere(bool wholePart) { bestPad(wholePart ? std::string(kWholePart) : landTarget()); }

void SizeStation::takeOverrideBack() {
    if (!document_.open()) return;
    // The nearest one that is set: what the combo shows, else what that follows.
    const Part& part = document_.part();
    if (!view_.group().empty()) {
        Part next = part;
        for (const FeatureId& id : view_.group()) next = withoutOverride(std::move(next), id);
        if (next == part) return view_.say(tr("Nothing is set against the rules here"));
        view_.say({});
        return document_.apply(tr("overrides taken back"), std::move(next));
    }
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
    if (!view_.group().empty()) {
        landOf_->addItem(tr("%1 chosen").arg(view_.group().size()), QString());
    } else if (formation != nullptr) {
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
    const PadOverride own = commonOverride(part, landTargets());
    const Pad* pad = f.pad(shown);
    for (const auto& show : landShows_) show(own, pad);
    setRowVisible("landPlated", spot != nullptr && spot->kind == SpotKind::Lug);
    setRowVisible("landHead", spot != nullptr);
    if (spot != nullptr && !landHead_->hasFocus() && !landHead_->property("wrong").toBool())
        landHead_->setText(spot->head > Length() ? view_.length(spot->head, 3) : QString());
    if (!landReason_->hasFocus()) landReason_->setText(toQt(own.reason));
    const auto targets = landTargets();
    undoOverride_->setEnabled(std::any_of(targets.begin(), targets.end(),
                                          [&](const std::string& id) { return part.overrides.contains(id); }));
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
