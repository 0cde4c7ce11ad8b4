#pragma once
// punch board: parts on an outline, what is wrong between them, and their files.

#include <string>
#include <vector>

namespace punch {

struct BoardArguments {
    std::string board;
    std::string size, outline, unit, corners, name;
    double thickness = 0;             ///< mm; 0: as it is
    std::vector<std::string> place;   ///< "PART,X,Y[,TURN[,bottom]]"
    std::vector<std::string> holes;   ///< "X,Y,DIAMETER"
    std::vector<std::string> remove;  ///< designators
    bool fiducials = false;
    std::string files;  ///< folder
    std::string picture;
    bool json = false;
};

/// Exit codes as `punch check`: 0 go or watch, 1 a no-go, 3 something unknown, 2 cannot be read or written.
int boardCommand(const BoardArguments& arguments);

}  // namespace punch
