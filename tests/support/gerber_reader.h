#pragma once
// Reads a Gerber image by the published rules (Layer Format Specification 2022), knowing nothing of our writer: it
// refuses whatever the rules refuse.

#include <gtest/gtest.h>

#include <cmath>
#include <map>
#include <set>
#include <string>
#include <vector>

namespace punch::test {

struct GerberImage {
    struct Flash {
        double x, y;
        std::string shape;
        std::string function;
    };
    struct Line {
        double x1, y1, x2, y2, width;
    };
    std::map<std::string, std::string> file;  // file attributes
    std::vector<Flash> flashes;
    std::vector<Line> lines;
    std::vector<std::string> errors;
    std::set<std::string> pins;
    std::map<std::string, std::map<std::string, std::string>> components;  // X3
    int regions = 0;  // contours between G36 and G37

    explicit GerberImage(const std::string& text) { read(text); }

private:
    void fail(const std::string& what) { errors.push_back(what); }

    void read(const std::string& text) {
        std::size_t at = 0;
        while (at < text.size()) {
            if (text[at] == '\n' || text[at] == '\r') {
                ++at;
                continue;
            }
            if (ended_) return fail("data after M02");
            if (text[at] == '%') {
                const std::size_t end = text.find('%', at + 1);
                if (end == std::string::npos) return fail("an extended command is not closed");
                std::string command = text.substr(at + 1, end - at - 1);
                if (command.empty() || command.back() != '*') return fail("no * at the end of " + command);
                command.pop_back();
                extended(command);
                at = end + 1;
                continue;
            }
            const std::size_t end = text.find('*', at);
            if (end == std::string::npos) return fail("a word command is not closed");
            word(text.substr(at, end - at));
            at = end + 1;
        }
        if (!ended_) fail("M02 is missing");
    }

    void extended(const std::string& c) {
        if (c.rfind("FS", 0) == 0) {
            if (c != "FSLAX46Y46") fail("format " + c);
            format_ = true;
        } else if (c.rfind("MO", 0) == 0) {
            if (c != "MOMM") fail("unit " + c);
            unit_ = true;
        } else if (c.rfind("TF.", 0) == 0) {
            const std::size_t comma = c.find(',');
            file[c.substr(3, comma - 3)] = comma == std::string::npos ? "" : c.substr(comma + 1);
        } else if (c.rfind("TA.AperFunction,", 0) == 0) {
            function_ = c.substr(16);
        } else if (c.rfind("TD", 0) == 0) {
            if (c == "TD" || c == "TD.AperFunction") function_.clear();
        } else if (c.rfind("TO.P,", 0) == 0) {
            pins.insert(c.substr(5));
        } else if (c.rfind("TO.C", 0) == 0) {
            // Component attributes (5.6.19): the designator, then what the next flash of its main aperture has.
            const std::string name = c.substr(3, c.find(',') - 3);
            static const std::set<std::string> known = {"C", "CRot", "CMfr", "CMPN", "CPkg", "CMnt", "CFtp", "CPgN", "CPgD", "CHgt", "CLbN", "CLbD", "CSup", "CVal"};
            if (!known.contains(name)) fail("unknown attribute " + name);
            if (name == "C") component_ = c.substr(5);
            if (component_.empty()) fail("an attribute of no component");
            components[component_][name] = c.substr(c.find(',') + 1);
        } else if (c.rfind("AD", 0) == 0) {
            if (!format_ || !unit_) fail("aperture before format and unit");
            std::size_t shape = 3;
            while (shape < c.size() && std::isdigit(static_cast<unsigned char>(c[shape])) != 0) ++shape;
            const int number = std::stoi(c.substr(3, shape - 3));
            if (number < 10) fail("aperture number below 10");
            if (apertures_.count(number) != 0) fail("aperture defined twice");
            apertures_[number] = {c.substr(shape), function_};
        } else if (c == "LPD") {
            polarity_ = true;
        } else {
            fail("unknown command " + c);
        }
    }

