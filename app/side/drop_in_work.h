#pragma once
// Runs the full drop-in beside the window while it is wanted; a newer part overtakes an older run.

#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <optional>

#include "app/document.h"
#include "core/fit/drop_in.h"

namespace punch {

class DropInWork : public QObject {
    Q_OBJECT
public:
    explicit DropInWork(Document& document, QObject* parent = nullptr);
    ~DropInWork() override;

    /// While it is not wanted nothing runs.
    void setWanted(bool wanted);
    /// None while nothing was computed for the part as it is.
    const std::optional<DropInReport>& report() const { return report_; }
    bool running() const { return running_; }
    /// What was computed with another number of trials, or is being computed, is not the report any more.
    void setTrials(int trials);
    /// Waits until the part as it is has its report. For tests and pictures.
    void settle();

signals:
    void changed();

private:
    void begin();
    void arrived(quint64 generation, const DropInReport& report);
    Document& document_;
    QTimer rest_;  ///< the hand has to rest before a run is worth it
    QThreadPool pool_;
    std::optional<DropInReport> report_;
    Part of_;  ///< that the report or the run is of
    quint64 generation_ = 0;
    bool wanted_ = false;
    bool running_ = false;
    int trials_ = 100000;
};

}  // namespace punch
