#include "core/base/length.h"

#include <gtest/gtest.h>

#include <random>
#include <type_traits>

#include "core/base/angle.h"
#include "core/base/voltage.h"

namespace punch::length_test {
namespace {

TEST(Length, WholeMultiplesOfAMicrometreConvertExactly) {
    for (int um = -40000; um <= 40000; um += 7) {
        const Length l = Length::fromUm(um);
        EXPECT_EQ(l, Length::fromMm(um / 1000.0));
        EXPECT_EQ(l.nm(), um * 1000.0);
        EXPECT_EQ(l.mm(), um / 1000.0);
    }
}

TEST(Length, WholeMultiplesOfATenthOfAMilConvertExactly) {
    for (int tenth = -20000; tenth <= 20000; tenth += 3) {
        const Length l = Length::fromMil(tenth / 10.0);
        EXPECT_EQ(l.nm(), tenth * 2540.0);
        EXPECT_EQ(l.mil(), tenth / 10.0);
        EXPECT_EQ(l, Length::fromInch(tenth / 10000.0));
    }
}

TEST(Length, UnitsAgree) {
    EXPECT_EQ(Length::fromInch(1), Length::fromMm(25.4));
    EXPECT_EQ(Length::fromMil(100), Length::fromMm(2.54));
    EXPECT_EQ(100_mil + 100_mil, 5.08_mm);
}

TEST(Length, SumsOfDecimalsStayExact) {
    Length sum;
    for (int i = 0; i < 1000; ++i) sum += 0.01_mm;
    EXPECT_EQ(sum, 10_mm);
}

TEST(Length, MixesWithNothingElse) {
    EXPECT_FALSE((std::is_convertible_v<double, Length>));
    EXPECT_FALSE((std::is_convertible_v<Length, double>));
    EXPECT_FALSE((std::is_constructible_v<Length, Voltage>));
    EXPECT_FALSE((std::is_constructible_v<Length, Angle>));
    EXPECT_FALSE((std::is_constructible_v<Length, double>));
    EXPECT_TRUE((std::is_same_v<decltype(1_mm / 1_mm), double>));
}

TEST(Rect, GrowsAroundWhatIsAdded) {
    Rect r;
    EXPECT_TRUE(r.empty);
    r.add(Point{1_mm, 2_mm});
    r.add(Rect::around({5_mm, 5_mm}, 2_mm, 4_mm));
    EXPECT_EQ(r.left, 1_mm);
    EXPECT_EQ(r.right, 6_mm);
    EXPECT_EQ(r.bottom, 2_mm);
    EXPECT_EQ(r.top, 7_mm);
    EXPECT_EQ(r.grown(1_mm).width(), 7_mm);
}

}  // namespace
}  // namespace punch::length_test
