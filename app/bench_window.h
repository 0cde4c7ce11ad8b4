#pragma once
// The main window: stations and name at the top, the station's column at the left, the sheet in the middle, section
// and chain at the right, gauges along the bottom.

#include <QLabel>
#include <QMainWindow>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/commands.h"
#include "app/disk_watch.h"
#include "app/document.h"
#include "app/gauge_rail.h"
#include "app/library_list.h"
#include "app/pictures/picture_work.h"
#include "app/pictures/sources_column.h"
#include "app/pictures/tool_bar.h"
#include "app/pins/pins_panel.h"
#include "app/reading_entry.h"
#include "app/sheet/sheet.h"
#include "app/side/chain_view.h"
#include "app/side/section_view.h"
#include "app/side/size_side.h"
#include "app/solid/solid_view.h"
#include "app/solid/solid_work.h"
#include "app/start_view.h"
#include "app/stations/dress_station.h"
#include "app/stations/fit_station.h"
#include "app/stations/measure_station.h"
#include "app/stations/place_station.h"
#include "app/stations/release_station.h"
#include "app/stations/size_station.h"
#include "app/top_bar.h"
#include "app/view_state.h"

namespace punch {

class BoardWindow;

class BenchWindow : public QMainWindow {
    Q_OBJECT
public:
    BenchWindow();

    /// Opens a part or a library folder. Errors are shown, and the window stays as it was.
    bool openPath(const QString& path);
    void setLibrary(const QString& folder);
    /// Folders to look into besides.
    void setOtherLibraries(const QStringList& folders);

    Document& document() { return document_; }
    ViewState& view() { return view_; }
    ReadingEntry& entry() { return entry_; }
    Sheet& sheet() { return *sheet_; }
    PinsPanel& pins() { return *pins_; }
    MeasureStation& measure() { return *measure_; }
    SourcesColumn& sources() { return *sources_; }
    SolidWork& solids() { return solids_; }
    SolidView& solidView() { return *solidView_; }
    PictureWork& pictures() { return pictures_; }
    PlaceStation& place() { return *place_; }
    ReleaseStation& release() { return *release_; }
    TopBar& topBar() { return *top_; }
    GaugeRail& rail() { return *rail_; }
    ChainView& chain() { return *chain_; }
    const std::vector<Command>& commands() const { return commands_; }
    QString message() const { return message_->isVisible() ? message_->text() : QString(); }
    /// Pads of other files as a part on the bench; the dialog asks which.
    void takeIn(const QStringList& files);
    /// A trial board in a window of its own; the file is begun where there is none.
    void openBoard(const QString& path);
    BoardWindow* board() { return board_; }
    /// The part over another one or a board's files, in a window of its own.
    void layOver(const QStringList& files);
    bool save();
    bool saveAs(const QString& path);
    /// Parts of the library whose pads coincide with these, in words.
    QStringList alreadyThere() const;
    /// The same of what a picture shows, of a few places that are known, or of the whole part: the most that is known.
    void askLibrary();
    void home();
    /// Brings a picture in; a part without a file is saved first, so that the picture has a place beside it.
    void bringIn(const QString& file, std::optional<EvidenceChoice> choice = {});
    /// The same with what the clipboard holds: a picture, or a copied file.
    void pastePicture();
    /// A body: read beside the window and stood on the holes.
    void bringInSolid(const QString& file);
    /// What is seen, board and body in space or the sheet, as a PNG of any size. Errors: the file cannot be written.
    Result<void> savePicture(const QString& file, QSize size);

protected:
    void closeEvent(QCloseEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    /// A part that is dropped on the window is opened, a picture is brought in.
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    /// Asks where the library holds the pads of a new part already.
    bool mayBeSavedAnew();
    void build();
    void buildCommands();
    void always(const QString& name, const QKeySequence& keys, std::function<void()> run, const QString& what = {});
    /// Of a part on the bench: does nothing without one.
    void whenOpen(const QString& name, const QKeySequence& keys, std::function<void()> run, const QString& what = {});
    void commandsOfParts();
    void commandsOfSources();
    void commandsOfPaper();
    void commandsOfReadings();
    void commandsOfSizes();
    void commandsOfView();
    void commandsOfPlaces();
    QWidget* buildRecovery(QWidget* central);
    QWidget* buildColumn(QWidget* central);
    QWidget* buildPages(QWidget* central);
    QWidget* buildSide(QWidget* bench);
    void buildMessages(QWidget* central, QVBoxLayout* layout);
    void buildSheetBars();
    void connectParts();
    void placeSheetBars();
    void showStation();
    void showSide();
    /// Sheet or the view in space.
    void showSpace();
    void showChanges();
    void listChanges();
    /// Columns take their share of the window's width, in lines of text.
    void shareWidth();
    void say(const QString& message, bool good = false);
    void goToGauge(int index);
    void goToRule(const QString& field);
    void showDetails(int reading);
    void offerRecovery();
    /// True when the part on the bench may be left: it is saved, or the user lets it go.
    /// Parts of the library that hold these pads, in words, best first.
    QStringList holding(const PadPattern& pattern) const;
    bool mayLeave();
    /// Has the field in which one types take its text, as if it were left.
    void takeWhatIsTyped();
    /// What was said is over: the part became another one, or the station did.
    void forgetMessage();
    QString demoFile() const;

    BoardWindow* board_ = nullptr;
    Document document_;
    ViewState view_;
    ReadingEntry entry_;
    PictureWork pictures_;
    SolidWork solids_;
    std::vector<Command> commands_;
    TopBar* top_ = nullptr;
    QStackedWidget* pages_ = nullptr;
    QStackedWidget* column_ = nullptr;
    DiskWatch* disk_;
    LibraryList* library_ = nullptr;
    StartView* start_ = nullptr;
    MeasureStation* measure_ = nullptr;
    PlaceStation* place_ = nullptr;
    SizeStation* size_ = nullptr;
    DressStation* dress_ = nullptr;
    FitStation* fit_ = nullptr;
    ReleaseStation* release_ = nullptr;
    SourcesColumn* sources_ = nullptr;
    Sheet* sheet_ = nullptr;
    PinsPanel* pins_ = nullptr;  ///< under it, in Release
    SolidView* solidView_ = nullptr;
    QWidget* spacePage_ = nullptr;             ///< it, or what stands for it
    std::unique_ptr<SolidView> viewInNoWindow_;  ///< where there is no OpenGL
    QPushButton* toSpace_ = nullptr;  ///< on the flat sheet, in Fit
    bool space_ = true;               ///< Fit shows body and board in space, else the flat sheet
    QPushButton* badge_ = nullptr;
    ToolBar* tools_ = nullptr;
    bool flipped_ = false;  ///< the sheet was turned over for a drawing from below
    void buildLook();
    std::vector<QPushButton*> lenses_;  ///< and last look_
    QPushButton* look_ = nullptr;
    SectionView* section_ = nullptr;
    SizeSide* sizeSide_ = nullptr;
    QWidget* sideChoice_ = nullptr;
    QFrame* sideLine_ = nullptr;
    bool sideDistances_ = true;
    ChainView* chain_ = nullptr;
    GaugeRail* rail_ = nullptr;
    QLabel* message_ = nullptr;
    QPushButton* changes_ = nullptr;  ///< what the last edit moved; at a press all since the last save
    QWidget* side_ = nullptr;
    int changesOf_ = 0;          ///< the part that the changes are of
    bool freshMessage_ = false;  ///< said in this turn of events, so that what it is about is still happening
    QWidget* recovery_ = nullptr;
    QLabel* recoveryWords_ = nullptr;
};

}  // namespace punch
