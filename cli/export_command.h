#pragma once
// punch export and punch paper: files of one part or of whole libraries, several at once; sheets of paper.

#include <string>
#include <vector>

namespace punch {

struct ExportArguments {
    std::vector<std::string> files;  ///< parts, or folders of them
    std::string folder;
    std::vector<std::string> formats;
    std::string zero;  ///< "A" or "B": IPC-7351's levels; empty: as the part
    int turn = 0;      ///< degrees besides, a multiple of 90
    std::string origin = "datum";
    std::string purpose;  ///< an occasion's formats
    bool check = false;   ///< each file is read again before it is written
    int threads = 0;  ///< 0: as many as the machine has
};
/// 0, or 2 where a part cannot be read or written; the others are written.
int exportCommand(const ExportArguments& arguments);

struct ReportArguments {
    std::vector<std::string> files;
    std::string folder, date;
};
/// Reports as PDF and HTML, dated.
int reportCommand(const ReportArguments& arguments);

struct PaperArguments {
    std::vector<std::string> files;
    std::string out, page = "A4", printed;
    bool mirrored = false, loose = false;
};
int paperCommand(const PaperArguments& arguments);

}  // namespace punch
