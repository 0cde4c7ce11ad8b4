// punchbit [FILE|FOLDER], and punchbit --shot OUT.png --station NAME [--size 1280x800] FILE for pictures.

#include <QApplication>
#include <QCommandLineParser>
#include <QFileInfo>
#include <QSettings>
#include <QTimer>
#include <cstdio>

#include "app/bench_window.h"
#include "app/board/board_window.h"
#include "app/foreign/compare_dialog.h"
#include "app/kin/family_card.h"
#include "app/library_list.h"
#include "app/side/size_side.h"
#include "app/theme.h"
#include "core/version.h"

namespace {

using namespace punch;

int fail(const QString& message) {
    std::fprintf(stderr, "punchbit: %s\n", message.toLocal8Bit().constData());
    return 2;
}

/// Takes a picture of a station and ends.
int shoot(QApplication& app, BenchWindow& window, const QCommandLineParser& args) {
    const QString file = args.positionalArguments().value(0);
    const QStringList size = args.value("size").split('x');
    const QSize wanted(size.value(0).toInt(), size.value(1).toInt());
    if (wanted.width() < 200 || wanted.height() < 200 || wanted.width() > 10000 || wanted.height() > 10000)
        return fail(QObject::tr("--size %1 is no size. Use one like 1280x800").arg(args.value("size")));
    window.resize(wanted);
    window.show();
    const QString station = args.value("station");
    if (!file.isEmpty() && !window.openPath(file)) return fail(window.message());
    const bool board = file.endsWith(kBoardSuffix);
    bool known = board || station.compare("Start", Qt::CaseInsensitive) == 0;
    if (known && !board) window.home();
    for (int i = 0; i < kStations && !known; ++i)
        if (stationName(static_cast<Station>(i)).compare(station, Qt::CaseInsensitive) == 0) {
            window.view().setStation(static_cast<Station>(i));
            known = true;
        }
    if (station.compare("Sources", Qt::CaseInsensitive) == 0) {
        window.view().setStation(Station::Measure);
        window.view().setSources(true);
        window.sheet().fit();
        window.pictures().settle();
        if (args.value("lens") == "found") window.sources().find();
        if (args.value("lens") == "numbers") window.pictures().setTool(PictureWork::Tool::Dimension);
        window.pictures().settle();
        known = true;
    }
    if (!known)
        return fail(QObject::tr("“%1” is no station. Use Start, Measure, Sources, Place, Size, Dress, Fit or Release")
                        .arg(station));
    for (int i = 0; i < kLenses; ++i)
        if (lensName(static_cast<Lens>(i)).compare(args.value("lens"), Qt::CaseInsensitive) == 0)
            window.view().setLens(static_cast<Lens>(i), true);
    const QString look = args.value("lens").toLower();
    if (look == "made") window.view().setLook(BoardLook::Made);
    if (look == "paste") window.view().setLook(BoardLook::Pasted);
    for (const Layer layer : kBoardLayers)
        if (look == layerWords(layer)) window.view().setLayer(layer, true);
    if (look.startsWith("cut ")) window.solidView().setCut(look.mid(4).toDouble());
    if (look.startsWith("seen "))
        for (const auto& [words, from] : kSeenFrom)
            if (look.mid(5) == words) window.solidView().look(from);
    if (look.startsWith("lifted ")) window.solidView().setLift(look.mid(7).toDouble());
    if (look.endsWith(" below")) {
        window.view().setSolderSide(true);
        window.view().setLook(BoardLook::Made);
    }
    if (args.isSet("choose")) {
        const std::string id = args.value("choose").toStdString();
        if (markById(window.document().part(), id) != nullptr)
            window.view().setMark(id);
        else
            window.view().choose(id, {});
    }
    int code = 0;
    QTimer::singleShot(300, &window, [&] {
        window.resize(wanted);
        app.processEvents();
        if (auto* side = window.findChild<SizeSide*>(); side != nullptr && side->isVisible()) side->work().settle();
        window.solids().settle();
        if (auto* library = window.findChild<LibraryList*>()) library->settle();
        if (auto* family = window.findChild<FamilyCard*>(); family != nullptr && family->isVisible()) family->settle();
        QApplication::processEvents();
        QWidget* pictured = &window;
        if (board) {
            window.board()->resize(wanted);
            window.board()->model().settle();
            if (const auto& placings = window.board()->model().board().placings; placings.size() > 1)
                window.board()->sheet().choose(placings[1].id);
            QApplication::processEvents();
            window.board()->space().settle();
            QApplication::processEvents();
            pictured = window.board();
        }
        if (args.isSet("over")) {
            window.layOver(args.values("over"));
            pictured = window.findChild<CompareDialog*>();
            QApplication::processEvents();
        }
        if (pictured == nullptr || !pictured->grab().save(args.value("shot")))
            code = fail(QObject::tr("%1 could not be written").arg(args.value("shot")));
        app.exit(code);
    });
    return app.exec();
}

}  // namespace

int main(int argc, char** argv) {
    bool shot = false;
    for (int i = 1; i < argc; ++i) shot |= QByteArray(argv[i]).startsWith("--shot");
    const bool display = qEnvironmentVariableIsSet("DISPLAY") || qEnvironmentVariableIsSet("WAYLAND_DISPLAY") ||
                         qEnvironmentVariableIsSet("QT_QPA_PLATFORM");
    if (!display) {
        if (!shot) return fail("there is no display. Use the command line instead: punch --help");
        qputenv("QT_QPA_PLATFORM", "offscreen");
    }
    QApplication::setOrganizationName("Punchbit");
    QApplication::setApplicationName("Punchbit");
    QApplication::setApplicationVersion(kVersion);
    QApplication::setDesktopFileName("punchbit");
    QApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    app.setStyleSheet(theme::styleSheet());
    QCommandLineParser args;
    args.setApplicationDescription("Punchbit: from caliper readings to a footprint one can trust");
    args.addHelpOption();
    args.addVersionOption();
    args.addPositionalArgument("file", "a .punch file or a library folder", "[FILE|FOLDER]");
    args.addOption({"over", "of the picture: a file that the part is laid over", "FILE"});
    args.addOption({"shot", "write a picture of the window to OUT.png and end", "OUT.png"});
    args.addOption({"station", "the station to show in the picture", "NAME", "Measure"});
    args.addOption({"choose", "a feature to point at for the picture", "ID"});
    args.addOption({"lens", "a lens to switch on for the picture", "NAME"});
    args.addOption({"size", "size of the picture", "WxH", "1280x800"});
    args.process(app);

    BenchWindow window;
    if (args.isSet("shot")) return shoot(app, window, args);
    window.resize(1280, 800);
    window.show();
    window.activateWindow();  // so that the keys work at once, even where no window manager gives the focus
    if (const QStringList others = QSettings().value("libraries").toStringList(); !others.isEmpty())
        window.setOtherLibraries(others);
    const QString wanted = args.positionalArguments().value(0);
    if (!wanted.isEmpty())
        window.openPath(wanted);
    else if (const QString last = QSettings().value("library").toString(); QFileInfo(last).isDir())
        window.openPath(last);
    return app.exec();
}
