// QB-TB4 from its readings to its gauges, against numbers worked by hand.

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/release/derive_json.h"
#include "core/verdicts/gauges.h"
#include "tests/support/parts.h"

namespace punch::demo_part_test {
namespace {

class DemoPart : public testing::Test {
protected:
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const nlohmann::json json = nlohmann::json::parse(deriveJson(part, f));
    nlohmann::json parameter(const std::string& name) {
        for (const auto& p : json["parameters"])
            if (p["name"] == name) return p;
        return nullptr;
    }
};

TEST_F(DemoPart, PitchAsReadAndTaken) {
    // Free adjustment of outside 16.24667, inside 4.08, width 1.000 and the peg's pair: 5.082 ± 0.009.
    ASSERT_NE(f.size("pitch"), nullptr);
    EXPECT_NEAR(f.size("pitch")->asRead, 5.082, 0.0005);
    EXPECT_NEAR(kNinetyFive * f.size("pitch")->u, 0.009, 0.0005);
    EXPECT_EQ(parameter("pitch")["value"], 5.08);
    EXPECT_EQ(parameter("pitch")["doubt"], 0.0);
    EXPECT_EQ(parameter("pitch")["taken"], true);
}

TEST_F(DemoPart, PinsStandOnTheirGrid) {
    const double x[] = {-7.62, -2.54, 2.54, 7.62};
    ASSERT_EQ(json["pads"].size(), 4u);
    for (int i = 0; i < 4; ++i) {
        EXPECT_EQ(json["pads"][i]["number"], std::to_string(i + 1));
        EXPECT_NEAR(json["pads"][i]["x"].get<double>(), x[i], 1e-9);
        EXPECT_NEAR(json["pads"][i]["y"].get<double>(), 0, 1e-9);
        EXPECT_TRUE(json["pads"][i]["firm"]);
        EXPECT_EQ(json["pads"][i]["hole"]["width"], 1.5);
        EXPECT_EQ(json["pads"][i]["land"]["width"], 2.5);
        EXPECT_EQ(json["pads"][i]["land"]["shape"], i == 0 ? "square" : "round");
    }
}

TEST_F(DemoPart, LeadHoleAndLand) {
    const double w = parameter("lead.width")["value"];
    const double t = parameter("lead.thickness")["value"];
    EXPECT_NEAR(w, 1.00, 0.005);
    EXPECT_NEAR(t, 0.775, 0.005);
    EXPECT_NEAR(std::hypot(w, t), 1.27, 0.005);
    EXPECT_LE(f.leads[0].section.across.most.mm(), 1.29);
    EXPECT_NEAR(f.leads[0].leastHole.mm(), 1.487, 0.004);
    EXPECT_EQ(f.leads[0].hole, 1.5_mm);
    EXPECT_EQ(f.leads[0].holeLargest, 1.6_mm);
    EXPECT_EQ(f.leads[0].land, 2.5_mm);
}

TEST_F(DemoPart, PegInItsBareHole) {
    ASSERT_EQ(json["bareHoles"].size(), 1u);
    EXPECT_NEAR(json["bareHoles"][0]["x"].get<double>(), -7.62, 0.01);
    EXPECT_NEAR(json["bareHoles"][0]["y"].get<double>(), -4.00, 0.01);
    EXPECT_EQ(json["bareHoles"][0]["width"], 1.65);
    EXPECT_TRUE(json["bareHoles"][0]["firm"]);
}

TEST_F(DemoPart, BodyAndTravel) {
    EXPECT_NEAR(json["body"]["rear"].get<double>(), 4.90, 0.005);
    EXPECT_NEAR(json["body"]["front"].get<double>(), -5.31, 0.005);
    EXPECT_EQ(json["body"]["height"], 12.5);
    ASSERT_EQ(f.keepouts.size(), 1u);
    EXPECT_NEAR(f.keepouts[0].box().bottom.mm(), -8.51, 0.005);
    EXPECT_NEAR(f.courtyard.bottom.mm(), -9.01, 0.005);
    // The plug passes the edge of the board, which stands where the body says.
    ASSERT_EQ(f.faces.size(), 1U);
    EXPECT_NEAR((f.faces[0].at - f.body->rect.bottom).mm(), -2, 1e-6);
    EXPECT_LT(f.keepouts[0].box().bottom, f.faces[0].at);
    EXPECT_NEAR(f.courtyard.top.mm(), 5.40, 0.005);
}

TEST_F(DemoPart, EveryGaugeIsGoButVoltageIsWatched) {
    for (const Gauge& g : f.gauges) EXPECT_EQ(stateName(g.state), g.name == "voltage" ? "watch" : "go") << g.name;
    const Gauge& v = *f.gauge("voltage");
    EXPECT_NEAR(*v.value, 2.58, 1e-9);
    EXPECT_NEAR(*v.limit, 2.50, 1e-9);
    EXPECT_NEAR(*v.margin, 0.08, 1e-9);
    EXPECT_NEAR(f.voltages[0].peak.volts(), 325.27, 0.01);
    EXPECT_NEAR(*f.gauge("lead-past-board")->value, 1.4, 1e-9);
    EXPECT_NEAR(*f.gauge("hole-to-hole")->value, 4.0 - (1.6 + 1.7) / 2, 0.002);
    EXPECT_NEAR(*f.gauge("ring")->value, (2.5 - 1.6) / 2 - 0.125, 1e-9);
    EXPECT_NEAR(*f.gauge("courtyard")->value, 0.5, 1e-9);
}

TEST_F(DemoPart, TheHoleExplainsItself) {
    const Chain& chain = f.chains.at("hole:p1");
    ASSERT_GE(chain.size(), 5u);
    EXPECT_EQ(chain.front().link, ChainStep::Link::Reading);
    EXPECT_GT(chain.front().weight, 0);
    EXPECT_EQ(*chain.back().value, 1.5_mm);
    bool level = false;
    for (const ChainStep& s : chain) level |= s.label.find("IPC-2222 level B") != std::string::npos;
    EXPECT_TRUE(level);
}

TEST_F(DemoPart, APlaceExplainsItself) {
    const Chain& x = f.chains.at("x:peg5");
    const Chain& y = f.chains.at("y:peg5");
    const auto names = [](const Chain& chain, const std::string& words) {
        for (const ChainStep& s : chain)
            if (s.label.find(words) != std::string::npos) return true;
        return false;
    };
    EXPECT_TRUE(names(x, "peg and pin 4, along, outside"));
    EXPECT_TRUE(names(x, "pitch, taken"));
    EXPECT_TRUE(names(y, "peg and pin 1, across, inside"));
    EXPECT_FALSE(names(y, "pitch")) << "the pitch runs along the row only";
    double sum = 0;
    for (const ChainStep& s : y) sum += s.weight;
    EXPECT_NEAR(sum, 1, 0.03);
    EXPECT_NEAR(x.back().value->mm(), -7.62, 0.01);
}

TEST_F(DemoPart, NothingMoreNeedsReading) {
    EXPECT_FALSE(f.next.reading);
    EXPECT_TRUE(f.loose.empty());
}

TEST_F(DemoPart, TheJsonHasItsPromisedFields) {
    EXPECT_EQ(json["part"], "QB-TB4");
    EXPECT_EQ(json["units"], "mm");
    for (const char* name : {"pitch", "lead.width", "lead.thickness", "hole", "land"})
        EXPECT_FALSE(parameter(name).is_null()) << name;
    const char* names[] = {"readings", "positions",  "lead-in-hole", "ring",      "hole-to-hole",  "copper-to-copper",
                           "voltage",  "silkscreen", "courtyard",    "way-round", "marks",         "lead-past-board",
                           "drop-in",  "body-leads", "body-room",    "standoff",  "solder-access", "pins"};
    ASSERT_EQ(json["gauges"].size(), std::size(names));
    for (std::size_t i = 0; i < std::size(names); ++i) {
        EXPECT_EQ(json["gauges"][i]["name"], names[i]);
        for (const char* key : {"state", "value", "limit", "margin", "unit", "about"})
            EXPECT_TRUE(json["gauges"][i].contains(key)) << names[i] << key;
    }
}

TEST(LoosePart, NeverAFalseGo) {
    const Part part = *newRow(4);
    const Footprint f = derive(part);
    for (const Gauge& g : f.gauges) EXPECT_EQ(g.state, GaugeState::Unknown) << g.name;
    const auto json = nlohmann::json::parse(deriveJson(part, f));
    EXPECT_TRUE(json["pads"][3]["doubt"]["x"].is_null());
    EXPECT_FALSE(json["pads"][3]["firm"]);
    EXPECT_TRUE(json["gauges"][1]["value"].is_null());
}

}  // namespace
}  // namespace punch::demo_part_test
