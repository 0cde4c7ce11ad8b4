#include "app/solid/solid_view.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QOpenGLContext>
#include <QPainter>
#include <QPushButton>
#include <cmath>
#include <cstddef>
#include <functional>

#include "app/qt_text.h"
#include "app/theme.h"

namespace punch {
namespace {

constexpr double kMostLift = 15;  // mm

const char* const kVertexShader = R"(
    #version 120
    attribute vec3 place; attribute vec3 normal; attribute vec4 colour;
    uniform mat4 matrix; uniform mat3 turn; uniform float up;
    varying vec3 n; varying vec4 c; varying float along;
    void main() {
        vec3 p = place + vec3(0.0, 0.0, up);
        gl_Position = matrix * vec4(p, 1.0);
        n = turn * normal; c = colour; along = p.y;
    })";

// Light from over the left shoulder, on both sides of a face; paper takes no shine.
const char* const kFragmentShader = R"(
    #version 120
    varying vec3 n; varying vec4 c; varying float along;
    uniform float lit; uniform float cut;
    void main() {
        if (along < cut) discard;
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

}  // namespace

SolidView::SolidView(Document& document, ViewState& view, SolidWork& work, QWidget* parent)
    : QOpenGLWidget(parent), document_(document), view_(view), work_(work) {
    setObjectName("solidView");
    setMinimumSize(300, 200);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    QSurfaceFormat format;
    format.setDepthBufferSize(24);
    format.setSamples(4);
    setFormat(format);
    words_ = new Words([this](QPainter& p) { overlay(p); }, this);
    views_ = new QWidget(this);
    auto* line = new QHBoxLayout(views_);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(theme::em() / 3);
    const auto chip = [&](const QString& words, const char* name, From from, const QString& tip) {
        auto* button = new QPushButton(words, views_);
        button->setObjectName(name);
        button->setProperty("role", "chip");
        button->setToolTip(tip);
        connect(button, &QPushButton::clicked, this, [this, from] { look(from); });
        line->addWidget(button);
    };
    chip(tr("Slanted"), "seenFree", From::Free, tr("From the front right, above"));
    chip(tr("Above"), "seenAbove", From::Above, tr("From the part side"));
    chip(tr("Below"), "seenBelow", From::Below, tr("From the solder side"));
    chip(tr("Front"), "seenFront", From::Front, tr("Along the board, from the front"));
    chip(tr("Right"), "seenRight", From::Right, tr("Along the board, from the right"));
    auto* flat = new QPushButton(tr("Flat"), views_);
    flat->setObjectName("toFlat");
    flat->setProperty("role", "chip");
    flat->setToolTip(tr("The sheet, as in the other stations"));
    connect(flat, &QPushButton::clicked, this, &SolidView::flatWanted);
    line->addWidget(flat);
    controls_ = new QWidget(this);
    controls_->setObjectName("solidControls");
    controls_->setAttribute(Qt::WA_StyledBackground);
    controls_->setStyleSheet(
        theme::styled("QWidget#solidControls { background: white; border: 1px solid @edge; border-radius: 11px; } "
                      "QLabel { color: @quiet; }"));
    auto* row = new QHBoxLayout(controls_);
    row->setContentsMargins(theme::em(), 2, theme::em(), 2);
    const auto slider = [&](const QString& words, const char* name, const QString& tip) {
        row->addWidget(new QLabel(words, controls_));
        auto* s = new QSlider(Qt::Horizontal, controls_);
        s->setObjectName(name);
        s->setRange(0, 1000);
        s->setToolTip(tip);
        s->setFixedWidth(theme::em() * 8);
        row->addWidget(s);
        return s;
    };
    liftSlider_ = slider(tr("lifted"), "solidLift", tr("Lifts the body off the board"));
    cutSlider_ = slider(tr("cut"), "solidCut", tr("Cuts away what is in front, from front to rear"));
    connect(liftSlider_, &QSlider::valueChanged, this, [this](int v) {
        lift_ = kMostLift * v / 1000;
        update();
    });
    connect(cutSlider_, &QSlider::valueChanged, this, [this](int v) {
        cut_ = v / 1000.0;
        update();
    });
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
    for (Drawn* d : {&copper_, &board_, &leads_, &body_}) {
        d->triangles.destroy();
        d->lines.destroy();
    }
    program_.removeAllShaders();
    doneCurrent();
}

void SolidView::initializeGL() {
    initializeOpenGLFunctions();
    works_ = program_.addShaderFromSourceCode(QOpenGLShader::Vertex, kVertexShader) &&
             program_.addShaderFromSourceCode(QOpenGLShader::Fragment, kFragmentShader) && program_.link();
    stale_ = true;
}

void SolidView::look(From from) {
    switch (from) {
        case From::Above: yaw_ = 0, pitch_ = 90; break;
        case From::Below: yaw_ = 0, pitch_ = -90; break;
        case From::Front: yaw_ = 0, pitch_ = 0; break;
        case From::Right: yaw_ = 90, pitch_ = 0; break;
        case From::Free: yaw_ = 28, pitch_ = 34; break;
    }
    fit();
}

void SolidView::setLift(double mm) { liftSlider_->setValue(static_cast<int>(std::lround(1000 * mm / kMostLift))); }

void SolidView::setCut(double share) { cutSlider_->setValue(static_cast<int>(std::lround(1000 * share))); }

QMatrix4x4 SolidView::turnMatrix() const {
    // Yaw about z, then tipped towards who looks: from above x is right and y up.
    QMatrix4x4 m;
    m.rotate(static_cast<float>(pitch_ - 90), 1, 0, 0);
    m.rotate(static_cast<float>(-yaw_), 0, 0, 1);
    return m;
}

QMatrix4x4 SolidView::matrix() const {
    const auto w = static_cast<float>(std::max(width(), 1)), h = static_cast<float>(std::max(height(), 1));
    QMatrix4x4 m;
    const float s = static_cast<float>(scale_);
    // Depth for a few hundred mm.
    m.ortho(-w / 2 / s, w / 2 / s, -h / 2 / s, h / 2 / s, -600, 600);
    m *= turnMatrix();
    m.translate(static_cast<float>(-middle_.x), static_cast<float>(-middle_.y), static_cast<float>(-middle_.z));
    return m;
}

QPointF SolidView::onScreen(Vec3 p) const {
    const QVector3D v =
        matrix().map(QVector3D(static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z)));
    return {(static_cast<double>(v.x()) + 1) / 2 * width(), (1 - static_cast<double>(v.y())) / 2 * height()};
}

