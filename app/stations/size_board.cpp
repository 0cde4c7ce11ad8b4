// Size: cut-outs of the board, ways out where a pair stands too near, and what the board maker can do.

#include <QHBoxLayout>
#include <QTimer>
#include <algorithm>

#include "app/qt_text.h"
#include "app/stations/size_station.h"
#include "app/widgets/remove_rows.h"
#include "core/clear/voltage_pairs.h"
#include "core/part/edit.h"
#include "core/shape/cut_outs.h"
#include "core/size/fab_profiles.h"

namespace punch {

void SizeStation::buildWays() {
    ways_ = new QFrame(this);
    ways_->setObjectName("ways");
    ways_->setStyleSheet(
        theme::styled("QFrame#ways { background: @petrolPale; border: 1px solid @petrol; border-radius: 6px; }"));
    auto* box = new QVBoxLayout(ways_);
    box->setContentsMargins(8, 6, 8, 6);
    box->setSpacing(3);
    waysTitle_ = new WrappedLabel(ways_);
    waysTitle_->setFont(theme::text(1.0, true));
    box->addWidget(waysTitle_);
    waysBox_ = new QWidget(ways_);
    waysRows_ = new QVBoxLayout(waysBox_);
    waysRows_->setContentsMargins(0, 0, 0, 0);
    waysRows_->setSpacing(2);
    box->addWidget(waysBox_);
    add(ways_);
    ways_->hide();
    // Looked for when the hand rests: each way is a part that is derived.
    waysRest_ = new QTimer(this);
    waysRest_->setSingleShot(true);
    waysRest_->setInterval(250);
    connect(waysRest_, &QTimer::timeout, this, &SizeStation::findWays);
}

void SizeStation::showEvent(QShowEvent* event) {
    FormColumn::showEvent(event);
    if (document_.open() && !(document_.part() == waysOf_)) waysRest_->start();
}

void SizeStation::findWays() {
    if (!document_.open() || !isVisible()) return;
    const Footprint& f = document_.footprint();
    const Gauge* gauge = f.gauge("voltage");
    waysOf_ = document_.part();
    if (f.voltages.empty() || gauge == nullptr || gauge->state != GaugeState::NoGo) {
        view_.offer({});
        ways_->hide();
        return;
    }
    const VoltagePair worst = f.voltages.front();
    found_ = waysOut(document_.part(), f, worst.a, worst.b);
    // A slot that mends is shown where it would be.
    std::optional<punch::Shape> slot;
    if (!found_.empty() && found_.front().mends && found_.front().slot)
        slot = cutShapeOf(*found_.front().slot, f.datum);
    view_.offer(slot);
    showWays(worst);
}

void SizeStation::showWays(const VoltagePair& worst) {
    removeRows(waysRows_);
    const QString who =
        tr("%1 and %2")
            .arg(toQt(featureWords(document_.part(), worst.a)), toQt(featureWords(document_.part(), worst.b)));
    waysTitle_->setText(found_.empty() ? tr("%1 stand too near, and nothing here makes room").arg(who)
                        : found_.front().mends && found_.front().words.rfind("slot", 0) == 0
                            ? tr("A slot makes the room")
                            : tr("What makes room between %1").arg(who));
    for (std::size_t i = 0; i < found_.size(); ++i) {
        const WayOut& way = found_[i];
        QString words = tr("%1: %2 → %3 of %4")
                            .arg(toQt(way.words), view_.value(way.before, 2), view_.value(way.after, 2),
                                 view_.length(way.needed, 2));
        if (!way.against.empty())
            words += tr(", but %1 fails").arg(toQt(way.against).toLower());
        else if (!way.mends)
            words += tr(", not enough");
        addWay(words, toQt(way.words), way.mends && i == 0, QString("keepWay%1").arg(i),
               [this, i] { return i < found_.size() ? std::optional(found_[i].part) : std::nullopt; });
    }
    ways_->show();
}

void SizeStation::showRoomWays(const std::string& formation) {
    removeRows(waysRows_);
    roomWays_ = waysToRoom(document_.part(), document_.footprint(), formation);
    waysTitle_->setText(roomWays_.empty() ? tr("There is no room for the lands, and nothing here makes some")
                                          : tr("What makes room for the lands"));
    for (std::size_t i = 0; i < roomWays_.size(); ++i) {
        const RoomWay& way = roomWays_[i];
        QString words =
            way.best > Length()
                ? tr("%1: room %2 to %3").arg(toQt(way.words), view_.value(way.least, 2), view_.length(way.most, 2))
                : tr("%1: still none, %2 to %3")
                      .arg(toQt(way.words), view_.value(way.least, 2), view_.length(way.most, 2));
        if (!way.against.empty()) words += tr(", but %1 fails").arg(toQt(way.against).toLower());
        addWay(words, toQt(way.words), way.mends() && i == 0, QString("keepRoomWay%1").arg(i),
               [this, i] { return i < roomWays_.size() ? std::optional(roomWays_[i].part) : std::nullopt; });
    }
    ways_->show();
}

void SizeStation::addWay(const QString& words, const QString& name, bool first, const QString& object,
                         std::function<std::optional<Part>()> part) {
    auto* line = new QWidget(waysBox_);
    auto* lay = new QHBoxLayout(line);
    lay->setContentsMargins(0, 0, 0, 0);
    auto* text = new QLabel(words, line);
    text->setWordWrap(true);
    text->setFont(theme::text(0.9));
    auto* keep = new QPushButton(tr("Keep it"), line);
    keep->setObjectName(object);
    keep->setProperty("role", first ? "main" : "link");
    keep->setAccessibleName(tr("Keep: %1").arg(name));
    connect(keep, &QPushButton::clicked, this, [this, name, part = std::move(part)] {
        // The button goes with its card; the keyboard must not wander down the column after it.
        if (QWidget* focused = focusWidget()) focused->clearFocus();
        if (auto next = part()) document_.apply(name, std::move(*next));
    });
    lay->addWidget(text, 1);
    lay->addWidget(keep);
    waysRows_->addWidget(line);
}

void SizeStation::buildCutOuts() {
    title(tr("Cut out of the board"));
    cutOuts_ = new QWidget(this);
    cutRows_ = new QVBoxLayout(cutOuts_);
    cutRows_->setContentsMargins(0, 0, 0, 0);
    cutRows_->setSpacing(2);
    add(cutOuts_);
    cutKind_ = new QComboBox(this);
    cutKind_->addItem(tr("slot, round ends"), static_cast<int>(CutOutKind::Slot));
    cutKind_->addItem(tr("window"), static_cast<int>(CutOutKind::Window));
    row(tr("Kind"), cutKind_, "cutKind");
    const auto field = [&](const QString& label, const QString& name, const QString& hint) {
        auto* edit = textField(this, name);
        edit->setFont(theme::digits());
        edit->setPlaceholderText(hint);
        row(label, edit, name);
        return edit;
    };
    cutFrom_ = field(tr("From x y"), "cutFrom", tr("-8 0"));
    cutTo_ = field(tr("To x y"), "cutTo", tr("8 0"));
    cutWidth_ = field(tr("Width"), "cutWidth", tr("1.6"));
    connect(cutWidth_, &QLineEdit::returnPressed, this, &SizeStation::addCutOut);
    auto* both = new QWidget(this);
    auto* lay = new QHBoxLayout(both);
    lay->setContentsMargins(0, 0, 0, 0);
    auto* draw = new QPushButton(tr("Draw it on the sheet"), both);
    draw->setObjectName("drawCutOut");
    draw->setToolTip(tr("Drag from one end to the other; later drag its middle or its ends, Delete takes it out"));
    lay->addWidget(draw, 1);
    connect(draw, &QPushButton::clicked, this,
            [this] { drawCutOut(static_cast<CutOutKind>(cutKind_->currentData().toInt())); });
    auto* give = new QPushButton(tr("Cut it out"), both);
    give->setObjectName("addCutOut");
    lay->addWidget(give, 1);
    add(both);
    connect(give, &QPushButton::clicked, this, &SizeStation::addCutOut);
}

/// As the fields say, else the narrowest slot that lengthens a way at this pollution degree.
std::optional<Length> SizeStation::widthToCut(CutOutKind kind) {
    const Rules& rules = document_.part().rules;
    if (cutWidth_->text().trimmed().isEmpty()) {
        if (kind == CutOutKind::Window) return max(rules.fab.leastSlot, Length::fromMm(1.0));
        return usualSlotWidth(rules);
    }
    const auto refuse = [&](const QString& message) {
        markWrong(cutWidth_, true);
        view_.say(message);
        cutWidth_->setFocus();
        return std::nullopt;
    };
    markWrong(cutWidth_, false);
    const auto width = parseLength(cutWidth_->text().toStdString(), view_.unit());
    if (!width) return refuse(toQt(width.error().text()));
    if (*width <= Length()) return refuse(tr("Width: above 0"));
    if (*width < rules.fab.leastSlot)
        return refuse(tr("Width: this board maker mills %1 or more").arg(view_.length(rules.fab.leastSlot, 2)));
    return *width;
}

void SizeStation::drawCutOut(CutOutKind kind) {
    if (!document_.open()) return;
    const auto width = widthToCut(kind);
    if (!width) return;
    view_.setCutting(kind, *width);
    view_.tell(kind == CutOutKind::Slot
                   ? tr("Drag on the sheet from one end of the slot to the other, %1 wide; Esc: not now")
                         .arg(view_.length(*width, 2))
                   : tr("Drag on the sheet from corner to corner of the window; Esc: not now"));
}

void SizeStation::addCutOut() {
    if (!document_.open()) return;
    const auto refuse = [&](QLineEdit* field, const QString& message) {
        markWrong(field, true);
        view_.say(message);
        field->setFocus();
    };
    for (QLineEdit* field : {cutFrom_, cutTo_, cutWidth_}) markWrong(field, false);
    CutOut cut;
    cut.kind = static_cast<CutOutKind>(cutKind_->currentData().toInt());
    cut.name = cut.kind == CutOutKind::Slot ? "slot" : "window";
    const Point datum = document_.footprint().datum;
    for (const auto& [edit, point] : {std::pair{cutFrom_, &cut.from}, {cutTo_, &cut.to}}) {
        const auto words = splitValues(edit->text().toStdString());
        if (words.size() != 2)
            return refuse(edit, tr("%1: two lengths from the datum, as in “-8 0”").arg(edit->accessibleName()));
        const auto x = parseLength(words[0], view_.unit());
        const auto y = parseLength(words[1], view_.unit());
        if (!x || !y) return refuse(edit, toQt((!x ? x.error() : y.error()).text()));
        if (abs(*x) > Length::fromMm(500) || abs(*y) > Length::fromMm(500))
            return refuse(edit, tr("%1: more than half a metre away").arg(edit->accessibleName()));
        *point = Point{*x, *y} + datum;
    }
    cut.of = kDatumFeature;
    cut.base = datum;
    const auto width = widthToCut(cut.kind);
    if (!width) return;
    if (cut.kind == CutOutKind::Window && (cut.from.x == cut.to.x || cut.from.y == cut.to.y))
        return refuse(cutTo_, tr("To x y: the opposite corner of the window"));
    cut.width = *width;
    view_.say({});
    for (QLineEdit* field : {cutFrom_, cutTo_, cutWidth_}) field->clear();
    document_.apply(tr("cut-out"), withCutOut(document_.part(), cut));
}

void SizeStation::putSlotHere() {
    if (!document_.open()) return;
    document_.settle();
    const Footprint& f = document_.footprint();
    FeatureId a = view_.first();
    FeatureId b = view_.second();
    if (a.empty() || b.empty()) {
        if (f.voltages.empty()) {
            view_.say(tr("A slot goes between two potentials: give them to pins first"));
            return;
        }
        a = f.voltages.front().a;
        b = f.voltages.front().b;
    }
    const auto slot = slotFor(document_.part(), f, a, b);
    if (!slot) {
        view_.say(toQt(slot.error().text()));
        return;
    }
    view_.say({});
    document_.apply(tr("slot"), withCutOut(document_.part(), *slot));
}

void SizeStation::refreshCutOuts() {
    removeRows(cutRows_);
    for (const punch::Shape& cut : document_.footprint().cutOuts) {
        auto* line = new QWidget(cutOuts_);
        auto* lay = new QHBoxLayout(line);
        lay->setContentsMargins(0, 0, 0, 0);
        const Rect box = boundsOf(polygonsOf(cut.milled.outline));
        const RoundedPolygon* one = cut.rounded();
        const bool slot = cut.milled.kind == CutOutKind::Slot && one != nullptr && one->corners.size() > 1;
        const QString size =
            slot ? tr("%1 × %2").arg(view_.value(cut.milled.width, 2),
                                     view_.length(distance(one->corners[0], one->corners[1]) + cut.milled.width, 2))
                 : tr("%1 × %2").arg(view_.value(box.width(), 2), view_.length(box.height(), 2));
        auto* text = new QLabel(tr("<b>%1</b> %2 at %3, %4")
                                    .arg(toQt(cut.name).toHtmlEscaped(), size, view_.value(box.middle().x, 2),
                                         view_.value(box.middle().y, 2)),
                                line);
        text->setWordWrap(true);
        auto* drop = new QPushButton(tr("drop"), line);
        drop->setProperty("role", "link");
        drop->setToolTip(tr("Closes the cut-out again"));
        drop->setAccessibleName(tr("Drop %1").arg(toQt(cut.name)));
        connect(drop, &QPushButton::clicked, this, [this, id = cut.id] {
            document_.apply(tr("removal of a cut-out"), withoutMark(document_.part(), id));
        });
        lay->addWidget(text, 1);
        lay->addWidget(drop);
        cutRows_->addWidget(line);
    }
    cutOuts_->setVisible(!document_.footprint().cutOuts.empty());
}

void SizeStation::buildFab() {
    title(tr("Board maker"));
    fab_ = new QComboBox(this);
    row(tr("Fab profile"), fab_, "fabProfile");
    connect(fab_, &QComboBox::activated, this, [this](int at) {
        if (at < 0 || at >= static_cast<int>(profiles_.size())) return;
        Part next = document_.part();
        next.rules.fab = profiles_[static_cast<std::size_t>(at)];
        document_.apply(tr("fab profile"), std::move(next));
    });
    QStringList rows;
    for (const Field<FabProfile>& f : fabFields()) {
        field(
            fabFields(), f.name, [](auto& part) -> auto& { return part.rules.fab; });
        rows << f.name;
    }
    for (const char* name : {"pinPlace", "dropInWanted"}) {
        field(
            ruleFields(), name, [](auto& part) -> auto& { return part.rules; });
        rows << name;
    }
    more(tr("Its limits and how exact it is"), rows)->setObjectName("moreFab");
    keepFab_ = new QPushButton(tr("Keep with the library"), this);
    keepFab_->setObjectName("keepFab");
    add(keepFab_);
    connect(keepFab_, &QPushButton::clicked, this, [this] {
        const auto kept = keepProfile(folder(), document_.part().rules.fab);
        view_.say(kept ? QString() : toQt(kept.error().text()));
        profiles_.clear();
        refreshFab();
    });
}

std::string SizeStation::folder() const {
    const QString path = document_.path();
    return path.isEmpty() ? std::string() : std::filesystem::path(path.toStdString()).parent_path().string();
}

void SizeStation::refreshFab() {
    const FabProfile& now = document_.part().rules.fab;
    // The library's file is read when the library is another one, or was written to; not after every change.
    if (profiles_.empty() || folder() != profilesOf_) {
        profilesOf_ = folder();
        auto profiles = folder().empty() ? Result<std::vector<FabProfile>>(shippedProfiles()) : profilesOf(folder());
        if (!profiles) {
            view_.say(toQt(profiles.error().text()));
            profiles = shippedProfiles();
        }
        profiles_ = *profiles;
    }
    fab_->clear();
    int at = -1;
    for (std::size_t i = 0; i < profiles_.size(); ++i) {
        fab_->addItem(toQt(profiles_[i].name));
        if (profiles_[i] == now) at = static_cast<int>(i);
    }
    if (at < 0) {
        // Changed since it was taken.
        fab_->addItem(tr("%1, changed").arg(toQt(now.name)));
        at = fab_->count() - 1;
    }
    fab_->setCurrentIndex(at);
    keepFab_->setEnabled(!folder().empty());
}

}  // namespace punch
