#include "core/pins/pin_checks.h"

#include <algorithm>
#include <cctype>
#include <set>

namespace punch {
namespace {

std::vector<std::string> numbersOf(const Pin& pin) {
    return pin.pads.empty() ? std::vector<std::string>{pin.number} : pin.pads;
}

std::string listed(const std::vector<std::string>& all) {
    std::string out;
    for (std::size_t i = 0; i < all.size() && i < 6; ++i) out += (out.empty() ? "" : ", ") + all[i];
    return all.size() > 6 ? out + ", …" : out;
}

/// May several pins have this name?
bool mayShare(PinKind kind) {
    return kind == PinKind::Supply || kind == PinKind::Return || kind == PinKind::NotConnected;
}

/// Names that supplies have, whatever stands behind them.
std::optional<PinKind> supplyByName(const std::string& name) {
    std::string n;
    for (const char c : name) n += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    for (const char* word : {"GND", "AGND", "DGND", "PGND", "VSS", "0V", "COM0V", "VEE"})
        if (n == word) return PinKind::Return;
    for (const char* word :
         {"VCC", "VDD", "AVDD", "DVDD", "VBAT", "V+", "VIN", "5V", "+5V", "3V3", "+3V3", "12V", "+12V", "24V", "+24V"})
        if (n == word) return PinKind::Supply;
    return {};
}

}  // namespace

Joints jointsOf(const std::vector<Pin>& pins, const std::vector<Pad>& pads) {
    Joints j;
    j.pads.resize(pins.size());
    std::multimap<std::string, FeatureId> byNumber;
    for (const Pad& p : pads) byNumber.emplace(p.number, p.id);
    std::set<FeatureId> taken;
    for (std::size_t i = 0; i < pins.size(); ++i)
        for (const std::string& number : numbersOf(pins[i])) {
            const auto [from, to] = byNumber.equal_range(number);
            for (auto it = from; it != to; ++it) {
                j.pads[i].push_back(it->second);
                taken.insert(it->second);
            }
        }
    for (const Pad& p : pads)
        if (!taken.contains(p.id)) j.alone.push_back(p.id);
    return j;
}

std::vector<PinTrouble> pinTroubles(const std::vector<Pin>& pins, const std::vector<Pad>& pads) {
    std::vector<PinTrouble> wrong, doubtful;
    if (pins.empty()) return {};
    const auto about = [](const Pin& p) { return "pin " + p.number; };
    std::map<std::string, std::vector<std::size_t>> byNumber, byName, byPad;
    for (std::size_t i = 0; i < pins.size(); ++i) {
        byNumber[pins[i].number].push_back(i);
        for (const std::string& n : numbersOf(pins[i])) byPad[n].push_back(i);
        for (const std::string& n : pins[i].names)
            if (!mayShare(pins[i].kind)) byName[n].push_back(i);
    }
    using W = PinTrouble::Weight;
    std::set<std::string> known;
    for (const Pad& p : pads) known.insert(p.number);
    for (const auto& [number, who] : byNumber)
        if (who.size() > 1)
            wrong.push_back({W::Wrong, "pin " + number + " is there " + std::to_string(who.size()) + " times", who});
    for (std::size_t i = 0; i < pins.size(); ++i)
        for (const std::string& n : numbersOf(pins[i]))
            if (n.empty())
                wrong.push_back({W::Wrong, about(pins[i]) + ": joined to no pad", {i}});
            else if (!known.contains(n))
                wrong.push_back(
                    {W::Wrong,
                     about(pins[i]) + (n == pins[i].number ? ": no pad has this number" : ": there is no pad " + n),
                     {i}});
    for (const auto& [pad, who] : byPad)
        if (who.size() > 1 && byNumber[pad].size() < 2 && known.contains(pad))
            wrong.push_back({W::Wrong, "pad " + pad + " is joined to pins " + listed([&] {
                                           std::vector<std::string> numbers;
                                           for (const std::size_t i : who) numbers.push_back(pins[i].number);
                                           return numbers;
                                       }()),
                             who});
    const Joints joints = jointsOf(pins, pads);
    if (!joints.alone.empty()) {
        std::vector<std::string> numbers;
        for (const Pad& p : pads)
            if (std::find(joints.alone.begin(), joints.alone.end(), p.id) != joints.alone.end())
                numbers.push_back(p.number);
        wrong.push_back({W::Wrong,
                         (numbers.size() == 1 ? "pad " : "pads ") + listed(numbers) +
                             (numbers.size() == 1 ? " has no pin" : " have no pin"),
                         {},
                         joints.alone});
    }
    for (const auto& [name, who] : byName)
        if (who.size() > 1)
            doubtful.push_back(
                {W::Doubtful, "the name " + name + " is there " + std::to_string(who.size()) + " times", who});
    bool supply = false, back = false;
    std::vector<std::size_t> unsaid, unnamed;
    for (std::size_t i = 0; i < pins.size(); ++i) {
        const Pin& p = pins[i];
        supply = supply || p.kind == PinKind::Supply;
        back = back || p.kind == PinKind::Return;
        if (p.kind == PinKind::NotSaid) unsaid.push_back(i);
        if (p.names.empty() && p.kind != PinKind::NotConnected && p.kind != PinKind::Passive) unnamed.push_back(i);
        for (const std::string& n : p.names)
            if (const auto is = supplyByName(n); is && p.kind != PinKind::NotSaid && p.kind != *is &&
                                                 !(mayShare(p.kind) && p.kind != PinKind::NotConnected)) {
                doubtful.push_back(
                    {W::Doubtful,
                     about(p) + " is called " + n + " and is no " + (*is == PinKind::Supply ? "supply" : "return"),
                     {i}});
                break;
            }
    }
    if (supply && !back) doubtful.push_back({W::Doubtful, "there is a supply and no return", {}});
    if (back && !supply) doubtful.push_back({W::Doubtful, "there is a return and no supply", {}});
    const auto some = [&](const std::vector<std::size_t>& who, const char* one, const char* many) {
        if (who.empty()) return;
        std::vector<std::string> numbers;
        for (const std::size_t i : who) numbers.push_back(pins[i].number);
        doubtful.push_back({W::Doubtful,
                            (who.size() == 1 ? "pin " : "pins ") + listed(numbers) + (who.size() == 1 ? one : many),
                            who});
    };
    some(unnamed, " has no name", " have no name");
    some(unsaid, ": its kind is not said", ": their kinds are not said");
    wrong.insert(wrong.end(), doubtful.begin(), doubtful.end());
    return wrong;
}

std::vector<Pin> joinedTo(std::vector<Pin> pins, std::size_t pin, const std::string& pad) {
    if (pin >= pins.size()) return pins;
    for (std::size_t i = 0; i < pins.size(); ++i) {
        Pin& p = pins[i];
        std::vector<std::string> numbers = numbersOf(p);
        if (i == pin) {
            if (std::find(numbers.begin(), numbers.end(), pad) == numbers.end()) numbers.push_back(pad);
        } else if (std::erase(numbers, pad) == 0)
            continue;
        if (numbers.empty()) numbers.push_back({});  // joined to none, not to that of its number again
        if (i == pin) std::erase(numbers, std::string());
        p.pads = numbers == std::vector<std::string>{p.number} ? std::vector<std::string>{} : numbers;
    }
    return pins;
}

std::vector<Pin> withMissingPins(std::vector<Pin> pins, const std::vector<Pad>& pads) {
    const Joints joints = jointsOf(pins, pads);
    std::set<std::string> made;
    for (const Pad& p : pads)
        if (std::find(joints.alone.begin(), joints.alone.end(), p.id) != joints.alone.end() &&
            made.insert(p.number).second) {
            Pin pin;
            pin.number = p.number;
            pins.push_back(std::move(pin));
        }
    return pins;
}

}  // namespace punch
