#pragma once
// The board and the body in space: turned with the mouse, lifted off, cut open, moved through its range, measured.
//
// What is shown is of our own making on OpenGL 2.1, which Mesa draws without a graphics card. Where there is no OpenGL
// it says so, and section and sheet still do their work. Drawing: solid_view.cpp; chips and sliders:
// solid_controls.cpp; hands: solid_hands.cpp; words over it: solid_words.cpp.

#include <QMatrix4x4>
#include <QOpenGLBuffer>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <QOpenGLWidget>
#include <QSlider>
#include <memory>

#include "app/document.h"
#include "app/solid/solid_work.h"
#include "app/view_state.h"
#include "core/body/drawn_scene.h"
#include "core/solid/pick.h"

class QLabel;
class QOpenGLFramebufferObject;
class QPushButton;

namespace punch {

class SolidView : public QOpenGLWidget, protected QOpenGLFunctions {
    Q_OBJECT
public:
    SolidView(Document& document, ViewState& view, SolidWork& work, QWidget* parent = nullptr);
    ~SolidView() override;

    /// Can this platform draw it at all? Where not, no window may hold one: Qt would end with it.
    static bool possible();
    static QString impossibleWords();
    void look(SeenFrom from);
    /// All of it is seen.
    void fit();
    /// The body lifted off, mm.
    void setLift(double mm);
    double lift() const { return lift_; }
    /// Cut away in front of a plane; 0 to 1 of the way through, 0 for whole. Axis 0 from the right, 1 from the front, 2
    /// from above.
    void setCut(double share);
    void setCutAxis(int axis);
    std::optional<SpaceCut> cut() const;
    /// Where the cutting plane is held, on the screen; beside it while nothing is cut.
    QPointF cutHandleAt() const { return cutHandle().value_or(QPointF(-1, -1)); }
    /// Where a place in space is on the screen, logical pixels.
    QPointF onScreen(Vec3 p) const;
    bool works() const { return works_; }
    /// Pictures since the view was made.
    int pictures() const { return pictures_; }
    /// What moves, and how far each was moved: degrees or mm.
    const std::vector<SceneMover>& movers() const { return scene_.movers; }
    double moved(std::size_t mover) const;
    void setMoved(std::size_t mover, double by);
    /// Two clicks at faces, edges or axes are measured.
    void setMeasuring(bool on);
    const std::optional<SpaceMeasure>& measure() const { return measure_; }
    /// As it is seen now, at another size; without words.
    Result<Drawn> picture(int width, int height);

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
    struct DrawnLayer {
        QOpenGLBuffer corners{QOpenGLBuffer::VertexBuffer}, triangles{QOpenGLBuffer::IndexBuffer},
            lines{QOpenGLBuffer::VertexBuffer};
        int triangleCount = 0, lineCount = 0;
    };
    /// A place on a body that was met by the mouse.
    struct Met {
        std::string of;  ///< the solid, or the mark
        int body = 0;
        std::shared_ptr<const Solid> solid;
        Pose pose;
        PickedFace face;
        int mover = -1;
    };
    enum class Held { Nothing, View, Cut, Mover };
    void makeControls();
    void refresh();
    void refreshSection();
    void upload(DrawnLayer& to, const SceneLayer& layer);
    void draw(DrawnLayer& layer, bool lines, const Pose& place, bool lit, bool cut = true);
    void showMover();
    void overlay(QPainter& p);
    void overlayMeasure(QPainter& p);
    void overlayMovers(QPainter& p);
    void tag(QPainter& p, QPointF at, const QString& words, const QColor& colour, QPointF to);
    QMatrix4x4 matrix() const;
    QString wordsOfLead(const StandingLead& lead) const;
    QString moverWords(const SceneMover& mover) const;
    void placeControls();
    std::optional<Met> meet(QPointF at) const;
    std::optional<SpaceThing> thingAt(QPointF at) const;
    /// The place by which the cutting plane is held, on the screen.
    std::optional<QPointF> cutHandle() const;
    void dragCut(QPointF by);
    void dragMover(QPointF from, QPointF to);
    void clicked(QPointF at);
    SpaceCamera camera() const;

    Document& document_;
    ViewState& view_;
    SolidWork& work_;
    SolidScene scene_;
    bool stale_ = true;
    bool works_ = false;
    QOpenGLShaderProgram whole_, cutting_;
    QOpenGLShaderProgram* program_ = nullptr;  ///< the one that draws now
    DrawnLayer copper_, board_, leads_, body_, section_;
    std::vector<std::unique_ptr<DrawnLayer>> movers_;
    std::vector<std::unique_ptr<DrawnLayer>> leftOver_;  ///< to be destroyed when there is a context
    std::unique_ptr<QOpenGLFramebufferObject> smooth_;   ///< with several samples of each pixel
    SpaceCamera camera_;
    std::map<std::pair<std::string, int>, double> moved_;
    double lift_ = 0, cut_ = 0;
    int cutAxis_ = 1;
    bool sectionStale_ = true;
    Held held_ = Held::Nothing;
    std::size_t mover_ = 0;  ///< that the slider moves
    bool measuring_ = false;
    std::vector<SpaceThing> things_;  ///< that were clicked
    std::optional<SpaceMeasure> measure_;
    QPointF press_, last_;
    bool dragged_ = false;
    int pictures_ = 0;
    int begun_ = -1;
    QSlider* liftSlider_;
    QSlider* cutSlider_;
    QSlider* moveSlider_;
    QPushButton* cutFrom_;
    QPushButton* measureChip_;
    QLabel* moveWords_;
    QWidget* words_;
    QWidget* controls_;
    QWidget* views_;
};

}  // namespace punch
