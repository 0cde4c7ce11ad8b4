#include "app/board/board_space.h"

#include <QCoreApplication>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/board/board_picture.h"
#include "core/body/drawn_scene.h"

namespace punch {

BoardSpace::BoardSpace(BoardModel& model, QWidget* parent) : QWidget(parent), model_(model) {
    setObjectName("boardSpace");
    setAccessibleName(tr("Trial board in space"));
    setMinimumSize(200, 150);
    camera_.look(SeenFrom::Slanted);
    pool_.setMaxThreadCount(1);
    connect(&model_, &BoardModel::judgedNew, this, [this] {
        stale_ = true;
        // Bodies are read and meshed: once the hand rests.
        rest_.start();
    });
    rest_.setSingleShot(true);
    rest_.setInterval(250);
    connect(&rest_, &QTimer::timeout, this, &BoardSpace::begin);
}

BoardSpace::~BoardSpace() { pool_.waitForDone(); }

void BoardSpace::look(SeenFrom from) {
    camera_.look(from);
    zoom_ = 1;
    begin();
}

void BoardSpace::begin() {
    if (!isVisible() || width() < 16 || height() < 16) return;
    if (running_) {
        again_ = true;
        return;
    }
    running_ = true;
    again_ = false;
    SpaceCamera camera = camera_;
    camera.width = width();
    camera.height = height();
    std::shared_ptr<const LaidBoard> laid;
    if (stale_) laid = std::make_shared<const LaidBoard>(model_.laid());
    stale_ = false;
    pool_.start([this, camera, laid, scene = scene_, zoom = zoom_, folder = model_.folder().toStdString()]() mutable {
        std::vector<std::string> missing;
        if (laid) scene = std::make_shared<const SolidScene>(boardScene(*laid, folder, missing));
        QImage image;
        if (scene) {
            camera.fit(scene->box, 0.04 * camera.width, 0.06 * camera.height);
            camera.scale *= zoom;
            if (const auto picture = drawn(*scene, camera))
                image = QImage(picture->pixels.data(), picture->width, picture->height, 3 * picture->width,
                               QImage::Format_RGB888)
                            .copy();
        }
        QMetaObject::invokeMethod(
            this,
            [this, image, scene, missing, fresh = laid != nullptr] {
                running_ = false;
                image_ = image;
                scene_ = scene;
                if (fresh) {
                    missing_.clear();
                    for (const std::string& m : missing) missing_ << toQt(m);
                }
                ++pictures_;
                update();
                if (again_) begin();
            },
            Qt::QueuedConnection);
    });
}

void BoardSpace::settle() {
    begin();
    while (running_) {
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(this);
    }
}

void BoardSpace::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme::kPaper);
    if (!image_.isNull()) p.drawImage(QRect({0, 0}, size()), image_);
    p.setPen(theme::kQuiet);
    p.setFont(theme::text(0.85));
    if (!missing_.isEmpty())
        p.drawText(rect().adjusted(6, 4, -6, -4), Qt::AlignTop | Qt::TextWordWrap, missing_.join('\n'));
}

void BoardSpace::mousePressEvent(QMouseEvent* e) { last_ = e->position(); }

void BoardSpace::mouseMoveEvent(QMouseEvent* e) {
    const QPointF by = e->position() - last_;
    last_ = e->position();
    camera_.yaw += 0.5 * by.x();
    camera_.pitch = std::clamp(camera_.pitch + 0.5 * by.y(), -90.0, 90.0);
    begin();
}

void BoardSpace::wheelEvent(QWheelEvent* e) {
    zoom_ = std::clamp(zoom_ * std::pow(1.15, e->angleDelta().y() / 120.0), 0.2, 20.0);
    begin();
}

}  // namespace punch
