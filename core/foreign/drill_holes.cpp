#include "core/foreign/drill_holes.h"

#include <fmt/format.h>

#include <cctype>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>

#include "core/base/text_table.h"

namespace punch {
namespace {

class DrillReader {
public:
    DrillReader(bool bare, std::string where) : where_(std::move(where)), plated_(!bare) {}

    Result<DrilledHoles> read(std::string_view text) {
        std::string line;
        bool begun = false;
        const auto take = [&] {
            const std::string clean = trimmed(line);
            line.clear();
            if (clean == "M48") begun = true;
            if (!clean.empty() && trouble_.empty()) one(clean);
        };
        for (const char c : text) {
            if (c == '\n' || c == '\r')
                take();
            else if (line.size() < 4096)
                line += c;
        }
        take();
        if (!begun) return wrong("this is no drill file: it does not begin with M48");
        if (!trouble_.empty()) return wrong(trouble_);
        if (unit_ == 0 && !out_.holes.empty()) return wrong("it says neither METRIC nor INCH");
        if (bends_ > 0) out_.notes.push_back(fmt::format("{} routs that bend are left out", bends_));
        return std::move(out_);
    }

private:
    tl::unexpected<Problem> wrong(const std::string& what) const { return problem(what, where_, "Give a drill file"); }
    void fail(const std::string& what) {
        if (trouble_.empty()) trouble_ = what;
    }

    void comment(const std::string& c) {
        const std::string s = lower(c);
        // What X2 says of the file or of the tools that follow.
        if (s.find("nonplated") != std::string::npos || s.find(",npth") != std::string::npos ||
            s.find("type=non_plated") != std::string::npos)
            plated_ = false;
        else if (s.find("plated,") != std::string::npos || s.find("type=plated") != std::string::npos)
            plated_ = true;
    }

    void one(const std::string& l) {
        if (l[0] == ';') return comment(l);
        if (l.starts_with("METRIC") || l == "M71") {
            unit_ = 1;
            zeros(l, 3, 3);
        } else if (l.starts_with("INCH") || l == "M72") {
            unit_ = 25.4;
            zeros(l, 2, 4);
        } else if (l == "%" || l == "M95") {
            body_ = true;
        } else if (l[0] == 'T' && l.size() > 1 && std::isdigit(static_cast<unsigned char>(l[1])) != 0) {
            tool(l);
        } else if (l == "G05" || l == "G5") {
            routing_ = false;
        } else if (l == "M15") {
            down_ = true;
            path_ = {{x_, y_}};
        } else if (l == "M16" || l == "M17") {
            rout();
        } else if (l.starts_with("G00") || l.starts_with("G01") || l.starts_with("G02") || l.starts_with("G03")) {
            routing_ = true;
            if (l[2] == '2' || l[2] == '3') bent_ = true;
            move(l.substr(3));
            if (down_) path_.push_back({x_, y_});
        } else if (l[0] == 'X' || l[0] == 'Y') {
            if (const std::size_t slot = l.find("G85"); slot != std::string::npos) {
                move(l.substr(0, slot));
                const double x = x_, y = y_;
                move(l.substr(slot + 3));
                put(x, y, x_, y_);
            } else {
                move(l);
                if (routing_ && down_)
                    path_.push_back({x_, y_});
                else if (!routing_)
                    put(x_, y_, x_, y_);
            }
        } else if (l.starts_with("R") && l.find('X') != std::string::npos) {
            out_.notes.push_back("repeated holes (" + l + ") are taken once");
        }
    }

    void zeros(const std::string& l, int whole, int digits) {
        // LZ: leading zeros are there, trailing ones may be missing.
        if (l.find(",LZ") != std::string::npos) trailing_ = true;
        if (l.find(",TZ") != std::string::npos) trailing_ = false;
        whole_ = whole;
        digits_ = digits;
        if (const std::size_t dot = l.find("0."); dot != std::string::npos) {
            const std::size_t first = l.find_last_not_of('0', dot);
            whole_ = static_cast<int>(dot + 1 - (first == std::string::npos ? 0 : first + 1));
            digits_ = static_cast<int>(l.size() - dot - 2);
        }
    }

    void tool(const std::string& l) {
        std::size_t n = 1;
        while (n < l.size() && std::isdigit(static_cast<unsigned char>(l[n])) != 0) ++n;
        const std::string name = std::to_string(std::atoi(l.substr(1, n - 1).c_str()));
        const std::size_t c = l.find('C', n);
        if (c != std::string::npos) {
            const double size = std::atof(l.c_str() + c + 1) * (unit_ > 0 ? unit_ : 1);
            if (!(size > 0 && size < 100)) return fail("tool " + l);
            tools_[name] = {size, plated_};
        }
        if (body_) current_ = name == "0" ? "" : name;
    }

    std::optional<double> coordinate(const std::string& digits) {
        if (digits.empty()) return {};
        if (digits.find('.') != std::string::npos) return std::atof(digits.c_str()) * unit_;
        std::string plain = digits;
        const bool minus = plain[0] == '-';
        if (plain[0] == '-' || plain[0] == '+') plain.erase(0, 1);
        if (plain.empty() || plain.size() > 12) {
            fail("coordinate " + digits);
            return {};
        }
        if (trailing_) plain.resize(std::max(plain.size(), static_cast<std::size_t>(whole_ + digits_)), '0');
        const double v = std::atof(plain.c_str()) / std::pow(10.0, digits_) * unit_;
        return minus ? -v : v;
    }

    void move(const std::string& l) {
        std::map<char, std::string> fields;
        char key = 0;
        for (const char c : l) {
            if (std::isalpha(static_cast<unsigned char>(c)) != 0)
                key = c;
            else
                fields[key] += c;
        }
        if (const auto x = coordinate(fields['X'])) x_ = *x;
        if (const auto y = coordinate(fields['Y'])) y_ = *y;
    }

    void put(double ax, double ay, double bx, double by) {
        const auto it = tools_.find(current_);
        if (it == tools_.end()) return fail("a hole without a tool");
        if (out_.holes.size() > kMostForeignPads) return fail("too many holes");
        DrilledHole h;
        h.x = (ax + bx) / 2;
        h.y = (ay + by) / 2;
        h.size = it->second.first;
        h.plated = it->second.second;
        if (const double d = std::hypot(bx - ax, by - ay); d > 1e-6) {
            h.length = d + h.size;
            h.turn = std::atan2(by - ay, bx - ax) * 180 / std::numbers::pi;
        }
        out_.holes.push_back(h);
    }

    void rout() {
        down_ = false;
        if (path_.size() == 2 && !bent_)
            put(path_[0].first, path_[0].second, path_[1].first, path_[1].second);
        else if (path_.size() > 1)
            ++bends_;
        path_.clear();
        bent_ = false;
    }

    std::string where_, trouble_, current_;
    DrilledHoles out_;
    std::map<std::string, std::pair<double, bool>> tools_;
    std::vector<std::pair<double, double>> path_;
    double unit_ = 0, x_ = 0, y_ = 0;
    int whole_ = 3, digits_ = 3, bends_ = 0;
    bool plated_, trailing_ = false, body_ = false, routing_ = false, down_ = false, bent_ = false;
};

}  // namespace

Result<DrilledHoles> holesFromDrill(std::string_view text, bool bare, const std::string& where) {
    return DrillReader(bare, where).read(text);
}

}  // namespace punch
