// What the large values of a Part do when they are made, copied, moved and compared (core/base/value.h).

#include "core/part/part.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Body)
PUNCH_VALUE_IS_HERE(Part)
PUNCH_VALUE_IS_HERE(Numbering)
PUNCH_VALUE_IS_HERE(Formation)
PUNCH_VALUE_IS_HERE(Spot)
PUNCH_VALUE_IS_HERE(Face)
PUNCH_VALUE_IS_HERE(Source)
PUNCH_VALUE_IS_HERE(Reading)
PUNCH_VALUE_IS_HERE(LetterTable)
PUNCH_VALUE_IS_HERE(SolidFile)
PUNCH_VALUE_IS_HERE(SolidMotion)
PUNCH_VALUE_IS_HERE(Mark)
PUNCH_VALUE_IS_HERE(Rules)
PUNCH_VALUE_IS_HERE(Dress)
PUNCH_VALUE_IS_HERE(PadOverride)
PUNCH_VALUE_IS_HERE(FabProfile)
PUNCH_VALUE_IS_HERE(Pin)
PUNCH_VALUE_IS_HERE(SymbolShape)
PUNCH_VALUE_IS_HERE(SymbolDrawing)
PUNCH_VALUE_IS_HERE(Variant)
PUNCH_VALUE_IS_HERE(BenchNote)
PUNCH_VALUE_IS_HERE(Version)
PUNCH_VALUE_IS_HERE(Approval)
PUNCH_VALUE_IS_HERE(Family)
PUNCH_VALUE_IS_HERE(Sample)

bool operator==(const Body&, const Body&) = default;
bool operator==(const Part&, const Part&) = default;
bool operator==(const Numbering&, const Numbering&) = default;
bool operator==(const Formation&, const Formation&) = default;
bool operator==(const Spot&, const Spot&) = default;
bool operator==(const Face&, const Face&) = default;
bool operator==(const Source&, const Source&) = default;
bool operator==(const Reading&, const Reading&) = default;
bool operator==(const LetterTable&, const LetterTable&) = default;
bool operator==(const SolidFile&, const SolidFile&) = default;
bool operator==(const SolidMotion&, const SolidMotion&) = default;
bool operator==(const Mark&, const Mark&) = default;
bool operator==(const Rules&, const Rules&) = default;
bool operator==(const Dress&, const Dress&) = default;
bool operator==(const PadOverride&, const PadOverride&) = default;
bool operator==(const FabProfile&, const FabProfile&) = default;
bool operator==(const Pin&, const Pin&) = default;
bool operator==(const SymbolShape&, const SymbolShape&) = default;
bool operator==(const SymbolDrawing&, const SymbolDrawing&) = default;
bool operator==(const Variant&, const Variant&) = default;
bool operator==(const BenchNote&, const BenchNote&) = default;
bool operator==(const Family&, const Family&) = default;
bool operator==(const Sample&, const Sample&) = default;

}  // namespace punch
