// The fuzzers' corpus, and what hard use found, as ordinary tests: everything comes back with an answer.

#include <gtest/gtest.h>
#include <sys/stat.h>

#include <filesystem>

#include "core/base/atomic_file.h"
#include "core/base/worker.h"
#include "core/drawing/evidence.h"
#include "core/drawing/read_dxf.h"
#include "core/picture/read_picture.h"
#include "fuzz/targets.h"
#include "tests/support/parts.h"

namespace punch::fuzz_corpus_test {
namespace {

namespace fs = std::filesystem;

TEST(FuzzCorpus, EveryTargetHasOneAndComesBackFromAllOfIt) {
    for (const fuzz::Target& target : fuzz::targets()) {
        SCOPED_TRACE(target.name);
        const fs::path folder = fs::path(test::sourceFolder()) / "fuzz" / "corpus" / target.name;
        ASSERT_TRUE(fs::is_directory(folder));
        int count = 0;
        for (const auto& entry : fs::directory_iterator(folder)) {
            const auto bytes = readWhole(entry.path());
            ASSERT_TRUE(bytes) << entry.path();
            target.run(*bytes);
            ++count;
        }
        EXPECT_GE(count, 2);
    }
}

TEST(FuzzCorpus, EachTargetComesBackFromTornAndTwistedFiles) {
    std::mt19937 random(9);
    for (const fuzz::Target& target : fuzz::targets()) {
        // Each twist of a PDF starts workers of its own.
        const int twists = std::string(target.name) == "pdf" ? 5 : std::string(target.name) == "part" ? 60 : 120;
        std::vector<std::string> seeds;
        for (const auto& entry :
             fs::directory_iterator(fs::path(test::sourceFolder()) / "fuzz" / "corpus" / target.name))
            if (auto bytes = readWhole(entry.path()); bytes && bytes->size() < 100000) seeds.push_back(*bytes);
        for (int t = 0; t < twists && !seeds.empty(); ++t) {
            std::string bytes = seeds[random() % seeds.size()];
            if (bytes.empty()) continue;
            for (unsigned k = 0; k <= random() % 6; ++k) {
                const std::size_t at = random() % bytes.size();
                switch (random() % 4) {
                    case 0: bytes[at] = static_cast<char>(random()); break;
                    case 1: bytes.resize(at + 1); break;
                    case 2: bytes.insert(at, bytes.substr(random() % bytes.size(), random() % 40)); break;
                    default: bytes.insert(at, "999999999"); break;
                }
            }
            target.run(bytes);
        }
    }
}

// ------------------------------------------------------------------ what ended or hung the program

std::string repeated(const std::string& what, int times) {
    std::string all;
    for (int i = 0; i < times; ++i) all += what;
    return all;
}

TEST(HardUse, DeeplyNestedJsonIsRefused) {
    for (const int depth : {200, 10000, 100000}) {
        const auto part = fromText(
            "{\"punchbit\": 1, \"x\": " + repeated("{\"a\":", depth) + "1" + repeated("}", depth) + "}", "deep");
        ASSERT_FALSE(part);
        EXPECT_NE(part.error().what.find("nested deeper"), std::string::npos);
    }
    std::string whole = toText(*newRow(4));
    whole.insert(whole.rfind('}'), ", \"x\": " + repeated("[", 50) + repeated("]", 50));
    EXPECT_TRUE(fromText(whole, "deep enough"));
}

std::string dxfOf(const std::string& entities, const std::string& blocks = {}) {
    return "0\nSECTION\n2\nBLOCKS\n" + blocks + "0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + entities +
           "0\nENDSEC\n0\nEOF\n";
}

TEST(HardUse, ADxfThatClaimsPointsThatItLacksIsRefused) {
    for (const char* count : {"2147483647", "-1", "99999999999999999999", "1000"}) {
        for (const std::string& entity : {std::string("0\nLWPOLYLINE\n8\n0\n90\n") + count + "\n70\n1\n10\n0\n20\n0\n",
                                          std::string("0\nSPLINE\n8\n0\n71\n3\n72\n") + count + "\n73\n4\n",
                                          std::string("0\nSPLINE\n8\n0\n71\n3\n72\n8\n73\n") + count + "\n"}) {
            const auto drawing = dxfFromText(dxfOf(entity), "claims.dxf", 1.0);
            ASSERT_FALSE(drawing);
            EXPECT_NE(drawing.error().what.find("claims"), std::string::npos) << drawing.error().text();
        }
    }
}

TEST(HardUse, ADxfWithAnEndlessLineIsRefused) {
    const auto drawing = dxfFromText(dxfOf("0\nTEXT\n8\n0\n1\n" + std::string(1024, 'x') + "\n"), "long.dxf", 1.0);
    ASSERT_FALSE(drawing);
    EXPECT_NE(drawing.error().what.find("1024 characters"), std::string::npos);
}

TEST(HardUse, BlocksThatPlaceThemselvesOrEachOtherAreBounded) {
    const std::string self =
        "0\nBLOCK\n2\nA\n10\n0\n20\n0\n" + repeated("0\nINSERT\n2\nA\n10\n1\n20\n0\n", 50) + "0\nENDBLK\n";
    EXPECT_FALSE(dxfFromText(dxfOf("0\nINSERT\n2\nA\n10\n0\n20\n0\n", self), "self.dxf", 1.0));
    std::string laughs;
    for (int k = 0; k < 10; ++k)
        laughs += "0\nBLOCK\n2\nB" + std::to_string(k) + "\n10\n0\n20\n0\n" +
                  repeated("0\nINSERT\n2\nB" + std::to_string(k + 1) + "\n10\n0\n20\n0\n", 9) + "0\nENDBLK\n";
    EXPECT_FALSE(dxfFromText(dxfOf("0\nINSERT\n2\nB0\n10\n0\n20\n0\n", laughs), "laughs.dxf", 1.0));
}

TEST(HardUse, WhatIsNoPlainFileIsNotRead) {
    const fs::path pipe = fs::temp_directory_path() / ("punchbit-pipe-" + std::to_string(::getpid()));
    ASSERT_EQ(::mkfifo(pipe.c_str(), 0600), 0);
    for (const std::string& file : {std::string("/dev/null"), std::string("/dev/zero"), pipe.string()}) {
        EXPECT_FALSE(openEvidence(file, {})) << file;
        EXPECT_FALSE(readWhole(file)) << file;
        EXPECT_FALSE(loadPart(file)) << file;
        EXPECT_FALSE(readDxf(file, {})) << file;
    }
    fs::remove(pipe);
}

TEST(Worker, ItsEndIsAnAnswer) {
    const auto run = [](const std::function<Result<std::string>()>& work, double seconds = 10) {
        return inWorker("work", work, {seconds, 1});
    };
    EXPECT_EQ(*run([] { return std::string("done"); }), "done");
    EXPECT_EQ(run([]() -> Result<std::string> { return problem("what", "where", "todo"); }).error().text(),
              "where: what. todo");
    EXPECT_NE(run([]() -> Result<std::string> { std::abort(); }).error().what.find("broken"), std::string::npos);
    EXPECT_NE(run([]() -> Result<std::string> { throw 1; }).error().what.find("broken"), std::string::npos);
    EXPECT_NE(run(
                  []() -> Result<std::string> {
                      for (volatile int i = 0;;) i = i + 1;
                  },
                  0.2)
                  .error()
                  .what.find("took more"),
              std::string::npos);
    const std::string large(30'000'000, 'x');
    EXPECT_EQ(run([&] { return large; })->size(), large.size());
}

}  // namespace
}  // namespace punch::fuzz_corpus_test
