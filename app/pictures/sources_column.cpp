#include "app/pictures/sources_column.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "core/measure/reading_result.h"

namespace punch {

namespace {

/// "1 reading", "7 readings".
QString counted(int n, const QString& one, const QString& many) {
    return QStringLiteral("%1 %2").arg(n).arg(n == 1 ? one : many);
}

}  // namespace

SourcesColumn::Step SourcesColumn::addStep(QVBoxLayout* box, const QString& title) {
    const int em = theme::em();
    auto* line = new QHBoxLayout;
    line->setSpacing(em / 2);
    Step step{new QLabel(this), new QLabel(title, this), new WrappedLabel(this)};
    step.mark->setFixedWidth(em * 5 / 4);
    step.mark->setAlignment(Qt::AlignTop | Qt::AlignHCenter);
    step.title->setFont(theme::text(0.95, true));
    step.words->setFont(theme::text(0.85));
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    words->addWidget(step.title);
    words->addWidget(step.words);
    line->addWidget(step.mark);
    line->addLayout(words, 1);
    box->addLayout(line);
    return step;
}

void SourcesColumn::show(const Step& step, Mark mark, const QString& words) {
    step.mark->setText(mark == Mark::Done    ? QStringLiteral("✓")
                       : mark == Mark::Watch ? QStringLiteral("▲")
                                             : QStringLiteral("○"));
    const QColor color = mark == Mark::Done ? theme::kGo : mark == Mark::Watch ? theme::kMarigold : theme::kPetrol;
    step.mark->setStyleSheet(QStringLiteral("color: %1; font-weight: bold;").arg(color.name()));
    step.words->setText(words);
    step.words->setStyleSheet(
        QStringLiteral("color: %1;").arg((mark == Mark::Watch ? theme::kMarigoldInk : theme::kQuiet).name()));
}

SourcesColumn::SourcesColumn(Document& document, ViewState& view, PictureWork& work, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), work_(work) {
    const int em = theme::em();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(em * 3 / 4, em / 2, em * 3 / 4, em / 2);
    layout->setSpacing(em / 3);
    const auto button = [&](const QString& words, const char* name, const char* role) {
        auto* b = new QPushButton(words, this);
        b->setObjectName(name);
        if (*role != 0) b->setProperty("role", role);
        return b;
    };

    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Sources"), this);
    title->setFont(theme::text(1.1, true));
    notebook_ = button(tr("Notebook ›"), "toNotebook", "link");
    head->addWidget(title, 1);
    head->addWidget(notebook_);
    layout->addLayout(head);
    connect(notebook_, &QPushButton::clicked, this, &SourcesColumn::notebookWanted);

    list_ = new QListWidget(this);
    list_->setObjectName("sourceList");
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setIconSize({em * 4, em * 3});
    list_->setStyleSheet(QStringLiteral("QListWidget::item:selected { background: %1; color: %2; }")
                             .arg(theme::kPetrolPale.name(), theme::kInk.name()));
    list_->setAccessibleName(tr("Pictures of this part"));
    layout->addWidget(list_);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0) work_.choose(list_->item(row)->data(Qt::UserRole).toString().toStdString());
    });
    auto* bring = button(tr("Bring in a scan or drawing…"), "bringIn", "");
    bring->setToolTip(tr(
        "A picture (PNG, JPEG, TIFF, BMP, WebP), a PDF or a DXF; it is kept beside the part. Or drop the file here"));
    auto* brings = new QHBoxLayout;
    takeOut_ = button(tr("Take it out"), "takeOutSource", "link");
    takeOut_->setToolTip(
        tr("With everything that was read in it; the file stays beside the part. Undo brings it back"));
    brings->addWidget(bring, 1);
    brings->addWidget(takeOut_);
    layout->addLayout(brings);
    connect(takeOut_, &QPushButton::clicked, this, [this] { work_.remove(); });
    connect(bring, &QPushButton::clicked, this, &SourcesColumn::fileWanted);

    steps_ = new QWidget(this);
    auto* box = new QVBoxLayout(steps_);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(em / 3);
    auto* caption = new QLabel(tr("Make it an instrument"), steps_);
    caption->setFont(theme::text(1.0, true));
    box->addWidget(caption);
    face_ = addStep(box, tr("Face"));
    auto* faces = new QHBoxLayout;
    solder_ = button(tr("Underside"), "faceSolder", "chip");
    solder_->setToolTip(tr("The picture shows the solder side: its left is the part's right"));
    partSide_ = button(tr("Part side"), "facePart", "chip");
    for (QPushButton* b : {solder_, partSide_}) b->setCheckable(true);
    faces->addSpacing(em * 7 / 4);
    faces->addWidget(solder_);
    faces->addWidget(partSide_);
    faces->addStretch();
    box->addLayout(faces);
    connect(solder_, &QPushButton::clicked, this, [this] { work_.setFace(PictureFace::SolderSide); });
    connect(partSide_, &QPushButton::clicked, this, [this] { work_.setFace(PictureFace::PartSide); });

    scale_ = addStep(box, tr("Scale"));
    auto* scales = new QHBoxLayout;
    twoPlaces_ = button(tr("Two places a known length apart"), "knownLength", "link");
    ruler_ = button(tr("Take the ruler"), "takeRuler", "link");
    scales->addSpacing(em * 7 / 4);
    scales->addWidget(twoPlaces_);
    scales->addStretch();
    box->addLayout(scales);
    connect(twoPlaces_, &QPushButton::clicked, this, [this] {
        work_.setTool(work_.tool() == PictureWork::Tool::KnownLength ? PictureWork::Tool::None
                                                                     : PictureWork::Tool::KnownLength);
    });
    connect(ruler_, &QPushButton::clicked, this, [this] { work_.takeRuler(); });
    trueSize_ = button(tr("Drawn 1:1"), "trueSize", "chip");
    trueSize_->setCheckable(true);
    trueSize_->setToolTip(tr("The page shows the part at its own size"));
    scales->insertWidget(scales->count() - 1, trueSize_);
    connect(trueSize_, &QPushButton::clicked, this, [this](bool on) { work_.setTrueSize(on); });
    for (int i = 0; i < 2; ++i) {
        auto* stated = button(QString(), i == 0 ? "statedScale" : "statedScale2", "chip");
        stated->setCheckable(true);
        stated->setToolTip(tr("The page states this scale: a known length checks it"));
        scales->insertWidget(scales->count() - 1, stated);
        statedScales_.push_back(stated);
        connect(stated, &QPushButton::clicked, this, [this, i](bool on) {
            const auto all = work_.scalesStatedHere();
            if (i < static_cast<int>(all.size())) work_.setDrawnScale(on ? all[static_cast<std::size_t>(i)].ratio : 0);
        });
    }
    witnesses_ = new QWidget(steps_);
    auto* witnessLines = new QHBoxLayout(witnesses_);
    witnessLines->setContentsMargins(em * 7 / 4, 0, 0, 0);
    witnessLines->setSpacing(em / 5);
    box->addWidget(witnesses_);
    rulerRow_ = new QWidget(steps_);
    auto* rulerLine = new QHBoxLayout(rulerRow_);
    rulerLine->setContentsMargins(em * 7 / 4, 0, 0, 0);
    auto* next = button(tr("Next one"), "nextRuler", "link");
    next->setToolTip(tr("Another row of even marks that could be the ruler"));
    auto* none = button(tr("It is none"), "noRuler", "link");
    none->setToolTip(tr("Its marks may be pins; the scale is by the file's dpi or a known length"));
    rulerLine->setSpacing(em / 4);
    rulerLine->addWidget(ruler_);
    rulerLine->addWidget(none);
    rulerLine->addWidget(next);
    rulerLine->addStretch();
    box->addWidget(rulerRow_);
    connect(next, &QPushButton::clicked, this, [this] { work_.nextRuler(); });
    connect(none, &QPushButton::clicked, this, [this] { work_.refuseRuler(); });
    aboveRow_ = new QWidget(steps_);
    auto* aboveLine = new QHBoxLayout(aboveRow_);
    aboveLine->setContentsMargins(em * 7 / 4, 0, 0, 0);
    above_ = new LengthEdit(
        view_,
        [this](Length l) -> Result<void> {
            work_.setAbove(l);
            return {};
        },
        aboveRow_);
    above_->setObjectName("pictureAbove");
    above_->setLimits(Length(), Length::fromMm(100));
    above_->setAccessibleName(tr("How much higher or lower than the ruler what is seen may stand"));
    above_->setToolTip(tr("What stands h above the glass shows smaller and shifted: the doubt grows with it"));
    auto* aboveWords = new QLabel(tr("pins and ruler: height apart ±"), aboveRow_);
    aboveWords->setFont(theme::text(0.85));
    aboveLine->addWidget(aboveWords);
    aboveLine->addWidget(above_, 1);
    box->addWidget(aboveRow_);

    level_ = addStep(box, tr("Level"));
    check_ = addStep(box, tr("Caliper check"));
    pins_ = addStep(box, tr("Pins"));
    auto* finds = new QHBoxLayout;
    find_ = button(tr("Find the pins"), "findPins", "main");
    read_ = button(tr("Read one"), "readPick", "link");
    read_->setToolTip(tr("Point at a pin or a peg of the part, then click it in the picture"));
    read_->setCheckable(true);
    finds->addSpacing(em * 7 / 4);
    finds->addWidget(find_);
    whole_ = button(tr("Everywhere"), "wholePicture", "link");
    whole_->setToolTip(tr("Look for pins in the whole picture again"));
    connect(whole_, &QPushButton::clicked, this, [this] { work_.clearRegion(); });
    finds->addWidget(whole_);
    finds->addWidget(read_);
    finds->addStretch();
    box->addLayout(finds);
    connect(find_, &QPushButton::clicked, this, &SourcesColumn::find);
    connect(read_, &QPushButton::clicked, this,
            [this](bool on) { work_.setTool(on ? PictureWork::Tool::Read : PictureWork::Tool::None); });
    layout->addWidget(steps_);
    tools_ = new ToolCard(document_, view_, work_, this);
    layout->addWidget(tools_);

    found_ = new QListWidget(this);
    found_->setObjectName("foundList");
    found_->setMinimumHeight(em * 4);
    found_->setFont(theme::digits(0.9));
    found_->setStyleSheet(list_->styleSheet());
    found_->setAccessibleName(tr("What was found"));
    found_->setToolTip(tr("Double click: this is pin 1. Delete, or a click on the picture, drops it"));
    layout->addWidget(found_, 1);
    connect(found_, &QListWidget::itemDoubleClicked, this,
            [this](QListWidgetItem* item) { work_.setPinOne(static_cast<std::size_t>(found_->row(item))); });
    auto* dropKey = new QAction(found_);
    dropKey->setShortcut(Qt::Key_Delete);
    dropKey->setShortcutContext(Qt::WidgetShortcut);
    found_->addAction(dropKey);
    connect(dropKey, &QAction::triggered, this, [this] {
        if (found_->currentRow() >= 0) work_.drop(static_cast<std::size_t>(found_->currentRow()));
    });
    layout->addStretch();

    card_ = new QFrame(this);
    card_->setProperty("role", "advice");
    auto* cardBox = new QVBoxLayout(card_);
    cardBox->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    formation_ = new WrappedLabel(card_);
    formation_->setObjectName("formationWords");
    formation_->setFont(theme::text(0.95, true));
    take_ = button(tr("Take as formation"), "takeFound", "main");
    auto* cardLine = new QHBoxLayout;
    singles_ = button(tr("Singles"), "takeSingles", "link");
    singles_->setToolTip(tr("Every pin by itself: nothing is taken for known but its place"));
    compare_ = button(tr("Compare with the footprint"), "compareFound", "link");
    compare_->setToolTip(tr("Lay it over the footprint and show how far each pad is off; nothing is taken over"));
    connect(singles_, &QPushButton::clicked, this, [this] {
        if (const auto done = work_.take(false); !done) view_.say(toQt(done.error().text()));
    });
    connect(compare_, &QPushButton::clicked, this, [this] {
        const auto done = work_.compare();
        view_.say(done ? QString() : toQt(done.error().text()));
    });
    cardLine->addWidget(take_);
    cardLine->addWidget(singles_);
    cardLine->addStretch();
    cardBox->addWidget(formation_);
    cardBox->addLayout(cardLine);
    cardBox->addWidget(compare_, 0, Qt::AlignLeft);
    otherPart_ = button(QString(), "otherPart", "link");
    otherPart_->setToolTip(tr("There is another part in the picture: its pins become the proposal"));
    cardBox->addWidget(otherPart_, 0, Qt::AlignLeft);
    connect(otherPart_, &QPushButton::clicked, this, [this] { work_.takeOther(0); });
    layout->addWidget(card_);
    connect(take_, &QPushButton::clicked, this, &SourcesColumn::take);

    auto* fade = new QHBoxLayout;
    opacity_ = new QSlider(Qt::Horizontal, this);
    opacity_->setObjectName("pictureOpacity");
    opacity_->setAccessibleName(tr("How strongly the picture shows"));
    opacity_->setRange(0, 100);
    opacity_->setValue(100);
    fade->addWidget(new QLabel(tr("Sheet"), this));
    fade->addWidget(opacity_, 1);
    fade->addWidget(new QLabel(tr("Picture"), this));
    layout->addLayout(fade);
    connect(opacity_, &QSlider::valueChanged, this, [this](int v) { work_.setOpacity(v / 100.0); });

    connect(&work_, &PictureWork::changed, this, &SourcesColumn::refresh);
    refresh();
}

