#pragma once
// The reading that is being entered: what was pointed at on the sheet, or else the next one that would help most.

#include <QObject>
#include <optional>

#include "app/document.h"
#include "app/view_state.h"
#include "core/measure/entry.h"
#include "core/model/contacts.h"

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

    /// A name of measure/instruments.h, of the part's own, or kDrawing.
    QString instrument() const { return instrument_; }
    void setInstrument(const QString& name);
    static constexpr const char* kDrawing = "drawing";
    /// What the next readings are taken on: 0 the part in hand, or the specimen's number.
    void setSpecimen(int specimen) { specimen_ = specimen; }
    /// The drawing that is read off shows the part from below.
    void setFromBelow(bool below) { fromBelow_ = below; }

    /// Series: value after value for the reading that is asked for; nothing typed goes on to the next one.
    void startSeries();
    void endSeries();
    /// The reading of the series that has values already; -1 for none.
    int seriesReading() const;

    void removeReading(int index);
    void moveReading(int index, int by);
    /// Says of every odd raw value of a reading that it is meant.
    void confirmValues(int index);
    /// Joins an orphan to the feature that was pointed at. False when there is none or nothing to join.
    bool rejoin(int index);

signals:
    void changed();

private:
    void refresh();
    Result<void> takeInSeries(const QString& typed);
    Document& document_;
    ViewState& view_;
    std::optional<Reading> pending_;
    int choice_ = 0;
    int editing_ = -1;
    QString instrument_ = QStringLiteral("caliper-0.01");
    int specimen_ = 0;
    bool fromBelow_ = false;
    std::string seriesId_;         ///< reading that gets more values
    std::vector<Reading> putOff_;  ///< readings of the series that were passed over
};

}  // namespace punch
