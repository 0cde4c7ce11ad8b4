#include "core/part/field_lists.h"

namespace punch {
namespace {

template <class E, class S>
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
    return {wordsOf<E>(), [member](const S& s) { return indexOf<E, S>(s.*member); },
            [member](S& s, int i) { s.*member = Names<E>::table[static_cast<std::size_t>(i)].first; }};
}

template <class S, class E>
Choice<S> choice(std::optional<E> S::*member) {
    return {wordsOf<E>(), [member](const S& s) { return s.*member ? indexOf<E, S>(*(s.*member)) : -1; },
            [member](S& s, int i) {
                s.*member = i < 0 ? std::nullopt : std::optional<E>(Names<E>::table[static_cast<std::size_t>(i)].first);
            }};
}

constexpr bool kAlways = true, kWhenSet = false;

}  // namespace

const std::vector<Field<Rules>>& ruleFields() {
    using R = Rules;
    static const std::vector<Field<R>> all = {
        {"level",
         "level",
         "Fit level",
         choice(&R::level),
         kAlways,
         0,
         0,
         Sign::NotNegative,
         "IPC-2221 and IPC-2222: how easily it is made",
         {"A general", "B moderate", "C high"}},
        {"hole", "hole", "Hole by", choice(&R::hole), kAlways, 0, 0, Sign::NotNegative,
         "IPC-2222 adds to the largest lead; the house factor multiplies it"},
        {"holeFactor", "holeFactor", "Factor on the lead", &R::holeFactor, kAlways, 1, 10, Sign::NotNegative,
         "House rule: hole = factor times lead"},
        {"leadAtMean", "leadAtMean", "from the mean lead, not its upper end", &R::leadAtMean, kAlways, 0, 0,
         Sign::NotNegative, "Sizes holes from the mean lead instead of the upper end of its limits or doubt"},
        {"drills", "drills", "Drills", choice(&R::drills), kAlways, 0, 0, Sign::NotNegative,
         "Finished holes go up to the next size of this list"},
        {"ownDrills", "ownDrills", "Own drills", &R::ownDrills, kAlways, 0, 20, Sign::Above,
         "Finished sizes, as 1.0 1.2 1.5"},
        {"land", "land", "Land by", choice(&R::land), kAlways, 0, 0, Sign::NotNegative,
         "IPC-2221: hole, least ring and fabrication allowance; or a ring of fixed width"},
        {"ring", "ring", "Ring", &R::ring, kAlways, 0, 10, Sign::NotNegative, "Copper around the hole, each side"},
        {"pegClearance", "pegClearance", "Peg clearance", &R::pegClearance, kAlways, 0, 5, Sign::NotNegative,
         "Added to a peg over its corners"},
        {"platedTolerance", "platedTolerance", "Plated hole, up to +", &R::platedTolerance, kAlways, 0, 1,
         Sign::NotNegative, "A finished plated hole may be larger by this, never smaller"},
        {"bareTolerance", "bareTolerance", "Bare hole, up to +", &R::bareTolerance, kAlways, 0, 1, Sign::NotNegative,
         "A finished bare hole may be larger by this, never smaller"},
        {"boardThickness", "boardThickness", "Board thickness", &R::boardThickness, kAlways, 0.1, 20, Sign::NotNegative,
         "Leads have to reach through it"},
        {"voltageColumn",
         "voltageColumn",
         "IPC-2221B column",
         choice(&R::column),
         kAlways,
         0,
         0,
         Sign::NotNegative,
         "Table 6-1",
         {"B1 inner", "B2 bare", "B3 bare, over 3050 m", "B4 under mask", "A5 coated", "A6 bare lead",
          "A7 coated lead"}},
        {"voltageStandard", "voltageStandard", "Distances by", choice(&R::standard), kWhenSet, 0, 0, Sign::NotNegative,
         "IPC-2221B knows one distance; IEC 60664-1 clearance and creepage"},
        {"fewestDrills", "fewestDrills", "fewest different drills", &R::fewestDrills, kWhenSet, 0, 0, Sign::NotNegative,
         "Formations share a drill wherever the limits of each lead allow it"},
        {"pinPlace", "pinPlace", "Pin off place, ±", &R::pinPlace, kWhenSet, 0, 5, Sign::NotNegative,
         "How far a pin of the kind may stand off its place, in each axis"},
        {"dropInWanted", "dropInWanted", "Share to drop in", &R::dropInWanted, kWhenSet, 1e-9, 1 - 1e-9,
         Sign::NotNegative, "Of the parts, as 0.999"},
    };
    return all;
}

