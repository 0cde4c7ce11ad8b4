#include "core/base/quantity.h"

#include <fmt/format.h>
#include <muParser.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <limits>
#include <optional>

namespace punch {
namespace {

constexpr std::array<std::string_view, 8> kUnitWords = {"mm", "cm", "um", "mil", "mils", "thou", "in", "inch"};

// muParser takes plain function pointers, so the unit's scale for the dimension test is a thread's own variable.
thread_local double scale = 1.0;
double mm(double v) { return v * scale; }
double cm(double v) { return v * 10.0 * scale; }
double um(double v) { return v * 1e-3 * scale; }
double mil(double v) { return v * 0.0254 * scale; }
double inch(double v) { return v * 25.4 * scale; }
double degree(double v) { return v; }

void replaceAll(std::string& text, std::string_view from, std::string_view to) {
    for (std::size_t at = 0; (at = text.find(from, at)) != std::string::npos; at += to.size())
        text.replace(at, from.size(), to);
}

std::string plain(std::string_view typed) {
    std::string text(typed);
    replaceAll(text, "µ", "u");
    replaceAll(text, "μ", "u");
    replaceAll(text, "\"", "in");
    replaceAll(text, "″", "in");
    replaceAll(text, "−", "-");
    replaceAll(text, "×", "*");
    replaceAll(text, "°", "deg");
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

mu::Parser makeParser(const std::string& text) {
    mu::Parser parser;
    // Not folded into constants, since the dimension test changes their scale.
    parser.DefinePostfixOprt("mm", mm, false);
    parser.DefinePostfixOprt("cm", cm, false);
    parser.DefinePostfixOprt("um", um, false);
    for (const char* name : {"mil", "mils", "thou"}) parser.DefinePostfixOprt(name, mil, false);
    for (const char* name : {"in", "inch"}) parser.DefinePostfixOprt(name, inch, false);
    parser.DefinePostfixOprt("deg", degree, false);
    // Names of parameters hold points: "lead.width", "f2.pitch".
    parser.DefineNameChars("0123456789_.abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ");
    parser.SetExpr(text);
    return parser;
}

struct Evaluated {
    double value;  ///< with lengths in mm
    int degree;    ///< 0 a bare number, 1 a length
};

Result<Evaluated> evaluate(std::string_view typed) {
    const std::string text = plain(typed);
    const std::string where = fmt::format("“{}”", typed);
    if (text.empty()) return problem("nothing is typed", {}, "Type a value such as 16.25 or 0.1in");
    if (text.find(',') != std::string::npos)
        return problem("a comma stands in the number", where, "Write decimals with a point: 16.25");
    if (text.find_first_of("=?!<>&|:;#@") != std::string::npos)
        return problem("this is not a value", where, "Type a number, a unit and + - * / ( ) only");
    try {
        mu::Parser parser = makeParser(text);
        scale = 1.0;
        const double once = parser.Eval();
        scale = 2.0;
        const double twice = parser.Eval();
        scale = 1.0;
        if (!std::isfinite(once)) return problem("the value is not finite", where, "Check the division");
        const double tol = 1e-9 * (std::abs(once) + 1e-12);
        if (std::abs(twice - once) <= tol && !namesUnit(text)) return Evaluated{once, 0};
        if (std::abs(twice - 2 * once) <= tol) return Evaluated{once, 1};
        if (std::abs(twice - once) <= tol) return Evaluated{once, 0};
        return problem("a length and a bare number are mixed", where, "Write the unit on each: 0.1in + 5mm");
    } catch (const mu::ParserError&) {
        scale = 1.0;
        return problem("this is not a number", where, "Type a value such as 16.25, 0.1in or (33.3-19.4)/2");
    }
}

}  // namespace

std::string_view unitName(Unit unit) {
    switch (unit) {
        case Unit::Mil: return "mil";
        case Unit::Inch: return "in";
        case Unit::Mm: break;
    }
    return "mm";
}

Result<Unit> unitFromName(std::string_view name) {
    if (name == "mm") return Unit::Mm;
    if (name == "mil") return Unit::Mil;
    if (name == "in" || name == "inch") return Unit::Inch;
    return problem(fmt::format("“{}” is not a unit", name), {}, "Use mm, mil or inch");
}

Length inUnit(double value, Unit unit) {
    switch (unit) {
        case Unit::Mil: return Length::fromMil(value);
        case Unit::Inch: return Length::fromInch(value);
        case Unit::Mm: break;
    }
    return Length::fromMm(value);
}

double valueIn(Length length, Unit unit) {
    switch (unit) {
        case Unit::Mil: return length.mil();
        case Unit::Inch: return length.inch();
        case Unit::Mm: break;
    }
    return length.mm();
}

Result<Length> parseLength(std::string_view typed, Unit bareUnit) {
    const auto value = evaluate(typed);
    if (!value) return tl::make_unexpected(value.error());
    const Length length = value->degree == 1 ? Length::fromMm(value->value) : inUnit(value->value, bareUnit);
    if (abs(length) > Length::fromMm(10000))
        return problem("the length is more than 10 m", fmt::format("“{}”", typed), "Check the unit");
    return length;
}

Result<double> parseNumber(std::string_view typed) {
    const auto value = evaluate(typed);
    if (!value) return tl::make_unexpected(value.error());
    if (value->degree != 0) return problem("no unit belongs here", fmt::format("“{}”", typed), "Type the number alone");
    return value->value;
}

Result<Angle> parseAngle(std::string_view typed) {
    const auto value = parseNumber(typed);
    if (!value) return tl::make_unexpected(value.error());
    if (std::abs(*value) > 3600)
        return problem("the angle is more than ten turns", fmt::format("“{}”", typed), "Type degrees");
    return Angle::fromDegrees(*value);
}

// ------------------------------------------------------------------ formulas

struct Formula::Compiled {
    mu::Parser parser;
    std::vector<double> slots;
};

std::vector<std::string> Formula::namesIn(std::string_view typed) {
    std::vector<std::string> names;
    try {
        mu::Parser parser = makeParser(plain(typed));
        for (const auto& [name, value] : parser.GetUsedVar()) names.push_back(name);
    } catch (const mu::ParserError&) {
        names.clear();
    }
    return names;
}

Result<Formula> Formula::parse(std::string_view typed, Unit bareUnit, Kind wanted,
                               const std::function<Kind(const std::string&)>& kindOf) {
    Formula f;
    f.names_ = namesIn(typed);
    const std::string where = fmt::format("“{}”", typed);
    if (f.names_.empty()) {
        // A plain value: one law with what is typed as a reading.
        const auto length = wanted == Kind::Length ? parseLength(typed, bareUnit) : Result<Length>(Length());
        if (!length) return tl::make_unexpected(length.error());
        const auto angle = wanted == Kind::Angle ? parseAngle(typed) : Result<Angle>(Angle());
        if (!angle) return tl::make_unexpected(angle.error());
        f.factor_ = wanted == Kind::Length ? length->mm() : angle->degrees();
        return f;
    }
    f.compiled_ = std::make_shared<Compiled>();
    Compiled& c = *f.compiled_;
    c.slots.assign(f.names_.size(), 0.0);
    try {
        c.parser = makeParser(plain(typed));
        for (std::size_t i = 0; i < f.names_.size(); ++i) c.parser.DefineVar(f.names_[i], &c.slots[i]);
        const auto at = [&](double by) {
            for (std::size_t i = 0; i < c.slots.size(); ++i)
                c.slots[i] = (1.37 + 0.61 * static_cast<double>(i)) * (kindOf(f.names_[i]) == Kind::Length ? by : 1.0);
            scale = by;
            const double v = c.parser.Eval();
            scale = 1.0;
            return v;
        };
        const double once = at(1.0);
        const double twice = at(2.0);
        if (std::isfinite(once) && std::isfinite(twice)) {
            const double tol = 1e-9 * (std::abs(once) + 1e-12);
            const bool pure = std::abs(twice - once) <= tol;
            const bool length = std::abs(twice - 2 * once) <= tol;
            if (!pure && !length)
                return problem("a length and a bare number are mixed", where, "Write the unit on each: A - 2mm");
            if (wanted == Kind::Length && !length)
                return problem("the formula gives no length", where, "Multiply by a length, or write a unit");
            if (wanted == Kind::Angle && !pure)
                return problem("the formula gives a length, not an angle", where, "Divide by a length");
        }
    } catch (const mu::ParserError&) {
        scale = 1.0;
        return problem("this is no formula", where, "Type names, numbers with units and + - * / ( )");
    }
    return f;
}

double Formula::value(const std::vector<double>& values) const {
    if (!compiled_) return factor_;
    for (std::size_t i = 0; i < values.size(); ++i) compiled_->slots[i] = values[i];
    try {
        return compiled_->parser.Eval();
    } catch (const mu::ParserError&) {
        return std::numeric_limits<double>::quiet_NaN();
    }
}

double Formula::derivative(const std::vector<double>& values, std::size_t index) const {
    if (!compiled_) return 0;
    // Central differences over five points.
    const double h = 1e-2 * std::max(std::abs(values[index]), 1.0);
    std::vector<double> v = values;
    const auto at = [&](double k) {
        v[index] = values[index] + k * h;
        return value(v);
    };
    return (at(-2) - 8 * at(-1) + 8 * at(1) - at(2)) / (12 * h);
}

bool namesUnit(std::string_view typed) {
    const std::string text = plain(typed);
    std::string word;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        const char c = i < text.size() ? text[i] : ' ';
        // The e of 1e3 belongs to the number.
        if (std::isalpha(static_cast<unsigned char>(c)) != 0) {
            word += c;
            continue;
        }
        if (std::find(kUnitWords.begin(), kUnitWords.end(), word) != kUnitWords.end()) return true;
        word.clear();
    }
    return false;
}

std::vector<std::string> splitValues(std::string_view typed) {
    const std::string text = plain(typed);
    const auto isOperator = [](char c) { return std::string_view("+-*/^").find(c) != std::string_view::npos; };
    std::vector<std::string> values;
    std::string current;
    int depth = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '(') ++depth;
        if (c == ')') --depth;
        if ((c != ' ' && c != '\t') || depth > 0) {
            current += c;
            continue;
        }
        const std::size_t next = text.find_first_not_of(" \t", i);
        if (next == std::string::npos) break;
        const char n = text[next];
        // "5 -3" is two values of a list, "5 - 3" is one difference.
        const bool spacedOperator = isOperator(n) && next + 1 < text.size() && (text[next + 1] == ' ');
        const bool afterOperator = !current.empty() && isOperator(current.back()) && current.size() > 1;
        const bool unitFollows = std::isalpha(static_cast<unsigned char>(n)) != 0;
        if (unitFollows || spacedOperator || (afterOperator && depth == 0)) {
            current += ' ';
            i = next - 1;
            if (spacedOperator) {
                current += n;
                current += ' ';
                i = text.find_first_not_of(" \t", next + 1) - 1;
            }
            continue;
        }
        values.push_back(current);
        current.clear();
        i = next - 1;
    }
    if (!current.empty()) values.push_back(current);
    return values;
}

std::string formatValue(Length length, Unit unit, int digits) {
    const int decimals = unit == Unit::Mm ? digits : unit == Unit::Mil ? std::max(digits - 2, 0) : digits + 1;
    std::string text = fmt::format("{:.{}f}", valueIn(length, unit), decimals);
    if (text.find_first_not_of("-0.") == std::string::npos && text.front() == '-') text.erase(0, 1);
    return text;
}

std::string formatLength(Length length, Unit unit, int digits) {
    return fmt::format("{} {}", formatValue(length, unit, digits), unitName(unit));
}

}  // namespace punch
