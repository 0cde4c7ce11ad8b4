#include "core/base/worker.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <fstream>
#include <new>

#include "core/base/packed.h"

namespace punch {
namespace {

#if defined(__SANITIZE_ADDRESS__)
constexpr bool kLimitsMemory = false;
#elif defined(__has_feature)
#if __has_feature(address_sanitizer)
constexpr bool kLimitsMemory = false;
#else
constexpr bool kLimitsMemory = true;
#endif
#else
constexpr bool kLimitsMemory = true;
#endif

constexpr char kGood = '+';
constexpr char kBad = '-';
using Clock = std::chrono::steady_clock;

bool writeAll(int to, const std::string& bytes) {
    for (std::size_t done = 0; done < bytes.size();) {
        const ssize_t n = ::write(to, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return true;
}

void limitSelf(const WorkerLimits& limits) {
    const auto set = [](__rlimit_resource what, double most) {
        const auto value = static_cast<rlim_t>(most);
        const rlimit limit{value, value};
        ::setrlimit(what, &limit);
    };
    set(RLIMIT_CPU, limits.seconds + 1);
    set(RLIMIT_CORE, 0);
    if (!kLimitsMemory) return;
    double pages = 0;
    std::ifstream("/proc/self/statm") >> pages;
    set(RLIMIT_AS, pages * static_cast<double>(::sysconf(_SC_PAGESIZE)) + limits.gigabytes * 1e9);
}

[[noreturn]] void runAndEnd(int to, const std::function<Result<std::string>()>& work, const WorkerLimits& limits) {
    // Nothing of the process that was copied is to run here: no handlers of signals, no destructors at the end.
    for (const int s : {SIGSEGV, SIGABRT, SIGBUS, SIGFPE, SIGTERM, SIGINT}) std::signal(s, SIG_DFL);
    // When who waits for it is gone, nobody wants the answer.
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    limitSelf(limits);
    // The last byte says what the bytes before it are.
    std::string answer;
    try {
        auto done = work();
        if (done) {
            answer = std::move(*done);
            answer += kGood;
        } else {
            Packed problem;
            for (const std::string* s : {&done.error().what, &done.error().where, &done.error().todo}) problem.put(*s);
            answer = problem.take() + kBad;
        }
    } catch (const std::bad_alloc&) {
        ::_exit(3);
    } catch (...) {
        ::_exit(4);
    }
    ::_exit(writeAll(to, answer) ? 0 : 5);
}

}  // namespace

Result<std::string> inWorker(const std::string& name, const std::function<Result<std::string>()>& work,
                             const WorkerLimits& limits) {
    int ends[2];
    if (::pipe2(ends, O_CLOEXEC) != 0)
        return problem("no process could be started to read it", name, "Close other programs and try again");
    const pid_t child = ::fork();
    if (child < 0) {
        ::close(ends[0]);
        ::close(ends[1]);
        return problem("no process could be started to read it", name, "Close other programs and try again");
    }
    if (child == 0) {
        ::close(ends[0]);
        runAndEnd(ends[1], work, limits);
    }
    ::close(ends[1]);
    ::fcntl(ends[0], F_SETPIPE_SZ, 1 << 20);
    const auto end = Clock::now() + std::chrono::duration<double>(limits.seconds);
    std::string bytes;
    bool late = false;
    std::string block(1 << 20, '\0');
    for (;;) {
        const double left = std::chrono::duration<double, std::milli>(end - Clock::now()).count();
        pollfd waiting{ends[0], POLLIN, 0};
        const int ready = left > 0 ? ::poll(&waiting, 1, static_cast<int>(left) + 1) : 0;
        if (ready < 0 && errno == EINTR) continue;
        if (ready <= 0) {
            late = true;
            break;
        }
        const ssize_t n = ::read(ends[0], block.data(), block.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        bytes.append(block, 0, static_cast<std::size_t>(n));
    }
    ::close(ends[0]);
    if (late) ::kill(child, SIGKILL);
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    if (late || (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU))
        return problem(fmt::format("reading it took more than {:.0f} s and was ended", limits.seconds), name,
                       "Save the view of the part alone, or scan it at a lower resolution");
    if (WIFEXITED(status) && WEXITSTATUS(status) == 3)
        return problem(fmt::format("reading it needs more than {:.0f} GB of memory and was ended", limits.gigabytes),
                       name, "Save the view of the part alone, or scan it at a lower resolution");
    if (!WIFEXITED(status) || WEXITSTATUS(status) != 0)
        return problem("reading it failed: the file is broken or made to do harm", name,
                       "Save it again, or choose another");
    const char last = bytes.empty() ? '\0' : bytes.back();
    if (!bytes.empty()) bytes.pop_back();
    if (last == kGood) return bytes;
    if (last == kBad) {
        try {
            Packed answer(std::move(bytes));
            Problem said;
            answer.get(said.what);
            answer.get(said.where);
            answer.get(said.todo);
            return tl::make_unexpected(said);
        } catch (const std::runtime_error&) {
        }
    }
    return problem("reading it failed: the file is broken or made to do harm", name,
                   "Save it again, or choose another");
}

}  // namespace punch
