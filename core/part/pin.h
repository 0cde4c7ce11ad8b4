#pragma once
// What a pin does: its number, names, kind, where it stands on the symbol; what a multimeter said of it; variants that
// share body and pads and differ in these.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/part/mark.h"
#include "core/part/source.h"

namespace punch {

/// What flows through a pin.
enum class PinKind {
    NotSaid,
    Input,
    Output,
    Bidirectional,
    ThreeState,
    OpenCollector,
    OpenEmitter,
    Passive,
    Supply,        ///< what feeds it
    Return,        ///< 0 V, the other end of a supply
    NotConnected,  ///< nothing inside
};

/// The side of the symbol on which a pin stands.
enum class PinSide { ByKind, Left, Right, Top, Bottom };

struct Pin {
    PUNCH_VALUE(Pin)
    std::string number;
    std::vector<std::string> names;  ///< the first is drawn; "/RESET": with a bar, active low
    PinKind kind = PinKind::NotSaid;
    PinSide side = PinSide::ByKind;
    std::string group;    ///< pins of a group stand together, a gap between groups
    std::string element;  ///< of a symbol in several pieces; empty: the first
    std::string note;
    int gap = 0;  ///< steps left free before it on its side of the symbol
    std::vector<std::string>
        pads;  ///< numbers of the pads that it is joined to; empty: those of its own number; an empty one: to none
    UnknownFields unknown = {};
    friend bool operator==(const Pin&, const Pin&);
};

/// What a multimeter said between two pins.
struct BenchNote {
    PUNCH_VALUE(BenchNote)
    std::string a, b;            ///< numbers
    std::string position;        ///< "lever up", "fully left"; empty: however it stands
    std::optional<double> ohms;  ///< none: open
    UnknownFields unknown = {};
    friend bool operator==(const BenchNote&, const BenchNote&);
};

/// What a board said of the part: that it fitted, or what was corrected after it.
struct BoardNote {
    std::string date;   ///< "2026-11-29"
    std::string board;  ///< "vent controller, board 2"
    std::string words;  ///< "pegs 0.05 looser"; empty: it fitted
    UnknownFields unknown = {};
    friend bool operator==(const BoardNote&, const BoardNote&) = default;
};

/// A plain shape on the symbol, beside what the rule draws.
enum class SymbolForm {
    Line,     ///< through all its places
    Arc,      ///< from the first place through the second to the third
    Circle,   ///< around the first place, through the second
    Polygon,  ///< closed
    Text,     ///< centred on its place
};

/// mm on the symbol: x right, y up, from the middle of its element's block.
struct SymbolPlace {
    double x = 0, y = 0;
    friend bool operator==(const SymbolPlace&, const SymbolPlace&) = default;
};

struct SymbolShape {
    PUNCH_VALUE(SymbolShape)
    SymbolForm form = SymbolForm::Line;
    std::vector<SymbolPlace> places;
    std::string text;
    std::string element;  ///< as of a pin
    bool filled = false;
    UnknownFields unknown = {};
    friend bool operator==(const SymbolShape&, const SymbolShape&);
};

/// What the symbol says beside reference and value.
struct SymbolAttribute {
    std::string name, value;
    bool shown = false;
    UnknownFields unknown = {};
    friend bool operator==(const SymbolAttribute&, const SymbolAttribute&) = default;
};

struct SymbolDrawing {
    PUNCH_VALUE(SymbolDrawing)
    std::vector<SymbolShape> shapes;
    std::vector<SymbolAttribute> attributes;
    bool block = true;           ///< the block's outline is drawn
    bool referenceShown = true;  ///< the reference letter
    bool valueShown = true;
    UnknownFields unknown = {};
    friend bool operator==(const SymbolDrawing&, const SymbolDrawing&);
};

/// The same body and pads with other pins, names or marks.
struct Variant {
    PUNCH_VALUE(Variant)
    std::string name;  ///< "PG": the part is released as HT-SEL6-PG
    std::string description;
    std::string value;
    std::vector<Pin> pins;             ///< instead of the part's; empty: the same
    std::vector<std::string> without;  ///< marks that it does not have
    std::vector<Mark> with;            ///< marks that it has besides; one of the same identifier takes its place
    UnknownFields unknown = {};
    friend bool operator==(const Variant&, const Variant&);
};

}  // namespace punch
