#include "app/stations/release_station.h"
#include "app/approval/approval_card.h"
#include "app/handover/handover_dialog.h"
#include "app/kin/family_card.h"
#include "app/qt_text.h"
#include "app/widgets/remove_rows.h"

#include <QDate>
#include <QDesktopServices>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QUrl>

#include "core/part/file.h"
#include "core/part/names.h"
#include "core/part/source_file.h"
#include "core/release/formats.h"

namespace punch {

ReleaseStation::ReleaseStation(Document& document, ViewState& view, QWidget* parent)
    : FormColumn(document, view, parent) {
    title(tr("Name"));
    name_ = textField(this, "partName");
    wideRow(tr("Name"), name_, "partName");
    description_ = textField(this, "description");
    wideRow(tr("Description"), description_, "description");
    value_ = textField(this, "partValue");
    value_->setPlaceholderText(tr("as its name"));
    row(tr("Value"), value_, "partValue");
    const auto bind = [this](QLineEdit* edit, std::string Part::*field, const QString& what, bool needed) {
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, field, what, needed] {
            if (!edit->isModified() || !document_.open()) return;
            const QString text = edit->text().trimmed();
            markWrong(edit, needed && text.isEmpty());
            if (needed && text.isEmpty()) {
                view_.say(tr("%1: a part needs one, to be found again").arg(what));
                return;
            }
            edit->setModified(false);
            view_.say({});
            Part next = document_.part();
            next.*field = text.toStdString();
            if (needed) renamed_ = document_.begun();
            document_.apply(what, std::move(next));
        });
    };
    QStringList kinds;
    for (const auto& [kind, word] : Names<PartKind>::table) kinds << toQt(word);
    choice(
        tr("Kind"), "kindOfPart", kinds, [](const Part& p) { return static_cast<int>(p.kind); },
        [](Part& p, int at) { p.kind = static_cast<PartKind>(at); })
        ->setToolTip(tr("What is bought is in the bill of material, what is placed in the placement file"));
    kindWords_ = note();
    bind(name_, &Part::name, tr("Name"), true);
    bind(value_, &Part::value, tr("Value"), false);
    bind(description_, &Part::description, tr("Description"), false);
    height_ = note();
    title(tr("Approval"));
    own("approvalCard", new ApprovalCard(document, view, this));

    title(tr("What leaves"));
    verdict_ = note();
    auto* write = new QPushButton(tr("Formats and files…"), this);
    write->setObjectName("export");
    write->setProperty("role", "main");
    add(write);
    connect(write, &QPushButton::clicked, this, &ReleaseStation::handOver);
    // What tells whether it is right before anything is ordered.
    const std::tuple<QString, const char*, QString> tries[] = {
        {tr("On paper at 1:1…"), "toPaper", tr("On paper at true scale")},
        {tr("Fit coupon…"), "toCoupon", tr("Fit coupon")},
        {tr("On a trial board…"), "toBoard", tr("Trial board")}};
    for (const auto& [words, name, command] : tries) {
        auto* b = new QPushButton(words, this);
        b->setObjectName(name);
        b->setProperty("role", "link");
        add(b);
        connect(b, &QPushButton::clicked, this, [this, command = command] { emit commandWanted(command); });
    }

    title(tr("File"));
    file_ = note();
    renameFile_ = new QPushButton(this);
    renameFile_->setObjectName("renameFile");
    renameFile_->setProperty("role", "link");
    renameFile_->setToolTip(tr("The part has another name now: its file gets it too"));
    renameFile_->hide();
    add(renameFile_);
    connect(renameFile_, &QPushButton::clicked, this, &ReleaseStation::renameFile);
    auto* buttons = new QWidget(this);
    auto* line = new QHBoxLayout(buttons);
    line->setContentsMargins(0, 0, 0, 0);
    auto* save = new QPushButton(tr("Save"), buttons);
    save->setObjectName("save");
    save->setProperty("role", "main");
    auto* saveAs = new QPushButton(tr("Save as…"), buttons);
    saveAs->setObjectName("saveAs");
    line->addWidget(save);
    line->addWidget(saveAs);
    line->addStretch();
    add(buttons);
    connect(save, &QPushButton::clicked, this, &ReleaseStation::saveWanted);
    connect(saveAs, &QPushButton::clicked, this, &ReleaseStation::saveAsWanted);

    title(tr("Notes and evidence"));
    notes_ = new QPlainTextEdit(this);
    notes_->setFrameShape(QFrame::NoFrame);
    notes_->setObjectName("notes");
    notes_->setAccessibleName(tr("Notes"));
    notes_->setPlaceholderText(tr("Notes"));
    notes_->setFixedHeight(theme::em() * 5);
    notes_->setTabChangesFocus(true);
    add(notes_);
    connect(notes_, &QPlainTextEdit::textChanged, this, [this] {
        if (!document_.open() || !notes_->hasFocus()) return;
        Part next = document_.part();
        next.notes = notes_->toPlainText().toStdString();
        document_.applyTyping(tr("notes"), std::move(next));
    });
    sources_ = new QWidget(this);
    sourceRows_ = new QVBoxLayout(sources_);
    sourceRows_->setContentsMargins(0, 0, 0, 0);
    sourceRows_->setSpacing(2);
    add(sources_);
    sourceTitle_ = textField(this, "sourceTitle");
    sourceTitle_->setPlaceholderText(tr("which drawing?"));
    row(tr("New source"), sourceTitle_, "sourceTitle");
    sourceLink_ = textField(this, "sourceLink");
    sourceLink_->setPlaceholderText(tr("link"));
    row(tr("Its link"), sourceLink_, "sourceLink");
    sourcePicture_ = textField(this, "sourcePicture");
    sourcePicture_->setPlaceholderText(tr("a file, copied beside"));
    row(tr("Its picture"), sourcePicture_, "sourcePicture");
    choosePicture_ = new QPushButton(tr("Choose a picture…"), this);
    choosePicture_->setObjectName("choosePicture");
    choosePicture_->setProperty("role", "link");
    add(choosePicture_);
    connect(choosePicture_, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Picture of the source"), {},
                                                          tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.pdf)"));
        if (!file.isEmpty()) sourcePicture_->setText(file);
    });
    sourceNote_ = textField(this, "sourceNote");
    sourceNote_->setPlaceholderText(tr("what it is worth"));
    row(tr("Its note"), sourceNote_, "sourceNote");
    auto* keep = new QPushButton(tr("Keep the source"), this);
    keep->setObjectName("addSource");
    add(keep);
    connect(keep, &QPushButton::clicked, this, &ReleaseStation::addSource);

    title(tr("Proven on boards"));
    history_ = note();
    boardNote_ = textField(this, "boardNote");
    boardNote_->setPlaceholderText(tr("board 2: pegs 0.05 looser"));
    wideRow(tr("What a board said, corrections after a colon"), boardNote_, "boardNote");
    connect(boardNote_, &QLineEdit::editingFinished, this, &ReleaseStation::addBoardNote);

    title(tr("Family"));
    auto* family = new FamilyCard(document, view, this);
    own("familyCard", family);
    connect(family, &FamilyCard::memberWanted, this, &ReleaseStation::memberWanted);
    stretch();
    connectRefresh();
    connect(&document_, &Document::fileChanged, this, [this] {
        if (document_.open()) refresh();
    });
}

