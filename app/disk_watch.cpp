#include "app/disk_watch.h"

#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>

#include "app/qt_text.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/library/difference.h"
#include "core/library/merge.h"
#include "core/part/file.h"

namespace punch {

DiskWatch::DiskWatch(Document& document, ViewState& view, QWidget* window)
    : QObject(window), document_(document), view_(view), window_(window) {
    rest_.setSingleShot(true);
    // Programs write in several steps.
    rest_.setInterval(250);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &rest_, qOverload<>(&QTimer::start));
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &rest_, qOverload<>(&QTimer::start));
    connect(&rest_, &QTimer::timeout, this, [this] { look(); });
    connect(&document_, &Document::fileChanged, this, &DiskWatch::watch);
}

void DiskWatch::watch() {
    const QString path = document_.open() ? document_.path() : QString();
    QStringList wanted;
    // A file that is replaced is another one: its folder says so.
    if (!path.isEmpty() && QFileInfo::exists(path)) wanted << path << QFileInfo(path).absolutePath();
    QStringList now = watcher_.files() + watcher_.directories();
    now.sort();
    QStringList sorted = wanted;
    sorted.sort();
    if (now == sorted) return;
    if (!now.isEmpty()) watcher_.removePaths(now);
    if (!wanted.isEmpty()) watcher_.addPaths(wanted);
}

DiskWatch::Choice DiskWatch::ask(const std::vector<std::string>& conflicts) {
    if (choice_ != Choice::Ask) return choice_;
    QStringList words;
    for (const std::string& c : conflicts) words << toQt(c);
    if (words.size() > 8) words = words.mid(0, 8) << tr("and %1 more").arg(words.size() - 8);
    QMessageBox box(QMessageBox::Question, tr("Punchbit"),
                    tr("Another program changed %1 where you did too.").arg(QFileInfo(document_.path()).fileName()),
                    QMessageBox::NoButton, window_);
    box.setObjectName("changedOnDisk");
    box.setInformativeText(tr("Everything else of both is joined. Here they differ:\n%1").arg(words.join('\n')));
    auto* mine = box.addButton(tr("Mine here"), QMessageBox::AcceptRole);
    auto* theirs = box.addButton(tr("Theirs here"), QMessageBox::DestructiveRole);
    box.addButton(tr("Not now"), QMessageBox::RejectRole);
    asking_ = true;
    box.exec();
    asking_ = false;
    return box.clickedButton() == mine ? Choice::Mine : box.clickedButton() == theirs ? Choice::Theirs : Choice::Wait;
}

bool DiskWatch::look() {
    if (!document_.open() || document_.path().isEmpty() || asking_) return true;
    watch();
    const std::string path = document_.path().toStdString();
    const QString name = QFileInfo(document_.path()).fileName();
    if (!QFileInfo::exists(document_.path())) return true;
    const auto disk = loadPart(path);
    if (!disk) {
        // Half written, or mended by hand: as long as it cannot be read nothing of it is taken.
        view_.say(tr("%1 on the disk cannot be read: %2").arg(name, toQt(disk.error().text())));
        return true;
    }
    const Part base = document_.saved();
    if (*disk == base) return true;
    if (!document_.dirty()) {
        const auto words = differenceWords(base, derive(base), *disk, derive(*disk));
        document_.apply(tr("change on the disk"), *disk);
        document_.setSaved(*disk);
        view_.tell(tr("%1 was changed by another program%2 (undo: Ctrl+Z)")
                       .arg(name, words.empty() ? QString() : ": " + toQt(words.front())));
        return true;
    }
    if (document_.part() == *disk) {
        document_.setSaved(*disk);
        return true;
    }
    const auto merged = mergedPart(toText(base), toText(document_.part()), toText(*disk));
    if (!merged) {
        view_.say(tr("%1 was changed by another program and cannot be joined: %2").arg(name, toQt(merged.error().text())));
        return false;
    }
    std::string text = merged->text;
    if (!merged->conflicts.empty()) {
        switch (ask(merged->conflicts)) {
            case Choice::Theirs:
                if (const auto other = mergedPart(toText(base), toText(*disk), toText(document_.part()))) text = other->text;
                break;
            case Choice::Mine: break;
            default:
                view_.say(tr("%1 was changed by another program too: saving asks again").arg(name));
                return false;
        }
    }
    const auto part = fromText(text, path);
    if (!part) {
        view_.say(tr("%1 cannot be joined: %2").arg(name, toQt(part.error().text())));
        return false;
    }
    document_.apply(tr("joined with what is on the disk"), *part);
    document_.setSaved(*disk);
    view_.tell(tr("%1 was changed by another program; both are joined here (undo: Ctrl+Z)").arg(name));
    return true;
}

}  // namespace punch
