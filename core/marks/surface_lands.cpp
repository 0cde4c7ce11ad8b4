// Surface lands: from package dimensions, by IPC-7351.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/marks/fields.h"
#include "core/size/attached_copper.h"
#include "core/size/mark_copper.h"
#include "core/size/package_form.h"

namespace punch {
namespace {

using V = MarkValue;

/// One land: `along` its row's outward direction, `across` it.
void land(MarkCopper& copper, Point at, Length along, Length across, bool upright, int number) {
    Conductor c;
    const double turn = copper.laid.angle("turn");
    c.at = turned(at, copper.laid.points.front(), turn);
    c.number = std::to_string(number);
    c.id = copper.mark.id + "/" + c.number;
    c.layers = valueOf(copper.mark, "side") == "solder side" ? PadLayers::Bottom : PadLayers::Top;
    Land land{LandShape::Rectangle,     c.at, upright ? across : along,
              upright ? along : across, {},   Angle::fromDegrees(turn)};
    (c.layers == PadLayers::Top ? c.top : c.bottom) = land;
    c.maskMargin = copper.part.rules.fab.maskMargin;
    c.firm = copper.laid.firm;
    c.sized = true;
    copper.out.lands.push_back(c);
    copper.out.pastes.push_back({copper.mark.id, c.layers == PadLayers::Top, c.firm, polygonsOf(copperShape(land))});
}

/// Whether these lands are there at all. Trimming, or a goal below nothing, may leave none.
bool areThere(MarkCopper& copper, const SurfaceLands& s) {
    const auto none = [&](const char* way, Length is, const char* words) {
        copper.refuse(fmt::format("its lands would be {:.2f} mm {}: {}", is.mm(), way, words));
        return false;
    };
    if (s.width <= Length()) return none("wide", s.width, "its terminals are too narrow for this form and density");
    if (s.length <= Length()) return none("long", s.length, "its terminals leave no room between each other");
    return true;
}

/// What the drawing recommends beside what the equations give; taken where that is asked. False when it cannot be.
bool compare(MarkCopper& copper, SurfaceLands& s) {
    const bool take = valueOf(copper.mark, "lands") != "by IPC-7351";
    const auto drawn = [&](const char* key) -> std::optional<Length> {
        if (valueOf(copper.mark, key).empty()) return {};
        const auto value = copper.limits(key);
        if (!value) return {};
        return (value->least + value->most) / 2;
    };
    const auto over = drawn("drawnOver"), between = drawn("drawnBetween"), width = drawn("drawnWidth");
    Chain& chain = copper.out.chains["lands:" + copper.mark.id];
    std::string note;
    const auto beside = [&](const char* words, std::optional<Length> is, Length computed) {
        if (!is) return;
        const Length more = *is - computed;
        chain.push_back({std::string("the drawing's ") + words,
                         more < Length() ? "{} less than computed" : "{} more than computed",
                         {abs(more)},
                         *is,
                         ChainStep::Link::None,
                         "",
                         0});
        note += fmt::format("{}{} {:+.2f}", note.empty() ? "the drawing's lands: " : ", ", words,
                            std::round(more.mm() * 100) / 100 + 0.0);
    };
    beside("over both", over, s.z);
    beside("between", between, s.g);
    beside("width", width, s.x);
    if (!note.empty()) copper.out.notes[copper.mark.id] = note + " mm";
    if (!take) return true;
    if (!over || !between || !width || *over <= *between || *width <= Length()) {
        copper.refuse("of the drawing's lands the sizes over both, between and width are needed");
        return false;
    }
    s.length = (*over - *between) / 2;
    s.apart = (*over + *between) / 2;
    s.width = *width;
    return true;
}

void copperOfSurfaceLands(MarkCopper& copper) {
    const PackageForm* package = packageForm(valueOf(copper.mark, "package"));
    const auto overall = copper.limits("overall"), terminal = copper.limits("terminal"), width = copper.limits("width");
    if (package == nullptr || !overall || !terminal || !width) return;
    PackageSize size{*overall,
                     *terminal,
                     *width,
                     package->form,
                     Density::B,
                     copper.length("fabrication"),
                     copper.length("placement")};
    const std::string density = valueOf(copper.mark, "density");
    size.density = density == "A" ? Density::A : density == "C" ? Density::C : Density::B;
    const bool chip = package->sides == 1;
    const Length pitch = chip ? Length() : copper.length("pitch");
    if (size.form == LeadForm::GullWing && pitch <= Length::fromMm(0.625)) size.form = LeadForm::FineGullWing;
    // 1.6 x 0.8 and larger have larger goals.
    if (chip && ((overall->least + overall->most) / 2 < Length::fromMm(1.6) ||
                 (width->least + width->most) / 2 < Length::fromMm(0.8)))
        size.form = LeadForm::SmallChip;
    const int count = chip ? 1 : copper.count("count");
    if (count < 1 || count > 200) return copper.refuse("it has 1 to 200 terminals on a side");
    if (!chip && count > 1 && pitch <= Length()) return copper.refuse("its pitch is nothing");
    if (!chip && count > 1 && width->most > pitch)
        return copper.refuse("its terminals overlap: they are wider than their pitch");
    if (terminal->most + terminal->most > overall->least)
        return copper.refuse("its terminals overlap: they are longer than half of it");
    SurfaceLands s = surfaceLands(size, count > 1 ? pitch : Length(), copper.part.rules.fab.leastGap);
    copper.out.chains["lands:" + copper.mark.id] = s.chain;
    const Density around = copper.part.dress.density;
    copper.out.courtyards[copper.mark.id] = Length::fromMm(goalsOf(size.form).courtyard[around == Density::B   ? 1
                                                                                        : around == Density::C ? 2
                                                                                                               : 0]);
    const bool drawn = valueOf(copper.mark, "lands") != "by IPC-7351";
    if (!compare(copper, s) || !areThere(copper, s)) return;
    std::string trimmed = drawn ? "" : s.trimmed;
    const Point middle = copper.laid.points.front();
    int number = std::max(copper.count("start"), 1);
    const auto row = [&](double dx, double dy, const SurfaceLands& l) {
        // Counter-clockwise: down the left side, on along the front, up the right one, back along the rear.
        for (int i = 0; i < count; ++i) {
            const Length along = pitch * ((count - 1) / 2.0 - i);
            const Point at{middle.x + dx * (l.apart / 2) + dy * along, middle.y + dy * (l.apart / 2) - dx * along};
            land(copper, at, l.length, l.width, dy != 0, number++);
        }
    };
    SurfaceLands other = s;
    if (package->sides == 4) {
        if (!valueOf(copper.mark, "overall2").empty()) {
            const auto overall2 = copper.limits("overall2");
            if (!overall2) return;
            size.overall = *overall2;
            other = surfaceLands(size, pitch, copper.part.rules.fab.leastGap);
            if (drawn) {
                // The drawing's lands stand as far out as its package is longer this way.
                other.apart = s.apart + ((overall2->least + overall2->most) - (overall->least + overall->most)) / 2;
                other.length = s.length;
                other.width = s.width;
            } else if (!other.trimmed.empty()) {
                // Each pair of sides for itself, where they are not alike.
                trimmed = other.trimmed == trimmed ? trimmed
                                                   : (trimmed.empty() ? "" : "left and right " + trimmed + "; ") +
                                                         "front and rear " + other.trimmed;
            } else if (!trimmed.empty()) {
                trimmed = "left and right " + trimmed;
            }
            if (!areThere(copper, other)) return;
        }
        row(-1, 0, s);
        row(0, -1, other);
        row(1, 0, s);
        row(0, 1, other);
    } else {
        row(-1, 0, s);
        row(1, 0, s);
    }
    if (!trimmed.empty()) copper.say(trimmed);
    const Length tabX = copper.length("tabWidth"), tabY = copper.length("tabLength");
    if (tabX > Length() && tabY > Length()) {
        land(copper, middle, tabX, tabY, false, number);
        // Paste on a large land comes in windows, or the part floats.
        copper.out.pastes.pop_back();
        const int across = std::max(1, static_cast<int>(std::lround(tabX.mm() / 1.5))),
                  down = std::max(1, static_cast<int>(std::lround(tabY.mm() / 1.5)));
        const bool top = valueOf(copper.mark, "side") != "solder side";
        for (const Rect& w : pasteWindows(Rect::around(middle, tabX, tabY), across, down, Length::fromMm(0.3), 0.6))
            copper.out.pastes.push_back({copper.mark.id, top, copper.laid.firm,
                                         polygonsOf(turned(rectangleRing(w), middle, copper.laid.angle("turn")))});
    }
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::SurfaceLands>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::SurfaceLands,
        MarkGroup::Copper,
        {1, 1, false},
        {{"package",
          "Lead form",
          V::Choice,
          "chip",
          "How its terminals are formed",
          {"chip", "gull wing, two sides", "gull wing, four sides", "J lead, two sides", "J lead, four sides",
           "flat lead, two sides", "no-lead, two sides", "no-lead, four sides", "half holes, two sides",
           "half holes, four sides"}},
         {"overall", "Over the terminals", V::Drawn, "3.0..3.4",
          "As the drawing states it: limits, or with a tolerance"},
         {"overall2", "The other way", V::Drawn, "", "Of four sides: from front to rear; empty: the same"},
         {"terminal", "Terminal length", V::Drawn, "0.3..0.7", "What stands on the board"},
         {"width", "Terminal width", V::Drawn, "1.5..1.7", "Across the terminal"},
         {"pitch", "Pitch", V::Length, "1.27", "Of neighbours on a side"},
         {"count", "On each side", V::Count, "4", "Terminals"},
         {"density", "IPC-7351 density", V::Choice, "B", "A most copper, B nominal, C least", {"A", "B", "C"}},
         {"fabrication", "Fabrication ±", V::Length, "0.10", "Tolerance of the board, F"},
         {"placement", "Placement ±", V::Length, "0.10", "Tolerance of placing, P"},
         {"tabWidth", "Heat tab, width", V::Length, "0", "Its land is as large as it; 0: there is none"},
         {"tabLength", "Heat tab, length", V::Length, "0", "From front to rear"},
         {"body",
          "Body over it",
          V::Choice,
          "none",
          "A solid of the same dimensions, with its leads",
          {"none", "made"}},
         {"bodyLength",
          "Body, length",
          V::Length,
          "3",
          "From side to side, the way its terminals stand out",
          {},
          "body=made",
          true},
         {"bodyWidth", "Body, width", V::Length, "5", "From front to rear", {}, "body=made", true},
         {"bodyHeight", "Body, height", V::Length, "1", "With its standoff", {}, "body=made", true},
         {"bodyStandoff", "Body, standoff", V::Length, "0.1", "Under it", {}, "body=made"},
         {"leadThick", "Lead thickness", V::Length, "0.15", "Of gull wings, J and flat leads", {}, "body=made", true},
         {"start", "First number", V::Count, "1", "Counted counter-clockwise from the left side's rear end"},
         {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
         {"lands",
          "Lands",
          V::Choice,
          "by IPC-7351",
          "As computed, or as the drawing recommends them",
          {"by IPC-7351", "the drawing's"}},
         {"drawnOver", "Drawing's, over both", V::Drawn, "", "Outside over both lands, to compare with"},
         {"drawnBetween", "Drawing's, between", V::Drawn, "", "Between both lands, to compare with"},
         {"drawnWidth", "Drawing's, width", V::Drawn, "", "Of a land, to compare with"},
         sideField(false)},
        "Lands without holes, from package dimensions with limits, by IPC-7351"};
    kind.begin = bodyMiddle();
    kind.acts.copper = copperOfSurfaceLands;
    return kind;
}

}  // namespace punch
