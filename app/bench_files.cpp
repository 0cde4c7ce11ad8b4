// The bench's files: opening, saving, recovering, and not losing anything on the way out.

#include <QApplication>
#include <QBuffer>
#include <QCloseEvent>
#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QImage>
#include <QLineEdit>
#include <QMessageBox>
#include <QPainter>
#include <QPlainTextEdit>
#include <QSettings>
#include <chrono>
#include <cmath>
#include <condition_variable>
#include <memory>
#include <mutex>
#include <thread>

#include "app/bench_window.h"
#include "app/board/board_window.h"
#include "app/foreign/compare_dialog.h"
#include "app/foreign/take_in_dialog.h"
#include "app/theme.h"
#include "core/base/atomic_file.h"
#include "core/foreign/found_pads.h"
#include "core/library/index.h"
#include "core/part/file.h"
#include "core/release/formats.h"

namespace punch {

void BenchWindow::openBoard(const QString& path) {
    const QString file = path.endsWith(kBoardSuffix) ? path : path + kBoardSuffix;
    if (board_ == nullptr) {
        board_ = new BoardWindow(library_->folder().isEmpty() ? QFileInfo(file).absolutePath() : library_->folder(), this);
        connect(board_, &BoardWindow::partWanted, this, [this](const QString& part) {
            if (!mayLeave() || !openPath(part)) return;
            raise();
            activateWindow();
        });
    }
    if (const auto opened = board_->open(file); !opened) return say(toQt(opened.error().text()));
    board_->show();
    board_->raise();
}

bool BenchWindow::openPath(const QString& path) {
    const QFileInfo info(path);
    if (path.endsWith(kBoardSuffix)) {
        setLibrary(info.absolutePath());
        home();
        openBoard(path);
        return board_ != nullptr && board_->isVisible();
    }
    if (info.isDir()) {
        setLibrary(info.absoluteFilePath());
        home();
        return true;
    }
    view_.choose({}, {});
    view_.resetSide();
    if (const auto loaded = document_.load(path); !loaded) {
        say(toQt(loaded.error().text()));
        return false;
    }
    setLibrary(info.absolutePath());
    say({});
    view_.setStation(view_.station());
    sheet_->fit();
    // What disagrees is shown first.
    for (std::size_t i = 0; i < document_.part().readings.size(); ++i)
        if (document_.footprint().readings[i].state == ReadingState::InDoubt) {
            measure_->notebook().goTo(document_.part().readings[i].id);
            break;
        }
    offerRecovery();
    return true;
}

void BenchWindow::offerRecovery() {
    const QString copy = Document::recoverable(document_.open() ? document_.path() : QString());
    recovery_->setVisible(!copy.isEmpty());
    if (copy.isEmpty()) return;
    const QString when = QFileInfo(copy).lastModified().toString("d MMMM, HH:mm");
    recoveryWords_->setText(document_.open() ? tr("Work on this part from %1 was never saved.").arg(when)
                                             : tr("A new part from %1 was never saved.").arg(when));
}

void BenchWindow::takeWhatIsTyped() {
    // A field takes its text when it is left; saving from within it must not lose what stands in it.
    QWidget* field = QApplication::focusWidget();
    if (field == nullptr || field == &measure_->line() || field == &top_->askBox()) return;
    if (auto* line = qobject_cast<QLineEdit*>(field)) {
        const int cursor = line->cursorPosition();
        line->clearFocus();
        line->setFocus();
        line->setCursorPosition(cursor);
    } else if (auto* text = qobject_cast<QPlainTextEdit*>(field)) {
        const QTextCursor cursor = text->textCursor();
        text->clearFocus();
        text->setFocus();
        text->setTextCursor(cursor);
    }
}

bool BenchWindow::save() {
    if (!document_.open()) return false;
    takeWhatIsTyped();
    if (document_.path().isEmpty()) return saveAs({});
    // What somebody else wrote meanwhile is not written over.
    if (!disk_->look()) return false;
    if (const auto done = document_.save(); !done) {
        say(tr("Not saved. %1").arg(toQt(done.error().text())));
        return false;
    }
    say({});
    return true;
}

bool BenchWindow::saveAs(const QString& wanted) {
    if (!document_.open()) return false;
    takeWhatIsTyped();
    QString path = wanted;
    if (path.isEmpty() && document_.path().isEmpty() && !mayBeSavedAnew()) return false;
    if (path.isEmpty()) {
        const QString folder = library_->folder().isEmpty() ? QDir::homePath() : library_->folder();
        const QString name = toQt(fileStem(document_.part().name)) + kFileSuffix;
        path = QFileDialog::getSaveFileName(this, tr("Save the part"), QDir(folder).filePath(name),
                                            tr("Punchbit parts (*%1)").arg(kFileSuffix));
    }
    if (path.isEmpty()) return false;
    if (!path.endsWith(kFileSuffix)) path += kFileSuffix;
    if (path == document_.path() && !disk_->look()) return false;
    if (const auto done = document_.saveAs(path); !done) {
        say(tr("Not saved. %1").arg(toQt(done.error().text())));
        return false;
    }
    say({});
    setLibrary(QFileInfo(path).absolutePath());
    return true;
}

QStringList BenchWindow::alreadyThere() const {
    if (!document_.open()) return {};
    const auto pattern = patternOf(document_.part(), document_.footprint());
    return pattern ? holding(*pattern) : QStringList();
}

void BenchWindow::askLibrary() {
    if (library_->folder().isEmpty()) return view_.say(tr("There is no library to look into: choose a folder first"));
    document_.settle();
    std::optional<PadPattern> pattern;
    QString what;
    if (view_.sources() && pictures_.found()) {
        pattern = patternOf(*pictures_.found());
        what = tr("what was found in the picture");
    }
    if (!pattern && (pattern = patternOf(document_.part(), document_.footprint()))) what = tr("these pads");
    if (!pattern && (pattern = firmPatternOf(document_.part(), document_.footprint())))
        what = tr("the %1 places that are known").arg(pattern->pads.size());
    if (!pattern) return view_.say(tr("Nothing is known yet that could be looked for: two places at least"));
    const QString own = document_.path();
    QStringList there = holding(*pattern);
    QMessageBox box(
        QMessageBox::Information, tr("Punchbit"),
        there.isEmpty() ? tr("No part of the library has %1.").arg(what) : tr("The library has %1:").arg(what),
        QMessageBox::Ok, this);
    box.setObjectName("libraryHas");
    if (there.size() > 12) there = there.mid(0, 12) << tr("and %1 more").arg(there.size() - 12);
    box.setInformativeText(there.join('\n'));
    box.exec();
}

QStringList BenchWindow::holding(const PadPattern& pattern) const {
    QStringList words;
    if (library_->folder().isEmpty()) return words;
    // Beside the window, and not for longer than a person waits: what is not known by then is known the next time.
    struct Asked {
        std::mutex lock;
        std::condition_variable answered;
        std::optional<std::vector<LibraryMatch>> found;
    };
    const auto asked = std::make_shared<Asked>();
    std::vector<std::string> folders;
    for (const QString& folder : library_->folders()) folders.push_back(folder.toStdString());
    std::thread([asked, pattern, folders = std::move(folders)] {
        std::vector<LibraryMatch> found;
        for (const std::string& folder : folders)
            if (const auto library = indexedLibrary(folder)) {
                auto here = matching(library->parts, pattern);
                found.insert(found.end(), here.begin(), here.end());
            }
        const std::lock_guard hold(asked->lock);
        asked->found = std::move(found);
        asked->answered.notify_all();
    }).detach();
    std::unique_lock hold(asked->lock);
    asked->answered.wait_for(hold, std::chrono::milliseconds(1500), [&] { return asked->found.has_value(); });
    if (!asked->found) return words;
    for (const LibraryMatch& m : *asked->found) {
        QString line = tr("%1, %2").arg(toQt(m.name), m.how.mirrored ? tr("mirrored")
                                                      : std::abs(m.how.turn) < 0.05
                                                          ? tr("as it is")
                                                          : tr("turned by %1°").arg(m.how.turn, 0, 'f', 1));
        line += tr(", off by %1 at most").arg(view_.length(Length::fromMm(m.how.worst), 3));
        for (const std::string& d : m.how.differs) line += "; " + toQt(d);
        words << line;
    }
    return words;
}

bool BenchWindow::mayBeSavedAnew() {
    const QStringList there = alreadyThere();
    if (there.isEmpty()) return true;
    QMessageBox box(QMessageBox::Question, tr("Punchbit"), tr("The library holds these pads already."),
                    QMessageBox::NoButton, this);
    box.setObjectName("alreadyThere");
    box.setInformativeText(there.mid(0, 5).join("\n"));
    auto* anyway = box.addButton(tr("Save it all the same"), QMessageBox::AcceptRole);
    box.addButton(tr("Not now"), QMessageBox::RejectRole);
    box.exec();
    return box.clickedButton() == anyway;
}

bool BenchWindow::mayLeave() {
    if (!document_.open()) return true;
    if (!document_.dirty() || (document_.path().isEmpty() && document_.part().readings.empty())) {
        document_.dropRecovery();
        return true;
    }
    QMessageBox box(QMessageBox::Question, tr("Punchbit"), tr("“%1” is not saved.").arg(toQt(document_.part().name)),
                    QMessageBox::NoButton, this);
    auto* keep = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* lose = box.addButton(tr("Let it go"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == keep) return save();
    if (box.clickedButton() != lose) return false;
    document_.dropRecovery();
    return true;
}

Result<void> BenchWindow::savePicture(const QString& file, QSize size) {
    std::string bytes;
    if (solidView_->isVisible()) {
        solids_.settle();
        const auto picture = solidView_->picture(size.width(), size.height());
        if (!picture) return tl::make_unexpected(picture.error());
        auto png = pngOf(*picture);
        if (!png) return tl::make_unexpected(png.error());
        bytes = std::move(*png);
    } else {
        document_.settle();
        QImage image(size, QImage::Format_RGB32);
        image.fill(theme::kPaper);
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        const double share = std::min(1.0 * size.width() / sheet_->width(), 1.0 * size.height() / sheet_->height());
        painter.translate((size.width() - share * sheet_->width()) / 2, (size.height() - share * sheet_->height()) / 2);
        painter.scale(share, share);
        sheet_->render(&painter, QPoint(), QRegion(), QWidget::RenderFlags(QWidget::DrawWindowBackground));
        painter.end();
        QByteArray png;
        QBuffer buffer(&png);
        if (!buffer.open(QIODevice::WriteOnly) || !image.save(&buffer, "PNG"))
            return problem("the picture could not be packed", file.toStdString());
        bytes = png.toStdString();
    }
    return writeAtomically(file.toStdString(), bytes);
}

void BenchWindow::closeEvent(QCloseEvent* event) {
    if (document_.open() && !mayLeave()) {
        event->ignore();
        return;
    }
    document_.close();
    event->accept();
}

void BenchWindow::setLibrary(const QString& folder) {
    library_->setFolder(folder);
    if (!QApplication::testAttribute(Qt::AA_DontUseNativeDialogs)) QSettings().setValue("library", folder);
}

void BenchWindow::setOtherLibraries(const QStringList& folders) {
    library_->setOthers(folders);
    if (!QApplication::testAttribute(Qt::AA_DontUseNativeDialogs))
        QSettings().setValue("libraries", library_->others());
}

QString BenchWindow::demoFile() const {
    const QString here = QApplication::applicationDirPath();
    for (const char* place :
         {"/../share/punchbit/demo/fennel-house/QB-TB4.punch", "/../../../demo/fennel-house/QB-TB4.punch"})
        if (QFile::exists(here + place)) return QFileInfo(here + place).canonicalFilePath();
    return {};
}

void BenchWindow::takeIn(const QStringList& files) {
    TakeInDialog dialog(this);
    if (!dialog.open(files)) {
        view_.say(dialog.findChild<QLabel*>("takeWords")->text());
        return;
    }
    if (dialog.exec() != QDialog::Accepted || !mayLeave()) return;
    const auto taken = dialog.taken();
    if (!taken) return view_.say(toQt(taken.error().text()));
    document_.begin(taken->part);
    QStringList words{tr("%1 pads taken in; their leads are not known yet").arg(allPins(taken->part).size())};
    for (const std::string& note : taken->notes) words << toQt(note);
    view_.tell(words.join(". "));
}

void BenchWindow::layOver(const QStringList& files) {
    document_.settle();
    const auto own = patternOf(document_.part(), document_.footprint());
    if (!own) return view_.say(tr("The part's pads are loose: nothing can be laid over them yet"));
    auto* dialog = new CompareDialog(*own, view_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    if (!dialog->open(files)) {
        view_.say(dialog->findChild<QLabel*>("compareWords")->text());
        delete dialog;
        return;
    }
    dialog->show();
}

}  // namespace punch
