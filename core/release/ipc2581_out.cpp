#include "core/release/ipc2581_out.h"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <pugixml.hpp>
#include <set>
#include <sstream>

#include "core/artwork/artwork.h"
#include "core/geometry/shapes.h"
#include "core/part/names.h"
#include "core/release/proof_board.h"
#include "core/release/zero_orientation.h"
#include "core/version.h"

namespace punch {
namespace {

std::string ipcMm(Length l) { return fmt::format("{:.6f}", l.mm() + 0.0); }
std::string degrees(Angle a) {
    double d = std::fmod(a.degrees(), 360);
    if (d < 0) d += 360;
    return fmt::format("{:.6f}", d >= 359.9999995 ? 0.0 : d);
}

pugi::xml_node add(pugi::xml_node to, const char* name,
                   std::initializer_list<std::pair<const char*, std::string>> attributes = {}) {
    pugi::xml_node node = to.append_child(name);
    for (const auto& [key, value] : attributes) node.append_attribute(key) = value.c_str();
    return node;
}

/// A layer of the board as the standard names its function and side.
struct LayerRow {
    const char* name;
    const char* function;
    const char* side;
    Layer shows;
};
constexpr LayerRow kRows[] = {
    {"TOP_SILKSCREEN", "SILKSCREEN", "TOP", Layer::TopSilkscreen},
    {"TOP_PASTE", "SOLDERPASTE", "TOP", Layer::TopPaste},
    {"TOP_MASK", "SOLDERMASK", "TOP", Layer::TopMask},
    {"TOP_COPPER", "SIGNAL", "TOP", Layer::TopCopper},
    {"INNER_COPPER", "SIGNAL", "INTERNAL", Layer::InnerCopper},
    {"BOTTOM_COPPER", "SIGNAL", "BOTTOM", Layer::BottomCopper},
    {"BOTTOM_MASK", "SOLDERMASK", "BOTTOM", Layer::BottomMask},
    {"BOTTOM_PASTE", "SOLDERPASTE", "BOTTOM", Layer::BottomPaste},
    {"BOTTOM_SILKSCREEN", "SILKSCREEN", "BOTTOM", Layer::BottomSilkscreen},
    {"ASSEMBLY", "DOCUMENT", "TOP", Layer::Assembly},
    {"TOP_COURTYARD", "COURTYARD", "TOP", Layer::TopCourtyard},
    {"BOTTOM_COURTYARD", "COURTYARD", "BOTTOM", Layer::BottomCourtyard},
    {"KEEPOUTS", "DOCUMENT", "TOP", Layer::Keepouts},
};

class Writer {
public:
    Writer(const Part& part, const Footprint& f, const ProofBoard& board, const std::vector<IpcComponent>& components,
           const Stamp& stamp)
        : part_(part), f_(f), components_(components), stamp_(stamp), board_(board) {
        // Parts of one name that differ are packages of their own.
        for (const IpcComponent& c : components_) {
            Part like = *c.part;
            like.reference = part_.reference;
            std::size_t number = 1;
            std::string name = like.name;
            while (packages_.contains(name) && packages_.at(name).first != like)
                name = fmt::format("{} ({})", like.name, ++number);
            packages_.emplace(name, std::pair{like, c.footprint});
            packageOf_.push_back(name);
        }
    }

    std::string write() {
        pugi::xml_node declaration = document_.append_child(pugi::node_declaration);
        declaration.append_attribute("version") = "1.0";
        declaration.append_attribute("encoding") = "UTF-8";
        pugi::xml_node root = add(document_, "IPC-2581", {{"revision", "C"}, {"xmlns", "http://webstds.ipc.org/2581"}});
        pugi::xml_node content = add(root, "Content", {{"roleRef", "Owner"}});
        header(root);
        bill(root);
        ecad(root);
        // Dictionaries are known once everything has been drawn.
        fill(content);
        std::ostringstream out;
        document_.save(out, " ");
        return out.str();
    }

private:
    void header(pugi::xml_node root) {
        pugi::xml_node logistic = add(root, "LogisticHeader");
        add(logistic, "Role", {{"id", "Owner"}, {"roleFunction", "SENDER"}});
        add(logistic, "Enterprise", {{"id", "UNKNOWN"}, {"code", "NONE"}});
        add(logistic, "Person", {{"name", "UNKNOWN"}, {"enterpriseRef", "UNKNOWN"}, {"roleRef", "Owner"}});
        pugi::xml_node history = add(root, "HistoryRecord",
                                     {{"number", "1"},
                                      {"origination", "2000-01-01T00:00:00"},
                                      {"software", "Punchbit"},
                                      {"lastChange", "2000-01-01T00:00:00"}});
        std::string words;
        for (const std::string& line : stamp_.all()) words += (words.empty() ? "" : "; ") + line;
        if (words.empty()) words = part_.name;
        pugi::xml_node revision =
            add(history, "FileRevision",
                {{"fileRevisionId", stamp_.revision.empty() ? "1" : stamp_.revision}, {"comment", words}});
        pugi::xml_node package =
            add(revision, "SoftwarePackage", {{"name", "Punchbit"}, {"revision", kVersion}, {"vendor", "Punchbit"}});
        add(package, "Certification", {{"certificationStatus", "SELFTEST"}});
    }

