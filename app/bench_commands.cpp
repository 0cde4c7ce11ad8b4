// The bench's commands: one list for the ask box, the keys and the help.

#include <QAction>
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>

#include "app/bench_window.h"
#include "app/board/coupon_dialog.h"
#include "app/foreign/foreign_choice.h"
#include "app/handover/paper_dialog.h"
#include "app/paper.h"
#include "app/qt_text.h"
#include "app/stations/instrument_dialog.h"
#include "app/stations/letter_table.h"
#include "app/stations/reading_details.h"
#include "core/part/names.h"

namespace punch {

void BenchWindow::showDetails(int reading) { ReadingDetails(document_, reading, this).exec(); }

void BenchWindow::always(const QString& name, const QKeySequence& keys, std::function<void()> run,
                         const QString& what) {
    commands_.push_back({name, keys, std::move(run), what});
}

void BenchWindow::whenOpen(const QString& name, const QKeySequence& keys, std::function<void()> run,
                           const QString& what) {
    always(
        name, keys,
        [this, run = std::move(run)] {
            if (document_.open()) run();
        },
        what);
}

/// Parts, undo, the stations by what designers say of them.
void BenchWindow::commandsOfParts() {
    always(
        tr("Ask for anything"), Qt::Key_F1, [this] { top_->askBox().setFocus(); }, tr("help commands"));
    always(tr("New part"), QKeySequence::New, [this] {
        if (mayLeave()) home();
    });
    always(tr("Open a part"), QKeySequence::Open, [this] {
        if (!mayLeave()) return;
        const QString path =
            QFileDialog::getOpenFileName(this, tr("Open a part"), library_->folder(), tr("Punchbit parts (*.punch)"));
        if (!path.isEmpty()) openPath(path);
    });
    whenOpen(tr("Save the part"), QKeySequence::Save, [this] { save(); });
    whenOpen(tr("Save the part under another name"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S),
             [this] { saveAs({}); });
    always(
        tr("Take in pads from files of others"), {},
        [this] {
            const QStringList chosen =
                QFileDialog::getOpenFileNames(this, tr("Files with pads"), library_->folder(), foreignFilter());
            if (!chosen.isEmpty()) takeIn(chosen);
        },
        tr("import gerber drill IPC-2581 csv land pattern copy"));
    whenOpen(
        tr("Do we have this already?"), {}, [this] { askLibrary(); }, tr("library search geometry match same pads"));
    whenOpen(
        tr("Lay the part over another one or a board's files"), {},
        [this] {
            const QStringList chosen =
                QFileDialog::getOpenFileNames(this, tr("What to lay it over"), library_->folder(), foreignFilter());
            if (!chosen.isEmpty()) layOver(chosen);
        },
        tr("compare overlay difference deviation gerber"));
    always(
        tr("Trial board"), {},
        [this] {
            const QString path = QFileDialog::getSaveFileName(this, tr("A trial board, a new one or one that is there"),
                                                              library_->folder(), tr("Trial boards (*.board)"), nullptr,
                                                              QFileDialog::DontConfirmOverwrite);
            if (!path.isEmpty()) openBoard(path);
        },
        tr("several parts outline place courtyard overlap fab files placement bill of material"));
    whenOpen(
        tr("Fit coupon"), {},
        [this] {
            document_.settle();
            CouponDialog(document_, view_, this).exec();
        },
        tr("graded holes pegs rings test board which fitted"));
    always(
        tr("Library"), Qt::CTRL | Qt::Key_L,
        [this] {
            if (mayLeave()) home();
        },
        tr("parts folder start"));
    whenOpen(tr("Undo"), QKeySequence::Undo, [this] { document_.undo(); });
    whenOpen(tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { document_.redo(); });
    // What designers say for what is done there.
    const QString stationWords[kStations] = {
        tr("readings caliper notebook dimension"),
        tr("pins formation pattern pitch numbers rotate turn mirror datum origin peg"),
        tr("hole drill land pad ring annular thermal relief spokes layer copper mask paste voltage creepage slot"),
        tr("silkscreen legend courtyard keepout outline text pin 1 mark layer assembly"),
        tr("body lead board thickness standoff height 3D"),
        tr("save export name library sources approval version delete")};
    for (int i = 0; i < kStations; ++i) {
        const auto s = static_cast<Station>(i);
        whenOpen(
            tr("Station %1").arg(stationName(s)), QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)),
            [this, s] {
                // The field of the station that is left takes its text, and gets no more of what is typed.
                takeWhatIsTyped();
                view_.setStation(s);
                if (s == Station::Measure)
                    measure_->line().setFocus();
                else
                    sheet_->setFocus();
            },
            stationWords[i]);
    }
}

