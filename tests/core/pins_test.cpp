// Pins: tables out of text, checks against pads, bench notes, variants.

#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "core/derive.h"
#include "core/part/file.h"
#include "core/part/names.h"
#include "core/pins/bench_notes.h"
#include "core/pins/pin_checks.h"
#include "core/pins/pin_table.h"
#include "core/pins/variants.h"
#include "tests/support/parts.h"

namespace punch::pins_test {
namespace {

Pin pin(const std::string& number, const std::string& name = {}, PinKind kind = PinKind::Passive) {
    Pin p;
    p.number = number;
    if (!name.empty()) p.names = namesFromText(name);
    p.kind = kind;
    return p;
}

std::vector<std::string> wordsOf(const std::vector<PinTrouble>& troubles) {
    std::vector<std::string> all;
    for (const PinTrouble& t : troubles) all.push_back(t.words);
    return all;
}

using Words = std::vector<std::string>;

TEST(PinTable, TellsColumnsApartWhateverTheySeparate) {
    // The same table, from a spreadsheet, a CSV of any kind, and a page.
    for (const char* text : {"Pin\tName\tType\n1\tVCC\tPower\n2\t/RESET\tInput\n3\tGND\tGround\n",
                             "pin;name;type\r\n1;VCC;power\r\n2;/RESET;in\r\n3;GND;GND\r\n",
                             "\xEF\xBB\xBFNo.,Signal,I/O\n\"1\",\"VCC\",\"P\"\n2,/RESET,I\n\n3,GND,G",
                             "1 VCC power\n2 /RESET input\n3 GND ground",
                             "Number | Name | Kind\n1 | VCC | supply\n2 | /RESET | input\n3 | GND | return"}) {
        const auto read = pinsFromText(text, {"1", "2", "3"});
        ASSERT_TRUE(read) << read.error().text() << text;
        ASSERT_EQ(read->pins.size(), 3U) << text;
        EXPECT_EQ(read->pins[0], pin("1", "VCC", PinKind::Supply)) << text;
        EXPECT_EQ(read->pins[1], pin("2", "/RESET", PinKind::Input)) << text;
        EXPECT_EQ(read->pins[2], pin("3", "GND", PinKind::Return)) << text;
        EXPECT_TRUE(read->leftLines.empty()) << text;
    }
    // UTF-16 as spreadsheets put it onto the clipboard, Latin-1 as old ones write it.
    std::string wide = "\xFF\xFE";
    for (const char c : std::string("1\tUB\n2\tMASSE\n")) wide += std::string(1, c) + '\0';
    EXPECT_EQ(pinsFromText(wide)->pins[1].names, Words{"MASSE"});
    EXPECT_EQ(pinsFromText("1;\xDC"
                           "B\n2;B\n")
                  ->pins[0]
                  .names,
              Words{"ÜB"});
    // Without a heading: the column of the pads' numbers, not that of currents; and a note of several words.
    const auto odd =
        pinsFromText("10,A1,COM,common of both\n20,A2,NO,closed when up\n10,A3,NC,open when up\n", {"A1", "A2", "A3"});
    ASSERT_TRUE(odd);
    EXPECT_EQ(odd->columns, (Words{"left out", "number", "name", "note"}));
    EXPECT_EQ(odd->pins[1].number, "A2");
    EXPECT_EQ(odd->pins[2].names, Words{"NC"});
}

TEST(PinTable, SeriesNamesAndWhatIsNoPin) {
    EXPECT_EQ(series("D0..D3"), (Words{"D0", "D1", "D2", "D3"}));
    EXPECT_EQ(series("A7..A5"), (Words{"A7", "A6", "A5"}));
    EXPECT_EQ(series("X08..10"), (Words{"X08", "X09", "X10"}));
    EXPECT_EQ(series("D0..E3"), Words{"D0..E3"});
    EXPECT_EQ(series("1..999999"), Words{"1..999999"}) << "nobody means a million";
    EXPECT_EQ(namesFromText(" PA0,  TX ; /CS"), (Words{"PA0", "TX", "/CS"}));
    const auto read = pinsFromText("Table 3\n1..4 D0..D3 I/O\n5,6 GND ground\nSee page 7\n");
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->pins.size(), 6U);
    EXPECT_EQ(read->pins[2].names, Words{"D2"});
    EXPECT_EQ(read->pins[5].number, "6");
    EXPECT_EQ(read->pins[5].names, Words{"GND"});
    EXPECT_EQ(read->leftLines, (Words{"Table 3", "See page 7"})) << "shown, never dropped silently";
    const auto loud = pinsFromText("Pin;Name;Type;Note\n1;A;loud;left\n2;B;in;\n");
    ASSERT_TRUE(loud);
    EXPECT_EQ(loud->pins[0].note, "loud; left") << "a kind that is none is not lost";
    EXPECT_EQ(loud->pins[1].kind, PinKind::Input);
    EXPECT_FALSE(pinsFromText(""));
    EXPECT_FALSE(pinsFromText("nothing here\nis a pin\n"));
}

TEST(PinTable, GoesThroughItsOwnCsv) {
    std::mt19937 random(7);
    const char* letters[] = {"a", "B", ",", ";", "\"", "'", "\n", "|", " ", "/", "ü", "0"};
    for (int round = 0; round < 200; ++round) {
        std::vector<Pin> pins;
        for (int i = 0; i < 5; ++i) {
            Pin p = pin(std::to_string(i + 1), "N" + std::to_string(random() % 50),
                        static_cast<PinKind>(1 + random() % 10));
            p.side = static_cast<PinSide>(random() % 5);
            for (auto k = random() % 8; k > 0; --k) p.note += letters[random() % std::size(letters)];
            p.note = "x" + p.note + "x";
            if (random() % 2 == 0) p.pads = {"7", "8"};
            p.group = random() % 2 == 0 ? "" : "g, \"h\"";
            pins.push_back(std::move(p));
        }
        const auto back = pinsFromText(pinsCsv(pins));
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(back->pins, pins) << pinsCsv(pins);
    }
}

TEST(PinTable, NoTextEndsTheProgram) {
    std::mt19937 random(3);
    for (int round = 0; round < 3000; ++round) {
        std::string text;
        for (auto i = random() % 60; i > 0; --i) {
            const char* bits[] = {"1",  "A2", "..", "\t",   ",",  ";", "\n",
                                  "\"", "/X", " ",  "\xFF", "in", "|", "99999999999"};
            text += bits[random() % std::size(bits)];
        }
        const auto read = pinsFromText(text);
        if (!read) continue;
        for (const Pin& p : read->pins) EXPECT_FALSE(p.number.empty());
    }
}

TEST(Pins, AreJoinedByNumberAndByHand) {
    const Footprint f = derive(test::demoPart());
    std::vector<Pin> pins = {pin("1", "L"), pin("2", "N"), pin("3", "PE"), pin("4", "K")};
    EXPECT_TRUE(pinTroubles(pins, f.pads).empty());
    EXPECT_EQ(jointsOf(pins, f.pads).pads[2], std::vector<FeatureId>{f.pads[2].id});
    // One that is not there, one twice, a pad alone.
    pins[3].number = "9";
    EXPECT_EQ(wordsOf(pinTroubles(pins, f.pads)), (Words{"pin 9: no pad has this number", "pad 4 has no pin"}));
    pins[3].number = "3";
    EXPECT_EQ(wordsOf(pinTroubles(pins, f.pads)), (Words{"pin 3 is there 2 times", "pad 4 has no pin"}));
    // By hand: pad 4 to pin 3 as well; then pad 1 from pin 1, which is left with none and says so.
    pins[3] = pin("4", "K");
    pins.pop_back();
    pins = joinedTo(pins, 2, "4");
    EXPECT_EQ(pins[2].pads, (Words{"3", "4"}));
    EXPECT_TRUE(pinTroubles(pins, f.pads).empty());
    pins = joinedTo(pins, 1, "1");
    EXPECT_EQ(wordsOf(pinTroubles(pins, f.pads)), Words{"pin 1: joined to no pad"});
    pins = joinedTo(pins, 0, "1");
    EXPECT_TRUE(pins[0].pads.empty()) << "its own number again";
    EXPECT_TRUE(pins[1].pads.empty());
    // What is missing is made.
    EXPECT_EQ(withMissingPins({}, f.pads).size(), f.pads.size());
    EXPECT_EQ(withMissingPins(pins, f.pads).size(), pins.size());
}

TEST(Pins, DoubtfulOnesAreNamed) {
    const Footprint f = derive(test::demoPart());
    const std::vector<Pin> pins = {pin("1", "VCC", PinKind::Input), pin("2", "A", PinKind::Supply),
                                   pin("3", "A", PinKind::NotSaid), pin("4", {}, PinKind::Output)};
    EXPECT_EQ(wordsOf(pinTroubles(pins, f.pads)),
              (Words{"pin 1 is called VCC and is no supply", "there is a supply and no return", "pin 4 has no name",
                     "pin 3: its kind is not said"}));
    std::vector<Pin> twice = {pin("1", "A"), pin("2", "A"), pin("3", "GND", PinKind::Return),
                              pin("4", "GND", PinKind::Return)};
    EXPECT_EQ(wordsOf(pinTroubles(twice, f.pads)),
              (Words{"the name A is there 2 times", "there is a return and no supply"}));
}

BenchNote note(const char* typed) { return *benchNoteFromText(typed); }

std::map<std::string, PinRole> rolesOf(const RoleProposal& p) {
    std::map<std::string, PinRole> all;
    for (const ProposedRole& r : p.roles) all[r.pin] = r.role;
    return all;
}

TEST(BenchNotes, AreReadAsAMeterShowsThem) {
    EXPECT_EQ(note("1 2 10k").ohms, 10e3);
    EXPECT_EQ(note("1 2 4k7Ω fully left").ohms, 4700);
    EXPECT_EQ(note("1 2 4k7Ω fully left").position, "fully left");
    EXPECT_EQ(note("A 3 2.2M").ohms, 2.2e6);
    EXPECT_EQ(note("1 2 beep").ohms, 0);
    EXPECT_EQ(note("1 2 open up").ohms, std::nullopt);
    for (const char* bad : {"", "1", "1 1 5", "1 2", "1 2 many", "1 2 -5", "1 2 5kk"})
        EXPECT_FALSE(benchNoteFromText(bad)) << bad;
    EXPECT_EQ(benchNoteWords(note("1 2 4700 left")), "1 to 2: 4.7 kΩ, left");
}

TEST(BenchNotes, OfAPotentiometerSayWhichIsTheWiper) {
    RoleProposal p = proposedRoles({note("1 2 3.1k"), note("2 3 6.9k"), note("1 3 10k")});
    EXPECT_EQ(rolesOf(p),
              (std::map<std::string, PinRole>{{"1", PinRole::End}, {"2", PinRole::Wiper}, {"3", PinRole::End}}));
    EXPECT_TRUE(p.measure.empty());
    // At its end two pins look alike: undecided, until it is turned.
    const std::vector<BenchNote> atEnd = {note("1 2 0.3 left"), note("2 3 10k left"), note("1 3 10k left")};
    p = proposedRoles(atEnd);
    EXPECT_TRUE(p.roles.empty());
    ASSERT_EQ(p.open.size(), 1U);
    ASSERT_EQ(p.measure.size(), 1U);
    EXPECT_NE(p.measure[0].find("another position"), std::string::npos);
    std::vector<BenchNote> both = atEnd;
    for (const char* typed : {"1 2 4k mid", "2 3 6k mid", "1 3 10k mid"}) both.push_back(note(typed));
    EXPECT_EQ(rolesOf(proposedRoles(both)).at("2"), PinRole::Wiper);
    // A track is as long in every position.
    std::vector<BenchNote> longer = {note("1 2 3k a"), note("2 3 7k a"), note("1 3 10k a")};
    for (const char* typed : {"1 2 5k b", "2 3 15k b", "1 3 20k b"}) longer.push_back(note(typed));
    EXPECT_TRUE(proposedRoles(longer).roles.empty());
    // Three resistors that are no track.
    EXPECT_TRUE(proposedRoles({note("1 2 100"), note("2 3 100"), note("1 3 66.7")}).roles.empty());
}

TEST(BenchNotes, OfASwitchSayCommonsAndContacts) {
    const std::vector<BenchNote> notes = {note("1 2 beep up"),   note("1 3 open up"),   note("2 3 open up"),
                                          note("1 2 open down"), note("1 3 beep down"), note("2 3 open down")};
    RoleProposal p = proposedRoles(notes);
    EXPECT_EQ(rolesOf(p), (std::map<std::string, PinRole>{
                              {"1", PinRole::Common}, {"2", PinRole::Contact}, {"3", PinRole::Contact}}));
    EXPECT_EQ(p.roles[0].words, "common: to 2 up, to 3 down");
    EXPECT_TRUE(p.open.empty());
    // Half of it: nothing is claimed, and what would decide is said.
    p = proposedRoles({note("1 2 beep up"), note("1 3 open up")});
    EXPECT_TRUE(p.roles.empty());
    EXPECT_EQ(p.measure.front(), "1 to 2 in another position");
    p = proposedRoles({note("1 2 beep up"), note("1 3 beep down")});
    EXPECT_EQ(rolesOf(p).at("1"), PinRole::Common);
    // A relay: its coil stays as it is.
    std::vector<BenchNote> relay = notes;
    relay.push_back(note("A B 360"));
    EXPECT_EQ(rolesOf(proposedRoles(relay)).at("A"), PinRole::Coil);
    // Four ways of a selector, and a pin that does nothing.
    std::vector<BenchNote> selector;
    for (int at = 0; at < 4; ++at)
        for (int i = 1; i <= 5; ++i) {
            BenchNote asked;
            asked.a = "C";
            asked.b = std::to_string(i);
            asked.position = "at " + std::to_string(at + 1);
            if (i == at + 1) asked.ohms = 0.1;
            selector.push_back(asked);
        }
    p = proposedRoles(selector);
    EXPECT_EQ(rolesOf(p).at("C"), PinRole::Common);
    for (const char* contact : {"1", "2", "3", "4"}) EXPECT_EQ(rolesOf(p).at(contact), PinRole::Contact);
    EXPECT_EQ(rolesOf(p).count("5"), 0U) << "it was never asked against the others";
    EXPECT_NE(std::find(p.measure.begin(), p.measure.end(), "5 to 1, at 1"), p.measure.end());
}

TEST(Variants, ShareTheBodyAndDifferInPins) {
    Part part = test::demoPart();
    part.name = "HT-X";
    part.pins = {pin("1", "COM"), pin("2", "A"), pin("3", "B"), pin("4", "C")};
    Variant v;
    v.name = "PG";
    v.value = "gray code";
    v.pins = part.pins;
    std::swap(v.pins[0].names, v.pins[3].names);
    v.pins[1].kind = PinKind::Output;
    v.without = {part.marks.empty() ? "" : part.marks.front().id};
    part.variants = {v};
    const auto as = asVariant(part, "PG");
    ASSERT_TRUE(as);
    EXPECT_EQ(as->name, "HT-X-PG");
    EXPECT_EQ(as->pins[0].names, Words{"C"});
    EXPECT_EQ(as->readings, part.readings);
    for (const Pad& p : derive(part).pads) EXPECT_EQ(derive(*as).pad(p.id)->at, p.at);
    const Words difference = variantDifference(part, "", "PG");
    for (const char* words : {"pin 1: COM → C", "pin 4: C → COM", "pin 2: passive → output", "value none → gray code"})
        EXPECT_NE(std::find(difference.begin(), difference.end(), words), difference.end()) << words;
    EXPECT_FALSE(asVariant(part, "PX"));
    EXPECT_TRUE(variantDifference(part, "PG", "PG").empty());
    // And all of it survives its file.
    part.benchNotes = {note("1 2 beep lever up"), note("1 3 open lever up"), note("2 3 4k7")};
    part.pins[2].pads = {"3", "4"};
    part.pins[3].side = PinSide::Top;
    part.pins[3].group = "g";
    part.pins[3].element = "B";
    part.pins[3].note = "with a note";
    part.history = {{"2026-11-02", "board 1", {}}, {"2026-11-29", "board 2", "pegs 0.05 looser"}};
    Source source;
    source.id = "s90";
    part.nextId = 91;
    source.title = "a page";
    source.seen = "2026-11-29";
    source.state = SourceState::Proven;
    part.sources.push_back(source);
    const auto back = fromText(toText(part), "memory");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(*back, part);
    for (const char* bad :
         {R"({"punchbit": 2, "formations": [], "pins": [{"names": ["A"]}]})",
          R"({"punchbit": 2, "formations": [], "pins": [{"number": "1", "kind": "loud"}]})",
          R"({"punchbit": 2, "formations": [], "benchNotes": [{"pins": ["1"], "ohms": 3}]})",
          R"({"punchbit": 2, "formations": [], "benchNotes": [{"pins": ["1", "2"], "ohms": -3}]})",
          R"({"punchbit": 2, "formations": [], "variants": [{}]})",
          R"({"punchbit": 2, "formations": [], "sources": [{"id": "s1", "title": "t", "state": "sure"}]})"})
        EXPECT_FALSE(fromText(bad, "x")) << bad;
}

TEST(Variants, AMarkIsInAllNotHereOrOnlyHere) {
    Part part = test::demoPart();
    part.variants.emplace_back().name = "B";
    const std::string mark = part.marks.front().id;
    const auto has = [&](const Part& p) { return markById(p, mark) != nullptr; };
    for (const auto& [where, inPart, inB] : {std::tuple{MarkIn::NotHere, true, false},
                                             {MarkIn::OnlyHere, false, true},
                                             {MarkIn::NotHere, true, false},
                                             {MarkIn::All, true, true},
                                             {MarkIn::OnlyHere, false, true},
                                             {MarkIn::All, true, true}}) {
        part = withMarkIn(part, "B", mark, where);
        EXPECT_EQ(markIn(part, "B", mark), where);
        EXPECT_EQ(has(part), inPart);
        EXPECT_EQ(has(*asVariant(part, "B")), inB);
        EXPECT_EQ(marksAround(part, "B").size(), test::demoPart().marks.size());
    }
    EXPECT_EQ(withMarkIn(part, "C", mark, MarkIn::NotHere), part);
    EXPECT_EQ(withMarkIn(part, "B", "m999", MarkIn::OnlyHere), part);
}

TEST(Variants, MayHaveMarksOfTheirOwn) {
    Part part = test::demoPart();
    Mark text = newMark(MarkKind::Text);
    text.name = "CCW";
    text.id = "v1";
    Mark other = part.marks.front();
    other.name = "other travel";
    Variant v;
    v.name = "B";
    v.with = {text, other};
    part.variants.push_back(v);
    const Part b = *asVariant(part, "B");
    EXPECT_EQ(b.marks.size(), part.marks.size() + 1);
    ASSERT_NE(markById(b, "v1"), nullptr);
    EXPECT_EQ(markById(b, other.id)->name, "other travel") << "one of the same identifier takes its place";
    const Words words = variantDifference(part, {}, "B");
    EXPECT_NE(std::find(words.begin(), words.end(), "with CCW"), words.end());
    EXPECT_NE(std::find(words.begin(), words.end(), "other travel is another"), words.end());
    const Words back = variantDifference(part, "B", {});
    EXPECT_NE(std::find(back.begin(), back.end(), "without CCW"), back.end());
    EXPECT_EQ(*fromText(toText(part), "x"), part);
}

}  // namespace
}  // namespace punch::pins_test
