#include "core/drawing/dxf_entities.h"

#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <sstream>

#include "core/base/angle.h"

namespace punch::dxf {

namespace {

constexpr double kFar = 1e9;  // drawing units: beyond this a number is none

Dot turned(Dot p, double degrees) {
    const double c = std::cos(degrees * kRadians), s = std::sin(degrees * kRadians);
    return {c * p.x - s * p.y, s * p.x + c * p.y};
}

bool fine(Dot p) { return std::isfinite(p.x) && std::isfinite(p.y) && std::abs(p.x) < kFar && std::abs(p.y) < kFar; }

/// From `a` to `b`, degrees, above 0 up to 360.
double sweepOf(double a, double b) {
    const double s = std::fmod(b - a, 360.0);
    return s <= 1e-9 ? s + 360 : s;
}

/// A measured length without trailing noughts.
std::string lengthText(double value) {
    std::string s = fmt::format("{:.3f}", value);
    while (s.back() == '0') s.pop_back();
    if (s.back() == '.') s.pop_back();
    return s;
}

class Reader : public DL_CreationAdapter {
public:
    explicit Reader(File& into) : into_(into) {}

    void setVariableString(const std::string& key, const std::string& value, int) override {
        if (key == "$ACADVER") into_.version = value;
    }
    void setVariableInt(const std::string& key, int value, int) override {
        if (key == "$INSUNITS") into_.insUnits = value;
    }
    void setVariableDouble(const std::string& key, double value, int) override {
        if (!(value > 0 && value < kFar)) return;
        if (key == "$DIMTXT") dimText_ = value;
        if (key == "$DIMSCALE") dimScale_ = value;
        into_.dimensionHeight = dimText_ * dimScale_;
    }
    void addBlock(const DL_BlockData& b) override {
        Entities& block = into_.blocks[b.name];
        block = {};
        block.base = {b.bpx, b.bpy};
        block_ = &block;
    }
    void endBlock() override {
        finishPath();
        block_ = nullptr;
    }
    void endEntity() override { finishPath(); }
    void endSequence() override { finishPath(); }

