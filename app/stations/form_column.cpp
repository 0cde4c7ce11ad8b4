#include "app/stations/form_column.h"

#include <QWheelEvent>

namespace punch {

namespace {
/// A scrolled column must not change a choice that happens to lie under the mouse.
class WheelGuard : public QObject {
public:
    using QObject::QObject;
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() != QEvent::Wheel) return QObject::eventFilter(object, event);
        event->ignore();
        return true;
    }
};
}  // namespace

void keepWheelAway(QWidget* field) { field->installEventFilter(new WheelGuard(field)); }

FormColumn::FormColumn(Document& document, ViewState& view, QWidget* parent)
    : QScrollArea(parent), document_(document), view_(view) {
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget(this);
    inner->setObjectName("scrolled");
    box_ = new QVBoxLayout(inner);
    const int em = theme::em();
    box_->setContentsMargins(em * 3 / 4, em / 2, em * 3 / 4, em / 2);
    box_->setSpacing(em / 3);
    setWidget(inner);
}

void FormColumn::connectRefresh() {
    const auto again = [this] {
        // A column that is not seen is filled when it is.
        stale_ = !isVisible();
        if (!stale_) fill();
    };
    connect(&document_, &Document::changed, this, again);
    connect(&view_, &ViewState::unitChanged, this, again);
    connect(&view_, &ViewState::chosenChanged, this, again);
}

void FormColumn::fill() {
    stale_ = false;
    if (!document_.open()) return;
    showAll();
    refresh();
}

void FormColumn::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    if (stale_) fill();
}

void FormColumn::showAll() {
    for (const auto& show : shows_) show(document_.part());
}

bool FormColumn::goTo(const QString& field) {
    const auto it = fields_.find(field);
    if (it == fields_.end()) return false;
    setRowVisible(field, true);  // it may stand behind "more"
    ensureWidgetVisible(it->second);
    it->second->setFocus();
    if (auto* edit = qobject_cast<QLineEdit*>(it->second)) edit->selectAll();
    return true;
}

void FormColumn::showBetween(int from, int to, bool visible) {
    const std::function<void(QLayoutItem*)> show = [&](QLayoutItem* item) {
        if (QWidget* widget = item->widget()) widget->setVisible(visible);
        if (QLayout* inner = item->layout())
            for (int i = 0; i < inner->count(); ++i) show(inner->itemAt(i));
    };
    for (int i = from; i < to; ++i) show(box_->itemAt(i));
}

QLabel* FormColumn::title(const QString& words) {
    if (box_->count() > 0) {
        auto* line = new QFrame(this);
        line->setProperty("role", "line");
        box_->addSpacing(theme::em() / 4);
        box_->addWidget(line);
    }
    auto* label = new QLabel(words, this);
    label->setFont(theme::text(1.1, true));
    box_->addWidget(label);
    return label;
}

WrappedLabel* FormColumn::note(const QString& words) {
    auto* label = new WrappedLabel(this);
    label->setText(words);
    label->setFont(theme::text(0.9));
    label->setProperty("role", "quiet");
    box_->addWidget(label);
    return label;
}

QHBoxLayout* FormColumn::row(const QString& label, QWidget* field, const QString& name) {
    auto* line = new QHBoxLayout;
    auto* words = new QLabel(label, this);
    words->setBuddy(field);
    line->addWidget(words, 1);
    // Fields of one column line up; a choice with long words may take more.
    field->setMinimumWidth(theme::em() * 17 / 2);
    field->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    if (auto* combo = qobject_cast<QComboBox*>(field)) {
        combo->setSizeAdjustPolicy(QComboBox::AdjustToContents);
        combo->setMaximumWidth(theme::em() * 13);
    } else {
        field->setMaximumWidth(theme::em() * 17 / 2);
    }
    field->setAccessibleName(label);
    line->addWidget(field);
    if (qobject_cast<QComboBox*>(field) != nullptr) {
        field->setFocusPolicy(Qt::StrongFocus);
        keepWheelAway(field);
    }
    if (!name.isEmpty()) {
        field->setObjectName(name);
        fields_[name] = field;
        labels_[name] = words;
    }
    box_->addLayout(line);
    return line;
}

void FormColumn::setRowVisible(const QString& name, bool visible) {
    if (const auto it = fields_.find(name); it != fields_.end()) it->second->setVisible(visible);
    if (const auto it = labels_.find(name); it != labels_.end()) it->second->setVisible(visible);
}

QPushButton* FormColumn::more(const QString& words, const QStringList& rows, const std::vector<QWidget*>& widgets) {
    auto* link = new QPushButton(words + " …", this);
    link->setProperty("role", "link");
    link->setCheckable(true);
    box_->addWidget(link, 0, Qt::AlignLeft);
    const auto show = [this, rows, widgets](bool on) {
        for (const QString& name : rows) setRowVisible(name, on);
        for (QWidget* widget : widgets) widget->setVisible(on);
    };
    show(false);
    connect(link, &QPushButton::toggled, this, [show, link, words](bool on) {
        show(on);
        link->setText(on ? QObject::tr("Less") : words + " …");
    });
    return link;
}

