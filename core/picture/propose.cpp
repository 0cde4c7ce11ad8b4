#include "core/picture/propose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "core/base/angle.h"
#include "core/picture/recognise_among.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

constexpr double kMissedContrast = 24;  // grey levels of contrast under which pins may have been missed
constexpr double kSameMetal = 0.65;     // contrast of a thicker pin by that of the others
constexpr double kHoleDark = 0.42;      // level inside by that around it, under which something dark is a hole
constexpr double kBrightBody = 110;     // grey level from which a body is bright

using Indices = std::vector<std::size_t>;

/// Not yet straightened: mm, x right, y up, seen from the part side, from the picture's first pixel.
FoundPlace placeOf(const SeenFeature& f, const PictureScale& s, bool fromBelow) {
    return {(fromBelow ? -1 : 1) * f.rim.centre.x * s.x, -f.rim.centre.y * s.y, f.rim.u * (s.x + s.y) / 2};
}

double smallSide(const SeenFeature& f, const PictureScale& s) { return f.rim.height * (s.x + s.y) / 2; }
double longSide(const SeenFeature& f, const PictureScale& s) { return f.rim.width * (s.x + s.y) / 2; }

/// Of one make: the same tone against what is around it, about the same size.
bool alike(const SeenFeature& a, const SeenFeature& b, const PictureScale& s) {
    if (a.bright != b.bright || a.inner.has_value() != b.inner.has_value()) return false;
    const auto near = [](double x, double y) { return std::abs(x - y) < std::max(0.18 * std::max(x, y), 0.1); };
    const double ca = std::abs(a.rim.contrast);
    const double cb = std::abs(b.rim.contrast);
    return near(smallSide(a, s), smallSide(b, s)) && near(longSide(a, s), longSide(b, s)) &&
           std::min(ca, cb) > 0.45 * std::max(ca, cb);
}

std::vector<Indices> groupsOf(const std::vector<FoundFeature>& features, const Indices& among, const PictureScale& s) {
    std::vector<Indices> groups;
    for (const std::size_t i : among) {
        auto group = std::find_if(groups.begin(), groups.end(), [&](const auto& g) {
            return std::any_of(g.begin(), g.end(),
                               [&](std::size_t j) { return alike(features[i].seen, features[j].seen, s); });
        });
        if (group == groups.end())
            groups.push_back({i});
        else
            group->push_back(i);
    }
    // The largest group has the pins; of equal ones that with the stronger contrast.
    std::stable_sort(groups.begin(), groups.end(), [&](const auto& a, const auto& b) {
        if (a.size() != b.size()) return a.size() > b.size();
        return std::abs(features[a[0]].seen.rim.contrast) > std::abs(features[b[0]].seen.rim.contrast);
    });
    return groups;
}

struct Choice {
    RecognisedFormation formation;
    Indices members;
    double score = 0;
};

class Proposal {
public:
    Proposal(Found& found, bool fromBelow) : found_(found), features_(found.features), fromBelow_(fromBelow) {}

    std::vector<FoundPlace> placesOf(const Indices& members) const {
        std::vector<FoundPlace> places;
        for (const std::size_t i : members) places.push_back(placeOf(features_[i].seen, found_.scale, fromBelow_));
        return places;
    }

    /// Formations among some features, the one that explains most first.
    std::vector<Choice> among(const Indices& members) const {
        std::vector<Choice> out;
        for (FormationAmong& f : formationsAmong(placesOf(members))) {
            Choice c{std::move(f.formation), {}, f.score};
            for (const int m : f.members) c.members.push_back(members[static_cast<std::size_t>(m)]);
            out.push_back(std::move(c));
        }
        return out;
    }

    /// The pins of one body, and further formations beside them.
    std::vector<Choice> ofBody(const Indices& here) const {
        std::vector<Choice> best;
        const auto take = [&](std::vector<Choice> c, double margin) {
            if (!c.empty() && (best.empty() || c.front().score > best.front().score + margin)) best = std::move(c);
        };
        for (const Indices& group : groupsOf(features_, here, found_.scale)) {
            if (!best.empty() && static_cast<double>(group.size()) <= best.front().score) break;
            if (group.size() == 1 && !best.empty()) break;
            take(among(group), 0.01);
        }
        // Pins of different make (a common one that is thicker) may still be one pattern.
        if (best.empty() || best.front().members.size() < 2) {
            Indices all;
            for (const std::size_t i : here)
                if (features_[i].seen.bright) all.push_back(i);
            if (all.size() >= 2) take(among(all), 0.01);
        }
        if (!best.empty()) withThicker(best.front(), here);
        return best;
    }

