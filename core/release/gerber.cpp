#include "core/release/gerber.h"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <optional>

#include "core/clear/spacing.h"
#include "core/version.h"

namespace punch {
namespace {

std::string escaped(const std::string& text) {
    // Attribute values may not hold , * % or a backslash (specification, 3.4.3).
    std::string out;
    for (const char c : text) out += c == ',' || c == '*' || c == '%' || c == '\\' ? '_' : c;
    return out;
}

/// Writes one image: apertures are defined when first used, objects follow in order.
class Image {
public:
    void aperture(const std::string& shape, const std::string& function) {
        const std::string key = shape + "|" + function;
        auto it = codes_.find(key);
        if (it == codes_.end()) {
            it = codes_.emplace(key, next_++).first;
            if (!function.empty()) definitions_ += fmt::format("%TA.AperFunction,{}*%\n", function);
            definitions_ += fmt::format("%ADD{}{}*%\n", it->second, shape);
            if (!function.empty()) definitions_ += "%TD.AperFunction*%\n";
        }
        if (current_ != it->second) objects_ += fmt::format("D{}*\n", current_ = it->second);
    }
    void pin(const std::string& designator, const std::string& number) {
        objects_ += fmt::format("%TO.P,{},{}*%\n", designator, escaped(number));
    }
    void endPin() { objects_ += "%TD.P*%\n"; }
    void flash(Point p) { objects_ += fmt::format("{}D03*\n", at(p)); }
    void line(const std::vector<Point>& points) {
        if (points.empty()) return;
        objects_ += fmt::format("{}D02*\n", at(points.front()));
        for (std::size_t i = 1; i < points.size(); ++i) objects_ += fmt::format("{}D01*\n", at(points[i]));
    }
    /// A closed contour; arcs come as chords off by less than 0.1 µm.
    void region(const RoundedPolygon& shape) {
        const auto outline = outlineOf(shape, Length::fromNm(100));
        objects_ += "G36*\n";
        objects_ += fmt::format("{}D02*\n", at(outline.front()));
        for (std::size_t i = 1; i <= outline.size(); ++i)
            objects_ += fmt::format("{}D01*\n", at(outline[i % outline.size()]));
        objects_ += "G37*\n";
    }
    std::string text(const std::string& header) const {
        return header + definitions_ + "%LPD*%\nG01*\n" + objects_ + "M02*\n";
    }

private:
    static std::string at(Point p) { return fmt::format("X{}Y{}", std::llround(p.x.nm()), std::llround(p.y.nm())); }
    std::map<std::string, int> codes_;
    std::string definitions_, objects_;
    int next_ = 10;
    int current_ = 0;
};

std::string circle(Length d) { return fmt::format("C,{:.6f}", d.mm()); }
std::string rectangle(Length w, Length h) { return fmt::format("R,{:.6f}X{:.6f}", w.mm(), h.mm()); }

std::string obround(Length w, Length h) { return fmt::format("O,{:.6f}X{:.6f}", w.mm(), h.mm()); }

/// The standard aperture of a land; none when it is turned or of another shape.
std::optional<std::string> apertureOf(const Land& land) {
    if (land.shape == LandShape::Round) return circle(land.width);
    const double quarters = land.turn.degrees() / 90;
    if (std::abs(quarters - std::nearbyint(quarters)) > 1e-9) return {};
    const bool across = std::fmod(std::abs(std::nearbyint(quarters)), 2) == 1;
    const Length w = across ? land.length : land.width;
    const Length h = across ? land.width : land.length;
    switch (land.shape) {
        case LandShape::Square:
        case LandShape::Rectangle: return rectangle(w, h);
        case LandShape::Oval: return obround(w, h);
        default: return {};
    }
}

/// Flashes a land, or draws it as a region where no standard aperture has its shape.
void drawLand(Image& image, const Land& land, const std::string& function, const std::string& pin = {},
              const std::string& designator = {}) {
    const auto aperture = apertureOf(land);
    // A region carries the attributes of the aperture that is current, so one is chosen for it too.
    image.aperture(aperture.value_or(circle(min(land.width, land.length))), function);
    if (!pin.empty()) image.pin(designator, pin);
    if (aperture)
        image.flash(land.at);
    else
        image.region(copperShape(land));
}

std::string fileFunction(BoardLayer layer) {
    switch (layer) {
        case BoardLayer::TopCopper: return "Copper,L1,Top";
        case BoardLayer::BottomCopper: return "Copper,L2,Bot";
        case BoardLayer::TopMask: return "Soldermask,Top";
        case BoardLayer::BottomMask: return "Soldermask,Bot";
        case BoardLayer::TopPaste: return "Paste,Top";
        case BoardLayer::BottomPaste: return "Paste,Bot";
        case BoardLayer::TopSilkscreen: return "Legend,Top";
        case BoardLayer::Outline: break;
    }
    return "Profile,NP";
}

std::string header(const Part& part, BoardLayer layer) {
    const bool mask = layer == BoardLayer::TopMask || layer == BoardLayer::BottomMask;
    std::string text = fmt::format("%TF.GenerationSoftware,Punchbit,Punchbit,{}*%\n", kVersion);
    text += fmt::format("%TF.Part,Single*%\n%TF.FileFunction,{}*%\n", fileFunction(layer));
    // A mask image shows the openings, so its polarity is negative (specification, 5.6.4).
    text += fmt::format("%TF.FilePolarity,{}*%\n", mask ? "Negative" : "Positive");
    text += "%TF.SameCoordinates,datum*%\n";
    text += fmt::format("G04 {} on its proof board; origin at the datum*\n", escaped(part.name));
    return text + "%FSLAX46Y46*%\n%MOMM*%\n";
}

}  // namespace

std::vector<BoardLayer> allBoardLayers() {
    return {BoardLayer::TopCopper, BoardLayer::BottomCopper, BoardLayer::TopMask,       BoardLayer::BottomMask,
            BoardLayer::TopPaste,  BoardLayer::BottomPaste,  BoardLayer::TopSilkscreen, BoardLayer::Outline};
}

std::string layerFileName(BoardLayer layer) {
    switch (layer) {
        case BoardLayer::TopCopper: return "top-copper";
        case BoardLayer::BottomCopper: return "bottom-copper";
        case BoardLayer::TopMask: return "top-mask";
        case BoardLayer::BottomMask: return "bottom-mask";
        case BoardLayer::TopPaste: return "top-paste";
        case BoardLayer::BottomPaste: return "bottom-paste";
        case BoardLayer::TopSilkscreen: return "top-silkscreen";
        case BoardLayer::Outline: break;
    }
    return "outline";
}

std::string gerber(const Part& part, const Footprint& footprint, const ProofBoard& board, BoardLayer layer) {
    Image image;
    const std::string designator = escaped(part.reference) + "1";
    switch (layer) {
        case BoardLayer::TopCopper:
        case BoardLayer::BottomCopper:
            for (const Pad& p : copperPads(footprint)) {
                const Land& land = layer == BoardLayer::TopCopper ? p.top : p.bottom;
                const bool surface = p.layers != PadLayers::Through;
                if (land.there())
                    drawLand(image, land, surface ? "SMDPad,CuDef" : "ComponentPad", p.number, designator);
            }
            if (!footprint.pads.empty()) image.endPin();
            if (layer == BoardLayer::TopCopper)
                for (const Point& f : board.fiducials) {
                    image.aperture(circle(ProofBoard::fiducialCopper()), "FiducialPad,Global");
                    image.flash(f);
                }
            break;
        case BoardLayer::TopMask:
        case BoardLayer::BottomMask:
            for (const Pad& p : copperPads(footprint)) {
                const bool top = layer == BoardLayer::TopMask;
                const Land& land = top ? p.top : p.bottom;
                if (!opensMask(p, top ? CopperLayer::Top : CopperLayer::Bottom)) continue;
                drawLand(image, grown(land, p.maskMargin), "Material");
            }
            // Mask is kept off a bare hole, as its wall would break it.
            for (const BareHole& h : footprint.bareHoles) {
                if (h.plated) continue;
                image.aperture(circle(h.size + 2.0 * part.rules.fab.maskMargin), "Material");
                if (h.slotLength > Length()) {
                    RoundedPolygon opening = holeShape(h, false);
                    opening.radius += part.rules.fab.maskMargin;
                    image.region(opening);
                } else {
                    image.flash(h.at);
                }
            }
            if (layer == BoardLayer::TopMask)
                for (const Point& f : board.fiducials) {
                    image.aperture(circle(ProofBoard::fiducialOpening()), "Material");
                    image.flash(f);
                }
            break;
        case BoardLayer::TopPaste:
        case BoardLayer::BottomPaste:  // plated holes take paste only when it is asked for, fiducials none
            for (const Pad& p : copperPads(footprint)) {
                const Land& land = layer == BoardLayer::TopPaste ? p.top : p.bottom;
                const bool here = layer == BoardLayer::TopPaste || p.layers == PadLayers::Bottom;
                if (p.paste && here && land.there()) drawLand(image, land, "Material");
            }
            break;
        case BoardLayer::TopSilkscreen:
            for (const Stroke& s : footprint.silkscreen) {
                image.aperture(circle(s.width), "Material");
                image.line(s.points);
            }
            break;
        case BoardLayer::Outline: {
            const Rect& r = board.outline;
            image.aperture(circle(Length::fromMm(0.1)), "Profile");
            image.line(
                {{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}, {r.left, r.bottom}});
            for (const CutShape& cut : footprint.cutOuts) {
                std::vector<Point> contour = outlineOf(cutShape(cut), Length::fromNm(1000));
                contour.push_back(contour.front());
                image.line(contour);
            }
            break;
        }
    }
    return image.text(header(part, layer));
}

}  // namespace punch