/// Pictures and drawings, and what is found in them.
void BenchWindow::commandsOfSources() {
    whenOpen(tr("Enter a reading"), Qt::Key_F2, [this] {
        view_.setStation(Station::Measure);
        view_.setSources(false);
        measure_->line().setFocus();
    });
    whenOpen(
        tr("Sources: pictures of the part"), Qt::Key_F11,
        [this] {
            view_.setStation(Station::Measure);
            view_.setSources(!view_.sources());
            sheet_->fit();
        },
        tr("scan photograph drawing picture"));
    whenOpen(
        tr("Bring in a scan or drawing"), QKeySequence(Qt::CTRL | Qt::Key_I), [this] { emit sources_->fileWanted(); },
        tr("picture photograph import pdf dxf"));
    whenOpen(
        tr("Find the pins in the picture"), QKeySequence(Qt::CTRL | Qt::Key_F),
        [this] {
            if (view_.sources()) sources_->find();
        },
        tr("scan recognise formation"));
    const std::pair<PictureWork::Tool, const char*> tools[] = {
        {PictureWork::Tool::KnownLength, "scale ruler"},
        {PictureWork::Tool::Level, "straighten turn"},
        {PictureWork::Tool::Square, "rectify perspective photograph"},
        {PictureWork::Tool::Region, "part of it"},
        {PictureWork::Tool::Read, "pick rim edge corner"},
        {PictureWork::Tool::Dimension, "number drawing"},
        {PictureWork::Tool::Outline, "trace body contour"}};
    for (const auto& [tool, words] : tools)
        whenOpen(
            tr("Picture: %1").arg(ToolCard::name(tool).toLower()), {},
            [this, tool = tool] {
                view_.setStation(Station::Measure);
                view_.setSources(true);
                pictures_.setTool(tool);
                sheet_->setFocus();
            },
            tr(words));
    whenOpen(
        tr("Blink: picture and footprint in turn"), Qt::Key_F12,
        [this] { pictures_.setBlinking(!pictures_.blinking()); }, tr("compare deviation"));
    whenOpen(
        tr("Wipe: picture beside footprint"), Qt::SHIFT | Qt::Key_F12,
        [this] { pictures_.setWipe(pictures_.wipe() ? std::nullopt : std::optional(0.5)); }, tr("compare deviation"));
    whenOpen(
        tr("Compare what was found with the footprint"), {},
        [this] {
            const auto done = pictures_.compare();
            say(done ? QString() : toQt(done.error().text()));
        },
        tr("overlay deviation"));
}

/// True-scale paper, and pictures.
void BenchWindow::commandsOfPaper() {
    whenOpen(
        tr("Picture of what is seen"), {},
        [this] {
            bool good = false;
            const QString typed =
                QInputDialog::getText(this, tr("Picture of what is seen"), tr("Its size in pixels, as 1280x800"),
                                      QLineEdit::Normal, "1280x800", &good);
            if (!good) return;
            const QStringList both = typed.split('x');
            const QSize size(both.value(0).toInt(), both.value(1).toInt());
            if (both.size() != 2 || size.width() < 16 || size.height() < 16 || size.width() > 10000 ||
                size.height() > 10000)
                return say(tr("“%1” is no size: type 16 to 10000 pixels each way, as 1280x800").arg(typed));
            const QString file = QFileDialog::getSaveFileName(this, tr("Picture of what is seen"),
                                                              toQt(document_.part().name) + ".png", tr("PNG (*.png)"));
            if (file.isEmpty()) return;
            const auto done = savePicture(file, size);
            say(done ? tr("Written: %1").arg(QFileInfo(file).fileName()) : toQt(done.error().text()), done.has_value());
        },
        tr("png image screenshot 3D space"));
    whenOpen(
        tr("Printer's scale"), {},
        [this] {
            const PrintedLengths kept = printedLengths();
            bool good = false;
            // Measured on a page that was corrected already: what is left over comes on top of what is kept.
            const QString typed = QInputDialog::getText(
                this, tr("Printer's scale"),
                tr("What do the bars of %1 mm measure on a page that says “%2”?\nAcross x along, in mm; nothing: "
                   "printing is not corrected any more")
                    .arg(kTestLength)
                    .arg(correctionWords(kept)),
                QLineEdit::Normal, QStringLiteral("%1 x %1").arg(kTestLength), &good);
            if (!good) return;
            const QStringList both = QString(typed).replace(',', '.').split('x');
            bool first = false, second = false;
            PrintedLengths measured{both.value(0).trimmed().toDouble(&first),
                                    both.value(1).trimmed().toDouble(&second)};
            if (typed.trimmed().isEmpty()) {
                measured = {};
            } else if (both.size() != 2 || !first || !second) {
                return say(tr("“%1” is not two lengths: type them as 99.6 x 100.7").arg(typed));
            } else {
                measured.across *= kept.across / kTestLength;
                measured.along *= kept.along / kTestLength;
            }
            const auto done = keepPrintedLengths(measured);
            say(done ? tr("Pages are from now on %1; a PDF never is").arg(correctionWords(measured))
                     : toQt(done.error().text()),
                done.has_value());
        },
        tr("printer correction test length 1:1 paper"));
    for (const bool mirrored : {false, true})
        whenOpen(
            mirrored ? tr("On paper at true scale, mirrored") : tr("On paper at true scale"),
            mirrored ? QKeySequence() : QKeySequence(QKeySequence::Print),
            [this, mirrored] {
                document_.settle();
                PaperDialog(document_, library_->folder(), mirrored, this).exec();
            },
            tr("print PDF 1:1 printer lay the part on several parts sheet"));
}

