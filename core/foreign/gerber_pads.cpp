#include "core/foreign/gerber_pads.h"

#include <fmt/format.h>
#include <muParser.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/text_table.h"

namespace punch {
namespace {

constexpr double kInch = 25.4;

std::vector<std::string> split(std::string_view text, char by) {
    std::vector<std::string> parts(1);
    for (const char c : text) {
        if (c == by)
            parts.emplace_back();
        else
            parts.back() += c;
    }
    return parts;
}

std::optional<double> number(const std::string& text) {
    try {
        std::size_t used = 0;
        const double v = std::stod(text, &used);
        if (used == text.size() && std::isfinite(v)) return v;
    } catch (const std::exception&) {
    }
    return {};
}

struct Box {
    double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
    void add(double x, double y, double r = 0) {
        left = std::min(left, x - r);
        right = std::max(right, x + r);
        low = std::min(low, y - r);
        high = std::max(high, y + r);
    }
    bool empty() const { return left > right; }
};

/// What an aperture flashes: a shape around its origin.
struct Aperture {
    LandShape shape = LandShape::Round;
    double x = 0, y = 0;  ///< its middle from the place it is flashed at
    double w = 0, h = 0;
    std::string function;
};

class GerberReader {
public:
    GerberReader(std::string_view text, std::string where) : text_(text), where_(std::move(where)) {}

    Result<GerberPads> read() {
        std::size_t at = 0;
        bool some = false;
        while (at < text_.size() && !ended_) {
            const char c = text_[at];
            if (std::isspace(static_cast<unsigned char>(c)) != 0) {
                ++at;
                continue;
            }
            if (c == '%') {
                const std::size_t end = text_.find('%', at + 1);
                if (end == std::string_view::npos) return wrong("an extended command is not closed");
                for (const std::string& command : commandsOf(text_.substr(at + 1, end - at - 1))) extended(command);
                at = end + 1;
                some = true;
            } else {
                const std::size_t end = text_.find('*', at);
                if (end == std::string_view::npos) break;
                word(withoutBlanks(text_.substr(at, end - at)), std::string(text_.substr(at, end - at)));
                at = end + 1;
            }
            if (!trouble_.empty()) return wrong(trouble_);
            if (out_.pads.size() > kMostForeignPads) return wrong(fmt::format("more than {} pads", kMostForeignPads));
        }
        if (!some || digits_ == 0) return wrong("this is no Gerber file: it says no format");
        if (clear_ > 0) out_.notes.push_back(fmt::format("{} cleared objects are left out", clear_));
        if (repeats_) out_.notes.push_back("what is stepped and repeated is taken once");
        return std::move(out_);
    }

private:
    tl::unexpected<Problem> wrong(const std::string& what) const {
        return problem(what, where_, "Give a Gerber file of a copper layer");
    }

    static std::string withoutBlanks(std::string_view s) {
        std::string out;
        for (const char c : s)
            if (std::isspace(static_cast<unsigned char>(c)) == 0) out += c;
        return out;
    }

    /// A macro's body holds asterisks of its own.
    static std::vector<std::string> commandsOf(std::string_view block) {
        const std::string clean = trimmed(block);
        if (clean.starts_with("AM")) return {clean};
        std::vector<std::string> all;
        for (const std::string& one : split(clean, '*'))
            if (!trimmed(one).empty()) all.push_back(trimmed(one));
        return all;
    }

    void attribute(const std::string& command) {
        const auto fields = split(command.substr(2), ',');
        const std::string& name = fields[0];
        const auto at = [&](std::size_t i) { return i < fields.size() ? fields[i] : std::string(); };
        if (command.starts_with("TF") && name == ".FileFunction") {
            const std::string what = lower(at(1));
            out_.copper = what == "copper";
            out_.bottom = lower(at(3)).starts_with("bot");
        } else if (command.starts_with("TA") && name == ".AperFunction") {
            function_ = at(1);
        } else if (command.starts_with("TO") && name == ".P") {
            component_ = at(1);
            pin_ = at(2);
        } else if (command.starts_with("TO") && name == ".C") {
            component_ = at(1);
        } else if (command.starts_with("TD")) {
            const bool all = name.empty();
            if (all || name == ".AperFunction") function_.clear();
            if (all || name == ".P") pin_.clear();
            if (all || name == ".P" || name == ".C") component_.clear();
        }
    }

