#pragma once
// Everything that reads bytes of strangers, one target each. libFuzzer drives them (./dev fuzz), and the corpus under
// fuzz/corpus/NAME runs through them as ordinary tests. A target must come back from any bytes: an error is an answer.

#include <string_view>
#include <vector>

namespace punch::fuzz {

struct Target {
    const char* name;  ///< of its folder under fuzz/corpus
    void (*run)(std::string_view bytes);
};

const std::vector<Target>& targets();
/// Null for an unknown name.
const Target* targetByName(std::string_view name);

}  // namespace punch::fuzz
