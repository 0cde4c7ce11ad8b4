// Logos: outlines of what is dark in an SVG or a picture, made as simple as the board maker can print them.

#include "core/drawing/logo.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <numbers>

#include "core/artwork/artwork.h"
#include "core/part/mark_kinds.h"
#include "core/picture/outlines.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::logo_test {
namespace {

namespace fs = std::filesystem;

Length mm(double v) { return Length::fromMm(v); }

/// A file that is gone with it.
struct File {
    fs::path path;
    File(const std::string& name, const std::string& bytes) : path(fs::temp_directory_path() / ("logo-test-" + name)) {
        std::ofstream(path, std::ios::binary) << bytes;
    }
    ~File() { fs::remove(path); }
};

Result<Logo> read(const std::string& svg, const std::string& name = "x.svg") {
    const File file(name, svg);
    return readLogo(file.path.string());
}

std::string svg(const std::string& inside) {
    return R"(<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 100 60">)" +
           inside + "</svg>";
}

TEST(DarkOutlines, OfADiscAreItsCircleToAnEighthOfAPixel) {
    Grey grey;
    grey.width = 60;
    grey.height = 50;
    grey.data.assign(60 * 50, 255);
    const double cx = 27.3, cy = 22.8, r = 14.4;
    for (int y = 0; y < 50; ++y)
        for (int x = 0; x < 60; ++x) {
            // The share of the pixel that it covers.
            int in = 0;
            for (int i = 0; i < 64; ++i)
                in += std::hypot(x - 0.5 + (i % 8 + 0.5) / 8 - cx, y - 0.5 + (i / 8 + 0.5) / 8 - cy) < r ? 1 : 0;
            grey.data[static_cast<std::size_t>(y) * 60 + x] = static_cast<std::uint8_t>(255 - 255 * in / 64);
        }
    const auto rings = darkOutlines(grey, 127.5);
    ASSERT_EQ(rings.size(), 1U);
    double twice = 0;
    for (std::size_t i = 0; i < rings[0].size(); ++i) {
        const PixelPoint p = rings[0][i], q = rings[0][(i + 1) % rings[0].size()];
        EXPECT_NEAR(std::hypot(p.x - cx, p.y - cy), r, 0.12);
        twice += p.x * q.y - q.x * p.y;
    }
    EXPECT_NEAR(-twice / 2, std::numbers::pi * r * r, 3) << "counter-clockwise for an eye: y runs down";
    EXPECT_NEAR(partingLevel(grey), 127.5, 3);
}

TEST(DarkOutlines, CloseAroundWhateverIsDark) {
    // Random noise, saddles and all: closed rings, which together hold as much as there is.
    test::Dice dice(5);
    for (int round = 0; round < 20; ++round) {
        Grey grey;
        grey.width = 3 + dice.below(30);
        grey.height = 3 + dice.below(30);
        std::size_t dark = 0;
        for (int i = 0; i < grey.width * grey.height; ++i) {
            const bool is = dice.coin();
            dark += is ? 1 : 0;
            grey.data.push_back(is ? 0 : 255);
        }
        double twice = 0;
        std::size_t points = 0;
        for (const auto& ring : darkOutlines(grey, 127.5)) {
            points += ring.size();
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const PixelPoint p = ring[i], q = ring[(i + 1) % ring.size()];
                twice += p.x * q.y - q.x * p.y;
                // Neighbours on a ring lie on one cell.
                EXPECT_LE(std::max(std::abs(p.x - q.x), std::abs(p.y - q.y)), 1.0);
            }
        }
        // Corners are cut half way, so that a lone pixel is a diamond of half its area and a light one leaves one and
        // a half: over all, areas lie between.
        EXPECT_GT(-twice / 2, 0.3 * static_cast<double>(dark));
        EXPECT_LT(-twice / 2, 1.5 * static_cast<double>(dark) + 2);
        // Each place between a dark and a light neighbour is passed once.
        std::size_t between = 0;
        const auto at = [&](int x, int y) {
            return x < 0 || y < 0 || x >= grey.width || y >= grey.height ? 255 : grey.at(x, y);
        };
        for (int y = -1; y < grey.height; ++y)
            for (int x = -1; x < grey.width; ++x)
                between += (at(x, y) != at(x + 1, y) ? 1 : 0) + (at(x, y) != at(x, y + 1) ? 1 : 0);
        EXPECT_EQ(points, between);
    }
}

