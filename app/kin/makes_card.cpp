#include "app/kin/makes_card.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <map>

#include "app/qt_text.h"
#include "app/stations/form_column.h"
#include "app/theme.h"
#include "app/widgets/remove_rows.h"
#include "core/library/makes.h"
#include "core/part/names.h"

namespace punch {
namespace {

QString shareWords(const DropInShare& s) {
    return s.in == s.trials ? QObject::tr("all of %1 drop in").arg(s.trials)
                            : QObject::tr("≈ %1 % drop in").arg(100 * s.share, 0, 'f', s.share > 0.99 ? 2 : 1);
}

}  // namespace

MakesCard::MakesCard(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("makesCard");
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    rows_ = new QWidget(this);
    list_ = new QVBoxLayout(rows_);
    list_->setContentsMargins(0, 0, 0, 0);
    list_->setSpacing(2);
    box->addWidget(rows_);
    layRow_ = new QWidget(this);
    auto* lay = new QHBoxLayout(layRow_);
    lay->setContentsMargins(0, 0, 0, 0);
    lay->addWidget(new QLabel(tr("Laid over by"), layRow_));
    by_ = new QComboBox(layRow_);
    by_->setObjectName("makesBy");
    by_->setAccessibleName(tr("Laid over by"));
    keepWheelAway(by_);
    by_->addItems({tr("their leads"), tr("pin 1"), tr("their datums")});
    lay->addWidget(by_, 1);
    box->addWidget(layRow_);
    connect(by_, &QComboBox::activated, this, [this](int at) {
        Part next = document_.part();
        for (Make& m : next.makes) m.by = static_cast<JoinBy>(at);
        document_.apply(tr("how makes lie over each other"), std::move(next));
    });
    holes_ = new WrappedLabel(this);
    holes_->setObjectName("joinedHoles");
    holes_->setFont(theme::digits(0.9));
    box->addWidget(holes_);
    auto* buttons = new QHBoxLayout;
    auto* another = new QPushButton(tr("Another make…"), this);
    another->setObjectName("addMake");
    buttons->addWidget(another);
    ways_ = new QPushButton(tr("Try other ways"), this);
    ways_->setObjectName("tryJoins");
    ways_->setProperty("role", "link");
    buttons->addWidget(ways_);
    buttons->addStretch();
    box->addLayout(buttons);
    waysBox_ = new QWidget(this);
    wayRows_ = new QVBoxLayout(waysBox_);
    wayRows_->setContentsMargins(0, 0, 0, 0);
    wayRows_->setSpacing(2);
    box->addWidget(waysBox_);
    connect(another, &QPushButton::clicked, this, [this] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Another make, for the same holes"), folder(), tr("Parts (*.punch)"));
        if (!file.isEmpty()) addMake(file);
    });
    connect(ways_, &QPushButton::clicked, this, &MakesCard::tryWays);
    rest_.setSingleShot(true);
    rest_.setInterval(200);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &rest_, qOverload<>(&QTimer::start));
    connect(&rest_, &QTimer::timeout, this, &MakesCard::follow);
    connect(&document_, &Document::changed, this, &MakesCard::refresh);
    refresh();
}

QString MakesCard::folder() const {
    return document_.path().isEmpty() ? QString() : QFileInfo(document_.path()).absolutePath();
}

QPushButton* MakesCard::link(QWidget* parent, const QString& words, const QString& tip) {
    auto* b = new QPushButton(words, parent);
    b->setProperty("role", "link");
    b->setToolTip(tip);
    return b;
}

void MakesCard::addMake(const QString& file) {
    if (!document_.open()) return;
    const auto next = withMake(document_.part(), file.toStdString(), folder().toStdString());
    if (!next) return view_.say(toQt(next.error().text()));
    view_.say({});
    document_.apply(tr("another make"), *next);
}

void MakesCard::follow() {
    if (!document_.open() || document_.part().makes.empty()) return;
    const FollowedMakes now = withMakesAsTheyAre(document_.part(), folder().toStdString());
    if (now.part != document_.part()) {
        document_.apply(tr("change in a make's file"), now.part);
        QString words = now.changed.empty() ? tr("a make was read anew") : toQt(now.changed.front());
        if (now.changed.size() > 1) words += tr(", and %1 more").arg(now.changed.size() - 1);
        view_.tell(tr("Followed: %1 (undo: Ctrl+Z)").arg(words));
    } else if (!now.missing.empty()) {
        view_.tell(tr("%1. What was kept of it stands").arg(toQt(now.missing.front())));
    }
    watch();
}

void MakesCard::watch() {
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    if (!document_.open()) return;
    QStringList files;
    const auto add = [&](const std::string& named) {
        if (named.empty()) return;
        const QString file = QFileInfo(toQt(named)).isAbsolute() ? toQt(named) : folder() + "/" + toQt(named);
        if (QFileInfo::exists(file)) files << file;
    };
    for (const Make& m : document_.part().makes) add(m.file);
    if (!document_.part().makes.empty()) add(document_.part().copiedFrom);
    if (!files.isEmpty()) watcher_.addPaths(files);
}

