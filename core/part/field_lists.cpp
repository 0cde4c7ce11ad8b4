#include "core/part/field_lists.h"

namespace punch {
namespace {

template <class E>
int indexOf(E value) {
    int i = 0;
    for (const auto& [v, word] : Names<E>::table) {
        if (v == value) return i;
        ++i;
    }
    return -1;
}

template <class E>
std::vector<std::string_view> wordsOf() {
    std::vector<std::string_view> words;
    for (const auto& [value, word] : Names<E>::table) words.push_back(word);
    return words;
}

template <class S, class E>
Choice<S> choice(E S::*member) {
    return {wordsOf<E>(), [member](const S& s) { return indexOf(s.*member); },
            [member](S& s, int i) { s.*member = Names<E>::table[static_cast<std::size_t>(i)].first; }};
}

template <class S, class E>
Choice<S> choice(std::optional<E> S::*member) {
    return {wordsOf<E>(), [member](const S& s) { return s.*member ? indexOf(*(s.*member)) : -1; },
            [member](S& s, int i) {
                s.*member = i < 0 ? std::nullopt : std::optional<E>(Names<E>::table[static_cast<std::size_t>(i)].first);
            }};
}

}  // namespace

const std::vector<Field<Rules>>& ruleFields() {
    using R = Rules;
    using F = Field<R>;
    static const std::vector<F> all = {
        F("level", "Fit level", choice(&R::level), "IPC-2221 and IPC-2222: how easily it is made")
            .worded({"A general", "B moderate", "C high"}),
        F("hole", "Hole by", choice(&R::hole), "IPC-2222 adds to the largest lead; the house factor multiplies it"),
        F("holeFactor", "Factor on the lead", &R::holeFactor, "House rule: hole = factor times lead").from(1).to(10),
        F("leadAtMean", "from the mean lead, not its upper end", &R::leadAtMean,
          "Sizes holes from the mean lead instead of the upper end of its limits or doubt"),
        F("drills", "Drills", choice(&R::drills), "Finished holes go up to the next size of this list"),
        F("ownDrills", "Own drills", &R::ownDrills, "Finished sizes, as 1.0 1.2 1.5").to(20).aboveNothing(),
        F("land", "Land by", choice(&R::land),
          "IPC-2221: hole, least ring and fabrication allowance; or a ring of fixed width"),
        F("ring", "Ring", &R::ring, "Copper around the hole, each side").to(10),
        F("pegClearance", "Peg clearance", &R::pegClearance, "Added to a peg over its corners").to(5),
        F("platedTolerance", "Plated hole, up to +", &R::platedTolerance,
          "A finished plated hole may be larger by this, never smaller")
            .to(1),
        F("bareTolerance", "Bare hole, up to +", &R::bareTolerance,
          "A finished bare hole may be larger by this, never smaller")
            .to(1),
        F("boardThickness", "Board thickness", &R::boardThickness, "Leads have to reach through it").from(0.1).to(20),
        F("voltageColumn", "IPC-2221B column", choice(&R::column), "Table 6-1")
            .worded({"B1 inner", "B2 bare", "B3 bare, over 3050 m", "B4 under mask", "A5 coated", "A6 bare lead",
                     "A7 coated lead"}),
        F("voltageStandard", "Distances by", choice(&R::standard),
          "IPC-2221B knows one distance; IEC 60664-1 clearance and creepage")
            .whenChanged(),
        F("fewestDrills", "fewest different drills", &R::fewestDrills,
          "Formations share a drill wherever the limits of each lead allow it")
            .whenChanged(),
        F("pinPlace", "Pin off place, ±", &R::pinPlace,
          "How far a pin of the kind may stand off its place, in each axis")
            .to(5)
            .whenChanged(),
        F("bodyClear", "Free under the body", &R::bodyClear,
          "Least height of the body over bare copper and open vias, for mask, print and tin")
            .to(10)
            .whenChanged(),
        F("roomAbove", "Room above the board", &R::roomAbove,
          "Of the enclosure, to be kept by body and moving parts; 0: not known")
            .to(1000),
        F("roomBelow", "Room below the board", &R::roomBelow,
          "To whatever comes next: leads and pegs have to end before it; 0: not known")
            .to(1000),
        F("dropInWanted", "Share to drop in", &R::dropInWanted, "Of the parts, as 0.999").between(0, 1).whenChanged(),
    };
    return all;
}

const std::vector<Field<Insulating>>& insulatingFields() {
    using I = Insulating;
    using F = Field<I>;
    static const std::vector<F> all = {
        F("category", "iecCategory", "Overvoltage category", choice(&I::category),
          "II: plugged into a socket; III: part of the fixed installation"),
        F("pollution", "iecPollution", "Pollution degree", choice(&I::pollution),
          "1: sealed; 2: indoors; 3: industry, condensation"),
        F("group", "iecGroup", "Material group", choice(&I::group),
          "By the comparative tracking index of the base material")
            .worded({"I, CTI from 600", "II, from 400", "III, FR-4"}),
        F("insulation", "iecInsulation", "Insulation", choice(&I::insulation),
          "Reinforced keeps people apart from live parts by itself"),
        F("altitude", "iecAltitude", "Altitude, m", &I::altitude,
          "Above 2000 m air insulates less; the table goes up to 10000 m")
            .from(-500)
            .to(10000)
            .anySign()
            .keptTo(100000),
        F("printedWiring", "iecPrintedWiring", "columns of printed wiring", &I::printedWiring,
          "Degrees 1 and 2, functional and basic insulation")
            .whenChanged(),
        F("qualifiedCoating", "iecCoating", "under a qualified coating", &I::qualifiedCoating,
          "IEC 60664-3, type 1: degree 1 under it")
            .whenChanged(),
        F("narrowSlots", "iecNarrowSlots", "slots from 1/3 of the clearance", &I::narrowSlots,
          "Where the clearance is below 3 mm, narrower slots count too")
            .whenChanged(),
    };
    return all;
}

const std::vector<Field<Dress>>& dressFields() {
    using D = Dress;
    using F = Field<D>;
    static const std::vector<F> all = {
        F("outline", "Outline around the body", &D::outline, "On the top silkscreen, cut away from openings"),
        F("outlineAllowance", "Outside the body by", &D::outlineAllowance,
          "From the body's faces to the middle of the line")
            .to(20),
        F("outlineCorners", "Corners only", &D::outlineCorners, "Only the outline's corners are printed").whenChanged(),
        F("cornerLength", "Length of a corner", &D::cornerLength, "Along the outline, each way from the corner")
            .from(0.1)
            .to(50)
            .whenChanged(),
        F("leastInk", "Shortest piece", &D::leastInk, "What cutting away leaves shorter is not printed")
            .to(10)
            .whenChanged(),
        F("line", "Line", &D::line, "Width of silkscreen lines").from(0.05).to(2),
        F("mark", "Pin 1 mark", choice(&D::mark), "A triangle that points at pin 1"),
        F("referenceText", "Reference text", &D::referenceText, "Class letter and number above the part"),
        F("valueText", "Value text in the body", &D::valueText, "Its value, else its name, on the assembly drawing"),
        F("textHeight", "Text height", &D::textHeight, "Of capital letters").from(0.3).to(20),
        F("density", "IPC-7351 density", choice(&D::density), "A most room, C least; a connector as A"),
        F("turnable", "May be turned around", &D::turnable, "Put in turned around, the part does the same")
            .whenChanged(),
        F("courtyardExcess", "Excess", &D::courtyardExcess, "Room beyond body, lands and travel, each side").to(50),
    };
    return all;
}

const std::vector<Field<PadOverride>>& overrideFields() {
    using O = PadOverride;
    using F = Field<O>;
    static const std::vector<F> all = {
        F("shape", "landShape", "Shape", choice(&O::shape), "By rule: round, square at pin 1"),
        F("land", "landWidth", "Width", &O::land, "Diameter, side, or along the land's x").to(100).aboveNothing(),
        F("landLength", "Length", &O::landLength, "Along the land's y, of a rectangle or an oval")
            .to(100)
            .aboveNothing(),
        F("corner", "landCorner", "Corner radius", &O::corner, "Of a rounded rectangle").to(100).aboveNothing(),
        F("turn", "landTurn", "Turned, °", &O::turn, "Counter-clockwise, seen from the part side")
            .from(-360)
            .to(360)
            .anySign(),
        F("offsetX", "landOffsetX", "Off hole, x", &O::offsetX, "Of the land from its hole").to(100).anySign(),
        F("offsetY", "landOffsetY", "Off hole, y", &O::offsetY, "Of the land from its hole").to(100).anySign(),
        F("inner", "landInner", "On inner layers", &O::inner, "Where it is not as wide as on top")
            .to(100)
            .aboveNothing(),
        F("bottom", "landBottom", "On solder side", &O::bottom, "Where it is not as wide as on top")
            .to(100)
            .aboveNothing(),
        F("hole", "landHole", "Hole", &O::hole, "Finished, least; of a slot its width").to(100).aboveNothing(),
        F("holeLength", "landSlotLength", "Slot over ends", &O::holeLength, "Over its rounded ends")
            .to(100)
            .aboveNothing(),
        F("slot", "landSlot", "slot for a blade", &O::slot, "A plated slot along the lead's longer side"),
        F("plated", "landPlated", "soldered in, with a land", &O::plated, "A lug in a plated hole"),
        F("layers", "landLayers", "Lands", choice(&O::layers), "A surface land has no hole")
            .worded({"through the board", "part side only", "solder side only"}),
        F("join", "landJoin", "Several makes", choice(&O::join), "How its hole takes the leads of all makes"),
        F("maskMargin", "landMask", "Mask, per side", &O::maskMargin, "The opening is larger than the land by this")
            .to(100),
        F("tented", "landTented", "tented", &O::tented, "Mask over the land"),
        F("paste", "landPaste", "paste", &O::paste, "Solder paste on the land"),
    };
    return all;
}

const std::vector<Field<FabProfile>>& fabFields() {
    using P = FabProfile;
    using F = Field<P>;
    static const std::vector<F> all = {
        F("leastDrill", "fabDrill", "Least drill", &P::leastDrill, "Finished").to(20),
        F("leastRing", "fabRing", "Least ring", &P::leastRing, "Besides the fabrication allowance").to(20),
        F("leastSlot", "fabSlot", "Least slot", &P::leastSlot, "Milled width").to(20),
        F("leastWeb", "fabWeb", "Hole to hole", &P::leastWeb, "Wall between two holes or cuts").to(20),
        F("leastGap", "fabGap", "Copper to copper", &P::leastGap, "Between lands of different numbers").to(20),
        F("copperToEdge", "fabEdge", "Copper to a cut", &P::copperToEdge, "And to a bare hole and the board's edge")
            .to(20),
        F("leastMaskWeb", "fabMaskWeb", "Web of mask", &P::leastMaskWeb, "Between two openings").to(20),
        F("maskMargin", "fabMask", "Mask, per side", &P::maskMargin, "An opening is larger than its land by this")
            .to(20),
        F("plating", "fabPlating", "Plating", &P::plating, "A bit is larger than the finished hole by this").to(20),
        F("slotTolerance", "fabSlotTolerance", "Milled width ±", &P::slotTolerance, "Of slots and windows").to(20),
        F("wander", "fabWander", "Drill wander, σ", &P::wander, "Of a hole's place, in each axis").to(20),
        F("passes", "fabPasses", "Bare to plated, σ", &P::passes, "Shift between the two passes of drilling").to(20),
        F("aspect", "fabAspect", "Board to bit, most", &P::aspect, "Board thickness over the bit's diameter")
            .from(1)
            .to(100),
        F("mills", "fabMills", "Mill bits", &P::mills, "Diameters, as 0.8 1.0 1.2").to(20).aboveNothing(),
    };
    return all;
}

void inherit(PadOverride& into, const PadOverride& from) {
    for (const Field<PadOverride>& field : overrideFields())
        std::visit(
            [&](const auto& member) {
                using M = std::decay_t<decltype(member)>;
                if constexpr (std::is_same_v<M, Choice<PadOverride>>) {
                    if (member.get(into) < 0) member.set(into, member.get(from));
                } else if constexpr (requires { (into.*member).has_value(); }) {
                    if (!(into.*member)) into.*member = from.*member;
                }
            },
            field.member);
    if (into.reason.empty()) into.reason = from.reason;
}

}  // namespace punch