/// Readings, standard sizes, slips.
void BenchWindow::commandsOfReadings() {
    whenOpen(
        tr("Paste a picture"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), [this] { pastePicture(); },
        tr("clipboard scan photograph"));
    whenOpen(tr("Notebook"), Qt::Key_F3, [this] {
        view_.setStation(Station::Measure);
        view_.setSources(false);
        measure_->notebook().setFocus();
    });
    whenOpen(
        tr("Take or release the standard size"), Qt::Key_F4, [this] { measure_->takeOrReleaseStandard(); },
        tr("pitch row gap lead"));
    whenOpen(
        tr("Advice about another size"), Qt::SHIFT | Qt::Key_F4, [this] { measure_->nextAdvice(1); }, tr("standard"));
    whenOpen(
        tr("Series: reading after reading"), Qt::Key_F9,
        [this] {
            view_.setStation(Station::Measure);
            measure_->startSeries();
        },
        tr("caliper hands notebook"));
    whenOpen(
        tr("Mend what is asked about"), Qt::Key_F10, [this] { measure_->mendSlip(); },
        tr("slip unit typo join orphan"));
    whenOpen(
        tr("What is asked about is meant"), Qt::SHIFT | Qt::Key_F10, [this] { measure_->keepSlip(); }, tr("slip keep"));
    whenOpen(
        tr("Letter table of the drawing"), {}, [this] { LetterTableDialog(document_, view_, this).exec(); },
        tr("variants letters dimensions"));
    whenOpen(
        tr("Add an instrument"), {}, [this] { InstrumentDialog(document_, this).exec(); },
        tr("own caliper micrometer resolution"));
    whenOpen(
        tr("Where and how the reading was taken"), {},
        [this] {
            const int row = measure_->notebook().currentIndex().row();
            if (row >= 0) showDetails(row);
        },
        tr("details source specimen letter below"));
}

