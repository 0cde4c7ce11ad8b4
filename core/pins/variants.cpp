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
        if (const Mark* there = markById(*a, m.id); there != nullptr && *there != m) words.push_back(m.name + " is another");
    }
    for (const Mark& m : a->marks)
        if (markById(part, m.id) == nullptr && markById(*b, m.id) == nullptr) words.push_back("without " + m.name);
    return words;
}

}  // namespace punch