    void extended(const std::string& c) {
        if (c.starts_with("FS")) {
            trailing_ = c.find('T') != std::string::npos;
            const std::size_t x = c.find('X');
            if (x == std::string::npos || x + 2 >= c.size() || std::isdigit(static_cast<unsigned char>(c[x + 1])) == 0)
                return fail("format " + c);
            whole_ = c[x + 1] - '0';
            digits_ = c[x + 2] - '0';
            if (digits_ < 1 || digits_ > 8) fail("format " + c);
            if (c.find('I') != std::string::npos && c.find('I') < x) fail("incremental coordinates");
        } else if (c == "MOMM" || c == "MOIN") {
            unit_ = c == "MOMM" ? 1 : kInch;
        } else if (c.starts_with("TF") || c.starts_with("TA") || c.starts_with("TO") || c.starts_with("TD")) {
            attribute(c);
        } else if (c.starts_with("AD")) {
            define(c);
        } else if (c.starts_with("AM")) {
            const std::size_t star = c.find('*');
            if (star != std::string::npos) macros_[trimmed(c.substr(2, star - 2))] = c.substr(star + 1);
        } else if (c.starts_with("LP")) {
            dark_ = c != "LPC";
        } else if (c.starts_with("LR")) {
            turned_ = number(c.substr(2)).value_or(0);
        } else if (c.starts_with("LM")) {
            mirrored_ = c.substr(2);
        } else if (c.starts_with("LS")) {
            scaled_ = number(c.substr(2)).value_or(1);
        } else if (c.starts_with("SR") && c != "SR") {
            repeats_ = repeats_ || c.find("X1Y1") == std::string::npos;
        }
    }

    void fail(const std::string& what) {
        if (trouble_.empty()) trouble_ = what;
    }

    void define(const std::string& c) {
        std::size_t at = 3;
        while (at < c.size() && std::isdigit(static_cast<unsigned char>(c[at])) != 0) ++at;
        if (c.size() < 5 || c[2] != 'D' || at == 3 || at > 12) return fail("aperture " + c);
        const int code = std::stoi(c.substr(3, at - 3));
        const std::size_t comma = c.find(',', at);
        const std::string shape = c.substr(at, comma == std::string::npos ? std::string::npos : comma - at);
        std::vector<double> values;
        if (comma != std::string::npos)
            for (const std::string& v : split(c.substr(comma + 1), 'X')) {
                const auto n = number(trimmed(v));
                if (!n) return fail("aperture " + c);
                values.push_back(*n);
            }
        const auto value = [&](std::size_t i) { return i < values.size() ? values[i] * unit_ : 0.0; };
        Aperture a;
        a.function = function_;
        a.w = value(0);
        a.h = values.size() > 1 ? value(1) : a.w;
        if (shape == "C") {
            a.h = a.w;
        } else if (shape == "R") {
            a.shape = std::abs(a.w - a.h) < 1e-9 ? LandShape::Square : LandShape::Rectangle;
        } else if (shape == "O") {
            a.shape = LandShape::Oval;
        } else if (shape == "P") {
            a.h = a.w;
            a.shape = values.size() > 1 && values[1] == 8 ? LandShape::Octagon : LandShape::Round;
            if (a.shape == LandShape::Octagon) a.w = a.h = a.w * std::cos(3.14159265358979323846 / 8);
        } else if (const auto macro = macros_.find(shape); macro != macros_.end()) {
            a = ofMacro(macro->second, values);
            a.function = function_;
        } else {
            return fail("aperture " + shape + ", which is not defined");
        }
        apertures_[code] = a;
    }