LengthEdit* FormColumn::length(const QString& label, const QString& name, std::function<Length(const Part&)> get,
                               std::function<void(Part&, Length)> set, Length least, Length most) {
    auto* edit = new LengthEdit(
        view_,
        [this, set, label](Length value) -> Result<void> {
            Part next = document_.part();
            set(next, value);
            document_.apply(label, std::move(next));
            return {};
        },
        this);
    edit->setLimits(least, most);
    row(label, edit, name);
    shows_.push_back([edit, get](const Part& part) { edit->setLength(get(part)); });
    return edit;
}

QCheckBox* FormColumn::check(const QString& label, const QString& name, std::function<bool(const Part&)> get,
                             std::function<void(Part&, bool)> set) {
    auto* box = new QCheckBox(label, this);
    own(name, box);
    connect(box, &QCheckBox::clicked, this, [this, set, label](bool on) {
        Part next = document_.part();
        set(next, on);
        document_.apply(label, std::move(next));
    });
    shows_.push_back([box, get](const Part& part) { box->setChecked(get(part)); });
    return box;
}

void FormColumn::own(const QString& name, QWidget* widget) {
    widget->setObjectName(name);
    fields_[name] = widget;
    box_->addWidget(widget);
}

QLineEdit* FormColumn::number(const QString& label, const QString& name, Range range,
                              std::function<double(const Part&)> get, std::function<void(Part&, double)> set) {
    auto* edit = textField(this, name);
    edit->setFont(theme::digits());
    edit->setAlignment(Qt::AlignRight);
    row(label, edit, name);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, label, range, set] {
        if (!edit->isModified() || !document_.open()) return;
        const auto typed = parseNumber(edit->text().toStdString());
        const bool good = typed && range.holds(*typed);
        markWrong(edit, !good);
        if (!good) {
            view_.say(label + ": " + toQt(typed ? range.words() : typed.error().text()));
            return;
        }
        edit->setModified(false);
        view_.say({});
        Part next = document_.part();
        set(next, *typed);
        document_.apply(label, std::move(next));
    });
    shows_.push_back([edit, get](const Part& part) {
        if (!edit->hasFocus() && !edit->property("wrong").toBool()) edit->setText(QString::number(get(part)));
    });
    return edit;
}

QLineEdit* FormColumn::lengths(const QString& label, const QString& name, Length most,
                               std::function<std::vector<Length>(const Part&)> get,
                               std::function<void(Part&, std::vector<Length>)> set) {
    auto* edit = textField(this, name);
    edit->setFont(theme::digits());
    wideRow(label, edit, name);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, label, most, set] {
        if (!edit->isModified() || !document_.open()) return;
        std::vector<Length> all;
        for (const std::string& typed : splitValues(edit->text().toStdString())) {
            const auto one = parseLength(typed, view_.unit());
            if (!one || *one <= Length() || *one > most) {
                markWrong(edit, true);
                view_.say(one ? tr("%1: above 0, up to %2 each").arg(label, view_.length(most, 2))
                              : label + ": " + toQt(one.error().text()));
                return;
            }
            all.push_back(*one);
        }
        edit->setModified(false);
        markWrong(edit, false);
        view_.say({});
        Part next = document_.part();
        set(next, std::move(all));
        document_.apply(label, std::move(next));
    });
    shows_.push_back([this, edit, get](const Part& part) {
        if (edit->hasFocus() || edit->property("wrong").toBool()) return;
        // What is shown is read again when one more is typed: as many digits as say each exactly.
        const auto shown = [this](Length one) {
            for (int digits = 2; digits < 5; ++digits)
                if (const auto read = parseLength(view_.value(one, digits).toStdString(), view_.unit());
                    read && abs(*read - one) < Length::fromNm(50))
                    return view_.value(one, digits);
            return view_.value(one, 5);
        };
        QStringList words;
        for (const Length one : get(part)) words << shown(one);
        edit->setText(words.isEmpty() ? QString() : words.join(' ') + ' ' + toQt(std::string(unitName(view_.unit()))));
        edit->setCursorPosition(0);
    });
    return edit;
}

QComboBox* FormColumn::choice(const QString& label, const QString& name, const QStringList& words,
                              std::function<int(const Part&)> get, std::function<void(Part&, int)> set) {
    auto* combo = new QComboBox(this);
    combo->addItems(words);
    row(label, combo, name);
    connect(combo, &QComboBox::activated, this, [this, set, label](int at) {
        Part next = document_.part();
        set(next, at);
        document_.apply(label, std::move(next));
    });
    shows_.push_back([combo, get](const Part& part) {
        if (const int at = get(part); at >= 0) combo->setCurrentIndex(at);
    });
    return combo;
}

void FormColumn::wideRow(const QString& label, QWidget* field, const QString& name) {
    auto* words = new QLabel(label, this);
    words->setProperty("role", "quiet");
    words->setFont(theme::text(0.85));
    words->setBuddy(field);
    field->setAccessibleName(label);
    field->setObjectName(name);
    fields_[name] = field;
    labels_[name] = words;
    box_->addWidget(words);
    box_->addWidget(field);
}

QLineEdit* textField(QWidget* parent, const QString& name) {
    auto* edit = new QLineEdit(parent);
    edit->setObjectName(name);
    return edit;
}

}  // namespace punch
