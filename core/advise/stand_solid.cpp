#include "core/advise/stand_solid.h"

#include <cmath>

#include "core/solid/found_solid.h"

namespace punch {

StoodSolid withSolid(const Part& part, const Footprint& footprint, const Solid& solid,
                     const std::vector<Standing>& standings, const std::string& name, const std::string& file,
                     const std::string& digest) {
    const auto sockets = socketsOf(footprint);
    const auto poses = fitPoses(standings, sockets);
    StoodSolid stood{part, {}, !poses.empty()};
    SolidFile s;
    if (stood.met)
        s = placedBy(foundIn(solid, poses.front().standing), poses.front(), sockets);
    else
        s = foundIn(solid, standings.empty() ? standing(solid, {0, 0, -1}) : standings.front());
    s.name = name;
    s.file = file;
    s.digest = digest;
    s.id = stood.id = "solid" + std::to_string(stood.part.nextId++);
    stood.part.solids.push_back(std::move(s));
    return stood;
}

SolidFile asNumbers(SolidFile file, const Footprint& footprint) {
    for (const StandingSolid& now : footprint.solids)
        if (now.id == file.id) {
            const Pose board = after(now.pose, inverse(standingPose(file)));
            file.turn = now.turn;
            file.x = board.move.x;
            file.y = board.move.y;
        }
    return file;
}

namespace {

Pose onBoard(const SolidFile& file) {
    Pose board = turnAbout({0, 0, 1}, file.turn);
    board.move = {file.x, file.y, 0};
    return board;
}

/// The middle of its leads, else of its outline, as it was found.
Vec3 middleOf(const SolidFile& file) {
    Vec3 sum;
    double n = 0;
    for (const SolidLeadFound& l : file.leads) {
        sum = sum + Vec3{l.x, l.y, 0};
        ++n;
    }
    if (n == 0)
        for (const auto& p : file.outline) {
            sum = sum + Vec3{p[0], p[1], 0};
            ++n;
        }
    return n > 0 ? (1 / n) * sum : sum;
}

Vec3 middleOf(const Solid& solid) {
    const Box3 box = boundsOf(solid);
    return 0.5 * (box.low + box.high);
}

/// Found anew for another way down; turned about z as its pose before says, its middle where that had it.
SolidFile foundDown(SolidFile file, const Solid& solid, const Pose& before) {
    const Vec3 middle = middleOf(solid), was = before(middle);
    file = foundAgain(solid, file);
    const Pose flat = after(before, inverse(standingPose(file)));
    file.turn = std::atan2(flat.x.y, flat.x.x) * 180 / M_PI;
    file.x = file.y = 0;
    const Vec3 is = boardPose(file)(middle);
    file.x = was.x - is.x;
    file.y = was.y - is.y;
    for (SolidLeadFound& l : file.leads) l.of.clear();
    file.byLeads = false;
    return file;
}

}  // namespace

SolidFile turnedBy(SolidFile file, const Solid& solid, const Footprint& footprint, Vec3 axis, double degrees) {
    file = asNumbers(std::move(file), footprint);
    if (std::abs(axis.z) > 0.5) {
        const Vec3 middle = middleOf(file), was = onBoard(file)(middle);
        file.turn = std::remainder(file.turn + (axis.z > 0 ? degrees : -degrees), 360.0);
        const Vec3 is = onBoard(file)(middle);
        file.x += was.x - is.x;
        file.y += was.y - is.y;
        file.byLeads = false;
        return file;
    }
    const Pose turned = after(turnAbout(axis, degrees), boardPose(file));
    // Its middle stays: what a turn about the datum would move is put back.
    Pose before = turned;
    const Vec3 middle = middleOf(solid);
    before.move = before.move + boardPose(file)(middle) - turned(middle);
    file.down = inverse(turned).turned({0, 0, -1});
    file.seatSet = false;
    return foundDown(std::move(file), solid, before);
}

SolidFile movedBy(SolidFile file, const Footprint& footprint, Vec3 by) {
    file = asNumbers(std::move(file), footprint);
    file.x += by.x;
    file.y += by.y;
    file.lift += by.z;
    file.byLeads = file.byLeads && by.x == 0 && by.y == 0;
    return file;
}

Result<SolidFile> seatedOn(SolidFile file, const Solid& solid, const Footprint& footprint, std::size_t face) {
    if (face >= solid.faces.size() || solid.faces[face].kind != SurfaceKind::Plane)
        return problem("only a flat face can lie on the board", file.name, "Click at a flat one");
    file = asNumbers(std::move(file), footprint);
    const Pose before = boardPose(file);
    const Vec3 down = unit(solid.faces[face].axis);
    const bool sameWay = dot(down, unit(file.down)) > 1 - 1e-9;
    const std::vector<SolidLeadFound> leads = file.leads;
    const bool byLeads = file.byLeads;
    if (!sameWay) file.down = down;
    file.seat = -dot(unit(file.down), solid.faces[face].at);
    file.seatSet = true;
    SolidFile next = foundDown(file, solid, before);
    if (sameWay) {
        // Its leads are the same ones, only their lengths change.
        for (SolidLeadFound& l : next.leads)
            for (const SolidLeadFound& was : leads)
                if (std::hypot(l.x - was.x, l.y - was.y) < 0.3) l.of = was.of;
        next.byLeads = byLeads;
    }
    return next;
}

Result<SolidFile> centredOn(SolidFile file, const Footprint& footprint, const std::vector<FeatureId>& features) {
    if (features.empty())
        return problem("nothing is chosen", file.name, "Choose pins, pegs or faces on the sheet, several with Ctrl");
    Rect around;
    for (const FeatureId& id : features) {
        const auto at = footprint.place(id);
        if (!at) return problem("it has no place yet", id);
        around.add(*at);
    }
    file = asNumbers(std::move(file), footprint);
    Box3 box;
    const Pose board = onBoard(file);
    for (const auto& p : file.outline) box.add(board({p[0], p[1], 0}));
    if (box.empty) return problem("it has no outline", file.name);
    file.x += around.middle().x.mm() - (box.low.x + box.high.x) / 2;
    file.y += around.middle().y.mm() - (box.low.y + box.high.y) / 2;
    file.byLeads = false;
    return file;
}

SolidMotion usualMotion(const Solid& solid, const SolidFile& file, int body) {
    SolidMotion m;
    m.body = body;
    m.name = solid.bodies[static_cast<std::size_t>(body)].name;
    // The axis that it shares with something else, a bore with its shaft; else that of most of its round surface.
    const auto round = [](const SolidFace& f) {
        return f.kind == SurfaceKind::Cylinder || f.kind == SurfaceKind::Cone;
    };
    const auto coaxial = [](const SolidFace& a, const SolidFace& b) {
        const Vec3 way = unit(a.axis), off = b.at - a.at;
        return norm(cross(way, unit(b.axis))) < 1e-6 && norm(off - dot(off, way) * way) < 1e-3;
    };
    double most = 0;
    for (const SolidFace& f : solid.faces) {
        if (f.body != body || !round(f)) continue;
        double area = 0;
        bool shared = false;
        for (const SolidFace& g : solid.faces) {
            if (!round(g) || !coaxial(f, g)) continue;
            if (g.body == body)
                area += g.area;
            else
                shared = true;
        }
        if (shared) area += 1e6;
        if (area <= most) continue;
        most = area;
        m.motion.at = f.at;
        m.motion.axis = f.axis;
    }
    const Vec3 up = -unit(file.down);
    if (most > 0) {
        if (dot(m.motion.axis, up) < 0) m.motion.axis = -m.motion.axis;
        m.motion.to = 300;
        return m;
    }
    m.motion.turns = false;
    m.motion.axis = up;
    m.motion.to = 2;
    return m;
}

Result<SolidFile> withMotion(SolidFile file, const Solid& solid, SolidMotion motion) {
    if (motion.body < 0 || static_cast<std::size_t>(motion.body) >= solid.bodies.size())
        return problem("there is no such body in it", file.name);
    if (motion.motion.from == motion.motion.to) return problem("it moves by nothing", motion.name, "Type from and to");
    if (solid.bodies.size() < 2)
        return problem("it is one body: nothing of it can move by itself", file.name,
                       "Save the moving part as a body of its own");
    findMotion(solid, standing(solid, file.down, file.seat), motion);
    std::erase_if(file.motions, [&](const SolidMotion& m) { return m.body == motion.body; });
    file.motions.push_back(std::move(motion));
    return file;
}

}  // namespace punch
