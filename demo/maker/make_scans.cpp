// Writes the demo's scan anew: make_scans FOLDER. The scene is the rotary selector of the Fennel House demo.

#include <cmath>
#include <cstdio>
#include <numbers>

#include "core/base/atomic_file.h"
#include "demo/maker/scan_maker.h"

using namespace punch::maker;

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fprintf(stderr, "make_scans FOLDER\n");
        return 2;
    }
    Scene s;
    s.dpi = 600;
    s.stretchX = 1.0021;
    s.stretchY = 0.9988;
    s.tilt = 1.13;
    s.pictureWidth = 58;
    s.pictureHeight = 44;
    s.middleX = 28.6;
    s.middleY = 14.6;
    s.housingWidth = 21;
    s.housingHeight = 21;
    s.boss = 17.5;
    s.gloss = 0.6;
    s.dust = 12;
    s.seed = 46;
    s.rulerLength = 45;
    for (int i = 0; i < 6; ++i) {
        Thing pin;
        const double a = (165 - 30 * i) * std::numbers::pi / 180;
        pin.x = 7.5 * std::cos(a);
        pin.y = 7.5 * std::sin(a);
        pin.width = pin.height = 0.98;
        s.things.push_back(pin);
    }
    for (const double side : {-1.0, 1.0}) {
        Thing lug;
        lug.look = Look::Lug;
        lug.round = false;
        lug.x = side * 8.6;
        lug.y = -6.1;
        lug.width = 0.8;
        lug.height = 2.0;
        s.things.push_back(lug);
    }
    Thing peg;
    peg.look = Look::Peg;
    peg.y = -5.8;
    peg.width = peg.height = 1.5;
    s.plastic = 112;
    s.things.push_back(peg);
    const Scan scan = makeScan(s);
    const auto written =
        punch::writeAtomically(std::string(argv[1]) + "/HT-SEL6 underside.png", pngBytes(scan.picture, s.dpi));
    if (!written) std::fprintf(stderr, "%s\n", written.error().text().c_str());
    return written ? 0 : 1;
}
