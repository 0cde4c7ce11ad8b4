#include "app/solid/solid_view.h"

#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <QPainter>
#include <cmath>
#include <cstddef>
#include <functional>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

const char* const kVertexShader = R"(
    #version 120
    attribute vec3 place; attribute vec3 normal; attribute vec4 colour;
    uniform mat4 matrix; uniform mat4 body; uniform mat3 turn;
    varying vec3 n; varying vec4 c; varying vec3 at;
    void main() {
        vec4 p = body * vec4(place, 1.0);
        gl_Position = matrix * p;
        n = turn * mat3(body) * normal; c = colour; at = p.xyz;
    })";

// Light from over the left shoulder, on both sides of a face; paper takes no shine. Only where something is cut away it
// has to be asked for: what may be discarded is drawn later and slower.
const char* const kFragmentShader = R"(
    #version 120
    varying vec3 n; varying vec4 c; varying vec3 at;
    uniform float lit; uniform vec4 cut;
    void main() {
        %1
        float l = 1.0;
        if (lit > 0.5) {
            vec3 m = normalize(n);
            if (m.z < 0.0) m = -m;
            l = 0.62 + 0.30 * max(dot(m, normalize(vec3(-0.4, 0.55, 0.75))), 0.0) + 0.12 * m.z;
        }
        gl_FragColor = vec4(c.rgb * l, c.a);
    })";

/// Words and marks over the picture, drawn as everywhere else.
class Words : public QWidget {
public:
    Words(std::function<void(QPainter&)> draw, QWidget* parent) : QWidget(parent), draw_(std::move(draw)) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        setAttribute(Qt::WA_NoSystemBackground);
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        draw_(p);
    }

private:
    std::function<void(QPainter&)> draw_;
};

QMatrix4x4 matrixOf(const Pose& p) {
    const auto f = [](double v) { return static_cast<float>(v); };
    return {f(p.x.x), f(p.y.x), f(p.z.x), f(p.move.x), f(p.x.y), f(p.y.y), f(p.z.y), f(p.move.y),
            f(p.x.z), f(p.y.z), f(p.z.z), f(p.move.z), 0,        0,        0,        1};
}

Pose lifted(double by) { return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, by}}; }

}  // namespace

SolidView::SolidView(Document& document, ViewState& view, SolidWork& work, QWidget* parent)
    : QOpenGLWidget(parent), document_(document), view_(view), work_(work) {
    setObjectName("solidView");
    setMinimumSize(300, 200);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    QSurfaceFormat format;
    format.setDepthBufferSize(24);
    // Edges are made smooth when the view rests: without a graphics card that costs as much as all the rest.
    format.setSamples(0);
    setFormat(format);
    words_ = new Words([this](QPainter& p) { overlay(p); }, this);
    makeControls();
    const auto again = [this] {
        stale_ = true;
        update();
    };
    connect(&document_, &Document::changed, this, again);
    connect(&view_, &ViewState::chosenChanged, this, again);
    connect(&view_, &ViewState::unitChanged, this, again);
    connect(&work_, &SolidWork::changed, this, again);
}

SolidView::~SolidView() {
    if (context() == nullptr) return;
    makeCurrent();
    std::vector<DrawnLayer*> all = {&copper_, &board_, &leads_, &body_, &section_};
    for (const auto* list : {&movers_, &leftOver_})
        for (const auto& m : *list) all.push_back(m.get());
    for (DrawnLayer* d : all) {
        d->corners.destroy();
        d->triangles.destroy();
        d->lines.destroy();
    }
    smooth_.reset();
    whole_.removeAllShaders();
    cutting_.removeAllShaders();
    doneCurrent();
}

void SolidView::initializeGL() {
    initializeOpenGLFunctions();
    works_ = true;
    for (auto* program : {&whole_, &cutting_})
        works_ =
            works_ && program->addShaderFromSourceCode(QOpenGLShader::Vertex, kVertexShader) &&
            program->addShaderFromSourceCode(
                QOpenGLShader::Fragment,
                QString(kFragmentShader).arg(program == &cutting_ ? "if (dot(at, cut.xyz) < cut.w) discard;" : "")) &&
            program->link();
    stale_ = true;
}

SpaceCamera SolidView::camera() const {
    SpaceCamera c = camera_;
    c.width = std::max(width(), 1);
    c.height = std::max(height(), 1);
    return c;
}

void SolidView::look(SeenFrom from) {
    camera_.look(from);
    fit();
}

std::optional<SpaceCut> SolidView::cut() const {
    if (cut_ <= 0 || scene_.box.empty) return {};
    const Vec3 low = scene_.box.low, high = scene_.box.high + Vec3{0, 0, lift_};
    if (cutAxis_ == 1) return SpaceCut{1, low.y + cut_ * (high.y - low.y), false};
    if (cutAxis_ == 0) return SpaceCut{0, high.x - cut_ * (high.x - low.x), true};
    return SpaceCut{2, high.z - cut_ * (high.z - low.z), true};
}