TEST(Figures, SurviveTheirTextAndNonsenseIsNamed) {
    test::Dice dice(3);
    FigureRings rings;
    for (int i = 0; i < 5; ++i) {
        rings.emplace_back();
        for (int k = 0; k < 3 + dice.below(20); ++k)
            rings.back().push_back({Length::fromUm(dice.below(9999) - 5000), Length::fromUm(dice.below(9999) - 5000)});
    }
    const auto back = figureFromText(figureText(rings));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, rings);
    EXPECT_TRUE(figureFromText("")->empty());
    for (const char* bad : {"1", "1,2", "1,2 3,4", "1,2 3,4 5", "a,b c,d e,f", "1,2 3,4 5,6;", "1,2 3,4 5,6 ", ";",
                            "1,2 3,4 999999999,6", "1,2;3,4;5,6"})
        EXPECT_FALSE(figureFromText(bad)) << bad;
    std::string many = "0,0";
    for (int i = 0; i < 30000; ++i) many += " 1,1";
    EXPECT_FALSE(figureFromText(many));
}

TEST(Logos, OfAnSvgAreWhatItDraws) {
    // A plate with a round hole, 60 x 40 in a box of 100 x 60.
    const auto logo =
        read(svg(R"(<path fill-rule="evenodd" d="M20 10h60v40h-60z M60 30a10 10 0 1 0 -20 0a10 10 0 1 0 20 0z"/>)"));
    ASSERT_TRUE(logo) << logo.error().text();
    EXPECT_TRUE(logo->notes.empty());
    ASSERT_EQ(logo->rings.size(), 2U);
    const double scale = 10.0 / 60;
    EXPECT_NEAR(areaOf(logo->rings), (60 * 40 - std::numbers::pi * 100) * scale * scale, 0.03);
    const Rect box = boundsOf(logo->rings);
    EXPECT_NEAR(box.width().mm(), 10, 1e-3);
    EXPECT_NEAR(box.height().mm(), 40 * scale, 0.01);
    EXPECT_NEAR(box.middle().y.mm(), 0, 0.01);
}

