#include "app/pictures/tool_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QShortcut>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/names.h"

namespace punch {

namespace {

using Tool = PictureWork::Tool;
using How = PictureWork::How;

/// What a dimension can be, in words: contact and direction.
struct DimensionKind {
    const char* words;
    Contact contact;
    Axis axis;
    bool two;
};
constexpr DimensionKind kKinds[] = {
    {"centres, along the row", Contact::Centres, Axis::Along, true},
    {"centres, across the row", Contact::Centres, Axis::Across, true},
    {"centres, direct", Contact::Centres, Axis::Direct, true},
    {"outside, along the row", Contact::Outside, Axis::Along, true},
    {"outside, across the row", Contact::Outside, Axis::Across, true},
    {"face to centre, along", Contact::FaceCentre, Axis::Along, true},
    {"face to centre, across", Contact::FaceCentre, Axis::Across, true},
    {"size along the row, width", Contact::Size, Axis::Along, false},
    {"size across the row, thickness", Contact::Size, Axis::Across, false},
    {"height or length", Contact::Size, Axis::Height, false},
};

}  // namespace

QString ToolCard::name(Tool tool) {
    switch (tool) {
        case Tool::KnownLength: return tr("Known length");
        case Tool::Level: return tr("Level");
        case Tool::Read: return tr("Read");
        case Tool::Region: return tr("Region");
        case Tool::Square: return tr("Make square");
        case Tool::Dimension: return tr("Dimension");
        case Tool::Outline: return tr("Outline");
        case Tool::None: break;
    }
    return {};
}

QString ToolCard::purpose(Tool tool) {
    switch (tool) {
        case Tool::KnownLength: return tr("Two places a known length apart give the scale");
        case Tool::Level: return tr("Two places on what runs along the row, or across it, straighten the picture");
        case Tool::Read: return tr("Read one pin, peg or face by its rim, its edge or a place");
        case Tool::Region: return tr("Pins are looked for only in here");
        case Tool::Square: return tr("A photograph taken at an angle is made square by a rectangle of known size");
        case Tool::Dimension: return tr("Take a number of the drawing over as a reading");
        case Tool::Outline: return tr("Trace the outline of the body");
        case Tool::None: break;
    }
    return {};
}

ToolCard::ToolCard(Document& document, ViewState& view, PictureWork& work, QWidget* parent)
    : QFrame(parent), document_(document), view_(view), work_(work) {
    setObjectName("toolCard");
    setProperty("role", "entry");
    const int em = theme::em();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(em / 2, em / 3, em / 2, em / 3);
    box->setSpacing(em / 4);
    title_ = new WrappedLabel(this);
    title_->setFont(theme::text(0.95, true));
    words_ = new WrappedLabel(this);
    words_->setObjectName("toolWords");
    words_->setFont(theme::text(0.9));
    box->addWidget(title_);
    box->addWidget(words_);

    const auto field = [&](const char* name, const QString& before, const QString& example, const QString& accessible,
                           QWidget*& row) {
        row = new QWidget(this);
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        auto* edit = new QLineEdit(row);
        edit->setObjectName(name);
        edit->setFont(theme::digits(1.1));
        edit->setPlaceholderText(example);
        edit->setAccessibleName(accessible);
        line->addWidget(new QLabel(before, row));
        line->addWidget(edit, 1);
        box->addWidget(row);
        return edit;
    };
    length_ = field("knownLengthLine", tr("this is"), "30", tr("How far apart the two places are"), lengthRow_);
    square_ =
        field("squareLine", tr("its sides"), "85.6 x 54", tr("First and second side of the rectangle"), squareRow_);
    connect(length_, &QLineEdit::returnPressed, this, &ToolCard::giveLength);
    connect(square_, &QLineEdit::returnPressed, this, &ToolCard::giveSquare);
    read_ = buildRead();
    dimension_ = buildDimension();
    outline_ = buildOutline();
    for (QWidget* w : {read_, dimension_, outline_}) box->addWidget(w);

    auto* away = new QShortcut(Qt::Key_Escape, this);
    away->setContext(Qt::WidgetWithChildrenShortcut);
    connect(away, &QShortcut::activated, this, [this] { work_.setTool(Tool::None); });
    connect(&work_, &PictureWork::lengthWanted, this, [this] {
        refresh();
        length_->setFocus();
    });
    connect(&work_, &PictureWork::squareWanted, this, [this] {
        refresh();
        square_->setFocus();
    });
    connect(&work_, &PictureWork::dimensionWanted, this, &ToolCard::refreshDimension);
    connect(&work_, &PictureWork::changed, this, &ToolCard::refresh);
    connect(&view_, &ViewState::chosenChanged, this, &ToolCard::refresh);
    refresh();
}

QWidget* ToolCard::buildRead() {
    auto* w = new QWidget(this);
    auto* box = new QVBoxLayout(w);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme::em() / 4);
    target_ = new QComboBox(w);
    target_->setObjectName("readTarget");
    target_->setAccessibleName(tr("What is read"));
    how_ = new QComboBox(w);
    how_->setObjectName("readHow");
    how_->setAccessibleName(tr("How it is read"));
    for (const QString& words : {tr("by its rim, one click"), tr("by places on its rim"), tr("by an edge, two clicks"),
                                 tr("by a corner, two edges"), tr("by the place itself")})
        how_->addItem(words);
    box->addWidget(target_);
    box->addWidget(how_);
    connect(target_, &QComboBox::activated, this, [this](int i) {
        const FeatureId id = target_->itemData(i).toString().toStdString();
        work_.setTarget(id);
        if (!id.empty() && featureExists(document_.part(), id)) {
            view_.choose(id, {});
            if (isFace(document_.part(), id)) work_.setHow(How::Edge);
        }
    });
    connect(how_, &QComboBox::activated, this, [this](int i) { work_.setHow(static_cast<How>(i)); });
    return w;
}