    void word(const std::string& c) {
        if (c.rfind("G04", 0) == 0) return;
        if (c == "G01") {
            linear_ = true;
            return;
        }
        if (c == "G36" || c == "G37") {
            // A region's contours are closed, and nothing else happens between its two commands (4.10).
            if ((c == "G36") == region_) return fail("regions do not nest");
            if (region_ && open_) closeContour();
            region_ = c == "G36";
            open_ = false;
            return;
        }
        if (c == "M02") {
            if (region_) fail("a region is not closed");
            ended_ = true;
            return;
        }
        if (c[0] == 'D') {
            current_ = std::stoi(c.substr(1));
            if (apertures_.count(current_) == 0) fail("aperture used before it is defined: " + c);
            return;
        }
        if (c[0] != 'X') return fail("unknown word " + c);
        if (!polarity_) fail("no polarity");
        const std::size_t y = c.find('Y');
        const std::size_t d = c.find('D');
        if (y == std::string::npos || d == std::string::npos) return fail("coordinates " + c);
        const double nx = std::stod(c.substr(1, y - 1)) / 1e6;
        const double ny = std::stod(c.substr(y + 1, d - y - 1)) / 1e6;
        const std::string op = c.substr(d);
        if (region_ && op == "D02") {
            if (open_) closeContour();
            open_ = true;
            startX_ = nx;
            startY_ = ny;
        } else if (region_ && op == "D01") {
            if (!linear_) fail("no interpolation mode");
            if (!open_) fail("a contour without a start");
        } else if (region_) {
            fail("a flash within a region");
        } else if (op == "D02") {
            started_ = true;
        } else if (current_ == 0) {
            fail("an object without an aperture");
        } else if (op == "D03") {
            flashes.push_back({nx, ny, apertures_[current_].first, apertures_[current_].second});
        } else if (op == "D01") {
            if (!linear_) fail("no interpolation mode");
            if (!started_) fail("a line without a start");
            const std::string& shape = apertures_[current_].first;
            if (shape.rfind("C,", 0) != 0) fail("a line needs a round aperture");
            lines.push_back({x_, y_, nx, ny, std::stod(shape.substr(2))});
        } else {
            fail("operation " + op);
        }
        x_ = nx;
        y_ = ny;
    }

    void closeContour() {
        ++regions;
        if (std::abs(x_ - startX_) > 1e-9 || std::abs(y_ - startY_) > 1e-9) fail("a contour is not closed");
    }

    std::string component_;
    bool region_ = false, open_ = false;
    double startX_ = 0, startY_ = 0;
    std::map<int, std::pair<std::string, std::string>> apertures_;
    std::string function_;
    bool format_ = false, unit_ = false, linear_ = false, polarity_ = false, ended_ = false, started_ = false;
    int current_ = 0;
    double x_ = 0, y_ = 0;
};

/// An XNC drill file by its published rules: header, tools, hits.
struct DrillFile {
    std::map<std::string, double> tools;
    struct Hit {
        double x, y, size;
    };
    std::vector<Hit> hits;
    std::vector<std::string> errors;
    std::string comments;

    explicit DrillFile(const std::string& text) {
        bool header = false, body = false, metric = false, ended = false;
        std::string tool;
        std::size_t at = 0;
        int number = 0;
        while (at < text.size()) {
            const std::size_t end = text.find('\n', at);
            if (end == std::string::npos) {
                errors.push_back("the last line is not closed");
                break;
            }
            const std::string line = text.substr(at, end - at);
            at = end + 1;
            if (number++ == 0 && line != "M48") errors.push_back("does not begin with M48");
            if (ended) errors.push_back("data after M30");
            if (line.empty() || line[0] == ';') {
                comments += line + "\n";
            } else if (line == "M48") {
                header = true;
            } else if (line == "METRIC") {
                metric = header && !body;
            } else if (line == "%") {
                body = true;
            } else if (line == "G05") {
                if (!body) errors.push_back("G05 in the header");
            } else if (line == "M30") {
                ended = true;
            } else if (line[0] == 'T') {
                const std::size_t c = line.find('C');
                if (!body && c != std::string::npos)
                    tools[line.substr(0, c)] = std::stod(line.substr(c + 1));
                else if (body && tools.count(line) != 0)
                    tool = line;
                else
                    errors.push_back("tool " + line);
            } else if (line[0] == 'X') {
                if (tool.empty()) errors.push_back("a hit without a tool");
                const std::size_t y = line.find('Y');
                hits.push_back({std::stod(line.substr(1, y - 1)), std::stod(line.substr(y + 1)), tools[tool]});
            } else {
                errors.push_back("line " + line);
            }
        }
        if (!metric) errors.push_back("no METRIC in the header");
        if (!ended) errors.push_back("M30 is missing");
    }
};

}  // namespace punch::test
