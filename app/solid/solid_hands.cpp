// What the mouse and the keys do in space: orbit and pan, drag the cut and what moves, measure, point, seat.

#include <QMouseEvent>
#include <cmath>

#include "app/qt_text.h"
#include "app/solid/solid_view.h"

namespace punch {
namespace {

constexpr double kGrip = 16;      // pixels around a handle
constexpr double kEdgeReach = 7;  // pixels beside an edge

}  // namespace

std::optional<SolidView::Met> SolidView::meet(QPointF at) const {
    if (!document_.open()) return {};
    const SpaceCamera c = camera();
    const Vec3 away = c.away(), from = c.behind(at.x(), at.y()) - 500.0 * away;
    const Pose up{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, lift_}};
    std::function<bool(Vec3)> keeps;
    if (const auto plane = cut()) keeps = [p = *plane](Vec3 place) { return p.keeps(place); };
    std::optional<Met> best;
    const auto offer = [&](const std::shared_ptr<const Solid>& solid, const Pose& pose, const BodyFilter& which,
                           int mover) {
        const auto hit = pick(*solid, pose, from, away, keeps, which);
        if (!hit || (best && best->face.far <= hit->far)) return;
        best = Met{{}, solid->faces[hit->face].body, solid, pose, *hit, mover};
    };
    const auto all = [&](const std::string& of, const std::shared_ptr<const Solid>& solid, const Pose& pose,
                         const std::function<int(int)>& moverOf) {
        const auto before = best;
        offer(
            solid, pose, [&](int body) { return moverOf(body) < 0; }, -1);
        for (std::size_t i = 0; i < scene_.movers.size(); ++i)
            offer(
                solid, after(after(up, scene_.movers[i].motion.pose(moved(i))), after(inverse(up), pose)),
                [&](int body) { return moverOf(body) == static_cast<int>(i); }, static_cast<int>(i));
        if (best && (!before || best->face.far < before->face.far)) best->of = of;
    };
    for (const StandingSolid& s : document_.footprint().solids)
        if (const auto mesh = work_.mesh(s.id))
            all(s.id, mesh, after(up, s.pose), [&](int body) {
                for (std::size_t i = 0; i < scene_.movers.size(); ++i)
                    if (scene_.movers[i].of == s.id && scene_.movers[i].body == body) return static_cast<int>(i);
                return -1;
            });
    if (const auto pieces = work_.pieces()) {
        const auto markOf = [&](int body) -> std::string {
            const int of = pieces->bodies[static_cast<std::size_t>(body)].of;
            const auto& marked = work_.marked();
            return of >= 0 && static_cast<std::size_t>(of) < marked.size() ? marked[static_cast<std::size_t>(of)].mark
                                                                           : std::string();
        };
        all("pieces", pieces, up, [&](int body) {
            for (std::size_t i = 0; i < scene_.movers.size(); ++i)
                if (scene_.movers[i].body < 0 && scene_.movers[i].of == markOf(body)) return static_cast<int>(i);
            return -1;
        });
        if (best && best->of == "pieces") best->of = markOf(best->body);
    }
    return best;
}

std::optional<SpaceThing> SolidView::thingAt(QPointF at) const {
    const auto met = meet(at);
    if (!met) return {};
    if (const auto edge = edgeNear(*met->solid, met->pose, met->face, kEdgeReach / camera_.scale)) return edge;
    return thingOf(met->solid->faces[met->face.face], met->pose, met->face.at);
}

std::optional<QPointF> SolidView::cutHandle() const {
    const auto plane = cut();
    if (!plane) return {};
    // At the middle of the plane's side that is nearest to who looks, over the body.
    Vec3 p = 0.5 * (scene_.box.low + scene_.box.high);
    p.z = scene_.box.high.z + lift_;
    if (plane->axis == 0) p.x = plane->at;
    if (plane->axis == 1) p.y = plane->at;
    if (plane->axis == 2) {
        p.z = plane->at;
        p.x = scene_.box.high.x;
    }
    return onScreen(p);
}