    void addLine(const DL_LineData& l) override { path({{{l.x1, l.y1}, {l.x2, l.y2}}, false, false}); }
    void addCircle(const DL_CircleData& c) override { arc({ocs(c.cx, c.cy), c.radius, 0, 360}); }
    void addArc(const DL_ArcData& a) override {
        const double sweep = sweepOf(a.angle1, a.angle2);
        // Seen from below, the arc runs the other way round.
        arc({ocs(a.cx, a.cy), a.radius, flipped() ? 180 - a.angle1 - sweep : a.angle1, sweep});
    }
    void addEllipse(const DL_EllipseData& e) override {
        const double major = std::hypot(e.mx, e.my);
        const double turn = std::atan2(e.my, e.mx);
        double a = e.angle1, b = e.angle2;
        if (b <= a + 1e-9) b += 2 * std::numbers::pi;
        Path p;
        p.chords = true;
        p.closed = b - a > 2 * std::numbers::pi - 1e-6;
        const int n = 72;
        for (int i = 0; i < n + (p.closed ? 0 : 1); ++i) {
            const double t = a + (b - a) * i / n;
            const double x = major * std::cos(t), y = major * e.ratio * std::sin(t);
            p.points.push_back(
                {e.cx + x * std::cos(turn) - y * std::sin(turn), e.cy + x * std::sin(turn) + y * std::cos(turn)});
        }
        path(std::move(p));
    }
    void addPolyline(const DL_PolylineData& p) override {
        finishPath();
        open_ = true;
        closed_ = (p.flags & 1) != 0;
    }
    void addVertex(const DL_VertexData& v) override {
        if (open_) vertices_.push_back(v);
    }
    void addSpline(const DL_SplineData& s) override {
        finishPath();
        spline_ = true;
        degree_ = static_cast<int>(s.degree);
        closed_ = (s.flags & 1) != 0;
    }
    void addControlPoint(const DL_ControlPointData& c) override { controls_.push_back({c.x, c.y}); }
    void addFitPoint(const DL_FitPointData& c) override { fits_.push_back({c.x, c.y}); }
    void addKnot(const DL_KnotData& k) override { knots_.push_back(k.k); }
    void addInsert(const DL_InsertData& i) override {
        finishPath();
        Insert in;
        in.block = i.name;
        in.at = ocs(i.ipx, i.ipy);
        in.sx = (flipped() ? -1 : 1) * i.sx;
        in.sy = i.sy;
        in.turn = (flipped() ? -1 : 1) * i.angle;
        in.columns = std::clamp(i.cols, 1, 1000);
        in.rows = std::clamp(i.rows, 1, 1000);
        in.columnStep = i.colSp;
        in.rowStep = i.rowSp;
        if (fine(in.at) && std::isfinite(in.sx) && std::isfinite(in.sy) && std::isfinite(in.turn))
            into().inserts.push_back(in);
    }
    void addText(const DL_TextData& t) override {
        // Justified texts stand by their second point, others by the first, at their left foot.
        const std::string clean = cleanText(t.text);
        const bool second = t.hJustification != 0 || t.vJustification != 0;
        const double w = 0.6 * t.height * static_cast<double>(clean.size());
        const double right = t.hJustification == 1 || t.hJustification == 4 ? 0.0 : t.hJustification == 2 ? -0.5 : 0.5;
        const double up = t.vJustification == 2 || t.hJustification == 4 ? 0.0 : t.vJustification == 3 ? -0.5 : 0.5;
        const Dot at = second ? Dot{t.apx, t.apy} : Dot{t.ipx, t.ipy};
        const Dot off = turned({right * w, up * t.height}, t.angle);
        text({{at.x + off.x, at.y + off.y}, t.height, t.angle, clean, {}});
    }
    void addMTextChunk(const std::string& chunk) override { chunks_ += chunk; }
    void addMText(const DL_MTextData& t) override {
        const std::string clean = cleanText(chunks_ + t.text);
        chunks_.clear();
        // dxflib gives the angle in radians, or a direction.
        const double turn =
            std::hypot(t.dirx, t.diry) > 1e-9 ? std::atan2(t.diry, t.dirx) / kRadians : t.angle / kRadians;
        const double w = 0.6 * t.height * static_cast<double>(clean.size());
        const int column = (t.attachmentPoint - 1) % 3, row = (t.attachmentPoint - 1) / 3;
        const Dot off = turned({(column == 0   ? 0.5
                                 : column == 1 ? 0.0
                                               : -0.5) *
                                    w,
                                (row == 0   ? -0.5
                                 : row == 1 ? 0.0
                                            : 0.5) *
                                    t.height},
                               turn);
        text({{t.ipx + off.x, t.ipy + off.y}, t.height, turn, clean, {}});
    }
    void addSolid(const DL_SolidData&) override {}

    // ------------------------------------------------------------------ dimensions

    void addDimLinear(const DL_DimensionData& d, const DL_DimLinearData& l) override {
        dimension(d, {l.dpx1, l.dpy1}, {l.dpx2, l.dpy2}, l.angle);
    }
    void addDimAlign(const DL_DimensionData& d, const DL_DimAlignedData& l) override {
        dimension(d, {l.epx1, l.epy1}, {l.epx2, l.epy2}, std::atan2(l.epy2 - l.epy1, l.epx2 - l.epx1) / kRadians);
    }
    void addDimDiametric(const DL_DimensionData& d, const DL_DimDiametricData& r) override {
        across(d, {d.dpx, d.dpy}, {r.dpx, r.dpy}, "Ø");
    }
    void addDimRadial(const DL_DimensionData& d, const DL_DimRadialData& r) override {
        across(d, {d.dpx, d.dpy}, {r.dpx, r.dpy}, "R");
    }

private:
    Entities& into() {
        if (block_ != nullptr) return *block_;
        return getAttributes().isInPaperSpace() ? into_.paper : into_.model;
    }
    bool flipped() const {
        const DL_Extrusion* e = const_cast<Reader*>(this)->getExtrusion();
        return e != nullptr && e->getDirection() != nullptr && e->getDirection()[2] < 0;
    }
    Dot ocs(double x, double y) const { return {flipped() ? -x : x, y}; }