void SourcesColumn::bringIn(const QString& file, const EvidenceChoice& choice) {
    const auto done = work_.bringIn(file, choice);
    if (!done) view_.say(toQt(done.error().text()));
}

void SourcesColumn::find() {
    const auto done = work_.find();
    if (!done) view_.say(toQt(done.error().text()));
}

void SourcesColumn::take() {
    const auto done = work_.take();
    if (!done) view_.say(toQt(done.error().text()));
}

void SourcesColumn::refreshList() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    // Room for what is there, at most three, so that a single picture leaves it to what was found.
    list_->setFixedHeight(static_cast<int>(
        theme::em() * (0.6 + 3.4 * std::clamp<double>(static_cast<double>(document_.part().sources.size()), 1, 3))));
    const Source* now = work_.source();
    for (const Source& s : document_.part().sources) {
        int read = 0;
        for (const Reading& r : document_.part().readings) read += r.source == s.id ? 1 : 0;
        const QString dpi = s.width == 0      ? QString()
                            : s.mmPerUnit > 0 ? tr("drawing, 1 unit %1 mm · ").arg(s.mmPerUnit, 0, 'g', 4)
                            : s.exactScale    ? tr("page %1 · ").arg(s.page + 1)
                            : s.dpiStated     ? tr("%1 dpi · ").arg(s.dpi, 0, 'f', 0)
                                              : tr("no dpi · ");
        const QString about =
            dpi + (read > 0 ? counted(read, tr("reading"), tr("readings")) : tr("nothing read from it"));
        auto* item = new QListWidgetItem(tr("%1\n%2").arg(toQt(s.title), about), list_);
        item->setData(Qt::UserRole, toQt(s.id));
        if (now != nullptr && now->id == s.id) {
            if (const PictureImage* image = work_.image())
                item->setIcon(QPixmap::fromImage(image->thumbnail(list_->iconSize() * 2)));
            list_->setCurrentItem(item);
        }
    }
}

