#pragma once
// The best seat: the shift and small turn of a part that leaves its tightest lead the most room.
//
// With small turns a point of the part moves to x' = x + tx - t y, y' = y + ty + t x. A round lead gives one point and
// its hole, less the lead's radius, as the disc that the point has to stay in; every corner of another lead gives one
// for itself; a slot gives a stadium. The room of a point is its disc's radius less its distance from the disc's
// centre (from the slot's middle line). All discs and stadia are convex, so the least room is a concave function of
// (tx, ty, t): there is one best, and it is found with a bound on how far off the answer may be.
//
// Method: primal-dual interior point on four unknowns; the bound is Lagrange's.

#include <vector>

namespace punch {

/// A point of the part in what it has to stay in. Lengths in mm, one frame for all.
struct Seat {
    double x = 0, y = 0;    ///< the point, from the middle of the part
    double hx = 0, hy = 0;  ///< middle of the hole
    double sx = 0, sy = 0;  ///< from the middle of a slot to the middle of its rounded end; 0: a round hole
    double room = 0;        ///< radius of the disc or stadium; may be negative
};

struct BestSeat {
    double spare = 0;                         ///< mm: the least room at the best seat
    double shiftX = 0, shiftY = 0, turn = 0;  ///< mm, radians
    double within = 0;                        ///< mm: the true best is at most this much better
};

/// Exact to `tolerance` (mm). No seats: everything goes in, spare 0.
BestSeat bestSeat(const std::vector<Seat>& seats, double tolerance = 1e-7);

/// Does it go in, is the spare room at the best seat not negative? Quicker than bestSeat(); the same answer.
bool goesIn(const std::vector<Seat>& seats);

}  // namespace punch
