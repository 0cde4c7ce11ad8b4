#include "core/family/family.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <set>

#include "core/base/find_in.h"
#include "core/family/more_ways.h"
#include "core/part/edit.h"
#include "core/part/formation_kinds.h"

namespace punch {
namespace {

std::string replaced(std::string text, const std::string& word, const std::string& by) {
    for (std::size_t at = 0; (at = text.find(word, at)) != std::string::npos; at += by.size())
        text.replace(at, word.size(), by);
    return text;
}

std::string named(const std::string& rule, const FamilyMember& m) {
    return replaced(replaced(rule, "{ways}", std::to_string(m.ways)), "{column}", m.column);
}

/// The first whole number in a column's name: "8 way" has 8.
int waysIn(const std::string& column) {
    const auto digit = std::find_if(column.begin(), column.end(), [](unsigned char c) { return std::isdigit(c) != 0; });
    int ways = 0;
    for (auto it = digit; it != column.end() && std::isdigit(static_cast<unsigned char>(*it)) != 0 && ways < 10000; ++it)
        ways = 10 * ways + (*it - '0');
    return ways;
}

}  // namespace

std::vector<FamilyMember> familyMembers(const Part& part) {
    const Family& family = part.family;
    std::vector<FamilyMember> members;
    if (family.names.empty()) return members;
    const Formation* varies = varyingFormation(part);
    const int measured = varies != nullptr ? static_cast<int>(varies->pins.size()) : 0;
    if (family.columns) {
        for (const std::string& column : part.letters.variants) {
            FamilyMember m;
            m.column = column;
            const auto said = family.ways.find(column);
            m.ways = said != family.ways.end() ? said->second : waysIn(column);
            if (m.ways <= 0) m.ways = measured;
            m.name = named(family.names, m);
            members.push_back(std::move(m));
        }
    } else {
        for (int ways = family.from; ways <= family.to && members.size() < kMostMembers; ways += std::max(family.step, 1)) {
            FamilyMember m;
            m.ways = ways;
            m.name = named(family.names, m);
            members.push_back(std::move(m));
        }
    }
    return members;
}

std::vector<std::string> familyTroubles(const Part& part) {
    std::vector<std::string> words;
    if (part.family.names.empty()) return words;
    const auto members = familyMembers(part);
    if (members.empty())
        words.push_back(part.family.columns ? "the letter table has no columns: members are taken from these"
                                            : "no member has these ways");
    std::map<std::string, int> count;
    for (const FamilyMember& m : members) ++count[m.name];
    for (const auto& [name, n] : count)
        if (n > 1)
            words.push_back(fmt::format("{} members are called “{}”: put {} into the rule of names", n, name,
                                        part.family.columns ? "{column}" : "{ways}"));
    if (const auto refused = cannotVary(part)) words.push_back(*refused);
    if (!part.family.columns && members.size() == kMostMembers)
        words.push_back(fmt::format("only the first {} members are made", kMostMembers));
    return words;
}

Result<MemberPart> asMember(const Part& part, const FamilyMember& member) {
    const Formation* varies = varyingFormation(part);
    MemberPart made{part, {}};
    Part& p = made.part;
    p.family = {};
    p.approval = {};  // was given to the sample
    p.name = member.name;
    p.description = replaced(replaced(part.description, "{ways}", std::to_string(member.ways)), "{column}", member.column);
    p.value = replaced(replaced(part.value, "{ways}", std::to_string(member.ways)), "{column}", member.column);
    if (!member.column.empty()) {
        if (std::find(p.letters.variants.begin(), p.letters.variants.end(), member.column) == p.letters.variants.end())
            return problem("the letter table has no column “" + member.column + "”", member.name, "Choose another");
        p.letters.variant = member.column;
    }
    if (member.ways <= 0 || varies == nullptr || member.ways == static_cast<int>(varies->pins.size())) return made;
    if (const auto refused = cannotVary(part))
        return problem(*refused, part.name, "Choose a formation in rows, numbered by a rule");
    if (member.ways > kMostPins)
        return problem(fmt::format("{} pins are more than Punchbit places ({})", member.ways, kMostPins), member.name,
                       "Choose fewer");
    if (const auto done = giveWays(part, member.ways, !member.column.empty(), made); !done)
        return tl::make_unexpected(done.error());
    return made;
}

Result<MemberPart> memberNamed(const Part& part, const std::string& name) {
    std::string known;
    for (const FamilyMember& m : familyMembers(part)) {
        if (m.name == name) return asMember(part, m);
        known += (known.empty() ? "" : ", ") + m.name;
    }
    return problem("there is no member “" + name + "”", part.name,
                   known.empty() ? "It has no family" : "It has " + known);
}

}  // namespace punch
