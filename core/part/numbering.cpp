#include "core/part/numbering.h"
#include "core/part/formation_kinds.h"

#include <algorithm>
#include <cctype>
#include <set>
#include <string_view>

#include "core/part/slots.h"

namespace punch {
namespace {

constexpr std::string_view kRowLetters = "ABCDEFGHJKLMNPRTUVWY";

std::string numberText(const Formation& f, int value) { return f.numbers.prefix + std::to_string(value); }

}  // namespace

std::string rowLetter(int row) {
    const int n = static_cast<int>(kRowLetters.size());
    std::string letters(1, kRowLetters[static_cast<std::size_t>(row % n)]);
    for (row = row / n; row > 0; row = (row - 1) / n)
        letters.insert(letters.begin(), kRowLetters[static_cast<std::size_t>((row - 1) % n)]);
    return letters;
}

std::vector<FeatureId> numberedOrder(const Part& part, const Formation& f) {
    const auto slots = slotsOf(part, f);
    const Numbering& n = f.numbers;
    std::vector<std::size_t> order(f.pins.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    const Formation& shape = shapeOf(part, f);
    int rows = 1;
    for (const Slot& s : slots) rows = std::max(rows, s.row + 1);
    const auto row = [&](std::size_t i) { return n.fromFront ? slots[i].row : rows - 1 - slots[i].row; };
    // Position along the row, in the direction that the numbers start with.
    const auto along = [&](std::size_t i) { return n.fromLeft ? slots[i].place : -slots[i].place; };
    if (traitsOf(shape).around) {
        // Against the ring's direction the start keeps the first number and the middle pin the last.
        if (!n.fromLeft && order.size() > 1)
            std::reverse(order.begin() + 1, shape.middle ? order.end() - 1 : order.end());
    } else {
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            switch (n.order) {
                case NumberOrder::ZigZag:
                case NumberOrder::ByColumn: {
                    // A zigzag goes by the count in the row, columns by the place along it.
                    const double pa = n.order == NumberOrder::ZigZag ? slots[a].index(n.fromLeft) : along(a);
                    const double pb = n.order == NumberOrder::ZigZag ? slots[b].index(n.fromLeft) : along(b);
                    return pa != pb ? pa < pb : row(a) < row(b);
                }
                case NumberOrder::Around: {
                    if (row(a) != row(b)) return row(a) < row(b);
                    return row(a) % 2 == 0 ? along(a) < along(b) : along(a) > along(b);
                }
                case NumberOrder::RowByRow:
                case NumberOrder::Clicked: break;
            }
            return row(a) != row(b) ? row(a) < row(b) : along(a) < along(b);
        });
    }
    std::vector<FeatureId> ids;
    std::set<FeatureId> placed;
    const auto put = [&](const FeatureId& id) {
        if (placed.insert(id).second) ids.push_back(id);
    };
    if (n.order == NumberOrder::Clicked) {
        const std::set<FeatureId> own(f.pins.begin(), f.pins.end());
        for (const FeatureId& id : n.clicked)
            if (own.contains(id)) put(id);
    }
    for (const std::size_t i : order) put(f.pins[i]);
    return ids;
}

std::map<FeatureId, std::string> pinNumbers(const Part& part) {
    std::map<FeatureId, std::string> numbers;
    for (const Formation& f : part.formations) {
        const Numbering& n = f.numbers;
        if (n.rowLetters) {
            // The column counts along the row from the side where numbers start; left-out positions keep theirs.
            const auto slots = slotsOf(part, f);
            int rows = 1;
            for (const Slot& s : slots) rows = std::max(rows, s.row + 1);
            for (std::size_t i = 0; i < f.pins.size(); ++i) {
                const Slot& s = slots[i];
                const int row = n.fromFront ? s.row : rows - 1 - s.row;
                numbers[f.pins[i]] = n.prefix + rowLetter(row) + std::to_string(n.start + n.step * s.index(n.fromLeft));
            }
        } else {
            int value = n.start;
            for (const FeatureId& id : numberedOrder(part, f)) {
                numbers[id] = numberText(f, value);
                value += n.step;
            }
        }
        for (const auto& [id, number] : n.own)
            if (const auto it = numbers.find(id); it != numbers.end()) it->second = number;
    }
    return numbers;
}

std::string pinNumber(const Part& part, const FeatureId& pin) {
    const auto numbers = pinNumbers(part);
    const auto it = numbers.find(pin);
    return it == numbers.end() ? std::string() : it->second;
}

FeatureId pinByNumber(const Part& part, const std::string& number) {
    const auto numbers = pinNumbers(part);
    for (const Formation& f : part.formations)
        for (const FeatureId& id : f.pins)
            if (numbers.at(id) == number) return id;
    return {};
}

FeatureId firstPin(const Part& part) {
    FeatureId first;
    std::string least;
    for (const auto& [id, number] : pinNumbers(part))
        if (first.empty() || numberLess(number, least)) {
            first = id;
            least = number;
        }
    return first;
}

bool numberLess(const std::string& a, const std::string& b) {
    const auto digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
    std::size_t i = 0;
    std::size_t k = 0;
    while (i < a.size() && k < b.size()) {
        if (digit(a[i]) && digit(b[k])) {
            std::size_t ie = i;
            std::size_t ke = k;
            while (i < a.size() && a[i] == '0') ++i;
            while (k < b.size() && b[k] == '0') ++k;
            ie = i;
            ke = k;
            while (ie < a.size() && digit(a[ie])) ++ie;
            while (ke < b.size() && digit(b[ke])) ++ke;
            if (ie - i != ke - k) return ie - i < ke - k;
            if (const int c = a.compare(i, ie - i, b, k, ke - k); c != 0) return c < 0;
            i = ie;
            k = ke;
        } else {
            if (a[i] != b[k]) return a[i] < b[k];
            ++i;
            ++k;
        }
    }
    return a.size() - i < b.size() - k;
}

std::vector<std::string> doubledNumbers(const Part& part) {
    std::map<std::string, int> seen;
    const auto numbers = pinNumbers(part);
    for (const Formation& f : part.formations)
        for (const FeatureId& id : f.pins) seen[numbers.at(id)] += f.numbers.shared ? 0 : 1;
    std::vector<std::string> doubled;
    for (const auto& [number, count] : seen)
        if (count > 1) doubled.push_back(number);
    std::sort(doubled.begin(), doubled.end(), numberLess);
    return doubled;
}

}  // namespace punch