    /// Pins of another size that stand on the pattern (thicker ends) belong to it, when they are of the same metal.
    void withThicker(Choice& c, const Indices& here) const {
        if (c.members.size() < 3) return;
        std::vector<double> contrasts, heights;
        for (const std::size_t i : c.members) {
            contrasts.push_back(std::abs(features_[i].seen.rim.contrast));
            heights.push_back(features_[i].seen.rim.height);
        }
        const double contrast = median(contrasts), height = median(heights);
        const bool bright = features_[c.members.front()].seen.bright;
        for (bool more = true; more;) {
            more = false;
            for (const std::size_t i : here) {
                const SeenFeature& f = features_[i].seen;
                if (std::find(c.members.begin(), c.members.end(), i) != c.members.end() || f.bright != bright) continue;
                if (std::abs(f.rim.contrast) < kSameMetal * contrast || f.rim.height > 2.2 * height ||
                    f.rim.height < 0.5 * height || f.lined)
                    continue;
                Indices with = c.members;
                with.push_back(i);
                auto f2 = recogniseFormation(placesOf(with));
                if (!f2 || f2->kind != c.formation.kind || f2->leftOut.size() > c.formation.leftOut.size() ||
                    f2->rearPitch.has_value() != c.formation.rearPitch.has_value() ||
                    f2->rowShift.has_value() != c.formation.rowShift.has_value() || f2->arc != c.formation.arc ||
                    f2->rows.size() != c.formation.rows.size())
                    continue;
                if (c.formation.pitch && std::abs(f2->pitch->value / c.formation.pitch->value - 1) > 0.03) continue;
                c = {std::move(*f2), std::move(with), c.score + 1};
                more = true;
                break;
            }
        }
    }

    /// Bodies by their features; all on one where bodies were not told apart.
    std::vector<Indices> bodies() const {
        std::map<int, Indices> by;
        for (std::size_t i = 0; i < features_.size(); ++i) by[features_[i].body].push_back(i);
        std::vector<Indices> out;
        for (auto& [body, members] : by) out.push_back(std::move(members));
        return out;
    }

    void note(NoteAbout about, std::string text) { found_.notes.push_back({about, std::move(text)}); }

private:
    Found& found_;
    std::vector<FoundFeature>& features_;
    bool fromBelow_;
};

/// On a bright body pins are darker than what is around them, but not as dark as a hole.
bool isDarkPin(const SeenFeature& f) { return !f.bright && f.around > kBrightBody && f.level > kHoleDark * f.around; }

FoundKind kindOf(const SeenFeature& f, bool member) {
    if (f.inner) return FoundKind::Pad;
    if (!f.bright && !(member && isDarkPin(f))) return FoundKind::Hole;
    if (member) return FoundKind::Pin;
    return f.rim.shape == RimShape::Round ? FoundKind::Peg : FoundKind::Lug;
}

/// Outside the pattern only what is clearly there counts: dust comes in all shapes. Empty when it is.
std::string unclear(const SeenFeature& f, const PictureScale& s) {
    if (f.onRuler) return "where the ruler has its numbers";
    if (f.lined) return "lettering";
    if (smallSide(f, s) <= 0.55) return "too small for a peg or a hole";
    if (f.confidence <= 0.62 || f.rim.found <= 0.8) return "its rim is not clear enough";
    return {};
}

std::string placeWords(const FoundFeature& f) {
    return fmt::format("{:.0f}, {:.0f}", f.seen.rim.centre.x, f.seen.rim.centre.y);
}

double sureOf(const Choice& c, std::size_t strangers) {
    const double members = static_cast<double>(c.members.size()),
                 empty = static_cast<double>(c.formation.leftOut.size());
    double sure = members / (members + static_cast<double>(strangers)) * (1 - 0.5 * empty / (members + empty));
    if (c.formation.rearPitch) sure *= 0.85;
    if (c.formation.rowShift) sure *= 0.9;
    if (members < 3) sure *= 0.7;
    return sure;
}

