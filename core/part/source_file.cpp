#include "core/part/source_file.h"

#include <algorithm>

namespace punch {
namespace fs = std::filesystem;

Result<fs::path> sourceFile(const fs::path& partFile, const std::string& named) {
    const auto outside = [&] {
        return problem("the part names a file outside its own folder, which is not opened", named,
                       "Put the file beside the part and bring it in again");
    };
    if (partFile.empty()) return problem("the part has no file yet", named, "Save the part first");
    const fs::path name(named);
    if (named.empty() || name.is_absolute() || named.find('\0') != std::string::npos) return outside();
    if (std::find(name.begin(), name.end(), fs::path("..")) != name.end()) return outside();
    std::error_code error;
    const fs::path folder = fs::weakly_canonical(fs::absolute(partFile, error).parent_path(), error);
    if (error) return problem("the part's folder cannot be read", partFile.string(), "Check its permissions");
    const fs::path file = fs::weakly_canonical(folder / name, error);
    if (error) return outside();
    const auto [inFolder, inFile] = std::mismatch(folder.begin(), folder.end(), file.begin(), file.end());
    if (inFolder != folder.end() || inFile == file.end()) return outside();
    return file;
}

bool mayBeOpened(const std::string& link) {
    std::string low(link.substr(0, 8));
    std::transform(low.begin(), low.end(), low.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return low.starts_with("http://") || low.starts_with("https://");
}

}  // namespace punch
