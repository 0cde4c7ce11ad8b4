// What must not change the result, and what must never fail, for parts of every formation kind.

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/part/numbering.h"
#include "tests/support/notebooks.h"

namespace punch::every_kind_test {
namespace {

using test::kAllKinds;
using test::kindName;
using test::Notebooks;

constexpr double kSame = 1e-9;  // mm

struct PlaceOf {
    Point at;
    std::optional<Length> x, y;
    Length hole;
};

std::map<FeatureId, PlaceOf> places(const Footprint& f) {
    std::map<FeatureId, PlaceOf> all;
    for (const Pad& p : f.pads) all[p.id] = {p.at, p.doubt.x, p.doubt.y, p.hole};
    for (const BareHole& h : f.bareHoles) all[h.id] = {h.at, h.doubt.x, h.doubt.y, h.size};
    return all;
}
std::map<FeatureId, PlaceOf> places(const Part& part) { return places(derive(part)); }

std::vector<GaugeState> states(const Part& part) {
    std::vector<GaugeState> all;
    for (const Gauge& g : derive(part).gauges) all.push_back(g.state);
    return all;
}

void expectSame(const std::map<FeatureId, PlaceOf>& a, const std::map<FeatureId, PlaceOf>& b) {
    ASSERT_EQ(a.size(), b.size());
    for (const auto& [id, p] : a) {
        const PlaceOf& q = b.at(id);
        EXPECT_NEAR(p.at.x.mm(), q.at.x.mm(), kSame) << id;
        EXPECT_NEAR(p.at.y.mm(), q.at.y.mm(), kSame) << id;
        ASSERT_EQ(p.x.has_value(), q.x.has_value());
        EXPECT_EQ(p.hole, q.hole) << id;
        if (p.x) {
            EXPECT_NEAR(p.x->mm(), q.x->mm(), 1e-8) << id;
        }
        if (p.y) {
            EXPECT_NEAR(p.y->mm(), q.y->mm(), 1e-8) << id;
        }
    }
}

TEST(EveryKindOfPart, OrderUnitsEndsAndDatumChangeNothing) {
    Notebooks notebooks(31);
    for (const test::Kind kind : kAllKinds)
        for (int t = 0; t < 6; ++t) {
            SCOPED_TRACE(fmt::format("{} {}", kindName(kind), t));
            const auto c = notebooks.draw(kind);
            const Part part = notebooks.notebook(c, "caliper-0.01", 10);
            const auto first = places(part);
            const auto gauges = states(part);
            Part other = part;
            std::shuffle(other.readings.begin(), other.readings.end(), notebooks.random());
            expectSame(first, places(other));
            EXPECT_EQ(states(other), gauges);
            other = part;
            for (Reading& r : other.readings)
                for (RawValue& v : r.raw) {
                    v.typed = fmt::format("{:.12g}", v.value.inch());
                    v.unit = Unit::Inch;
                }
            expectSame(first, places(*fromText(toText(other), "memory")));
            other = part;
            for (Reading& r : other.readings)
                if (!r.b.empty()) std::swap(r.a, r.b);
            expectSame(first, places(other));
            // From below, what is called left is the right.
            other = part;
            for (Reading& r : other.readings) {
                r.fromBelow = true;
                for (FeatureId* id : {&r.a, &r.b}) {
                    if (*id == kLeftFace)
                        *id = kRightFace;
                    else if (*id == kRightFace)
                        *id = kLeftFace;
                }
            }
            expectSame(first, places(other));
            other = part;
            other.datum.kind = DatumKind::PinOne;
            EXPECT_EQ(states(other), gauges) << "gauges do not feel where the datum is";
            const auto shifted = places(other);
            const Point by = shifted.begin()->second.at - first.begin()->second.at;
            for (const auto& [id, p] : first) {
                EXPECT_NEAR((shifted.at(id).at - p.at).x.mm(), by.x.mm(), kSame);
                EXPECT_NEAR((shifted.at(id).at - p.at).y.mm(), by.y.mm(), kSame);
            }
        }
}

TEST(EveryKindOfPart, AMirroredPartMirrorsItsPlaces) {
    // The same notebook read with the peg drawn behind the row instead of before it.
    Part part = test::demoPart();
    const Footprint front = derive(part);
    part.assumed["peg5.y"] = 3.5_mm;
    const Footprint rear = derive(part);
    EXPECT_NEAR(front.bareHoles[0].at.y.mm(), -rear.bareHoles[0].at.y.mm(), 1e-9);
    EXPECT_NEAR(front.bareHoles[0].at.x.mm(), rear.bareHoles[0].at.x.mm(), 1e-9);
}

TEST(EveryKindOfPart, DeriveIsPure) {
    Notebooks notebooks(40);
    for (const test::Kind kind : kAllKinds) {
        const auto c = notebooks.draw(kind);
        const Part part = notebooks.notebook(c, "caliper-0.01", 8);
        const Part copy = part;
        const Footprint a = derive(part), b = derive(part);
        EXPECT_EQ(part, copy);
        const auto at = places(a), again = places(b);
        for (const auto& [id, p] : at) EXPECT_EQ(p.at, again.at(id).at) << kindName(kind) << " " << id;
    }
}

TEST(EveryKindOfPart, RenamingChangesNothing) {
    Notebooks notebooks(32);
    for (const test::Kind kind : kAllKinds) {
        SCOPED_TRACE(kindName(kind));
        const auto c = notebooks.draw(kind);
        const Part part = notebooks.notebook(c, "caliper-0.01", 10);
        std::string text = toText(part);
        // Every pin gets another identifier; p1 must not hit p10.
        auto pins = allPins(part);
        std::sort(pins.begin(), pins.end(), [](const auto& a, const auto& b) { return a.size() > b.size(); });
        std::map<FeatureId, FeatureId> renamed;
        for (const FeatureId& id : pins) renamed[id] = "n" + std::to_string(900 - std::atoi(id.c_str() + 1));
        for (const auto& [from, to] : renamed)
            for (const char* after : {"\"", ".d"})
                for (std::size_t at = 0; (at = text.find("\"" + from + after, at)) != std::string::npos; ++at)
                    text.replace(at + 1, from.size(), to);
        const auto other = fromText(text, "memory");
        ASSERT_TRUE(other) << other.error().text();
        std::map<FeatureId, PlaceOf> expected;
        for (const auto& [id, p] : places(part)) expected[renamed.at(id)] = p;
        expectSame(expected, places(*other));
    }
}

TEST(EveryKindOfPart, ComesBackFromItsFile) {
    Notebooks notebooks(33);
    for (const test::Kind kind : kAllKinds) {
        const auto c = notebooks.draw(kind);
        for (const Part& part : {notebooks.notebook(c, "vernier-0.02", 8), c.truth}) {
            const auto back = fromText(toText(part), "memory");
            ASSERT_TRUE(back) << kindName(kind) << ": " << back.error().text();
            EXPECT_EQ(*back, part) << kindName(kind);
        }
    }
}

TEST(EveryKindOfPart, ThePositionOfNumbersIsAPermutation) {
    Notebooks notebooks(34);
    for (const test::Kind kind : kAllKinds)
        for (const NumberOrder order :
             {NumberOrder::RowByRow, NumberOrder::Around, NumberOrder::ZigZag, NumberOrder::ByColumn})
            for (const bool left : {true, false}) {
                Part part = notebooks.draw(kind).part;
                part.formations[0].numbers.order = order;
                part.formations[0].numbers.fromLeft = left;
                auto ids = numberedOrder(part, part.formations[0]);
                auto pins = part.formations[0].pins;
                std::sort(ids.begin(), ids.end());
                std::sort(pins.begin(), pins.end());
                EXPECT_EQ(ids, pins) << kindName(kind);
            }
}

TEST(EveryKindOfPart, WhateverIsReadOnItGivesFiniteNumbers) {
    std::mt19937 random(35);
    Notebooks notebooks(35);
    for (int t = 0; t < 300; ++t) {
        const test::Kind kind = kAllKinds[random() % std::size(kAllKinds)];
        Part part = notebooks.draw(kind).part;
        part = withFace(withSpot(withSpot(part, SpotKind::Lug), SpotKind::Mark), FaceKind::Panel, Axis::Across, false);
        part.spots[0].flat = random() % 2 == 0;
        std::vector<FeatureId> features = allPins(part);
        for (const Spot& s : part.spots) features.push_back(s.id);
        features.insert(features.end(), {kBody, kLeftFace, kRightFace, kRearFace, kTopFace, kSeatingPlane,
                                         part.faces[0].id, "nowhere"});
        const auto any = [&] { return features[random() % features.size()]; };
        for (unsigned i = 0; i < random() % 16; ++i) {
            const auto contact = static_cast<Contact>(random() % 10);
            const bool one = contact == Contact::Size || contact == Contact::Rim;
            Reading r = test::reading(any(), one ? "" : any(), contact, static_cast<Axis>(random() % 4),
                                      {0.01 * static_cast<double>(1 + random() % 3000)});
            if (contact == Contact::Quantity) r = {};
            r.contact = contact;
            if (contact == Contact::Angle) {
                r.instrument = kProtractor;
                r.raw[0].angle = Angle::fromDegrees(static_cast<double>(random() % 360));
            }
            r.isSigned = random() % 5 == 0;
            r.fromBelow = random() % 5 == 0;
            r.specimen = static_cast<int>(random() % 3);
            if (random() % 6 == 0) r.name = "B";
            if (random() % 8 == 0) r.sameAs = "r" + std::to_string(random() % 40);
            part = withReading(part, r);
        }
        if (random() % 3 == 0) part.zeros = {"caliper-0.01"};
        if (random() % 3 == 0) part.given["lead.width"] = {"B/4", Unit::Mm};
        const Footprint f = derive(part);
        for (const Pad& p : f.pads) {
            EXPECT_TRUE(p.at.x.isFinite() && p.at.y.isFinite() && p.hole.isFinite()) << t;
            if (p.doubt.x) {
                EXPECT_TRUE(p.doubt.x->isFinite()) << t;
            }
        }
        for (const Gauge& g : f.gauges) EXPECT_TRUE(!g.value || std::isfinite(*g.value)) << g.name << " " << t;
    }
}

TEST(EveryKindOfPart, OneRawValueMistypedByAMillimetreIsAsIfItWereNotThere) {
    Notebooks notebooks(38);
    int tried = 0;
    for (const test::Kind kind : kAllKinds)
        for (int t = 0; t < 12; ++t) {
            SCOPED_TRACE(fmt::format("{} {}", kindName(kind), t));
            const auto c = notebooks.draw(kind);
            Part part = notebooks.notebook(c, notebooks.instrument(), 10);
            const std::size_t victim = notebooks.index(part.readings.size());
            auto& raw = part.readings[victim].raw;
            raw.resize(1);
            raw.push_back(raw[0]);
            raw.push_back(raw[0]);
            const std::size_t typo = notebooks.index(3);
            raw[typo].value += Length::fromMm(notebooks.index(2) == 0 ? 1 : -1);
            Part without = part;
            without.readings[victim].raw.erase(without.readings[victim].raw.begin() +
                                               static_cast<std::ptrdiff_t>(typo));
            expectSame(places(without), places(part));
            EXPECT_TRUE(derive(part).readings[victim].stats.asked[typo]);
            ++tried;
        }
    EXPECT_EQ(tried, 120);
}

TEST(EveryKindOfPart, AddingAReadingNeverMakesAPadMoreDoubtful) {
    Notebooks notebooks(39);
    for (const test::Kind kind : kAllKinds) {
        const auto c = notebooks.draw(kind);
        const test::Truth truth(c.truth);
        Part part = notebooks.notebook(c, "vernier-0.02", 4);
        for (int t = 0; t < 6; ++t) {
            const Adjustment before(part);
            const auto next = nextReading(part, before, enoughFor(0)).reading;
            if (!next || !(truth.shown(*next) > 0)) break;
            // One value each, so that the pooled handling stays what it is.
            part = withReading(part, notebooks.read(truth, *next, next->instrument, 1));
            const Adjustment after(part);
            if (std::any_of(after.readings().begin(), after.readings().end(),
                            [](const ReadingResult& r) { return r.state == ReadingState::InDoubt; }))
                break;
            for (const FeatureId& id : allPins(part)) {
                const Feature& a = before.features().at(id);
                const Feature& b = after.features().at(id);
                if (before.firm(a.x)) {
                    EXPECT_LE(after.u(b.x), before.u(a.x) * 1.01 + 1e-9) << kindName(kind) << " " << id;
                }
                if (before.firm(a.y)) {
                    EXPECT_LE(after.u(b.y), before.u(a.y) * 1.01 + 1e-9) << kindName(kind) << " " << id;
                }
            }
        }
    }
}

TEST(EveryKindOfPart, TheEndsOfRowsHaveAllTheLeverage) {
    // The search over every pair of pins finds no reading that helps much more than the one that is proposed.
    Notebooks notebooks(36);
    int compared = 0;
    for (int t = 0; t < 40; ++t) {
        const auto c = notebooks.draw(kAllKinds[notebooks.index(std::size(kAllKinds))]);
        const Part part = notebooks.notebook(c, "vernier-0.05", 6);
        const Adjustment a(part);
        if (!Notebooks::pinsFirm(part, a)) continue;
        const test::Truth truth(c.truth);
        const auto worstAfter = [&](const NextReading& next) {
            if (!next.reading) return 1e9;
            Part more = part;
            Reading r = notebooks.read(truth, *next.reading, next.reading->instrument, 1);
            more = withReading(more, r);
            double worst = 0;
            for (const Pad& p : derive(more).pads) worst = std::max(worst, p.doubt.fitted ? p.doubt.fitted->mm() : 1e9);
            return worst;
        };
        const NextReading ends = nextReading(part, a, enoughFor(0), Candidates::Ends);
        const NextReading all = nextReading(part, a, enoughFor(0), Candidates::All);
        if (!ends.reading || !all.reading || ends.words.find("once more") != std::string::npos) continue;
        ++compared;
        EXPECT_LE(worstAfter(ends), 1.25 * worstAfter(all)) << ends.words << " against " << all.words;
    }
    EXPECT_GT(compared, 10);
}

TEST(EveryKindOfPart, TheNextReadingReallyIsTheBestOfItsList) {
    // By brute force: every candidate is read and the part derived again.
    Notebooks notebooks(37);
    int compared = 0;
    for (int t = 0; t < 12; ++t) {
        auto c = notebooks.draw(kAllKinds[notebooks.index(std::size(kAllKinds))]);
        c.part.body.present = c.truth.body.present = false;
        c.part.given["lead.length"] = {"3.2", Unit::Mm};
        const Part part = notebooks.notebook(c, "caliper-0.01", 5);
        const Adjustment a(part);
        const NextReading next = nextReading(part, a, enoughFor(0));
        if (a.loose().cols() > 0 || !next.reading || next.words.find("once more") != std::string::npos) continue;
        const test::Truth truth(c.truth);
        const auto worstAfter = [&](const Reading& r) {
            // What it would show exactly, so that only its doubt matters.
            Reading exact = r;
            exact.instrument = next.reading->instrument;
            const auto f = a.equation(r);
            exact.raw = {{Length::fromMm(f->value()), "", Unit::Mm, false, {}}};
            double worst = 0;
            const Footprint g = derive(withReading(part, exact));
            for (const Pad& p : g.pads) worst = std::max(worst, p.doubt.fitted ? p.doubt.fitted->mm() : 1e9);
            return worst;
        };
        const double chosen = worstAfter(*next.reading);
        ++compared;
        for (const Reading& r : candidateReadings(part)) {
            const auto f = a.equation(r);
            if (!f || f->gradient().empty() || r.axis == Axis::Height || !(truth.shown(r) > 0.2)) continue;
            if (r.axis != Axis::Direct && !r.b.empty() && r.contact != Contact::FaceNear) continue;
            EXPECT_LE(chosen, worstAfter(r) * 1.02) << next.words << " against " << readingWords(part, r);
        }
    }
    EXPECT_GT(compared, 3);
}

}  // namespace
}  // namespace punch::every_kind_test