QWidget* ToolCard::buildDimension() {
    auto* w = new QWidget(this);
    auto* box = new QVBoxLayout(w);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme::em() / 4);
    value_ = new QLineEdit(w);
    value_->setObjectName("dimensionLine");
    value_->setFont(theme::digits(1.1, true));
    value_->setAccessibleName(tr("The value as the drawing states it"));
    contact_ = new QComboBox(w);
    contact_->setObjectName("dimensionKind");
    contact_->setAccessibleName(tr("What it is the dimension of"));
    for (const DimensionKind& k : kKinds) contact_->addItem(tr(k.words));
    first_ = new QComboBox(w);
    first_->setObjectName("dimensionFirst");
    second_ = new QComboBox(w);
    second_->setObjectName("dimensionSecond");
    auto* between = new QHBoxLayout;
    between->addWidget(first_, 1);
    between->addWidget(second_, 1);
    auto* take = new QPushButton(tr("Take it over"), w);
    take->setObjectName("takeDimension");
    take->setProperty("role", "main");
    box->addWidget(value_);
    box->addWidget(contact_);
    box->addLayout(between);
    box->addWidget(take, 0, Qt::AlignLeft);
    connect(contact_, &QComboBox::currentIndexChanged, this,
            [this](int i) { second_->setVisible(i >= 0 && kKinds[i].two); });
    connect(value_, &QLineEdit::returnPressed, this, &ToolCard::giveDimension);
    connect(take, &QPushButton::clicked, this, &ToolCard::giveDimension);
    return w;
}

QWidget* ToolCard::buildOutline() {
    auto* w = new QWidget(this);
    auto* box = new QVBoxLayout(w);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme::em() / 4);
    half_ = new QCheckBox(tr("half of it, from axis to axis"), w);
    half_->setObjectName("outlineHalf");
    connect(half_, &QCheckBox::clicked, this, [this](bool on) { work_.setHalf(on); });
    auto* line = new QHBoxLayout;
    leaveOut_ = new LengthEdit(
        view_,
        [this](Length l) -> Result<void> {
            work_.setLeaveOut(l);
            return {};
        },
        w);
    leaveOut_->setObjectName("outlineDetail");
    leaveOut_->setLimits(Length(), Length::fromMm(20));
    leaveOut_->setLength(Length::fromMm(0.2));
    line->addWidget(new QLabel(tr("leave out detail below"), w));
    line->addWidget(leaveOut_, 1);
    closeOutline_ = new QPushButton(tr("Close it"), w);
    closeOutline_->setObjectName("outlineClose");
    closeOutline_->setProperty("role", "main");
    removeOutline_ = new QPushButton(tr("Take it out"), w);
    removeOutline_->setObjectName("outlineRemove");
    removeOutline_->setProperty("role", "link");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(closeOutline_);
    buttons->addWidget(removeOutline_);
    buttons->addStretch();
    box->addWidget(half_);
    box->addLayout(line);
    box->addLayout(buttons);
    connect(closeOutline_, &QPushButton::clicked, &work_, &PictureWork::finish);
    connect(removeOutline_, &QPushButton::clicked, &work_, &PictureWork::removeOutline);
    return w;
}