    void path(Path p) {
        if (std::all_of(p.points.begin(), p.points.end(), fine) && into().count() < kMostEntities)
            into().paths.push_back(std::move(p));
        else
            ++into_.skipped;
    }
    void arc(Arc a) {
        if (fine(a.centre) && a.radius > 0 && a.radius < kFar && std::isfinite(a.from) && std::isfinite(a.sweep) &&
            into().count() < kMostEntities)
            into().arcs.push_back(a);
        else
            ++into_.skipped;
    }
    void text(Text t) {
        if (t.text.empty() || !fine(t.middle)) return;
        if (!(t.height >= 0 && t.height < kFar) || !std::isfinite(t.turn)) t.height = t.turn = 0;
        if (into().count() < kMostEntities) into().texts.push_back(std::move(t));
    }

    void dimension(const DL_DimensionData& d, Dot a, Dot b, double degrees) {
        const Dot way = turned({1, 0}, degrees);
        const double measured = std::abs((b.x - a.x) * way.x + (b.y - a.y) * way.y) * factor(d);
        // The dimension line goes through the definition point.
        const auto onLine = [&](Dot p) {
            const double off = -(d.dpx - p.x) * way.y + (d.dpy - p.y) * way.x;
            return Dot{p.x - off * way.y, p.y + off * way.x};
        };
        const Dot p = onLine(a), q = onLine(b);
        path({{a, p}, false, true});
        path({{b, q}, false, true});
        path({{p, q}, false, true});
        const Dot middle = std::hypot(d.mpx, d.mpy) > 0 ? Dot{d.mpx, d.mpy} : Dot{(p.x + q.x) / 2, (p.y + q.y) / 2};
        const double turn = std::remainder(degrees, 180.0);
        text({middle, 0, turn, words(d, lengthText(measured)), std::pair{a, b}});
    }
    void across(const DL_DimensionData& d, Dot a, Dot b, const char* sign) {
        const Dot middle = std::hypot(d.mpx, d.mpy) > 0 ? Dot{d.mpx, d.mpy} : Dot{(a.x + b.x) / 2, (a.y + b.y) / 2};
        path({{a, b}, false, true});
        text(
            {middle, 0, 0, words(d, sign + lengthText(std::hypot(b.x - a.x, b.y - a.y) * factor(d))), std::pair{a, b}});
    }
    static double factor(const DL_DimensionData& d) {
        return d.linearFactor > 0 && std::isfinite(d.linearFactor) ? d.linearFactor : 1;
    }
    /// The text of a dimension: what it says itself, "<>" standing for the measured value.
    static std::string words(const DL_DimensionData& d, const std::string& measured) {
        std::string said = cleanText(d.text);
        if (said.empty()) return measured;
        if (const auto at = said.find("<>"); at != std::string::npos) said.replace(at, 2, measured);
        return said;
    }

