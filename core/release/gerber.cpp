#include "core/release/gerber.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

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

std::string padShape(const Pad& p, Length larger) {
    return p.shape == PadShape::Rectangle ? rectangle(p.land + larger, p.land + larger) : circle(p.land + larger);
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
            for (const Pad& p : footprint.pads) {
                image.aperture(padShape(p, {}), "ComponentPad");
                image.pin(designator, p.number);
                image.flash(p.at);
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
            for (const Pad& p : footprint.pads) {
                image.aperture(padShape(p, 2.0 * maskMargin()), "Material");
                image.flash(p.at);
            }
            // Mask is kept off a bare hole, as its wall would break it.
            for (const BareHole& h : footprint.bareHoles) {
                image.aperture(circle(h.size + 2.0 * maskMargin()), "Material");
                image.flash(h.at);
            }
            if (layer == BoardLayer::TopMask)
                for (const Point& f : board.fiducials) {
                    image.aperture(circle(ProofBoard::fiducialOpening()), "Material");
                    image.flash(f);
                }
            break;
        case BoardLayer::TopPaste:
        case BoardLayer::BottomPaste: break;  // plated holes and fiducials take no paste
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
            break;
        }
    }
    return image.text(header(part, layer));
}

}  // namespace punch