void SourcesColumn::refresh() {
    if (!document_.open()) return;
    refreshList();
    const Source* s = work_.source();
    const bool picture = s != nullptr && s->width > 0;
    steps_->setVisible(picture);
    takeOut_->setVisible(s != nullptr);
    refreshFound();
    if (!picture) return;
    solder_->setChecked(s->face == PictureFace::SolderSide);
    partSide_->setChecked(s->face == PictureFace::PartSide);
    show(face_, s->face == PictureFace::NotSaid ? Mark::Watch : Mark::Done,
         s->face == PictureFace::NotSaid ? tr("Which face of the part do you look at?")
         : s->face == PictureFace::SolderSide
             ? (s->exactScale ? tr("seen from below, shown as it is drawn") : tr("underside, mirrored for the sheet"))
             : tr("part side, as the sheet shows it"));
    const bool lengths = std::any_of(
        document_.part().readings.begin(), document_.part().readings.end(),
        [&](const Reading& r) { return r.pick && r.contact == Contact::PictureLength && r.source == s->id; });
    show(scale_, lengths || (s->exactScale && s->dpiStated) ? Mark::Done : Mark::Watch, work_.scaleWords());
    const bool placing = work_.tool() == PictureWork::Tool::KnownLength;
    twoPlaces_->setText(s->exactScale ? tr("A known length") : tr("Two places a known length apart"));
    trueSize_->setVisible(s->exactScale && s->mmPerUnit == 0);
    trueSize_->setChecked(s->dpiStated);
    trueSize_->setChecked(s->dpiStated && s->dpi == kPageDpi);
    const auto stated = work_.scalesStatedHere();
    for (std::size_t i = 0; i < statedScales_.size(); ++i) {
        const bool there = s->exactScale && i < stated.size() && stated[i].ratio != 1;
        statedScales_[i]->setVisible(there);
        if (!there) continue;
        statedScales_[i]->setText(tr("Drawn %1").arg(toQt(stated[i].words)));
        statedScales_[i]->setChecked(s->dpiStated && std::abs(s->dpi / (kPageDpi * stated[i].ratio) - 1) < 1e-9);
    }
    refreshWitnesses();
    aboveRow_->setVisible(!s->exactScale);
    above_->setLength(s->above);
    ruler_->setVisible(work_.offersRuler());
    if (placing) rulerRow_->setVisible(false);
    const QString trouble = !work_.busy().isEmpty()    ? work_.busy()
                            : work_.image() == nullptr ? work_.trouble()
                                                       : QString();
    // Calipers and picture check each other: how many caliper readings there are, and whether one disagrees.
    int calipers = 0, doubtful = 0;
    const auto& readings = document_.part().readings;
    for (std::size_t i = 0; i < std::min(readings.size(), document_.footprint().readings.size()); ++i) {
        calipers += !readings[i].pick && document_.footprint().readings[i].stats.usable ? 1 : 0;
        const ReadingState state = document_.footprint().readings[i].state;
        doubtful += isDoubtful(state) ? 1 : 0;
    }
    show(check_,
         doubtful > 0   ? Mark::Watch
         : calipers > 0 ? Mark::Done
                        : Mark::Open,
         doubtful > 0   ? tr("%1 in doubt: see the notebook").arg(counted(doubtful, tr("reading"), tr("readings")))
         : calipers > 0 ? tr("agrees with %1 besides the picture").arg(counted(calipers, tr("reading"), tr("readings")))
                        : tr("read the longest outside distance with calipers"));
    int read = 0;
    for (const Reading& r : readings)
        read += r.pick && r.source == s->id && r.contact == Contact::Picture && r.axis == Axis::Along;
    const auto& found = work_.found();
    const bool level = std::any_of(readings.begin(), readings.end(), [&](const Reading& r) {
        return r.contact == Contact::PictureLevel && r.source == s->id;
    });
    show(level_, found || read > 1 || level ? Mark::Done : Mark::Open, work_.levelWords());
    show(pins_,
         found      ? Mark::Open
         : read > 0 ? Mark::Done
                    : Mark::Open,
         !trouble.isEmpty() ? trouble
         : found            ? tr("%1 found: look, drop what is none, take").arg(found->features.size())
         : read > 0         ? tr("%1 read from it").arg(counted(read, tr("place"), tr("places"))) + farthest()
                            : tr("not looked for yet"));
    find_->setEnabled(work_.image() != nullptr && work_.busy().isEmpty());
    find_->setText(work_.region() ? tr("Find in the region") : tr("Find the pins"));
    whole_->setVisible(work_.region().has_value());
    read_->setVisible(!work_.region());  // there is room for two; the bar over the sheet has it too
    take_->setEnabled(s->face != PictureFace::NotSaid);
    singles_->setEnabled(take_->isEnabled());
    take_->setToolTip(take_->isEnabled() ? tr("Makes features and readings of what was found")
                                         : tr("Say first which face the picture shows"));
    read_->setChecked(work_.tool() == PictureWork::Tool::Read);
}

}  // namespace punch
