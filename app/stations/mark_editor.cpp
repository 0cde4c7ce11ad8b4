#include "app/stations/mark_editor.h"

#include <QCheckBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/drawing/logo.h"
#include "core/part/edit.h"
#include "core/part/names.h"
#include "core/shape/anchors.h"

namespace punch {
namespace {

QComboBox* combo(QWidget* parent, const QString& name) {
    auto* box = new QComboBox(parent);
    box->setObjectName(name);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(3);
    box->setMinimumWidth(theme::em() * 3);
    box->setFocusPolicy(Qt::StrongFocus);
    return box;
}

/// As the choices of a place keep what it holds on.
QString pairOf(const FeatureId& of, const FeatureId& with) {
    return with.empty() ? toQt(of) : toQt(of) + "+" + toQt(with);
}

Hold& holdOf(Mark& mark, std::size_t index, bool alongX) {
    Anchored& a = mark.points[index];
    return alongX ? a.x : a.y;
}

}  // namespace

std::vector<std::pair<FeatureId, QString>> holdChoices(const Part& part, const std::string& mark, bool alongX) {
    std::vector<std::pair<FeatureId, QString>> all = {{kDatumFeature, QObject::tr("datum")},
                                                      {kOriginFeature, QObject::tr("origin")}};
    const Axis axis = alongX ? Axis::Along : Axis::Across;
    const auto add = [&](const FeatureId& id) {
        if (!isFace(part, id) || faceAxis(part, id) == axis) all.emplace_back(id, toQt(featureWords(part, id)));
    };
    if (part.body.present)
        for (const char* id : {kBody, kLeftFace, kRightFace, kFrontFace, kRearFace}) add(id);
    for (const Face& face : part.faces) add(face.id);
    for (const Spot& spot : part.spots) add(spot.id);
    for (const FeatureId& pin : allPins(part)) add(pin);
    for (const Mark& m : part.marks)
        if (m.id != mark)
            for (std::size_t i = 0; i < m.points.size(); ++i)
                all.emplace_back(m.id + "." + std::to_string(i),
                                 QObject::tr("%1, place %2").arg(toQt(m.name)).arg(i + 1));
    return all;
}

MarkEditor::MarkEditor(Document& document, ViewState& view, QWidget* parent)
    : QFrame(parent), document_(document), view_(view) {
    setProperty("role", "card");
    box_ = new QVBoxLayout(this);
    const int em = theme::em();
    box_->setContentsMargins(em / 2, em / 3, em / 2, em / 2);
    hide();
}

const Mark* MarkEditor::mark() const { return document_.open() ? markById(document_.part(), view_.mark()) : nullptr; }

void MarkEditor::change(const QString& what, const std::function<void(Mark&)>& how) {
    Part next = document_.part();
    for (Mark& m : next.marks)
        if (m.id == view_.mark()) {
            how(m);
            document_.apply(what, std::move(next));
            return;
        }
}

Result<void> MarkEditor::setValue(const MarkField& field, const std::string& typed) {
    auto next = withMarkValue(document_.part(), view_.mark(), field.key, typed);
    if (!next) return tl::make_unexpected(next.error());
    document_.apply(tr(field.label), std::move(*next));
    return {};
}

std::string MarkEditor::shapeOf(const Mark& m) const {
    std::string shape = m.id + nameOf(m.kind) + std::to_string(m.points.size());
    for (const MarkField& field : markKind(m.kind).fields) shape += applies(m, field) ? '1' : '0';
    // What can be held on.
    const Part& part = document_.part();
    shape += std::to_string(part.marks.size() + 100 * part.faces.size() + 10000 * part.spots.size());
    for (const FeatureId& pin : allPins(part)) shape += pin;
    shape += "|" + view_.first() + "|" + view_.second() + "|";
    for (const Anchored& a : m.points) shape += a.x.with + "," + a.y.with + ";";
    for (const Mark& other : part.marks)
        if (other.id != m.id) shape += std::to_string(other.points.size()) + other.name;
    return shape;
}

void MarkEditor::refresh() {
    const Mark* m = mark();
    setVisible(m != nullptr);
    if (m == nullptr) return;
    if (const std::string shape = shapeOf(*m); shape != shape_) {
        shape_ = shape;
        build(*m);
    }
    for (const auto& show : shows_) show(*m);
}

void MarkEditor::build(const Mark& m) {
    shows_.clear();
    if (inner_ != nullptr) {
        box_->removeWidget(inner_);
        inner_->setParent(nullptr);
        inner_->deleteLater();
    }
    inner_ = new QWidget(this);
    auto* layout = new QVBoxLayout(inner_);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme::em() / 4);
    box_->addWidget(inner_);
    auto* name = new TypedEdit(
        view_, false,
        [this](const std::string& typed) -> Result<void> {
            if (typed.size() > 60) return problem("a name of more than 60 letters", {}, "Type a shorter one");
            change(tr("name of a mark"), [&](Mark& mark) { mark.name = typed; });
            return {};
        },
        inner_);
    name->setObjectName("markName");
    name->setAccessibleName(tr("Name"));
    name->setToolTip(tr("What it is called, here and where it is printed"));
    shows_.push_back([name](const Mark& mark) { name->setTyped(mark.name); });
    layout->addWidget(name);
    for (const MarkField& field : markKind(m.kind).fields)
        if (applies(m, field)) addField(m, field);
    for (std::size_t i = 0; i < m.points.size(); ++i) addPlace(m, i);
    addButtons(m);
    // What was made just now would be last for the Tab key.
    QWidget* before = after_;
    for (QWidget* w : inner_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
        if (before == nullptr || w->focusPolicy() == Qt::NoFocus) continue;
        setTabOrder(before, w);
        before = w;
    }
}

