#pragma once
// Each file read again before it is written, by readers that share nothing with the writers: are the footprint's pads
// and holes in it, where the footprint has them?

#include <string>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/footprint.h"

namespace punch {

struct CheckedFile {
    std::string name;
    std::size_t bytes = 0;
    bool good = true;
    std::string words;  ///< "4 pads, 1 bare hole, as on the sheet", or what is wrong
};

/// `footprint` as it was written: turned, its 0, 0 where the receiver wants it. By the file's name and ending; of what
/// holds no pads only its form is looked at.
CheckedFile checkedFile(const NamedContent& file, const Footprint& footprint);
std::vector<CheckedFile> checkedFiles(const std::vector<NamedContent>& files, const Footprint& footprint);

/// Errors: the first file that is not good.
Result<void> allGood(const std::vector<CheckedFile>& files);

}  // namespace punch