    /// The box around a macro's primitives: as good as its shape for where it lies and how wide it is.
    Aperture ofMacro(const std::string& body, const std::vector<double>& given) {
        std::map<int, double> variables;
        for (std::size_t i = 0; i < given.size(); ++i) variables[static_cast<int>(i) + 1] = given[i];
        const auto evaluated = [&](std::string formula) {
            for (char& ch : formula)
                if (ch == 'x' || ch == 'X') ch = '*';
            std::string plain;
            for (std::size_t i = 0; i < formula.size(); ++i) {
                if (formula[i] != '$') {
                    plain += formula[i];
                    continue;
                }
                int name = 0;
                while (i + 1 < formula.size() && std::isdigit(static_cast<unsigned char>(formula[i + 1])) != 0 &&
                       name < 10000)
                    name = 10 * name + (formula[++i] - '0');
                const auto it = variables.find(name);
                plain += fmt::format("({:.9f})", it == variables.end() ? 0.0 : it->second);
            }
            if (const auto n = number(plain)) return *n;
            try {
                mu::Parser parser;
                parser.SetExpr(plain);
                const double v = parser.Eval();
                return std::isfinite(v) ? v : 0.0;
            } catch (const mu::Parser::exception_type&) {
                fail("a macro with " + formula);
                return 0.0;
            }
        };
        Box box;
        bool round = true, rectangle = true;
        int primitives = 0;
        for (const std::string& raw : split(body, '*')) {
            const std::string line = withoutBlanks(raw);
            if (line.empty() || line[0] == '0') continue;
            if (line[0] == '$') {
                const std::size_t equal = line.find('=');
                if (equal != std::string::npos)
                    variables[std::atoi(line.c_str() + 1)] = evaluated(line.substr(equal + 1));
                continue;
            }
            std::vector<double> v;
            for (const std::string& field : split(line, ',')) v.push_back(evaluated(field));
            const auto at = [&](std::size_t i) { return i < v.size() ? v[i] : 0.0; };
            const auto put = [&](double x, double y, double degrees, double r) {
                const double t = degrees * 3.14159265358979323846 / 180;
                box.add(std::cos(t) * x - std::sin(t) * y, std::sin(t) * x + std::cos(t) * y, r);
            };
            ++primitives;
            switch (static_cast<int>(at(0))) {
                case 1:
                    if (at(1) != 0) put(at(3), at(4), at(5), at(2) / 2);
                    rectangle = false;
                    break;
                case 20:
                    if (at(1) != 0)
                        for (const double side : {1.0, -1.0}) {
                            const double dx = at(5) - at(3), dy = at(6) - at(4), d = std::hypot(dx, dy);
                            const double nx = d > 0 ? -dy / d * at(2) / 2 * side : 0,
                                         ny = d > 0 ? dx / d * at(2) / 2 * side : 0;
                            put(at(3) + nx, at(4) + ny, at(7), 0);
                            put(at(5) + nx, at(6) + ny, at(7), 0);
                        }
                    round = false;
                    break;
                case 21:
                    if (at(1) != 0)
                        for (const double sx : {1.0, -1.0})
                            for (const double sy : {1.0, -1.0})
                                put(at(4) + sx * at(2) / 2, at(5) + sy * at(3) / 2, at(6), 0);
                    round = false;
                    break;
                case 4:
                    if (at(1) != 0)
                        for (std::size_t i = 3;
                             i + 2 < v.size() && i <= 3 + 2 * static_cast<std::size_t>(std::max(at(2), 0.0)); i += 2)
                            put(at(i), at(i + 1), v.back(), 0);
                    round = rectangle = false;
                    break;
                case 5:
                    if (at(1) != 0) put(at(3), at(4), at(6), at(5) / 2);
                    rectangle = false;
                    break;
                case 7:
                    put(at(1), at(2), at(6), at(3) / 2);
                    rectangle = false;
                    break;
                default: break;
            }
        }
        Aperture a;
        if (box.empty()) return a;
        a.x = (box.left + box.right) / 2 * unit_;
        a.y = (box.low + box.high) / 2 * unit_;
        a.w = (box.right - box.left) * unit_;
        a.h = (box.high - box.low) * unit_;
        a.shape = round && primitives == 1 ? LandShape::Round
                  : rectangle              ? LandShape::Rectangle
                                           : LandShape::RoundedRectangle;
        if (a.shape == LandShape::Rectangle && std::abs(a.w - a.h) < 1e-9) a.shape = LandShape::Square;
        return a;
    }

    std::optional<double> coordinate(const std::string& digits) {
        if (digits.empty()) return {};
        if (digits.find('.') != std::string::npos) return number(digits).value_or(0) * unit_;
        if (digits_ == 0) {
            fail("coordinates without a format");
            return {};
        }
        std::string plain = digits;
        bool minus = false;
        if (plain[0] == '-' || plain[0] == '+') {
            minus = plain[0] == '-';
            plain.erase(0, 1);
        }
        if (plain.empty() || plain.size() > 15 ||
            !std::all_of(plain.begin(), plain.end(), [](unsigned char c) { return std::isdigit(c) != 0; })) {
            fail("coordinate " + digits);
            return {};
        }
        if (trailing_) plain.resize(std::max(plain.size(), static_cast<std::size_t>(whole_ + digits_)), '0');
        const double v = std::stod(plain) / std::pow(10.0, digits_) * unit_;
        return minus ? -v : v;
    }

