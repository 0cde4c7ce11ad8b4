#pragma once
// The gauges along the bottom: each with its state, its margin in words and as a place on a plug gauge. A click, or
// Enter on the focused one, goes to the culprit.

#include <QWidget>

#include "app/document.h"
#include "app/rail_layout.h"
#include "app/view_state.h"

namespace punch {

class GaugeRail : public QWidget {
    Q_OBJECT
public:
    GaugeRail(Document& document, ViewState& view, QWidget* parent = nullptr);
    QSize sizeHint() const override;
    QRect gaugeBox(int index) const;

signals:
    void culpritsWanted(int gauge);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    bool event(QEvent*) override;

private:
    int gaugeAt(QPoint at) const;
    std::vector<RailPlace> places() const;
    void paintLarge(QPainter& p, const Gauge& g, const QRect& box, bool hot);
    void paintSmall(QPainter& p, const Gauge& g, const QRect& box, bool hot);
    QString tip(const Gauge& g) const;
    Document& document_;
    ViewState& view_;
    int hot_ = -1;
    int focused_ = 0;
};

}  // namespace punch
