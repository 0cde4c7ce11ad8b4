// libFuzzer's entry: PUNCHBIT_FUZZ names the target. `./dev fuzz` sets it.

#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <cstdlib>

#include "fuzz/targets.h"

namespace {
const punch::fuzz::Target* target = nullptr;
}

extern "C" int LLVMFuzzerInitialize(int*, char***) {
    const char* name = std::getenv("PUNCHBIT_FUZZ");
    target = punch::fuzz::targetByName(name == nullptr ? "" : name);
    if (target != nullptr) return 0;
    std::fprintf(stderr, "PUNCHBIT_FUZZ names no target. There are:");
    for (const punch::fuzz::Target& t : punch::fuzz::targets()) std::fprintf(stderr, " %s", t.name);
    std::fprintf(stderr, "\n");
    std::exit(2);
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    target->run({reinterpret_cast<const char*>(data), size});
    return 0;
}
