#include "core/measure/drawn_range.h"

#include <cmath>

namespace punch {

double iso2768Medium(double mm) {
    const double size = std::abs(mm);
    if (size < 0.5) return 0.05;
    if (size <= 6) return 0.1;
    if (size <= 30) return 0.2;
    if (size <= 120) return 0.3;
    if (size <= 400) return 0.5;
    if (size <= 1000) return 0.8;
    return 1.2;
}

DrawnRange drawnRange(const DrawingValue& v) {
    const double nominal = v.nominal.mm();
    if (v.form == DrawingForm::Exact) return {nominal, nominal};
    if (v.form == DrawingForm::Plain) {
        const double t = iso2768Medium(nominal);
        return {nominal - t, nominal + t};
    }
    return {v.low.mm(), v.high.mm()};
}

}  // namespace punch