    /// "K2:p1" on a trial board.
    static std::string designatorOnBoard(const FeatureId& id) {
        const std::size_t colon = id.find(':');
        return colon == std::string::npos ? std::string() : id.substr(0, colon);
    }

    bool anyBought() const {
        return std::any_of(components_.begin(), components_.end(),
                           [](const IpcComponent& c) { return isBought(c.part->kind); });
    }

    void bill(pugi::xml_node root) {
        if (!anyBought()) return;
        pugi::xml_node bom = add(root, "Bom", {{"name", "BILL"}});
        pugi::xml_node head = add(bom, "BomHeader", {{"assembly", part_.name}, {"revision", "1"}});
        add(head, "StepRef", {{"name", step()}});
        for (const auto& [name, package] : packages_) {
            const Part& part = package.first;
            if (!isBought(part.kind)) continue;
            const char* category = part.kind == PartKind::Loose ? "MECHANICAL" : "ELECTRICAL";
            pugi::xml_node item =
                add(bom, "BomItem",
                    {{"OEMDesignNumberRef", name},
                     {"quantity", std::to_string(std::count(packageOf_.begin(), packageOf_.end(), name))},
                     {"pinCount", std::to_string(package.second->pads.size())},
                     {"category", category},
                     {"description", part.description}});
            for (std::size_t i = 0; i < components_.size(); ++i)
                if (packageOf_[i] == name)
                    add(item, "RefDes",
                        {{"name", components_[i].designator},
                         {"packageRef", name},
                         {"populate", "true"},
                         {"layerRef", sideOf(components_[i])}});
            pugi::xml_node characteristics = add(item, "Characteristics", {{"category", category}});
            if (!part.value.empty())
                add(characteristics, "Textual",
                    {{"definitionSource", "OEM"},
                     {"textualCharacteristicName", "VALUE"},
                     {"textualCharacteristicValue", part.value}});
        }
    }

    const char* step() const { return board_.name.empty() ? "FOOTPRINT" : "BOARD"; }
    static const char* sideOf(const IpcComponent& c) { return c.frame.mirrored ? "BOTTOM_COPPER" : "TOP_COPPER"; }

    void fill(pugi::xml_node content) {
        add(content, "FunctionMode",
            {{"mode", "USERDEF"}, {"level", "1"}, {"comment", board_.name.empty() ? "land pattern" : "trial board"}});
        add(content, "StepRef", {{"name", step()}});
        for (const LayerRow& row : kRows) add(content, "LayerRef", {{"name", row.name}});
        for (const char* drill : {"PLATED_HOLES", "BARE_HOLES"}) add(content, "LayerRef", {{"name", drill}});
        if (anyBought()) add(content, "BomRef", {{"name", "BILL"}});
        pugi::xml_node lines = add(content, "DictionaryLineDesc", {{"units", "MILLIMETER"}});
        for (const auto& [width, id] : lines_)
            add(add(lines, "EntryLineDesc", {{"id", id}}), "LineDesc", {{"lineEnd", "ROUND"}, {"lineWidth", width}});
        pugi::xml_node standard = add(content, "DictionaryStandard", {{"units", "MILLIMETER"}});
        for (const auto& [key, entry] : primitives_) {
            pugi::xml_node node = add(standard, "EntryStandard", {{"id", entry.id}});
            pugi::xml_node shape = add(node, entry.name.c_str());
            for (const auto& [name, value] : entry.attributes) shape.append_attribute(name.c_str()) = value.c_str();
        }
    }

    // ---------------------------------------------------------------- shapes

    struct Entry {
        std::string id, name;
        std::vector<std::pair<std::string, std::string>> attributes;
    };

