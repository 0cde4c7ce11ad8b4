#pragma once
// The trial board in space, drawn beside the window without OpenGL: turned by dragging, brought nearer by the wheel.

#include <QImage>
#include <QThreadPool>
#include <QTimer>
#include <QWidget>
#include <memory>

#include "app/board/board_model.h"
#include "core/body/scene.h"

namespace punch {

class BoardSpace : public QWidget {
    Q_OBJECT
public:
    explicit BoardSpace(BoardModel& model, QWidget* parent = nullptr);
    ~BoardSpace() override;
    void look(SeenFrom from);
    void settle();
    /// Counts the pictures that were drawn.
    int pictures() const { return pictures_; }
    QSize sizeHint() const override { return {320, 240}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void resizeEvent(QResizeEvent*) override { begin(); }
    void showEvent(QShowEvent*) override { begin(); }

private:
    void begin();
    BoardModel& model_;
    std::shared_ptr<const SolidScene> scene_;
    QImage image_;
    QStringList missing_;
    SpaceCamera camera_;
    double zoom_ = 1;
    QPointF last_;
    QThreadPool pool_;
    QTimer rest_;
    bool running_ = false, again_ = false, stale_ = true;
    int pictures_ = 0;
};

}  // namespace punch
