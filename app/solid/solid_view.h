#pragma once
// The board and the body in space: turned with the mouse, lifted off, cut open.
//
// What is shown is of our own making on OpenGL 2.1, which Mesa draws without a graphics card. Where there is no OpenGL
// it says so, and section and sheet still do their work.

#include <QOpenGLBuffer>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <QOpenGLWidget>
#include <QSlider>
#include <memory>

#include "app/document.h"
#include "app/solid/solid_scene.h"
#include "app/solid/solid_work.h"
#include "app/view_state.h"

class QPushButton;

namespace punch {

class SolidView : public QOpenGLWidget, protected QOpenGLFunctions {
    Q_OBJECT
public:
    enum class From { Above, Below, Front, Right, Free };

    SolidView(Document& document, ViewState& view, SolidWork& work, QWidget* parent = nullptr);
    ~SolidView() override;

    void look(From from);
    /// All of it is seen.
    void fit();
    /// The body lifted off, mm.
    void setLift(double mm);
    double lift() const { return lift_; }
    /// Cut away in front of a plane across y; 0 to 1 of the depth, 0 for whole.
    void setCut(double share);
    /// Where a place in space is on the screen, logical pixels.
    QPointF onScreen(Vec3 p) const;
    bool works() const { return works_; }
    /// Pictures since the view was made.
    int pictures() const { return pictures_; }

signals:
    void flatWanted();

protected:
    void initializeGL() override;
    void paintGL() override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    struct Drawn {
        QOpenGLBuffer triangles{QOpenGLBuffer::VertexBuffer}, lines{QOpenGLBuffer::VertexBuffer};
        int triangleCount = 0, lineCount = 0;
    };
    void refresh();
    void upload(Drawn& to, const SceneLayer& layer);
    void draw(Drawn& layer, bool lines, float shift, bool lit);
    void overlay(QPainter& p);
    void tag(QPainter& p, QPointF at, const QString& words, const QColor& colour, QPointF to);
    QMatrix4x4 turnMatrix() const;
    QMatrix4x4 matrix() const;
    QString wordsOfLead(const StandingLead& lead) const;
    void placeControls();

    Document& document_;
    ViewState& view_;
    SolidWork& work_;
    SolidScene scene_;
    bool stale_ = true;
    bool works_ = false;
    QOpenGLShaderProgram program_;
    Drawn copper_, board_, leads_, body_;
    double yaw_ = 28, pitch_ = 34;  ///< degrees
    double scale_ = 20;             ///< pixels per mm
    Vec3 middle_;                   ///< what is in the middle of the view
    double lift_ = 0, cut_ = 0;
    QPointF press_, last_;
    bool dragged_ = false;
    int pictures_ = 0;
    int begun_ = -1;
    QSlider* liftSlider_;
    QSlider* cutSlider_;
    QWidget* words_;
    QWidget* controls_;
    QWidget* views_;
};

}  // namespace punch