void SolidView::fit() {
    const Box3& box = scene_.box;
    if (!box.empty) {
        middle_ = 0.5 * (box.low + box.high);
        const QMatrix4x4 turn = turnMatrix();
        double w = 1, h = 1;
        for (const double x : {box.low.x, box.high.x})
            for (const double y : {box.low.y, box.high.y})
                for (const double z : {box.low.z, box.high.z}) {
                    const QVector3D v =
                        turn.map(QVector3D(static_cast<float>(x - middle_.x), static_cast<float>(y - middle_.y),
                                           static_cast<float>(z - middle_.z)));
                    w = std::max(w, 2.0 * std::abs(v.x()));
                    h = std::max(h, 2.0 * std::abs(v.y()));
                }
        scale_ = std::min((width() - 60) / w, (height() - 130) / h);
        scale_ = std::clamp(scale_, 0.5, 400.0);
    }
    update();
}

void SolidView::refresh() {
    stale_ = false;
    if (!document_.open()) return;
    std::vector<std::shared_ptr<const Solid>> meshes;
    for (const StandingSolid& s : document_.footprint().solids) meshes.push_back(work_.mesh(s.id));
    const bool empty = scene_.box.empty;
    scene_ = sceneOf(document_.part(), document_.footprint(), meshes, work_.pieces().get(), view_.first());
    upload(copper_, scene_.copper);
    upload(board_, scene_.board);
    upload(leads_, scene_.leads);
    upload(body_, scene_.body);
    const int begun =
        document_.begun() * 1000 +
        static_cast<int>(std::count_if(meshes.begin(), meshes.end(), [](const auto& m) { return m != nullptr; }));
    if (empty || begun != begun_) fit();
    begun_ = begun;
}

