#pragma once
// What a footprint's report says, whatever it is written as: tables in their order, and the pictures of its sources
// with the readings that were taken in them. HTML (report.h) and PDF (report_pdf.h) set the same.
//
// Every number in it is one of derive's JSON (release/derive_json).

#include <optional>
#include <string>
#include <vector>

#include "core/approval/approval.h"
#include "core/footprint.h"
#include "core/picture/picture.h"
#include "core/verdicts/gauge.h"

namespace punch {

/// Cells and heads that begin with '#' are numbers.
inline bool isNumberCell(const std::string& cell) { return !cell.empty() && cell[0] == '#'; }
struct ReportRow {
    std::vector<std::string> cells;
    std::optional<GaugeState> state = {};  ///< colours the row, beside its word
};
struct ReportTable {
    std::string title;
    std::vector<std::string> heads;
    std::vector<double> widths;  ///< shares of the page's width
    std::vector<ReportRow> rows;
    std::vector<std::string> after;  ///< lines below it
    bool long_ = false;              ///< may be cut where there is no room for all of it
};

/// A reading where it was taken: its number in the report's list.
struct ReportPick {
    std::size_t number = 0;
    PixelPoint a;
    std::optional<PixelPoint> b;
    double size = 0;  ///< pixels across, of a size
};
/// Red, green, blue, reduced; picks in its pixels.
struct ReportPicture {
    std::string title;
    Picture picture;
    std::vector<ReportPick> picks;
};

struct ReportContent {
    std::string name, description, made, program;
    std::string stamp, digest;
    std::string verdict;
    GaugeState worst = GaugeState::Unknown;
    bool loose = false;
    std::vector<ReportTable> tables;
    std::vector<ReportPicture> pictures;
    std::vector<std::string> missing;  ///< pictures that are not there
    std::string notes;
};

/// `home`: the folder of the part's file, beside which its pictures lie; empty: none are looked for. `made`: a date.
ReportContent reportContent(const Part& part, const Footprint& footprint, const std::string& made, const Stamp& stamp,
                            const std::string& home);

}  // namespace punch
