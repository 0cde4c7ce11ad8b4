#pragma once
// Pins out of text: a table pasted from a spreadsheet or a CSV file, lines copied out of a drawing, series.
//
// Columns are told apart by tabs, semicolons, commas or bars, else by spaces; a first line of words names them. Without
// one the column that holds the pads' numbers is the number, the one with most different words the name.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

struct ReadPins {
    std::vector<Pin> pins;
    std::vector<std::string> columns;    ///< what each column was taken for: "number", "name", …; "left out"
    std::vector<std::string> leftLines;  ///< lines in which no pin was found, as they are
};

/// `numbers`: those of the pads, which tell a column of numbers from one of currents. Errors: no line has a number.
Result<ReadPins> pinsFromText(std::string_view text, const std::vector<std::string>& numbers = {});
/// Names and kinds as they are typed: "D0..D7" is a series, "/RESET, RST" two names of one pin.
std::vector<std::string> namesFromText(std::string_view typed);
/// "D0..D3" is D0, D1, D2, D3; "A7..A4" runs down; anything else is itself. At most 1000.
std::vector<std::string> series(std::string_view typed);
/// "in", "I/O", "power", "NC", "open drain", and the words of files, in any case; none when it is no kind.
std::optional<PinKind> pinKindFromText(std::string_view typed);
/// number, name, kind, side, group, element, pads, note; after RFC 4180.
std::string pinsCsv(const std::vector<Pin>& pins);

}  // namespace punch