void ReleaseStation::addSource() {
    if (!document_.open()) return;
    const QString title = sourceTitle_->text().trimmed();
    markWrong(sourceTitle_, title.isEmpty());
    if (title.isEmpty()) {
        view_.say(tr("New source: say in a few words which drawing, sample or page it is"));
        sourceTitle_->setFocus();
        return;
    }
    Part next = document_.part();
    Source s;
    s.id = "s" + std::to_string(next.nextId++);
    s.title = title.toStdString();
    s.link = sourceLink_->text().trimmed().toStdString();
    s.note = sourceNote_->text().trimmed().toStdString();
    s.seen = QDate::currentDate().toString(Qt::ISODate).toStdString();
    if (const QString picture = sourcePicture_->text().trimmed(); !picture.isEmpty()) {
        const auto kept = document_.keepPicture(picture);
        markWrong(sourcePicture_, !kept);
        if (!kept) {
            view_.say(tr("Picture not kept. %1").arg(toQt(kept.error().text())));
            return;
        }
        s.picture = kept->toStdString();
    }
    next.sources.push_back(s);
    sourceTitle_->clear();
    sourceLink_->clear();
    sourceNote_->clear();
    sourcePicture_->clear();
    view_.say({});
    document_.apply(tr("source"), std::move(next));
}