    void word(const std::string& c, const std::string& raw) {
        if (c.starts_with("G04")) {
            // Attributes of files that stay readable to old readers.
            const std::size_t mark = raw.find("#@!");
            if (mark != std::string::npos) attribute(trimmed(raw.substr(mark + 3)));
            return;
        }
        if (c == "M02" || c == "M00") {
            ended_ = true;
            return;
        }
        std::string rest = c;
        while (rest.size() >= 2 && rest[0] == 'G') {
            std::size_t n = 1;
            while (n < rest.size() && std::isdigit(static_cast<unsigned char>(rest[n])) != 0) ++n;
            const int g = std::atoi(rest.substr(1, n - 1).c_str());
            if (g == 36) {
                region_ = true;
                contour_ = {};
            } else if (g == 37) {
                endRegion();
            } else if (g == 70) {
                unit_ = kInch;
            } else if (g == 71) {
                unit_ = 1;
            } else if (g == 91) {
                fail("incremental coordinates");
            }
            rest = rest.substr(n);
        }
        if (rest.empty()) return;
        if (rest[0] == 'D' && rest.size() > 1) {
            const int code = std::atoi(rest.c_str() + 1);
            if (code >= 10) current_ = code;
            if (code < 10) operate(code);
            return;
        }
        if (rest[0] != 'X' && rest[0] != 'Y' && rest[0] != 'I' && rest[0] != 'J') return;
        std::map<char, std::string> fields;
        char key = 0;
        for (const char ch : rest) {
            if (std::isalpha(static_cast<unsigned char>(ch)) != 0)
                key = ch;
            else
                fields[key] += ch;
        }
        if (const auto x = coordinate(fields['X'])) x_ = *x;
        if (const auto y = coordinate(fields['Y'])) y_ = *y;
        const int code = fields['D'].empty() ? operation_ : std::atoi(fields['D'].c_str());
        operate(code);
    }

    void operate(int code) {
        operation_ = code;
        if (region_) {
            contour_.add(x_, y_);
            return;
        }
        if (code != 3) return;
        if (!dark_) {
            ++clear_;
            return;
        }
        const auto it = apertures_.find(current_);
        if (it == apertures_.end()) return fail(fmt::format("aperture D{} is used before it is defined", current_));
        const Aperture& a = it->second;
        const std::string function = lower(a.function);
        // What is no pad of a part: vias, thieving, test coupons' copper.
        if (function == "viapad" || function == "nonconductor" || function == "conductor" || function == "otherdrill") {
            ++left_;
            return;
        }
        GerberObject o;
        const double t = turned_ * 3.14159265358979323846 / 180;
        double ax = a.x * scaled_, ay = a.y * scaled_;
        if (mirrored_.find('X') != std::string::npos) ax = -ax;
        if (mirrored_.find('Y') != std::string::npos) ay = -ay;
        o.pad.x = x_ + std::cos(t) * ax - std::sin(t) * ay;
        o.pad.y = y_ + std::sin(t) * ax + std::cos(t) * ay;
        o.pad.shape = a.shape;
        o.pad.landX = a.w * scaled_;
        o.pad.landY = a.h * scaled_;
        o.pad.turn = a.shape == LandShape::Round ? 0 : turned_;
        o.pad.number = pin_;
        o.component = component_;
        o.fiducial = function.starts_with("fiducial");
        out_.pads.push_back(std::move(o));
    }

    void endRegion() {
        region_ = false;
        if (contour_.empty() || !dark_ || pin_.empty()) return;
        GerberObject o;
        o.pad.x = (contour_.left + contour_.right) / 2;
        o.pad.y = (contour_.low + contour_.high) / 2;
        o.pad.landX = contour_.right - contour_.left;
        o.pad.landY = contour_.high - contour_.low;
        o.pad.shape = LandShape::RoundedRectangle;
        o.pad.number = pin_;
        o.component = component_;
        out_.pads.push_back(std::move(o));
    }

    std::string_view text_;
    std::string where_, trouble_;
    GerberPads out_;
    std::map<int, Aperture> apertures_;
    std::map<std::string, std::string> macros_;
    std::string function_, component_, pin_, mirrored_;
    Box contour_;
    double unit_ = 1, x_ = 0, y_ = 0, turned_ = 0, scaled_ = 1;
    int whole_ = 0, digits_ = 0, current_ = 0, operation_ = 0, clear_ = 0, left_ = 0;
    bool trailing_ = false, dark_ = true, region_ = false, ended_ = false, repeats_ = false;
};

}  // namespace

Result<GerberPads> padsFromGerber(std::string_view text, const std::string& where) {
    return GerberReader(text, where).read();
}

}  // namespace punch
