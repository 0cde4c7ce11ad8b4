#pragma once
// What punch-solid does, over Open CASCADE. Only the files of this folder include its headers.
//
// Lengths are mm. Every function may throw Standard_Failure; main.cpp makes a Problem of it.

#include <TopoDS_Shape.hxx>
#include <functional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/solid/shapes_to_make.h"
#include "core/solid/solid.h"

namespace punch::kernel {

/// A solid, or surfaces without one, where it stands.
struct Body {
    std::string name;
    Colour colour = kNoColour;
    TopoDS_Shape shape;
    std::vector<Colour> faceColours = {};  ///< in the order in which its faces are explored; empty: none has its own
    Look look = Look::Plastic;
    int of = -1;  ///< of what was made: which of SolidsToMake::bodies
};

struct Read {
    std::vector<Body> bodies;
    std::vector<std::string> notes;
};

using Progress = std::function<void(double)>;

/// All solids of a file with their names and colours; where there is none its surfaces. Errors: as
/// SolidWorker::readStep.
Result<Read> readStep(const std::string& path, const Progress& progress);

/// Triangles within `deflection` mm and `angle` degrees of the surfaces.
Solid meshed(const Read& read, double deflection, double angle, const Progress& progress);

/// Made anew. Errors: as SolidWorker::make.
Result<std::vector<Body>> made(const SolidsToMake& all, std::vector<std::string>& notes);

/// Between two bodies, exactly. Errors: the kernel finds none.
Result<SolidDistance> measured(const Body& a, const Body& b);

/// AP214, names and colours with it, one product that holds the bodies.
Result<void> writeStep(const std::vector<Body>& bodies, const SolidsToMake& how, const std::string& path);

}  // namespace punch::kernel
