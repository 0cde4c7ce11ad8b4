#pragma once
// punch match: parts of a library whose pads coincide; punch diff: what differs between two parts.

#include <string>
#include <vector>

#include "cli/find_command.h"

namespace punch {

struct MatchArguments {
    std::vector<std::string> files;  ///< a part, the files of a board, or a scan
    std::string folder, pattern;
    FindArguments find;  ///< of a scan
    bool json = false;
};
/// Exit code: 0 where some coincide, 1 where none do, 2 with a message.
int matchCommand(const MatchArguments& arguments);

/// Exit code: 0 where nothing differs, 1 where something does, 2 with a message.
int diffCommand(const std::string& one, const std::string& other);

struct ListArguments {
    std::string folder;
    std::string words;   ///< all of them; empty: all parts
    bool wrong = false;  ///< only what is not go
    bool json = false;
};
/// Exit 1 where there is none.
int listCommand(const ListArguments& arguments);

struct LibraryCheckArguments {
    std::string folder, junit, sarif;  ///< files that are written; empty: none
};
/// Exit as `punch check` of files: 2 where one cannot be read, 1 where a gauge is no-go, 3 where one is unknown.
int libraryCheckCommand(const LibraryCheckArguments& arguments);

struct CompareArguments {
    std::string one;
    std::vector<std::string> others;  ///< another part, or the files of a board: copper and drill, IPC-2581, a table
    std::string pattern;              ///< which of the patterns in them; empty: the only one
    std::string svg;                  ///< a file that is written; empty: none
    std::string by = "pads";
    double times = 20;
    double within = 0;  ///< mm; 0: any difference is one
    bool json = false;
};
/// Exit 1 where a pad is off by more than `within`, or sizes or numbers differ.
int compareCommand(const CompareArguments& arguments);

/// For version control: merges into OURS. Exit 1 where both said different things of one fact, which are named.
int mergeCommand(const std::string& base, const std::string& ours, const std::string& theirs);
/// Makes git merge parts so, in the repository of this folder.
int mergeSetUpCommand(const std::string& folder);

}  // namespace punch
