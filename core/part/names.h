#pragma once
// The words that files, the command line and the entry line use for the choices of a Part. One table each.

#include <array>
#include <string>
#include <string_view>
#include <utility>

#include "core/part/cut_out.h"
#include "core/part/part.h"

namespace punch {

template <class T>
struct Names;  // static constexpr std::array<std::pair<T, std::string_view>, N> table

#define PUNCH_NAMES(Type, Count, ...)                                                                  \
    template <>                                                                                        \
    struct Names<Type> {                                                                               \
        static constexpr std::array<std::pair<Type, std::string_view>, Count> table = {{__VA_ARGS__}}; \
    };

PUNCH_NAMES(Axis, 4, {Axis::Along, "along"}, {Axis::Across, "across"}, {Axis::Height, "height"},
            {Axis::Direct, "direct"})
PUNCH_NAMES(Contact, 13, {Contact::Outside, "outside"}, {Contact::Inside, "inside"}, {Contact::Centres, "centres"},
            {Contact::Size, "size"}, {Contact::FaceNear, "face to near edge"}, {Contact::FaceFar, "face to far edge"},
            {Contact::FaceCentre, "face to centre"}, {Contact::Angle, "angle"}, {Contact::Rim, "rim"},
            {Contact::Quantity, "named value"}, {Contact::Picture, "in the picture"},
            {Contact::PictureLength, "known length in the picture"}, {Contact::PictureLevel, "level in the picture"})
PUNCH_NAMES(PictureFace, 3, {PictureFace::NotSaid, "not said"}, {PictureFace::PartSide, "part"},
            {PictureFace::SolderSide, "solder"})
PUNCH_NAMES(LeadShape, 4, {LeadShape::Rectangular, "rectangular"}, {LeadShape::Square, "square"},
            {LeadShape::Round, "round"}, {LeadShape::Oval, "oval"})
PUNCH_NAMES(LeadEnd, 3, {LeadEnd::Plain, "plain"}, {LeadEnd::Formed, "formed"}, {LeadEnd::Sprung, "sprung"})
PUNCH_NAMES(FormationKind, 7, {FormationKind::Row, "row"}, {FormationKind::TwoRows, "two rows"},
            {FormationKind::Staggered, "staggered rows"}, {FormationKind::Grid, "grid"}, {FormationKind::Ring, "ring"},
            {FormationKind::Single, "single"}, {FormationKind::Twin, "twin"})
PUNCH_NAMES(NumberOrder, 5, {NumberOrder::RowByRow, "row by row"}, {NumberOrder::Around, "around"},
            {NumberOrder::ZigZag, "zigzag"}, {NumberOrder::ByColumn, "by column"}, {NumberOrder::Clicked, "clicked"})
PUNCH_NAMES(SpotKind, 5, {SpotKind::Peg, "peg"}, {SpotKind::Lock, "lock"}, {SpotKind::Lug, "lug"},
            {SpotKind::MountingHole, "mounting hole"}, {SpotKind::Mark, "mark"})
PUNCH_NAMES(FaceKind, 4, {FaceKind::Panel, "panel"}, {FaceKind::BoardEdge, "board edge"}, {FaceKind::Knob, "knob face"},
            {FaceKind::Plug, "plug face"})
PUNCH_NAMES(DatumKind, 4, {DatumKind::MiddleOfPins, "middle of the pins"}, {DatumKind::PinOne, "pin 1"},
            {DatumKind::Feature, "feature"}, {DatumKind::Between, "between"})
PUNCH_NAMES(SourceState, 6, {SourceState::NotSaid, "not said"}, {SourceState::Guessed, "guessed"},
            {SourceState::TakenIn, "taken in, not confirmed"},
            {SourceState::Measured, "measured"}, {SourceState::Drawing, "drawing"},
            {SourceState::Proven, "proven on a board"})
PUNCH_NAMES(PinKind, 11, {PinKind::NotSaid, "not said"}, {PinKind::Input, "input"}, {PinKind::Output, "output"},
            {PinKind::Bidirectional, "bidirectional"}, {PinKind::ThreeState, "three-state"},
            {PinKind::OpenCollector, "open collector"}, {PinKind::OpenEmitter, "open emitter"},
            {PinKind::Passive, "passive"}, {PinKind::Supply, "supply"}, {PinKind::Return, "return"},
            {PinKind::NotConnected, "no internal connection"})
PUNCH_NAMES(PinSide, 5, {PinSide::ByKind, "by kind"}, {PinSide::Left, "left"}, {PinSide::Right, "right"},
            {PinSide::Top, "top"}, {PinSide::Bottom, "bottom"})
PUNCH_NAMES(FamilyFollow, 4, {FamilyFollow::ByPlace, "by place"}, {FamilyFollow::Left, "left"},
            {FamilyFollow::Middle, "middle"}, {FamilyFollow::Right, "right"})
PUNCH_NAMES(JoinKind, 3, {JoinKind::Round, "round"}, {JoinKind::Slot, "slot"}, {JoinKind::TwoHoles, "two holes"})
PUNCH_NAMES(JoinBy, 3, {JoinBy::Leads, "leads"}, {JoinBy::PinOne, "pin 1"}, {JoinBy::Datum, "datum"})
PUNCH_NAMES(SymbolForm, 5, {SymbolForm::Line, "line"}, {SymbolForm::Arc, "arc"}, {SymbolForm::Circle, "circle"},
            {SymbolForm::Polygon, "polygon"}, {SymbolForm::Text, "text"})
PUNCH_NAMES(PartKind, 3, {PartKind::Placed, "placed and bought"}, {PartKind::Printed, "placed, not bought"},
            {PartKind::Loose, "bought, not soldered"})
PUNCH_NAMES(Level, 3, {Level::A, "A"}, {Level::B, "B"}, {Level::C, "C"})
PUNCH_NAMES(HoleRule, 2, {HoleRule::Ipc2222, "IPC-2222"}, {HoleRule::HouseFactor, "house factor"})
PUNCH_NAMES(LandRule, 2, {LandRule::Ipc2221, "IPC-2221"}, {LandRule::FixedRing, "fixed ring"})
PUNCH_NAMES(DrillList, 3, {DrillList::Metric, "metric"}, {DrillList::Inch, "inch"}, {DrillList::Own, "own"})
PUNCH_NAMES(VoltageColumn, 7, {VoltageColumn::B1, "B1"}, {VoltageColumn::B2, "B2"}, {VoltageColumn::B3, "B3"},
            {VoltageColumn::B4, "B4"}, {VoltageColumn::A5, "A5"}, {VoltageColumn::A6, "A6"}, {VoltageColumn::A7, "A7"})
PUNCH_NAMES(VoltageStandard, 2, {VoltageStandard::Ipc2221, "IPC-2221B"}, {VoltageStandard::Iec60664, "IEC 60664-1"})
PUNCH_NAMES(OvervoltageCategory, 4, {OvervoltageCategory::I, "I"}, {OvervoltageCategory::II, "II"},
            {OvervoltageCategory::III, "III"}, {OvervoltageCategory::IV, "IV"})
PUNCH_NAMES(PollutionDegree, 3, {PollutionDegree::One, "1"}, {PollutionDegree::Two, "2"}, {PollutionDegree::Three, "3"})
PUNCH_NAMES(MaterialGroup, 3, {MaterialGroup::I, "I"}, {MaterialGroup::II, "II"}, {MaterialGroup::III, "III"})
PUNCH_NAMES(Insulation, 3, {Insulation::Functional, "functional"}, {Insulation::Basic, "basic"},
            {Insulation::Reinforced, "reinforced"})
PUNCH_NAMES(Density, 4, {Density::A, "A"}, {Density::B, "B"}, {Density::C, "C"}, {Density::Connector, "connector"})
PUNCH_NAMES(PotentialKind, 3, {PotentialKind::Ac, "a.c. r.m.s."}, {PotentialKind::Dc, "d.c."},
            {PotentialKind::Peak, "peak"})
PUNCH_NAMES(LandShape, 6, {LandShape::Round, "round"}, {LandShape::Square, "square"},
            {LandShape::Rectangle, "rectangle"}, {LandShape::Oval, "oval"},
            {LandShape::RoundedRectangle, "rounded rectangle"}, {LandShape::Octagon, "octagon"})
PUNCH_NAMES(PadLayers, 3, {PadLayers::Through, "through"}, {PadLayers::Top, "top"}, {PadLayers::Bottom, "bottom"})
PUNCH_NAMES(CutOutKind, 2, {CutOutKind::Slot, "slot"}, {CutOutKind::Window, "window"})
PUNCH_NAMES(Side, 4, {Side::Left, "left"}, {Side::Right, "right"}, {Side::Front, "front"}, {Side::Rear, "rear"})
PUNCH_NAMES(PinOneMark, 3, {PinOneMark::Outside, "outside the body"}, {PinOneMark::Inside, "inside the body"},
            {PinOneMark::None, "none"})
PUNCH_NAMES(HoldAt, 3, {HoldAt::Middle, "middle"}, {HoldAt::Low, "low"}, {HoldAt::High, "high"})
PUNCH_NAMES(CornerForm, 3, {CornerForm::Sharp, "sharp"}, {CornerForm::Round, "round"}, {CornerForm::Bevel, "bevel"})

template <>
struct Names<MarkKind> {
#define PUNCH_MARK_NAME(kind, word) std::pair<MarkKind, std::string_view>{MarkKind::kind, word},
    static constexpr std::array table = {PUNCH_MARK_KINDS(PUNCH_MARK_NAME)};
#undef PUNCH_MARK_NAME
};
#undef PUNCH_NAMES

template <class T>
std::string nameOf(T value) {
    for (const auto& [v, name] : Names<T>::table)
        if (v == value) return std::string(name);
    return {};
}

}  // namespace punch