void ToolCard::said(const Result<void>& done, QLineEdit* field) {
    markWrong(field, !done);
    if (done)
        field->clear();
    else
        view_.say(toQt(done.error().text()));
}

void ToolCard::giveLength() {
    const auto done = work_.giveLength(length_->text());
    if (done) view_.say({});
    said(done, length_);
}

void ToolCard::giveSquare() { said(work_.makeSquare(square_->text()), square_); }

void ToolCard::giveDimension() {
    const DimensionKind& kind = kKinds[std::max(contact_->currentIndex(), 0)];
    Reading r;
    r.contact = kind.contact;
    r.axis = kind.axis;
    r.a = first_->currentData().toString().toStdString();
    if (kind.two) r.b = second_->currentData().toString().toStdString();
    if (r.a.empty() || (kind.two && (r.b.empty() || r.a == r.b)))
        return view_.say(tr("Choose the two features that the dimension is taken between"));
    if (kind.contact == Contact::FaceCentre) {
        if (!isFace(document_.part(), r.a)) std::swap(r.a, r.b);
        if (!isFace(document_.part(), r.a) || isFace(document_.part(), r.b))
            return view_.say(tr("Choose a face and a pin or a peg"));
    }
    said(work_.takeDimension(value_->text(), r), value_);
}

void ToolCard::refreshTargets() {
    const Part& part = document_.part();
    const auto fill = [&](QComboBox* box, bool faces, bool body, bool anew, const QString& none) {
        const QString now = box->currentData().toString();
        const QSignalBlocker quiet(box);
        box->clear();
        if (!none.isEmpty()) box->addItem(none, QString());
        const auto add = [&](const FeatureId& id) { box->addItem(toQt(featureWords(part, id)), toQt(id)); };
        std::map<FeatureId, std::string> numbers;
        for (const Pad& p : document_.footprint().pads) numbers[p.id] = p.number;
        for (const FeatureId& id : allPins(part))
            box->addItem(numbers.contains(id) ? tr("pin %1").arg(toQt(numbers[id])) : toQt(featureWords(part, id)),
                         toQt(id));
        for (const Spot& s : part.spots) add(s.id);
        if (faces && part.body.present)
            for (const char* id : {kLeftFace, kRightFace, kFrontFace, kRearFace}) add(id);
        if (faces)
            for (const Face& f : part.faces)
                if (f.axis != Axis::Height) add(f.id);
        if (body) add(kBody);
        if (anew) {
            box->addItem(tr("a new pin"), "new pin");
            for (const auto& [kind, word] : Names<SpotKind>::table)
                box->addItem(tr("a new %1").arg(toQt(word)), toQt("new " + std::string(word)));
        }
        box->setCurrentIndex(std::max(0, box->findData(now)));
    };
    fill(target_, true, false, true, tr("what is pointed at"));
    fill(first_, true, true, false, {});
    fill(second_, true, false, false, {});
    const FeatureId wanted = work_.target().empty() ? view_.first() : work_.target();
    const int at = target_->findData(toQt(wanted));
    target_->setCurrentIndex(std::max(at, 0));
    how_->setCurrentIndex(static_cast<int>(work_.how()));
}

