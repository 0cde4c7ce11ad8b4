#pragma once
// A reader run in a worker (worker.h), its value packed and unpacked again by pack() and unpack() beside the type.

#include "core/base/packed.h"
#include "core/base/worker.h"

namespace punch {

template <class T, class Work>
Result<T> readInWorker(const std::string& name, const Work& work, const WorkerLimits& limits = {}) {
    auto bytes = inWorker(
        name,
        [&]() -> Result<std::string> {
            const Result<T> value = work();
            if (!value) return tl::make_unexpected(value.error());
            Packed packed;
            pack(packed, *value);
            return packed.take();
        },
        limits);
    if (!bytes) return tl::make_unexpected(bytes.error());
    try {
        Packed packed(std::move(*bytes));
        T value{};
        unpack(packed, value);
        return value;
    } catch (const std::exception&) {
        return problem("reading it failed: the file is broken or made to do harm", name,
                       "Save it again, or choose another");
    }
}

}  // namespace punch
