#pragma once
// The program that does the work on solids, punch-solid, from this side: started when it is first needed, asked one
// thing after another, ended and started again when it hangs, crashes or is not wanted any more.
//
// A SolidWorker belongs to one thread at a time; it waits for its answers, so the bench keeps it off its own thread.

#include <atomic>
#include <functional>
#include <memory>
#include <string>

#include "core/base/result.h"
#include "core/solid/shapes_to_make.h"
#include "core/solid/solid.h"

namespace punch {

struct SolidLimits {
    double seconds = 120;      ///< of real time, for one question
    double gigabytes = 4;      ///< of memory, for the program
    double deflection = 0.02;  ///< mm between a triangle and its surface
    double angle = 12;         ///< degrees between neighbouring triangles of a curved face
};

class SolidWorker {
public:
    SolidWorker();
    ~SolidWorker();
    SolidWorker(const SolidWorker&) = delete;
    SolidWorker& operator=(const SolidWorker&) = delete;

    /// Shares of the work that is done, 0 to 1, while it waits; false ends the work.
    using Progress = std::function<bool(double)>;

    /// A STEP file (AP203, AP214, AP242), in mm. Errors: it is none, has no solid nor surface, is broken, takes too
    /// long or too much memory, was ended.
    Result<Solid> readStep(const std::string& path, const SolidLimits& limits = {}, const Progress& progress = {});
    /// Made anew. Errors: an outline that encloses nothing, a lead that bends sharper than it is thick.
    Result<Solid> make(const SolidsToMake& all, const SolidLimits& limits = {});
    /// The same, written as a STEP file (AP214) that appears whole or not at all. Errors: the same; it cannot be
    /// written.
    Result<void> writeStep(const SolidsToMake& all, const std::string& path, const SolidLimits& limits = {});

    /// Between two of the bodies, exactly as they would be made. Errors: the same; there is no such body.
    Result<SolidDistance> measure(const SolidsToMake& all, std::size_t one, std::size_t other,
                                  const SolidLimits& limits = {});

    /// Where punch-solid is: named by PUNCH_SOLID, beside this program, in the build beside it, or installed. Empty
    /// when it is nowhere.
    static std::string program();

private:
    struct Child;
    std::unique_ptr<Child> child_;
    Result<std::string> ask(const std::string& what, std::string request, const SolidLimits& limits,
                            const Progress& progress);
};

}  // namespace punch