void ReleaseStation::addBoardNote() {
    const QString typed = boardNote_->text().trimmed();
    if (typed.isEmpty() || !document_.open()) return;
    BoardNote n;
    n.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    n.board = typed.section(':', 0, 0).trimmed().toStdString();
    n.words = typed.section(':', 1).trimmed().toStdString();
    Part next = document_.part();
    next.history.push_back(std::move(n));
    boardNote_->clear();
    document_.apply(tr("what a board said"), std::move(next));
}

QString ReleaseStation::fileForName() const {
    const QFileInfo now(document_.path());
    return document_.path().isEmpty() ? QString()
                                      : now.dir().filePath(toQt(fileStem(document_.part().name)) + kFileSuffix);
}

void ReleaseStation::renameFile() {
    const QString from = document_.path();
    const QString to = fileForName();
    if (from.isEmpty() || to == from) return;
    if (QFileInfo::exists(to))
        return view_.say(tr("%1 is there already: nothing was renamed").arg(QFileInfo(to).fileName()));
    // The new one stands before the old one goes.
    if (const auto saved = document_.saveAs(to); !saved)
        return view_.say(tr("Not renamed. %1").arg(toQt(saved.error().text())));
    QFile::remove(from);
    view_.tell(tr("Saved as %1, and %2 is gone").arg(QFileInfo(to).fileName(), QFileInfo(from).fileName()));
    refresh();
}

void ReleaseStation::look(const std::string& source, const std::string& picture) {
    // On the bench, never by another program: a stranger's part may name anything.
    if (const auto file = sourceFile(document_.path().toStdString(), picture); !file)
        return view_.say(toQt(file.error().text()));
    const Source* s = nullptr;
    for (const Source& one : document_.part().sources)
        if (one.id == source) s = &one;
    if (s == nullptr || s->width == 0)
        return view_.tell(
            tr("%1 lies beside the part. Bring it in (Ctrl+I) to see it on the sheet").arg(toQt(picture)));
    emit pictureWanted(toQt(source));
}

void ReleaseStation::openLink(const std::string& link) {
    if (!mayBeOpened(link)) {
        asked_.clear();
        return view_.say(tr("Not opened, since it is no web address: %1").arg(toQt(link)));
    }
    // The address is shown before anything is opened.
    if (asked_ != link) {
        asked_ = link;
        return view_.tell(tr("This opens %1 in a browser: press open again").arg(toQt(link)));
    }
    asked_.clear();
    QDesktopServices::openUrl(QUrl(toQt(link), QUrl::StrictMode));
}

void ReleaseStation::handOver() {
    if (!document_.open()) return;
    document_.settle();
    HandoverDialog(document_, view_, this).exec();
}

