// The stock of Fennel House beside the demo's own parts: made-up parts as somebody with a caliper would have read them.
// Seeded, so that it is the same at every making. Argument: the folder that they are written to.

#include <fmt/format.h>

#include <filesystem>
#include <random>

#include "core/derive.h"
#include "core/measure/entry.h"
#include "core/part/edit.h"
#include "core/part/file.h"

namespace punch {
namespace {

struct Kind {
    const char* maker;
    const char* series;
    const char* words;      ///< "Terminal block"
    const char* reference;  ///< class letter, IEC 81346-2
    int rows;
    double pitch, between;  ///< of pins; of rows
    double wide, thick, length;
    double deep, high;  ///< of the body
    int least, most;    ///< ways
};

constexpr Kind kKinds[] = {
    {"QB", "TB", "Pluggable terminal", "X", 1, 5.08, 0, 1.0, 0.8, 3.4, 10.2, 12.5, 5, 9},
    {"QB", "TC", "Screw terminal", "X", 1, 3.5, 0, 0.8, 0.6, 3.3, 7.6, 10.0, 2, 8},
    {"QB", "TW", "Wire clamp, wide", "X", 1, 7.5, 0, 1.2, 0.9, 3.8, 13.0, 16.0, 2, 4},
    {"HT", "HD", "Header, two rows", "X", 2, 2.54, 2.54, 0.64, 0.64, 3.1, 5.0, 8.6, 3, 7},
    {"HT", "KR", "Coupling relay", "K", 2, 5.0, 7.5, 0.5, 0.9, 3.5, 12.7, 15.7, 2, 4},
    {"PW", "SI", "Sensor strip", "X", 1, 2.5, 0, 0.6, 0.4, 3.2, 4.8, 6.5, 2, 6},
    {"HT", "TA", "Pluggable terminal, another make", "X", 1, 5.0, 0, 1.0, 0.8, 3.6, 10.0, 12.0, 3, 4},
};

class Caliper {
public:
    explicit Caliper(unsigned seed) : random_(seed) {}
    /// What it shows, two or three times: to 0.01.
    std::string shows(double mm, int times = 2) {
        std::normal_distribution<double> hand(0, 0.006);
        std::string out;
        for (int i = 0; i < times; ++i) out += fmt::format(" {:.2f}", mm + hand(random_));
        return out;
    }

private:
    std::mt19937 random_;
};

Result<Part> made(const Kind& kind, int ways, unsigned seed) {
    FormationPlan plan;
    plan.kind = kind.rows == 2 ? FormationKind::TwoRows : FormationKind::Row;
    plan.rows = kind.rows == 2 ? std::vector<int>{ways, ways} : std::vector<int>{ways};
    auto part = newPart(plan);
    if (!part) return part;
    part->name = fmt::format("{}-{}{}", kind.maker, kind.series, ways * kind.rows);
    part->description = fmt::format("{}, {} way, {:g} pitch", kind.words, ways * kind.rows, kind.pitch);
    part->reference = kind.reference;
    part->dress.mark = PinOneMark::Outside;
    Caliper caliper(seed);
    const double span = kind.pitch * (ways - 1), body = span + kind.pitch, near = (kind.pitch - kind.wide) / 2;
    std::vector<std::string> lines = {
        fmt::format("1 {} outside{}", ways, caliper.shows(span + kind.wide, 3)),
        "1 width" + caliper.shows(kind.wide),
        "1 thickness" + caliper.shows(kind.thick),
        "1 2 inside" + caliper.shows(kind.pitch - kind.wide),
        "body along" + caliper.shows(body),
        "left 1 near" + caliper.shows(near),
        "body across" + caliper.shows(kind.deep),
        "1 length" + caliper.shows(kind.length),
        "body height" + caliper.shows(kind.high, 1),
    };
    // Two rows lie in the middle of the body, one nearer to its rear, so that its outline tells front from rear.
    const double rear = (kind.deep + kind.between - kind.thick) / 2 - (kind.rows == 1 ? 1.1 : 0);
    lines.push_back("rear 1 near" + caliper.shows(rear));
    if (kind.rows == 2)
        lines.push_back(fmt::format("1 {} across outside{}", ways + 1, caliper.shows(kind.between + kind.thick, 3)));
    for (const std::string& line : lines) {
        const auto entry = parseEntry(*part, {}, line, Unit::Mm);
        if (!entry) return problem(entry.error().text(), part->name + ": " + line);
        *part = withReading(std::move(*part), entry->reading);
    }
    for (const Pad& pad : derive(*part).pads) {
        Pin pin;
        pin.number = pad.number;
        pin.kind = PinKind::Passive;
        part->pins.push_back(std::move(pin));
    }
    return part;
}

}  // namespace
}  // namespace punch

int main(int argc, char** argv) {
    using namespace punch;
    if (argc != 2) return 2;
    const std::filesystem::path folder = argv[1];
    std::filesystem::create_directories(folder);
    unsigned seed = 20;
    int count = 0;
    for (const Kind& kind : kKinds)
        for (int ways = kind.least; ways <= kind.most; ++ways) {
            const auto part = made(kind, ways, ++seed);
            const auto saved = part ? savePart(*part, folder / (part->name + ".punch"))
                                    : Result<void>(tl::make_unexpected(part.error()));
            if (!saved) {
                fmt::print(stderr, "{}\n", saved.error().text());
                return 1;
            }
            ++count;
        }
    fmt::print("{} parts\n", count);
    return 0;
}
