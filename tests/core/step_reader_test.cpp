// STEP as we write it, read by a reader of its own: names, colours, and volumes from the faces.
//
// It follows ISO 10303-21 (the text) and the entities of ISO 10303-42 that our solids are made of: planes, cylinders,
// cones and balls between lines and circles. Nothing of the kernel is used.

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

namespace punch::step_reader_test {
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

struct Frame {
    Vec3 at, z{0, 0, 1}, x{1, 0, 0}, y{0, 1, 0};
};

Vec3 vec(const Part21& file, int id) {
    const auto p = file.numbers(id);
    return {p[0], p[1], p[2]};
}

Frame frameOf(const Part21& file, int placement) {
    const auto parts = file.refs(placement);
    Frame f;
    f.at = vec(file, parts[0]);
    if (parts.size() > 1) f.z = unit(vec(file, parts[1]));
    if (parts.size() > 2) f.x = vec(file, parts[2]);
    f.x = unit(f.x - dot(f.x, f.z) * f.z);
    f.y = cross(f.z, f.x);
    return f;
}

constexpr int kAround = 4096;  // chords of a whole circle

/// Along a curve from one place to another, the last left out. Lines and circles, which ours are made of.
std::vector<Vec3> along(const Part21& file, int curve, Vec3 from, Vec3 to) {
    const std::string& kind = file.at(curve).name;
    if (kind == "SURFACE_CURVE" || kind == "SEAM_CURVE") return along(file, file.refs(curve).front(), from, to);
    if (kind != "CIRCLE") {
        EXPECT_TRUE(kind == "LINE" || kind == "B_SPLINE_CURVE_WITH_KNOTS") << kind;
        return {from, 0.5 * (from + to)};
    }
    const Frame f = frameOf(file, file.refs(curve).front());
    const std::string& inside = file.at(curve).inside;
    const double r = std::stod(inside.substr(inside.rfind(',') + 1));
    const auto angle = [&](Vec3 p) { return std::atan2(dot(p - f.at, f.y), dot(p - f.at, f.x)); };
    const double a = angle(from);
    double turn = angle(to) - a;
    while (turn < 1e-9) turn += 2 * M_PI;
    std::vector<Vec3> out;
    const int n = std::max(2, static_cast<int>(kAround * turn / (2 * M_PI)));
    for (int i = 0; i < n; ++i) {
        const double t = a + turn * i / n;
        out.push_back(f.at + r * std::cos(t) * f.x + r * std::sin(t) * f.y);
    }
    return out;
}

/// A surface of revolution in its own parameters: u around its axis, v along it (degrees of latitude in a ball).
struct Round {
    std::string kind;
    Frame f;
    double r = 0, slope = 0;
    std::pair<double, double> at(Vec3 p) const {
        const Vec3 d = p - f.at;
        const double h = dot(d, f.z), out = std::hypot(dot(d, f.x), dot(d, f.y));
        return {std::atan2(dot(d, f.y), dot(d, f.x)), kind == "SPHERICAL_SURFACE" ? std::atan2(h, out) : h};
    }
    /// Place times normal, by du dv.
    double flux(double u, double v) const {
        const Vec3 n = std::cos(u) * f.x + std::sin(u) * f.y;
        if (kind == "SPHERICAL_SURFACE") {
            const Vec3 out = std::cos(v) * n + std::sin(v) * f.z;
            return r * r * std::cos(v) * (dot(f.at, out) + r);
        }
        const double radius = r + slope * v;
        const Vec3 place = f.at + radius * n + v * f.z;
        return radius * dot(place, n - slope * f.z);
    }
    double upTo(double u, double from, double v) const {
        const int n = kind == "SPHERICAL_SURFACE" ? 32 : 2;
        const double h = (v - from) / n;
        double sum = flux(u, from) + flux(u, v);
        for (int i = 1; i < n; ++i) sum += (i % 2 == 1 ? 4 : 2) * flux(u, from + i * h);
        return sum * h / 3;
    }
};

/// Of a loop on it, as it is oriented: minus what stands below it, along its way around (Green). Where the loop meets
/// the axis the angle jumps; there nothing stands below.
double fluxWithin(const Round& on, const std::vector<Vec3>& ring) {
    double from = 0;
    for (const Vec3& p : ring) {
        const Vec3 d = p - on.f.at;
        if (std::hypot(dot(d, on.f.x), dot(d, on.f.y)) < 1e-7) from = on.at(p).second;
    }
    double sum = 0, u = on.at(ring.front()).first, v = on.at(ring.front()).second;
    for (std::size_t i = 1; i <= ring.size(); ++i) {
        auto [nextU, nextV] = on.at(ring[i % ring.size()]);
        nextU = u + std::remainder(nextU - u, 2 * M_PI);
        if (std::abs(nextU - u) < 1) sum -= (on.upTo(u, from, v) + on.upTo(nextU, from, nextV)) / 2 * (nextU - u);
        u = nextU;
        v = nextV;
    }
    return sum;
}

/// The volume within its faces: of each the flux of place through it, by its loops as they are oriented.
double volumeOf(const Part21& file, int solid) {
    const int shell = file.refs(solid).front();
    double three = 0;
    for (const int face : file.refs(shell)) {
        EXPECT_EQ(file.at(face).name, "ADVANCED_FACE");
        const auto bounds = file.refs(face);
        const int surface = bounds.back();
        const std::string& kind = file.at(surface).name;
        const bool turned = kind == "CYLINDRICAL_SURFACE" || kind == "CONICAL_SURFACE" || kind == "SPHERICAL_SURFACE";
        Round round{kind, {}};
        if (turned) {
            round.f = frameOf(file, file.refs(surface).front());
            const std::string& inside = file.at(surface).inside;
            round.r = std::stod(inside.substr(inside.find(',', inside.find('#')) + 1));
            // In radians: the file's unit of angle.
            if (kind == "CONICAL_SURFACE") round.slope = std::tan(std::stod(inside.substr(inside.rfind(',') + 1)));
        } else
            // Between straight edges in one plane, whatever it is called.
            EXPECT_TRUE(kind == "PLANE" || kind == "B_SPLINE_SURFACE_WITH_KNOTS") << kind;
        for (std::size_t b = 0; b + 1 < bounds.size(); ++b) {
            const bool sameLoop = file.at(bounds[b]).inside.rfind(".T.") != std::string::npos;
            std::vector<Vec3> ring;
            for (const int oriented : file.refs(file.refs(bounds[b]).front())) {
                const bool forwards = file.at(oriented).inside.rfind(".T.") != std::string::npos;
                const int edge = file.refs(oriented).back();
                const bool sameCurve = file.at(edge).inside.rfind(".T.") != std::string::npos;
                const auto parts = file.refs(edge);
                const Vec3 from = vec(file, file.refs(parts[0]).front()), to = vec(file, file.refs(parts[1]).front());
                std::vector<Vec3> line = sameCurve ? along(file, parts[2], from, to) : along(file, parts[2], to, from);
                line.push_back(sameCurve ? to : from);
                if (sameCurve != forwards) std::reverse(line.begin(), line.end());
                ring.insert(ring.end(), line.begin(), line.end() - 1);
            }
            double flux = 0;
            if (!turned) {
                Vec3 area;
                for (std::size_t i = 0; i < ring.size(); ++i)
                    area = area + 0.5 * cross(ring[i], ring[(i + 1) % ring.size()]);
                flux = dot(area, ring.front());
            } else
                flux = fluxWithin(round, ring);
            // A loop runs counter-clockwise around its material, seen from outside.
            three += sameLoop ? flux : -flux;
        }
    }
    return three / 3;
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

TEST(StepReader, FindsTheVolumesOfRoundSolids) {
    SolidsToMake all;
    const Pose turned = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {7, 1, 2}}, turnAbout({1, 2, 3}, 50));
    // A pin, a housing with a bore, a slot with round ends, a cone cut off, a point, a dome, all turned.
    all.bodies.push_back({"pin", kNoColour, Prism{flatCircle(2, 1, 1.2), -3, 5}, turned, {}});
    MadeBody bored{"bored", kNoColour, Prism{flatRectangle(-5, -4, 5, 4), 0, 6}, turned, {}};
    bored.cut = {Prism{flatCircle(1, 0, 3), -1, 7}};
    all.bodies.push_back(bored);
    const double b = 1;  // a half circle: bulge 1
    all.bodies.push_back({"slotted",
                          kNoColour,
                          Prism{{{{-1, -0.5, 0}, {1, -0.5, b}, {1, 0.5, 0}, {-1, 0.5, b}}, {}}, 0, 2},
                          turned,
                          {}});
    all.bodies.push_back(
        {"cut cone", kNoColour, TurnedProfile{{{0, 0, 0}, {2, 0, 0}, {1, 3, 0}, {0, 3, 0}}}, turned, {}});
    all.bodies.push_back({"point", kNoColour, TurnedProfile{{{0, 0, 0}, {2, 0, 0}, {0, 3, 0}}}, turned, {}});
    all.bodies.push_back(
        {"dome", kNoColour, TurnedProfile{{{0, 0, 0}, {2, 0, std::tan(M_PI / 8)}, {0, 2, 0}}}, turned, {}});
    const Found found = readBack(all);
    std::vector<double> volumes,
        expected = {M_PI * 0.36 * 8,  6 * (80 - M_PI * 2.25), 2 * (2 + M_PI * 0.25), M_PI * 3 / 3 * (4 + 2 + 1),
                    M_PI * 4 * 3 / 3, 2 * M_PI * 8 / 3};
    for (const auto& [name, v] : found.volumes) volumes.push_back(v);
    std::sort(volumes.begin(), volumes.end());
    std::sort(expected.begin(), expected.end());
    ASSERT_EQ(volumes.size(), expected.size());
    for (std::size_t i = 0; i < volumes.size(); ++i) EXPECT_NEAR(volumes[i] / expected[i], 1, 2e-6) << expected[i];
    for (const char* name : {"pin", "bored", "slotted", "cut cone", "point", "dome"})
        EXPECT_TRUE(found.names.contains(name)) << name;
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
}  // namespace punch::step_reader_test
