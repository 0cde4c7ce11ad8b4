// punch-solid: reads questions from its standard input, answers on its standard output, ends when the input does.

#include <sys/resource.h>
#include <unistd.h>

#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Standard_Failure.hxx>
#include <array>
#include <cerrno>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <iostream>
#include <new>
#include <thread>

#include "core/solid/kernel/kernel.h"
#include "core/solid/questions.h"

namespace punch::kernel {
namespace {

int answers = 1;  // the stream that answers go to; what libraries print goes elsewhere

bool readAll(char* to, std::size_t size) {
    for (std::size_t done = 0; done < size;) {
        const ssize_t n = ::read(0, to + done, size - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return true;
}

void answer(char kind, const std::string& bytes) {
    const std::uint64_t size = bytes.size();
    std::string all(1, kind);
    all.append(reinterpret_cast<const char*>(&size), sizeof size);
    all += bytes;
    for (std::size_t done = 0; done < all.size();) {
        const ssize_t n = ::write(answers, all.data() + done, all.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) std::_Exit(1);
        done += static_cast<std::size_t>(n);
    }
}

void answer(const Problem& p) {
    Packed to;
    for (const std::string* s : {&p.what, &p.where, &p.todo}) to.put(*s);
    answer(kBadAnswer, to.take());
}

void answer(const Solid& solid) {
    Packed to;
    pack(to, solid);
    answer(kGoodAnswer, to.take());
}

void tell(double share) {
    static double last = -1;
    // A hundred steps are enough.
    if (share >= last && share < last + 0.01) return;
    last = share;
    answer(kProgressAnswer, std::string(reinterpret_cast<const char*>(&share), sizeof share));
}

void work(Packed& question) {
    Question what{};
    double deflection = 0, angle = 0;
    question.get(what);
    question.get(deflection);
    question.get(angle);
    if (what == Question::ReadStep) {
        std::string path;
        question.get(path);
        const auto read = readStep(path, tell);
        if (!read) return answer(Problem{read.error().what, {}, read.error().todo});
        return answer(meshed(*read, deflection, angle, tell));
    }
    SolidsToMake all;
    unpack(question, all);
    Read read;
    auto bodies = made(all, read.notes);
    if (!bodies) return answer(bodies.error());
    read.bodies = std::move(*bodies);
    if (what == Question::Make) return answer(meshed(read, deflection, angle, tell));
    if (what == Question::Measure) {
        std::array<std::uint64_t, 2> which{};
        question.get(which);
        std::array<const Body*, 2> both{};
        for (const Body& b : read.bodies)
            for (std::size_t k = 0; k < 2; ++k)
                if (b.of == static_cast<int>(which[k])) both[k] = &b;
        if (both[0] == nullptr || both[1] == nullptr) return answer(Problem{"there is no such body", {}, {}});
        const auto distance = measured(*both[0], *both[1]);
        if (!distance) return answer(distance.error());
        Packed to;
        to.put(*distance);
        return answer(kGoodAnswer, to.take());
    }
    std::string path;
    question.get(path);
    const auto written = writeStep(read.bodies, all, path);
    if (!written) return answer(Problem{written.error().what, {}, written.error().todo});
    answer(kGoodAnswer, {});
}

}  // namespace

int run([[maybe_unused]] int argc, [[maybe_unused]] char** argv) {
    // When who asks is gone, nobody wants the answer. (The kernel's own signal for this comes when the thread ends that
    // started a process, not the process.)
    const pid_t asker = ::getppid();
    std::thread([asker] {
        while (::getppid() == asker) std::this_thread::sleep_for(std::chrono::seconds(1));
        ::_exit(0);
    }).detach();
    const rlimit none{0, 0};
    ::setrlimit(RLIMIT_CORE, &none);
#if !defined(__SANITIZE_ADDRESS__)
    if (argc > 1)
        if (const double most = std::strtod(argv[1], nullptr); most > 0) {
            const rlimit memory{static_cast<rlim_t>(most), static_cast<rlim_t>(most)};
            ::setrlimit(RLIMIT_AS, &memory);
        }
#endif
    // The kernel prints what it thinks; that must not get among the answers.
    answers = ::dup(1);
    ::dup2(2, 1);
    Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_Printer));
    for (;;) {
        std::uint64_t size = 0;
        char head[sizeof size];
        if (!readAll(head, sizeof head)) return 0;
        std::memcpy(&size, head, sizeof size);
        if (size > (std::uint64_t{1} << 28)) return 1;
        std::string bytes(size, '\0');
        if (!readAll(bytes.data(), size)) return 0;
        try {
            Packed question(std::move(bytes));
            work(question);
        } catch (const Standard_Failure& failure) {
            answer(Problem{std::string("the kernel gave up: ") + failure.GetMessageString(), {}, "Save it again"});
        } catch (const std::bad_alloc&) {
            answer(Problem{"it needs too much memory", {}, "Save the part alone, without fine detail"});
        } catch (const std::exception& error) {
            answer(Problem{error.what(), {}, {}});
        }
    }
}

}  // namespace punch::kernel

int main(int argc, char** argv) { return punch::kernel::run(argc, argv); }