void MarkEditor::addField(const Mark&, const MarkField& field) {
    auto* layout = static_cast<QVBoxLayout*>(inner_->layout());
    const QString label = tr(field.label), key = field.key;
    QWidget* widget = nullptr;
    if (field.value == MarkValue::Flag) {
        auto* box = new QCheckBox(label, inner_);
        connect(box, &QCheckBox::clicked, this, [this, &field](bool on) { (void)setValue(field, on ? "yes" : "no"); });
        shows_.push_back([box, key](const Mark& m) { box->setChecked(flagOf(m, key.toStdString())); });
        widget = box;
    } else if (field.value == MarkValue::Choice) {
        auto* box = combo(inner_, "mark." + key);
        for (const char* choice : field.choices) box->addItem(tr(choice), QString(choice));
        connect(box, &QComboBox::activated, this,
                [this, &field, box] { (void)setValue(field, box->currentData().toString().toStdString()); });
        shows_.push_back(
            [box, key](const Mark& m) { box->setCurrentIndex(box->findData(toQt(valueOf(m, key.toStdString())))); });
        widget = box;
    } else if (field.value == MarkValue::Figure) {
        auto* bring = new QPushButton(tr("Bring in…"), inner_);
        connect(bring, &QPushButton::clicked, this, [this] {
            const QString file = QFileDialog::getOpenFileName(
                this, tr("A logo"), {}, tr("Logos (*.svg *.png *.jpg *.jpeg *.tif *.tiff *.bmp *.webp)"));
            if (!file.isEmpty()) bringIn(file);
        });
        shows_.push_back([bring, key](const Mark& m) {
            bring->setText(valueOf(m, key.toStdString()).empty() ? tr("Bring in…") : tr("Another…"));
        });
        widget = bring;
    } else if (field.value == MarkValue::Feature) {
        auto* box = combo(inner_, "mark." + key);
        for (const auto& [id, words] : holdChoices(document_.part(), view_.mark(), true))
            if (!isFace(document_.part(), id)) box->addItem(words, toQt(id));
        connect(box, &QComboBox::activated, this,
                [this, &field, box] { (void)setValue(field, box->currentData().toString().toStdString()); });
        shows_.push_back(
            [box, key](const Mark& m) { box->setCurrentIndex(box->findData(toQt(valueOf(m, key.toStdString())))); });
        widget = box;
    } else {
        const bool length = field.value == MarkValue::Length;
        const bool angle = field.value == MarkValue::Angle;
        auto* edit = new TypedEdit(
            view_, length, [this, &field](const std::string& typed) { return setValue(field, typed); }, inner_);
        edit->setAccessibleName(label);
        if (length || field.value == MarkValue::Angle) edit->setAlignment(Qt::AlignRight);
        shows_.push_back([edit, key, angle](const Mark& m) {
            const std::string typed = valueOf(m, key.toStdString());
            edit->setTyped(angle && parseNumber(typed) ? typed + "°" : typed);
        });
        edit->setMinimumWidth(theme::em() * 4);
        widget = edit;
    }
    widget->setObjectName("mark." + key);
    widget->setToolTip(tr(field.help) + (field.value == MarkValue::Length
                                             ? tr(". Any unit, arithmetic, names such as pitch/2; bare numbers are mm")
                                             : QString()));
    if (field.value == MarkValue::Flag) {
        layout->addWidget(widget);
        return;
    }
    auto* line = new QHBoxLayout;
    auto* words = new QLabel(label, inner_);
    words->setBuddy(widget);
    line->addWidget(words, 1);
    line->addWidget(widget, 1);
    layout->addLayout(line);
}

