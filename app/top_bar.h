#pragma once
// The top of the bench: the part's name, the stations in working order with their state, units, and the ask box.

#include <QButtonGroup>
#include <QWidget>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/ask_box.h"

namespace punch {

/// The state of a station: the worst of the gauges that its work decides.
GaugeState stationState(const Document& document, Station station);

class StationBar : public QWidget {
    Q_OBJECT
public:
    StationBar(Document& document, ViewState& view, QWidget* parent = nullptr);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }
    QRect stationBox(Station station) const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    int widthOf(Station station) const;
    Document& document_;
    ViewState& view_;
};

class TopBar : public QWidget {
    Q_OBJECT
public:
    TopBar(Document& document, ViewState& view, const std::vector<Command>& commands, QWidget* parent = nullptr);
    AskBox& askBox() { return *ask_; }
    StationBar& stations() { return *stations_; }

signals:
    void homeWanted();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    Document& document_;
    ViewState& view_;
    StationBar* stations_;
    AskBox* ask_;
    QButtonGroup* units_;
    QWidget* nameSpace_;
};

}  // namespace punch
