#pragma once
// Boxes in square cells, so that those near a place are found without looking at all of them.

#include <algorithm>
#include <cmath>
#include <unordered_map>
#include <vector>

#include "core/base/length.h"

namespace punch {

class BoxCells {
public:
    /// `side` of a cell: about the size of the boxes.
    explicit BoxCells(Length side) : side_(std::max(side.mm(), 0.01)) {}

    void add(const Rect& box) {
        const std::size_t index = count_++;
        if (box.empty) return;
        // What covers a great many cells is looked at always.
        if (cells(box.width()) * cells(box.height()) > kMost) {
            large_.push_back(index);
            return;
        }
        each(box, [&](long key) { cells_[key].push_back(index); });
    }

    /// The boxes that may meet this one, in order, each once.
    std::vector<std::size_t> near(const Rect& box) const {
        std::vector<std::size_t> found = large_;
        if (cells(box.width()) * cells(box.height()) > kMost) {
            found.resize(count_);
            for (std::size_t i = 0; i < count_; ++i) found[i] = i;
            return found;
        }
        each(box, [&](long key) {
            if (const auto it = cells_.find(key); it != cells_.end())
                found.insert(found.end(), it->second.begin(), it->second.end());
        });
        std::sort(found.begin(), found.end());
        found.erase(std::unique(found.begin(), found.end()), found.end());
        return found;
    }

private:
    static constexpr double kMost = 4000;
    double cells(Length l) const { return std::ceil(l.mm() / side_) + 1; }
    long at(Length l) const { return static_cast<long>(std::floor(l.mm() / side_)); }
    template <class Visit>
    void each(const Rect& box, Visit visit) const {
        for (long x = at(box.left); x <= at(box.right); ++x)
            for (long y = at(box.bottom); y <= at(box.top); ++y) visit(x * 1000003 + y);
    }
    double side_;
    std::size_t count_ = 0;
    std::unordered_map<long, std::vector<std::size_t>> cells_;
    std::vector<std::size_t> large_;
};

}  // namespace punch