void ToolCard::refreshDimension() {
    refresh();
    if (work_.offered().empty()) return;
    const OfferedDimension& offer = work_.offered().front();
    value_->setText(toQt(offer.letter.empty() ? asDiameter(offer) : offer.letter));
    markWrong(value_, false);
    const auto [a, b] = work_.offeredBetween();
    FeatureId one = a.empty() ? view_.first() : a, two = b.empty() ? view_.second() : b;
    const auto put = [](QComboBox* box, const FeatureId& id) {
        if (const int at = box->findData(toQt(id)); at >= 0 && !id.empty()) box->setCurrentIndex(at);
    };
    put(first_, one);
    put(second_, two);
    if (second_->currentIndex() == first_->currentIndex() && second_->count() > 1)
        second_->setCurrentIndex(first_->currentIndex() == second_->count() - 1 ? 0 : second_->count() - 1);
    const bool size = offer.diameter || offer.radius;
    if (size) contact_->setCurrentIndex(7);
    second_->setVisible(kKinds[std::max(contact_->currentIndex(), 0)].two);
    value_->setFocus();
    value_->selectAll();
}

void ToolCard::refresh() {
    const Tool tool = work_.tool();
    setVisible(document_.open() && tool != Tool::None && work_.image() != nullptr);
    if (!document_.open() || tool == Tool::None) return;
    const int n = static_cast<int>(work_.places().size());
    title_->setText(name(tool));
    QString words;
    const auto next = [&](const QString& what) {
        static const QStringList order{tr("first"), tr("second"), tr("third"), tr("fourth")};
        return what.arg(order[std::min(n, 3)]);
    };
    switch (tool) {
        case Tool::KnownLength:
            words = n < 2 ? next(tr("Click the %1 place, as far apart as the picture allows"))
                          : tr("Type how far apart they are");
            break;
        case Tool::Level:
            words =
                next(tr("Click the %1 place on a line that runs along the row or across it. An edge "
                        "that runs there is found"));
            break;
        case Tool::Region:
            words = work_.places().empty() ? tr("Drag over the region, or click its first corner. Then find the pins")
                                           : tr("Click the second corner of the region. Then find the pins");
            break;
        case Tool::Square:
            words = n < 4 ? next(tr("Click the %1 corner of a rectangle of known size, one after the other around it. "
                                    "What stands above its plane stays shifted"))
                          : tr("Type its first and second side");
            break;
        case Tool::Read:
            words = work_.how() == How::RimPlaces
                        ? tr("Click three or more places around the rim, then Enter (%1 so far)").arg(n)
                    : work_.how() == How::Edge   ? next(tr("Click the %1 place along the edge"))
                    : work_.how() == How::Corner ? next(tr("Two places on one edge, two on the other: click the %1"))
                    : work_.how() == How::Place  ? tr("Click the place. Arrow keys move it by a tenth of a pixel")
                                                 : tr("Click inside the rim");
            break;
        case Tool::Dimension: {
            const bool page = work_.image() != nullptr && work_.image()->drawing() != nullptr;
            words = !page ? tr("A picture has no numbers that can be read: type them into the notebook")
                    : work_.offered().empty() ? tr("Click a number on the page; nothing is taken over unseen")
                    : work_.offered().front().count > 1
                        ? tr("It says %1 of them. Say what it is the dimension of").arg(work_.offered().front().count)
                    : work_.offered().front().reference
                        ? tr("In brackets: for information only. Say what it is the dimension of")
                        : tr("Say what it is the dimension of");
            break;
        }
        case Tool::Outline:
            words = n == 0 ? tr("Click corner after corner. A click on the first one, or Enter, closes it; Backspace "
                                "takes one back")
                           : (n == 1 ? tr("One place so far.") : tr("%1 places so far.").arg(n)) +
                                 tr(" Enter closes it, Backspace takes one back");
            break;
        case Tool::None: break;
    }
    words_->setText(words);
    lengthRow_->setVisible(tool == Tool::KnownLength && n == 2);
    squareRow_->setVisible(tool == Tool::Square && n == 4);
    read_->setVisible(tool == Tool::Read);
    dimension_->setVisible(tool == Tool::Dimension && !work_.offered().empty());
    outline_->setVisible(tool == Tool::Outline);
    if (tool == Tool::Read || tool == Tool::Dimension) refreshTargets();
    const Trace* trace = document_.part().body.trace ? &*document_.part().body.trace : nullptr;
    half_->setChecked(work_.half());
    closeOutline_->setEnabled(n > 1);
    removeOutline_->setVisible(trace != nullptr);
}

}  // namespace punch
