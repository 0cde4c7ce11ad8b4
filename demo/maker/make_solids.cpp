// Writes the made-up STEP files of the demo beside their parts and stands them on their holes: QB-TB4, HT-SEL6 with its
// knob, and PW-RS7. Each lies in a frame of its own; units and ways up differ, and one lead of PW-RS7 is bent by 0.4.

#include <cmath>
#include <cstdio>
#include <filesystem>
#include <string>

#include "core/advise/stand_solid.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/solid/found_solid.h"
#include "core/solid/solid_worker.h"

using namespace punch;

namespace {

constexpr Colour kGreenGrey = 0x6E8577, kMetal = 0xC9CDD1, kDark = 0x3B4650, kWhite = 0xE9E6DC;

std::vector<FlatBend> box(double x, double y, double across, double thick, double turn) {
    std::vector<FlatBend> ring;
    const double c = std::cos(turn * M_PI / 180), s = std::sin(turn * M_PI / 180);
    for (const auto& [i, k] : {std::pair(-0.5, -0.5), std::pair(0.5, -0.5), std::pair(0.5, 0.5), std::pair(-0.5, 0.5)})
        ring.push_back({x + c * i * across - s * k * thick, y + s * i * across + c * k * thick, 0});
    return ring;
}

/// The leads of a part as its readings put them, and its pegs.
void addLeads(const Footprint& f, const Part& part, SolidsToMake& all) {
    for (const Pad& p : f.pads) {
        const LeadFit* lead = f.leadOf(part, p.id);
        const double length = lead != nullptr && lead->length > Length() ? lead->length.mm() : 3.0;
        const double x = p.at.x.mm(), y = p.at.y.mm(), a = p.leadX.mm(), b = p.leadY.mm();
        if (p.leadRound) {
            all.bodies.push_back({"lead " + p.number,
                                  kMetal,
                                  TurnedProfile{{{0, -length, 0},
                                                 {a / 2 - 0.15, -length, 0},
                                                 {a / 2, -length + 0.3, 0},
                                                 {a / 2, 1, 0},
                                                 {0, 1, 0}}},
                                  {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {x, y, 0}},
                                  {}});
            continue;
        }
        const double turn = p.leadTurn.degrees();
        all.bodies.push_back({"lead " + p.number, kMetal, Prism{{box(x, y, a, b, turn), {}}, -length, 1}, {}, {}});
    }
    for (const BareHole& h : f.bareHoles) {
        if (h.kind == SpotKind::MountingHole) continue;
        const double d = h.peg.across.mean.mm(), x = h.at.x.mm(), y = h.at.y.mm();
        if (h.flat)
            all.bodies.push_back({h.name,
                                  kMetal,
                                  Prism{{box(x, y, h.flatX.mm(), h.flatY.mm(), h.turn.degrees()), {}}, -2.8, 1},
                                  {},
                                  {}});
        else if (d > 0)
            all.bodies.push_back(
                {h.name,
                 kGreenGrey,
                 TurnedProfile{{{0, -1.9, 0}, {d / 2 - 0.2, -1.9, 0}, {d / 2, -1.5, 0}, {d / 2, 1, 0}, {0, 1, 0}}},
                 {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {x, y, 0}},
                 {}});
    }
}

int fail(const Problem& p) {
    std::fprintf(stderr, "%s\n", p.text().c_str());
    return 1;
}

/// Writes the file, reads it again and stands it on the part's holes.
int keep(const std::string& folder, const std::string& name, const std::string& file, const SolidsToMake& all,
         Part part, const char* turning = nullptr) {
    SolidWorker worker;
    const std::string kept = name + "-sources/" + file;
    std::filesystem::create_directories(folder + "/" + name + "-sources");
    const std::string path = folder + "/" + kept;
    if (const auto done = worker.writeStep(all, path); !done) return fail(done.error());
    // Its head names who wrote it and when: the same on every machine and every day.
    auto text = readWhole(path);
    if (!text) return fail(text.error());
    if (const std::size_t at = text->find("FILE_NAME("), end = text->find(");", at);
        at != std::string::npos && end != std::string::npos)
        text->replace(at, end + 2 - at,
                      "FILE_NAME('" + file + "','2026-03-01T12:00:00',('Fennel House'),('Fennel House'),'','','');");
    if (const auto done = writeAtomically(path, *text); !done) return fail(done.error());
    const auto solid = worker.readStep(path);
    if (!solid) return fail(solid.error());
    part.solids.clear();
    StoodSolid stood = withSolid(part, derive(part), *solid, standings(*solid), file.substr(0, file.rfind('.')), kept,
                                 digestOf(*text));
    for (std::size_t i = 0; turning != nullptr && i < solid->bodies.size(); ++i)
        if (solid->bodies[i].name == turning) {
            SolidFile& last = stood.part.solids.back();
            SolidMotion motion = usualMotion(*solid, last, static_cast<int>(i));
            motion.motion.from = 0;
            motion.motion.to = 150;
            const auto moving = withMotion(last, *solid, motion);
            if (!moving) return fail(moving.error());
            last = *moving;
        }
    if (const auto done = savePart(stood.part, folder + "/" + name + ".punch"); !done) return fail(done.error());
    std::printf("%s: %s\n", path.c_str(), stood.met ? "stands on its holes" : "meets no hole");
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    const std::string folder = argc > 1 ? argv[1] : "demo/fennel-house";
    const auto load = [&](const char* name) { return loadPart(folder + "/" + name + ".punch"); };
    {
        // The terminal: an inch file that lies on its back.
        const auto part = load("QB-TB4");
        if (!part) return fail(part.error());
        const Footprint f = derive(*part);
        const Rect& r = f.body->rect;
        const double top = f.body->heightFirm ? f.body->height.mm() : 10.5;
        SolidsToMake all;
        all.name = "QB-TB4";
        all.inches = true;
        MadeBody housing{"housing",
                         kGreenGrey,
                         Prism{flatRectangle(r.left.mm(), r.bottom.mm(), r.right.mm(), r.top.mm()), 0, top},
                         {},
                         {}};
        for (const Pad& p : f.pads)
            housing.cut.push_back(
                Prism{flatRectangle(p.at.x.mm() - 1.5, r.bottom.mm() - 1, p.at.x.mm() + 1.5, r.bottom.mm() + 3), 2.5,
                      top - 2.5});
        all.bodies.push_back(housing);
        addLeads(f, *part, all);
        all.pose = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {2.3, 6.1, 0.4}}, turnAbout({1, 0, 0}, 90));
        if (const int bad = keep(folder, "QB-TB4", "terminal.step", all, *part); bad != 0) return bad;
    }
    {
        // The selector with its knob, upside down and turned.
        const auto part = load("HT-SEL6");
        if (!part) return fail(part.error());
        const Footprint f = derive(*part);
        SolidsToMake all;
        all.name = "HT-SEL6";
        Point middle{};
        double low = 0, high = 12;
        if (f.body) {
            middle = f.body->rect.middle();
            if (f.body->heightFirm) high = f.body->height.mm();
            all.bodies.push_back({"housing",
                                  kDark,
                                  Prism{flatRectangle(f.body->rect.left.mm(), f.body->rect.bottom.mm(),
                                                      f.body->rect.right.mm(), f.body->rect.top.mm()),
                                        low, high},
                                  {},
                                  {}});
        }
        const Pose at{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {middle.x.mm(), middle.y.mm(), high}};
        all.bodies.push_back({"shaft", kMetal, TurnedProfile{{{0, 0, 0}, {3, 0, 0}, {3, 9, 0}, {0, 9, 0}}}, at, {}});
        // A pointer that turns on the shaft, with a bore for it.
        constexpr double kBulge = 0.41421356;  // of a quarter of a circle
        const double end = 10.8, side = 4.5, corner = 4.4;
        MadeBody knob{"knob",
                      kWhite,
                      Prism{{{{-side + corner, -side, 0},
                              {end - corner, -side, kBulge},
                              {end, -side + corner, 0},
                              {end, side - corner, kBulge},
                              {end - corner, side, 0},
                              {-side + corner, side, kBulge},
                              {-side, side - corner, 0},
                              {-side, -side + corner, kBulge}},
                             {}},
                            3,
                            14.6},
                      at,
                      {}};
        knob.cut.push_back(Prism{flatCircle(0, 0, 6), 2, 9});
        all.bodies.push_back(knob);
        addLeads(f, *part, all);
        all.pose = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {-40, 12, 80}},
                         after(turnAbout({0, 0, 1}, 37), turnAbout({1, 0, 0}, 180)));
        if (const int bad = keep(folder, "HT-SEL6", "selector.step", all, *part, "knob"); bad != 0) return bad;
    }
    {
        // The relay socket: one lead is bent.
        const auto part = load("PW-RS7");
        if (!part) return fail(part.error());
        const Footprint f = derive(*part);
        SolidsToMake all;
        all.name = "PW-RS7";
        if (f.body) {
            const Rect& r = f.body->rect;
            all.bodies.push_back({"housing",
                                  kDark,
                                  Prism{flatRectangle(r.left.mm(), r.bottom.mm(), r.right.mm(), r.top.mm()), 0,
                                        f.body->heightFirm ? f.body->height.mm() : 15},
                                  {},
                                  {}});
        }
        addLeads(f, *part, all);
        for (MadeBody& b : all.bodies)
            if (b.name == "lead 4") b.pose.move = b.pose.move + Vec3{0.4 * std::cos(0.9), 0.4 * std::sin(0.9), 0};
        all.pose = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {15, 0, -3}}, turnAbout({0, 1, 0}, 90));
        if (const int bad = keep(folder, "PW-RS7", "socket.step", all, *part); bad != 0) return bad;
    }
    return 0;
}