    std::string primitive(const std::string& name, std::vector<std::pair<std::string, std::string>> attributes) {
        std::string key = name;
        for (const auto& [k, v] : attributes) key += "|" + k + "=" + v;
        const auto [it, fresh] = primitives_.emplace(key, Entry{});
        if (fresh) it->second = {fmt::format("{}_{}", name, primitives_.size()), name, std::move(attributes)};
        return it->second.id;
    }

    std::string primitiveOf(const Land& land) {
        switch (land.shape) {
            case LandShape::Round: return primitive("Circle", {{"diameter", ipcMm(land.width)}});
            case LandShape::Square:
                return primitive("RectCenter", {{"width", ipcMm(land.width)}, {"height", ipcMm(land.width)}});
            case LandShape::Rectangle:
                return primitive("RectCenter", {{"width", ipcMm(land.width)}, {"height", ipcMm(land.length)}});
            case LandShape::Oval:
                return primitive("Oval", {{"width", ipcMm(land.width)}, {"height", ipcMm(land.length)}});
            case LandShape::RoundedRectangle:
                return primitive("RectRound", {{"width", ipcMm(land.width)},
                                               {"height", ipcMm(land.length)},
                                               {"radius", ipcMm(land.corner)},
                                               {"upperRight", "true"},
                                               {"upperLeft", "true"},
                                               {"lowerRight", "true"},
                                               {"lowerLeft", "true"}});
            case LandShape::Octagon: {
                // By the length from corner to corner; ours is across its flats.
                const double side = land.width.mm() / std::cos(std::acos(-1.0) / 8);
                return primitive("Octagon", {{"length", fmt::format("{:.6f}", side)}});
            }
            case LandShape::Polygon: break;
        }
        const Rect box = boundsOf(copperShape(land));
        return primitive("RectCenter", {{"width", ipcMm(box.width())}, {"height", ipcMm(box.height())}});
    }

    std::string line(Length width) {
        const std::string key = ipcMm(width);
        const auto [it, fresh] = lines_.emplace(key, "");
        if (fresh) it->second = fmt::format("LINE_{}", lines_.size());
        return it->second;
    }

    static void polygon(pugi::xml_node to, const char* name, const std::vector<Point>& ring, bool closed) {
        if (ring.empty()) return;
        pugi::xml_node node = add(to, name);
        add(node, "PolyBegin", {{"x", ipcMm(ring[0].x)}, {"y", ipcMm(ring[0].y)}});
        for (std::size_t i = 1; i < ring.size(); ++i)
            add(node, "PolyStepSegment", {{"x", ipcMm(ring[i].x)}, {"y", ipcMm(ring[i].y)}});
        if (closed) add(node, "PolyStepSegment", {{"x", ipcMm(ring[0].x)}, {"y", ipcMm(ring[0].y)}});
    }

    /// A shape as a feature: what is round as a circle, the rest as a contour or a line.
    void feature(pugi::xml_node set, const Shape& shape) {
        pugi::xml_node features = add(set, "Features");
        const RoundedPolygon* area = shape.rounded();
        if (area != nullptr && area->corners.size() == 1) {
            add(features, "Location", {{"x", ipcMm(area->corners[0].x)}, {"y", ipcMm(area->corners[0].y)}});
            add(features, "StandardPrimitiveRef",
                {{"id", primitive("Circle", {{"diameter", ipcMm(2.0 * area->radius)}})}});
            return;
        }
        add(features, "Location", {{"x", "0.000000"}, {"y", "0.000000"}});
        if (area != nullptr) {
            polygon(add(features, "Contour"), "Polygon", outlineOf(*area, Length::fromUm(1)), true);
        } else if (const Polygons* rings = shape.polygons()) {
            for (const auto& ring : *rings) polygon(add(features, "Contour"), "Polygon", ring, true);
        } else if (const Line* l = shape.line()) {
            if (l->points.size() < 2) {
                set.remove_child(features);
                return;
            }
            polygon(features, "Polyline", l->points, false);
            add(features.child("Polyline"), "LineDescRef", {{"id", line(max(l->width, Length::fromMm(0.05)))}});
        }
    }

    // ---------------------------------------------------------------- the board

    static const char* layerOf(CopperLayer layer) {
        return layer == CopperLayer::Top     ? "TOP_COPPER"
               : layer == CopperLayer::Inner ? "INNER_COPPER"
                                             : "BOTTOM_COPPER";
    }

