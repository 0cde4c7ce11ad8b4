#pragma once
// Measure: the entry line, the notebook, and what the readings say about the pitch.

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
    void takeOrReleasePitch();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void refresh();
    void refreshAdvice();
    void submit();
    void showHint();
    Document& document_;
    ViewState& view_;
    ReadingEntry& entry_;
    QLabel* summary_;
    WrappedLabel* asked_;
    WrappedLabel* hint_;
    QLineEdit* line_;
    Notebook* notebook_;
    QWidget* adviceCard_;
    QLabel* adviceTitle_;
    WrappedLabel* adviceWords_;
    QPushButton* take_;
    QPushButton* keep_;
};

}  // namespace punch
