#pragma once
// Measure: the entry line, the notebook, what looks like a slip, and what the readings say about standard sizes.

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

#include "app/document.h"
#include "app/reading_entry.h"
#include "app/stations/notebook.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"

namespace punch {

class MeasureStation : public QWidget {
    Q_OBJECT
public:
    MeasureStation(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent = nullptr);

    Notebook& notebook() { return *notebook_; }
    QLineEdit& line() { return *line_; }
    /// Puts text into the entry line, as if typed there, and gives it the keyboard.
    void type(const QString& text);
    void replaceLine(const QString& text);
    /// Takes or releases the standard value of the size that the advice card shows.
    void takeOrReleaseStandard();
    /// Shows the advice about another size.
    void nextAdvice(int by);
    /// Mends the slip that is asked about.
    void mendSlip();
    /// Says that what is asked about is meant, or puts the question off.
    void keepSlip();
    void startSeries();

signals:
    void sourcesWanted();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void refresh();
    void refreshAdvice();
    void refreshSlips();
    void refreshInstruments();
    const SizeAdvice* advice() const;
    const Slip* slip() const;
    /// Another answer to the same question.
    const Slip* otherAnswer(const Slip& slip) const;
    void submit();
    void showHint();
    Document& document_;
    ViewState& view_;
    ReadingEntry& entry_;
    QLabel* summary_;
    WrappedLabel* asked_;
    WrappedLabel* hint_;
    QLineEdit* line_;
    QString entered_;  ///< what stands in the line without having been typed
    Notebook* notebook_;
    QComboBox* instrument_;
    QComboBox* specimen_;
    QCheckBox* fromBelow_;
    QWidget* slipCard_;
    WrappedLabel* slipWords_;
    QPushButton* mend_;
    QPushButton* keepSlip_;
    std::vector<std::string> putOff_;  ///< words of slips that the user does not want to see again
    int adviceAt_ = 0;
    QWidget* adviceCard_;
    QPushButton* otherAdvice_;
    QLabel* adviceTitle_;
    WrappedLabel* adviceWords_;
    QPushButton* take_;
    QPushButton* keep_;
};

}  // namespace punch