    void finishPath() {
        if (open_ && vertices_.size() > 1) finishPolyline();
        if (spline_) finishSpline();
        open_ = spline_ = false;
        vertices_.clear();
        controls_.clear();
        fits_.clear();
        knots_.clear();
    }
    /// Straight pieces stay together; a bulge is tan of a quarter of its arc.
    void finishPolyline() {
        const bool mirrored = flipped();
        const std::size_t n = vertices_.size();
        const auto at = [&](std::size_t i) { return ocs(vertices_[i % n].x, vertices_[i % n].y); };
        const bool bent = std::any_of(vertices_.begin(), vertices_.end(),
                                      [](const DL_VertexData& v) { return std::abs(v.bulge) > 1e-9; });
        if (!bent) {
            Path p;
            for (std::size_t i = 0; i < n; ++i) p.points.push_back(at(i));
            p.closed = closed_;
            if (!closed_ && n > 3 && std::hypot(at(0).x - at(n - 1).x, at(0).y - at(n - 1).y) < 1e-9) {
                p.points.pop_back();
                p.closed = true;
            }
            path(std::move(p));
            return;
        }
        Path straight;
        const auto flush = [&] {
            if (straight.points.size() > 1) path(straight);
            straight.points.clear();
        };
        for (std::size_t i = 0; i + (closed_ ? 0 : 1) < n; ++i) {
            const Dot a = at(i), b = at(i + 1);
            const double bulge = (mirrored ? -1 : 1) * vertices_[i].bulge;
            if (straight.points.empty()) straight.points.push_back(a);
            if (!std::isfinite(bulge) || std::abs(bulge) < 1e-9) {
                straight.points.push_back(b);
                continue;
            }
            flush();
            const double chord = std::hypot(b.x - a.x, b.y - a.y);
            const double sweep = 4 * std::atan(std::abs(bulge));
            const double radius = chord / 2 / std::sin(sweep / 2);
            if (!(radius > 0)) continue;
            // The middle lies to the left of a counter-clockwise arc (of less than a half turn).
            const double h = radius * std::cos(sweep / 2);
            const double side = bulge > 0 ? 1 : -1;
            const Dot c{(a.x + b.x) / 2 - side * h * (b.y - a.y) / chord,
                        (a.y + b.y) / 2 + side * h * (b.x - a.x) / chord};
            const Dot first = bulge > 0 ? a : b;
            arc({c, radius, std::atan2(first.y - c.y, first.x - c.x) / kRadians, sweep / kRadians});
        }
        flush();
    }
    void finishSpline() {
        Path p;
        p.chords = true;
        const int n = static_cast<int>(controls_.size());
        if (degree_ >= 1 && degree_ <= 10 && n > degree_ && n < 20000 &&
            static_cast<int>(knots_.size()) == n + degree_ + 1 && std::is_sorted(knots_.begin(), knots_.end())) {
            const double from = knots_[static_cast<std::size_t>(degree_)], to = knots_[static_cast<std::size_t>(n)];
            const int steps = std::min(8 * n, 4000);
            for (int i = 0; i <= steps; ++i) p.points.push_back(deBoor(from + (to - from) * i / steps));
        } else {
            p.points = fits_.size() > 1 ? fits_ : controls_;
            p.closed = closed_;
        }
        if (p.points.size() > 1) path(std::move(p));
    }
    Dot deBoor(double t) const {
        const int n = static_cast<int>(controls_.size());
        int k = degree_;
        while (k + 1 < n && t >= knots_[static_cast<std::size_t>(k + 1)]) ++k;
        std::vector<Dot> d(controls_.begin() + (k - degree_), controls_.begin() + k + 1);
        for (int r = 1; r <= degree_; ++r)
            for (int j = degree_; j >= r; --j) {
                const double low = knots_[static_cast<std::size_t>(j + k - degree_)];
                const double high = knots_[static_cast<std::size_t>(j + 1 + k - r)];
                const double a = high > low ? (t - low) / (high - low) : 0;
                Dot& to = d[static_cast<std::size_t>(j)];
                const Dot& before = d[static_cast<std::size_t>(j - 1)];
                to = {(1 - a) * before.x + a * to.x, (1 - a) * before.y + a * to.y};
            }
        return d[static_cast<std::size_t>(degree_)];
    }

