#include "core/pins/bench_notes.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <set>
#include <sstream>

namespace punch {
namespace {

using Pair = std::pair<std::string, std::string>;
Pair pairOf(const std::string& a, const std::string& b) { return a < b ? Pair(a, b) : Pair(b, a); }

constexpr double kOpen = 1e12;

/// All notes of one position; those of any position stand in each.
using Resistances = std::map<Pair, double>;

bool same(double a, double b) { return std::abs(a - b) <= std::max(kMeterOhms, kTrackShare * std::max(a, b)); }

struct Notes {
    std::vector<std::string> pins, positions;
    std::vector<Resistances> at;  ///< by position
    std::optional<double> between(std::size_t position, const std::string& a, const std::string& b) const {
        const auto it = at[position].find(pairOf(a, b));
        return it == at[position].end() ? std::nullopt : std::optional(it->second);
    }
};

Notes sorted(const std::vector<BenchNote>& notes) {
    Notes n;
    const auto once = [](std::vector<std::string>& all, const std::string& s) {
        if (std::find(all.begin(), all.end(), s) == all.end()) all.push_back(s);
    };
    for (const BenchNote& note : notes) {
        once(n.pins, note.a);
        once(n.pins, note.b);
        if (!note.position.empty()) once(n.positions, note.position);
    }
    if (n.positions.empty()) n.positions.push_back("");
    n.at.resize(n.positions.size());
    // What was read in a position counts there before what is said of all.
    for (const bool own : {false, true})
        for (const BenchNote& note : notes)
            for (std::size_t i = 0; i < n.positions.size(); ++i)
                if (own ? note.position == n.positions[i] : note.position.empty())
                    n.at[i][pairOf(note.a, note.b)] = note.ohms.value_or(kOpen);
    return n;
}

std::string inPosition(const std::string& position) { return position.empty() ? "" : " " + position; }

/// Three pins of a track: which is the wiper.
struct Track {
    std::string ends[2], wiper;
    friend bool operator==(const Track&, const Track&) = default;
};

/// Of three pins whose resistances to each other are known in a position: every way to see a track in them.
std::vector<Track> tracks(const Notes& n, std::size_t at, const std::vector<std::string>& three) {
    std::vector<Track> all;
    for (std::size_t w = 0; w < 3; ++w) {
        const std::string &a = three[(w + 1) % 3], &b = three[(w + 2) % 3], &wiper = three[w];
        const auto whole = n.between(at, a, b), left = n.between(at, a, wiper), right = n.between(at, wiper, b);
        if (!whole || !left || !right || *whole >= kOpen || *left >= kOpen || *right >= kOpen || *whole < kJoinedOhms)
            continue;
        if (same(*left + *right, *whole)) all.push_back({{std::min(a, b), std::max(a, b)}, wiper});
    }
    return all;
}

}  // namespace

const char* roleWords(PinRole role) {
    switch (role) {
        case PinRole::Common: return "common";
        case PinRole::Contact: return "contact";
        case PinRole::End: return "end of the track";
        case PinRole::Wiper: return "wiper";
        case PinRole::Coil: return "coil";
        case PinRole::Joined: return "joined";
        case PinRole::Free: break;
    }
    return "free";
}

Result<BenchNote> benchNoteFromText(std::string_view typed) {
    std::istringstream in{std::string(typed)};
    BenchNote n;
    std::string value;
    if (!(in >> n.a >> n.b) || n.a == n.b)
        return problem("a note is between two pins", std::string(typed),
                       "Type both, the value, and the position: 1 2 10k fully left");
    if (!(in >> value))
        return problem("it has no value", std::string(typed), "Type ohms, “open” or “beep” after the pins");
    std::string low;
    for (const char c : value) low += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (low == "open" || low == "ol" || low == "∞")
        n.ohms.reset();
    else if (low == "beep" || low == "joined" || low == "short")
        n.ohms = 0;
    else {
        double v = 0;
        const auto [end, error] = std::from_chars(value.data(), value.data() + value.size(), v);
        std::string unit = value.substr(static_cast<std::size_t>(end - value.data()));
        if (error != std::errc() || !(v >= 0))
            return problem("“" + value + "” is no resistance", std::string(typed), "Type ohms, “open” or “beep”");
        for (const char* word : {"ohms", "ohm", "Ω", "Ω"})
            if (unit.ends_with(word)) unit.resize(unit.size() - std::string_view(word).size());
        // 4k7 is 4.7 k.
        double factor = 1;
        if (!unit.empty()) {
            const char u = unit[0];
            factor = u == 'k' || u == 'K' ? 1e3 : u == 'M' ? 1e6 : u == 'm' ? 1e-3 : u == 'R' || u == 'r' ? 1 : 0;
            double after = 0;
            const std::string rest = unit.substr(1);
            if (!rest.empty()) {
                const auto [last, wrong] = std::from_chars(rest.data(), rest.data() + rest.size(), after);
                if (wrong != std::errc() || last != rest.data() + rest.size() || rest.find('.') != std::string::npos)
                    factor = 0;
                v += after / std::pow(10, static_cast<double>(rest.size()));
            }
            if (factor == 0)
                return problem("“" + value + "” is no resistance", std::string(typed),
                               "Type ohms, such as 220, 4.7k or 1M");
        }
        n.ohms = v * factor;
    }
    std::string word;
    while (in >> word) n.position += (n.position.empty() ? "" : " ") + word;
    return n;
}

std::string benchNoteWords(const BenchNote& n) {
    const std::string value = !n.ohms          ? "open"
                              : *n.ohms >= 1e6 ? fmt::format("{:g} MΩ", *n.ohms / 1e6)
                              : *n.ohms >= 1e3 ? fmt::format("{:g} kΩ", *n.ohms / 1e3)
                                               : fmt::format("{:g} Ω", *n.ohms);
    return n.a + " to " + n.b + ": " + value + (n.position.empty() ? "" : ", " + n.position);
}

RoleProposal proposedRoles(const std::vector<BenchNote>& notes) {
    RoleProposal out;
    if (notes.empty()) return out;
    const Notes n = sorted(notes);
    std::map<std::string, ProposedRole> roles;
    std::set<std::string> seen;  // pins that something was said of
    const auto say = [&](const std::string& pin, PinRole role, const std::string& words) {
        if (seen.insert(pin).second) roles[pin] = {pin, role, words};
    };
    // Tracks: three pins with resistances between all of them.
    for (std::size_t i = 0; i < n.pins.size(); ++i)
        for (std::size_t k = i + 1; k < n.pins.size(); ++k)
            for (std::size_t m = k + 1; m < n.pins.size(); ++m) {
                const std::vector<std::string> three = {n.pins[i], n.pins[k], n.pins[m]};
                // Every position has to agree, and the whole track stays what it is.
                std::vector<Track> common;
                bool any = false;
                for (std::size_t at = 0; at < n.positions.size(); ++at) {
                    bool whole = true;
                    for (const auto& [a, b] : {std::pair(0, 1), std::pair(1, 2), std::pair(0, 2)}) {
                        const auto r =
                            n.between(at, three[static_cast<std::size_t>(a)], three[static_cast<std::size_t>(b)]);
                        whole = whole && r && *r < kOpen;
                    }
                    if (!whole) continue;
                    const std::vector<Track> now = tracks(n, at, three);
                    if (!any)
                        common = now;
                    else
                        std::erase_if(
                            common, [&](const Track& t) { return std::find(now.begin(), now.end(), t) == now.end(); });
                    any = true;
                }
                if (any)
                    std::erase_if(common, [&](const Track& t) {
                        std::optional<double> first;
                        for (std::size_t at = 0; at < n.positions.size(); ++at)
                            if (const auto r = n.between(at, t.ends[0], t.ends[1])) {
                                if (first && !same(*first, *r)) return true;
                                first = first.value_or(*r);
                            }
                        return false;
                    });
                if (!any || common.empty()) continue;
                if (common.size() == 1) {
                    say(common[0].ends[0], PinRole::End, "end of the track, to " + common[0].ends[1]);
                    say(common[0].ends[1], PinRole::End, "end of the track, to " + common[0].ends[0]);
                    say(common[0].wiper, PinRole::Wiper,
                        "wiper between " + common[0].ends[0] + " and " + common[0].ends[1]);
                } else {
                    out.open.push_back("pins " + three[0] + ", " + three[1] + " and " + three[2] +
                                       " are a track; which is its wiper is not decided: it stands at an end");
                    for (const std::string& pin : three) seen.insert(pin);
                    out.measure.push_back(three[0] + " to " + three[1] + ", " + three[1] + " to " + three[2] + ", " +
                                          three[0] + " to " + three[2] + " in another position");
                }
            }
    // Contacts: what is joined in some positions and not in others.
    std::map<std::string, std::map<std::string, std::vector<std::size_t>>> to;  // pin -> other -> positions
    std::map<Pair, int> joinedIn, knownIn;
    for (std::size_t at = 0; at < n.positions.size(); ++at)
        for (const auto& [pair, ohms] : n.at[at]) {
            ++knownIn[pair];
            if (ohms >= kJoinedOhms) continue;
            ++joinedIn[pair];
            to[pair.first][pair.second].push_back(at);
            to[pair.second][pair.first].push_back(at);
        }
    const int positions = static_cast<int>(n.positions.size());
    for (const auto& [pair, count] : joinedIn)
        if (positions > 1 && count == positions && knownIn[pair] == positions && !seen.contains(pair.first) &&
            !seen.contains(pair.second)) {
            say(pair.first, PinRole::Joined, "always joined to " + pair.second);
            say(pair.second, PinRole::Joined, "always joined to " + pair.first);
        }
    std::set<std::string> commons;
    for (const auto& [pin, others] : to) {
        if (seen.contains(pin)) continue;
        // Joined to two that are never joined at once: what they have in common.
        std::vector<std::string> switched;
        for (const auto& [other, when] : others)
            if (!seen.contains(other) && static_cast<int>(when.size()) < positions) switched.push_back(other);
        bool apart = switched.size() >= 2;
        for (std::size_t i = 0; i < switched.size() && apart; ++i)
            for (std::size_t k = i + 1; k < switched.size() && apart; ++k)
                for (const std::size_t at : others.at(switched[i]))
                    if (std::find(others.at(switched[k]).begin(), others.at(switched[k]).end(), at) !=
                        others.at(switched[k]).end())
                        apart = false;
        if (apart) commons.insert(pin);
    }
    const auto where = [&](const std::vector<std::size_t>& when) {
        std::string words;
        for (const std::size_t at : when) words += (words.empty() ? "" : " and") + inPosition(n.positions[at]);
        return words;
    };
    for (const std::string& pin : commons) {
        std::string words = "common:";
        bool first = true;
        for (const auto& [other, when] : to.at(pin)) {
            words += (first ? " to " : ", to ") + other + where(when);
            first = false;
        }
        say(pin, PinRole::Common, words);
        for (const auto& [other, when] : to.at(pin))
            if (!commons.contains(other)) say(other, PinRole::Contact, "contact of " + pin + where(when));
    }
    // One contact that opens and closes: two pins alike.
    for (const auto& [pair, count] : joinedIn) {
        if (seen.contains(pair.first) || seen.contains(pair.second)) continue;
        if (count < positions && knownIn[pair] == positions) {
            const auto& when = to.at(pair.first).at(pair.second);
            say(pair.first, PinRole::Contact, "contact to " + pair.second + where(when));
            say(pair.second, PinRole::Contact, "contact to " + pair.first + where(when));
        } else {
            out.open.push_back(pair.first + " and " + pair.second + " are joined" +
                               where(to.at(pair.first).at(pair.second)) + "; whether always is not decided");
            seen.insert(pair.first);
            seen.insert(pair.second);
            for (std::size_t at = 0; at < n.positions.size(); ++at)
                if (!n.between(at, pair.first, pair.second))
                    out.measure.push_back(pair.first + " to " + pair.second + "," + inPosition(n.positions[at]));
            if (positions == 1) out.measure.push_back(pair.first + " to " + pair.second + " in another position");
        }
    }
    // A coil: one resistance, whatever the position, and nothing else at its pins.
    std::map<std::string, std::set<std::string>> resistive;
    for (const Resistances& m : n.at)
        for (const auto& [pair, ohms] : m)
            if (ohms >= kJoinedOhms && ohms < kOpen) {
                resistive[pair.first].insert(pair.second);
                resistive[pair.second].insert(pair.first);
            }
    for (const auto& [pin, others] : resistive)
        if (!seen.contains(pin) && others.size() == 1 && resistive[*others.begin()].size() == 1 &&
            !seen.contains(*others.begin())) {
            const std::string other = *others.begin();
            std::optional<double> first;
            bool stays = true;
            for (std::size_t at = 0; at < n.positions.size(); ++at)
                if (const auto r = n.between(at, pin, other)) {
                    stays = stays && (!first || same(*first, *r));
                    first = first.value_or(*r);
                }
            if (!stays) continue;
            say(pin, PinRole::Coil, fmt::format("coil or resistor to {}, {:g} Ω", other, *first));
            say(other, PinRole::Coil, fmt::format("coil or resistor to {}, {:g} Ω", pin, *first));
        }
    // The rest: open against all the others in every position, or not asked yet.
    for (const std::string& pin : n.pins) {
        if (seen.contains(pin)) continue;
        bool all = true;
        std::string missing;
        for (std::size_t at = 0; at < n.positions.size(); ++at)
            for (const std::string& other : n.pins) {
                if (other == pin) continue;
                const auto r = n.between(at, pin, other);
                if (!r && missing.empty())
                    missing = pin + " to " + other + (n.positions[at].empty() ? "" : "," + inPosition(n.positions[at]));
                all = all && r && *r >= kOpen;
            }
        if (all)
            say(pin, PinRole::Free, "open against all others");
        else {
            out.open.push_back("what pin " + pin + " is is not decided");
            if (!missing.empty()) out.measure.push_back(missing);
        }
    }
    for (const std::string& pin : n.pins)
        if (const auto it = roles.find(pin); it != roles.end()) out.roles.push_back(it->second);
    return out;
}

}  // namespace punch
