#include "core/board/coupon.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/approval/approval.h"
#include "core/artwork/moved_footprint.h"
#include "core/base/json_text.h"
#include "core/board/board_files.h"
#include "core/dress/stroke_text.h"
#include "core/part/json_fields.h"
#include "core/part/names.h"

namespace punch {

PUNCH_VALUE_IS_HERE(FitCoupon)
namespace {

using Json = nlohmann::ordered_json;

const Length kRail = Length::fromMm(8), kGap = Length::fromMm(2), kLabel = Length::fromMm(1.2);

/// Every hole wider by so much, its ring as it was.
Footprint graded(Footprint f, Length by) {
    const auto wider = [&](Land& land) {
        if (!land.there() || land.shape == LandShape::Polygon) return;
        land.width += by;
        land.length += by;
    };
    const auto metal = [&](Conductor& c) {
        if (c.hole <= Length()) return;
        c.hole += by;
        c.holeLargest += by;
        if (c.slotLength > Length()) c.slotLength += by;
        for (Land* land : {&c.top, &c.inner, &c.bottom}) wider(*land);
    };
    for (Pad& p : f.pads) metal(p);
    for (BareHole& h : f.bareHoles) {
        h.size += by;
        h.sizeLargest += by;
        if (h.slotLength > Length()) h.slotLength += by;
        if (h.plated) wider(h.land);
    }
    return f;
}

std::vector<CouponHole> holesOf(const Footprint& f) {
    std::vector<CouponHole> all;
    for (const Pad& p : f.pads)
        if (p.hole > Length()) all.push_back({p.id, p.hole, p.slotLength, false});
    for (const BareHole& h : f.bareHoles)
        if (h.make.empty()) all.push_back({h.id, h.size, h.slotLength, !h.plated});
    return all;
}

/// "hole 1.30 peg 2.90": the first of each, of several "1.30..".
std::string sizeWords(const std::vector<CouponHole>& holes) {
    std::string words;
    for (const bool bare : {false, true}) {
        const CouponHole* first = nullptr;
        bool more = false;
        for (const CouponHole& h : holes) {
            if (h.bare != bare) continue;
            if (first != nullptr && h.size != first->size) more = true;
            if (first == nullptr) first = &h;
        }
        if (first != nullptr)
            words += fmt::format(" {} {:.2f}{}", bare ? "peg" : "hole", first->size.mm(), more ? ".." : "");
    }
    return words;
}

Length up(Length l) { return Length::fromMm(std::ceil(l.mm() - 1e-9)); }

/// The part's content, with what is printed.
Rect contentOf(const Footprint& f) {
    Rect r = f.courtyard;
    r.add(boundsOf(f.silkscreen));
    for (const Pad& p : f.pads) r.add(boundsOf(landShape(p)));
    return r;
}

/// Single pads with rings from the least up, one line for each lead that is different.
void addRings(const Part& part, const Footprint& f, Length left, Length top, Length width, LaidBoard& board,
              Length& bottom) {
    std::vector<const Pad*> kinds;
    for (const Pad& p : f.pads)
        if (p.hole > Length() && p.slotLength <= Length() &&
            std::none_of(kinds.begin(), kinds.end(), [&](const Pad* k) { return k->hole == p.hole; }))
            kinds.push_back(&p);
    int number = 0;
    Length y = top;
    for (const Pad* kind : kinds) {
        const Length own = (min(shownLand(*kind).width, shownLand(*kind).length) - kind->hole) / 2;
        const Length least = part.rules.fab.leastRing + Length::fromMm(0.05);
        const Length most = own + Length::fromMm(0.15);
        const Length pitch = up(kind->hole + 2.0 * most + Length::fromMm(1.2));
        Length x = left + pitch / 2;
        y -= pitch / 2;
        for (Length ring = least; ring <= most + Length::fromUm(1) && x + pitch / 2 < left + width;
             ring += Length::fromMm(0.05)) {
            Conductor c;
            c.id = ":r" + std::to_string(++number);
            c.number = "r" + std::to_string(number);
            c.at = {x, y};
            c.hole = kind->hole;
            c.holeLargest = kind->holeLargest;
            c.maskMargin = kind->maskMargin;
            c.firm = c.sized = true;
            c.top = c.inner =
                c.bottom = {LandShape::Round, c.at, kind->hole + 2.0 * ring, kind->hole + 2.0 * ring, {}, {}};
            board.all.attached.lands.push_back(std::move(c));
            board.board.texts.push_back(
                {fmt::format("{:.2f}", ring.mm()), {x, y - pitch / 2 - Length::fromMm(0.4)}, Length::fromMm(0.9)});
            x += pitch;
        }
        board.board.texts.push_back({fmt::format("rings of {:.2f}", kind->hole.mm()),
                                     {left + width / 2, y + pitch / 2 + Length::fromMm(0.3)},
                                     Length::fromMm(0.9)});
        y -= pitch / 2 + Length::fromMm(3);
    }
    bottom = y;
}

}  // namespace

Result<FitCoupon> fitCoupon(const Part& part, const Footprint& f, const CouponOptions& o, const std::string& date) {
    if (!(o.step >= Length::fromMm(0.01) && o.step <= Length::fromMm(0.5)))
        return problem("a step is 0.01 to 0.5 mm", "coupon", "Choose another");
    if (o.narrower < 0 || o.wider < 0 || o.narrower + o.wider > 25)
        return problem("a coupon has up to 26 copies", "coupon", "Choose fewer steps");
    for (const Pad& p : f.pads)
        if (p.hole > Length() && (!p.firm || !p.sized))
            return problem("pad " + p.number + " is loose", part.name, "Read what is missing first");
    for (const BareHole& h : f.bareHoles)
        if (!h.firm || !h.sized) return problem(h.name + " is loose", part.name, "Read what is missing first");
    const std::vector<CouponHole> holes = holesOf(f);
    if (holes.empty())
        return problem("it has no holes to grade", part.name, "A coupon is for parts with leads or pegs");
    for (const CouponHole& h : holes)
        if (h.size - o.narrower * o.step < Length::fromMm(0.2))
            return problem(fmt::format("a hole of {:.2f} mm leaves nothing after {} steps", h.size.mm(), o.narrower),
                           part.name, "Choose fewer narrower copies");
    FitCoupon out;
    out.record = {part.name, digestOf(part), date, {}};
    const int count = o.narrower + o.wider + 1;
    const Rect content = contentOf(graded(f, o.wider * o.step));
    const Length cellW = up(max(content.width(), Length::fromMm(14)) + kGap),
                 cellH = up(content.height() + kGap + 2.0 * kLabel);
    // As near to a square as whole rows allow.
    int columns = 1;
    double best = 1e300;
    for (int c = 1; c <= count; ++c) {
        const int rows = (count + c - 1) / c;
        const double w = c * cellW.mm(), h = rows * cellH.mm();
        const double odd = std::max(w, h) / std::min(w, h) + 0.2 * (rows * c - count);
        if (odd < best) best = odd, columns = c;
    }
    const int rows = (count + columns - 1) / columns;
    TrialBoard board;
    board.name = part.name + " fit coupon";
    board.thickness = part.rules.boardThickness;
    std::vector<BoardPart> parts;
    const Length width = max(columns * cellW, Length::fromMm(30));
    for (int i = 0; i < count; ++i) {
        const Length by = (i - o.narrower) * o.step;
        const std::string label(1, static_cast<char>('A' + i));
        Part plain = part;
        plain.dress.referenceText = false;  // its label says more
        BoardPart copy = boardPart(std::move(plain), label);
        copy.footprint = graded(std::move(copy.footprint), by);
        const std::vector<CouponHole> sizes = holesOf(copy.footprint);
        out.record.copies.push_back({label, by, sizes});
        const Length x = (i % columns) * cellW, y = -(i / columns + 1) * cellH;
        Placing p;
        p.id = "p" + label;
        p.designator = label;
        p.at = {x + cellW / 2 - content.middle().x, y + kGap / 2 + 2.0 * kLabel - content.bottom};
        board.placings.push_back(p);
        board.texts.push_back({fmt::format("{} {:+.2f}", label, by.mm()) + sizeWords(sizes),
                               {x + cellW / 2, y + kGap / 2 + kLabel / 2},
                               Length::fromMm(0.9)});
        parts.push_back(std::move(copy));
    }
    LaidBoard extra;  // only its lands and texts are used
    Length bottom = -rows * cellH;
    if (o.rings) addRings(part, f, Length(), bottom - Length::fromMm(2), width, extra, bottom);
    board.texts.insert(board.texts.end(), extra.board.texts.begin(), extra.board.texts.end());
    // Rails above and below, the lower left corner at 0, 0.
    const Length height = up(-bottom) + 2.0 * kRail;
    const Point shift{Length(), height - kRail};
    board.outline.width = width;
    board.outline.height = height;
    if (max(width, height) > Length::fromMm(600))
        return problem(fmt::format("the coupon would be {:.0f} x {:.0f} mm", width.mm(), height.mm()), part.name,
                       "Choose fewer copies");
    for (Placing& p : board.placings) p.at = p.at + shift;
    for (BoardText& t : board.texts) t.at = t.at + shift;
    // In the upper rail, between a fiducial's clear ring and a tooling hole.
    const std::string title = board.name + (date.empty() ? "" : " " + date);
    const Length room = width - Length::fromMm(16), high = Length::fromMm(1.2);
    const Length across = strokeTextWidth(title, high);
    board.texts.push_back({title, {width / 2, height - kRail / 2}, across > room ? high * (room / across) : high});
    const Length in = Length::fromMm(4), far = Length::fromMm(9);
    board.holes = {{"t1", {in, in}, Length::fromMm(3), Length::fromMm(3)},
                   {"t2", {width - in, height - in}, Length::fromMm(3), Length::fromMm(3)}};
    board.fiducials = {{far, in}, {width - in, in}, {in + Length::fromMm(2.5), height - in}};
    out.board = laidBoard(board, std::move(parts));
    for (Conductor c : extra.all.attached.lands)
        out.board.all.attached.lands.push_back(moved(std::move(c), {shift, {}, false}));
    return out;
}

Result<std::vector<NamedContent>> couponFiles(const FitCoupon& coupon) {
    auto files = fabFiles(coupon.board);
    if (!files) return files;
    std::string stem = files->front().name;
    stem = stem.substr(0, stem.rfind("-top-copper"));
    files->push_back({stem + kCouponSuffix, couponText(coupon.record)});
    return files;
}

std::string couponText(const CouponRecord& r) {
    Json copies = Json::array();
    for (const CouponCopy& c : r.copies) {
        Json holes = Json::array();
        for (const CouponHole& h : c.holes) {
            Json j = {{"of", h.id}, {"size", h.size.mm()}};
            if (h.length > Length()) j["length"] = h.length.mm();
            if (h.bare) j["bare"] = true;
            holes.push_back(j);
        }
        copies.push_back({{"label", c.label}, {"by", c.by.mm()}, {"holes", holes}});
    }
    const Json j = {
        {"punchbitCoupon", 1}, {"part", r.part}, {"digest", r.digest}, {"made", r.made}, {"copies", copies}};
    return j.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<CouponRecord> couponFromText(std::string_view text, const std::string& where) {
    auto parsed = parseJson(text, where);
    if (!parsed) return tl::make_unexpected(parsed.error());
    if (!parsed->is_object() || !parsed->contains("punchbitCoupon"))
        return problem("this is no fit coupon", where, "Open the .coupon file that was written with its fab files");
    std::vector<std::string> errors;
    Fields f(*parsed, "", errors);
    CouponRecord r{f.text("part", ""), f.text("digest", ""), f.text("made", ""), {}};
    for (const auto& [path, j] : f.list("copies")) {
        Fields copy = f.sub(j, path);
        CouponCopy c{copy.text("label", ""), copy.lengthAt("by", {}), {}};
        for (const auto& [at, one] : copy.list("holes")) {
            Fields h = copy.sub(one, at);
            CouponHole hole{h.text("of", ""), h.positiveLength("size", {}), h.positiveLength("length", {}),
                            h.flag("bare", false)};
            if (!(hole.size > Length())) h.fail(at, "a hole has a size");
            c.holes.push_back(std::move(hole));
        }
        r.copies.push_back(std::move(c));
    }
    if (!errors.empty()) return problem(errors.front(), where, "Write the coupon anew");
    return r;
}

Result<CouponRecord> loadCoupon(const std::filesystem::path& file) {
    const auto text = readWhole(file);
    if (!text) return tl::make_unexpected(text.error());
    return couponFromText(*text, file.string());
}

Result<Part> withCouponFit(Part part, const CouponRecord& r, const std::string& holes, const std::string& pegs,
                           const std::string& date) {
    if (r.part != part.name)
        return problem(fmt::format("the coupon is of {}, the part is {}", r.part, part.name), part.name,
                       "Open the part that it was made of");
    if (holes.empty() && pegs.empty()) return problem("no copy is chosen", part.name, "Choose the one that fitted");
    const auto copyOf = [&](const std::string& label) {
        return findIn(r.copies, [&](const CouponCopy& c) { return c.label == label; });
    };
    std::string words;
    const bool asThen = digestOf(part) == r.digest;
    for (const bool bare : {false, true}) {
        const std::string& label = bare ? pegs : holes;
        if (label.empty()) continue;
        const CouponCopy* copy = copyOf(label);
        if (copy == nullptr)
            return problem("the coupon has no copy “" + label + "”", part.name, "Choose one of its labels");
        const std::string reason = fmt::format("fit coupon{}: copy {} ({:+.2f}) fitted",
                                               r.made.empty() ? "" : " of " + r.made, label, copy->by.mm());
        bool any = false;
        const auto set = [&](const std::string& key, const CouponHole& h) {
            PadOverride& o = part.overrides[key];
            o.hole = h.size;
            if (h.length > Length()) o.holeLength = h.length;
            o.reason = o.reason.empty() ? reason : o.reason + "; " + reason;
            any = true;
        };
        for (const Formation& formation : part.formations) {
            if (bare) break;
            // One size for all of its pins stands at the formation.
            std::vector<const CouponHole*> own;
            for (const FeatureId& pin : formation.pins)
                if (const auto* h = findIn(copy->holes, [&](const CouponHole& c) { return c.id == pin; }))
                    own.push_back(h);
            const bool same =
                own.size() == formation.pins.size() && std::all_of(own.begin(), own.end(), [&](const CouponHole* h) {
                    return h->size == own.front()->size && h->length == own.front()->length;
                });
            if (same && !own.empty()) {
                for (const FeatureId& pin : formation.pins)
                    if (const auto it = part.overrides.find(pin); it != part.overrides.end())
                        it->second.hole.reset(), it->second.holeLength.reset();
                set(formation.id, *own.front());
            } else {
                for (const CouponHole* h : own) set(h->id, *h);
            }
        }
        for (const Spot& spot : part.spots)
            if (const auto* h =
                    findIn(copy->holes, [&](const CouponHole& c) { return c.id == spot.id && c.bare == bare; }))
                set(spot.id, *h);
        if (!any)
            return problem(fmt::format("the part has none of the coupon's {}", bare ? "pegs" : "pins"), part.name,
                           "Make a coupon of the part as it is");
        words += fmt::format("{}{} of copy {} ({:+.2f})", words.empty() ? "" : ", ", bare ? "pegs" : "holes", label,
                             copy->by.mm());
    }
    if (!asThen) words += "; the part was changed since the coupon was made";
    std::erase_if(part.overrides, [](const auto& o) { return o.second == PadOverride{}; });
    Source s;
    s.id = "s" + std::to_string(part.nextId++);
    s.title = "Fit coupon" + (r.made.empty() ? "" : " of " + r.made);
    s.note = words;
    s.seen = date;
    s.state = SourceState::Proven;
    part.sources.push_back(std::move(s));
    part.history.push_back({date, "fit coupon", words, {}});
    return part;
}

}  // namespace punch