const std::vector<Field<Insulating>>& insulatingFields() {
    using I = Insulating;
    static const std::vector<Field<I>> all = {
        {"category", "iecCategory", "Overvoltage category", choice(&I::category), kAlways, 0, 0, Sign::NotNegative,
         "II: plugged into a socket; III: part of the fixed installation"},
        {"pollution", "iecPollution", "Pollution degree", choice(&I::pollution), kAlways, 0, 0, Sign::NotNegative,
         "1: sealed; 2: indoors; 3: industry, condensation"},
        {"group",
         "iecGroup",
         "Material group",
         choice(&I::group),
         kAlways,
         0,
         0,
         Sign::NotNegative,
         "By the comparative tracking index of the base material",
         {"I, CTI from 600", "II, from 400", "III, FR-4"}},
        {"insulation", "iecInsulation", "Insulation", choice(&I::insulation), kAlways, 0, 0, Sign::NotNegative,
         "Reinforced keeps people apart from live parts by itself"},
        {"altitude",
         "iecAltitude",
         "Altitude, m",
         &I::altitude,
         kAlways,
         -500,
         10000,
         Sign::Any,
         "Above 2000 m air insulates less; the table goes up to 10000 m",
         {},
         100000},
        {"printedWiring", "iecPrintedWiring", "columns of printed wiring", &I::printedWiring, kWhenSet, 0, 0,
         Sign::NotNegative, "Degrees 1 and 2, functional and basic insulation"},
        {"qualifiedCoating", "iecCoating", "under a qualified coating", &I::qualifiedCoating, kWhenSet, 0, 0,
         Sign::NotNegative, "IEC 60664-3, type 1: degree 1 under it"},
        {"narrowSlots", "iecNarrowSlots", "slots from 1/3 of the clearance", &I::narrowSlots, kWhenSet, 0, 0,
         Sign::NotNegative, "Where the clearance is below 3 mm, narrower slots count too"},
    };
    return all;
}

const std::vector<Field<Dress>>& dressFields() {
    using D = Dress;
    static const std::vector<Field<D>> all = {
        {"outline", "outline", "Outline around the body", &D::outline, kAlways, 0, 0, Sign::NotNegative,
         "On the top silkscreen, cut away from openings"},
        {"outlineAllowance", "outlineAllowance", "Outside the body by", &D::outlineAllowance, kAlways, 0, 20,
         Sign::NotNegative, "From the body's faces to the middle of the line"},
        {"line", "line", "Line", &D::line, kAlways, 0.05, 2, Sign::NotNegative, "Width of silkscreen lines"},
        {"mark", "mark", "Pin 1 mark", choice(&D::mark), kAlways, 0, 0, Sign::NotNegative,
         "A triangle that points at pin 1"},
        {"referenceText", "referenceText", "Reference text", &D::referenceText, kAlways, 0, 0, Sign::NotNegative,
         "Class letter and number above the part"},
        {"valueText", "valueText", "Value text in the body", &D::valueText, kAlways, 0, 0, Sign::NotNegative,
         "The part's name, on the assembly drawing"},
        {"textHeight", "textHeight", "Text height", &D::textHeight, kAlways, 0.3, 20, Sign::NotNegative,
         "Of capital letters"},
        {"density", "density", "IPC-7351 density", choice(&D::density), kAlways, 0, 0, Sign::NotNegative,
         "A most room, C least; a connector as A"},
        {"courtyardExcess", "courtyardExcess", "Excess", &D::courtyardExcess, kAlways, 0, 50, Sign::NotNegative,
         "Room beyond body, lands and travel, each side"},
    };
    return all;
}

