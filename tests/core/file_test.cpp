#include "core/part/file.h"

#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/base/atomic_file.h"
#include "tests/support/demo_files.h"

namespace punch::file_test {
namespace {

namespace fs = std::filesystem;

class PunchFile : public testing::Test {
protected:
    void SetUp() override {
        std::string pattern = (fs::temp_directory_path() / "punch-file-XXXXXX").string();
        folder = ::mkdtemp(pattern.data());
    }
    void TearDown() override {
        ::chmod(folder.c_str(), 0755);
        fs::remove_all(folder);
    }
    fs::path folder;
};

TEST_F(PunchFile, SaveLoadSaveIsByteIdentical) {
    const std::string first = toText(test::demoPart());
    const auto again = fromText(first, "memory");
    ASSERT_TRUE(again);
    EXPECT_EQ(*again, test::demoPart());
    EXPECT_EQ(toText(*again), first);
}

TEST_F(PunchFile, TheDemoFilesAreInTheirStandardForm) {
    ASSERT_GE(test::demoFiles().size(), 6U);
    for (const std::string& file : test::demoFiles()) EXPECT_EQ(*readWhole(file), toText(*loadPart(file))) << file;
}

TEST_F(PunchFile, RawValuesSurviveAsTyped) {
    Part part = *newRow(4);
    Reading r = test::reading("p1", "p4", Contact::Outside, Axis::Along, {});
    r.raw = {{16.25_mm, "16.25", Unit::Mm, false, {}},
             {16.256_mm, "0.64in", Unit::Mm, false, {}},
             {16.256_mm, "640", Unit::Mil, false, {}},
             {6.95_mm, "(33.3-19.4)/2", Unit::Mm, true, {}},
             {1_mm, "1.00", Unit::Mm, false, {}}};
    part = withReading(part, r);
    const auto again = fromText(toText(part), "memory");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->readings[0].raw, part.readings[0].raw);
}

TEST_F(PunchFile, UnknownFieldsSurvive) {
    auto j = nlohmann::ordered_json::parse(toText(test::demoPart()));
    j["weather"] = {{"rain", true}};
    j["readings"][0]["mood"] = "good";
    j["formations"][0]["colour"] = 7;
    j["formations"][0]["numbers"]["roman"] = true;
    j["rules"]["later"] = {1, 2, 3};
    j["marks"][0]["why"] = "plug";
    j["body"]["tint"] = 1;
    j["datum"]["note"] = "x";
    j["potentials"][0]["phase"] = 120;
    const auto part = fromText(j.dump(), "memory");
    ASSERT_TRUE(part) << part.error().text();
    const auto back = nlohmann::ordered_json::parse(toText(*part));
    EXPECT_EQ(nlohmann::json::parse(j.dump()), nlohmann::json::parse(back.dump()));
}

TEST_F(PunchFile, MistakesNameTheFieldAndTheWayOut) {
    const std::string good = toText(test::demoPart());
    const auto wrong = [&](const std::string& text) {
        const auto part = fromText(text, "x.punch");
        EXPECT_FALSE(part);
        return part ? std::string() : part.error().text();
    };
    EXPECT_NE(wrong(good.substr(0, good.size() / 2)).find("not complete JSON"), std::string::npos);
    EXPECT_NE(wrong("").find("not complete JSON"), std::string::npos);
    EXPECT_NE(wrong("[1,2]").find("no Punchbit part"), std::string::npos);
    EXPECT_NE(wrong("{\"layers\":[]}").find("no Punchbit part"), std::string::npos);
    EXPECT_NE(wrong("{\"punchbit\":99}").find("newer Punchbit"), std::string::npos);
    const auto with = [&](const nlohmann::json::json_pointer& at, const nlohmann::json& value) {
        auto j = nlohmann::json::parse(good);
        j[at] = value;
        return wrong(j.dump());
    };
    using P = nlohmann::json::json_pointer;
    EXPECT_NE(with(P("/readings/0/contact"), "sideways").find("readings[0].contact"), std::string::npos);
    EXPECT_NE(with(P("/readings/0/raw/0"), "abc").find("readings[0].raw[0]"), std::string::npos);
    EXPECT_NE(with(P("/readings/0/of"), nlohmann::json::array()).find("readings[0].of"), std::string::npos);
    EXPECT_NE(with(P("/rules/ring"), -1).find("rules.ring"), std::string::npos);
    EXPECT_NE(with(P("/rules/holeFactor"), 0).find("rules.holeFactor"), std::string::npos);
    EXPECT_NE(wrong("{\"punchbit\":1}").find("says its formations"), std::string::npos);
    EXPECT_NE(with(P("/formations/0/pins"), nlohmann::json::array()).find("at least one pin"), std::string::npos);
    EXPECT_NE(with(P("/formations/0/pins/1"), "p1").find("stands twice"), std::string::npos);
    EXPECT_NE(with(P("/formations/0/numbers/step"), 0).find("step"), std::string::npos);
    EXPECT_NE(with(P("/potentials/0/volts"), 1e6).find("100 kV"), std::string::npos);
    EXPECT_NE(with(P("/name"), 5).find("name"), std::string::npos);
    EXPECT_NE(with(P("/dress"), 5).find("dress"), std::string::npos);
}

TEST_F(PunchFile, RandomDamageNeverEndsTheProgram) {
    std::vector<std::string> good = {toText(test::demoPart())};
    for (const char* name : {"HT-RM2", "PW-VS11", "PW-RS7"})
        good.push_back(*readWhole(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch"));
    std::mt19937 random(11);
    for (std::size_t i = 0; i < 2000; ++i) {
        std::string text = good[i % good.size()];
        for (unsigned k = 0; k < 1 + random() % 6; ++k)
            text[random() % text.size()] = static_cast<char>(random() % 256);
        const auto part = fromText(text, "damaged");
        if (part) derive(*part);
    }
}

TEST_F(PunchFile, FieldsThatMeanSomethingElseNeverEndTheProgram) {
    // Values of one place put into another: right JSON, wrong meaning.
    std::mt19937 random(12);
    const char* values[] = {
        "\"f1\"",  "\"p1\"", "\"nowhere\"", "0",        "-7",       "1e6",       "\"\"",       "[]",
        "{}",      "null",   "true",        "\"ring\"", "\"twin\"", "\"angle\"", "\"height\"", "\"pitch*pitch\"",
        "[\"p1\"]"};
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "PW-RS7"}) {
        const auto whole =
            nlohmann::ordered_json::parse(*readWhole(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch"));
        const auto flat = nlohmann::json(whole).flatten();
        std::vector<std::string> places;
        for (const auto& [place, value] : flat.items()) places.push_back(place);
        for (int i = 0; i < 300; ++i) {
            auto j = whole;
            for (unsigned k = 0; k < 1 + random() % 3; ++k) {
                const nlohmann::ordered_json::json_pointer at(places[random() % places.size()]);
                if (j.contains(at)) j[at] = nlohmann::ordered_json::parse(values[random() % std::size(values)]);
            }
            if (const auto part = fromText(j.dump(), "changed")) derive(*part);
        }
    }
}

TEST_F(PunchFile, AReadOnlyFolderLosesNothing) {
    // A kernel file system that takes no new file, not even from root.
    const auto refused = savePart(test::demoPart(), "/sys/punch-test.punch");
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().todo.find("read-only"), std::string::npos) << refused.error().text();
    if (::geteuid() == 0) return;
    const fs::path file = folder / "a.punch";
    ASSERT_TRUE(savePart(test::demoPart(), file));
    ::chmod(folder.c_str(), 0555);
    EXPECT_FALSE(savePart(*newRow(2), file));
    EXPECT_EQ(*loadPart(file), test::demoPart());
}

TEST_F(PunchFile, AFullDiskLosesNothing) {
    // A limit on the size of files stands for a disk that fills up in the middle of the write.
    const fs::path file = folder / "a.punch";
    ASSERT_TRUE(savePart(test::demoPart(), file));
    rlimit old{};
    ::getrlimit(RLIMIT_FSIZE, &old);
    ::signal(SIGXFSZ, SIG_IGN);
    const rlimit small{1000, old.rlim_max};
    ASSERT_EQ(::setrlimit(RLIMIT_FSIZE, &small), 0);
    Part changed = test::demoPart();
    changed.notes = "changed";
    const auto full = savePart(changed, file);
    ::setrlimit(RLIMIT_FSIZE, &old);
    ASSERT_FALSE(full);
    EXPECT_NE(full.error().todo.find("disk is full"), std::string::npos);
    EXPECT_EQ(*loadPart(file), test::demoPart());
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), fs::directory_iterator()), 1) << "no temporary file stays";
}

TEST_F(PunchFile, AMissingFolderOrAFolderInTheWay) {
    const auto missing = savePart(test::demoPart(), folder / "none" / "a.punch");
    ASSERT_FALSE(missing);
    EXPECT_NE(missing.error().todo.find("does not exist"), std::string::npos);
    fs::create_directory(folder / "b.punch");
    EXPECT_FALSE(savePart(*newRow(2), folder / "b.punch"));
    int files = 0;
    for (const auto& entry : fs::directory_iterator(folder)) files += entry.is_regular_file();
    EXPECT_EQ(files, 0) << "no temporary file stays";
}

TEST_F(PunchFile, SeveralFilesAppearTogetherOrNotAtAll) {
    fs::create_directory(folder / "out");
    fs::create_directory(folder / "out" / "two");
    EXPECT_FALSE(writeAllAtomically(folder / "out", {{"one", "1"}, {"two", "2"}}));
    EXPECT_FALSE(fs::exists(folder / "out" / "one"));
    EXPECT_TRUE(writeAllAtomically(folder / "new" / "deep", {{"one", "1"}, {"two", "2"}}));
    EXPECT_EQ(*readWhole(folder / "new" / "deep" / "two"), "2");
}

}  // namespace
}  // namespace punch::file_test
