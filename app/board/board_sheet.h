#pragma once
// The trial board as a drawing: parts are taken and moved on it, turned by the wheel with Shift, seen from either side.
// What is wrong is marked where it is.

#include <QPainterPath>
#include <QWidget>
#include <memory>

#include "app/board/board_model.h"
#include "app/view_state.h"

namespace punch {

class BoardSheet : public QWidget {
    Q_OBJECT
public:
    BoardSheet(BoardModel& model, ViewState& view, QWidget* parent = nullptr);
    void fit();
    const std::string& chosen() const { return chosen_; }
    void choose(const std::string& id);
    bool fromBelow() const { return below_; }
    void setBelow(bool below);
    /// A finding that is pointed at; -1 for none.
    void light(int finding);
    QPointF map(Point p) const;
    Point unmap(QPointF at) const;
    /// The chosen thing elsewhere, by mm.
    void nudge(double dx, double dy);
    void turnChosen(double degrees);
    void turnOver();
    void removeChosen();
    QSize sizeHint() const override { return {640, 480}; }

signals:
    void chosenChanged();
    void partDropped(const QString& file, punch::Point at);
    void partWanted(const std::string& id);  ///< on the bench

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    /// A part's shapes as paths in mm of its own frame, y up, by what they are.
    struct Drawn {
        std::shared_ptr<const BoardPart> of;
        QPainterPath body, copperTop, copperBottom, holes, bare, inkTop, inkBottom, courtyardTop, courtyardBottom,
            keepouts;
    };
    const Drawn& drawnOf(const std::shared_ptr<const BoardPart>& part);
    void paintGraph(QPainter& p);
    void paintPart(QPainter& p, std::size_t index);
    void paintFindings(QPainter& p);
    void paintScale(QPainter& p);
    QTransform toScreen() const;
    std::string thingAt(QPointF at) const;
    Point placeOf(const std::string& id) const;
    void moveTo(const std::string& id, Point at, bool dragging);
    BoardModel& model_;
    ViewState& view_;
    std::map<const BoardPart*, Drawn> drawn_;
    double scale_ = 6;
    QPointF shift_, press_, last_;
    Point grabbed_;  ///< from the thing's place to the mouse
    std::string chosen_;
    bool below_ = false, moving_ = false, panning_ = false;
    int lit_ = -1, drags_ = 0;
};

}  // namespace punch
