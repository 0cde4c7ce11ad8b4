#include "app/stations/parameter_list.h"

#include <algorithm>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/length_edit.h"
#include "core/model/model.h"

namespace punch {

ParameterList::ParameterList(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setVerticalSpacing(theme::em() / 5);
    grid_->setColumnStretch(0, 1);
}

QLineEdit* ParameterList::field(const std::string& name) const {
    for (const Row& row : rows_)
        if (row.name == name) return row.edit;
    return nullptr;
}

void ParameterList::show(const std::vector<std::string>& names) {
    std::vector<std::string> there;
    for (const std::string& name : names)
        if (document_.footprint().parameter(name) != nullptr) there.push_back(name);
    const bool same = std::equal(there.begin(), there.end(), rows_.begin(), rows_.end(),
                                 [](const std::string& name, const Row& row) { return row.name == name; });
    if (!same) build(there);
    for (Row& row : rows_) fill(row);
}

void ParameterList::build(const std::vector<std::string>& names) {
    for (Row& row : rows_)
        for (QWidget* w : std::initializer_list<QWidget*>{row.label, row.edit, row.standard, row.words}) delete w;
    rows_.clear();
    int line = 0;
    for (const std::string& name : names) {
        Row row{name, new QLabel(this), new QLineEdit(this), new QPushButton(this), new WrappedLabel(this)};
        row.edit->setObjectName("given-" + toQt(name));
        row.edit->setAccessibleName(toQt(name));
        row.edit->setFont(theme::digits());
        row.edit->setMinimumWidth(theme::em() * 8);
        row.edit->setToolTip(
            tr("Empty: free, to be measured. Or a value (2.54, 0.1in), or a formula on other names\n"
               "such as pitch, lead.width, body.left, or letters and named values: A - 2*edge"));
        row.label->setBuddy(row.edit);
        row.standard->setProperty("role", "link");
        row.standard->setObjectName("standard-" + toQt(name));
        row.standard->setToolTip(tr("Takes the standard value that fits, or lets it go again"));
        row.standard->setFont(theme::text(0.9));
        row.words->setFont(theme::text(0.85));
        grid_->addWidget(row.label, line, 0);
        grid_->addWidget(row.edit, line, 1);
        grid_->addWidget(row.standard, line + 1, 1, Qt::AlignRight);
        grid_->addWidget(row.words, line + 1, 0);
        line += 2;
        rows_.push_back(row);
        connect(row.edit, &QLineEdit::editingFinished, this, [this, name] {
            for (Row& r : rows_)
                if (r.name == name && r.edit->isModified()) {
                    give(r);
                    return;
                }
        });
        connect(row.standard, &QPushButton::clicked, this, [this, name] {
            const SizeAdvice* a = document_.footprint().size(name);
            if (a == nullptr) return;
            const bool release = a->taken.has_value();
            document_.apply(
                release ? tr("%1 as read").arg(toQt(a->name)) : tr("standard %1").arg(toQt(a->name)),
                withTaken(document_.part(), name, release ? std::nullopt : std::optional(a->nearest.front().standard)));
        });
    }
}

void ParameterList::give(Row& row) {
    const std::string typed = row.edit->text().trimmed().toStdString();
    Part next = withGiven(document_.part(), row.name, typed, view_.unit());
    // A formula that cannot be is refused here, with what is wrong with it; the text stays.
    const Model model(next);
    for (const Complaint& c : model.complaints())
        if (c.parameter == row.name) {
            markWrong(row.edit, true);
            view_.say(tr("%1: %2").arg(toQt(row.name), toQt(c.words)));
            return;
        }
    row.edit->setModified(false);
    markWrong(row.edit, false);
    view_.say({});
    document_.apply(typed.empty() ? tr("%1 freed").arg(toQt(row.name)) : tr("%1 given").arg(toQt(row.name)),
                    std::move(next));
}

void ParameterList::fill(Row& row) {
    const ParameterValue& p = *document_.footprint().parameter(row.name);
    const auto number = [&] {
        if (p.angle) return QString::number(p.angle->degrees(), 'f', 2) + "°";
        return view_.value(p.value);
    };
    const QString doubt = !p.firm()      ? tr("loose")
                          : p.angleDoubt ? QStringLiteral("± %1°").arg(p.angleDoubt->degrees(), 0, 'f', 2)
                                         : QStringLiteral("± %1").arg(view_.length(*p.doubt));
    row.label->setText(toQt(p.words));
    if (!row.edit->hasFocus() || !row.edit->isModified()) {
        if (!row.edit->property("wrong").toBool()) row.edit->setText(toQt(p.typed));
        row.edit->setModified(false);
    }
    row.edit->setPlaceholderText(p.firm() ? number() : tr("free"));
    QString words;
    switch (p.state) {
        case Parameter::State::Taken: words = tr("%1 taken").arg(number()); break;
        case Parameter::State::Given: words = tr("given %1").arg(number()); break;
        case Parameter::State::Formula: words = tr("= %1 %2").arg(number(), doubt); break;
        case Parameter::State::Free: words = p.firm() ? tr("read %1").arg(doubt) : tr("free, loose"); break;
    }
    for (const Complaint& c : document_.footprint().complaints)
        if (c.parameter == row.name) words = toQt(c.words);
    const SizeAdvice* a = document_.footprint().size(row.name);
    const bool offers = a != nullptr && a->firm && !a->nearest.empty();
    row.standard->setVisible(offers && (a->taken || a->nearest.front().fit != Fit::Excluded));
    if (offers) {
        if (a->taken) {
            row.standard->setText(tr("as read"));
            words = a->speaksAgainst() ? tr("%1 taken, the readings speak against it (%2 σ)")
                                             .arg(view_.value(*a->taken, 2))
                                             .arg(a->takenK, 0, 'f', 1)
                                       : tr("%1 taken").arg(view_.value(*a->taken, 2));
        } else {
            row.standard->setText(tr("take %1").arg(view_.value(a->nearest.front().standard, 2)));
        }
        row.standard->setToolTip(toQt(a->words));
    }
    row.words->setText(words);
    const bool warn = !p.firm() || (a != nullptr && a->speaksAgainst());
    row.words->setStyleSheet(theme::styled(warn ? "color: @marigoldInk;" : "color: @quiet;"));
}

}  // namespace punch
