// STEP as we write it, read by a reader of its own: names, colours, and volumes from the faces' corners.
//
// It follows ISO 10303-21 (the text) and the entities of ISO 10303-42 that flat-faced solids are made of; nothing of
// the kernel is used.

#include <gtest/gtest.h>
#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>
#include <set>

#include "core/base/atomic_file.h"
#include "core/base/vec3.h"
#include "core/solid/solid_worker.h"

namespace punch {
namespace {

/// One line of the data: its entity (or several of a complex one) and what stands in its brackets.
struct Entity {
    std::string name, inside;
};

class Part21 {
public:
    explicit Part21(const std::string& text) {
        std::string data = text.substr(text.find("DATA;") + 5);
        std::string line;
        bool quoted = false;
        for (const char c : data) {
            if (c == '\'') quoted = !quoted;
            if (c == '\n' || c == '\r') continue;
            if (c != ';' || quoted) {
                line += c;
                continue;
            }
            const std::size_t equals = line.find('=');
            if (!line.empty() && line[0] == '#' && equals != std::string::npos) {
                const std::size_t open = line.find('(', equals);
                std::string name = line.substr(equals + 1, open - equals - 1);
                name.erase(0, name.find_first_not_of(' '));
                all_[std::stoi(line.substr(1))] = {name, line.substr(open + 1, line.rfind(')') - open - 1)};
            }
            line.clear();
        }
    }
    const Entity& at(int id) const { return all_.at(id); }
    const std::map<int, Entity>& all() const { return all_; }
    /// What an entity refers to, in its order.
    std::vector<int> refs(int id) const {
        std::vector<int> out;
        const std::string& s = at(id).inside;
        for (std::size_t i = 0; i < s.size(); ++i)
            if (s[i] == '#') out.push_back(std::stoi(s.substr(i + 1)));
        return out;
    }
    std::vector<double> numbers(int id) const {
        std::vector<double> out;
        const std::string& s = at(id).inside;
        for (std::size_t i = s.find('(') + 1; i < s.size();) {
            out.push_back(std::stod(s.substr(i)));
            i = s.find(',', i);
            if (i == std::string::npos) break;
            ++i;
        }
        return out;
    }
    std::string text(int id) const {
        const std::string& s = at(id).inside;
        const std::size_t a = s.find('\''), b = s.find('\'', a + 1);
        return s.substr(a + 1, b - a - 1);
    }

private:
    std::map<int, Entity> all_;
};

/// The volume within flat faces: of each loop its fan over the origin, as it is oriented.
double volumeOf(const Part21& file, int solid) {
    const int shell = file.refs(solid).front();
    double six = 0;
    for (const int face : file.refs(shell)) {
        EXPECT_EQ(file.at(face).name, "ADVANCED_FACE");
        const auto bounds = file.refs(face);
        for (std::size_t b = 0; b + 1 < bounds.size(); ++b) {
            const bool sameLoop = file.at(bounds[b]).inside.rfind(".T.") != std::string::npos;
            std::vector<Vec3> ring;
            for (const int oriented : file.refs(file.refs(bounds[b]).front())) {
                const auto parts = file.refs(oriented);
                const int edge = parts.back();
                const bool along = file.at(oriented).inside.rfind(".T.") != std::string::npos;
                const auto ends = file.refs(edge);
                const auto p = file.numbers(file.refs(ends[along ? 0 : 1]).front());
                ring.push_back({p[0], p[1], p[2]});
            }
            Vec3 area;
            for (std::size_t i = 0; i < ring.size(); ++i)
                area = area + 0.5 * cross(ring[i], ring[(i + 1) % ring.size()]);
            // A loop runs counter-clockwise around its material, seen from outside.
            six += (sameLoop ? 2 : -2) * dot(area, ring.front());
        }
    }
    return six / 6;
}

struct Found {
    std::map<std::string, double> volumes;
    std::set<std::string> names;
    std::set<Colour> colours;
};

Found readBack(const SolidsToMake& all) {
    const auto path =
        (std::filesystem::temp_directory_path() / ("punch-step-" + std::to_string(::getpid()) + ".step")).string();
    SolidWorker worker;
    const auto done = worker.writeStep(all, path);
    EXPECT_TRUE(done) << done.error().text();
    const auto bytes = readWhole(path);
    EXPECT_TRUE(bytes);
    std::filesystem::remove(path);
    const Part21 file(*bytes);
    Found found;
    for (const auto& [id, e] : file.all()) {
        if (e.name == "MANIFOLD_SOLID_BREP") found.volumes[file.text(id) + std::to_string(id)] = volumeOf(file, id);
        if (e.name == "PRODUCT") found.names.insert(file.text(id));
        if (e.name == "COLOUR_RGB") {
            std::string s = e.inside;
            s = s.substr(s.find(',') + 1);
            Colour c = 0;
            for (int k = 0; k < 3; ++k) {
                c = c << 8 | static_cast<Colour>(std::lround(255 * std::stod(s)));
                s = s.substr(s.find(',') + 1);
            }
            found.colours.insert(c);
        }
    }
    return found;
}

TEST(StepReader, FindsTheVolumesNamesAndColoursOfFlatSolids) {
    SolidsToMake all;
    all.name = "QB-X";
    MadeBody block{"housing", 0x3A7D44, Prism{flatRectangle(-5, -4, 5, 4), 0, 10}, {}, {}};
    block.cut = {Prism{flatRectangle(-2, -1, 2, 1), 4, 11}};
    all.bodies.push_back(block);
    all.bodies.push_back({"lead 1",
                          0xC0C4C8,
                          Tapered{{{-0.1, -0.1, 0}, {0.1, -0.1, 0}, {0.1, 0.1, 0}, {-0.1, 0.1, 0}},
                                  {{-0.5, -0.5, 0}, {0.5, -0.5, 0}, {0.5, 0.5, 0}, {-0.5, 0.5, 0}},
                                  -3,
                                  0},
                          after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {7, 1, 2}}, turnAbout({1, 2, 3}, 50)),
                          {}});
    const Found found = readBack(all);
    ASSERT_EQ(found.volumes.size(), 2U);
    std::vector<double> volumes;
    for (const auto& [name, v] : found.volumes) volumes.push_back(v);
    std::sort(volumes.begin(), volumes.end());
    // A frustum: h / 3 (A + B + sqrt(A B)).
    EXPECT_NEAR(volumes[0], 3.0 / 3 * (0.04 + 1 + 0.2), 1e-6);
    EXPECT_NEAR(volumes[1], 10 * 8 * 10 - 4 * 2 * 6, 1e-6);
    for (const char* name : {"QB-X", "housing", "lead 1"}) EXPECT_TRUE(found.names.contains(name)) << name;
    EXPECT_EQ(found.colours, (std::set<Colour>{0x3A7D44, 0xC0C4C8}));
}