void MakesCard::refresh() {
    if (!document_.open()) return;
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    const bool some = !part.makes.empty();
    if (some && begun_ != document_.begun()) {
        begun_ = document_.begun();
        // Files may have changed while the part was not on the bench.
        rest_.start();
    }
    removeRows(list_);
    if (part != waysOf_) {
        removeRows(wayRows_);
        found_.clear();
        waysBox_->hide();
    }
    const auto line = [&](const QString& name, const QString& words, bool bad, std::optional<std::size_t> make) {
        auto* row = new QWidget(rows_);
        auto* lay = new QHBoxLayout(row);
        lay->setContentsMargins(0, 0, 0, 0);
        auto* text = new QLabel(QString("<b>%1</b><br>%2").arg(name.toHtmlEscaped(), words.toHtmlEscaped()), row);
        text->setWordWrap(true);
        text->setFont(theme::text(0.9));
        if (bad) text->setStyleSheet(theme::styled("color: @vermilion;"));
        lay->addWidget(text, 1);
        if (make) {
            auto* drop = link(row, tr("drop"), tr("The footprint no longer takes this make"));
            drop->setAccessibleName(tr("Drop %1").arg(name));
            connect(drop, &QPushButton::clicked, this, [this, at = *make] {
                Part next = document_.part();
                if (at < next.makes.size()) next.makes.erase(next.makes.begin() + static_cast<std::ptrdiff_t>(at));
                document_.apply(tr("removal of a make"), std::move(next));
            });
            lay->addWidget(drop);
        }
        list_->addWidget(row);
    };
    if (!some) {
        line(tr("One make"), tr("The holes take this part. Another make with the same numbers can share them."), false,
             {});
    } else {
        line(toQt(part.name), f.dropIn.known ? tr("as read: %1").arg(shareWords(f.dropIn)) : toQt(f.dropIn.why),
             !f.dropIn.known, {});
        for (std::size_t k = 0; k < part.makes.size(); ++k) {
            const MakeFit* fit = k < f.makeFits.size() ? &f.makeFits[k] : nullptr;
            QString words = tr("not looked at yet");
            if (fit != nullptr)
                words =
                    fit->why.empty()
                        ? tr("%1, leads up to %2 apart").arg(shareWords(fit->dropIn), view_.length(f.makes[k].apart, 3))
                        : toQt(fit->why);
            line(toQt(part.makes[k].name), words, fit == nullptr || !fit->why.empty(), k);
        }
        by_->setCurrentIndex(static_cast<int>(part.makes.front().by));
    }
    // Holes that are alike in one line.
    std::map<QString, QStringList> alike;
    QStringList order, binds;
    for (const JoinedHole& h : f.joined) {
        QString words = toQt(nameOf(h.kind)) + " " + view_.value(h.size, 2);
        if (h.length > Length()) words += " × " + view_.value(h.length, 2);
        if (h.over > Length()) words += tr(", %1 too large").arg(view_.length(h.over, 2));
        if (!alike.contains(words)) order << words;
        alike[words] << toQt(h.name);
        if (!h.why.empty() && !binds.contains(toQt(h.why))) binds << toQt(h.why);
    }
    QStringList lines;
    for (const QString& words : order) lines << QString("%1  %2").arg(words, alike[words].join(", "));
    // What keeps the first kind from it, once.
    if (!binds.isEmpty()) lines << tr("because %1").arg(binds.front());
    holes_->setText(lines.join('\n'));
    holes_->setVisible(some && !lines.isEmpty());
    layRow_->setVisible(some);
    ways_->setVisible(some);
    watch();
}

void MakesCard::tryWays() {
    if (!document_.open()) return;
    found_ = joinWays(document_.part());
    waysOf_ = document_.part();
    removeRows(wayRows_);
    for (std::size_t i = 0; i < found_.size(); ++i) {
        const JoinWay& way = found_[i];
        auto* row = new QWidget(waysBox_);
        auto* lay = new QHBoxLayout(row);
        lay->setContentsMargins(0, 0, 0, 0);
        auto* text =
            new QLabel(tr("%1: %2").arg(toQt(way.words),
                                        way.binds.empty() ? tr("all go, %1 % drop in").arg(100 * way.share, 0, 'f', 1)
                                                          : toQt(way.binds)),
                       row);
        text->setWordWrap(true);
        text->setFont(theme::text(0.9));
        lay->addWidget(text, 1);
        auto* keep = link(row, tr("Keep it"), tr("Joins the holes in this way"));
        keep->setObjectName(QString("keepJoin%1").arg(i));
        keep->setEnabled(way.part != document_.part());
        connect(keep, &QPushButton::clicked, this, [this, i] {
            if (i < found_.size()) document_.apply(tr("way of joining makes"), Part(found_[i].part));
        });
        lay->addWidget(keep);
        wayRows_->addWidget(row);
    }
    waysBox_->show();
}

}  // namespace punch
