#pragma once
// "Will it drop in?": the share, how sure it is, where the spare room lies, what costs most, and which hole would do.

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/document.h"
#include "app/side/drop_in_work.h"
#include "app/view_state.h"

class QCustomPlot;

namespace punch {

class DropInView : public QWidget {
    Q_OBJECT
public:
    DropInView(Document& document, ViewState& view, DropInWork& work, QWidget* parent = nullptr);

private:
    void refresh();
    void plot(const DropInReport& report);
    void takeHole();
    /// The hole that would let enough in, where one was asked for and found.
    const LeastHole* wanted() const;
    Document& document_;
    ViewState& view_;
    DropInWork& work_;
    QLabel* trials_;
    QLabel* share_;
    QLabel* band_;
    QCustomPlot* plot_;
    QLabel* words_;
    QPushButton* take_;
};

}  // namespace punch
