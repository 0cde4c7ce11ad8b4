#include "core/part/slots.h"

#include "core/part/formation_kinds.h"

#include <algorithm>

namespace punch {

const Formation& shapeOf(const Part& part, const Formation& f) {
    const Formation* shape = &f;
    for (std::size_t guard = 0; traitsOf(*shape).mirrors && guard < part.formations.size(); ++guard) {
        const Formation* next = formationById(part, shape->twinOf);
        if (next == nullptr) return f;
        shape = next;
    }
    return *shape;
}

std::vector<Slot> slotsOf(const Part& part, const Formation& formation) {
    const Formation& f = shapeOf(part, formation);
    const std::size_t count = formation.pins.size();
    std::vector<Slot> slots;
    slots.reserve(count);
    const FormationTraits& traits = traitsOf(f);
    if (traits.grid) {
        const int columns = f.rows.empty() ? 1 : f.rows.front();
        for (int position = 0; position < columns * static_cast<int>(f.rows.size()); ++position)
            if (std::find(f.leftOut.begin(), f.leftOut.end(), position) == f.leftOut.end())
                slots.push_back(
                    {position / columns, position % columns, columns, static_cast<double>(position % columns)});
    } else if (traits.rows) {
        for (std::size_t row = 0; row < f.rows.size(); ++row)
            for (int c = 0; c < f.rows[row]; ++c) {
                const double shift = traits.staggers && row % 2 == 1 ? 0.5 : 0.0;
                slots.push_back({static_cast<int>(row), c, f.rows[row], c + shift});
            }
    } else if (traits.around) {
        const int around = static_cast<int>(count) - (f.middle ? 1 : 0);
        for (int i = 0; i < around; ++i) slots.push_back({0, i, around, static_cast<double>(i)});
        if (f.middle) slots.push_back({-1, 0, 1, 0.0});
    } else {
        for (std::size_t i = 0; i < count; ++i)
            slots.push_back({0, static_cast<int>(i), static_cast<int>(count), static_cast<double>(i)});
    }
    // A description that does not match the pins (a file edited by hand) is met at the end of the last row.
    while (slots.size() < count) {
        Slot s = slots.empty() ? Slot{} : slots.back();
        ++s.column;
        s.place += 1;
        slots.push_back(s);
    }
    slots.resize(count);
    return slots;
}

std::size_t slotCount(const Part& part, const Formation& formation) {
    const Formation& f = shapeOf(part, formation);
    std::size_t total = 0;
    for (const int n : f.rows) total += static_cast<std::size_t>(std::max(n, 0));
    const FormationTraits& traits = traitsOf(f);
    if (traits.grid) return total - std::min(total, f.leftOut.size());
    if (traits.rows) return total;
    return traits.count == PinCount::None && !traits.mirrors ? 1 : f.pins.size();
}

}  // namespace punch
