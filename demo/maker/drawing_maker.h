#pragma once
// Draws a part's drawing once and writes it as a page of vector PDF and as DXF. For the demo and for tests.
//
// Frame: mm on the page at drawn size, x right, y up.

#include <string>
#include <vector>

namespace punch::maker {

struct Spot2 {
    double x = 0, y = 0;
};

class DrawingSheet {
public:
    /// An empty page; drawn at `scale` to 1 in the PDF. A DXF is at true size.
    DrawingSheet(double width, double height, double scale = 1) : width_(width), height_(height), scale_(scale) {}

    enum class Pen { Thick, Thin, Dashed };
    void line(Spot2 a, Spot2 b, Pen pen = Pen::Thick);
    void rectangle(double left, double bottom, double right, double top, Pen pen = Pen::Thick);
    void circle(Spot2 middle, double diameter, Pen pen = Pen::Thick);
    /// The middle of the text, of a height in mm on the page.
    void text(Spot2 middle, double height, const std::string& words, double turn = 0);
    /// Between two places along x (`level`: the dimension line's y) or along y (its x). Without words the distance.
    void along(Spot2 a, Spot2 b, double level, const std::string& words = {});
    void across(Spot2 a, Spot2 b, double level, const std::string& words = {});
    /// A note with a line to a place.
    void leader(Spot2 to, Spot2 from, const std::string& words);

    /// The page as PDF; the drawing's origin stands `left`, `bottom` mm from its corner.
    std::string pdf(double left, double bottom) const;
    /// `insUnits` as in DXF: 4 mm, 1 inch, 0 none; coordinates are divided by `mmPerUnit`.
    std::string dxf(int insUnits = 4, double mmPerUnit = 1, const std::string& version = "AC1015") const;

private:
    struct Line {
        Spot2 a, b;
        Pen pen;
        bool ofDimension = false;
    };
    struct Circle {
        Spot2 middle;
        double diameter;
        Pen pen;
    };
    struct Text {
        Spot2 middle;
        double height;
        std::string words;
        double turn;
        bool ofDimension = false;
    };
    struct Dimension {
        Spot2 a, b, line, middle;
        bool across;
        std::string words;
    };
    void dimension(Spot2 a, Spot2 b, double level, const std::string& words, bool across);
    double width_, height_, scale_;
    std::vector<Line> lines_;
    std::vector<Circle> circles_;
    std::vector<Text> texts_;
    std::vector<Dimension> dimensions_;
};

}  // namespace punch::maker
