#pragma once
// What a DXF says, before it is laid into a page: entities in drawing units, x right, y up, blocks expanded.

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace punch::dxf {

struct Dot {
    double x = 0, y = 0;
};

struct Path {
    std::vector<Dot> points;
    bool closed = false, chords = false;
};

/// Counter-clockwise from `from` by `sweep`, degrees.
struct Arc {
    Dot centre;
    double radius = 0, from = 0, sweep = 360;
};

struct Text {
    Dot middle;
    double height = 0, turn = 0;  ///< degrees, counter-clockwise; height 0 of a dimension: that of the file
    std::string text;             ///< cleaned, UTF-8
    std::optional<std::pair<Dot, Dot>> spans;
};

/// A block's use within another one or the model.
struct Insert {
    std::string block;
    Dot at;
    double sx = 1, sy = 1, turn = 0;
    int columns = 1, rows = 1;
    double columnStep = 0, rowStep = 0;
};

struct Entities {
    Dot base;  ///< of a block
    std::vector<Path> paths;
    std::vector<Arc> arcs;
    std::vector<Text> texts;
    std::vector<Insert> inserts;
    std::size_t count() const { return paths.size() + arcs.size() + texts.size(); }
};

struct File {
    std::string version;         ///< "AC1015"; empty when the file states none
    int insUnits = 0;            ///< 0 when it states none
    double dimensionHeight = 0;  ///< of the texts of dimensions, as the header states it; 0 when it does not
    Entities model, paper;
    std::map<std::string, Entities> blocks;
    std::size_t skipped = 0;  ///< entities with numbers that are none
};

inline constexpr std::size_t kMostEntities = 400'000;

/// Reads with dxflib. False when the text is none of DXF.
bool readEntities(const std::string& text, File& into);

/// The model with its blocks in place. False when they are more than kMostEntities.
bool expand(const File& file, const Entities& from, Entities& into);

/// Text without the codes of DXF: "%%c1.65%%p0.1" -> "Ø1.65±0.1"; Latin-1 becomes UTF-8.
std::string cleanText(const std::string& raw);

}  // namespace punch::dxf
