#pragma once
// Where the gauges stand on the rail: what is not go stands large, what is go stands small, three to a column, in the
// order of the work; as many as there are find room, down to a window of 1024 pixels with twenty gauges.

#include <QRect>
#include <QSize>
#include <vector>

namespace punch {

struct RailPlace {
    QRect box;
    bool large = false;
};

/// By gauge, in their order: how bad each is, 0 for go and for what nobody asks for. `em`: height of a line of text,
/// px.
std::vector<RailPlace> railLayout(const std::vector<int>& badness, QSize size, int em);

/// The gauges in the order in which they stand, for the keyboard.
std::vector<int> railOrder(const std::vector<RailPlace>& places);

}  // namespace punch
