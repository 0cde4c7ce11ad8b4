// One direction of flow: which folder of core/ may include which stands once, in docs/architecture.md.

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <set>
#include <sstream>

#include "tests/support/parts.h"

namespace punch::folders_test {
namespace {

namespace fs = std::filesystem;

/// The lines "| size | geometry measure part base |" under the heading "Who includes whom".
std::map<std::string, std::set<std::string>> allowed() {
    std::ifstream in(fs::path(test::sourceFolder()) / "docs" / "architecture.md");
    std::map<std::string, std::set<std::string>> all;
    bool here = false;
    for (std::string line; std::getline(in, line);) {
        if (line.starts_with("## ")) here = line == "## Who includes whom";
        if (!here || !line.starts_with("| ") || line.find("folder") != std::string::npos) continue;
        std::istringstream row(line);
        std::string bar, folder, word;
        row >> bar >> folder >> bar;
        while (row >> word && word != "|") all[folder].insert(word);
        all[folder];
    }
    return all;
}

TEST(Folders, IncludeOnlyWhatTheListAllows) {
    const auto list = allowed();
    ASSERT_GE(list.size(), 12U);
    const std::string include = "#include \"core/";
    std::map<std::string, std::set<std::string>> used;
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(test::sourceFolder()) / "core")) {
        if (!entry.is_regular_file()) continue;
        const std::string folder = entry.path().parent_path().filename().string();
        // derive.cpp and footprint.h put the stages together.
        if (folder == "core") continue;
        std::ifstream in(entry.path());
        for (std::string line; std::getline(in, line);) {
            if (!line.starts_with(include)) continue;
            const std::size_t end = line.find('/', include.size());
            if (end == std::string::npos) continue;
            const std::string other = line.substr(include.size(), end - include.size());
            if (other == folder) continue;
            used[folder].insert(other);
            ASSERT_TRUE(list.contains(folder)) << folder << " is not in the list";
            EXPECT_TRUE(list.at(folder).contains(other)) << entry.path().string() << " includes core/" << other;
        }
    }
    for (const auto& [folder, others] : list)
        for (const std::string& other : others)
            EXPECT_TRUE(used[folder].contains(other)) << folder << " → " << other << " is listed and not used";
}

TEST(Folders, StagesTakeOnlyWhatTheyRead) {
    // Footprint is put together of what stages return; none of them may be given one.
    for (const char* stage :
         {"base", "geometry", "part", "model", "measure", "place", "shape", "size", "clear", "dress", "fit"})
        for (const auto& entry : fs::directory_iterator(fs::path(test::sourceFolder()) / "core" / stage)) {
            std::ifstream in(entry.path());
            for (std::string line; std::getline(in, line);)
                EXPECT_TRUE(line.find("#include \"core/footprint.h") == std::string::npos &&
                            line.find("#include \"core/derive.h") == std::string::npos)
                    << entry.path().string() << ": " << line;
        }
}

TEST(Folders, TheListHasNoCircle) {
    auto list = allowed();
    // Again and again the folders that depend on nothing that is left are taken away.
    while (!list.empty()) {
        std::string free;
        for (const auto& [folder, others] : list)
            if (std::none_of(others.begin(), others.end(), [&](const std::string& o) { return list.contains(o); }))
                free = folder;
        ASSERT_FALSE(free.empty()) << "a circle among what is left, beginning with " << list.begin()->first;
        list.erase(free);
    }
}

/// Two types of one name are one to the linker, which takes either's functions for both.
TEST(Folders, EveryTypeHasANameOfItsOwn) {
    std::map<std::string, std::string> seen;
    for (const char* tree : {"core", "app", "cli", "demo/maker", "tests/support", "tests/bench"})
        for (const auto& entry : fs::recursive_directory_iterator(fs::path(test::sourceFolder()) / tree)) {
            if (entry.path().extension() != ".h") continue;
            std::ifstream in(entry.path());
            std::string scope;
            for (std::string line; std::getline(in, line);) {
                std::istringstream words(line);
                std::string first, second, last;
                words >> first >> second;
                if (line.starts_with("namespace ")) scope = second;
                if (!line.starts_with("struct ") && !line.starts_with("class ")) continue;
                for (std::string word; words >> word;) last = word;
                if (last != "{" || second.find('<') != std::string::npos) continue;
                const auto [it, fresh] = seen.emplace(scope + "::" + second, entry.path().string());
                EXPECT_TRUE(fresh) << second << " stands in " << it->second << " and in " << entry.path().string();
            }
        }
    EXPECT_GT(seen.size(), 150U);
}

TEST(Folders, TheSolidKernelIsNamedInOneFolder) {
    for (const char* top : {"core", "app", "cli"})
        for (const auto& entry : fs::recursive_directory_iterator(fs::path(test::sourceFolder()) / top)) {
            if (!entry.is_regular_file() || entry.path().parent_path().filename() == "kernel") continue;
            std::ifstream in(entry.path());
            for (std::string line; std::getline(in, line);)
                EXPECT_FALSE(line.starts_with("#include <") && line.find(".hxx>") != std::string::npos) << entry.path();
        }
}

TEST(Folders, NoInterfaceInTheCore) {
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(test::sourceFolder()) / "core")) {
        if (!entry.is_regular_file()) continue;
        std::ifstream in(entry.path());
        for (std::string line; std::getline(in, line);)
            EXPECT_FALSE((line.starts_with("#include <Q") && line.find(".hxx") == std::string::npos) ||
                         line.find("#include \"app/") != std::string::npos)
                << entry.path().string();
    }
}

}  // namespace
}  // namespace punch::folders_test