    /// A padstack for each different one of hole and lands.
    std::string padstack(const Conductor& c) {
        std::string key = fmt::format("{} {} {}", c.hole.nm(), c.slotLength.nm(), c.slotTurn.degrees());
        for (const CopperLayer layer : kCopperLayers) {
            const Land& l = landOn(c, layer);
            key += l.there() ? fmt::format("|{} {} {}", primitiveOf(l), (l.at.x - c.at.x).nm(), (l.at.y - c.at.y).nm())
                             : "|";
        }
        const auto [it, fresh] = stacks_.emplace(key, std::pair{std::string(), &c});
        if (fresh) it->second.first = fmt::format("PADSTACK_{}", stacks_.size());
        return it->second.first;
    }

    void writeStacks(pugi::xml_node step) {
        for (const auto& [key, stack] : stacks_) {
            const Conductor& c = *stack.second;
            pugi::xml_node def = add(step, "PadStackDef", {{"name", stack.first}});
            if (c.hole > Length())
                add(def, "PadstackHoleDef",
                    {{"name", "HOLE"},
                     {"diameter", ipcMm(c.hole)},
                     {"platingStatus", "PLATED"},
                     {"plusTol", ipcMm(c.holeLargest - c.hole)},
                     {"minusTol", ipcMm(Length())},
                     {"x", ipcMm(Length())},
                     {"y", ipcMm(Length())}});
            for (const CopperLayer layer : kCopperLayers) {
                const Land& l = landOn(c, layer);
                if (!l.there()) continue;
                pugi::xml_node pad = add(def, "PadstackPadDef", {{"layerRef", layerOf(layer)}, {"padUse", "REGULAR"}});
                add(pad, "Location", {{"x", ipcMm(l.at.x - c.at.x)}, {"y", ipcMm(l.at.y - c.at.y)}});
                add(pad, "StandardPrimitiveRef", {{"id", primitiveOf(l)}});
            }
        }
    }

    void ecad(pugi::xml_node root) {
        pugi::xml_node ecad = add(root, "Ecad", {{"name", part_.name}});
        add(ecad, "CadHeader", {{"units", "MILLIMETER"}});
        pugi::xml_node data = add(ecad, "CadData");
        for (const LayerRow& row : kRows)
            add(data, "Layer",
                {{"name", row.name}, {"layerFunction", row.function}, {"side", row.side}, {"polarity", "POSITIVE"}});
        for (const char* drill : {"PLATED_HOLES", "BARE_HOLES"}) {
            pugi::xml_node layer =
                add(data, "Layer",
                    {{"name", drill}, {"layerFunction", "DRILL"}, {"side", "ALL"}, {"polarity", "POSITIVE"}});
            add(layer, "Span", {{"fromLayer", "TOP_COPPER"}, {"toLayer", "BOTTOM_COPPER"}});
        }
        pugi::xml_node step = add(data, "Step", {{"name", this->step()}});
        for (const auto& [name, package] : packages_) {
            for (const Pad& p : package.second->pads) (void)padstack(p);
            for (const Conductor& c : package.second->attached.lands)
                if (!c.outlined) (void)padstack(c);
        }
        writeStacks(step);
        add(step, "Datum", {{"x", ipcMm(Length())}, {"y", ipcMm(Length())}});
        pugi::xml_node profile = add(step, "Profile");
        const Polygons rings = board_.rings.empty() ? polygonsOf(rectangleRing(board_.outline)) : board_.rings;
        for (std::size_t i = 0; i < rings.size(); ++i) polygon(profile, i == 0 ? "Polygon" : "Cutout", rings[i], true);
        for (const auto& [name, package] : packages_) writePackage(step, name, package.first, *package.second);
        for (std::size_t i = 0; i < components_.size(); ++i) {
            const IpcComponent& c = components_[i];
            if (!isPlaced(c.part->kind)) continue;
            pugi::xml_node component = add(step, "Component",
                                           {{"refDes", c.designator},
                                            {"packageRef", packageOf_[i]},
                                            {"layerRef", sideOf(c)},
                                            {"part", packageOf_[i]},
                                            {"mountType", throughHoles(*c.footprint) ? "THMT" : "SMT"}});
            if (c.frame.turn != Angle() || c.frame.mirrored) {
                pugi::xml_node xform = add(component, "Xform", {{"rotation", degrees(c.frame.turn)}});
                if (c.frame.mirrored) xform.append_attribute("mirror") = "true";
            }
            add(component, "Location", {{"x", ipcMm(c.frame.at.x)}, {"y", ipcMm(c.frame.at.y)}});
        }
        layers(step);
    }

