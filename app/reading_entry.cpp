#include "app/reading_entry.h"
#include "app/qt_text.h"

namespace punch {

ReadingEntry::ReadingEntry(Document& document, ViewState& view, QObject* parent)
    : QObject(parent), document_(document), view_(view) {
    connect(&document_, &Document::changed, this, [this] {
        if (editing_ >= static_cast<int>(document_.part().readings.size())) editing_ = -1;
        if (!view_.first().empty() && !featureExists(document_.part(), view_.first())) view_.choose({}, {});
        if (!view_.second().empty() && !featureExists(document_.part(), view_.second()))
            view_.choose(view_.first(), {});
        refresh();
    });
    connect(&view_, &ViewState::chosenChanged, this, [this] {
        choice_ = 0;
        refresh();
    });
}

void ReadingEntry::refresh() {
    pending_.reset();
    if (!document_.open()) return;
    const Part& part = document_.part();
    if (!view_.first().empty()) {
        auto choices = contactChoices(part, view_.first(), view_.second());
        if (!choices.empty()) {
            const auto n = static_cast<int>(choices.size());
            const ContactChoice& c = choices[static_cast<std::size_t>(((choice_ % n) + n) % n)];
            Reading r;
            r.a = view_.first();
            r.b = view_.second();
            r.contact = c.contact;
            r.axis = c.axis;
            pending_ = r;
        }
    } else {
        pending_ = document_.footprint().next.reading;
    }
    if (pending_) pending_->instrument = instrument_.toStdString();
    emit changed();
}

QString ReadingEntry::words() const {
    if (editing_ >= 0)
        return tr("Change reading %1 · %2")
            .arg(editing_ + 1)
            .arg(toQt(readingWords(document_.part(), document_.part().readings[static_cast<std::size_t>(editing_)])));
    if (pending_) return toQt(readingWords(document_.part(), *pending_));
    if (!view_.first().empty()) return tr("nothing can be read on these two; point at another");
    return toQt(document_.footprint().next.words);
}

void ReadingEntry::cycle(int by) {
    if (editing_ >= 0) return;
    if (view_.first().empty() && pending_) {
        // Leafing through the suggestion makes it the user's own choice.
        const Reading r = *pending_;
        view_.choose(r.a, r.b);
        const auto choices = contactChoices(document_.part(), r.a, r.b);
        for (std::size_t i = 0; i < choices.size(); ++i)
            if (choices[i].contact == r.contact && choices[i].axis == r.axis) choice_ = static_cast<int>(i);
    }
    choice_ += by;
    refresh();
}

Result<void> ReadingEntry::take(const QString& typed) {
    const Part& part = document_.part();
    if (editing_ >= 0) {
        const auto index = static_cast<std::size_t>(editing_);
        auto raw = parseRawValues(typed.toStdString(), view_.unit());
        if (!raw) return tl::make_unexpected(raw.error());
        for (const RawValue& v : *raw)
            if (const auto ok = plausibleSize(part, part.readings[index], v.value); !ok)
                return tl::make_unexpected(ok.error());
        Part next = part;
        next.readings[index].raw = *raw;
        editing_ = -1;
        document_.apply(tr("change of reading %1").arg(index + 1), std::move(next));
        refresh();
        return {};
    }
    auto entry = parseEntry(part, pending_, typed.toStdString(), view_.unit());
    if (!entry) return tl::make_unexpected(entry.error());
    entry->reading.instrument = instrument_.toStdString();
    const QString what = tr("reading %1").arg(toQt(readingWords(part, entry->reading)));
    Part next = withReading(part, entry->reading);
    choice_ = 0;
    view_.choose({}, {});
    document_.apply(what, std::move(next));
    return {};
}

void ReadingEntry::pointAt(const FeatureId& id) {
    editing_ = -1;
    if (view_.first().empty() || !view_.second().empty() || id == kBody)
        view_.choose(id, {});
    else if (view_.first() == id)
        view_.choose({}, {});
    else
        view_.choose(view_.first(), id);
}

void ReadingEntry::clear() {
    editing_ = -1;
    view_.choose({}, {});
}

QString ReadingEntry::edit(int index) {
    if (index < 0 || index >= static_cast<int>(document_.part().readings.size())) return {};
    editing_ = index;
    QStringList values;
    for (const RawValue& v : document_.part().readings[static_cast<std::size_t>(index)].raw) {
        // Shown as typed; a value typed in another unit names it.
        const bool bare = !namesUnit(v.typed) && v.unit != view_.unit();
        const QString typed = toQt(v.typed);
        values << (bare ? QStringLiteral("(%1)%2").arg(typed, toQt(unitName(v.unit))) : typed);
    }
    emit changed();
    return values.join(' ');
}

void ReadingEntry::setInstrument(const QString& name) {
    instrument_ = name;
    refresh();
}

void ReadingEntry::removeReading(int index) {
    Part next = document_.part();
    if (index < 0 || index >= static_cast<int>(next.readings.size())) return;
    next.readings.erase(next.readings.begin() + index);
    editing_ = -1;
    document_.apply(tr("removal of reading %1").arg(index + 1), std::move(next));
}

void ReadingEntry::moveReading(int index, int by) {
    Part next = document_.part();
    const int to = index + by;
    if (index < 0 || to < 0 || index >= static_cast<int>(next.readings.size()) ||
        to >= static_cast<int>(next.readings.size()))
        return;
    std::swap(next.readings[static_cast<std::size_t>(index)], next.readings[static_cast<std::size_t>(to)]);
    document_.apply(tr("order of readings"), std::move(next));
}

void ReadingEntry::confirmValues(int index) {
    Part next = document_.part();
    if (index < 0 || index >= static_cast<int>(next.readings.size())) return;
    for (RawValue& v : next.readings[static_cast<std::size_t>(index)].raw) v.meant = true;
    document_.apply(tr("values of reading %1 are meant").arg(index + 1), std::move(next));
}

}  // namespace punch
