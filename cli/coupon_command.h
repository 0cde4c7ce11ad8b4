#pragma once
// punch coupon: a fit coupon's files, and taking the copy that fitted.

#include <string>

namespace punch {

struct CouponArguments {
    std::string part;
    std::string folder;  ///< for its files
    double step = 0.05;  ///< mm
    int narrower = 2, wider = 2;
    bool noRings = false;
    std::string from, holes, pegs;  ///< a .coupon file, and the labels of the copies that fitted
    std::string date, picture;
};

/// Exit 0 done, 2 not.
int couponCommand(const CouponArguments& arguments);

}  // namespace punch