    static bool throughHoles(const Footprint& f) {
        return std::any_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return p.hole > Length(); });
    }

    static const char* electrical(PinKind kind) {
        return kind == PinKind::NotConnected ? "UNDEFINED" : kind == PinKind::NotSaid ? "UNDEFINED" : "ELECTRICAL";
    }

    void writePackage(pugi::xml_node step, const std::string& name, const Part& part, const Footprint& f) {
        // What a land may refer to: pads, and surface lands, which have no pad of their own. The first of a number
        // counts.
        std::set<std::string> numbers;
        for (const Pad& p : f.pads) numbers.insert(p.number);
        std::vector<const Conductor*> onSurface;
        for (const Conductor& c : f.attached.lands)
            if (isSurfaceLand(c) && numbers.insert(c.number).second) onSurface.push_back(&c);
        const std::string first = !f.pads.empty()     ? f.pads.front().number
                                  : onSurface.empty() ? std::string()
                                                      : onSurface.front()->number;
        pugi::xml_node package = add(
            step, "Package", {{"name", name}, {"type", "OTHER"}, {"pinOne", first}, {"pinOneOrientation", "OTHER"}});
        if (f.body) {
            package.append_attribute("height") = ipcMm(f.body->height + part.body.standoff).c_str();
            package.append_attribute("comment") = part.description.c_str();
            pugi::xml_node outline = add(package, "Outline");
            polygon(outline, "Polygon", f.body->ring(), true);
            add(outline, "LineDescRef", {{"id", line(Length::fromMm(0.1))}});
            add(package, "PickupPoint", {{"x", ipcMm(pickPoint(f).x)}, {"y", ipcMm(pickPoint(f).y)}});
        }
        pugi::xml_node lands = add(package, "LandPattern");
        const auto pad = [&](const Conductor& c) {
            const Land& land = shownLand(c);
            pugi::xml_node node = add(lands, "Pad", {{"padstackDefRef", padstack(c)}});
            // A turned land is turned as a whole; its padstack lies along its own axes.
            if (land.turn.degrees() != 0 && land.shape != LandShape::Round)
                add(node, "Xform", {{"rotation", degrees(land.turn)}});
            add(node, "Location", {{"x", ipcMm(c.at.x)}, {"y", ipcMm(c.at.y)}});
            add(node, "StandardPrimitiveRef", {{"id", primitiveOf(land)}});
            if (numbers.contains(c.number)) add(node, "PinRef", {{"pin", c.number}});
        };
        for (const Pad& p : f.pads) pad(p);
        for (const Conductor& c : f.attached.lands)
            if (!c.outlined && !c.number.empty() && !c.fiducial) pad(c);
        const auto pinAt = [&](const std::string& number, const char* type, Point at) {
            const Pin* pin = nullptr;
            for (const Pin& one : part.pins)
                if (one.number == number) pin = &one;
            pugi::xml_node node = add(package, "Pin", {{"number", number}});
            if (pin != nullptr && !pin->names.empty()) node.append_attribute("name") = pin->names.front().c_str();
            node.append_attribute("type") = type;
            node.append_attribute("electricalType") = pin != nullptr ? electrical(pin->kind) : "UNDEFINED";
            add(node, "Location", {{"x", ipcMm(at.x)}, {"y", ipcMm(at.y)}});
            return node;
        };
        for (const Pad& p : f.pads) {
            const pugi::xml_node node = pinAt(p.number, p.hole > Length() ? "THRU" : "SURFACE", p.at);
            const Length lead = p.leadRound ? p.leadX : max(p.leadX, p.leadY);
            add(node, "StandardPrimitiveRef",
                {{"id", p.leadRound || lead <= Length()
                            ? primitive("Circle", {{"diameter", ipcMm(max(lead, Length::fromMm(0.1)))}})
                            : primitive("RectCenter", {{"width", ipcMm(max(p.leadX, Length::fromMm(0.01)))},
                                                       {"height", ipcMm(max(p.leadY, Length::fromMm(0.01)))}})}});
        }
        for (const Conductor* c : onSurface)
            add(pinAt(c->number, "SURFACE", c->at), "StandardPrimitiveRef", {{"id", primitiveOf(shownLand(*c))}});
    }