void SolidView::upload(Drawn& to, const SceneLayer& layer) {
    const auto put = [](QOpenGLBuffer& buffer, const std::vector<SceneVertex>& all, int& count) {
        if (!buffer.isCreated()) buffer.create();
        buffer.bind();
        buffer.allocate(all.data(), static_cast<int>(all.size() * sizeof(SceneVertex)));
        buffer.release();
        count = static_cast<int>(all.size());
    };
    put(to.triangles, layer.triangles, to.triangleCount);
    put(to.lines, layer.lines, to.lineCount);
}

void SolidView::draw(Drawn& layer, bool lines, float shift, bool lit) {
    QOpenGLBuffer& buffer = lines ? layer.lines : layer.triangles;
    const int count = lines ? layer.lineCount : layer.triangleCount;
    if (count == 0) return;
    buffer.bind();
    const auto attribute = [&](const char* name, GLenum type, std::size_t offset, int size) {
        program_.enableAttributeArray(name);
        program_.setAttributeBuffer(name, type, static_cast<int>(offset), size, sizeof(SceneVertex));
    };
    attribute("place", GL_FLOAT, offsetof(SceneVertex, x), 3);
    attribute("normal", GL_FLOAT, offsetof(SceneVertex, nx), 3);
    attribute("colour", GL_UNSIGNED_BYTE, offsetof(SceneVertex, r), 4);
    program_.setUniformValue("up", shift);
    program_.setUniformValue("lit", lit ? 1.0F : 0.0F);
    glDrawArrays(lines ? GL_LINES : GL_TRIANGLES, 0, count);
    buffer.release();
}