void MarkEditor::bringIn(const QString& file) {
    const auto logo = readLogo(file.toStdString());
    if (!logo) return view_.say(toQt(logo.error().text()));
    change(tr("figure of a logo"), [&](Mark& m) {
        m.set["figure"] = figureText(logo->rings);
        m.set["file"] = QFileInfo(file).fileName().left(200).toStdString();
    });
    QStringList notes;
    for (const std::string& note : logo->notes) notes << toQt(note);
    view_.tell(notes.isEmpty() ? tr("%1 is brought in").arg(QFileInfo(file).fileName())
                               : tr("%1 is brought in; %2").arg(QFileInfo(file).fileName(), notes.join("; ")));
}

void MarkEditor::addPlace(const Mark& m, std::size_t index) {
    auto* layout = static_cast<QVBoxLayout*>(inner_->layout());
    auto* head = new QLabel(m.points.size() == 1 ? tr("Place") : tr("Place %1").arg(index + 1), inner_);
    head->setProperty("role", "quiet");
    layout->addWidget(head);
    auto* grid = new QGridLayout;
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(theme::em() / 4);
    grid->setVerticalSpacing(2);
    addHold(grid, 0, m, index, true);
    addHold(grid, 1, m, index, false);
    const bool outline = markKind(m.kind).points.area;
    const std::string form = outline ? valueOf(m, "form") : std::string();
    if (form == "polygon" || form == "line") {
        auto* corner = combo(inner_, QString("corner%1").arg(index));
        for (const auto& [value, word] : Names<CornerForm>::table) corner->addItem(toQt(word), static_cast<int>(value));
        corner->setToolTip(tr("What becomes of the corner"));
        connect(corner, &QComboBox::activated, this, [this, corner, index] {
            change(tr("corner"), [&](Mark& mark) {
                mark.points[index].corner = static_cast<CornerForm>(corner->currentData().toInt());
            });
        });
        shows_.push_back([corner, index](const Mark& mark) {
            corner->setCurrentIndex(corner->findData(static_cast<int>(mark.points[index].corner)));
        });
        const auto typed = [&](std::string Anchored::*member, const QString& label, const QString& name) {
            auto* edit = new TypedEdit(
                view_, true,
                [this, member, index](const std::string& text) -> Result<void> {
                    change(tr("corner"), [&](Mark& mark) { mark.points[index].*member = text; });
                    return {};
                },
                inner_);
            edit->setObjectName(QString("%1%2").arg(name).arg(index));
            edit->setAccessibleName(label);
            edit->setToolTip(label);
            edit->setPlaceholderText(label);
            shows_.push_back([edit, member, index](const Mark& mark) { edit->setTyped(mark.points[index].*member); });
            return edit;
        };
        grid->addWidget(corner, 2, 1);
        grid->addWidget(typed(&Anchored::size, tr("by"), "cornerSize"), 2, 2);
        grid->addWidget(typed(&Anchored::arc, tr("arc on"), "arc"), 2, 3);
    }
    grid->setColumnStretch(1, 3);
    grid->setColumnStretch(2, 2);
    grid->setColumnStretch(3, 3);
    layout->addLayout(grid);
}