/// Lands, slots, the sheet and its sides.
void BenchWindow::commandsOfSizes() {
    whenOpen(tr("Sheet"), Qt::Key_F5, [this] { sheet_->setFocus(); });
    whenOpen(
        tr("Flip: part side or solder side"), Qt::Key_F6, [this] { view_.flip(); },
        tr("turn over below underside mirror rotate bottom layer"));
    whenOpen(tr("Gauges"), Qt::Key_F7, [this] { rail_->setFocus(); });
    whenOpen(
        tr("Best land here"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { size_->bestPadHere(false); },
        tr("pad room largest ring annular"));
    whenOpen(
        tr("Best lands of the whole part"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B),
        [this] { size_->bestPadHere(true); }, tr("pad room largest ring annular"));
    whenOpen(
        tr("Back to the rule: take an override back"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
        [this] { size_->takeOverrideBack(); }, tr("land hole undo"));
    whenOpen(
        tr("Put a slot here"), {}, [this] { size_->putSlotHere(); }, tr("creepage voltage cut-out mill"));
    const auto draw = [this](CutOutKind kind) {
        view_.setStation(Station::Size);
        size_->drawCutOut(kind);
    };
    whenOpen(
        tr("Draw a slot on the sheet"), {}, [draw] { draw(CutOutKind::Slot); }, tr("cut-out mill board"));
    whenOpen(
        tr("Draw a window in the board"), {}, [draw] { draw(CutOutKind::Window); }, tr("cut-out board"));
}

/// What is seen.
void BenchWindow::commandsOfView() {
    whenOpen(tr("Fit the sheet to the window"), Qt::Key_F8, [this] { sheet_->fit(); });
    whenOpen(tr("Zoom in"), QKeySequence::ZoomIn, [this] { sheet_->zoom(1.25); });
    whenOpen(tr("Zoom out"), QKeySequence::ZoomOut, [this] { sheet_->zoom(0.8); });
    const std::pair<const char*, Unit> units[] = {{"mm", Unit::Mm}, {"mil", Unit::Mil}, {"inch", Unit::Inch}};
    for (const auto& [name, unit] : units)
        always(
            tr("Show lengths in %1").arg(name), {}, [this, unit = unit] { view_.setUnit(unit); }, tr("units"));
    whenOpen(
        tr("Show the drawing"), {}, [this] { view_.setLook(BoardLook::Drawing); }, tr("board layers preview"));
    whenOpen(
        tr("Show the board as made"), {}, [this] { view_.setLook(BoardLook::Made); },
        tr("preview mask print silkscreen"));
    whenOpen(
        tr("Show the board with paste"), {}, [this] { view_.setLook(BoardLook::Pasted); }, tr("preview solder"));
    for (const Layer layer : kBoardLayers)
        whenOpen(tr("Layer %1 on or off").arg(layerWords(layer)), {},
                 [this, layer] { view_.setLayer(layer, !view_.layers().contains(layer)); });
    for (int i = 0; i < kLenses; ++i) {
        const auto lens = static_cast<Lens>(i);
        whenOpen(tr("Lens %1 on or off").arg(lensName(lens)), {},
                 [this, lens] { view_.setLens(lens, !view_.lens(lens)); });
    }
}

/// Datum, numbers, features, formations.
void BenchWindow::commandsOfPlaces() {
    whenOpen(tr("Datum in the middle of the pins"), {}, [this] { place_->setDatum(DatumKind::MiddleOfPins); });
    whenOpen(
        tr("Datum at pin 1"), {}, [this] { place_->setDatum(DatumKind::PinOne); }, tr("first pin"));
    whenOpen(tr("Datum at the chosen feature"), {}, [this] {
        if (view_.first().empty())
            say(tr("Point at a pin, a peg or a face on the sheet first"));
        else
            place_->setDatum(DatumKind::Feature, view_.first());
    });
    whenOpen(tr("Datum between the two chosen features"), {}, [this] {
        if (view_.first().empty() || view_.second().empty())
            say(tr("Point at two features on the sheet first"));
        else
            place_->setDatum(DatumKind::Between, view_.first(), view_.second());
    });
    whenOpen(
        tr("First pin at the other end"), {}, [this] { place_->turnNumbers(); },
        tr("numbers direction turn rotate mirror reverse"));
    whenOpen(tr("Add a peg"), {}, [this] { place_->addPeg(); });
    whenOpen(
        tr("Remove the chosen feature"), {}, [this] { place_->removeChosen(); },
        tr("delete peg lock lug hole face erase"));
    whenOpen(tr("Peg on the other side of the row"), {}, [this] { place_->mirrorPeg(true); });
    whenOpen(tr("Peg at the other end of the row"), {}, [this] { place_->mirrorPeg(false); });
    for (const auto& [kind, word] : Names<FormationKind>::table)
        whenOpen(
            tr("Add a formation: %1").arg(toQt(word)), {}, [this, kind = kind] { place_->addFormation(kind); },
            tr("pins"));
    for (const auto& [kind, word] : Names<SpotKind>::table)
        if (kind != SpotKind::Peg)
            whenOpen(tr("Add a feature: %1").arg(toQt(word)), {}, [this, kind = kind] { place_->addSpot(kind); });
    whenOpen(
        tr("Number the pins by pointing"), {},
        [this] {
            view_.setStation(Station::Place);
            place_->startNumbering();
        },
        tr("order click"));
    whenOpen(
        tr("Free the chosen pin from its pattern, or put it back"), {}, [this] { place_->toggleMovedPin(); },
        tr("moved offset stands off its place"));
    whenOpen(tr("Leave the chosen pin out of the grid"), {}, [this] { place_->leaveOutPin(); });
    for (const MarkKindInfo& kind : markKinds())
        whenOpen(
            tr("Add a mark: %1").arg(toQt(nameOf(kind.kind))), {},
            [this, k = kind.kind] {
                view_.setStation(Station::Dress);
                dress_->marks().addMark(k);
            },
            tr(kind.help));
    whenOpen(
        tr("What leaves: formats and files"), Qt::CTRL | Qt::Key_E,
        [this] {
            view_.setStation(Station::Release);
            release_->handOver();
        },
        tr("export gerber drill dxf step report"));
    always(tr("Quit"), QKeySequence::Quit, [this] { close(); });
}

void BenchWindow::buildCommands() {
    commandsOfParts();
    commandsOfSources();
    commandsOfPaper();
    commandsOfReadings();
    commandsOfSizes();
    commandsOfView();
    commandsOfPlaces();
    for (const Command& c : commands_) {
        if (c.keys.isEmpty()) continue;
        auto* action = new QAction(c.name, this);
        action->setShortcut(c.keys);
        action->setShortcutContext(Qt::WindowShortcut);
        connect(action, &QAction::triggered, this, c.run);
        addAction(action);
    }
}

}  // namespace punch
