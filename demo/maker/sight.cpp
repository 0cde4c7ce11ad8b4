// ./dev sight [PICTURES] [KIND]: hard pictures, found and scored; a table by kind. With a kind, each of its pictures;
// with
// --save FOLDER one picture of each kind as PNG.

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <future>
#include <map>

#include "demo/maker/scan_maker.h"
#include "demo/maker/sight_score.h"

using namespace punch;
using namespace punch::maker;

namespace {

struct Sum {
    int pictures = 0, right = 0, refused = 0, pins = 0, missed = 0, invented = 0, silent = 0, scaleOff = 0;
    int places = 0, placesHeld = 0, sizes = 0, sizesHeld = 0;
    double off2 = 0, worst = 0, size = 0, size2 = 0, seconds = 0;
    std::size_t found = 0;

    void add(const SightScore& s, double took) {
        ++pictures;
        right += s.formationRight ? 1 : 0;
        refused += s.refused ? 1 : 0;
        pins += s.pins;
        missed += s.missed;
        invented += s.invented;
        silent += s.silent.empty() ? 0 : 1;
        scaleOff += s.scaleOff ? 1 : 0;
        places += s.places;
        placesHeld += s.placesHeld;
        sizes += s.sizes;
        sizesHeld += s.sizesHeld;
        seconds += took;
        found += s.off.size();
        for (const double v : s.off) {
            off2 += v * v;
            worst = std::max(worst, v);
        }
        for (const double v : s.sizeOff) {
            size += v;
            size2 += v * v;
        }
    }
    void print(const std::string& name) const {
        const auto share = [](int a, int b) { return b > 0 ? 100.0 * a / b : 0.0; };
        fmt::print(
            "{:<15}{:>5}{:>7.1f}{:>7}{:>7}{:>9}{:>8}{:>8}{:>10.4f}{:>8.3f}{:>8.1f}{:>9.4f}{:>9.4f}{:>8.1f}{:>7.2f}\n",
            name, pictures, share(right, pictures), refused, missed, invented, scaleOff, silent,
            std::sqrt(off2 / std::max<double>(static_cast<double>(found), 1)), worst, share(placesHeld, places),
            size / std::max(sizes, 1), std::sqrt(size2 / std::max(sizes, 1)), share(sizesHeld, sizes),
            seconds / std::max(pictures, 1));
    }
};

struct Scored {
    std::string kind;
    SightScore score;
    double seconds = 0;
};

Scored scored(int number) {
    const HardPicture p = hardPicture(number);
    const auto start = std::chrono::steady_clock::now();
    const auto found = findInPicture(p.picture, p.options);
    const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    return {p.kind, scoreOf(p, found), took};
}

}  // namespace

int main(int argc, char** argv) {
    int pictures = argc > 1 ? std::atoi(argv[1]) : 300;
    const std::string only = argc > 2 ? argv[2] : "";
    if (argc > 2 && only == "--save") {
        for (int n = pictures; n < pictures + static_cast<int>(hardKinds().size()); ++n) {
            const HardPicture p = hardPicture(n);
            std::string name = p.kind;
            for (char& c : name)
                if (c == ' ') c = '-';
            std::ofstream(fmt::format("{}/{}.png", argc > 3 ? argv[3] : ".", name), std::ios::binary)
                << pngBytes(p.picture, p.picture.dpi ? p.picture.dpi->x : 0);
        }
        return 0;
    }
    if (pictures < 1 ||
        (!only.empty() && std::find(hardKinds().begin(), hardKinds().end(), only) == hardKinds().end())) {
        fmt::print(stderr, "sight PICTURES [KIND]; kinds:");
        for (const std::string& kind : hardKinds()) fmt::print(stderr, " \"{}\"", kind);
        fmt::print(stderr, "\n");
        return 2;
    }
    std::map<std::string, Sum> sums;
    Sum all;
    std::vector<int> numbers;
    const auto kinds = static_cast<int>(hardKinds().size());
    for (int n = 0; static_cast<int>(numbers.size()) < pictures; ++n)
        if (only.empty() || hardKinds()[static_cast<std::size_t>(n % kinds)] == only) numbers.push_back(n);
    for (std::size_t i = 0; i < numbers.size(); i += 2) {
        std::vector<std::future<Scored>> two;
        for (std::size_t k = i; k < std::min(i + 2, numbers.size()); ++k)
            two.push_back(std::async(std::launch::async, scored, numbers[k]));
        for (std::size_t k = 0; k < two.size(); ++k) {
            const Scored s = two[k].get();
            sums[s.kind].add(s.score, s.seconds);
            all.add(s.score, s.seconds);
            const bool bad = !s.score.silent.empty() || !s.score.formationRight ||
                             s.score.missed + s.score.invented > 0 || s.score.scaleOff;
            if (bad || !only.empty()) {
                std::string silent;
                for (const std::string& w : s.score.silent) silent += " SILENT " + w;
                fmt::print("  {} {}: {}{} missed {} invented {} scale {:.2f}{}: {}\n", numbers[i + k], s.kind,
                           s.score.formationRight ? "right" : "wrong", silent, s.score.missed, s.score.invented,
                           s.score.scaleOffBy, s.score.refused ? " refused" : "", s.score.words);
            }
        }
    }
    fmt::print("{:<15}{:>5}{:>7}{:>7}{:>7}{:>9}{:>8}{:>8}{:>10}{:>8}{:>8}{:>9}{:>9}{:>8}{:>7}\n", "kind", "n", "right%",
               "ref.", "missed", "invented", "scale", "silent", "rms mm", "worst", "in 95%", "size by", "rms", "in 95%",
               "s");
    for (const std::string& kind : hardKinds())
        if (sums.contains(kind)) sums.at(kind).print(kind);
    all.print("all");
    return 0;
}
