#pragma once
// punch, run as a user runs it: the program of this build.

#include <sys/wait.h>

#include <cstdio>
#include <filesystem>
#include <string>

namespace punch::test {

struct Outcome {
    int code;
    std::string out;  ///< what it printed, messages too
};

/// Any command line, its two outputs together.
inline Outcome run(const std::string& commandLine) {
    const std::string command = commandLine + " 2>&1";
    FILE* pipe = ::popen(command.c_str(), "r");
    std::string out;
    char buffer[4096];
    for (std::size_t n; (n = std::fread(buffer, 1, sizeof buffer, pipe)) > 0;) out.append(buffer, n);
    const int status = ::pclose(pipe);
    return {WEXITSTATUS(status), out};
}

inline Outcome punchRun(const std::string& args) {
    return run(
        (std::filesystem::read_symlink("/proc/self/exe").parent_path().parent_path() / "cli" / "punch").string() + " " +
        args);
}

}  // namespace punch::test
