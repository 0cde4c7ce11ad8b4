#include "core/foreign/ipc2581_pads.h"

#include <fmt/format.h>

#include <cmath>
#include <cstring>
#include <map>
#include <optional>
#include <pugixml.hpp>

#include "core/base/text_table.h"

namespace punch {
namespace {

double unitOf(const char* word) {
    const std::string u = lower(word);
    if (u == "inch") return 25.4;
    if (u == "micron") return 0.001;
    return 1;
}

struct Primitive {
    LandShape shape = LandShape::Round;
    double w = 0, h = 0;
};

/// The standard primitives that lands are made of; of an outline the box around it.
std::optional<Primitive> primitiveOf(const pugi::xml_node& node, double unit) {
    const std::string name = node.name();
    const auto value = [&](const char* key) { return node.attribute(key).as_double() * unit; };
    if (name == "Circle") return Primitive{LandShape::Round, value("diameter"), value("diameter")};
    if (name == "RectCenter" || name == "RectCham") {
        const double w = value("width"), h = value("height");
        return Primitive{std::abs(w - h) < 1e-9 ? LandShape::Square : LandShape::Rectangle, w, h};
    }
    if (name == "RectRound") return Primitive{LandShape::RoundedRectangle, value("width"), value("height")};
    if (name == "RectCorner") {
        const double w = std::abs(value("upperRightX") - value("lowerLeftX")),
                     h = std::abs(value("upperRightY") - value("lowerLeftY"));
        return Primitive{LandShape::Rectangle, w, h};
    }
    if (name == "Oval") return Primitive{LandShape::Oval, value("width"), value("height")};
    if (name == "Octagon") {
        const double across = value("length") * std::cos(3.14159265358979323846 / 8);
        return Primitive{LandShape::Octagon, across, across};
    }
    if (name == "Donut") return Primitive{LandShape::Round, value("outerDiameter"), value("outerDiameter")};
    if (name == "Contour" || name == "Polygon") {
        const pugi::xml_node polygon = name == "Contour" ? node.child("Polygon") : node;
        double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
        for (const pugi::xml_node& step : polygon.children()) {
            const double x = step.attribute("x").as_double() * unit, y = step.attribute("y").as_double() * unit;
            left = std::min(left, x), right = std::max(right, x), low = std::min(low, y), high = std::max(high, y);
        }
        if (left <= right) return Primitive{LandShape::RoundedRectangle, right - left, high - low};
    }
    return {};
}

class Ipc2581Reader {
public:
    Result<ForeignFile> read(std::string_view text, const std::string& where) {
        pugi::xml_document document;
        const auto parsed = document.load_buffer(text.data(), text.size(), pugi::parse_default);
        if (!parsed) return problem(fmt::format("its XML ends in {}", parsed.description()), where, "Export it anew");
        const pugi::xml_node root = document.child("IPC-2581");
        if (!root) return problem("this is no IPC-2581 file", where, "Its first element is IPC-2581");
        // Entries of dictionaries have units of their own.
        for (const pugi::xml_node& content : root.children("Content"))
            for (const pugi::xml_node& dictionary : content.children()) {
                if (std::strncmp(dictionary.name(), "DictionaryStandard", 18) != 0) continue;
                const double unit = unitOf(dictionary.attribute("units").as_string("MILLIMETER"));
                for (const pugi::xml_node& entry : dictionary.children("EntryStandard"))
                    for (const pugi::xml_node& one : entry.children())
                        if (const auto p = primitiveOf(one, unit)) entries_[entry.attribute("id").value()] = *p;
            }
        for (const pugi::xml_node& ecad : root.children("Ecad")) {
            unit_ = unitOf(ecad.child("CadHeader").attribute("units").as_string("MILLIMETER"));
            for (const pugi::xml_node& data : ecad.children("CadData")) {
                sideOfLayers(data);
                for (const pugi::xml_node& step : data.children("Step")) {
                    for (const pugi::xml_node& stack : step.children("PadStackDef"))
                        stacks_[stack.attribute("name").value()] = stack;
                    for (const pugi::xml_node& package : step.children("Package")) take(package);
                }
            }
        }
        if (file_.patterns.empty())
            return problem("none of its packages has pads", where, "Export it with land patterns");
        return std::move(file_);
    }

private:
    void sideOfLayers(const pugi::xml_node& data) {
        for (const pugi::xml_node& layer : data.children("Layer"))
            sides_[layer.attribute("name").value()] = layer.attribute("side").value();
    }

