#include "app/reading_entry.h"
#include "app/qt_text.h"
#include "core/measure/instruments.h"

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
            r.atEnd = c.atEnd;
            pending_ = r;
        }
    } else if (const int at = seriesReading(); at >= 0) {
        pending_ = part.readings[static_cast<std::size_t>(at)];
    } else if (view_.series() && !putOff_.empty()) {
        pending_ = nextReadingBut(part, document_.footprint(), putOff_).reading;
    } else {
        pending_ = document_.footprint().next.reading;
    }
    if (pending_ && instrument_ != kDrawing) pending_->instrument = instrument_.toStdString();
    emit changed();
}

QString ReadingEntry::words() const {
    if (editing_ >= 0)
        return tr("Change reading %1 · %2")
            .arg(editing_ + 1)
            .arg(toQt(readingWords(document_.part(), document_.part().readings[static_cast<std::size_t>(editing_)])));
    if (const int at = seriesReading(); at >= 0 && view_.first().empty()) {
        const Reading& r = document_.part().readings[static_cast<std::size_t>(at)];
        return tr("%1: %2").arg(toQt(readingWords(document_.part(), r)), toQt(typedValues(r, view_.unit())));
    }
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
            if (choices[i].contact == r.contact && choices[i].axis == r.axis && choices[i].atEnd == r.atEnd)
                choice_ = static_cast<int>(i);
    }
    choice_ += by;
    refresh();
}

Result<void> ReadingEntry::take(const QString& typed) {
    const Part& part = document_.part();
    if (view_.series() && view_.first().empty()) return takeInSeries(typed);
    if (editing_ >= 0) {
        const auto index = static_cast<std::size_t>(editing_);
        const Reading& old = part.readings[index];
        auto entry = parseEntry(part, old, typed.toStdString(), view_.unit(), old.drawing.has_value());
        if (!entry) return tl::make_unexpected(entry.error());
        Part next = part;
        if (entry->named) {
            // A whole reading typed over it: what it is of changes too.
            entry->reading.id = old.id;
            entry->reading.source = old.source;
            entry->reading.note = old.note;
            next.readings[index] = entry->reading;
        } else {
            next.readings[index].raw = entry->reading.raw;
            next.readings[index].drawing = entry->reading.drawing;
        }
        editing_ = -1;
        document_.apply(tr("change of reading %1").arg(index + 1), std::move(next));
        refresh();
        return {};
    }
    const bool drawn = instrument_ == kDrawing;
    auto entry = parseEntry(part, pending_, typed.toStdString(), view_.unit(), drawn);
    if (!entry) return tl::make_unexpected(entry.error());
    Reading& r = entry->reading;
    // Steps of a grid and angles bring their own instrument.
    if (r.instrument != kGridSteps && r.contact != Contact::Angle)
        r.instrument = drawn ? Reading().instrument : instrument_.toStdString();
    if (r.specimen == 0) r.specimen = specimen_;
    if (r.drawing && drawn && fromBelow_) r.fromBelow = true;
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
    const QString values = toQt(typedValues(document_.part().readings[static_cast<std::size_t>(index)], view_.unit()));
    emit changed();
    return values;
}

void ReadingEntry::setInstrument(const QString& name) {
    instrument_ = name;
    refresh();
}

int ReadingEntry::seriesReading() const {
    if (!view_.series() || seriesId_.empty() || !document_.open()) return -1;
    const auto& readings = document_.part().readings;
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (readings[i].id == seriesId_) return static_cast<int>(i);
    return -1;
}

void ReadingEntry::startSeries() {
    putOff_.clear();
    seriesId_.clear();
    editing_ = -1;
    view_.choose({}, {});
    view_.setSeries(true);
    refresh();
}

void ReadingEntry::endSeries() {
    putOff_.clear();
    seriesId_.clear();
    view_.setSeries(false);
    refresh();
}

Result<void> ReadingEntry::takeInSeries(const QString& typed) {
    const Part& part = document_.part();
    const int at = seriesReading();
    if (typed.trimmed().isEmpty()) {
        // On to the next; what got no value is put off.
        if (at < 0 && pending_) putOff_.push_back(*pending_);
        seriesId_.clear();
        refresh();
        return {};
    }
    auto entry = parseEntry(part, pending_, typed.toStdString(), view_.unit());
    if (!entry) return tl::make_unexpected(entry.error());
    if (at >= 0 && !entry->named) {
        Part next = part;
        auto& raw = next.readings[static_cast<std::size_t>(at)].raw;
        raw.insert(raw.end(), entry->reading.raw.begin(), entry->reading.raw.end());
        document_.apply(tr("one more value of reading %1").arg(at + 1), std::move(next));
        refresh();
        return {};
    }
    if (entry->reading.contact != Contact::Angle && entry->reading.instrument != kGridSteps && instrument_ != kDrawing)
        entry->reading.instrument = instrument_.toStdString();
    entry->reading.specimen = specimen_;
    Part next = withReading(part, entry->reading);
    seriesId_ = next.readings.back().id;
    document_.apply(tr("reading %1").arg(toQt(readingWords(part, entry->reading))), std::move(next));
    refresh();
    return {};
}

bool ReadingEntry::rejoin(int index) {
    const Part& part = document_.part();
    if (index < 0 || index >= static_cast<int>(part.readings.size()) || view_.first().empty()) return false;
    const Reading& r = part.readings[static_cast<std::size_t>(index)];
    for (const FeatureId& id : {r.a, r.b, r.c})
        if (!id.empty() && !featureExists(part, id)) {
            Part next = withRejoined(part, id, view_.first());
            document_.apply(tr("joining of readings to %1").arg(toQt(featureWords(part, view_.first()))),
                            std::move(next));
            view_.choose({}, {});
            return true;
        }
    return false;
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
