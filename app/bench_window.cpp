#include "app/bench_window.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenu>
#include <QTimer>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/tips.h"
#include "core/advise/changes.h"

namespace punch {

BenchWindow::BenchWindow() : entry_(document_, view_), pictures_(document_, view_), solids_(document_, view_) {
    setWindowTitle(tr("Punchbit"));
    setAcceptDrops(true);
    buildCommands();
    build();
    connectParts();
    giveTips(this);
    home();
}

/// What was not saved last time, and is offered.
QWidget* BenchWindow::buildRecovery(QWidget* central) {
    const int em = theme::em();
    recovery_ = new QWidget(central);
    recovery_->setObjectName("recovery");
    recovery_->setAttribute(Qt::WA_StyledBackground);
    recovery_->setStyleSheet(
        theme::styled("QWidget#recovery { background: @marigoldPale; border-bottom: 1px solid @marigold; }"));
    auto* recoveryLine = new QHBoxLayout(recovery_);
    recoveryLine->setContentsMargins(em, em / 4, em, em / 4);
    recoveryWords_ = new QLabel(recovery_);
    auto* take = new QPushButton(tr("Take it back"), recovery_);
    take->setObjectName("takeRecovery");
    take->setProperty("role", "main");
    auto* drop = new QPushButton(tr("Drop it"), recovery_);
    drop->setObjectName("dropRecovery");
    recoveryLine->addWidget(recoveryWords_, 1);
    recoveryLine->addWidget(take);
    recoveryLine->addWidget(drop);
    recovery_->hide();
    connect(take, &QPushButton::clicked, this, [this] {
        recovery_->hide();
        if (const auto done = document_.takeRecovery(); !done) say(toQt(done.error().text()));
    });
    connect(drop, &QPushButton::clicked, this, [this] {
        recovery_->hide();
        Document::dropRecoveryOf(document_.path());
    });
    return recovery_;
}

/// Library, stations and sources, one at a time.
QWidget* BenchWindow::buildColumn(QWidget* central) {
    column_ = new QStackedWidget(central);
    column_->setObjectName("column");
    column_->setAttribute(Qt::WA_StyledBackground);
    column_->setFixedWidth(theme::em() * 41 / 2);
    library_ = new LibraryList(column_);
    disk_ = new DiskWatch(document_, view_, this);
    measure_ = new MeasureStation(document_, view_, entry_, column_);
    place_ = new PlaceStation(document_, view_, column_);
    size_ = new SizeStation(document_, view_, column_);
    dress_ = new DressStation(document_, view_, column_);
    fit_ = new FitStation(document_, view_, solids_, column_);
    release_ = new ReleaseStation(document_, view_, column_);
    sources_ = new SourcesColumn(document_, view_, pictures_, column_);
    for (QWidget* w : {static_cast<QWidget*>(library_), static_cast<QWidget*>(measure_), static_cast<QWidget*>(place_),
                       static_cast<QWidget*>(size_), static_cast<QWidget*>(dress_), static_cast<QWidget*>(fit_),
                       static_cast<QWidget*>(release_)})
        column_->addWidget(w);
    // With a tool in hand and much found, the column may be longer than the window is high.
    auto* roomForSources = new QScrollArea(column_);
    roomForSources->setWidgetResizable(true);
    roomForSources->setFrameShape(QFrame::NoFrame);
    roomForSources->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    roomForSources->setWidget(sources_);
    // As white as the other columns.
    roomForSources->viewport()->setAutoFillBackground(false);
    sources_->setAutoFillBackground(false);
    column_->addWidget(roomForSources);
    return column_;
}

/// Start, or the bench: sheet and side.
QWidget* BenchWindow::buildPages(QWidget* central) {
    pages_ = new QStackedWidget(central);
    start_ = new StartView(pages_);
    auto* scroll = new QScrollArea(pages_);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(start_);
    pages_->addWidget(scroll);
    auto* bench = new QWidget(pages_);
    auto* benchLine = new QHBoxLayout(bench);
    benchLine->setContentsMargins(0, 0, 0, 0);
    benchLine->setSpacing(0);
    sheet_ = new Sheet(document_, view_, entry_, bench);
    measure_->notebook().setPictures(pictures_);
    sheet_->setPictures(pictures_);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(sheet_, 5);
    pins_ = new PinsPanel(document_, view_, *sheet_, bench);
    pins_->hide();
    middle->addWidget(pins_, 4);
    benchLine->addLayout(middle, 1);
    if (SolidView::possible()) {
        spacePage_ = solidView_ = new SolidView(document_, view_, solids_, bench);
    } else {
        viewInNoWindow_ = std::make_unique<SolidView>(document_, view_, solids_);
        solidView_ = viewInNoWindow_.get();
        auto* words = new QLabel(SolidView::impossibleWords(), bench);
        words->setWordWrap(true);
        words->setAlignment(Qt::AlignCenter);
        words->setMargin(40);
        spacePage_ = words;
    }
    spacePage_->hide();
    middle->addWidget(spacePage_, 5);
    benchLine->addWidget(buildSide(bench));
    pages_->addWidget(bench);
    return pages_;
}

QWidget* BenchWindow::buildSide(QWidget* bench) {
    const int em = theme::em();
    auto* side = side_ = new QWidget(bench);
    side->setObjectName("side");
    side->setAttribute(Qt::WA_StyledBackground);
    side->setFixedWidth(em * 20);
    side->setStyleSheet(theme::styled("QWidget#side { border-left: 1px solid @line; }"));
    auto* sideBox = new QVBoxLayout(side);
    sideBox->setContentsMargins(em * 3 / 4, em / 2, em * 3 / 4, em / 2);
    section_ = new SectionView(document_, view_, side);
    chain_ = new ChainView(document_, view_, side);
    // In Size the distances, the room and drop-in stand here, or the section at a touch.
    sideChoice_ = new QWidget(side);
    auto* choice = new QHBoxLayout(sideChoice_);
    choice->setContentsMargins(0, 0, 0, 0);
    auto* group = new QButtonGroup(sideChoice_);
    for (const bool distances : {true, false}) {
        auto* button = new QPushButton(distances ? tr("Distances and drop-in") : tr("Section"), sideChoice_);
        button->setObjectName(distances ? "sideDistances" : "sideSection");
        button->setCheckable(true);
        button->setChecked(distances);
        button->setProperty("role", "chip");
        group->addButton(button, distances ? 1 : 0);
        choice->addWidget(button);
    }
    choice->addStretch(1);
    connect(group, &QButtonGroup::idToggled, this, [this](int id, bool on) {
        if (!on) return;
        sideDistances_ = id == 1;
        showSide();
    });
    sideBox->addWidget(sideChoice_);
    sizeSide_ = new SizeSide(document_, view_, side);
    sideBox->addWidget(sizeSide_, 10);
    sideBox->addWidget(section_, 5);
    sideLine_ = new QFrame(side);
    sideLine_->setProperty("role", "line");
    sideBox->addWidget(sideLine_);
    sideBox->addWidget(chain_, 5);
    return side;
}

/// What is wrong or was done, and what the last edit moved.
void BenchWindow::buildMessages(QWidget* central, QVBoxLayout* layout) {
    message_ = new QLabel(central);
    message_->setObjectName("message");
    message_->setWordWrap(true);
    message_->hide();
    layout->addWidget(message_);
    changes_ = new QPushButton(central);
    changes_->setObjectName("changes");
    changes_->setFlat(true);
    changes_->setFocusPolicy(Qt::TabFocus);
    changes_->setAccessibleName(tr("What the last edit changed"));
    changes_->setToolTip(tr("What the last edit moved. Press for all changes since the part was saved"));
    changes_->setStyleSheet(
        theme::styled("QPushButton { border: none; text-align: left; padding: 1px 12px; color: @quiet; "
                      "background: @strip; } QPushButton:focus { color: @petrol; }"));
    connect(changes_, &QPushButton::clicked, this, &BenchWindow::listChanges);
    layout->addWidget(changes_);
}

void BenchWindow::build() {
    auto* central = new QWidget(this);
    auto* layout = new QVBoxLayout(central);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    top_ = new TopBar(document_, view_, commands_, central);
    layout->addWidget(top_);
    layout->addWidget(buildRecovery(central));
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(buildColumn(central));
    auto* line = new QFrame(central);
    line->setStyleSheet(theme::styled("background: @line;"));
    line->setFixedWidth(1);
    middle->addWidget(line);
    middle->addWidget(buildPages(central), 1);
    layout->addLayout(middle, 1);
    buildMessages(central, layout);
    rail_ = new GaugeRail(document_, view_, central);
    layout->addWidget(rail_);
    setCentralWidget(central);
    buildSheetBars();
}

void BenchWindow::connectParts() {
    connect(library_, &LibraryList::partWanted, this, [this](const QString& path) {
        if (mayLeave()) openPath(path);
    });
    connect(library_, &LibraryList::said, this, [this](const QString& words) { say(words); });
    connect(library_, &LibraryList::anotherWanted, this, [this] {
        const QString folder =
            QFileDialog::getExistingDirectory(this, tr("One more folder of parts"), library_->folder());
        if (!folder.isEmpty()) setOtherLibraries(library_->others() + QStringList{folder});
    });
    connect(library_, &LibraryList::othersChanged, this, [this] { setOtherLibraries(library_->others()); });
    connect(library_, &LibraryList::folderWanted, this, [this] {
        const QString folder =
            QFileDialog::getExistingDirectory(this, tr("Choose a library folder"), library_->folder());
        if (!folder.isEmpty()) setLibrary(folder);
    });
    connect(start_, &StartView::partMade, this, [this](const Part& part) {
        view_.choose({}, {});
        view_.resetSide();
        document_.begin(part);
        view_.setStation(Station::Measure);
    });
    connect(start_, &StartView::showMe, this, [this] { openPath(demoFile()); });
    connect(top_, &TopBar::homeWanted, this, [this] {
        if (mayLeave()) home();
    });
    connect(sheet_, &Sheet::typed, this, [this](const QString& text) {
        view_.setStation(Station::Measure);
        entry_.editing() >= 0 ? measure_->replaceLine(text) : measure_->type(text);
    });
    connect(solidView_, &SolidView::flatWanted, this, [this] {
        space_ = false;
        showSpace();
        sheet_->fit();
    });
    connect(toSpace_, &QPushButton::clicked, this, [this] {
        space_ = true;
        showSpace();
    });
    connect(fit_, &FitStation::fileWanted, this, [this] {
        bringInSolid(QFileDialog::getOpenFileName(this, tr("Bring in a body"), library_->folder(),
                                                  tr("STEP files (*.step *.stp *.STEP *.STP);;All files (*)")));
    });
    connect(sheet_, &Sheet::numbered, place_, &PlaceStation::numberPin);
    connect(&measure_->notebook(), &Notebook::detailsWanted, this, &BenchWindow::showDetails);
    connect(measure_, &MeasureStation::sourcesWanted, this, [this] {
        view_.setSources(true);
        sheet_->fit();
    });
    connect(sources_, &SourcesColumn::notebookWanted, this, [this] {
        view_.setSources(false);
        sheet_->fit();
    });
    connect(sources_, &SourcesColumn::fileWanted, this, [this] {
        bringIn(QFileDialog::getOpenFileName(
            this, tr("Bring in a scan or drawing"), library_->folder(),
            tr("Scans and drawings (*.png *.jpg *.jpeg *.tif *.tiff *.bmp *.webp *.pdf *.dxf);;"
               "All files (*)")));
    });
    connect(&pictures_, &PictureWork::broughtIn, this, [this] { sheet_->fit(); });
    connect(&pictures_, &PictureWork::readingPointed, this, [this](int reading) {
        const auto& readings = document_.part().readings;
        if (reading < 0 || reading >= static_cast<int>(readings.size())) return;
        const std::string id = readings[static_cast<std::size_t>(reading)].id;
        view_.setSources(false);
        measure_->notebook().goTo(id);
        measure_->notebook().setFocus();
        view_.light(id);
        sheet_->fit();
    });
    connect(&measure_->notebook(), &Notebook::placeWanted, this, [this](int row) {
        if (!pictures_.showPlace(static_cast<std::size_t>(row)))
            say(tr("Where this reading's number stands was not kept, or its page is not there"));
    });
    connect(rail_, &GaugeRail::culpritsWanted, this, &BenchWindow::goToGauge);
    connect(chain_, &ChainView::ruleWanted, this, &BenchWindow::goToRule);
    connect(chain_, &ChainView::parameterWanted, this, [this](const QString& name) {
        if (name.endsWith("itch") || name.endsWith("rowGap") || name.endsWith("circle")) {
            view_.setStation(Station::Place);
        } else {
            view_.setStation(Station::Measure);
        }
    });
    connect(chain_, &ChainView::readingWanted, this, [this](const QString& id) {
        view_.setStation(Station::Measure);
        measure_->notebook().goTo(id.toStdString());
        view_.light(id.toStdString());
    });
    connect(release_, &ReleaseStation::pictureWanted, this, [this](const QString& source) {
        view_.setStation(Station::Measure);
        view_.setSources(true);
        pictures_.choose(source.toStdString());
        view_.setLens(Lens::Source, true);
    });
    connect(release_, &ReleaseStation::memberWanted, this, [this](const Part& member) {
        // The signal's part goes with the family that is left.
        const Part part = member;
        if (mayLeave()) document_.begin(part);
    });
    connect(release_, &ReleaseStation::saveWanted, this, [this] { save(); });
    connect(release_, &ReleaseStation::commandWanted, this, [this](const QString& name) {
        for (const Command& c : commands_)
            if (c.name == name) return c.run();
    });
    connect(release_, &ReleaseStation::saveAsWanted, this, [this] { saveAs({}); });
    connect(&document_, &Document::failed, this, [this](const QString& message) { say(message); });
    connect(&document_, &Document::fileChanged, this, &BenchWindow::showStation);
    connect(&view_, &ViewState::stationChanged, this, &BenchWindow::showStation);
    connect(&view_, &ViewState::stationChanged, this, &BenchWindow::forgetMessage);
    connect(&document_, &Document::edited, this, &BenchWindow::forgetMessage);
    connect(&document_, &Document::changed, this, &BenchWindow::showChanges);
    connect(&view_, &ViewState::unitChanged, this, &BenchWindow::showChanges);
    connect(sheet_, &Sheet::removeWanted, this, [this] { place_->removeChosen(); });
    connect(&view_, &ViewState::message_, this, &BenchWindow::say);
}

void BenchWindow::showSide() {
    const bool size = document_.open() && view_.station() == Station::Size;
    const bool distances = size && sideDistances_;
    sideChoice_->setVisible(size);
    sizeSide_->setVisible(distances);
    section_->setVisible(!distances);
    sideLine_->setVisible(!distances);
    chain_->setVisible(!distances);
}

void BenchWindow::showSpace() {
    const bool fit = document_.open() && view_.station() == Station::Fit;
    // Never both, or the window grows for them.
    QWidget* shown = fit && space_ ? spacePage_ : sheet_;
    (shown == sheet_ ? spacePage_ : sheet_)->hide();
    shown->show();
    toSpace_->setVisible(fit && !space_);
    const bool release = document_.open() && view_.station() == Station::Release;
    pins_->setVisible(release);
    if (release) pins_->refresh();
    placeSheetBars();
}

void BenchWindow::showStation() {
    showSide();
    showSpace();
    const bool open = document_.open();
    pages_->setCurrentIndex(open ? 1 : 0);
    rail_->setVisible(open);
    changes_->setVisible(open);
    const int page = !open ? 0 : view_.sources() ? 1 + kStations : 1 + static_cast<int>(view_.station());
    const bool moved = column_->currentIndex() != page;
    column_->setCurrentIndex(page);
    if (open && moved && view_.station() == Station::Measure && !view_.sources()) measure_->line().setFocus();
    setWindowTitle(
        open
            ? tr("%1%2 · Punchbit").arg(toQt(document_.part().name), document_.dirty() ? tr(" (not saved)") : QString())
            : tr("Punchbit"));
}

void BenchWindow::home() {
    document_.close();
    library_->reload();
    start_->setShowMe(!demoFile().isEmpty());
    showStation();
    start_->pins().setFocus();
    start_->pins().selectAll();
    top_->update();
    offerRecovery();
}

void BenchWindow::say(const QString& message, bool good) {
    message_->setText(message);
    message_->setStyleSheet(theme::styled(
        good ? "background: @petrolPale; color: @petrol; border-top: 1px solid @petrol; padding: 4px 12px;"
             : "background: @vermilionPale; color: @vermilionInk; border-top: 1px solid @vermilion; padding: 4px "
               "12px;"));
    message_->setVisible(!message.isEmpty());
    freshMessage_ = !message.isEmpty();
    if (freshMessage_) QTimer::singleShot(0, this, [this] { freshMessage_ = false; });
}

void BenchWindow::showChanges() {
    if (!document_.open()) return;
    const Footprint& before = document_.footprintBefore();
    QStringList words;
    const bool first = before.gauges.empty() || changesOf_ != document_.begun();
    if (!first)
        for (const Change& c : whatChanged(document_.part(), before, document_.footprint()))
            words << toQt(fill(c.words, c.of, view_.unit(), 2));
    changesOf_ = document_.begun();
    const QString all = first             ? tr("No edit yet")
                        : words.isEmpty() ? tr("Nothing moved by the last edit")
                                          : words.join(", ");
    changes_->setText(QFontMetrics(changes_->font()).elidedText(all, Qt::ElideRight, std::max(100, width() - 40)));
}

void BenchWindow::listChanges() {
    QStringList lines;
    for (const Change& c : whatChanged(document_.part(), document_.footprintSaved(), document_.footprint()))
        lines << toQt(fill(c.words, c.of, view_.unit(), 3));
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addSection(lines.isEmpty() ? tr("Nothing moved since the part was saved") : tr("Since the part was saved"));
    for (const QString& line : lines) menu->addAction(line);
    menu->popup(changes_->mapToGlobal(QPoint(8, -menu->sizeHint().height())));
}

void BenchWindow::shareWidth() {
    const double em = theme::em();
    const double lines = width() / em;
    // Comfortable at 98 lines (1280 px); below, the sides give way before the sheet does, above they grow so that a
    // matrix shows its numbers.
    constexpr double kComfortable = 98;
    const double more = lines - kComfortable;
    const double column = more < 0 ? 20.5 : std::min(27.0, 20.5 + 0.11 * more);
    const double side = more < 0 ? std::max(17.5, 20.0 + 0.14 * more) : std::min(36.0, 20.0 + 0.28 * more);
    column_->setFixedWidth(static_cast<int>(column * em));
    side_->setFixedWidth(static_cast<int>(side * em));
}

void BenchWindow::forgetMessage() {
    if (!freshMessage_ && message_->isVisible()) say({});
}

void BenchWindow::goToGauge(int index) {
    if (!document_.open() || index < 0 || index >= static_cast<int>(document_.footprint().gauges.size())) return;
    const Gauge gauge = document_.footprint().gauges[static_cast<std::size_t>(index)];
    // What is not measured is mended in the notebook.
    view_.setStation(gauge.state == GaugeState::Unknown && gauge.words.find("measured") != std::string::npos
                         ? Station::Measure
                         : stationOf(gaugeKind(gauge.id).mending));
    std::vector<FeatureId> features;
    for (const std::string& id : gauge.about) {
        if (featureExists(document_.part(), id))
            features.push_back(id);
        else if (markById(document_.part(), id) != nullptr)
            view_.setMark(id);
        else
            measure_->notebook().goTo(id);
    }
    view_.choose(features.empty() ? FeatureId() : features[0], features.size() == 2 ? features[1] : FeatureId());
    if (!features.empty()) sheet_->goTo(features[0]);
    if (gauge.id == GaugeId::Voltage) view_.setLens(Lens::Voltage, true);
}

void BenchWindow::goToRule(const QString& field) {
    const std::pair<Station, FormColumn*> columns[] = {
        {Station::Size, size_}, {Station::Dress, dress_}, {Station::Fit, fit_}, {Station::Place, place_}};
    for (const auto& [station, column] : columns)
        if (column->goTo(field)) {
            view_.setStation(station);
            column->goTo(field);
            return;
        }
}

}  // namespace punch
