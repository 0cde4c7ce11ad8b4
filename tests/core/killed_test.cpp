// A process that is killed at any moment leaves whole files behind.

#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <filesystem>
#include <random>
#include <set>

#include "core/base/atomic_file.h"
#include "core/part/file.h"
#include "tests/support/parts.h"

namespace punch::killed_test {
namespace {

namespace fs = std::filesystem;

struct Folder {
    fs::path path;
    Folder() {
        std::string pattern = (fs::temp_directory_path() / "punchbit-killed-XXXXXX").string();
        path = ::mkdtemp(pattern.data());
    }
    ~Folder() { fs::remove_all(path); }
};

/// Lets a child do `work` for ever and kills it after a while.
template <class Work>
void killWhile(Work work, std::mt19937& random) {
    const pid_t child = ::fork();
    ASSERT_GE(child, 0);
    if (child == 0) {
        for (int k = 0;; ++k) work(k);
    }
    ::usleep(2000 + static_cast<useconds_t>(random() % 20000));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    ASSERT_TRUE(WIFSIGNALED(status)) << "it was killed at work";
}

TEST(Killed, WhileSavingThePartIsTheOldOrTheNewOne) {
    const Folder folder;
    const fs::path file = folder.path / "part.punch";
    Part a = test::demoPart(), b = withSpot(test::demoPart());
    ASSERT_TRUE(savePart(a, file));
    std::mt19937 random(3);
    for (int round = 0; round < 25; ++round) {
        killWhile([&](int k) { (void)savePart(k % 2 == 0 ? a : b, file); }, random);
        const auto now = loadPart(file);
        ASSERT_TRUE(now) << now.error().text();
        EXPECT_TRUE(*now == a || *now == b);
    }
}

TEST(Killed, WhileExportingTheFilesBelongTogetherOrANoteSaysSo) {
    const Folder folder;
    const auto set = [](int k) {
        std::vector<NamedContent> files;
        for (int i = 0; i < 8; ++i)
            files.push_back({"file" + std::to_string(i), std::string(2000, char('a' + k % 26))});
        return files;
    };
    ASSERT_TRUE(writeAllAtomically(folder.path, set(0)));
    EXPECT_FALSE(fs::exists(folder.path / kUnfinished)) << "finished";
    std::mt19937 random(5);
    int notes = 0;
    for (int round = 0; round < 40; ++round) {
        killWhile([&](int k) { (void)writeAllAtomically(folder.path, set(k)); }, random);
        const bool note = fs::exists(folder.path / kUnfinished);
        notes += note ? 1 : 0;
        std::set<std::string> contents;
        for (const NamedContent& file : set(0)) {
            const std::string now = *readWhole(folder.path / file.name);
            ASSERT_EQ(now.size(), 2000U) << "a file is whole";
            contents.insert(now);
        }
        EXPECT_TRUE(contents.size() == 1 || note) << "a mixture without a word";
    }
    // Writing them again takes the note away, and what the killed ones left.
    ASSERT_TRUE(writeAllAtomically(folder.path, set(1)));
    EXPECT_EQ(std::distance(fs::directory_iterator(folder.path), fs::directory_iterator()), 8);
    RecordProperty("notes", notes);
}

}  // namespace
}  // namespace punch::killed_test
