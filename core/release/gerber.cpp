#include "core/release/gerber.h"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <optional>

#include "core/version.h"

namespace punch {
namespace {

/// Writes one image: apertures are defined when first used, objects follow in order.
class Image {
public:
    explicit Image(std::string designator) : designator_(std::move(designator)) {}
    void draw(const Shape& shape) {
        attach(shape);
        const std::string function = functionOf(shape.purpose);
        if (const Line* line = shape.line()) {
            aperture(circle(line->width), function, shape);
            return draw(line->points, shape);
        }
        if (const Polygons* rings = shape.polygons()) {
            const Rect box = boundsOf(*rings);
            aperture(circle(min(box.width(), box.height())), function, shape);
            for (const auto& ring : withoutHoles(*rings)) contour(ring, shape);
            return;
        }
        const RoundedPolygon& area = *shape.rounded();
        // A region carries the attributes of the aperture that is current, so one is chosen for it too.
        const auto standard = apertureOf(area);
        aperture(standard.value_or(circle(leastSide(area))), function, shape);
        if (standard)
            objects_ += fmt::format("{}D03*\n", at(boundsOf(area).middle(), shape));
        else
            region(area, shape);
    }
    Result<std::string> text(const std::string& header) {
        if (attached_) objects_ += "%TD.P*%\n";
        if (!wrong_.empty())
            return problem(wrong_, "Gerber", "Look at its readings and at what is set against the rule");
        return header + definitions_ + "%LPD*%\nG01*\n" + objects_ + "M02*\n";
    }

private:
    struct Aperture {
        std::string code;
        double least = 0;  ///< mm
    };
    static std::string functionOf(Purpose purpose) {
        switch (purpose) {
            case Purpose::ComponentPad: return "ComponentPad";
            case Purpose::SurfacePad: return "SMDPad,CuDef";
            case Purpose::Fiducial: return "FiducialPad,Global";
            case Purpose::LocalFiducial: return "FiducialPad,Local";
            case Purpose::Figure: return "NonConductor";
            case Purpose::PlatedCut:
            case Purpose::Cut: return "Profile";
            default: return "Material";
        }
    }
    static Aperture circle(Length d) { return {fmt::format("C,{:.6f}", d.mm()), d.mm()}; }
    static Length leastSide(const RoundedPolygon& area) {
        const Rect box = boundsOf(area);
        return min(box.width(), box.height());
    }
    /// The standard aperture of a disc, an upright rectangle or an upright oval.
    static std::optional<Aperture> apertureOf(const RoundedPolygon& area) {
        const std::vector<Point>& c = area.corners;
        if (c.size() == 1) return circle(2.0 * area.radius);
        const auto level = [](Length a, Length b) { return abs(a - b) < Length::fromNm(0.5); };
        const auto upright = [&](const Point& a, const Point& b) { return level(a.x, b.x) || level(a.y, b.y); };
        const Rect box = boundsOf(area);
        const auto sized = [&](char letter) {
            return Aperture{fmt::format("{},{:.6f}X{:.6f}", letter, box.width().mm(), box.height().mm()),
                            leastSide(area).mm()};
        };
        if (c.size() == 2 && upright(c[0], c[1])) return sized('O');
        const bool square = c.size() == 4 && area.radius <= Length() && upright(c[0], c[1]) && upright(c[1], c[2]) &&
                            upright(c[2], c[3]) && upright(c[3], c[0]);
        if (square) return sized('R');
        return {};
    }
    /// Copper of a pad carries its pin; other objects carry none.
    void attach(const Shape& shape) {
        // What is the board's own has no part: ":r1".
        const bool pin = (shape.purpose == Purpose::ComponentPad || shape.purpose == Purpose::SurfacePad) &&
                         !shape.id.starts_with(':');
        if (pin) {
            // On a trial board: "K2:p1" and "K2-1".
            const std::size_t colon = shape.id.find(':');
            const bool onBoard = colon != std::string::npos && shape.name.size() > colon;
            objects_ += fmt::format("%TO.P,{},{}*%\n", onBoard ? gerberText(shape.id.substr(0, colon)) : designator_,
                                    gerberText(onBoard ? shape.name.substr(colon + 1) : shape.name));
        } else if (attached_)
            objects_ += "%TD.P*%\n";
        attached_ = pin;
    }
    void aperture(const Aperture& wanted, const std::string& function, const Shape& of) {
        const std::string& shape = wanted.code;
        if (!(wanted.least >= 1e-6)) fail(of, "has no size");
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
    void draw(const std::vector<Point>& points, const Shape& of) {
        if (points.empty()) return;
        objects_ += fmt::format("{}D02*\n", at(points.front(), of));
        for (std::size_t i = 1; i < points.size(); ++i) objects_ += fmt::format("{}D01*\n", at(points[i], of));
    }
    void region(const RoundedPolygon& shape, const Shape& of) { contour(outlineOf(shape, Length::fromNm(100)), of); }
    void contour(const std::vector<Point>& outline, const Shape& of) {
        objects_ += "G36*\n";
        objects_ += fmt::format("{}D02*\n", at(outline.front(), of));
        for (std::size_t i = 1; i <= outline.size(); ++i)
            objects_ += fmt::format("{}D01*\n", at(outline[i % outline.size()], of));
        objects_ += "G37*\n";
    }
    std::string at(Point p, const Shape& of) {
        // Format 4.6: four digits before the point.
        const auto held = [](Length l) { return std::abs(l.mm()) < 9999.999999; };
        if (!held(p.x) || !held(p.y)) {
            fail(of, "lies 10 m or more away, which the format cannot hold");
            return {};
        }
        return fmt::format("X{}Y{}", std::llround(p.x.nm()), std::llround(p.y.nm()));
    }
    void fail(const Shape& of, const char* why) {
        if (wrong_.empty()) wrong_ = fmt::format("{} {}", of.name.empty() ? "a line" : of.name, why);
    }
    std::string designator_, wrong_;
    bool attached_ = false;
    std::map<std::string, int> codes_;
    std::string definitions_, objects_;
    int next_ = 10;
    int current_ = 0;
};

/// The digest as the identifier that the format asks for (specification, 5.6.8).
std::string guidOf(const std::string& digest) {
    if (digest.size() < 32) return {};
    return digest.substr(0, 8) + "-" + digest.substr(8, 4) + "-4" + digest.substr(13, 3) + "-8" + digest.substr(17, 3) +
           "-" + digest.substr(20, 12);
}

std::string header(const Part& part, const ProofBoard& board, const BoardLayerKind& kind, const Stamp& stamp) {
    std::string text = fmt::format("%TF.GenerationSoftware,Punchbit,Punchbit,{}*%\n", kVersion);
    text += fmt::format("%TF.Part,Single*%\n%TF.FileFunction,{}*%\n", kind.fileFunction);
    text += fmt::format("%TF.FilePolarity,{}*%\n", kind.negative ? "Negative" : "Positive");
    text += "%TF.SameCoordinates,datum*%\n";
    if (!stamp.line.empty())
        text += fmt::format("%TF.ProjectId,{},{},{}*%\n", gerberText(part.name), guidOf(stamp.digest), stamp.revision);
    for (const std::string& line : stamp.all()) text += fmt::format("G04 {}*\n", gerberText(line));
    text += board.name.empty() ? fmt::format("G04 {} on its proof board; origin at the datum*\n", gerberText(part.name))
                               : fmt::format("G04 {}*\n", gerberText(board.name));
    return text + "%FSLAX46Y46*%\n%MOMM*%\n";
}

}  // namespace

std::string gerberText(const std::string& text) {
    // Attribute values may not hold , * % or a backslash (specification, 3.4.3), nor control characters.
    std::string out;
    for (const char c : text)
        out += c == ',' || c == '*' || c == '%' || c == '\\' || static_cast<unsigned char>(c) < 0x20 ? '_' : c;
    return out;
}

Result<std::string> gerber(const Part& part, const Footprint& footprint, const ProofBoard& board, BoardLayer layer,
                           const Stamp& stamp) {
    Image image(gerberText(designatorOf(part)));
    for (const Shape& shape : boardArtwork(part, footprint, board, layer)) image.draw(shape);
    return image.text(header(part, board, boardLayer(layer), stamp));
}

}  // namespace punch
