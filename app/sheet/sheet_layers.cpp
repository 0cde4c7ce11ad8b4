// The board as it is made, and layers by name.

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/sheet_painter.h"
#include "app/theme.h"

namespace punch {
namespace {

constexpr double kBoardAround = 1.5;  // mm of board beyond the courtyard
constexpr double kUnderMask = 0.38;   // how much of the copper's colour comes through it

QColor between(const QColor& a, const QColor& b, double share) {
    const auto mix = [&](int x, int y) { return static_cast<int>(x + (y - x) * share); };
    return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
}

/// Lines as wide as they are, areas as they are.
QPainterPath printed(const Shape& s, const SheetTransform& t) {
    const Line* line = s.line();
    if (line == nullptr) return pathOf(s, t);
    QPainterPath path;
    QPolygonF points;
    for (const Point& at : line->points) points << t.map(at);
    path.addPolygon(points);
    QPainterPathStroker pen;
    pen.setWidth(std::max(0.6, t.px(line->width)));
    pen.setCapStyle(Qt::RoundCap);
    pen.setJoinStyle(Qt::RoundJoin);
    return pen.createStroke(path);
}

}  // namespace

void SheetPainter::made(bool paste) {
    const bool below = t_.mirrored;
    // As much board as there is: around the part, and no further than its edge.
    Rect board = f_.courtyard;
    for (const Layer layer : {Layer::TopCopper, Layer::BottomCopper, Layer::TopSilkscreen, Layer::BottomSilkscreen})
        if (const Rect box = boundsOf(artwork(part_, f_, layer)); !box.empty) board.add(box);
    if (board.empty) return;
    board = board.grown(Length::fromMm(kBoardAround));
    for (const FaceLine& face : f_.faces) {
        const Face* edge = faceOf(part_, face.id);
        if (face.kind != FaceKind::BoardEdge || edge == nullptr) continue;
        if (face.axis == Axis::Along) (edge->positive ? board.right : board.left) = face.at;
        if (face.axis == Axis::Across) (edge->positive ? board.top : board.bottom) = face.at;
    }
    if (board.right <= board.left || board.top <= board.bottom) return;
    QPainterPath whole;
    whole.addRect(t_.map(board));
    for (const Shape& cut : artwork(part_, f_, Layer::CutOuts)) whole = whole.subtracted(pathOf(cut, t_));
    p_.setPen(cosmetic(theme::kInk, 1));
    p_.setBrush(theme::kMasked);
    p_.drawPath(whole);
    p_.save();
    p_.setClipPath(whole, Qt::IntersectClip);
    p_.setPen(Qt::NoPen);
    const auto fill = [&](Layer layer, const QColor& color) {
        p_.setBrush(color);
        for (const Shape& s : artwork(part_, f_, layer)) p_.drawPath(printed(s, t_));
    };
    const Layer copper = below ? Layer::BottomCopper : Layer::TopCopper;
    fill(copper, between(theme::kMasked, theme::kCopper, kUnderMask));
    QPainterPath open;
    open.setFillRule(Qt::WindingFill);
    for (const Shape& s : artwork(part_, f_, below ? Layer::BottomMask : Layer::TopMask)) open.addPath(pathOf(s, t_));
    p_.save();
    p_.setClipPath(open, Qt::IntersectClip);
    p_.fillRect(t_.map(board), theme::kLaminate);
    fill(copper, theme::kCopper);
    p_.restore();
    if (paste) fill(below ? Layer::BottomPaste : Layer::TopPaste, theme::kSteel.darker(112));
    fill(below ? Layer::BottomSilkscreen : Layer::TopSilkscreen, theme::kInk);
    p_.restore();
    p_.setBrush(theme::kPaper);
    p_.setPen(cosmetic(theme::kCopperEdge, 1));
    for (const Shape& s : artwork(part_, f_, Layer::PlatedHoles)) {
        // Under mask a small hole is closed on this side.
        if (open.contains(t_.map(boundsOf(*s.rounded()).middle()))) p_.drawPath(pathOf(s, t_));
    }
    p_.setPen(cosmetic(theme::kInk, 1));
    for (const Layer layer : {Layer::BareHoles}) {
        p_.setBrush(theme::kPaper);
        for (const Shape& s : artwork(part_, f_, layer)) p_.drawPath(pathOf(s, t_));
    }
    const QRectF r = t_.map(board);
    label(QPointF(r.center().x(), r.bottom() + theme::em() * 0.8),
          paste ? QObject::tr("as made, with paste on it") : QObject::tr("as made: copper, mask, print"), theme::kQuiet,
          0.9);
}

void SheetPainter::layers(const std::set<Layer>& shown) {
    struct Ink {
        Layer layer;
        QColor color;
        Qt::BrushStyle style;
    };
    // A pattern each, so that colour never tells them apart alone.
    static const std::vector<Ink> inks = {{Layer::BottomCopper, theme::kCopper.darker(130), Qt::BDiagPattern},
                                          {Layer::InnerCopper, theme::kCopper.lighter(125), Qt::CrossPattern},
                                          {Layer::TopCopper, theme::kCopper, Qt::SolidPattern},
                                          {Layer::BottomMask, theme::kDatum, Qt::FDiagPattern},
                                          {Layer::TopMask, theme::kDatum, Qt::Dense6Pattern},
                                          {Layer::BottomPaste, theme::kSteelEdge, Qt::HorPattern},
                                          {Layer::TopPaste, theme::kSteelEdge, Qt::Dense4Pattern},
                                          {Layer::BottomSilkscreen, theme::kInk, Qt::Dense3Pattern},
                                          {Layer::TopSilkscreen, theme::kInk, Qt::SolidPattern},
                                          {Layer::Assembly, theme::kAssembly, Qt::SolidPattern}};
    p_.setBrush(Qt::NoBrush);
    p_.setPen(QPen(theme::kLine, 1, Qt::DotLine));
    for (const SeenCopper& seen : seenCopper(part_, f_, t_.mirrored)) p_.drawPath(pathOf(seen.shape, t_));
    p_.setPen(cosmetic(theme::kInk, 1.2));
    for (const Layer layer : {Layer::CutOuts, Layer::BareHoles, Layer::PlatedHoles})
        for (const Shape& s : artwork(part_, f_, layer)) p_.drawPath(pathOf(s, t_));
    QStringList names;
    for (const Ink& ink : inks) {
        if (!shown.contains(ink.layer)) continue;
        const auto all = artwork(part_, f_, ink.layer);
        names.prepend(all.empty() ? QObject::tr("%1 (empty)").arg(QString(layerWords(ink.layer)))
                                  : QString(layerWords(ink.layer)));
        p_.setPen(QPen(ink.color, 1));
        p_.setBrush(QBrush(ink.color, ink.style));
        for (const Shape& s : all) p_.drawPath(printed(s, t_));
    }
    p_.setBrush(Qt::NoBrush);
    const Rect box = f_.courtyard;
    if (box.empty) return;
    const QRectF r = t_.map(box);
    label(QPointF(r.center().x(), r.bottom() + theme::em() * 1.2), names.join(" · "), theme::kInk, 0.95);
}

}  // namespace punch
