#include "core/solid/solid_worker.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <filesystem>

#include "core/solid/questions.h"

extern char** environ;

namespace punch {
namespace {

namespace fs = std::filesystem;
using Clock = std::chrono::steady_clock;

constexpr std::size_t kMostAnswer = std::size_t{2} << 30;

bool writeAll(int to, const std::string& bytes) {
    for (std::size_t done = 0; done < bytes.size();) {
        const ssize_t n = ::write(to, bytes.data() + done, bytes.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return true;
}

}  // namespace

struct SolidWorker::Child {
    pid_t pid = -1;
    int to = -1, from = -1;

    ~Child() {
        if (to >= 0) ::close(to);
        if (from >= 0) ::close(from);
        if (pid < 0) return;
        ::kill(pid, SIGKILL);
        while (::waitpid(pid, nullptr, 0) < 0 && errno == EINTR) {
        }
    }

    enum class Got { All, End, Late, Unwanted };
    /// That many bytes; in between `wanted` is asked about ten times a second.
    Got read(std::string& bytes, std::size_t size, Clock::time_point end, const std::function<bool()>& wanted) {
        bytes.resize(size);
        for (std::size_t done = 0; done < size;) {
            const double left = std::chrono::duration<double, std::milli>(end - Clock::now()).count();
            if (left <= 0) return Got::Late;
            pollfd waiting{from, POLLIN, 0};
            const int ready = ::poll(&waiting, 1, static_cast<int>(std::min(left + 1, 100.0)));
            if (ready < 0 && errno != EINTR) return Got::End;
            if (ready <= 0) {
                if (!wanted()) return Got::Unwanted;
                continue;
            }
            const ssize_t n = ::read(from, bytes.data() + done, size - done);
            if (n < 0 && errno == EINTR) continue;
            if (n <= 0) return Got::End;
            done += static_cast<std::size_t>(n);
        }
        return Got::All;
    }
};

SolidWorker::SolidWorker() = default;
SolidWorker::~SolidWorker() = default;

std::string SolidWorker::program() {
    if (const char* named = std::getenv("PUNCH_SOLID"); named != nullptr) return named;
    std::error_code error;
    const fs::path here = fs::read_symlink("/proc/self/exe", error).parent_path();
    std::vector<fs::path> places = {here / "punch-solid", here.parent_path() / "libexec/punchbit/punch-solid"};
    // In a build it lies some folders up and beside.
    for (fs::path up = here; up.has_relative_path() && places.size() < 6; up = up.parent_path())
        places.push_back(up / "core/solid/kernel/punch-solid");
    for (const fs::path& p : places)
        if (fs::is_regular_file(p, error)) return p.string();
    return {};
}

Result<std::string> SolidWorker::ask(const std::string& what, std::string request, const SolidLimits& limits,
                                     const Progress& progress) {
    if (!child_) {
        const std::string path = program();
        if (path.empty())
            return problem("the program that reads solids, punch-solid, is missing", what, "Install Punchbit again");
        int in[2], out[2];
        if (::pipe2(in, O_CLOEXEC) != 0) return problem("no process could be started", what, "Close other programs");
        if (::pipe2(out, O_CLOEXEC) != 0) {
            ::close(in[0]);
            ::close(in[1]);
            return problem("no process could be started", what, "Close other programs");
        }
        posix_spawn_file_actions_t actions;
        ::posix_spawn_file_actions_init(&actions);
        ::posix_spawn_file_actions_adddup2(&actions, in[0], 0);
        ::posix_spawn_file_actions_adddup2(&actions, out[1], 1);
        const std::string memory = fmt::format("{:.0f}", limits.gigabytes * 1e9);
        char* const arguments[] = {const_cast<char*>(path.c_str()), const_cast<char*>(memory.c_str()), nullptr};
        auto child = std::make_unique<Child>();
        const int error = ::posix_spawn(&child->pid, path.c_str(), &actions, nullptr, arguments, environ);
        ::posix_spawn_file_actions_destroy(&actions);
        ::close(in[0]);
        ::close(out[1]);
        child->to = in[1];
        child->from = out[0];
        if (error != 0) {
            child->pid = -1;
            return problem("punch-solid could not be started", what, "Close other programs");
        }
        child_ = std::move(child);
    }
    // Whatever goes wrong from here on, what is asked next is asked of a new one.
    std::unique_ptr<Child> child = std::move(child_);
    const std::uint64_t size = request.size();
    std::string framed(reinterpret_cast<const char*>(&size), sizeof size);
    framed += request;
    // A child that has ended must not end this process too.
    struct sigaction ignore {
    }, before{};
    ignore.sa_handler = SIG_IGN;
    ::sigaction(SIGPIPE, &ignore, &before);
    const bool sent = writeAll(child->to, framed);
    ::sigaction(SIGPIPE, &before, nullptr);
    const auto end =
        Clock::now() + std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(limits.seconds));
    double share = 0;
    const auto wanted = [&] { return !progress || progress(share); };
    const auto ended = [&](Child::Got got) {
        if (got == Child::Got::Late)
            return problem(fmt::format("it took more than {:.0f} s and was ended", limits.seconds), what,
                           "Save the part alone, without fine detail");
        if (got == Child::Got::Unwanted) return problem("it was ended, as you asked", what);
        return problem("working on it failed: the file is broken, or needs too much memory", what,
                       "Save it again, the part alone");
    };
    while (sent) {
        std::string head, body;
        if (const auto got = child->read(head, 9, end, wanted); got != Child::Got::All) return ended(got);
        std::uint64_t length = 0;
        std::memcpy(&length, head.data() + 1, sizeof length);
        if (length > kMostAnswer) return ended(Child::Got::End);
        if (const auto got = child->read(body, length, end, wanted); got != Child::Got::All) return ended(got);
        if (head[0] == kProgressAnswer) {
            if (body.size() == sizeof share) std::memcpy(&share, body.data(), sizeof share);
            if (!wanted()) return ended(Child::Got::Unwanted);
            continue;
        }
        child_ = std::move(child);
        if (head[0] == kGoodAnswer) return body;
        Packed packed(std::move(body));
        Problem p;
        for (std::string* s : {&p.what, &p.where, &p.todo}) packed.get(*s);
        if (p.where.empty()) p.where = what;
        return tl::make_unexpected(p);
    }
    return ended(Child::Got::End);
}

namespace {

void putLimits(Packed& to, const SolidLimits& limits) {
    to.put(limits.deflection);
    to.put(limits.angle);
}

Result<Solid> solidFrom(Result<std::string> answer, const std::string& what) {
    if (!answer) return tl::make_unexpected(answer.error());
    try {
        Packed from(std::move(*answer));
        Solid solid;
        unpack(from, solid);
        return solid;
    } catch (const std::exception&) {
        return problem("its answer could not be read", what);
    }
}

}  // namespace

Result<Solid> SolidWorker::readStep(const std::string& path, const SolidLimits& limits, const Progress& progress) {
    Packed request;
    request.put(Question::ReadStep);
    putLimits(request, limits);
    request.put(path);
    const std::string name = fs::path(path).filename().string();
    return solidFrom(ask(name, request.take(), limits, progress), name);
}

Result<Solid> SolidWorker::make(const SolidsToMake& all, const SolidLimits& limits) {
    Packed request;
    request.put(Question::Make);
    putLimits(request, limits);
    pack(request, all);
    return solidFrom(ask(all.name, request.take(), limits, {}), all.name);
}

Result<SolidDistance> SolidWorker::measure(const SolidsToMake& all, std::size_t one, std::size_t other,
                                           const SolidLimits& limits) {
    Packed request;
    request.put(Question::Measure);
    putLimits(request, limits);
    pack(request, all);
    request.put(std::array<std::uint64_t, 2>{one, other});
    auto answer = ask(all.name, request.take(), limits, {});
    if (!answer) return tl::make_unexpected(answer.error());
    try {
        Packed from(std::move(*answer));
        SolidDistance distance;
        from.get(distance);
        return distance;
    } catch (const std::exception&) {
        return problem("its answer could not be read", all.name);
    }
}

Result<void> SolidWorker::writeStep(const SolidsToMake& all, const std::string& path, const SolidLimits& limits) {
    Packed request;
    request.put(Question::WriteStep);
    putLimits(request, limits);
    pack(request, all);
    request.put(path);
    const auto answer = ask(fs::path(path).filename().string(), request.take(), limits, {});
    if (!answer) return tl::make_unexpected(answer.error());
    return {};
}

}  // namespace punch