void SolidView::paintGL() {
    ++pictures_;
    if (stale_ && works_) refresh();
    glClearColor(static_cast<float>(theme::kPaper.redF()), static_cast<float>(theme::kPaper.greenF()),
                 static_cast<float>(theme::kPaper.blueF()), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    if (works_ && document_.open()) {
        glEnable(GL_DEPTH_TEST);
        glEnable(GL_BLEND);
        // The picture itself stays opaque, or the window behind would shine through.
        glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
        glDisable(GL_CULL_FACE);
        program_.bind();
        program_.setUniformValue("matrix", matrix());
        program_.setUniformValue("turn", turnMatrix().normalMatrix());
        const double depth = scene_.box.empty ? 1 : scene_.box.high.y - scene_.box.low.y;
        program_.setUniformValue("cut", static_cast<float>(cut_ <= 0 ? -1e6 : scene_.box.low.y + cut_ * depth));
        const float up = static_cast<float>(lift_);
        // What is solid first; then what is seen through, without hiding what is behind it.
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(1, 1);
        draw(leads_, false, up, true);
        draw(copper_, false, 0, true);
        glDisable(GL_POLYGON_OFFSET_FILL);
        draw(leads_, true, up, false);
        draw(copper_, true, 0, false);
        glDepthMask(GL_FALSE);
        const bool fromBelow = pitch_ < 0;
        const auto board = [&] {
            draw(board_, false, 0, true);
            draw(board_, true, 0, false);
        };
        const auto body = [&] {
            draw(body_, false, up, true);
            draw(body_, true, up, false);
        };
        // From the far side to the near one.
        if (fromBelow) {
            body();
            board();
        } else {
            board();
            body();
        }
        glDepthMask(GL_TRUE);
        for (const char* name : {"place", "normal", "colour"}) program_.disableAttributeArray(name);
        program_.release();
        glDisable(GL_DEPTH_TEST);
    }
    words_->update();
}

QString SolidView::wordsOfLead(const StandingLead& lead) const {
    const QString who = lead.of.empty() ? tr("no hole")
                        : lead.peg      ? toQt(lead.name)
                                        : tr("lead %1").arg(toQt(lead.name));
    QStringList words{who};
    if (lead.gap)
        words << (*lead.gap < Length() ? tr("does not go in by %1").arg(view_.length(-*lead.gap, 3))
                                       : tr("%1 clear").arg(view_.length(*lead.gap, 3)));
    if (!lead.peg) words << tr("%1 out").arg(view_.length(lead.past, 2));
    return words.join(" · ");
}

void SolidView::tag(QPainter& p, QPointF at, const QString& words, const QColor& colour, QPointF to) {
    p.setFont(theme::text(0.9, true));
    QRectF box = QFontMetricsF(p.font()).boundingRect(words).adjusted(-9, -4, 9, 4);
    box.moveCenter(at);
    if (box.left() < 8) box.moveLeft(8);
    if (box.right() > width() - 8) box.moveRight(width() - 8);
    p.setPen(QPen(colour, 1.2));
    p.drawLine(to, QPointF(box.center().x(), to.y() < box.center().y() ? box.top() : box.bottom()));
    p.setBrush(theme::kPetrolPale);
    p.drawRoundedRect(box, box.height() / 2, box.height() / 2);
    p.setPen(colour);
    p.drawText(box, Qt::AlignCenter, words);
}

void SolidView::overlay(QPainter& p) {
    if (!works_) {
        p.setPen(theme::kInk);
        p.setFont(theme::text());
        p.drawText(
            rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
            tr("There is no OpenGL 2.1 here, so the body is not drawn in space. The section at the right, the sheet "
               "and the gauges do their work all the same."));
        return;
    }
    if (!document_.open()) return;
    const Footprint& f = document_.footprint();
    const double up = lift_;
    for (const StandingSolid& s : f.solids)
        for (const StandingLead& l : s.leads) {
            const bool chosen = !view_.first().empty() && l.of == view_.first();
            const bool wrong = (l.gap && *l.gap < Length()) || l.of.empty() || !l.counted;
            if (!chosen && !wrong) continue;
            const QPointF end = onScreen({l.at.x.mm(), l.at.y.mm(), up - 0.5 * scene_.boardThickness});
            tag(p, end + QPointF(60, pitch_ < 0 ? -70 : 84), wordsOfLead(l),
                wrong ? theme::kVermilionInk : theme::kPetrol, end);
        }
    // Numbers at their pads, where they are not too dense.
    p.setFont(theme::digits(0.85, true));
    std::vector<QPointF> taken;
    for (const Pad& pad : f.pads) {
        const QPointF at = onScreen({pad.at.x.mm(), pad.at.y.mm() - shownLand(pad).length.mm() / 2, 0}) +
                           QPointF(0, theme::em() * 0.7);
        if (std::any_of(taken.begin(), taken.end(),
                        [&](QPointF o) { return std::hypot(o.x() - at.x(), o.y() - at.y()) < theme::em() * 1.4; }))
            continue;
        taken.push_back(at);
        p.setPen(theme::kInk);
        p.drawText(QRectF(at.x() - 30, at.y() - theme::em() / 2.0, 60, theme::em()), Qt::AlignCenter, toQt(pad.number));
    }
    // Scale, and where rear and right are.
    double mm = 1;
    for (const double step : {0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0})
        if (step * scale_ < 130) mm = step;
    p.setPen(QPen(theme::kInk, 1.6));
    const QPointF a(18, height() - 14);
    p.drawLine(a, a + QPointF(mm * scale_, 0));
    p.setFont(theme::digits(0.9));
    p.drawText(QRectF(a + QPointF(4, -4 - theme::em()), QSizeF(160, theme::em())), Qt::AlignLeft | Qt::AlignVCenter,
               tr("%1 mm").arg(mm));
    if (!work_.busy().isEmpty()) {
        p.setFont(theme::text());
        p.setPen(theme::kPetrol);
        p.drawText(QRectF(0, theme::em() * 3, width(), theme::em() * 2), Qt::AlignCenter,
                   tr("%1 %2 %").arg(work_.busy()).arg(work_.share() * 100, 0, 'f', 0));
    }
    p.setFont(theme::text(0.85));
    const auto arrow = [&](Vec3 way, const QString& words, double row) {
        const QPointF o = onScreen(middle_), e = onScreen(middle_ + 3.0 * way);
        const double angle = std::atan2(e.y() - o.y(), e.x() - o.x());
        const double length = std::hypot(e.x() - o.x(), e.y() - o.y());
        const QPointF at(width() - 90, height() - 22 - row * theme::em() * 1.4);
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(at.x(), at.y() - theme::em() / 2.0, 50, theme::em()), Qt::AlignLeft | Qt::AlignVCenter,
                   words);
        if (length < 3) return;
        const QPointF from = at + QPointF(62, 0), d(12 * std::cos(angle), 12 * std::sin(angle));
        p.drawLine(from - d / 2, from + d / 2);
        p.drawEllipse(from + d / 2, 2, 2);
    };
    arrow({0, 1, 0}, tr("rear"), 1);
    arrow({1, 0, 0}, tr("right"), 0);
}