    void layers(pugi::xml_node step) {
        for (const LayerRow& row : kRows) {
            const auto shapes = artwork(part_, f_, row.shows);
            if (shapes.empty()) continue;
            pugi::xml_node layer = add(step, "LayerFeature", {{"layerRef", row.name}});
            for (const Shape& shape : shapes) {
                pugi::xml_node set = add(layer, "Set");
                if (shape.purpose == Purpose::ComponentPad || shape.purpose == Purpose::SurfacePad) {
                    set.append_attribute("padUsage") = "TERMINATION";
                    const std::string on = designatorOnBoard(shape.id);
                    set.append_attribute("componentRef") = (on.empty() ? components_.front().designator : on).c_str();
                } else if (!shape.name.empty()) {
                    // A keepout says what it keeps clear by its name.
                    set.append_attribute("comment") = shape.name.c_str();
                }
                feature(set, shape);
                if (!set.first_child()) layer.remove_child(set);
            }
        }
        int number = 0;
        for (const bool plated : {true, false}) {
            const auto shapes = artwork(part_, f_, plated ? Layer::PlatedHoles : Layer::BareHoles);
            if (shapes.empty()) continue;
            pugi::xml_node layer = add(step, "LayerFeature", {{"layerRef", plated ? "PLATED_HOLES" : "BARE_HOLES"}});
            for (const Shape& shape : shapes) {
                const RoundedPolygon& area = *shape.rounded();
                const Point middle = boundsOf(area).middle();
                pugi::xml_node set = add(layer, "Set");
                if (area.corners.size() == 1) {
                    add(set, "Hole",
                        {{"name", fmt::format("H{}", ++number)},
                         {"diameter", ipcMm(2.0 * area.radius)},
                         {"platingStatus", plated ? "PLATED" : "NONPLATED"},
                         {"plusTol", ipcMm(plated ? part_.rules.platedTolerance : part_.rules.bareTolerance)},
                         {"minusTol", ipcMm(Length())},
                         {"x", ipcMm(middle.x)},
                         {"y", ipcMm(middle.y)}});
                    continue;
                }
                pugi::xml_node slot = add(set, "SlotCavity",
                                          {{"name", fmt::format("H{}", ++number)},
                                           {"platingStatus", plated ? "PLATED" : "NONPLATED"},
                                           {"plusTol", ipcMm(Length())},
                                           {"minusTol", ipcMm(Length())}});
                add(slot, "Location", {{"x", "0.000000"}, {"y", "0.000000"}});
                pugi::xml_node outline = add(slot, "Outline");
                polygon(outline, "Polygon", outlineOf(area, Length::fromUm(1)), true);
                add(outline, "LineDescRef", {{"id", line(Length::fromMm(0.05))}});
            }
        }
    }

    const Part& part_;
    const Footprint& f_;
    const std::vector<IpcComponent>& components_;
    const Stamp& stamp_;
    const ProofBoard& board_;
    std::map<std::string, std::pair<Part, const Footprint*>> packages_;
    std::vector<std::string> packageOf_;  ///< of each component
    pugi::xml_document document_;
    std::map<std::string, Entry> primitives_;
    std::map<std::string, std::string> lines_;
    std::map<std::string, std::pair<std::string, const Conductor*>> stacks_;
};

}  // namespace

Result<std::string> ipc2581(const Part& part, const Footprint& f, const Stamp& stamp) {
    for (const Pad& p : f.pads)
        if (!std::isfinite(p.at.x.mm()) || !std::isfinite(p.at.y.mm()) || !(shownLand(p).width > Length()))
            return problem("pad " + p.number + " has no place or size", part.name, "Look at its readings");
    const ProofBoard board = proofBoard(f);
    const std::vector<IpcComponent> components{{&part, &f, designatorOf(part), {}}};
    return Writer(part, f, board, components, stamp).write();
}

Result<std::string> ipc2581(const Part& whole, const Footprint& all, const ProofBoard& board,
                            const std::vector<IpcComponent>& components, const Stamp& stamp) {
    for (const IpcComponent& c : components)
        for (const Pad& p : c.footprint->pads)
            if (!std::isfinite(p.at.x.mm()) || !std::isfinite(p.at.y.mm()) || !(shownLand(p).width > Length()))
                return problem("pad " + p.number + " has no place or size", c.designator, "Look at its readings");
    if (components.empty()) return problem("no part is on the board", board.name, "Place one");
    return Writer(whole, all, board, components, stamp).write();
}

}  // namespace punch
