#pragma once
// What is seen at a place: the nearest face of a solid along a line of sight, its edges, and how far two of them are
// apart.

#include <functional>
#include <optional>
#include <string>

#include "core/solid/solid.h"

namespace punch {

struct PickedFace {
    std::size_t face = 0;  ///< of the solid
    Vec3 at;               ///< where it was met
    double far = 0;        ///< along the line
};

using BodyFilter = std::function<bool(int body)>;
/// `keeps`, where it is given: places that are not cut away. `which`: bodies that are looked at.
std::optional<PickedFace> pick(const Solid& solid, const Pose& pose, Vec3 from, Vec3 along,
                               const std::function<bool(Vec3)>& keeps = {}, const BodyFilter& which = {});

/// A thing that lengths are measured from.
struct SpaceThing {
    enum class Kind { Plane, Axis, Middle, Edge, Place } kind = Kind::Place;
    Vec3 at;            ///< on it; of a sphere its middle, of an edge one end
    Vec3 way;           ///< across a plane, along an axis or an edge
    double length = 0;  ///< of an edge
    double radius = 0;  ///< of what is round
    std::string words;  ///< "flat face", "round face", "edge"
};

/// What a face is to a measure: its plane, its axis, its middle; else the place that was met.
SpaceThing thingOf(const SolidFace& face, const Pose& pose, Vec3 at);
/// The straight edge of a face that runs within `reach` mm of a place on it; the longest one there.
std::optional<SpaceThing> edgeNear(const Solid& solid, const Pose& pose, const PickedFace& picked, double reach);

struct SpaceMeasure {
    std::optional<double> length;  ///< mm
    std::optional<double> angle;   ///< degrees, between directions
    Vec3 from, to;                 ///< where it is drawn
    std::string words;             ///< "between planes", "between axes"
};
/// Between parallel ones the distance across them, else the angle and the distance where they are nearest (of planes
/// that meet, none).
SpaceMeasure measured(const SpaceThing& a, const SpaceThing& b);

}  // namespace punch
