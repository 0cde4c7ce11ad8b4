#pragma once
// The reading that is being entered: what was pointed at on the sheet, or else the next one that would help most.

#include <QObject>
#include <optional>

#include "app/document.h"
#include "app/view_state.h"
#include "core/measure/contacts.h"
#include "core/measure/entry.h"

namespace punch {

class ReadingEntry : public QObject {
    Q_OBJECT
public:
    ReadingEntry(Document& document, ViewState& view, QObject* parent = nullptr);

    /// None: enough is read, and nothing is pointed at.
    const std::optional<Reading>& pending() const { return pending_; }
    /// "pins 1 and 4, outside".
    QString words() const;
    /// Is it the user's choice rather than the suggestion?
    bool chosen() const { return !view_.first().empty(); }
    /// Notebook row whose values are being edited; -1 for none.
    int editing() const { return editing_; }

    /// The next or previous contact that makes sense on what was pointed at.
    void cycle(int by);
    /// Takes what was typed as a reading. Errors leave everything as it is.
    Result<void> take(const QString& typed);

    /// Points at a feature: the first, the second, or the first anew.
    void pointAt(const FeatureId& id);
    void clear();
    /// Begins to edit row `index`; gives the text of its values.
    QString edit(int index);

    QString instrument() const { return instrument_; }
    void setInstrument(const QString& name);

    void removeReading(int index);
    void moveReading(int index, int by);
    /// Says of every odd raw value of a reading that it is meant.
    void confirmValues(int index);

signals:
    void changed();

private:
    void refresh();
    Document& document_;
    ViewState& view_;
    std::optional<Reading> pending_;
    int choice_ = 0;
    int editing_ = -1;
    QString instrument_ = QStringLiteral("caliper-0.01");
};

}  // namespace punch
