#include "core/advise/solid_evidence.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/find_in.h"
#include "core/derive.h"
#include "core/measure/entry.h"
#include "core/model/contacts.h"
#include "core/part/edit.h"
#include "core/part/numbering.h"
#include "core/picture/take.h"

namespace punch {
namespace {

constexpr double kPixel = 0.01;    // mm to a pixel of the view that stands for the solid
constexpr double kU = 0.2;         // pixels: what a place of the model is worth; its tolerance is another matter
constexpr double kSquare = 0.995;  // of its box that a rectangle fills
constexpr const char* kTolerance = "0.1";  // mm, general

std::string titleOf(const SolidFile& s) { return "leads of " + s.name; }

PixelPoint pixel(double x, double y) { return {x / kPixel, -y / kPixel}; }

SeenFeature seen(const SolidLeadFound& l) {
    SeenFeature f;
    f.rim.shape = l.round ? RimShape::Round : RimShape::Rectangular;
    f.rim.centre = pixel(l.x, l.y);
    f.rim.width = l.along / kPixel;
    f.rim.height = l.across / kPixel;
    // Down the page angles run the other way.
    double turn = l.round ? 0 : std::remainder(-l.turn, 180.0);
    if (turn <= -90 + 1e-9) turn += 180;
    f.rim.turn = turn;
    f.rim.u = f.rim.uSize = kU;
    f.rim.uTurn = 0.01;
    f.rim.found = 1;
    f.rim.contrast = 100;
    f.confidence = 0.95;
    return f;
}

/// The source that stands for the solid, anew.
std::pair<Part, std::string> withView(Part part, const SolidFile& solid) {
    for (const Source& s : std::vector<Source>(part.sources))
        if (s.title == titleOf(solid) && s.picture.empty()) {
            std::erase_if(part.readings, [&](const Reading& r) { return r.source == s.id; });
            part = withoutPicture(std::move(part), s.id);
        }
    Source view;
    view.title = titleOf(solid);
    view.note = "seen from the part side, as " + solid.file + " has them";
    view.face = PictureFace::PartSide;
    view.dpi = 25.4 / kPixel;
    view.dpiStated = view.exactScale = true;
    // Any size that holds it.
    view.width = view.height = 1;
    return withSource(std::move(part), view);
}

/// Leads that are no part of the formation and have the section of those in it are pins all the same. How many?
std::size_t alikeBeside(Found& found) {
    const FoundFeature* in = findIn(found.features, [](const FoundFeature& f) { return f.slot >= 0; });
    if (in == nullptr) return 0;
    const double width = in->width, height = in->height;
    std::size_t count = 0;
    for (FoundFeature& f : found.features)
        if (f.slot < 0 && std::abs(f.width - width) < 0.05 && std::abs(f.height - height) < 0.05) {
            f.kind = FoundKind::Pin;
            ++count;
        }
    return count;
}

/// Each lead for itself; the view lies as its rows run, or as the file has it.
Result<Part> withEachAlone(const Part& part, const std::string& view, const Found& found) {
    TakeOptions alone;
    alone.asFormation = false;
    auto taken = withFound(part, view, found, alone);
    if (!taken) return taken;
    const double a = found.formation ? found.angle * std::numbers::pi / 180 : 0;
    return withLevel(std::move(*taken), view, pixel(0, 0), pixel(100 * std::cos(a), 100 * std::sin(a)), kU);
}

/// Do the places that were read in the view all fit what they were taken for?
bool agreesWithItself(const Part& part, const std::string& view) {
    const Footprint f = derive(part);
    for (std::size_t i = 0; i < part.readings.size(); ++i)
        if (part.readings[i].source == view &&
            (f.readings[i].state == ReadingState::InDoubt || f.readings[i].state == ReadingState::OneOf))
            return false;
    return true;
}

/// One reading as it would be typed, off the file.
void type(Part& part, const std::string& source, const std::string& words) {
    auto entry = parseEntry(part, {}, words, Unit::Mm, true);
    if (!entry) return;
    entry->reading.source = source;
    part = withReading(std::move(part), std::move(entry->reading));
}

struct Named {
    std::string number;
    const SolidLeadFound* lead = nullptr;
};

/// Lengths of the leads, one of each kind, and the body as its outline has it.
void addSizes(Part& part, const std::string& source, const SolidFile& solid) {
    const Footprint f = derive(part);
    const auto numberOf = [&](const std::string& of) {
        const Pad* p = f.pad(of);
        return p == nullptr ? std::string() : p->number;
    };
    std::vector<Named> all;
    for (const SolidLeadFound& l : solid.leads)
        if (const std::string n = numberOf(l.of); !n.empty()) all.push_back({n, &l});
    std::stable_sort(all.begin(), all.end(),
                     [](const Named& a, const Named& b) { return numberLess(a.number, b.number); });
    for (const Formation& formation : part.formations)
        for (const Named& n : all)
            if (std::find(formation.pins.begin(), formation.pins.end(), n.lead->of) != formation.pins.end()) {
                type(part, source, fmt::format("{} length {:.3f} ±{}", n.number, n.lead->length, kTolerance));
                break;
            }
    if (!part.body.present || all.empty() || solid.outline.size() < 4) return;
    type(part, source, fmt::format("body height {:.3f} ±{}", solid.height, kTolerance));
    // Its outline in the frame of the rows.
    const StandingSolid* s = findIn(f.solids, [&](const StandingSolid& of) { return of.id == solid.id; });
    if (s == nullptr) return;
    const Rect box = boundsOf(s->outline);
    const double filled = std::abs(areaOf(s->outline)) / (box.width().mm() * box.height().mm());
    const Pad* first = f.pad(all.front().lead->of);
    if (filled < kSquare || first == nullptr) return;
    type(part, source, fmt::format("body along {:.3f} ±{}", box.width().mm(), kTolerance));
    type(part, source, fmt::format("body across {:.3f} ±{}", box.height().mm(), kTolerance));
    type(part, source,
         fmt::format("left {} middle {:.3f} ±{}", first->number, (first->at.x - box.left).mm(), kTolerance));
    type(part, source,
         fmt::format("front {} middle {:.3f} ±{}", first->number, (first->at.y - box.bottom).mm(), kTolerance));
}

/// Its leads, now that there are holes: which is which, and where it stands.
void standOn(Part& part, const std::string& id) {
    const Footprint f = derive(part);
    SolidFile* solid = nullptr;
    for (SolidFile& s : part.solids)
        if (s.id == id) solid = &s;
    Standing standing;
    standing.pose = standingPose(*solid);
    standing.height = solid->height;
    for (const SolidLeadFound& l : solid->leads) {
        SolidLead lead;
        lead.at = {l.x, l.y};
        lead.section.along = l.along;
        lead.section.across = l.across;
        lead.section.turn = l.turn;
        lead.section.round = l.round;
        lead.length = l.length;
        standing.leads.push_back(lead);
    }
    const auto sockets = socketsOf(f);
    const auto poses = fitPoses({standing}, sockets);
    if (!poses.empty()) *solid = placedBy(*solid, poses.front(), sockets);
}

}  // namespace

Result<Part> withSolidLeads(const Part& part, const Footprint& footprint, const std::string& id) {
    const SolidFile* solid = solidById(part, id);
    if (solid == nullptr) return problem("there is no such body", id);
    if (solid->leads.empty())
        return problem("no leads were found in it", solid->name, "Turn it so that its leads point down");
    const StandingSolid* stands = findIn(footprint.solids, [&](const StandingSolid& s) { return s.id == id; });
    std::size_t met = 0;
    for (const SolidLeadFound& l : solid->leads)
        met += footprint.pad(l.of) != nullptr || footprint.bareHole(l.of) != nullptr;
    auto [next, source] = withView(part, *solid);
    if (met > 0) {
        for (std::size_t i = 0; i < solid->leads.size(); ++i) {
            const SolidLeadFound& l = solid->leads[i];
            // A lead that stands off the others is bent, or another: it says nothing of its hole.
            const StandingLead* now = stands == nullptr
                                          ? nullptr
                                          : findIn(stands->leads, [&](const StandingLead& s) { return s.index == i; });
            if (now == nullptr || now->of.empty() || !now->counted) continue;
            next = withPick(std::move(next), source, l.of, pixel(l.x, l.y), kU,
                            l.round ? std::optional<double>(l.along / kPixel) : std::nullopt, kU);
        }
    } else {
        std::vector<SeenFeature> all;
        for (const SolidLeadFound& l : solid->leads) all.push_back(seen(l));
        PictureScale scale;
        scale.x = scale.y = kPixel;
        Found found = proposalFrom(all, scale, false);
        const bool whole = alikeBeside(found) == 0 && found.formation.has_value();
        auto taken = whole ? withFound(next, source, found, TakeOptions()) : withEachAlone(next, source, found);
        // Its leads are no such formation after all: each stands for itself.
        if (taken && whole && !agreesWithItself(*taken, source)) taken = withEachAlone(next, source, found);
        if (!taken) return taken;
        next = std::move(*taken);
        standOn(next, id);
    }
    addSizes(next, source, *solidById(next, id));
    return next;
}

std::vector<std::string> solidDisagreements(const Part& part, const Footprint& footprint, const std::string& id) {
    std::vector<std::string> words;
    const SolidFile* solid = solidById(part, id);
    if (solid == nullptr) return words;
    const Source* view =
        findIn(part.sources, [&](const Source& s) { return s.title == titleOf(*solid) && s.picture.empty(); });
    if (view == nullptr) return words;
    // The file's own first; where calipers are the few against it, those.
    for (const bool own : {true, false})
        for (std::size_t i = 0; i < part.readings.size() && i < footprint.readings.size(); ++i) {
            const ReadingState state = footprint.readings[i].state;
            if ((part.readings[i].source == view->id) == own &&
                (state == ReadingState::InDoubt || state == ReadingState::OneOf))
                words.push_back(readingWords(part, part.readings[i]));
        }
    return words;
}

}  // namespace punch