void ReleaseStation::refresh() {
    const PartKind kind = document_.part().kind;
    kindWords_->setText(!isBought(kind)   ? tr("In the placement file alone.")
                        : !isPlaced(kind) ? tr("In the bill of material alone.")
                                          : tr("In bill of material and placement file."));
    const Part& part = document_.part();
    if (!name_->hasFocus() && !name_->property("wrong").toBool()) name_->setText(toQt(part.name));
    if (!value_->hasFocus()) value_->setText(toQt(part.value));
    if (!description_->hasFocus()) {
        description_->setText(toQt(part.description));
        description_->setCursorPosition(0);
    }
    if (!notes_->hasFocus()) notes_->setPlainText(toQt(part.notes));
    const auto& body = document_.footprint().body;
    height_->setText(body && body->heightFirm
                         ? tr("Height above the board %1.").arg(view_.length(body->height + part.body.standoff, 2))
                     : part.body.present ? tr("Height not measured.")
                                         : tr("No body."));
    file_->setText(document_.path().isEmpty()
                       ? tr("Not saved yet.")
                       : (document_.dirty() ? tr("Changed since it was saved: %1") : tr("Saved: %1"))
                             .arg(QFileInfo(document_.path()).fileName()));
    const QString to = fileForName();
    renameFile_->setVisible(renamed_ == document_.begun() && !to.isEmpty() && to != document_.path());
    renameFile_->setText(tr("Rename the file to %1").arg(QFileInfo(to).fileName()));
    removeRows(sourceRows_);
    for (std::size_t i = 0; i < part.sources.size(); ++i) {
        const Source& s = part.sources[i];
        auto* box = new QWidget(sources_);
        auto* both = new QVBoxLayout(box);
        both->setContentsMargins(0, 0, 0, 0);
        both->setSpacing(0);
        auto* lay = new QHBoxLayout;
        QString words = toQt(s.title).toHtmlEscaped();
        if (!s.seen.empty())
            words += theme::styled(" <span style='color:@quiet'>") + toQt(s.seen).toHtmlEscaped() + "</span>";
        if (!s.note.empty())
            words += theme::styled("<br><span style='color:@quiet'>") + toQt(s.note).toHtmlEscaped() + "</span>";
        if (!s.picture.empty())
            words += theme::styled("<br><span style='color:@quiet'>") +
                     tr("picture %1").arg(toQt(s.picture).toHtmlEscaped()) + "</span>";
        auto* text = new WrappedLabel(box);
        text->setText(words);
        text->setFont(theme::text(0.9));
        both->addWidget(text);
        both->addLayout(lay);
        const auto button = [&](const QString& label, const QString& tip, auto act) {
            auto* b = new QPushButton(label, box);
            b->setToolTip(tip);
            b->setProperty("role", "link");
            connect(b, &QPushButton::clicked, this, act);
            lay->addWidget(b);
        };
        auto* state = new QComboBox(box);
        state->setAccessibleName(tr("How far it is to be trusted"));
        state->setToolTip(tr("How far it is to be trusted"));
        for (const auto& [value, word] : Names<SourceState>::table) state->addItem(toQt(word), static_cast<int>(value));
        state->setCurrentIndex(static_cast<int>(s.state));
        state->setMaximumWidth(theme::em() * 9);
        keepWheelAway(state);
        connect(state, &QComboBox::activated, this, [this, id = s.id](int at) {
            Part next = document_.part();
            for (Source& one : next.sources)
                if (one.id == id) one.state = static_cast<SourceState>(at);
            document_.apply(tr("state of a source"), std::move(next));
        });
        lay->addWidget(state);
        lay->addStretch();
        if (!s.picture.empty())
            button(tr("look"), tr("Shows the picture"), [this, id = s.id, picture = s.picture] { look(id, picture); });
        if (!s.link.empty())
            button(tr("open"), tr("Shows the address, and opens it at a second press"),
                   [this, link = s.link] { openLink(link); });
        button(tr("drop"), tr("Takes the source out of the part; its file stays"), [this, i] {
            Part next = document_.part();
            if (i >= next.sources.size()) return;
            next.sources.erase(next.sources.begin() + static_cast<std::ptrdiff_t>(i));
            document_.apply(tr("removal of a source"), std::move(next));
        });
        sourceRows_->addWidget(box);
    }
    QStringList boards;
    for (const BoardNote& n : part.history)
        boards << toQt(n.date) + " " + toQt(n.board) + (n.words.empty() ? tr(": fitted") : ": " + toQt(n.words));
    history_->setText(boards.isEmpty() ? tr("No board has told yet.") : boards.join('\n'));
    const auto warnings = releaseWarnings(document_.footprint());
    QStringList lines;
    for (const std::string& w : warnings) lines << "✕ " + toQt(w);
    verdict_->setText(lines.isEmpty() ? tr("Nothing speaks against it.")
                                      : tr("Look at these first:\n%1").arg(lines.join('\n')));
    verdict_->setStyleSheet(theme::styled(lines.isEmpty() ? "color: @go;" : "color: @vermilion;"));
}

}  // namespace punch