void SolidView::mousePressEvent(QMouseEvent* event) {
    press_ = last_ = event->position();
    dragged_ = false;
    setFocus();
}

void SolidView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() == Qt::NoButton) return;
    const QPointF d = event->position() - last_;
    last_ = event->position();
    if (std::hypot(last_.x() - press_.x(), last_.y() - press_.y()) > 3) dragged_ = true;
    if (!dragged_) return;
    if (event->buttons() & Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier)) {
        yaw_ = std::remainder(yaw_ - d.x() * 0.4, 360.0);
        pitch_ = std::clamp(pitch_ + d.y() * 0.4, -90.0, 90.0);
    } else {
        // Along the screen.
        const QMatrix4x4 back = turnMatrix().transposed();
        const QVector3D v =
            back.map(QVector3D(static_cast<float>(-d.x() / scale_), static_cast<float>(d.y() / scale_), 0));
        middle_ = middle_ + Vec3{v.x(), v.y(), v.z()};
    }
    update();
}

void SolidView::mouseReleaseEvent(QMouseEvent* event) {
    if (dragged_ || event->button() != Qt::LeftButton || !document_.open()) return;
    // A click points at the nearest lead or pad.
    FeatureId best;
    double least = 22;
    const auto offer = [&](const FeatureId& id, Vec3 at) {
        const QPointF s = onScreen(at);
        if (const double d = std::hypot(s.x() - press_.x(), s.y() - press_.y()); d < least && !id.empty()) {
            least = d;
            best = id;
        }
    };
    const Footprint& f = document_.footprint();
    for (const Pad& p : f.pads)
        for (const double z : {0.0, lift_ - 1, lift_ - 2}) offer(p.id, {p.at.x.mm(), p.at.y.mm(), z});
    for (const BareHole& h : f.bareHoles) offer(h.id, {h.at.x.mm(), h.at.y.mm(), 0});
    view_.choose(best, {});
}

void SolidView::mouseDoubleClickEvent(QMouseEvent*) { fit(); }

void SolidView::wheelEvent(QWheelEvent* event) {
    const double k = std::exp(event->angleDelta().y() / 800.0);
    const double next = std::clamp(scale_ * k, 0.5, 2000.0);
    // What is under the mouse stays there.
    const QPointF off = event->position() - QPointF(width() / 2.0, height() / 2.0);
    const double by = 1 / scale_ - 1 / next;
    const QVector3D v = turnMatrix().transposed().map(
        QVector3D(static_cast<float>(off.x() * by), static_cast<float>(-off.y() * by), 0));
    middle_ = middle_ + Vec3{v.x(), v.y(), v.z()};
    scale_ = next;
    update();
}

void SolidView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left: yaw_ += 5; break;
        case Qt::Key_Right: yaw_ -= 5; break;
        case Qt::Key_Up: pitch_ = std::min(pitch_ + 5, 90.0); break;
        case Qt::Key_Down: pitch_ = std::max(pitch_ - 5, -90.0); break;
        case Qt::Key_Plus: scale_ *= 1.2; break;
        case Qt::Key_Minus: scale_ /= 1.2; break;
        default: QOpenGLWidget::keyPressEvent(event); return;
    }
    update();
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