double SolidView::moved(std::size_t mover) const {
    if (mover >= scene_.movers.size()) return 0;
    const SceneMover& m = scene_.movers[mover];
    const auto it = moved_.find({m.of, m.body});
    return std::clamp(it == moved_.end() ? 0 : it->second, std::min(m.motion.from, m.motion.to),
                      std::max(m.motion.from, m.motion.to));
}

void SolidView::setMoved(std::size_t mover, double by) {
    if (mover >= scene_.movers.size()) return;
    const SceneMover& m = scene_.movers[mover];
    moved_[{m.of, m.body}] = by;
    mover_ = mover;
    showMover();
    update();
}

QMatrix4x4 SolidView::matrix() const {
    const auto w = static_cast<float>(std::max(width(), 1)), h = static_cast<float>(std::max(height(), 1));
    QMatrix4x4 m;
    const float s = static_cast<float>(camera_.scale);
    // Depth for a few hundred mm.
    m.ortho(-w / 2 / s, w / 2 / s, -h / 2 / s, h / 2 / s, -600, 600);
    Pose pose = camera_.turn();
    pose.move = -pose.turned(camera_.middle);
    return m * matrixOf(pose);
}

QPointF SolidView::onScreen(Vec3 p) const {
    const Vec3 s = camera().seen(p);
    return {s.x, s.y};
}

void SolidView::fit() {
    SpaceCamera c = camera();
    c.fit(scene_.box, 60, 130);
    camera_ = c;
    camera_.scale = std::min(camera_.scale, 400.0);
    update();
}

void SolidView::refresh() {
    stale_ = false;
    if (!document_.open()) return;
    std::vector<std::shared_ptr<const Solid>> meshes;
    for (const StandingSolid& s : document_.footprint().solids) meshes.push_back(work_.mesh(s.id));
    const bool empty = scene_.box.empty;
    FeatureId chosen = view_.first();
    if (chosen.empty()) chosen = view_.mark();
    scene_ = sceneOf(document_.part(), document_.footprint(), meshes, {work_.pieces(), work_.marked()}, chosen);
    upload(copper_, scene_.copper);
    upload(board_, scene_.board);
    upload(leads_, scene_.leads);
    upload(body_, scene_.body);
    while (movers_.size() < scene_.movers.size()) movers_.push_back(std::make_unique<DrawnLayer>());
    for (std::size_t i = 0; i < scene_.movers.size(); ++i) upload(*movers_[i], scene_.movers[i].layer);
    sectionStale_ = true;
    showMover();
    const int begun =
        document_.begun() * 1000 +
        static_cast<int>(std::count_if(meshes.begin(), meshes.end(), [](const auto& m) { return m != nullptr; }));
    if (empty || begun != begun_) fit();
    begun_ = begun;
}

/// Where the plane cuts through bodies they are filled.
void SolidView::refreshSection() {
    sectionStale_ = false;
    SceneLayer layer;
    if (const auto plane = cut()) {
        const Footprint& f = document_.footprint();
        for (const StandingSolid& s : f.solids)
            if (const auto mesh = work_.mesh(s.id)) addSection(layer, *mesh, after(lifted(lift_), s.pose), *plane);
        if (const auto pieces = work_.pieces()) addSection(layer, *pieces, lifted(lift_), *plane);
    }
    upload(section_, layer);
}

void SolidView::upload(DrawnLayer& to, const SceneLayer& layer) {
    const auto put = [](QOpenGLBuffer& buffer, const auto& all) {
        if (!buffer.isCreated()) buffer.create();
        buffer.bind();
        buffer.allocate(all.data(), static_cast<int>(all.size() * sizeof(all.front())));
        buffer.release();
    };
    put(to.corners, layer.corners);
    put(to.triangles, layer.triangles);
    put(to.lines, layer.lines);
    to.triangleCount = static_cast<int>(layer.triangles.size());
    to.lineCount = static_cast<int>(layer.lines.size());
}

void SolidView::draw(DrawnLayer& layer, bool lines, const Pose& place, bool lit, bool isCut) {
    QOpenGLBuffer& buffer = lines ? layer.lines : layer.corners;
    const int count = lines ? layer.lineCount : layer.triangleCount;
    if (count == 0) return;
    buffer.bind();
    const auto attribute = [&](const char* name, GLenum type, std::size_t offset, int size) {
        program_->enableAttributeArray(name);
        program_->setAttributeBuffer(name, type, static_cast<int>(offset), size, sizeof(SceneVertex));
    };
    attribute("place", GL_FLOAT, offsetof(SceneVertex, x), 3);
    attribute("normal", GL_FLOAT, offsetof(SceneVertex, nx), 3);
    attribute("colour", GL_UNSIGNED_BYTE, offsetof(SceneVertex, r), 4);
    program_->setUniformValue("body", matrixOf(place));
    program_->setUniformValue("lit", lit ? 1.0F : 0.0F);
    QVector4D plane(0, 0, 0, -1);
    if (const auto c = isCut ? cut() : std::nullopt) {
        const Vec3 n = c->normal();
        plane = QVector4D(static_cast<float>(n.x), static_cast<float>(n.y), static_cast<float>(n.z),
                          static_cast<float>(c->beyond ? -c->at : c->at));
    }
    program_->setUniformValue("cut", plane);
    if (lines) {
        glDrawArrays(GL_LINES, 0, count);
    } else {
        layer.triangles.bind();
        glDrawElements(GL_TRIANGLES, count, GL_UNSIGNED_INT, nullptr);
        layer.triangles.release();
    }
    buffer.release();
}

