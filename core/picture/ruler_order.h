#pragma once
// What a ruler's step is, by the order of its marks' lengths: millimetres have every fifth and tenth longer, half
// millimetres every second, tenth and twentieth, inches are halved again and again. Only ruler.cpp uses this.

#include <string>
#include <vector>

namespace punch {

/// How a series is ordered: by which period its longer marks come, then which of these, and so on: {5, 2} for
/// millimetres with longer fives and still longer tens. Empty when all are alike.
std::vector<int> orderOfLengths(const std::vector<double>& lengths);

/// Steps in mm that such an order stands for, the likeliest first; empty when it says nothing.
std::vector<double> stepsByOrder(const std::vector<int>& order);

/// "every 5th and 10th longer"; empty for none.
std::string orderWords(const std::vector<int>& order);

}  // namespace punch
