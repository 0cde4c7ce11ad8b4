#include "core/dress/mark_table.h"

#include "core/dress/stroke_text.h"

namespace punch {

DrawMark drawerOf(MarkKind kind) {
    switch (kind) {
        case MarkKind::FirstPin: return drawFirstPin;
        case MarkKind::Notch: return drawNotch;
        case MarkKind::Landmark: return drawLandmark;
        case MarkKind::Sign: return drawSign;
        case MarkKind::PinText: return drawPinTexts;
        case MarkKind::Text: return drawText;
        case MarkKind::Drawing: return drawDrawing;
        case MarkKind::Logo: return drawLogo;
        case MarkKind::Keepout:
        case MarkKind::Travel:
        case MarkKind::CutOut:
        case MarkKind::CopperArea:
        case MarkKind::Opening:
        case MarkKind::ThermalVias:
        case MarkKind::SurfaceLands:
        case MarkKind::Fiducial: break;
    }
    return nullptr;
}

std::vector<InkLayer> inkLayersOf(const Mark& mark) {
    const std::string layer = valueOf(mark, "layer");
    if (layer == "both") return {InkLayer::TopSilkscreen, InkLayer::Assembly};
    if (layer == "bottom silkscreen") return {InkLayer::BottomSilkscreen};
    // A logo may be copper, or an opening of the mask.
    if (layer.ends_with("copper") || layer.ends_with("mask")) return {};
    return {layer == "assembly" ? InkLayer::Assembly : InkLayer::TopSilkscreen};
}

void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, std::vector<Point> line) {
    const Stroke stroke{std::move(line), laid.length("line"), mark.name, false, mark.id, laid.firm};
    for (const InkLayer layer : inkLayersOf(mark)) scene.ink.add(layer, stroke);
}

void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Polygons area) {
    const InkArea ink{std::move(area), mark.name, false, mark.id, laid.firm};
    for (const InkLayer layer : inkLayersOf(mark)) scene.ink.add(layer, ink);
}

void printText(const MarkScene& scene, const Mark& mark, const LaidMark& laid, const std::string& text, Point middle,
               Length height, double turn) {
    for (const InkLayer layer : inkLayersOf(mark))
        for (Stroke s : strokeText(text, middle, height, laid.length("line"), mark.name)) {
            for (Point& p : s.points) {
                // On the solder side a text reads from below.
                if (layer == InkLayer::BottomSilkscreen) p.x = 2.0 * middle.x - p.x;
                p = turned(p, middle, turn);
            }
            s.mark = mark.id;
            s.firm = laid.firm;
            scene.ink.add(layer, s);
        }
}

std::string withFields(const Part& part, std::string text) {
    const std::pair<const char*, std::string> fields[] = {
        {"{reference}", part.reference + "1"}, {"{name}", part.name}, {"{description}", part.description}};
    for (const auto& [field, value] : fields)
        for (std::size_t at = text.find(field); at != std::string::npos; at = text.find(field, at + value.size()))
            text.replace(at, std::string_view(field).size(), value);
    return text;
}

}  // namespace punch
