#include "core/board/laid_board.h"

#include <algorithm>
#include <atomic>
#include <thread>

#include "core/approval/approval.h"
#include "core/artwork/moved_footprint.h"
#include "core/derive.h"
#include "core/dress/stroke_text.h"
#include "core/part/file.h"

namespace punch {

PUNCH_VALUE_IS_HERE(BoardPart)
PUNCH_VALUE_IS_HERE(LaidBoard)
namespace {

void name(Shape& s, const Placing& p) {
    s.id = onBoardId(p, s.id);
    if (!s.milled.joined.empty()) s.milled.joined = onBoardId(p, s.milled.joined);
}

void name(Conductor& c, const Placing& p) {
    c.id = onBoardId(p, c.id);
    c.number = onBoardNumber(p, c.number);
    c.formation = kNoFormation;
}

template <class T>
void append(std::vector<T>& to, const std::vector<T>& from) {
    to.insert(to.end(), from.begin(), from.end());
}

/// Same name, same voltage: one net, whichever part names it.
void addPotentials(const LaidPart& part, Part& whole) {
    for (const Potential& p : part.of.part.potentials) {
        Potential here = p;
        here.pins.clear();
        auto it = std::find_if(whole.potentials.begin(), whole.potentials.end(), [&](const Potential& other) {
            return other.name == p.name && other.kind == p.kind && other.volts == p.volts && other.source == p.source &&
                   other.phase == p.phase;
        });
        if (it == whole.potentials.end()) it = whole.potentials.insert(it, here);
        for (const FeatureId& id : p.pins) it->pins.push_back(onBoardId(part.placing, id));
    }
}

void add(const LaidPart& part, LaidBoard& to) {
    const Placing& p = part.placing;
    const Footprint& f = part.lies;
    Footprint& all = to.all;
    for (Pad pad : f.pads) {
        name(pad, p);
        all.pads.push_back(std::move(pad));
    }
    for (BareHole h : f.bareHoles) {
        h.id = onBoardId(p, h.id);
        h.name = onBoardNumber(p, h.name);
        all.bareHoles.push_back(std::move(h));
    }
    for (Conductor c : f.attached.lands) {
        name(c, p);
        all.attached.lands.push_back(std::move(c));
    }
    append(all.attached.openings, f.attached.openings);
    append(all.attached.pastes, f.attached.pastes);
    for (MarkFigure figure : f.attached.figures) {
        figure.number = onBoardNumber(p, figure.number);
        all.attached.figures.push_back(std::move(figure));
    }
    const auto shapes = [&](const std::vector<Shape>& from, std::vector<Shape>& into) {
        for (Shape s : from) {
            name(s, p);
            into.push_back(std::move(s));
        }
    };
    shapes(f.keepouts, all.keepouts);
    shapes(f.cutOuts, all.cutOuts);
    shapes(f.silkscreen, all.silkscreen);
    shapes(f.bottomSilkscreen, all.bottomSilkscreen);
    shapes(f.assembly, all.assembly);
    append(all.courtyardTop, f.courtyardTop);
    append(all.courtyardBottom, f.courtyardBottom);
    all.courtyard.add(f.courtyard);
    for (Spot spot : part.of.part.spots) {
        spot.id = onBoardId(p, spot.id);
        to.whole.spots.push_back(std::move(spot));
    }
    addPotentials(part, to.whole);
}

void addOwn(LaidBoard& to) {
    for (const BoardHole& h : to.board.holes) {
        BareHole hole;
        hole.id = ":" + h.id;
        hole.name = h.id;
        hole.kind = SpotKind::MountingHole;
        hole.at = h.at;
        hole.size = h.diameter;
        hole.sizeLargest = h.diameter + to.whole.rules.bareTolerance;
        hole.firm = hole.sized = true;
        to.all.bareHoles.push_back(std::move(hole));
    }
    for (const Point& at : to.board.fiducials) {
        Conductor c;
        c.id = ":fiducial";
        c.at = at;
        c.layers = PadLayers::Top;
        c.top = {LandShape::Round, at, ProofBoard::fiducialCopper(), ProofBoard::fiducialCopper(), {}, {}};
        c.maskMargin = (ProofBoard::fiducialOpening() - ProofBoard::fiducialCopper()) / 2;
        c.fiducial = c.firm = c.sized = true;
        to.all.attached.lands.push_back(std::move(c));
    }
    for (const BoardText& t : to.board.texts) {
        const Length line = max(Length::fromMm(0.12), t.height / 7);
        for (Shape s : strokeText(t.text, {}, t.height, line, "text"))
            (t.bottom ? to.all.bottomSilkscreen : to.all.silkscreen)
                .push_back(moved(std::move(s), {t.at, {}, t.bottom}));
    }
}

}  // namespace

std::string onBoardId(const Placing& placing, const FeatureId& id) { return placing.designator + ":" + id; }

std::string onBoardNumber(const Placing& placing, const std::string& number) {
    return number.empty() ? number : placing.designator + "-" + number;
}

std::string designatorIn(const FeatureId& id) {
    const std::size_t colon = id.find(':');
    return colon == std::string::npos ? std::string() : id.substr(0, colon);
}

BoardPart boardPart(Part part, const std::string& designator) {
    BoardPart made;
    // Approval is of the part as it is kept, with its class letter.
    const Part kept = part;
    part.reference = designator;
    made.footprint = derive(part);
    made.standing = standingWords(standingOf(kept, made.footprint));
    made.part = std::move(part);
    return made;
}

std::vector<BoardPart> boardParts(const TrialBoard& board, const std::filesystem::path& folder) {
    std::vector<BoardPart> all(board.placings.size());
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        for (std::size_t i = next++; i < all.size(); i = next++) {
            const Placing& p = board.placings[i];
            const auto part = loadPart(folder / p.file);
            if (part)
                all[i] = boardPart(*part, p.designator);
            else
                all[i].trouble = part.error().text();
        }
    };
    std::vector<std::thread> threads;
    for (unsigned i = 1; i < std::min<std::size_t>(std::max(1U, std::thread::hardware_concurrency()), all.size()); ++i)
        threads.emplace_back(work);
    work();
    for (std::thread& t : threads) t.join();
    return all;
}

LaidBoard laidBoard(const TrialBoard& board, std::vector<BoardPart> parts) {
    LaidBoard laid;
    laid.board = board;
    laid.rings = ringsOf(board.outline);
    laid.whole.name = board.name;
    laid.whole.body.present = false;
    for (std::size_t i = 0; i < board.placings.size() && i < parts.size(); ++i) {
        LaidPart part{board.placings[i], std::move(parts[i]), {}};
        if (part.there()) {
            // Rules that differ between parts are judged each by themselves (board_check); layers need one.
            if (std::none_of(laid.parts.begin(), laid.parts.end(), [](const LaidPart& p) { return p.there(); }))
                laid.whole.rules = part.of.part.rules;
            part.lies = moved(part.of.footprint, part.placing.frame(), board.thickness);
        }
        laid.parts.push_back(std::move(part));
    }
    laid.whole.rules.boardThickness = board.thickness;
    for (const LaidPart& part : laid.parts)
        if (part.there()) add(part, laid);
    addOwn(laid);
    laid.all.name = board.name;
    laid.outline.name = board.name;
    laid.outline.rings = laid.rings;
    laid.outline.outline = boundsOf(laid.rings);
    return laid;
}

}  // namespace punch
