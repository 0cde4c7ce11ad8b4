#pragma once
// The first of a list that matches, or none.

#include <algorithm>
#include <vector>

namespace punch {

template <class T, class Match>
const T* findIn(const std::vector<T>& all, Match match) {
    const auto it = std::find_if(all.begin(), all.end(), match);
    return it == all.end() ? nullptr : &*it;
}

}  // namespace punch