/// Along the screen as far as the plane moves there.
void SolidView::dragCut(QPointF by) {
    const Vec3 axis = cutAxis_ == 0 ? Vec3{1, 0, 0} : cutAxis_ == 1 ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
    const QPointF o = onScreen({}), e = onScreen(axis);
    const QPointF way = e - o;
    const double length2 = way.x() * way.x() + way.y() * way.y();
    // Seen along the axis it follows the mouse up and down.
    const double mm = length2 > 4 ? (by.x() * way.x() + by.y() * way.y()) / length2 : -by.y() / camera_.scale;
    const Vec3 size = scene_.box.size() + Vec3{0, 0, lift_};
    const double whole = cutAxis_ == 0 ? -size.x : cutAxis_ == 1 ? size.y : -size.z;
    if (whole != 0) setCut(std::clamp(cut_ + mm / whole, 0.001, 1.0));
}

void SolidView::dragMover(QPointF from, QPointF to) {
    if (mover_ >= scene_.movers.size()) return;
    const Motion& m = scene_.movers[mover_].motion;
    const double low = std::min(m.from, m.to), high = std::max(m.from, m.to);
    if (!m.turns) {
        const QPointF way = onScreen(unit(m.axis)) - onScreen({});
        const double length2 = way.x() * way.x() + way.y() * way.y();
        if (length2 < 1) return;
        const QPointF by = to - from;
        setMoved(mover_, std::clamp(moved(mover_) + (by.x() * way.x() + by.y() * way.y()) / length2, low, high));
        return;
    }
    // About the axis as it is seen; where it lies across the picture, up and down turns it.
    const double facing = dot(unit(m.axis), camera().away());
    double degrees = 0;
    if (std::abs(facing) > 0.25) {
        const QPointF o = onScreen(m.at + Vec3{0, 0, lift_});
        const QPointF a = from - o, b = to - o;
        if (std::hypot(a.x(), a.y()) < 4 || std::hypot(b.x(), b.y()) < 4) return;
        // y runs down on the screen; towards who looks counter-clockwise is positive.
        degrees = std::remainder(std::atan2(-b.y(), b.x()) - std::atan2(-a.y(), a.x()), 2 * M_PI) * 180 / M_PI;
        if (facing > 0) degrees = -degrees;
    } else {
        const QPointF way = onScreen(unit(m.axis)) - onScreen({});
        const double length = std::max(std::hypot(way.x(), way.y()), 1e-6);
        const QPointF by = to - from;
        // Across the axis: what is near moves with the mouse.
        degrees = (by.x() * -way.y() + by.y() * way.x()) / length * 0.6;
    }
    setMoved(mover_, std::clamp(moved(mover_) + degrees, low, high));
}

void SolidView::setMeasuring(bool on) {
    measuring_ = on;
    things_.clear();
    measure_.reset();
    measureChip_->setChecked(on);
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
}

void SolidView::mousePressEvent(QMouseEvent* event) {
    press_ = last_ = event->position();
    dragged_ = false;
    held_ = Held::View;
    setFocus();
    if (event->button() != Qt::LeftButton || !document_.open() || measuring_) return;
    const auto near = [&](std::optional<QPointF> p) {
        return p && std::hypot(p->x() - press_.x(), p->y() - press_.y()) < kGrip;
    };
    if (near(cutHandle())) {
        held_ = Held::Cut;
        return;
    }
    if (!scene_.movers.empty() && !(event->modifiers() & Qt::ShiftModifier))
        if (const auto met = meet(press_); met && met->mover >= 0) {
            mover_ = static_cast<std::size_t>(met->mover);
            held_ = Held::Mover;
            showMover();
        }
}