/// Where everything stands in the straightened frame.
void lay(Found& found, double turn, bool fromBelow) {
    const double c = std::cos(turn * kRadians);
    const double s = std::sin(turn * kRadians);
    double left = 1e18, right = -1e18, bottom = 1e18, top = -1e18;
    for (FoundFeature& f : found.features) {
        const FoundPlace p = placeOf(f.seen, found.scale, fromBelow);
        f.x = c * p.x + s * p.y;
        f.y = -s * p.x + c * p.y;
        f.u = p.u;
        // Lengths along a slanted direction see both scales.
        const double a = f.seen.rim.turn * kRadians, mean = (found.scale.x + found.scale.y) / 2;
        const double alongScale = std::hypot(std::cos(a) * found.scale.x, std::sin(a) * found.scale.y);
        const double acrossScale = std::hypot(std::sin(a) * found.scale.x, std::cos(a) * found.scale.y);
        const bool round = f.seen.rim.shape == RimShape::Round;
        f.width = f.seen.rim.width * (round ? mean : alongScale);
        f.height = f.seen.rim.height * (round ? mean : acrossScale);
        // The rim offset counts on both sides of a size.
        f.uSize = std::hypot(f.seen.rim.uSize, 2 * f.seen.rim.offset / 1.96) * mean;
        const double drawn = (fromBelow ? 1 : -1) * f.seen.rim.turn - turn;
        f.rotation = round ? 0.0 : std::remainder(drawn, 180.0);
        left = std::min(left, f.x);
        right = std::max(right, f.x);
        bottom = std::min(bottom, f.y);
        top = std::max(top, f.y);
    }
    for (FoundFeature& f : found.features) {
        f.x -= (left + right) / 2;
        f.y -= (bottom + top) / 2;
    }
}

}  // namespace