void SolidView::paintGL() {
    ++pictures_;
    if (stale_ && works_) refresh();
    if (sectionStale_ && works_ && document_.open()) refreshSection();
    const QSize pixels = size() * devicePixelRatio();
    const bool smooth = works_ && held_ == Held::Nothing && QOpenGLFramebufferObject::hasOpenGLFramebufferBlit();
    if (smooth && (!smooth_ || smooth_->size() != pixels)) {
        QOpenGLFramebufferObjectFormat wanted;
        wanted.setAttachment(QOpenGLFramebufferObject::Depth);
        wanted.setSamples(4);
        smooth_ = std::make_unique<QOpenGLFramebufferObject>(pixels, wanted);
    }
    if (smooth) smooth_->bind();
    glViewport(0, 0, pixels.width(), pixels.height());
    glClearColor(static_cast<float>(theme::kPaper.redF()), static_cast<float>(theme::kPaper.greenF()),
                 static_cast<float>(theme::kPaper.blueF()), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    if (works_ && document_.open()) {
        glEnable(GL_DEPTH_TEST);
        glEnable(GL_BLEND);
        // The picture itself stays opaque, or the window behind would shine through.
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
        glDisable(GL_CULL_FACE);
        program_ = cut() ? &cutting_ : &whole_;
        program_->bind();
        program_->setUniformValue("matrix", matrix());
        program_->setUniformValue("turn", matrixOf(camera_.turn()).normalMatrix());
        const Pose still, up = lifted(lift_);
        // What is solid first; then what is seen through, without hiding what is behind it.
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(1, 1);
        draw(section_, false, still, false, false);
        draw(leads_, false, up, true);
        draw(copper_, false, still, true);
        glDisable(GL_POLYGON_OFFSET_FILL);
        draw(section_, true, still, false, false);
        draw(leads_, true, up, false);
        draw(copper_, true, still, false);
        glDepthMask(GL_FALSE);
        const auto board = [&] {
            draw(board_, false, still, true);
            draw(board_, true, still, false);
        };
        const auto body = [&] {
            draw(body_, false, up, true);
            draw(body_, true, up, false);
            for (std::size_t i = 0; i < scene_.movers.size(); ++i) {
                const Pose at = after(up, scene_.movers[i].motion.pose(moved(i)));
                draw(*movers_[i], false, at, true);
                draw(*movers_[i], true, at, false);
            }
        };
        // From the far side to the near one.
        if (camera_.pitch < 0) {
            body();
            board();
        } else {
            board();
            body();
        }
        glDepthMask(GL_TRUE);
        for (const char* name : {"place", "normal", "colour"}) program_->disableAttributeArray(name);
        program_->release();
        glDisable(GL_DEPTH_TEST);
    }
    if (smooth) {
        smooth_->release();
        const QRect all(QPoint(), pixels);
        // To the widget's own, which is the default one here.
        QOpenGLFramebufferObject::blitFramebuffer(nullptr, all, smooth_.get(), all);
    }
    if (words_->isVisible()) words_->update();
}

Result<Drawn> SolidView::picture(int w, int h) {
    if (!document_.open()) return problem("no part is on the bench");
    if (scene_.box.empty || stale_) {
        // It was not looked at yet.
        std::vector<std::shared_ptr<const Solid>> meshes;
        for (const StandingSolid& s : document_.footprint().solids) meshes.push_back(work_.mesh(s.id));
        scene_ = sceneOf(document_.part(), document_.footprint(), meshes, {work_.pieces(), work_.marked()}, {});
        stale_ = true;
    }
    SpaceCamera c = camera();
    const double share = std::min(1.0 * w / c.width, 1.0 * h / c.height);
    c.scale *= share;
    c.width = w;
    c.height = h;
    SpaceLook how{lift_, cut(), {}};
    for (std::size_t i = 0; i < scene_.movers.size(); ++i) how.moved.push_back(moved(i));
    return drawn(scene_, c, how);
}

void SolidView::resizeEvent(QResizeEvent* event) {
    QOpenGLWidget::resizeEvent(event);
    placeControls();
    if (works_) fit();
}

void SolidView::placeControls() {
    words_->setGeometry(rect());
    views_->adjustSize();
    views_->move(theme::em(), theme::em() / 2);
    controls_->adjustSize();
    controls_->move((width() - controls_->width()) / 2, height() - controls_->height() - theme::em());
}

}  // namespace punch