void SolidView::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() == Qt::NoButton) return;
    const QPointF before = last_, d = event->position() - last_;
    if (const QPointF off = event->position() - press_; std::hypot(off.x(), off.y()) > 3) dragged_ = true;
    if (!dragged_) return;
    // Words follow when it rests: drawing them anew each time is what costs most.
    if (held_ == Held::View) words_->hide();
    last_ = event->position();
    if (held_ == Held::Cut) return dragCut(d);
    if (held_ == Held::Mover) return dragMover(before, last_);
    if (event->buttons() & Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier)) {
        camera_.yaw = std::remainder(camera_.yaw - d.x() * 0.4, 360.0);
        camera_.pitch = std::clamp(camera_.pitch + d.y() * 0.4, -90.0, 90.0);
    } else {
        camera_.middle = camera_.middle - camera().along(d.x(), d.y());
    }
    update();
}

void SolidView::mouseReleaseEvent(QMouseEvent* event) {
    held_ = Held::Nothing;
    words_->show();
    update();
    if (!dragged_ && event->button() == Qt::LeftButton && document_.open()) clicked(press_);
}

void SolidView::clicked(QPointF at) {
    if (const std::string wanted = work_.faceWanted(); !wanted.empty()) {
        const auto met = meet(at);
        if (!met || met->of != wanted) return view_.say(tr("Click at a flat face of the body; Esc leaves it"));
        work_.wantFace({});
        return work_.seatOn(wanted, met->face.face);
    }
    if (measuring_) {
        const auto thing = thingAt(at);
        if (!thing) return view_.say(tr("There is no face of the body: click at one"));
        if (things_.size() == 2) things_.clear();
        things_.push_back(*thing);
        measure_.reset();
        if (things_.size() == 2) measure_ = measured(things_[0], things_[1]);
        update();
        return;
    }
    // A click points at the nearest lead or pad, else at the body there.
    FeatureId best;
    double least = 22;
    const auto offer = [&](const FeatureId& id, Vec3 place) {
        const QPointF s = onScreen(place);
        if (const double d = std::hypot(s.x() - at.x(), s.y() - at.y()); d < least && !id.empty()) {
            least = d;
            best = id;
        }
    };
    const Footprint& f = document_.footprint();
    for (const Pad& p : f.pads)
        for (const double z : {0.0, lift_ - 1, lift_ - 2}) offer(p.id, {p.at.x.mm(), p.at.y.mm(), z});
    for (const BareHole& h : f.bareHoles) offer(h.id, {h.at.x.mm(), h.at.y.mm(), 0});
    view_.choose(best, {});
    std::string mark;
    if (best.empty())
        if (const auto met = meet(at); met && markById(document_.part(), met->of) != nullptr) mark = met->of;
    view_.setMark(mark);
    stale_ = true;
    update();
}

void SolidView::mouseDoubleClickEvent(QMouseEvent*) {
    if (!measuring_) fit();
}

void SolidView::wheelEvent(QWheelEvent* event) {
    const double k = std::exp(event->angleDelta().y() / 800.0);
    const double next = std::clamp(camera_.scale * k, 0.5, 2000.0);
    // What is under the mouse stays there.
    const SpaceCamera before = camera();
    const Vec3 there = before.behind(event->position().x(), event->position().y());
    camera_.scale = next;
    const Vec3 then = camera().behind(event->position().x(), event->position().y());
    camera_.middle = camera_.middle + there - then;
    update();
}

void SolidView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left: camera_.yaw += 5; break;
        case Qt::Key_Right: camera_.yaw -= 5; break;
        case Qt::Key_Up: camera_.pitch = std::min(camera_.pitch + 5, 90.0); break;
        case Qt::Key_Down: camera_.pitch = std::max(camera_.pitch - 5, -90.0); break;
        case Qt::Key_Plus: camera_.scale *= 1.2; break;
        case Qt::Key_Minus: camera_.scale /= 1.2; break;
        case Qt::Key_Escape:
            if (measuring_ || !work_.faceWanted().empty()) {
                setMeasuring(false);
                work_.wantFace({});
                break;
            }
            [[fallthrough]];
        default: QOpenGLWidget::keyPressEvent(event); return;
    }
    update();
}

}  // namespace punch
