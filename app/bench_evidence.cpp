// Evidence that is brought to the bench: by the menu, dropped on it, or pasted.

#include <QClipboard>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QMimeData>
#include <QTemporaryDir>

#include "app/bench_window.h"
#include "app/pictures/bring_in_dialog.h"
#include "app/qt_text.h"

namespace punch {
namespace {

bool isStep(const QString& file) {
    return file.endsWith(".step", Qt::CaseInsensitive) || file.endsWith(".stp", Qt::CaseInsensitive);
}

}  // namespace

void BenchWindow::bringIn(const QString& file, std::optional<EvidenceChoice> choice) {
    if (file.isEmpty() || !document_.open()) return;
    if (document_.path().isEmpty() && !saveAs({})) {
        say(tr("Save the part first, so that its pictures have a place beside it"));
        return;
    }
    if (!choice) {
        auto asked = BringInDialog::ask(file, this);
        if (!asked) return say(toQt(asked.error().text()));
        if (!*asked) return;
        choice = *asked;
    }
    view_.setStation(Station::Measure);
    view_.setSources(true);
    sources_->bringIn(file, *choice);
    sheet_->fit();
}

void BenchWindow::bringInSolid(const QString& file) {
    if (file.isEmpty() || !document_.open()) return;
    if (document_.path().isEmpty() && !saveAs({})) {
        say(tr("Save the part first, so that its body has a place beside it"));
        return;
    }
    view_.setStation(Station::Fit);
    if (const auto done = solids_.bringIn(file); !done) say(toQt(done.error().text()));
}

void BenchWindow::pastePicture() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    if (!document_.open() || held == nullptr) return;
    if (held->hasUrls() && held->urls().first().isLocalFile()) {
        const QString file = held->urls().first().toLocalFile();
        return isStep(file) ? bringInSolid(file) : bringIn(file);
    }
    const QImage image = qvariant_cast<QImage>(held->imageData());
    if (image.isNull()) return say(tr("The clipboard holds no picture"));
    QTemporaryDir folder;
    const QString file = folder.filePath(tr("pasted.png"));
    if (!image.save(file)) return say(tr("The picture in the clipboard cannot be kept: no room for it"));
    bringIn(file);
}

void BenchWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void BenchWindow::dropEvent(QDropEvent* event) {
    for (const QUrl& url : event->mimeData()->urls()) {
        if (!url.isLocalFile()) continue;
        const QString file = url.toLocalFile();
        if (file.endsWith(".punch", Qt::CaseInsensitive)) {
            if (mayLeave()) openPath(file);
        } else if (document_.open() && isStep(file)) {
            bringInSolid(file);
        } else if (document_.open()) {
            bringIn(file);
        } else {
            say(tr("Open a part first: the picture is kept with it"));
        }
    }
}

}  // namespace punch
