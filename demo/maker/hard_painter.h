#pragma once
// What hard pictures are painted with: grounds, bodies, pins, letters, rulers. Frame: mm of the scene (hard_picture.h).

#include "demo/maker/hard_picture.h"

namespace punch::maker {

/// How the light becomes a file.
struct Development {
    double blur = 0.9;   ///< pixels
    double defocus = 0;  ///< pixels
    double tone = 0;     ///< exponent; 1: as the light; 0: one of the usual
    bool toneNamed = false;
    double noise = 0;  ///< of full scale; 0: one of the usual
    std::optional<double> dpiTag;
};

class HardPainter {
public:
    HardPainter(int number, double dpi, double widthMm, double heightMm, bool colour = false);

    // Chances, all from the picture's number.
    double between(double low, double high);
    int among(int count);
    bool sometimes(double share) { return between(0, 1) < share; }

    void ground(const Ink& ink);
    void plate(double pitch, double hole);
    void mesh(double pitch, double wire);
    void cloth(double side);
    void body(double x, double y, double w, double h, double turn, const Ink& ink);
    /// A pin of a part. `gloss` 0 to 1: a highlight inside; `gap`: a darker ring around.
    void pin(int part, double x, double y, double w, double h, double turn, bool round, const Ink& ink,
             double gloss = 0, double gap = 0);
    void beside(double x, double y, double d, const Ink& ink);
    void letters(const std::string& text, double x, double y, double size, double turn, const Ink& ink);
    void ruler(const HardRuler& ruler);

    HardPicture develop(Development how);

    Camera camera;
    HardPicture out;
    Light light;
    double widthMm, heightMm;
    Ink groundInk = greyInk(0.72);

private:
    void stroke(double x0, double y0, double x1, double y1, double width, const Ink& ink);
    std::mt19937 random_;
    double dpi_;
};

}  // namespace punch::maker
