#include "core/foreign/csv_pads.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/text_table.h"
#include "core/part/names.h"

namespace punch {
namespace {

enum class Column { Number, X, Y, Hole, SlotLength, SlotTurn, LandX, LandY, Turn, Shape, Kind };

/// What headings are called, without units and signs.
constexpr std::pair<const char*, Column> kHeadings[] = {
    {"number", Column::Number}, {"pad", Column::Number}, {"pin", Column::Number}, {"no", Column::Number},
    {"designator", Column::Number}, {"x", Column::X}, {"posx", Column::X}, {"xpos", Column::X}, {"centrex", Column::X},
    {"centerx", Column::X}, {"y", Column::Y}, {"posy", Column::Y}, {"ypos", Column::Y}, {"centrey", Column::Y},
    {"centery", Column::Y}, {"hole", Column::Hole}, {"drill", Column::Hole}, {"holesize", Column::Hole},
    {"drillsize", Column::Hole}, {"land", Column::LandX}, {"padsize", Column::LandX}, {"diameter", Column::LandX},
    {"width", Column::LandX}, {"landwidth", Column::LandX}, {"sizex", Column::LandX}, {"landlength", Column::LandY},
    {"length", Column::LandY}, {"height", Column::LandY}, {"sizey", Column::LandY}, {"rotation", Column::Turn},
    {"turn", Column::Turn}, {"landturn", Column::Turn}, {"angle", Column::Turn}, {"shape", Column::Shape},
    {"landshape", Column::Shape}, {"kind", Column::Kind}, {"plated", Column::Kind}, {"type", Column::Kind},
    {"slotlength", Column::SlotLength}, {"slotturn", Column::SlotTurn}};

/// A number as people write it: "1.27", "1,27", with a unit behind.
std::optional<double> number(std::string text, double unit) {
    text = trimmed(text);
    if (text.empty()) return {};
    for (const auto& [word, mm] : {std::pair{"mil", 0.0254}, {"mm", 1.0}, {"inch", 25.4}, {"in", 25.4}})
        if (text.ends_with(word)) {
            unit = mm;
            text = trimmed(text.substr(0, text.size() - std::string(word).size()));
            break;
        }
    if (text.find('.') == std::string::npos) std::replace(text.begin(), text.end(), ',', '.');
    try {
        std::size_t used = 0;
        const double v = std::stod(text, &used);
        if (used == text.size() && std::isfinite(v) && std::abs(v * unit) < 1e4) return v * unit;
    } catch (const std::exception&) {
    }
    return {};
}

struct Heading {
    Column column;
    double unit = 1;
};

std::optional<Heading> headingOf(const std::string& cell) {
    std::string word;
    const std::string small = lower(cell);
    double unit = 1;
    for (const char c : small)
        if (std::isalpha(static_cast<unsigned char>(c)) != 0) word += c;
    for (const auto& [ending, mm] : {std::pair{"mil", 0.0254}, {"inch", 25.4}, {"deg", 1.0}, {"mm", 1.0}})
        if (word.size() > std::string(ending).size() && word.ends_with(ending)) {
            unit = mm;
            word.erase(word.size() - std::string(ending).size());
            break;
        }
    for (const auto& [name, column] : kHeadings)
        if (word == name) return Heading{column, unit};
    return {};
}

}  // namespace

Result<ForeignFile> padsFromCsv(std::string_view raw, const std::string& name) {
    const std::string text = asUtf8(raw);
    const auto rows = rowsOf(text, separatorOf(text));
    std::map<Column, std::pair<std::size_t, double>> at;
    std::size_t first = 0;
    for (; first < rows.size() && first < 50; ++first) {
        at.clear();
        for (std::size_t i = 0; i < rows[first].size(); ++i)
            if (const auto h = headingOf(rows[first][i])) at.emplace(h->column, std::pair{i, h->unit});
        if (at.contains(Column::X) && at.contains(Column::Y)) break;
    }
    if (!at.contains(Column::X) || !at.contains(Column::Y))
        return problem("no line names the columns x and y", name, "Begin the table with headings, as in “number, x, y, hole, land”");
    ForeignFile file;
    ForeignPattern pattern;
    pattern.name = name;
    int left = 0;
    for (std::size_t i = first + 1; i < rows.size() && pattern.pads.size() < kMostForeignPads; ++i) {
        const auto& row = rows[i];
        const auto cell = [&](Column c) {
            const auto it = at.find(c);
            return it == at.end() || it->second.first >= row.size() ? std::string() : row[it->second.first];
        };
        const auto value = [&](Column c) {
            const auto it = at.find(c);
            return it == at.end() ? std::optional<double>() : number(cell(c), it->second.second);
        };
        const auto x = value(Column::X), y = value(Column::Y);
        if (!x || !y) {
            ++left;
            continue;
        }
        ForeignPad p;
        p.number = cell(Column::Number);
        p.x = *x;
        p.y = *y;
        p.hole = std::max(value(Column::Hole).value_or(0), 0.0);
        p.slotLength = std::max(value(Column::SlotLength).value_or(0), 0.0);
        p.slotTurn = value(Column::SlotTurn).value_or(0);
        p.landX = std::max(value(Column::LandX).value_or(0), 0.0);
        p.landY = std::max(value(Column::LandY).value_or(p.landX), 0.0);
        p.turn = value(Column::Turn).value_or(0);
        const std::string kind = lower(cell(Column::Kind));
        p.plated = kind != "bare" && kind != "no" && kind != "npth" && kind != "unplated" && kind != "false" && kind != "0";
        const std::string shape = lower(cell(Column::Shape));
        p.shape = std::abs(p.landX - p.landY) > 1e-9 ? LandShape::Oval : LandShape::Round;
        for (const auto& [value_, word] : Names<LandShape>::table)
            if (shape == word) p.shape = value_;
        if (shape.starts_with("rect") && p.shape != LandShape::Rectangle) p.shape = LandShape::Rectangle;
        pattern.pads.push_back(std::move(p));
    }
    if (pattern.pads.empty()) return problem("no line has a place", name, "Write x and y as numbers under their headings");
    if (left > 0) file.notes.push_back(fmt::format("{} lines without a place are left out", left));
    file.patterns.push_back(std::move(pattern));
    return file;
}

}  // namespace punch
