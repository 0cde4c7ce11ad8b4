#include "core/board/board_picture.h"

#include "core/artwork/moved_footprint.h"
#include "core/body/drawn_scene.h"
#include "core/release/pictures.h"

namespace punch {

SolidScene boardScene(const LaidBoard& b, const std::filesystem::path& folder, std::vector<std::string>& missing) {
    SolidScene scene = bareBoard(b.whole, b.all, b.rings);
    SolidWorker worker;
    for (const LaidPart& p : b.parts) {
        if (!p.there()) continue;
        const std::string home = (folder / p.placing.file).parent_path().string();
        auto bodies = bodyMeshes(p.of.part, p.of.footprint, home, worker);
        if (!bodies) {
            missing.push_back(p.placing.designator + ": " + bodies.error().text());
            continue;
        }
        // In its own frame, where its marks and motions are known, and then as a whole.
        SolidScene part = bodiesOf(p.of.part, p.of.footprint, bodies->meshes, bodies->pieces, {});
        add(scene, placed(std::move(part), poseOf(p.placing.frame(), b.board.thickness)));
    }
    return scene;
}

Result<std::string> boardPicture(const LaidBoard& b, const std::filesystem::path& folder, int width, int height,
                                 SeenFrom from) {
    std::vector<std::string> missing;
    const SolidScene scene = boardScene(b, folder, missing);
    SpaceCamera camera;
    camera.width = width;
    camera.height = height;
    camera.look(from);
    camera.fit(scene.box, 0.06 * width, 0.08 * height);
    const auto picture = drawn(scene, camera);
    if (!picture) return tl::make_unexpected(picture.error());
    return pngOf(*picture);
}

}  // namespace punch
