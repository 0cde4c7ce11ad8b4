#pragma once
// Gerber images as a reader of boards meets them (Layer Format Specification 2022, X2 attributes; older ones too:
// inches, left-out zeros, RS-274X attributes in comments). Flashes are pads; a region that carries a pin is one.

#include <string_view>

#include "core/foreign/foreign_pads.h"

namespace punch {

struct GerberObject {
    ForeignPad pad;
    std::string component;  ///< "X1", of .P or .C; empty: not said
    bool fiducial = false;
};

struct GerberPads {
    std::vector<GerberObject> pads;
    std::vector<std::string> notes;
    bool copper = true;  ///< its file function is copper, or it has none
    bool bottom = false;
};

/// Errors: no Gerber file, unclosed commands, coordinates without a format.
Result<GerberPads> padsFromGerber(std::string_view text, const std::string& where);

}  // namespace punch
