#include "cli/solid_command.h"

#include <fmt/format.h>

#include <cmath>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "cli/parts_read.h"
#include "core/advise/solid_evidence.h"
#include "core/advise/stand_solid.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/solid/found_solid.h"
#include "core/solid/solid_worker.h"

namespace punch {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

Json vec(Vec3 p) { return {kept(p.x), kept(p.y), kept(p.z)}; }

Json leadJson(const SolidLead& l) {
    Json j = {{"at", {kept(l.at.x), kept(l.at.y)}},
              {"section", {kept(l.section.along), kept(l.section.across)}},
              {"round", l.section.round},
              {"length", kept(l.length)},
              {"lean", {kept(l.lean.x), kept(l.lean.y)}}};
    if (!l.section.round) j["turn"] = kept(l.section.turn);
    return j;
}

Json poseJson(const FittedPose& p, const std::vector<Socket>& sockets, bool equivalent) {
    Json matches = Json::array(), off = Json::array(), alone = Json::array(), empty = Json::array();
    for (const LeadMatch& m : p.matches)
        matches.push_back({{"lead", m.lead},
                           {"of", sockets[m.socket].id},
                           {"number", sockets[m.socket].name},
                           {"off", kept(m.residual)}});
    for (const std::size_t i : p.off) off.push_back(sockets[p.matches[i].socket].name);
    for (const std::size_t i : p.withoutHole) alone.push_back(i);
    for (const std::size_t i : p.withoutLead) empty.push_back(sockets[i].name);
    return {{"equivalent", equivalent},
            {"down", vec(inverse(p.standing.pose).turned({0, 0, -1}))},
            {"turn", kept(p.turn)},
            {"x", vec(p.pose.x)},
            {"y", vec(p.pose.y)},
            {"z", vec(p.pose.z)},
            {"move", vec(p.pose.move)},
            {"rms", kept(p.rms)},
            {"worst", kept(p.worst)},
            {"matches", matches},
            {"sure", p.sure},
            {"off", off},
            {"leadsWithoutHole", alone},
            {"holesWithoutLead", empty}};
}

}  // namespace

int solidCommand(const SolidArguments& arguments) {
    std::optional<Part> part;
    if (!arguments.part.empty()) {
        auto loaded = loadPart(arguments.part);
        if (!loaded) return failed(loaded.error());
        part = std::move(*loaded);
    } else if (arguments.place || arguments.take) {
        return failed({"no part is named", arguments.place ? "--place" : "--take", "Name one with --part"});
    }
    const auto bytes = readWhole(arguments.file);
    if (!bytes) return failed(bytes.error());
    SolidWorker worker;
    const auto solid = worker.readStep(arguments.file);
    if (!solid) return failed(solid.error());
    const std::vector<Standing> all = standings(*solid);
    Json bodies = Json::array(), ways = Json::array(), poses = Json::array();
    for (const SolidBody& b : solid->bodies) {
        Json j = {{"name", b.name}, {"volume", b.volume}, {"closed", b.closed}};
        if (b.colour != kNoColour) j["colour"] = fmt::format("#{:06X}", b.colour);
        bodies.push_back(j);
    }
    for (const Standing& s : all) {
        Json leads = Json::array();
        for (const SolidLead& l : s.leads) leads.push_back(leadJson(l));
        ways.push_back(
            {{"down", vec(inverse(s.pose).turned({0, 0, -1}))}, {"height", kept(s.height)}, {"leads", leads}});
    }
    const Box3 box = boundsOf(*solid);
    Json j = {{"file", fs::path(arguments.file).filename().string()},
              {"size", vec(box.size())},
              {"bodies", bodies},
              {"triangles", solid->triangles.size()},
              {"notes", solid->notes},
              {"ways", ways}};
    std::vector<FittedPose> fitted;
    std::vector<Socket> sockets;
    std::optional<Footprint> footprint;
    if (part) {
        footprint = derive(*part);
        sockets = socketsOf(*footprint);
        fitted = fitPoses(all, sockets);
        for (const FittedPose& p : fitted) poses.push_back(poseJson(p, sockets, isEquivalent(p, fitted.front())));
        j["poses"] = poses;
    }
    if (arguments.place || arguments.take) {
        const fs::path home = fs::path(arguments.part).parent_path();
        const std::string folder = fs::path(arguments.part).stem().string() + "-sources";
        const std::string name = folder + "/" + fs::path(arguments.file).filename().string();
        std::error_code error;
        fs::create_directories(home / folder, error);
        if (const auto written = writeAtomically(home / name, *bytes); !written) return failed(written.error());
        StoodSolid stood =
            withSolid(*part, *footprint, *solid, all, fs::path(arguments.file).stem().string(), name, digestOf(*bytes));
        if (arguments.take) {
            auto taken = withSolidLeads(stood.part, derive(stood.part), stood.id);
            if (!taken) return failed(taken.error());
            stood.part = std::move(*taken);
        }
        if (const auto saved = savePart(stood.part, arguments.part); !saved) return failed(saved.error());
    }
    if (arguments.json) {
        fmt::print("{}\n", j.dump(2, ' ', false, Json::error_handler_t::replace));
        return 0;
    }
    fmt::print("{}: {} bodies, {:.2f} x {:.2f} x {:.2f} mm\n", fs::path(arguments.file).filename().string(),
               solid->bodies.size(), box.size().x, box.size().y, box.size().z);
    for (const std::string& n : solid->notes) fmt::print("  {}\n", n);
    if (all.empty()) fmt::print("  no leads\n");
    for (const Standing& s : all) {
        const Vec3 down = inverse(s.pose).turned({0, 0, -1});
        fmt::print("  {} leads with {:.3f}, {:.3f}, {:.3f} down, {:.2f} high\n", s.leads.size(), down.x, down.y, down.z,
                   s.height);
    }
    for (const FittedPose& p : fitted) {
        fmt::print("  {}{} of {} holes met, turned {:.2f}°, {:.3f} mm rms, worst {:.3f}",
                   isEquivalent(p, fitted.front()) ? "* " : "  ", p.matches.size(), sockets.size(), p.turn, p.rms,
                   p.worst);
        for (std::size_t i = 0; i < p.off.size(); ++i)
            fmt::print("{}{}", i == 0 ? (p.sure ? "; off: " : "; one of these is off: ") : ", ",
                       sockets[p.matches[p.off[i]].socket].name);
        for (std::size_t i = 0; i < p.withoutLead.size(); ++i)
            fmt::print("{}{}", i == 0 ? "; no lead in " : ", ", sockets[p.withoutLead[i]].name);
        fmt::print("\n");
    }
    return 0;
}

}  // namespace punch
