#include "core/release/pictures.h"

#include <algorithm>
#include <filesystem>

#include "core/artwork/palette.h"
#include "core/body/drawn_scene.h"
#include "core/part/source_file.h"
#include "core/picture/draw_svg.h"
#include "core/release/tables.h"
#include "core/solid/solid_worker.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

constexpr int kLeast = 16, kMost = 10000;  // pixels

/// In the middle of paper.
Drawn onPaper(const Picture& picture, int width, int height) {
    Drawn out{width, height, {}};
    const auto p = palette::kPaper;
    for (int i = 0; i < width * height; ++i)
        for (const int shift : {16, 8, 0}) out.pixels.push_back(static_cast<unsigned char>(p >> shift));
    const int left = (width - picture.width) / 2, top = (height - picture.height) / 2;
    for (int y = 0; y < picture.height && y + top < height; ++y)
        for (int x = 0; x < picture.width && x + left < width; ++x)
            for (int c = 0; c < 3; ++c)
                out.pixels[static_cast<std::size_t>(((y + top) * width + x + left) * 3 + c)] =
                    picture.row(y)[3 * x + c];
    return out;
}

Result<std::string> sheetPng(const Part& part, const Footprint& f, const PictureWanted& wanted) {
    const auto svg = sheetSvg(part, f);
    if (!svg) return tl::make_unexpected(svg.error());
    // Its longer side fills the picture, or as much of it as the shorter one leaves.
    auto picture = drawnSvg(*svg, part.name, std::max(wanted.width, wanted.height));
    if (!picture) return tl::make_unexpected(picture.error());
    const double share = std::min(1.0 * wanted.width / picture->width, 1.0 * wanted.height / picture->height);
    if (share < 1) picture = drawnSvg(*svg, part.name, share * std::max(picture->width, picture->height) - 1);
    if (!picture) return tl::make_unexpected(picture.error());
    return pngOf(onPaper(*picture, wanted.width, wanted.height));
}

}  // namespace

std::string pictureViews() {
    std::string all = "sheet";
    for (const auto& [words, from] : kSeenFrom) all += std::string(", ") + words;
    return all;
}

Result<BodyMeshes> bodyMeshes(const Part& part, const Footprint& f, const std::string& home, SolidWorker& worker) {
    std::vector<std::shared_ptr<const Solid>> meshes;
    for (const StandingSolid& s : f.solids) {
        const SolidFile* file = solidById(part, s.id);
        const auto path = file == nullptr ? Result<fs::path>(problem("it is gone", s.name))
                                          : sourceFile(fs::path(home) / "part.punch", file->file);
        if (!path) return tl::make_unexpected(path.error());
        auto solid = worker.readStep(path->string());
        if (!solid) return tl::make_unexpected(solid.error());
        meshes.push_back(std::make_shared<const Solid>(std::move(*solid)));
    }
    MarkedSolid pieces{nullptr, markedBodies(part, f)};
    if (!pieces.marked.empty()) {
        SolidsToMake all;
        for (const MarkedBody& b : pieces.marked) all.bodies.push_back(b.body);
        auto made = worker.make(all);
        if (!made) return tl::make_unexpected(made.error());
        pieces.solid = std::make_shared<const Solid>(std::move(*made));
    }
    return BodyMeshes{std::move(meshes), std::move(pieces)};
}

Result<std::string> partAsPng(const Part& part, const Footprint& f, const std::string& home,
                              const PictureWanted& wanted) {
    if (wanted.width < kLeast || wanted.height < kLeast || wanted.width > kMost || wanted.height > kMost)
        return problem("a picture has 16 to 10000 pixels each way", {}, "Choose another size");
    if (wanted.view == "sheet") return sheetPng(part, f, wanted);
    const auto* from = std::find_if(std::begin(kSeenFrom), std::end(kSeenFrom),
                                    [&](const auto& known) { return wanted.view == known.first; });
    if (from == std::end(kSeenFrom))
        return problem("“" + wanted.view + "” is no view", {}, "Choose one of " + pictureViews());
    SolidWorker worker;
    const auto bodies = bodyMeshes(part, f, home, worker);
    if (!bodies) return tl::make_unexpected(bodies.error());
    const auto& [meshes, pieces] = *bodies;
    SolidScene scene = sceneOf(part, f, meshes, pieces, {});
    SpaceLook look;
    look.lift = wanted.lift;
    scene.box.high.z += std::max(wanted.lift, 0.0);
    if (wanted.cut > 0)
        look.cut =
            SpaceCut{1, scene.box.low.y + std::min(wanted.cut, 1.0) * (scene.box.high.y - scene.box.low.y), false};
    SpaceCamera camera;
    camera.width = wanted.width;
    camera.height = wanted.height;
    camera.look(from->second);
    if (wanted.yaw) camera.yaw = *wanted.yaw;
    if (wanted.pitch) camera.pitch = *wanted.pitch;
    camera.fit(scene.box, 0.06 * wanted.width, 0.08 * wanted.height);
    if (look.cut) {
        for (std::size_t i = 0; i < meshes.size(); ++i)
            addSection(scene.leads, *meshes[i], f.solids[i].pose, *look.cut);
        if (pieces.solid) addSection(scene.leads, *pieces.solid, {}, *look.cut);
    }
    const auto picture = drawn(scene, camera, look);
    if (!picture) return tl::make_unexpected(picture.error());
    return pngOf(*picture);
}

}  // namespace punch