void propose(Found& found, bool fromBelow) {
    found.formation.reset();
    found.direction = found.angle = found.uAngle = found.sure = 0;
    found.others.clear();
    std::erase_if(found.notes, [](const FindNote& n) {
        return n.about == NoteAbout::Formation || n.about == NoteAbout::LeftOut || n.about == NoteAbout::Missing;
    });
    std::vector<FoundFeature>& features = found.features;
    for (FoundFeature& f : features) f.slot = -1;
    Proposal proposal(found, fromBelow);
    std::vector<Choice> choices;
    const auto bodies = proposal.bodies();
    for (const Indices& here : bodies)
        for (Choice& c : proposal.ofBody(here)) choices.push_back(std::move(c));
    std::stable_sort(choices.begin(), choices.end(),
                     [](const Choice& a, const Choice& b) { return a.score > b.score; });
    // A second part has a pattern of its own; two places alone are none.
    if (!choices.empty())
        std::erase_if(choices, [&](const Choice& c) {
            return &c != &choices.front() && (c.members.size() < 3 || c.score < 2.5) &&
                   !(c.members.size() == 2 && bodies.size() > 1 && features[c.members.front()].seen.confidence > 0.8);
        });

    double turn = 0;
    std::vector<int> part(features.size(), -1);
    for (std::size_t k = 0; k < choices.size(); ++k)
        for (const std::size_t i : choices[k].members) part[i] = static_cast<int>(k);
    if (!choices.empty()) {
        Choice& choice = choices.front();
        found.formation = choice.formation;
        const bool ring = found.formation->kind == FormationKind::Ring;
        turn = ring ? found.formation->turn : std::remainder(found.formation->turn, 90.0);
        found.direction = ring ? 0.0 : std::abs(std::remainder(found.formation->turn - turn, 180.0)) > 45 ? 90.0 : 0.0;
        if (choice.members.size() > 1) {
            found.angle = (fromBelow ? -1 : 1) * turn;
            found.uAngle = found.formation->uTurn;
        }
        for (std::size_t k = 0; k < found.formation->positions.size(); ++k)
            features[choice.members[static_cast<std::size_t>(found.formation->positions[k].place)]].slot =
                static_cast<int>(k);
        std::size_t strangers = 0;
        std::string where;
        for (std::size_t i = 0; i < features.size(); ++i)
            if (part[i] < 0 && features[i].body == features[choice.members.front()].body &&
                alike(features[i].seen, features[choice.members.front()].seen, found.scale)) {
                ++strangers;
                where += (where.empty() ? "at " : "; ") + placeWords(features[i]);
            }
        found.sure = sureOf(choice, strangers);
        if (strangers > 0)
            proposal.note(NoteAbout::LeftOut,
                          fmt::format("{} of the pins' size and tone {} outside the formation: {}", strangers,
                                      strangers == 1 ? "place stands" : "places stand", where));
        std::vector<double> contrasts;
        for (const std::size_t i : choice.members) contrasts.push_back(std::abs(features[i].seen.rim.contrast));
        const double contrast = median(contrasts);
        if (contrast > 0 && contrast < kMissedContrast)
            proposal.note(NoteAbout::Missing,
                          fmt::format("contrast is low, {:.0f} of 255 grey levels: pins may be missing; light from the "
                                      "side or another background helps",
                                      contrast));
        if (!found.formation->leftOut.empty())
            proposal.note(
                NoteAbout::Missing,
                fmt::format("{} of the pattern's places {} nothing: check whether pins are missing there",
                            found.formation->leftOut.size(), found.formation->leftOut.size() == 1 ? "shows" : "show"));
        if (found.formation->rearPitch ||
            (found.formation->rowShift && found.formation->kind == FormationKind::TwoRows))
            proposal.note(NoteAbout::Formation, "its rows do not line up: they may be two parts");
        const bool dark = !features[choice.members.front()].seen.bright;
        if (dark && std::any_of(choice.members.begin(), choice.members.end(),
                                [&](std::size_t i) { return isDarkPin(features[i].seen); }))
            proposal.note(NoteAbout::Formation,
                          "dark places on a bright body were taken for pins: they could be holes");
    }
    // Without a formation those of one make, the most of them, are the pins all the same.
    std::vector<bool> pin(features.size());
    if (choices.empty()) {
        Indices all(features.size());
        std::iota(all.begin(), all.end(), std::size_t{0});
        if (const auto groups = groupsOf(features, all, found.scale); !groups.empty())
            for (const std::size_t i : groups.front()) pin[i] = true;
    }
    // What belongs to no pattern and is not clear stays out of it.
    Indices order;
    for (std::size_t i = 0; i < features.size(); ++i) {
        const std::string why =
            part[i] >= 0 || features[i].wanted ? std::string() : unclear(features[i].seen, found.scale);
        if (why.empty())
            order.push_back(i);
        else
            found.leftOut.push_back({features[i].seen, why});
    }
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        const auto key = [&](std::size_t i) {
            return features[i].slot >= 0 ? features[i].slot : part[i] > 0 ? (1 << 28) + part[i] : 1 << 30;
        };
        return key(a) < key(b);
    });
    std::vector<FoundFeature> sorted;
    std::vector<std::size_t> at(features.size());
    for (const std::size_t i : order) {
        at[i] = sorted.size();
        sorted.push_back(features[i]);
        sorted.back().kind = kindOf(features[i].seen, part[i] >= 0 || pin[i]);
    }
    for (std::size_t k = 1; k < choices.size(); ++k) {
        OtherFormation other{choices[k].formation, {}};
        for (PatternSlot& s : other.formation.positions) {
            other.members.push_back(at[choices[k].members[static_cast<std::size_t>(s.place)]]);
            s.place = static_cast<int>(other.members.size()) - 1;
        }
        proposal.note(NoteAbout::Formation,
                      fmt::format("there is another part beside it: {}", formationWords(other.formation)));
        found.others.push_back(std::move(other));
    }
    features = std::move(sorted);
    if (found.formation)
        for (std::size_t k = 0; k < found.formation->positions.size(); ++k)
            found.formation->positions[k].place = static_cast<int>(k);
    // What is proposed beside the pins is named, so that nobody takes it unseen.
    std::map<std::string, int> beside;
    for (std::size_t k = 0; k < order.size(); ++k)
        if (part[order[k]] < 0) ++beside[foundKindName(features[k].kind)];
    std::string words;
    for (const auto& [kind, count] : beside)
        words += fmt::format("{}{} {}{}", words.empty() ? "" : ", ", count, kind, count == 1 ? "" : "s");
    if (found.formation && !words.empty())
        proposal.note(NoteAbout::LeftOut, "beside the pins: " + words + "; drop what is none");
    lay(found, turn, fromBelow);
}

}  // namespace punch
