#pragma once
// What a picture says about places and sizes, as expressions of the unknowns.
//
//   nominal place        x_n = ± px n,  y_n = -py n     (n: nominal mm per pixel; - when it shows the solder face)
//   place on the part    X =  cos(a) sx (x_n - ox) + sin(a) sy (y_n - oy)
//                        Y = -sin(a) sx (x_n - ox) + cos(a) sy (y_n - oy)
// with sx, sy, a, ox, oy the picture's parameters scaleX, scaleY, angle, x, y. A reading of a feature's centre is the
// equation of x_n or y_n for the feature's place (that way round, since the other way all scales could shrink to
// nothing); of a straight edge, which has one coordinate, 0 = X_face - X; a known length L is L = hypot(sx dx, sy dy)
// n; a line that is level is 0 = its direction - a (to the next quarter turn). Scales: until known lengths measure both
// axes better than scanners differ, sy = sx within 0.5 % (95 %); without any known length the stated dpi holds within
// 0.5 % on both axes (model/picture_scale.h). Rims of one look lie further out than they are by a common offset,
// rimBright or rimDark (nominal mm; 0 within what the rims themselves showed), which a size feels twice.

#include <optional>
#include <vector>

#include "core/model/expr.h"
#include "core/model/feature.h"
#include "core/part/part.h"

namespace punch {

/// Standard uncertainty of each coordinate of a place that a drawing shows without a tolerance, mm on its page: the
/// distance of two places then keeps ISO 2768-1 m of small sizes, ± 0.1 (rectangular).
inline constexpr double kDrawnPlaceU = 0.0408;

/// The picture's parameters, by their index in the model.
struct PictureTerm {
    std::string source;
    int scaleX = -1, scaleY = -1, angle = -1, x = -1, y = -1, rimBright = -1, rimDark = -1;
    double nominal = 1;  ///< mm per pixel
    bool mirrored = false;
};

/// Something known beforehand: `parameter` less `minus` is `value` within `u`.
struct Prior {
    int parameter = -1, minus = -1;
    double value = 0, u = 1;
};

/// What the parameters of a picture are worth where they stand now.
struct PictureAt {
    Expr scaleX, scaleY, angle, x, y, rimBright, rimDark;
    double nominal = 1;
    bool mirrored = false;
    /// Where on the part a place in the picture lies.
    std::pair<Expr, Expr> place(PixelPoint p) const;
    /// Where in the picture, nominal mm, a place on the part is seen.
    std::pair<Expr, Expr> seen(const Expr& x, const Expr& y) const;
    /// How far a line in the picture is off the row's direction or off across it, degrees.
    Expr level(PixelPoint a, PixelPoint b) const;
    /// A length in the picture, mm.
    Expr length(PixelPoint a, PixelPoint b) const;
};

/// The equation of a reading that was taken in a picture (reading.pick), of pickMean(). `feature` is null for a known
/// length.
Expr pictureExpr(const Reading& reading, const PictureAt& picture, const Feature* feature);

/// What such a reading shows, nominal mm.
double pickMean(const Reading& reading, const Source& source, bool isFace);
/// Standard uncertainty of a reading taken in a picture, mm.
double pickU(const Reading& reading, const Source& source);

/// How far rims bright on dark (or dark on bright) may be off, standard uncertainty in nominal mm: r.m.s. of what the
/// sizes that were read in the picture say. 0 when none says anything.
double rimOffsetU(const Part& part, const Source& source, bool bright);

/// What is known of the scales before anything is read.
std::vector<Prior> picturePriors(const Part& part, const PictureTerm& term);

/// Does the reading name a picture that is there?
const Source* pictureOf(const Part& part, const Reading& reading);

}  // namespace punch