void MarkEditor::addHold(QGridLayout* grid, int row, const Mark& shown, std::size_t index, bool alongX) {
    const QString suffix = QString("%1%2").arg(alongX ? "x" : "y").arg(index);
    auto* axis = new QLabel(alongX ? tr("x") : tr("y"), inner_);
    axis->setProperty("role", "quiet");
    auto* of = combo(inner_, "hold." + suffix);
    of->setToolTip(alongX ? tr("What its place from left to right holds on")
                          : tr("What its place from front to rear holds on"));
    const Part& part = document_.part();
    for (const auto& [id, words] : holdChoices(part, view_.mark(), alongX)) of->addItem(words, toQt(id));
    // The middle of two: as it is, and as it would be of the two that are pointed at.
    const auto both = [&](const FeatureId& a, const FeatureId& b) {
        if (a.empty() || b.empty() || a == b || of->findData(pairOf(a, b)) >= 0) return;
        of->addItem(tr("middle of %1 and %2").arg(toQt(holdWords(part, a)), toQt(holdWords(part, b))), pairOf(a, b));
    };
    const Hold now = alongX ? shown.points[index].x : shown.points[index].y;
    both(now.of, now.with);
    both(view_.first(), view_.second());
    auto* edge = combo(inner_, "edge." + suffix);
    edge->setToolTip(alongX ? tr("Its middle, left or right edge") : tr("Its middle, front or rear edge"));
    edge->addItem(tr("mid"), static_cast<int>(HoldAt::Middle));
    edge->addItem(alongX ? tr("left") : tr("front"), static_cast<int>(HoldAt::Low));
    edge->addItem(alongX ? tr("right") : tr("rear"), static_cast<int>(HoldAt::High));
    auto* off = new TypedEdit(
        view_, true,
        [this, index, alongX](const std::string& typed) -> Result<void> {
            const MarkField length{"", "away by", MarkValue::Length, "", ""};
            if (!typed.empty())
                if (const auto good = checkedMarkValue(length, typed); !good) return tl::make_unexpected(good.error());
            change(tr("place of a mark"), [&](Mark& m) { holdOf(m, index, alongX).off = typed; });
            return {};
        },
        inner_);
    off->setObjectName("off." + suffix);
    off->setAccessibleName(alongX ? tr("Away to the right by") : tr("Away to the rear by"));
    off->setToolTip(alongX ? tr("How far to the right of it; less than 0 to the left")
                           : tr("How far behind it; less than 0 in front"));
    off->setPlaceholderText("0");
    off->setAlignment(Qt::AlignRight);
    off->setMinimumWidth(theme::em() * 4);
    connect(of, &QComboBox::activated, this, [this, of, index, alongX] {
        const QStringList ids = of->currentData().toString().split('+');
        change(tr("place of a mark"), [&](Mark& m) {
            holdOf(m, index, alongX).of = ids[0].toStdString();
            holdOf(m, index, alongX).with = ids.value(1).toStdString();
        });
    });
    connect(edge, &QComboBox::activated, this, [this, edge, index, alongX] {
        change(tr("place of a mark"),
               [&](Mark& m) { holdOf(m, index, alongX).at = static_cast<HoldAt>(edge->currentData().toInt()); });
    });
    shows_.push_back([this, of, edge, off, index, alongX](const Mark& mark) {
        const Hold& h = alongX ? mark.points[index].x : mark.points[index].y;
        of->setCurrentIndex(of->findData(pairOf(h.of, h.with)));
        // A face, the datum and a place have no edges.
        edge->setVisible(!isFace(document_.part(), h.of) && featureExists(document_.part(), h.of));
        edge->setCurrentIndex(edge->findData(static_cast<int>(h.at)));
        off->setTyped(h.off);
    });
    grid->addWidget(axis, row, 0);
    grid->addWidget(of, row, 1);
    grid->addWidget(edge, row, 2);
    grid->addWidget(off, row, 3);
}

void MarkEditor::addButtons(const Mark& m) {
    auto* layout = static_cast<QVBoxLayout*>(inner_->layout());
    auto* line = new QHBoxLayout;
    const auto button = [&](const QString& words, const QString& name, const QString& tip) {
        auto* b = new QPushButton(words, inner_);
        b->setProperty("role", "link");
        b->setObjectName(name);
        b->setToolTip(tip);
        line->addWidget(b);
        return b;
    };
    const MarkPoints points = markKind(m.kind).points;
    if (static_cast<int>(m.points.size()) < points.most) {
        auto* point = button(tr("Point"), "pointAtPlaces",
                             tr("Each click on a feature of the sheet adds a place that holds on it; Esc ends"));
        point->setCheckable(true);
        connect(point, &QPushButton::clicked, this, [this](bool on) { view_.setPlacing(on); });
        shows_.push_back([this, point](const Mark&) { point->setChecked(view_.placing()); });
    }
    if (static_cast<int>(m.points.size()) > points.least)
        connect(button(tr("Drop last"), "dropPlace", tr("Takes away its last place")), &QPushButton::clicked, this,
                [this] {
                    change(tr("place of a mark"), [](Mark& mark) {
                        if (!mark.points.empty()) mark.points.pop_back();
                    });
                });
    connect(button(tr("Remove"), "removeMark", tr("Takes the mark off the part")), &QPushButton::clicked, this, [this] {
        const std::string id = view_.mark();
        view_.setMark({});
        document_.apply(tr("removal of a mark"), withoutMark(document_.part(), id));
    });
    line->addStretch(1);
    layout->addLayout(line);
}

}  // namespace punch
