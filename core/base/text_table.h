#pragma once
// Tables out of text: pasted from a spreadsheet, a CSV file with any separator, lines copied out of a drawing.

#include <string>
#include <string_view>
#include <vector>

namespace punch {

using TextRow = std::vector<std::string>;

std::string trimmed(std::string_view text);
/// Of ASCII letters alone.
std::string lower(std::string_view text);
/// Text of another encoding as UTF-8: UTF-16 by its mark, Latin-1 where it is no UTF-8.
std::string asUtf8(std::string_view text);
/// Rows of cells, quotes as RFC 4180 has them; a line break within quotes stays in its cell. At most 20,000 rows; empty
/// ones are left out.
std::vector<TextRow> rowsOf(const std::string& text, char separator);
/// Tab, semicolon, bar or comma, whichever splits most lines, and them alike; else a space.
char separatorOf(const std::string& text);

}  // namespace punch
