// punch as a user runs it: its exit codes, its files, its messages.

#include <gtest/gtest.h>
#include <sys/wait.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/base/atomic_file.h"
#include "tests/support/parts.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

struct Outcome {
    int code;
    std::string out;
};

Outcome punchRun(const std::string& args) {
    const std::string command =
        (std::filesystem::read_symlink("/proc/self/exe").parent_path().parent_path() / "cli" / "punch").string() + " " +
        args + " 2>&1";
    FILE* pipe = ::popen(command.c_str(), "r");
    std::string out;
    char buffer[4096];
    for (std::size_t n; (n = std::fread(buffer, 1, sizeof buffer, pipe)) > 0;) out.append(buffer, n);
    const int status = ::pclose(pipe);
    return {WEXITSTATUS(status), out};
}

class CommandLine : public testing::Test {
protected:
    void SetUp() override {
        std::string pattern = (fs::temp_directory_path() / "punch-cli-XXXXXX").string();
        folder = ::mkdtemp(pattern.data());
    }
    void TearDown() override { fs::remove_all(folder); }
    std::string file(const std::string& name, const Part& part) {
        EXPECT_TRUE(savePart(part, folder / name));
        return (folder / name).string();
    }
    fs::path folder;
    const std::string demo = test::sourceFolder() + "/demo/fennel-house/QB-TB4.punch";
};

TEST_F(CommandLine, DerivePrintsJson) {
    const Outcome run = punchRun("derive " + demo + " --json");
    EXPECT_EQ(run.code, 0);
    const auto json = nlohmann::json::parse(run.out);
    EXPECT_EQ(json["pads"].size(), 4u);
    EXPECT_NE(punchRun("derive " + demo).out.find("pitch as read 5.082 ± 0.009 mm"), std::string::npos);
}

TEST_F(CommandLine, CheckTellsByItsExitCode) {
    EXPECT_EQ(punchRun("check " + demo).code, 0) << "go or watch";
    Part thin = test::demoPart();
    thin.rules.ring = 0.1_mm;
    const std::string noGo = file("thin.punch", thin);
    EXPECT_EQ(punchRun("check " + noGo).code, 1);
    const std::string unknown = file("new.punch", *newRow(4));
    EXPECT_EQ(punchRun("check " + unknown).code, 3);
    EXPECT_EQ(punchRun("check " + demo + " " + unknown + " " + noGo).code, 1);
    EXPECT_EQ(punchRun("check " + demo + " /no/such.punch").code, 2);
}

TEST_F(CommandLine, ExportWritesAllOrWhatIsNamed) {
    Outcome run = punchRun("export " + demo + " --to " + (folder / "all").string());
    EXPECT_EQ(run.code, 0) << run.out;
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "all"), fs::directory_iterator()), 12);
    run = punchRun("export " + demo + " --to " + (folder / "some").string() + " --format csv --format drill");
    EXPECT_EQ(run.code, 0);
    EXPECT_EQ(std::distance(fs::directory_iterator(folder / "some"), fs::directory_iterator()), 3);
    EXPECT_TRUE(fs::exists(folder / "some" / "QB-TB4-bare.drl"));
    run = punchRun("export " + demo + " --to " + folder.string() + " --format stone");
    EXPECT_EQ(run.code, 2);
    EXPECT_NE(run.out.find("Use gerber, drill, csv or svg"), std::string::npos);
    std::ofstream(folder / "taken") << "x";
    EXPECT_EQ(punchRun("export " + demo + " --to " + (folder / "taken").string()).code, 2)
        << "a file where the folder should be";
}

TEST_F(CommandLine, FmtIsStable) {
    const std::string text =
        R"({"punchbit":1,"formations":[{"kind":"row","pins":["p1","p2"]}],"readings":[{"of":["p1","p2"],"contact":"outside","raw":["0.1in",3]}]})";
    std::ofstream(folder / "a.punch") << text;
    EXPECT_EQ(punchRun("fmt " + (folder / "a.punch").string()).code, 0);
    const std::string once = *readWhole(folder / "a.punch");
    EXPECT_EQ(punchRun("fmt " + (folder / "a.punch").string()).code, 0);
    EXPECT_EQ(*readWhole(folder / "a.punch"), once);
    EXPECT_NE(once.find("\"0.1in\""), std::string::npos);
}

TEST_F(CommandLine, UnreadableIsAMessage) {
    std::ofstream(folder / "bad.punch") << "{\"punchbit\": 1, \"readings\": [";
    for (const char* command : {"derive ", "check ", "fmt "}) {
        const Outcome run = punchRun(command + (folder / "bad.punch").string());
        EXPECT_EQ(run.code, 2);
        EXPECT_NE(run.out.find("bad.punch"), std::string::npos);
        EXPECT_NE(run.out.find("not complete JSON"), std::string::npos);
    }
    EXPECT_EQ(punchRun("").code, 2);
    EXPECT_EQ(punchRun("dance").code, 2);
    EXPECT_EQ(punchRun("--help").code, 0);
    EXPECT_EQ(*readWhole(folder / "bad.punch"), "{\"punchbit\": 1, \"readings\": [")
        << "a file that is not understood is left alone";
}

}  // namespace
}  // namespace punch