TEST(Logos, ScriptsAndLinksAreLeftOutAndSaid) {
    const File other("linked.png", "not read at all");
    const auto logo = read(svg(R"(<script>document.documentElement.innerHTML = ''</script>
        <image xlink:href=")" + other.path.string() +
                               R"(" width="100" height="60"/><rect width="50" height="20" onclick="go"/>)"));
    ASSERT_TRUE(logo) << logo.error().text();
    std::string notes;
    for (const std::string& note : logo->notes) notes += note + ";";
    EXPECT_NE(notes.find("scripts"), std::string::npos) << notes;
    EXPECT_NE(notes.find("links"), std::string::npos) << notes;
    ASSERT_EQ(logo->rings.size(), 1U);
    EXPECT_NEAR(areaOf(logo->rings), 10.0 * 4.0, 0.05);
}

TEST(Logos, WhatIsNoneIsNamed) {
    for (const std::string& bad :
         {svg(""), svg(R"(<rect width="100" height="60" fill="#ffffff"/>)"), svg(R"(<rect width="100" height="60"/>)"),
          std::string("<svg"), std::string("<svg xmlns=\"http://www.w3.org/2000/svg\"/>"), std::string("no picture"),
          std::string()}) {
        const auto logo = read(bad);
        ASSERT_FALSE(logo) << bad;
        EXPECT_FALSE(logo.error().what.empty());
        EXPECT_FALSE(logo.error().todo.empty()) << logo.error().what;
    }
    EXPECT_FALSE(readLogo("/nowhere/x.svg"));
}

/// A part with a logo: a plate 8 x 4 with a bar that is 0.05 of its width thin.
struct Marked {
    Part part;
    Footprint f;
};
Marked marked(const std::map<std::string, std::string>& set) {
    Part part = newPartWithoutPins();
    Mark m = newMark(MarkKind::Logo);
    m.name = "sign";
    m.points = {{{kDatumFeature, HoldAt::Middle, "2"}, {kDatumFeature, HoldAt::Middle, "1"}}};
    m.set = {{"figure", "-5000,-2000 1000,-2000 1000,-50 5000,-50 5000,50 1000,50 1000,2000 -5000,2000"}};
    for (const auto& [key, value] : set) m.set[key] = value;
    part = withMark(part, m);
    return {part, derive(part)};
}

TEST(Logos, AreAsSimpleAsTheirThinnestLine) {
    // At 10 mm the bar is 0.1: thinner than 0.15, and it goes; at 20 it stays.
    const Marked small = marked({{"width", "10"}}), large = marked({{"width", "20"}});
    ASSERT_EQ(small.f.silkscreen.size(), 1U);
    ASSERT_EQ(large.f.silkscreen.size(), 1U);
    EXPECT_NEAR(areaOf(small.f.silkscreen[0].area()), 6 * 4, 0.05);
    EXPECT_NEAR(areaOf(large.f.silkscreen[0].area()), 4 * (6 * 4 + 4 * 0.1), 0.1);
    EXPECT_NE(small.f.inkWords.at(small.part.marks[0].id).find("thinner"), std::string::npos);
    EXPECT_TRUE(large.f.inkWords.empty());
    const Rect box = boundsOf(large.f.silkscreen[0].area());
    EXPECT_NEAR(box.middle().x.mm(), 2, 0.01);
    EXPECT_NEAR(box.middle().y.mm(), 1, 0.01);
    EXPECT_EQ(marked({{"width", "0.1"}}).f.laid[0].wrong, "all of it is thinner than the thinnest line");
    EXPECT_EQ(marked({{"figure", ""}}).f.laid[0].wrong, "no figure is brought in yet");
}

TEST(Logos, LieOnTheLayerThatIsAskedAndReadFromBelowThere) {
    const double area = areaOf(marked({{"width", "20"}}).f.silkscreen[0].area());
    const auto of = [&](const std::string& name, Layer layer) {
        const Marked m = marked({{"width", "20"}, {"layer", name}});
        Polygons all;
        for (const Shape& s : artwork(m.part, m.f, layer)) {
            if (const Polygons* rings = s.polygons()) all.insert(all.end(), rings->begin(), rings->end());
            if (const RoundedPolygon* one = s.rounded())
                for (const auto& ring : polygonsOf(*one)) all.push_back(ring);
        }
        return united(all);
    };
    for (const auto& [name, layer] : {std::pair{"top copper", Layer::TopCopper},
                                      {"bottom copper", Layer::BottomCopper},
                                      {"top mask", Layer::TopMask},
                                      {"bottom mask", Layer::BottomMask},
                                      {"bottom silkscreen", Layer::BottomSilkscreen},
                                      {"assembly", Layer::Assembly}}) {
        const Polygons there = of(name, layer);
        EXPECT_NEAR(areaOf(there), area, 0.05) << name;
        // The plate lies left of the middle, from below right of it.
        const bool below = std::string(name).starts_with("bottom");
        EXPECT_EQ(contains(there, {mm(2 + (below ? 9 : -9)), mm(4)}), true) << name;
        EXPECT_EQ(contains(there, {mm(2 + (below ? -9 : 9)), mm(4)}), false) << name;
    }
    EXPECT_TRUE(marked({{"layer", "top copper"}}).f.silkscreen.empty());
}

TEST(Logos, OfThousandsOfCornersOnCopperStayWhatTheyAreAndNeverLookFurtherOff) {
    // A comb: as many corners as a figure may have would be as many convex pieces.
    std::string comb = "-5000,-2000 5000,-2000";
    for (int i = 1000; i > 0; --i) comb += fmt::format(" {},{} {},{}", i * 10 - 5000, 0, i * 10 - 5005, 1000);
    const Marked m = marked({{"figure", comb}, {"layer", "top copper"}, {"width", "20"}, {"least", "0.001"}});
    ASSERT_EQ(m.f.laid[0].wrong, "");
    const auto copper = artwork(m.part, m.f, Layer::TopCopper);
    ASSERT_EQ(copper.size(), 1U);
    EXPECT_EQ(copper[0].purpose, Purpose::Figure);
    EXPECT_NEAR(areaOf(*copper[0].polygons()), areaOf(m.f.laid[0].figure), 1e-9);
    EXPECT_NEAR(m.f.attached.areas.at("sign").first, areaOf(m.f.laid[0].figure), 0.01);
    const auto all = m.f.board().copper();
    ASSERT_EQ(all.size(), 1U);
    const Polygons hull = polygonsOf(copperShape(all[0].top), Chords::Outside);
    EXPECT_LT(areaOf(without(m.f.laid[0].figure, grown(hull, mm(0.001)))), 1e-3);
}

TEST(Logos, APhotographIsNone) {
    // Grain all over, as a scan of nothing has.
    test::Dice dice(2);
    std::string pgm = "BM";  // a bitmap of 1200 x 1200, 8 bits
    const auto put = [&](unsigned v, int bytes) {
        for (int i = 0; i < bytes; ++i) pgm += static_cast<char>(v >> (8 * i) & 255);
    };
    const unsigned w = 1200, h = 1200, start = 54 + 1024;
    put(start + w * h, 4), put(0, 4), put(start, 4), put(40, 4), put(w, 4), put(h, 4), put(1, 2), put(8, 2), put(0, 4);
    put(w * h, 4), put(0, 4), put(0, 4), put(256, 4), put(0, 4);
    for (unsigned i = 0; i < 256; ++i) put(i * 0x010101, 4);
    for (unsigned i = 0; i < w * h; ++i) pgm += static_cast<char>(dice.below(256));
    const auto logo = read(pgm, "grain.bmp");
    ASSERT_FALSE(logo);
    EXPECT_NE(logo.error().what.find("specks"), std::string::npos) << logo.error().text();
}

}  // namespace
}  // namespace punch::logo_test
