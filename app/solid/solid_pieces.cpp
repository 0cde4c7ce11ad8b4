// Pieces that marks put on the part, made beside the window, and where what moves first touches.

#include "app/qt_text.h"
#include "app/solid/solid_work.h"
#include "core/base/packed.h"

namespace punch {

/// Made beside the window, whenever they are other ones than before.
void SolidWork::makePieces() {
    SolidsToMake all;
    auto marked = std::make_shared<std::vector<MarkedBody>>(markedBodies(document_.part(), document_.footprint()));
    for (const MarkedBody& b : *marked) all.bodies.push_back(b.body);
    Packed packed;
    pack(packed, all);
    std::string now = packed.take();
    if (now == piecesOf_) {
        // As solids they are the same; names and motions may not be.
        if (pieces_ && marked->size() == marked_->size()) marked_ = marked;
        return;
    }
    piecesOf_ = now;
    if (all.bodies.empty()) {
        pieces_.reset();
        marked_ = std::make_shared<std::vector<MarkedBody>>();
        piecesTrouble_.clear();
        return;
    }
    ++running_;
    pool_.start([this, all = std::move(all), of = std::move(now), marked] {
        auto made = worker_.make(all);
        QMetaObject::invokeMethod(
            this,
            [this, of, marked, made = std::make_shared<Result<Solid>>(std::move(made))] {
                --running_;
                // An edit may have overtaken it.
                if (of == piecesOf_) {
                    marked_ = marked;
                    pieces_ = *made ? std::make_shared<const Solid>(std::move(**made)) : nullptr;
                    piecesTrouble_ = *made ? QString() : toQt(made->error().text());
                    findTouches();
                }
                emit changed();
            },
            Qt::QueuedConnection);
    });
}

/// Whenever what moves, or what it could touch, is another than before.
void SolidWork::findTouches() {
    struct Mover {
        std::string of;
        int body = -1;  ///< of a solid
        int made = -1;  ///< of the pieces
        Motion motion;
    };
    struct Shown {
        std::string id;
        std::shared_ptr<const Solid> solid;
        Pose pose;
    };
    std::vector<Mover> movers;
    std::vector<Shown> all;
    Packed packed;
    for (const StandingSolid& s : document_.footprint().solids) {
        const SolidFile* file = solidById(document_.part(), s.id);
        const auto solid = mesh(s.id);
        if (file == nullptr || !solid) continue;
        all.push_back({s.id, solid, s.pose});
        packed.put(s.pose);
        packed.put(solid.get());
        for (const SolidMotion& m : file->motions) movers.push_back({s.id, m.body, -1, moved(m.motion, s.pose)});
    }
    const auto pieces = pieces_;
    packed.put(pieces.get());
    for (std::size_t i = 0; i < marked_->size(); ++i)
        if ((*marked_)[i].motion)
            movers.push_back({(*marked_)[i].mark, -1, static_cast<int>(i), *(*marked_)[i].motion});
    for (const Mover& m : movers) {
        packed.put(m.of);
        packed.put(m.body);
        packed.put(m.motion);
    }
    std::string now = packed.take();
    if (now == touchesOf_) return;
    touchesOf_ = now;
    touches_.clear();
    if (movers.empty()) return;
    ++running_;
    pool_.start([this, movers, all, pieces, of = std::move(now)] {
        std::map<std::pair<std::string, int>, std::optional<FirstTouch>> found;
        for (const Mover& m : movers) {
            TouchSearch search;
            for (const Shown& s : all) {
                const bool own = m.body >= 0 && s.id == m.of;
                if (own) search.addMoving(*s.solid, s.pose, m.body);
                search.addStanding(*s.solid, s.pose, own ? m.body : -1);
            }
            if (pieces)
                for (std::size_t b = 0; b < pieces->bodies.size(); ++b) {
                    if (m.made >= 0 && pieces->bodies[b].of == m.made)
                        search.addMoving(*pieces, {}, static_cast<int>(b));
                    else
                        search.addStandingBody(*pieces, {}, static_cast<int>(b));
                }
            found[{m.of, m.body}] = search.first(m.motion);
        }
        QMetaObject::invokeMethod(
            this,
            [this, found, of] {
                --running_;
                if (of == touchesOf_) touches_ = found;
                emit changed();
            },
            Qt::QueuedConnection);
    });
}

}  // namespace punch