    File& into_;
    Entities* block_ = nullptr;
    double dimText_ = 0, dimScale_ = 1;
    bool open_ = false, spline_ = false, closed_ = false;
    int degree_ = 3;
    std::vector<DL_VertexData> vertices_;
    std::vector<Dot> controls_, fits_;
    std::vector<double> knots_;
    std::string chunks_;
};

/// Scale, then turn, then shift.
struct Placing {
    Dot at;
    double sx = 1, sy = 1, turn = 0;
    Dot map(Dot p) const {
        const Dot q = turned({sx * p.x, sy * p.y}, turn);
        return {at.x + q.x, at.y + q.y};
    }
};

constexpr std::size_t kMostPlaced = 100'000;  // blocks, whatever they draw

bool place(const File& file, const Entities& from, const std::vector<Placing>& chain, Entities& into,
           std::vector<const Entities*>& within, std::size_t& placed) {
    // Blocks that place each other grow without drawing anything; so does an array of a block in itself.
    if (++placed > kMostPlaced) return false;
    // A block that places itself, at once or by way of others, is drawn once.
    if (within.size() > 16 || std::find(within.begin(), within.end(), &from) != within.end()) return true;
    const auto map = [&](Dot p) {
        for (auto it = chain.rbegin(); it != chain.rend(); ++it) p = it->map(p);
        return p;
    };
    for (const Path& p : from.paths) {
        Path q = p;
        for (Dot& d : q.points) d = map(d);
        into.paths.push_back(std::move(q));
    }
    double scale = 1, turn = 0;
    bool even = true, mirrored = false;
    for (const Placing& c : chain) {
        even = even && std::abs(std::abs(c.sx) - std::abs(c.sy)) < 1e-9 * std::abs(c.sx);
        scale *= std::abs(c.sy);
        turn = (mirrored ? -1 : 1) * c.turn + turn;
        mirrored = mirrored != (c.sx * c.sy < 0);
    }
    for (const Arc& a : from.arcs) {
        if (even) {
            const auto onArc = [&](double t) {
                return map(
                    {a.centre.x + a.radius * std::cos(t * kRadians), a.centre.y + a.radius * std::sin(t * kRadians)});
            };
            const Dot c = map(a.centre);
            const Dot first = onArc(mirrored ? a.from + a.sweep : a.from);
            into.arcs.push_back({c, a.radius * scale, std::atan2(first.y - c.y, first.x - c.x) / kRadians, a.sweep});
            continue;
        }
        Path q;
        q.chords = true;
        q.closed = a.sweep > 359.999;
        for (int i = 0; i < 72 + (q.closed ? 0 : 1); ++i) {
            const double t = (a.from + a.sweep * i / 72) * kRadians;
            q.points.push_back(map({a.centre.x + a.radius * std::cos(t), a.centre.y + a.radius * std::sin(t)}));
        }
        into.paths.push_back(std::move(q));
    }
    for (const Text& t : from.texts) {
        Text q = t;
        q.middle = map(t.middle);
        q.height *= scale;
        q.turn += turn;
        if (q.spans) q.spans = std::pair{map(q.spans->first), map(q.spans->second)};
        into.texts.push_back(std::move(q));
    }
    if (into.count() > kMostEntities) return false;
    for (const Insert& in : from.inserts) {
        const auto block = file.blocks.find(in.block);
        if (block == file.blocks.end()) continue;
        for (int row = 0; row < in.rows; ++row)
            for (int column = 0; column < in.columns; ++column) {
                const Dot step = turned({column * in.columnStep, row * in.rowStep}, in.turn);
                auto longer = chain;
                longer.push_back({{in.at.x + step.x, in.at.y + step.y}, in.sx, in.sy, in.turn});
                longer.push_back({{-block->second.base.x, -block->second.base.y}, 1, 1, 0});
                within.push_back(&from);
                const bool all = place(file, block->second, longer, into, within, placed);
                within.pop_back();
                if (!all) return false;
            }
    }
    return true;
}

}  // namespace

bool readEntities(const std::string& text, File& into) {
    std::istringstream stream(text);
    Reader reader(into);
    DL_Dxf dxf;
    return dxf.in(stream, &reader);
}

bool expand(const File& file, const Entities& from, Entities& into) {
    std::size_t placed = 0;
    std::vector<const Entities*> within;
    return place(file, from, {}, into, within, placed);
}

}  // namespace punch::dxf
