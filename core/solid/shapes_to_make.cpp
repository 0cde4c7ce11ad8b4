#include "core/solid/shapes_to_make.h"

namespace punch {

FlatArea flatRectangle(double left, double bottom, double right, double top) {
    return {{{left, bottom, 0}, {right, bottom, 0}, {right, top, 0}, {left, top, 0}}, {}};
}

FlatArea flatCircle(double x, double y, double diameter) {
    return {{{x - diameter / 2, y, 1}, {x + diameter / 2, y, 1}}, {}};
}

namespace {

void put(Packed& to, const Prism& p) {
    to.put(p.outline.outer);
    to.put(p.outline.holes.size());
    for (const auto& hole : p.outline.holes) to.put(hole);
    to.put(p.low);
    to.put(p.high);
}
void put(Packed& to, const Tapered& t) {
    to.put(t.below);
    to.put(t.above);
    to.put(t.low);
    to.put(t.high);
}
void put(Packed& to, const TurnedProfile& t) { to.put(t.profile); }
void put(Packed& to, const Ball& b) { to.put(b); }
void put(Packed& to, const Swept& s) {
    to.put(s.way);
    for (const double d : {s.bend, s.across, s.thick}) to.put(d);
    to.put(s.round);
}
void put(Packed& to, const FromFile& f) { to.put(f.path); }

void get(Packed& from, Prism& p) {
    from.get(p.outline.outer);
    std::size_t holes = 0;
    from.get(holes);
    p.outline.holes.clear();
    for (std::size_t i = 0; i < holes; ++i) from.get(p.outline.holes.emplace_back());
    from.get(p.low);
    from.get(p.high);
}
void get(Packed& from, Tapered& t) {
    from.get(t.below);
    from.get(t.above);
    from.get(t.low);
    from.get(t.high);
}
void get(Packed& from, TurnedProfile& t) { from.get(t.profile); }
void get(Packed& from, Ball& b) { from.get(b); }
void get(Packed& from, Swept& s) {
    from.get(s.way);
    for (double* d : {&s.bend, &s.across, &s.thick}) from.get(*d);
    from.get(s.round);
}
void get(Packed& from, FromFile& f) { from.get(f.path); }

template <std::size_t i = 0, class V>
void getForm(Packed& from, V& form, std::size_t which) {
    if constexpr (i < std::variant_size_v<V>) {
        if (which == i)
            get(from, form.template emplace<i>());
        else
            getForm<i + 1>(from, form, which);
    }
}

}  // namespace

void pack(Packed& to, const SolidsToMake& all) {
    to.put(all.bodies.size());
    for (const MadeBody& b : all.bodies) {
        to.put(b.name);
        to.put(b.colour);
        to.put(b.form.index());
        std::visit([&](const auto& form) { put(to, form); }, b.form);
        to.put(b.pose);
        for (const auto* simples : {&b.cut, &b.join}) {
            to.put(simples->size());
            for (const Simple& s : *simples) {
                to.put(s.form.index());
                std::visit([&](const auto& form) { put(to, form); }, s.form);
                to.put(s.pose);
            }
        }
        to.put(b.look);
    }
    to.put(all.name);
    to.put(all.inches);
    to.put(all.schema);
    to.put(all.pose);
}

void unpack(Packed& from, SolidsToMake& all) {
    std::size_t bodies = 0;
    from.get(bodies);
    all.bodies.clear();
    for (std::size_t i = 0; i < bodies; ++i) {
        MadeBody& b = all.bodies.emplace_back();
        from.get(b.name);
        from.get(b.colour);
        std::size_t which = 0;
        from.get(which);
        getForm(from, b.form, which);
        from.get(b.pose);
        for (auto* simples : {&b.cut, &b.join}) {
            std::size_t count = 0;
            from.get(count);
            for (std::size_t k = 0; k < count; ++k) {
                Simple& s = simples->emplace_back();
                from.get(which);
                getForm(from, s.form, which);
                from.get(s.pose);
            }
        }
        from.get(b.look);
    }
    from.get(all.name);
    from.get(all.inches);
    from.get(all.schema);
    from.get(all.pose);
}

}  // namespace punch
