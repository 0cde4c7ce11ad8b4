#pragma once
// Colours by role, 0xRRGGBB: the sheet, space and files are drawn in the same ones. A colour never carries a meaning
// alone.

#include <cstdint>

namespace punch::palette {

inline constexpr std::uint32_t kPaper = 0xFAF7EF, kInk = 0x24333A, kCopper = 0xB9783B, kCopperEdge = 0x7E4D1F,
                               kCourtyard = 0x2B8A78, kBodySlate = 0x7D93A3, kPetrol = 0x0F5C63, kVermilion = 0xC4432A,
                               kSteel = 0xB4BCC2, kSteelEdge = 0x6F7A82, kLaminate = 0xEFE7CF, kLaminateEdge = 0xD9CEA8,
                               kMask = 0x7FB09A;

}  // namespace punch::palette