    std::optional<Primitive> shapeIn(const pugi::xml_node& node) {
        for (const pugi::xml_node& child : node.children()) {
            if (std::strcmp(child.name(), "StandardPrimitiveRef") == 0) {
                const auto it = entries_.find(child.attribute("id").value());
                if (it != entries_.end()) return it->second;
            }
            if (const auto p = primitiveOf(child, unit_)) return p;
        }
        return {};
    }

    void take(const pugi::xml_node& package) {
        ForeignPattern pattern;
        pattern.name = package.attribute("name").value();
        pugi::xml_node source = package.child("LandPattern");
        if (!source.child("Pad")) source = package;
        for (const pugi::xml_node& node : source.children()) {
            const bool pad = std::strcmp(node.name(), "Pad") == 0, pin = std::strcmp(node.name(), "Pin") == 0;
            if (!pad && !pin) continue;
            if (pattern.pads.size() >= kMostForeignPads) break;
            ForeignPad p;
            p.x = node.child("Location").attribute("x").as_double() * unit_;
            p.y = node.child("Location").attribute("y").as_double() * unit_;
            p.turn = node.child("Xform").attribute("rotation").as_double();
            p.number = pad ? node.child("PinRef").attribute("pin").value() : node.attribute("number").value();
            std::optional<Primitive> shape = shapeIn(node);
            const auto stack = stacks_.find(node.attribute("padstackDefRef").value());
            if (stack != stacks_.end()) {
                const pugi::xml_node hole = stack->second.child("PadstackHoleDef");
                if (hole) {
                    p.hole = hole.attribute("diameter").as_double() * unit_;
                    p.holeX = hole.attribute("x").as_double() * unit_;
                    p.holeY = hole.attribute("y").as_double() * unit_;
                    p.plated = std::strcmp(hole.attribute("platingStatus").as_string("PLATED"), "NONPLATED") != 0;
                }
                // The outer layer's pad: the top's, else any regular one.
                for (const bool top : {true, false})
                    for (const pugi::xml_node& def : stack->second.children("PadstackPadDef")) {
                        const bool regular = std::strcmp(def.attribute("padUse").as_string("REGULAR"), "REGULAR") == 0;
                        const bool onTop = sides_[def.attribute("layerRef").value()] == "TOP";
                        if (!shape && regular && (onTop || !top)) shape = shapeIn(def);
                    }
            }
            if (shape) {
                p.shape = shape->shape;
                p.landX = shape->w;
                p.landY = shape->h;
            }
            if (!p.plated) p.landX = p.landY = 0;
            if (p.landX <= 0 && p.hole <= 0) {
                ++bare_;
                continue;
            }
            pattern.pads.push_back(std::move(p));
        }
        if (!pattern.pads.empty()) file_.patterns.push_back(std::move(pattern));
        if (bare_ > 0) {
            file_.notes.push_back(
                fmt::format("{}: {} pads of no size are left out", package.attribute("name").value(), bare_));
            bare_ = 0;
        }
    }

    ForeignFile file_;
    std::map<std::string, Primitive> entries_;
    std::map<std::string, pugi::xml_node> stacks_;
    std::map<std::string, std::string> sides_;
    double unit_ = 1;
    int bare_ = 0;
};

}  // namespace

Result<ForeignFile> padsFromIpc2581(std::string_view text, const std::string& where) {
    return Ipc2581Reader().read(text, where);
}

}  // namespace punch
