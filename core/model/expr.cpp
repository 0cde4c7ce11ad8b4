#include "core/model/expr.h"

namespace punch {

Expr Expr::combine(double value, const Expr& a, double ka, const Expr& b, double kb) {
    Expr out(value);
    out.gradient_.reserve(a.gradient_.size() + b.gradient_.size());
    auto i = a.gradient_.begin();
    auto j = b.gradient_.begin();
    const auto put = [&](int index, double d) {
        if (d != 0.0) out.gradient_.emplace_back(index, d);
    };
    while (i != a.gradient_.end() || j != b.gradient_.end()) {
        if (j == b.gradient_.end() || (i != a.gradient_.end() && i->first < j->first)) {
            put(i->first, ka * i->second);
            ++i;
        } else if (i == a.gradient_.end() || j->first < i->first) {
            put(j->first, kb * j->second);
            ++j;
        } else {
            put(i->first, ka * i->second + kb * j->second);
            ++i;
            ++j;
        }
    }
    return out;
}

Expr Expr::chain(double value, const std::vector<double>& derivatives, const std::vector<Expr>& of) {
    Expr sum;
    for (std::size_t i = 0; i < of.size(); ++i) sum = sum + derivatives[i] * of[i];
    sum.value_ = value;
    return sum;
}

}  // namespace punch
