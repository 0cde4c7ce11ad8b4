#include "core/pins/variants.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/base/find_in.h"
#include "core/part/names.h"

namespace punch {
namespace {

std::string named(const Pin& p) { return p.names.empty() ? "no name" : fmt::format("{}", fmt::join(p.names, ", ")); }

}  // namespace

const Variant* variantOf(const Part& part, const std::string& name) {
    return findIn(part.variants, [&](const Variant& v) { return v.name == name; });
}

Result<Part> asVariant(const Part& part, const std::string& name) {
    const Variant* v = variantOf(part, name);
    if (v == nullptr) {
        std::string known;
        for (const Variant& one : part.variants) known += (known.empty() ? "" : ", ") + one.name;
        return problem("there is no variant “" + name + "”", part.name,
                       known.empty() ? "It has none" : "It has " + known);
    }
    Part p = part;
    p.variants.clear();
    p.name = part.name + "-" + v->name;
    if (!v->description.empty()) p.description = v->description;
    if (!v->value.empty()) p.value = v->value;
    if (!v->pins.empty()) p.pins = v->pins;
    std::erase_if(p.marks, [&](const Mark& m) {
        return std::find(v->without.begin(), v->without.end(), m.id) != v->without.end();
    });
    for (const Mark& own : v->with) {
        const auto same = std::find_if(p.marks.begin(), p.marks.end(), [&](const Mark& m) { return m.id == own.id; });
        if (same != p.marks.end())
            *same = own;
        else
            p.marks.push_back(own);
    }
    return p;
}

MarkIn markIn(const Part& part, const std::string& variant, const std::string& mark) {
    const Variant* v = variantOf(part, variant);
    if (v == nullptr) return MarkIn::All;
    if (markById(part, mark) == nullptr) return MarkIn::OnlyHere;
    return std::find(v->without.begin(), v->without.end(), mark) != v->without.end() ? MarkIn::NotHere : MarkIn::All;
}

std::vector<Mark> marksAround(const Part& part, const std::string& variant) {
    std::vector<Mark> all = part.marks;
    if (const Variant* v = variantOf(part, variant))
        for (const Mark& own : v->with)
            if (markById(part, own.id) == nullptr) all.push_back(own);
    return all;
}

Part withMarkIn(Part part, const std::string& variant, const std::string& mark, MarkIn where) {
    Variant* v = nullptr;
    for (Variant& one : part.variants)
        if (one.name == variant) v = &one;
    const std::vector<Mark> around = marksAround(part, variant);
    const Mark* known = findIn(around, [&](const Mark& m) { return m.id == mark; });
    if (v == nullptr || known == nullptr) return part;
    std::erase(v->without, mark);
    const bool own = markById(part, mark) == nullptr;
    if (where == MarkIn::OnlyHere && !own) {
        v->with.push_back(*known);
        std::erase_if(part.marks, [&](const Mark& m) { return m.id == mark; });
    } else if (where != MarkIn::OnlyHere && own) {
        part.marks.push_back(*known);
        std::erase_if(v->with, [&](const Mark& m) { return m.id == mark; });
    }
    if (where == MarkIn::NotHere) v->without.push_back(mark);
    return part;
}

std::vector<std::string> pinDifference(const std::vector<Pin>& from, const std::vector<Pin>& to) {
    std::vector<std::string> words;
    for (const Pin& a : from) {
        const Pin* b = findIn(to, [&](const Pin& p) { return p.number == a.number; });
        const std::string pin = "pin " + a.number + ": ";
        if (b == nullptr) {
            words.push_back(pin + named(a) + " is gone");
            continue;
        }
        if (a.names != b->names) words.push_back(pin + named(a) + " → " + named(*b));
        if (a.kind != b->kind)
            words.push_back(pin + std::string(nameOf(a.kind)) + " → " + std::string(nameOf(b->kind)));
        if (a.pads != b->pads) words.push_back(pin + "joined to other pads");
        if (a.note != b->note) words.push_back(pin + "its note is another");
        if (a.group != b->group || a.element != b->element || a.side != b->side)
            words.push_back(pin + "stands elsewhere on the symbol");
    }
    for (const Pin& b : to)
        if (findIn(from, [&](const Pin& p) { return p.number == b.number; }) == nullptr)
            words.push_back("pin " + b.number + ": " + named(b) + " is new");
    return words;
}

std::vector<std::string> variantDifference(const Part& part, const std::string& from, const std::string& to) {
    const auto seen = [&](const std::string& name) {
        return name.empty() ? Result<Part>(part) : asVariant(part, name);
    };
    const auto a = seen(from), b = seen(to);
    if (!a) return {a.error().text()};
    if (!b) return {b.error().text()};
    std::vector<std::string> words = pinDifference(a->pins, b->pins);
    if (a->value != b->value)
        words.push_back("value " + (a->value.empty() ? "none" : a->value) + " → " +
                        (b->value.empty() ? "none" : b->value));
    if (a->description != b->description) words.push_back("its description is another");
    for (const Mark& m : part.marks) {
        const bool inA = markById(*a, m.id) != nullptr, inB = markById(*b, m.id) != nullptr;
        if (inA && !inB) words.push_back("without " + m.name);
        if (!inA && inB) words.push_back("with " + m.name);
    }
    for (const Mark& m : b->marks) {
        if (markById(part, m.id) == nullptr && markById(*a, m.id) == nullptr) words.push_back("with " + m.name);
        if (const Mark* there = markById(*a, m.id); there != nullptr && *there != m)
            words.push_back(m.name + " is another");
    }
    for (const Mark& m : a->marks)
        if (markById(part, m.id) == nullptr && markById(*b, m.id) == nullptr) words.push_back("without " + m.name);
    return words;
}

}  // namespace punch
