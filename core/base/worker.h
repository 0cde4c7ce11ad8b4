#pragma once
// Work on files of strangers, in a process of its own with limits of time and memory: whatever a file does to its
// decoder, the bench goes on and says so.
//
// The work runs in a forked copy of the process and hands back bytes (core/base/packed.h); it must not touch the
// screen, threads or files to be written. Where the copy ends by itself, is killed or takes too long, a Problem says
// so.

#include <functional>
#include <string>

#include "core/base/result.h"

namespace punch {

struct WorkerLimits {
    double seconds = 15;   ///< of real time
    double gigabytes = 4;  ///< beyond what the process has now; not enforced under address sanitizers
};

/// `name` stands in messages: the file that is worked on. Errors: those that `work` returns, a time-out, a crash, no
/// memory.
Result<std::string> inWorker(const std::string& name, const std::function<Result<std::string>()>& work,
                             const WorkerLimits& limits = {});

}  // namespace punch
