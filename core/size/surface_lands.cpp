#include "core/size/surface_lands.h"

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

double rootOf(double a, double b, double c) { return std::sqrt(a * a + b * b + c * c); }

Length rounded(double mm) { return Length::fromMm(std::nearbyint(mm / 0.05 + 1e-9) * 0.05); }

ChainStep step(const char* label, const char* detail, std::vector<double> of, double value) {
    ChainStep s;
    s.label = label;
    s.detail = detail;
    for (const double mm : of) s.of.push_back(Length::fromMm(mm));
    s.value = Length::fromMm(value);
    s.link = ChainStep::Link::Rule;
    s.target = "IPC-7351B";
    return s;
}

}  // namespace

const std::vector<LandGoals>& landGoals() {
    // IPC-7351B, tables 3-2 to 3-22, as docs/numbers.md names them; each cell A, B, C.
    static const std::vector<LandGoals> all = {
        {LeadForm::GullWing,
         "gull wing",
         {0.55, 0.35, 0.15},
         {0.45, 0.35, 0.25},
         {0.05, 0.03, 0.01},
         {0.50, 0.25, 0.10}},
        {LeadForm::FineGullWing,
         "gull wing, pitch to 0.625",
         {0.55, 0.35, 0.15},
         {0.45, 0.35, 0.25},
         {0.01, -0.02, -0.04},
         {0.50, 0.25, 0.10}},
        {LeadForm::JLead, "J lead", {0.10, 0.00, -0.10}, {0.55, 0.35, 0.15}, {0.05, 0.03, 0.01}, {0.50, 0.25, 0.10}},
        {LeadForm::Chip, "chip", {0.55, 0.35, 0.15}, {0, 0, 0}, {0.05, 0.00, -0.05}, {0.50, 0.25, 0.10}},
        {LeadForm::SmallChip,
         "chip below 1.6 x 0.8",
         {0.30, 0.20, 0.10},
         {0, 0, 0},
         {0.05, 0.00, -0.05},
         {0.20, 0.15, 0.10}},
        {LeadForm::FlatLead, "flat lead", {0.30, 0.20, 0.10}, {0, 0, 0}, {0.05, 0.00, -0.05}, {0.20, 0.15, 0.10}},
        {LeadForm::NoLead, "no-lead", {0.40, 0.30, 0.20}, {0, 0, 0}, {-0.04, -0.04, -0.04}, {0.50, 0.25, 0.10}},
        {LeadForm::Castellated,
         "half holes",
         {0.65, 0.55, 0.45},
         {0.25, 0.15, 0.05},
         {0.05, -0.05, -0.15},
         {0.50, 0.25, 0.10}},
    };
    return all;
}

const LandGoals& goalsOf(LeadForm form) {
    // In the order of the identifiers; a test holds it so.
    return landGoals()[static_cast<std::size_t>(form)];
}

SurfaceLands surfaceLands(const PackageSize& p, Length pitch, Length leastGap) {
    const LandGoals& goals = goalsOf(p.form);
    const std::size_t level = p.density == Density::B ? 1 : p.density == Density::C ? 2 : 0;
    const bool inward = p.form == LeadForm::JLead;
    const double toe = inward ? goals.heel[level] : goals.toe[level];
    const double heel = inward ? goals.toe[level] : goals.heel[level];
    const double side = goals.side[level];
    const double f = p.fabrication.mm(), place = p.placement.mm();
    const double cl = p.overall.spread().mm(), ct = p.terminal.spread().mm(), cw = p.width.spread().mm();
    const double least = p.overall.least.mm() - 2 * p.terminal.most.mm();
    const double most = p.overall.most.mm() - 2 * p.terminal.least.mm();
    const double cs = std::sqrt(cl * cl + 2 * ct * ct);
    const double between = most - ((most - least) - cs) / 2;
    SurfaceLands lands;
    double z = p.overall.least.mm() + 2 * toe + rootOf(cl, f, place);
    double g = between - 2 * heel - rootOf(cs, f, place);
    double x = p.width.least.mm() + 2 * side + rootOf(cw, f, place);
    lands.z = Length::fromMm(z);
    lands.g = Length::fromMm(g);
    lands.x = Length::fromMm(x);
    lands.chain = {step("outside over both lands, Z", "{} + 2 x toe {} + {}",
                        {p.overall.least.mm(), toe, rootOf(cl, f, place)}, z),
                   step("between them, G", "{} - 2 x heel {} - {}", {between, heel, rootOf(cs, f, place)}, g),
                   step("width, X", "{} + 2 x side {} + {}", {p.width.least.mm(), side, rootOf(cw, f, place)}, x)};
    if (g < leastGap.mm()) {
        g = leastGap.mm();
        lands.trimmed = "trimmed at the heel, to keep the copper apart";
        lands.chain.push_back(step("at least, for the copper's distance", "", {}, g));
    }
    if (pitch > Length() && x > (pitch - leastGap).mm()) {
        x = (pitch - leastGap).mm();
        lands.trimmed = lands.trimmed.empty() ? "trimmed at the sides, to keep neighbours apart"
                                              : "trimmed at the heel and at the sides, to keep the copper apart";
        lands.chain.push_back(step("width, at most beside its neighbour", "{} - {}", {pitch.mm(), leastGap.mm()}, x));
    }
    // Rounding never brings copper nearer than its limit.
    lands.length = rounded((z - g) / 2);
    lands.apart = rounded((z + g) / 2);
    if ((lands.apart - lands.length) < leastGap) lands.length = lands.apart - leastGap;
    lands.width = rounded(x);
    if (pitch > Length()) lands.width = min(lands.width, pitch - leastGap);
    return lands;
}

}  // namespace punch