TEST(StepReader, EveryFileIsInItsOwnUnitWhateverWasWrittenBefore) {
    SolidWorker worker;
    const auto path =
        (std::filesystem::temp_directory_path() / ("punch-unit-" + std::to_string(::getpid()) + ".step")).string();
    for (const bool inches : {false, true, false, false, true, true, false}) {
        SolidsToMake all;
        all.inches = inches;
        all.bodies.push_back({"cube", kNoColour, Prism{flatRectangle(0, 0, 25.4, 25.4), 0, 25.4}, {}, {}});
        ASSERT_TRUE(worker.writeStep(all, path));
        const std::string text = *readWhole(path);
        EXPECT_EQ(text.find("'INCH'") != std::string::npos, inches);
        const Part21 file(text);
        for (const auto& [id, e] : file.all())
            if (e.name == "MANIFOLD_SOLID_BREP") {
                EXPECT_NEAR(volumeOf(file, id), inches ? 1 : 25.4 * 25.4 * 25.4, 1e-6) << "in the file's own unit";
            }
        // Read by us it is mm.
        const auto solid = worker.readStep(path);
        ASSERT_TRUE(solid);
        EXPECT_NEAR(solid->bodies.front().volume, 25.4 * 25.4 * 25.4, 1e-6);
    }
    std::filesystem::remove(path);
}

}  // namespace
}  // namespace punch