const std::vector<Field<PadOverride>>& overrideFields() {
    using O = PadOverride;
    static const std::vector<Field<O>> all = {
        {"shape", "landShape", "Shape", choice(&O::shape), kWhenSet, 0, 0, Sign::NotNegative,
         "By rule: round, square at pin 1"},
        {"land", "landWidth", "Width", &O::land, kWhenSet, 0, 100, Sign::Above,
         "Diameter, side, or along the land's x"},
        {"landLength", "landLength", "Length", &O::landLength, kWhenSet, 0, 100, Sign::Above,
         "Along the land's y, of a rectangle or an oval"},
        {"corner", "landCorner", "Corner radius", &O::corner, kWhenSet, 0, 100, Sign::Above, "Of a rounded rectangle"},
        {"turn", "landTurn", "Turned, °", &O::turn, kWhenSet, -360, 360, Sign::Any,
         "Counter-clockwise, seen from the part side"},
        {"offsetX", "landOffsetX", "Off hole, x", &O::offsetX, kWhenSet, 0, 100, Sign::Any,
         "Of the land from its hole"},
        {"offsetY", "landOffsetY", "Off hole, y", &O::offsetY, kWhenSet, 0, 100, Sign::Any,
         "Of the land from its hole"},
        {"inner", "landInner", "On inner layers", &O::inner, kWhenSet, 0, 100, Sign::Above,
         "Where it is not as wide as on top"},
        {"bottom", "landBottom", "On solder side", &O::bottom, kWhenSet, 0, 100, Sign::Above,
         "Where it is not as wide as on top"},
        {"hole", "landHole", "Hole", &O::hole, kWhenSet, 0, 100, Sign::Above, "Finished, least; of a slot its width"},
        {"holeLength", "landSlotLength", "Slot over ends", &O::holeLength, kWhenSet, 0, 100, Sign::Above,
         "Over its rounded ends"},
        {"slot", "landSlot", "slot for a blade", &O::slot, kWhenSet, 0, 0, Sign::NotNegative,
         "A plated slot along the lead's longer side"},
        {"plated", "landPlated", "soldered in, with a land", &O::plated, kWhenSet, 0, 0, Sign::NotNegative,
         "A lug in a plated hole"},
        {"layers",
         "landLayers",
         "Lands",
         choice(&O::layers),
         kWhenSet,
         0,
         0,
         Sign::NotNegative,
         "A surface land has no hole",
         {"through the board", "part side only", "solder side only"}},
        {"maskMargin", "landMask", "Mask, per side", &O::maskMargin, kWhenSet, 0, 100, Sign::NotNegative,
         "The opening is larger than the land by this"},
        {"tented", "landTented", "tented", &O::tented, kWhenSet, 0, 0, Sign::NotNegative, "Mask over the land"},
        {"paste", "landPaste", "paste", &O::paste, kWhenSet, 0, 0, Sign::NotNegative, "Solder paste on the land"},
    };
    return all;
}

const std::vector<Field<FabProfile>>& fabFields() {
    using F = FabProfile;
    static const std::vector<Field<F>> all = {
        {"leastDrill", "fabDrill", "Least drill", &F::leastDrill, kAlways, 0, 20, Sign::NotNegative, "Finished"},
        {"leastRing", "fabRing", "Least ring", &F::leastRing, kAlways, 0, 20, Sign::NotNegative,
         "Besides the fabrication allowance"},
        {"leastSlot", "fabSlot", "Least slot", &F::leastSlot, kAlways, 0, 20, Sign::NotNegative, "Milled width"},
        {"leastWeb", "fabWeb", "Hole to hole", &F::leastWeb, kAlways, 0, 20, Sign::NotNegative,
         "Wall between two holes or cuts"},
        {"leastGap", "fabGap", "Copper to copper", &F::leastGap, kAlways, 0, 20, Sign::NotNegative,
         "Between lands of different numbers"},
        {"copperToEdge", "fabEdge", "Copper to a cut", &F::copperToEdge, kAlways, 0, 20, Sign::NotNegative,
         "And to a bare hole and the board's edge"},
        {"leastMaskWeb", "fabMaskWeb", "Web of mask", &F::leastMaskWeb, kAlways, 0, 20, Sign::NotNegative,
         "Between two openings"},
        {"maskMargin", "fabMask", "Mask, per side", &F::maskMargin, kAlways, 0, 20, Sign::NotNegative,
         "An opening is larger than its land by this"},
        {"plating", "fabPlating", "Plating", &F::plating, kAlways, 0, 20, Sign::NotNegative,
         "A bit is larger than the finished hole by this"},
        {"slotTolerance", "fabSlotTolerance", "Milled width ±", &F::slotTolerance, kAlways, 0, 20, Sign::NotNegative,
         "Of slots and windows"},
        {"wander", "fabWander", "Drill wander, σ", &F::wander, kAlways, 0, 20, Sign::NotNegative,
         "Of a hole's place, in each axis"},
        {"passes", "fabPasses", "Bare to plated, σ", &F::passes, kAlways, 0, 20, Sign::NotNegative,
         "Shift between the two passes of drilling"},
        {"aspect", "fabAspect", "Board to bit, most", &F::aspect, kAlways, 1, 100, Sign::NotNegative,
         "Board thickness over the bit's diameter"},
        {"mills", "fabMills", "Mill bits", &F::mills, kAlways, 0, 20, Sign::Above, "Diameters, as 0.8 1.0 1.2"},
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
