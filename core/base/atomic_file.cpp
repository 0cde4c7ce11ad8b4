#include "core/base/atomic_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <sstream>
#include <system_error>

namespace punch {
namespace fs = std::filesystem;
namespace {

constexpr const char* kTemporary = ".punchbit-";

std::string unfinishedWords(const std::vector<NamedContent>& files) {
    std::string words =
        "Writing these files was cut short: some may be of an earlier time than the others.\n"
        "Write them again; this note goes then.\n\n";
    for (const NamedContent& file : files) words += file.name + "\n";
    return words;
}

/// What a process that was killed left behind. Errors are of no importance.
void removeLeftovers(const fs::path& folder) {
    std::error_code error;
    for (auto it = fs::directory_iterator(folder, error); !error && it != fs::directory_iterator();
         it.increment(error)) {
        const std::string name = it->path().filename().string();
        if (!name.starts_with(kTemporary)) continue;
        const int process = std::atoi(name.c_str() + std::strlen(kTemporary));
        if (process > 0 && ::kill(process, 0) != 0 && errno == ESRCH) {
            std::error_code ignored;
            fs::remove(it->path(), ignored);
        }
    }
}

/// Holds a folder for as long as it lives, so that two that write many files into it come one after the other.
class FolderLock {
public:
    explicit FolderLock(const fs::path& folder) : handle_(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)) {
        if (handle_ >= 0) ::flock(handle_, LOCK_EX);
    }
    ~FolderLock() {
        if (handle_ >= 0) ::close(handle_);
    }
    FolderLock(const FolderLock&) = delete;
    FolderLock& operator=(const FolderLock&) = delete;

private:
    int handle_;
};

std::string adviceFor(int error) {
    switch (error) {
        case ENOSPC:
        case EDQUOT:
        case EFBIG: return "The disk is full: free some room and save again, or save elsewhere";
        case EACCES:
        case EPERM:
        case EROFS: return "The folder is read-only for you: save elsewhere";
        case ENOENT:
        case ENOTDIR: return "The folder does not exist: choose another one";
        default: return "Save elsewhere";
    }
}

tl::unexpected<Problem> failed(const fs::path& file, const char* doing, int error) {
    return problem(fmt::format("could not {}: {}", doing, std::strerror(error)), file.string(), adviceFor(error));
}

/// Writes a temporary file beside `file`, and flushes it unless that is done later.
Result<fs::path> writeBeside(const fs::path& file, std::string_view content, bool flushed = true) {
    // Its own name would be too long beside one that is as long as names may be.
    std::string pattern = (file.parent_path() / fmt::format("{}{}-XXXXXX", kTemporary, ::getpid())).string();
    const int handle = ::mkstemp(pattern.data());
    if (handle < 0) return failed(file, "write", errno);
    const auto giveUp = [&](const char* doing) {
        const int error = errno;
        ::close(handle);
        ::unlink(pattern.c_str());
        return failed(file, doing, error);
    };
    std::size_t done = 0;
    while (done < content.size()) {
        const ssize_t n = ::write(handle, content.data() + done, content.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return giveUp("write");
        done += static_cast<std::size_t>(n);
    }
    struct stat old {};
    const bool had = ::stat(file.c_str(), &old) == 0;
    if (::fchmod(handle, had ? (old.st_mode & 0777) : 0644) != 0) return giveUp("set the permissions");
    if (flushed && ::fsync(handle) != 0) return giveUp("write");
    ::close(handle);
    return fs::path(pattern);
}

}  // namespace

Result<void> writeAtomically(const fs::path& file, std::string_view content) {
    // A link stays a link: what it names is replaced.
    std::error_code linkError;
    const fs::path target = fs::is_symlink(file, linkError) ? fs::weakly_canonical(file, linkError) : file;
    const auto temporary = writeBeside(target, content);
    if (!temporary) return tl::make_unexpected(temporary.error());
    if (::rename(temporary->c_str(), target.c_str()) != 0) {
        const int error = errno;
        ::unlink(temporary->c_str());
        return failed(file, "replace the file", error);
    }
    return {};
}

Result<void> writeAllAtomically(const fs::path& folder, const std::vector<NamedContent>& files) {
    std::error_code error;
    fs::create_directories(folder, error);
    if (error) return failed(folder, "make the folder", error.value());
    const FolderLock lock(folder);
    removeLeftovers(folder);
    std::vector<fs::path> written;
    const auto removeAll = [&] {
        for (const fs::path& path : written) fs::remove(path, error);
    };
    for (const NamedContent& file : files) {
        auto temporary = writeBeside(folder / file.name, file.content, false);
        if (!temporary) {
            removeAll();
            return tl::make_unexpected(temporary.error());
        }
        written.push_back(*temporary);
    }
    // Flushed together: the disk is asked to wait once for most of them, not once for each.
    for (std::size_t i = 0; i < written.size(); ++i) {
        const int handle = ::open(written[i].c_str(), O_RDONLY | O_CLOEXEC);
        const bool good = handle >= 0 && ::fsync(handle) == 0;
        const int code = errno;
        if (handle >= 0) ::close(handle);
        if (!good) {
            removeAll();
            return failed(folder / files[i].name, "write", code);
        }
    }
    for (std::size_t i = 0; i < files.size(); ++i)
        if (fs::is_directory(folder / files[i].name)) {
            removeAll();
            return failed(folder / files[i].name, "replace", EISDIR);
        }
    // Several renames are not one: while they last, a note says so to whoever finds the folder.
    const fs::path note = folder / kUnfinished;
    if (files.size() > 1) {
        const auto words = writeAtomically(note, unfinishedWords(files));
        if (!words) {
            removeAll();
            return words;
        }
    }
    for (std::size_t i = 0; i < files.size(); ++i)
        if (::rename(written[i].c_str(), (folder / files[i].name).c_str()) != 0) {
            const int code = errno;
            removeAll();
            if (i == 0) fs::remove(note, error);
            return failed(folder / files[i].name, "replace the file", code);
        }
    fs::remove(note, error);
    return {};
}

Result<void> plainFile(const fs::path& file, double mostBytes) {
    std::error_code error;
    const fs::file_status status = fs::status(file, error);
    if (status.type() == fs::file_type::not_found)
        return problem("there is no such file", file.string(), "Check the name");
    if (fs::is_directory(status)) return problem("this is a folder", file.string(), "Name a file in it");
    if (!fs::is_regular_file(status))
        return problem("this is no plain file", file.string(), "Name a file, not a device or a pipe");
    const auto size = fs::file_size(file, error);
    if (error) return problem("the file cannot be read", file.string(), "Check its permissions");
    if (static_cast<double>(size) > mostBytes)
        return problem(fmt::format("the file is larger than {:.0f} MB", mostBytes / 1e6), file.string(),
                       "Choose another file");
    return {};
}

Result<std::string> readWhole(const fs::path& file, double mostBytes) {
    if (auto plain = plainFile(file, mostBytes); !plain) return tl::make_unexpected(plain.error());
    std::ifstream in(file, std::ios::binary);
    if (!in) return problem("the file cannot be opened", file.string(), "Check whether you may read it");
    std::ostringstream content;
    content << in.rdbuf();
    // An empty file leaves the stream marked as failed.
    if (!in || (!content && content.tellp() > 0))
        return problem("the file cannot be read", file.string(), "Check its permissions");
    return content.str();
}

}  // namespace punch
