#include "core/artwork/artwork.h"

namespace punch {
namespace {

Purpose padPurpose(const Conductor& metal) {
    if (metal.fiducial) return metal.local ? Purpose::LocalFiducial : Purpose::Fiducial;
    return metal.layers == PadLayers::Through ? Purpose::ComponentPad : Purpose::SurfacePad;
}

Shape landOf(const Conductor& metal, const Land& land, Purpose purpose) {
    return {purpose, metal.id, metal.number, copperShape(land), metal.firm && metal.sized};
}

std::vector<Shape> copper(const Results& f, CopperLayer layer) {
    std::vector<Shape> shapes;
    for (const Conductor& c : f.board().copper())
        if (const Land& land = landOn(c, layer); land.there() && !c.outlined)
            shapes.push_back(landOf(c, land, padPurpose(c)));
    for (const MarkFigure& figure : f.attached.figures)
        if (layer == (figure.top ? CopperLayer::Top : CopperLayer::Bottom))
            shapes.push_back({Purpose::Figure, figure.mark, figure.number, figure.area, figure.firm});
    return shapes;
}

std::vector<Shape> openings(const Part& part, const Results& f, CopperLayer layer) {
    std::vector<Shape> shapes;
    for (const Conductor& c : f.board().copper())
        if (opensMask(c, layer)) shapes.push_back(landOf(c, grown(landOn(c, layer), c.maskMargin), Purpose::Opening));
    for (const MarkOpening& o : f.attached.openings)
        if (o.top == (layer == CopperLayer::Top))
            shapes.push_back({Purpose::Opening, o.mark, "opening", o.area, o.firm});
    // Mask is kept off a bare hole, as its wall would break it.
    for (const BareHole& h : f.bareHoles) {
        if (h.plated) continue;
        RoundedPolygon opening = holeShape(h, false);
        opening.radius += part.rules.fab.maskMargin;
        shapes.push_back({Purpose::Opening, h.id, h.name, opening, h.firm && h.sized});
    }
    return shapes;
}

/// Plated holes take paste only when it is asked for.
std::vector<Shape> paste(const Results& f, bool top) {
    std::vector<Shape> shapes;
    for (const MarkPaste& p : f.attached.pastes)
        if (p.top == top) shapes.push_back({Purpose::Paste, p.mark, "paste", p.area, p.firm});
    for (const Pad& p : f.pads) {
        const Land& land = top ? p.top : p.bottom;
        const bool here = top || p.layers == PadLayers::Bottom;
        if (p.paste && here && land.there()) shapes.push_back(landOf(p, land, Purpose::Paste));
    }
    return shapes;
}

std::vector<Shape> holes(const Results& f, bool plated) {
    std::vector<Shape> shapes;
    if (plated)
        for (const Conductor& c : f.board().copper()) {
            if (c.hole > Length())
                shapes.push_back({Purpose::Hole, c.id, c.number, holeShape(c, false), c.firm && c.sized});
        }
    else
        for (const BareHole& h : f.bareHoles)
            if (!h.plated) shapes.push_back({Purpose::Hole, h.id, h.name, holeShape(h, false), h.firm && h.sized});
    return shapes;
}

std::vector<Shape> courtyard(const Polygons& area, const char* name) {
    if (area.empty()) return {};
    return {{Purpose::Courtyard, {}, name, area}};
}

/// Its block and the pieces that were put on it; where some of its faces are loose each of them also as a line.
std::vector<Shape> body(const Results& f) {
    std::vector<Shape> shapes;
    if (f.body) {
        shapes.push_back(f.body->shape);
        if (f.body->traced()) shapes.back().form = united(f.body->shape.area());
    }
    for (const LaidMark& m : f.laid)
        if (const Shape* k = shapeOf(f.keepouts, m.id); k != nullptr && k->keeps.piece && m.area) {
            shapes.push_back(*k);
            shapes.back().form = polygonsOf(*m.area, Chords::Outside);
        }
    if (!f.body || f.body->traced() || f.body->allFirm()) return shapes;
    const BodyBox& b = *f.body;
    const Rect& r = b.rect;
    const Point leftFront{r.left, r.bottom}, rightFront{r.right, r.bottom}, rightRear{r.right, r.top},
        leftRear{r.left, r.top};
    const auto face = [&](const FeatureId& id, Side side, Point from, Point to) {
        shapes.push_back({Purpose::Body, id, id, Line{{from, to}, Length()}, b.firm[static_cast<int>(side)]});
    };
    face(kFrontFace, Side::Front, leftFront, rightFront);
    face(kRightFace, Side::Right, rightFront, rightRear);
    face(kRearFace, Side::Rear, rightRear, leftRear);
    face(kLeftFace, Side::Left, leftRear, leftFront);
    return shapes;
}

}  // namespace

const char* layerWords(Layer layer) {
    switch (layer) {
        case Layer::TopCopper: return "top copper";
        case Layer::InnerCopper: return "inner copper";
        case Layer::BottomCopper: return "bottom copper";
        case Layer::TopMask: return "top mask";
        case Layer::BottomMask: return "bottom mask";
        case Layer::TopPaste: return "top paste";
        case Layer::BottomPaste: return "bottom paste";
        case Layer::TopSilkscreen: return "top silkscreen";
        case Layer::BottomSilkscreen: return "bottom silkscreen";
        case Layer::Assembly: return "assembly";
        case Layer::PlatedHoles: return "plated holes";
        case Layer::BareHoles: return "bare holes";
        case Layer::CutOuts: return "cut-outs";
        case Layer::Body: return "body";
        case Layer::Keepouts: return "keepouts";
        case Layer::TopCourtyard: return "top courtyard";
        case Layer::BottomCourtyard: break;
    }
    return "bottom courtyard";
}

std::vector<Shape> artwork(const Part& part, const Results& f, Layer layer) {
    switch (layer) {
        case Layer::TopCopper: return copper(f, CopperLayer::Top);
        case Layer::InnerCopper: return copper(f, CopperLayer::Inner);
        case Layer::BottomCopper: return copper(f, CopperLayer::Bottom);
        case Layer::TopMask: return openings(part, f, CopperLayer::Top);
        case Layer::BottomMask: return openings(part, f, CopperLayer::Bottom);
        case Layer::TopPaste: return paste(f, true);
        case Layer::BottomPaste: return paste(f, false);
        case Layer::TopSilkscreen: return f.silkscreen;
        case Layer::BottomSilkscreen: return f.bottomSilkscreen;
        case Layer::Assembly: return f.assembly;
        case Layer::PlatedHoles: return holes(f, true);
        case Layer::BareHoles: return holes(f, false);
        case Layer::Body: return body(f);
        case Layer::CutOuts: return f.cutOuts;
        case Layer::Keepouts: {
            std::vector<Shape> shapes;
            for (const Shape& k : f.keepouts)
                if (!k.keeps.piece || k.keeps.travel) shapes.push_back(k);
            return shapes;
        }
        case Layer::TopCourtyard: return courtyard(f.courtyardTop, "courtyard");
        case Layer::BottomCourtyard: break;
    }
    return courtyard(f.courtyardBottom, "bottom courtyard");
}

std::vector<SeenCopper> seenCopper(const Part& part, const Results& f, bool fromBelow) {
    std::vector<SeenCopper> seen;
    for (const Shape& s : artwork(part, f, fromBelow ? Layer::BottomCopper : Layer::TopCopper))
        seen.push_back({s, false});
    for (const Conductor& c : f.board().copper())
        if (!(fromBelow ? c.bottom : c.top).there() && !c.outlined)
            seen.push_back({landOf(c, fromBelow ? c.top : c.bottom, padPurpose(c)), true});
    return seen;
}

}  // namespace punch
