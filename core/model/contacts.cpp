#include "core/model/contacts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"

namespace punch {
namespace {

/// Half of what flat jaws span over a feature along the line (lx, ly) of length d: its radius, or half of the extent of
/// a rectangle in that direction. It turns with the line, so its derivatives go through both coordinates.
Expr halfAlong(const Feature& f, const Expr& lx, const Expr& ly, const Expr& d) {
    if (f.round) return f.halfX;
    Expr dx = lx;
    Expr dy = ly;
    if (f.turn) {
        const Expr c = cosDegrees(*f.turn);
        const Expr s = sinDegrees(*f.turn);
        dx = c * lx + s * ly;
        dy = c * ly - s * lx;
    }
    return f.halfAlong(abs(dx) / d, abs(dy) / d);
}

bool isFaceContact(Contact c) { return c == Contact::FaceNear || c == Contact::FaceFar || c == Contact::FaceCentre; }

tl::unexpected<Problem> notThere(std::string what) { return problem(std::move(what), {}, "Choose another contact"); }

Expr withHalves(Contact contact, const Expr& between, const Expr& ha, const Expr& hb) {
    if (contact == Contact::Outside) return between + ha + hb;
    if (contact == Contact::Inside) return between - ha - hb;
    return between;
}

Result<Expr> sizeExpr(const Reading& r, const Feature& a) {
    if (a.kind == FeatureKind::Face) return notThere("a face has no size of its own");
    if (r.contact == Contact::Rim && !a.round) return notThere("only a round feature has a rim");
    if (r.contact == Contact::Rim) return 2.0 * a.halfX;
    if (r.axis == Axis::Direct && !a.round) return notThere("only a round feature has a diameter");
    if (r.axis == Axis::Height) return a.height ? Result<Expr>(*a.height) : notThere("this feature has no height");
    if (a.halfX.gradient().empty() && a.halfX.value() == 0) return notThere("a mark has no size");
    if (r.atEnd) {
        if (!a.endX) return notThere("the lead's end is as its shank: say in Place how it is formed");
        return 2.0 * (r.axis == Axis::Across ? *a.endY : *a.endX);
    }
    return 2.0 * (r.axis == Axis::Across ? a.halfY : a.halfX);
}

Result<Expr> angleExpr(const Reading& r, const Feature& a, const Feature& b, const Feature* c) {
    const auto hasPlace = [](const Feature& f) { return f.kind == FeatureKind::Pin || f.kind == FeatureKind::Spot; };
    if (!hasPlace(a) || !hasPlace(b) || (c != nullptr && !hasPlace(*c)))
        return notThere("an angle is between pins, pegs or holes");
    if (c == nullptr) {
        const Expr angle = atan2Degrees(b.y - a.y, b.x - a.x);
        return r.fromBelow ? Expr(180) - angle : angle;
    }
    const Expr from = atan2Degrees(a.y - b.y, a.x - b.x);
    Expr turn = atan2Degrees(c->y - b.y, c->x - b.x) - from;
    if (turn.value() > 180) turn = turn - Expr(360);
    if (turn.value() < -180) turn = turn + Expr(360);
    return abs(turn);
}

}  // namespace

double drawnSign(const Reading& r, const Feature* a, const Feature* b) {
    if (a == nullptr || b == nullptr) return 1;
    const Axis axis = a->kind == FeatureKind::Face && b->kind == FeatureKind::Face ? a->faceAxis : r.axis;
    return b->coordinate(axis).value() < a->coordinate(axis).value() ? -1.0 : 1.0;
}

bool sameContact(const Reading& a, const Reading& b) {
    const bool either = !a.isSigned && a.contact != Contact::Angle;
    const bool same = (a.a == b.a && a.b == b.b) || (either && a.a == b.b && a.b == b.a);
    return same && a.c == b.c && a.contact == b.contact && a.axis == b.axis && a.isSigned == b.isSigned &&
           a.atEnd == b.atEnd;
}

FeatureId asMeant(const Reading& r, const FeatureId& id) {
    if (r.fromBelow && id == kLeftFace) return kRightFace;
    if (r.fromBelow && id == kRightFace) return kLeftFace;
    return id;
}

Result<Expr> contactExpr(const Reading& r, const Feature* a, const Feature* b, const Feature* c, double sign) {
    const Feature& fa = *a;
    if (r.contact == Contact::Size || r.contact == Contact::Rim) return sizeExpr(r, fa);
    if (b == nullptr) return notThere("it needs two features");
    const Feature& fb = *b;
    if (r.a == r.b) return notThere("both ends are the same feature");
    if (r.contact == Contact::Angle) return angleExpr(r, fa, fb, c);
    const bool faceA = fa.kind == FeatureKind::Face;
    const bool faceB = fb.kind == FeatureKind::Face;
    if (r.axis == Axis::Height || (faceA && fa.faceAxis == Axis::Height) || (faceB && fb.faceAxis == Axis::Height)) {
        if (!fa.z || !fb.z) return notThere("a height is read between levels: top, seating plane, lead tip");
        const Expr between = sign * (*fb.z - *fa.z);
        if (between.gradient().empty() && between.value() == 0) return notThere("both are at the same level");
        return between;
    }
    if (isFaceContact(r.contact)) {
        // The face may stand at either end of the reading; its distance to the other feature is inwards.
        const Feature& face = faceA ? fa : fb;
        const Feature& other = faceA ? fb : fa;
        if (!(faceA || faceB) || (faceA && faceB)) return notThere("one end must be a face, the other a pin or a peg");
        const Expr inwards =
            static_cast<double>(face.side) * (face.coordinate(face.faceAxis) - other.coordinate(face.faceAxis));
        const Expr h = other.half(face.faceAxis);
        if (r.contact == Contact::FaceNear) return inwards - h;
        if (r.contact == Contact::FaceFar) return inwards + h;
        return inwards;
    }
    if (faceA || faceB) {
        if (faceA != faceB || fa.faceAxis != fb.faceAxis)
            return notThere("this contact needs two parallel faces, or two pins or pegs");
        const double way = r.isSigned ? 1.0 : sign;
        return way * (fb.coordinate(fa.faceAxis) - fa.coordinate(fa.faceAxis));
    }
    if (fa.kind == FeatureKind::Body || fb.kind == FeatureKind::Body)
        return notThere("the body is read from one of its faces");
    if (r.axis == Axis::Direct) {
        const Expr dx = fb.x - fa.x;
        const Expr dy = fb.y - fa.y;
        const Expr d = hypot(dx, dy);
        if (r.contact == Contact::Centres) return d;
        return withHalves(r.contact, d, halfAlong(fa, dx, dy, d), halfAlong(fb, dx, dy, d));
    }
    const Expr between = fb.coordinate(r.axis) - fa.coordinate(r.axis);
    if (r.isSigned) {
        if (r.contact != Contact::Centres) return notThere("only a centre to centre reading has a sign");
        return r.fromBelow && r.axis == Axis::Along ? -between : between;
    }
    return withHalves(r.contact, sign * between, fa.half(r.axis), fb.half(r.axis));
}

// ------------------------------------------------------------------ words

FeatureNames::FeatureNames(const Part& part) : part_(part), numbers_(pinNumbers(part)) {}

const std::string* FeatureNames::pin(const FeatureId& id) const {
    const auto it = numbers_.find(id);
    return it == numbers_.end() ? nullptr : &it->second;
}

std::string FeatureNames::words(const FeatureId& id) const {
    if (const std::string* number = pin(id)) return "pin " + *number;
    return featureWords(part_, id);
}

std::string readingWords(const Part& part, const Reading& r) { return readingWords(part, r, FeatureNames(part)); }

std::string readingWords(const Part& part, const Reading& r, const FeatureNames& names) {
    if (r.contact == Contact::Quantity) return fmt::format("{}, a named value", r.name);
    if (r.contact == Contact::PictureLength) return "known length in the picture";
    if (r.contact == Contact::PictureLevel) return "level in the picture";
    if (r.contact == Contact::Picture)
        return names.words(r.a) + (r.axis == Axis::Across ? ", y in picture" : ", x in picture");
    const std::string a = names.words(r.a);
    const std::string below = r.fromBelow ? ", from below" : "";
    if (r.contact == Contact::Rim) return a + ", diameter from three chords";
    if (r.contact == Contact::Size) {
        const Spot* spot = spotOf(part, r.a);
        if (r.axis == Axis::Height) return a + (r.a == kBody ? ", height" : ", length");
        if (r.a == kBody) return a + (r.axis == Axis::Across ? ", across" : ", along the row");
        const Formation* f = spot == nullptr ? formationOf(part, r.a) : nullptr;
        const bool round = spot != nullptr ? !spot->flat : f != nullptr && shapeOf(part, *f).lead == LeadShape::Round;
        if (r.atEnd) return a + (r.axis == Axis::Across ? ", thickness of its end" : ", width of its end");
        if (round) return a + ", diameter";
        return a + (r.axis == Axis::Across ? ", thickness" : ", width");
    }
    const std::string b = names.words(r.b);
    const bool pins = names.pin(r.a) != nullptr && names.pin(r.b) != nullptr;
    const std::string both =
        pins ? fmt::format("pins {} and {}", *names.pin(r.a), *names.pin(r.b)) : fmt::format("{} and {}", a, b);
    if (r.contact == Contact::Angle)
        return (r.c.empty() ? fmt::format("{} to {}, angle", a, b)
                            : fmt::format("{}, {}, {}, angle", a, b, names.words(r.c))) +
               below;
    if (r.axis == Axis::Height) return both + ", height";
    if (r.contact == Contact::FaceNear) return fmt::format("{} to {}, near edge{}", a, b, below);
    if (r.contact == Contact::FaceFar) return fmt::format("{} to {}, far edge{}", a, b, below);
    if (r.contact == Contact::FaceCentre) return fmt::format("{} to {}, centre{}", a, b, below);
    const std::string way = r.axis == Axis::Direct ? ", direct" : r.axis == Axis::Across ? ", across" : ", along";
    const std::string contact = r.isSigned                      ? "coordinate"
                                : r.contact == Contact::Outside ? "outside"
                                : r.contact == Contact::Inside  ? "inside"
                                                                : "centres";
    // Pins of one row are read along it; saying so each time would only lengthen the line.
    bool oneRow = false;
    if (pins && r.axis == Axis::Along && !r.isSigned) {
        const Formation* f = formationOf(part, r.a);
        oneRow = f != nullptr && shapeOf(part, *f).kind == FormationKind::Row && f == formationOf(part, r.b);
    }
    return both + (oneRow ? "" : way) + ", " + contact + below;
}

std::string readingShortWords(const Part& part, const Reading& r) {
    if (r.b.empty()) return readingWords(part, r);
    const FeatureNames names(part);
    const auto name = [&](const FeatureId& id) {
        const std::string* number = names.pin(id);
        return number == nullptr ? names.words(id) : *number;
    };
    const std::string whole = readingWords(part, r, names);
    const bool face = isFaceContact(r.contact);
    const std::string third = r.c.empty() ? "" : " ∠ " + name(r.c);
    const auto comma = r.c.empty() ? whole.find(',') : whole.rfind(", angle");
    return name(r.a) + (face ? " → " : " ↔ ") + name(r.b) + third + whole.substr(std::min(comma, whole.size()));
}

std::vector<ContactChoice> contactChoices(const Part& part, const FeatureId& a, const FeatureId& b) {
    const bool faceA = isFace(part, a);
    const bool faceB = isFace(part, b);
    if (b.empty()) {
        if (a == kBody)
            return {{Contact::Size, Axis::Along}, {Contact::Size, Axis::Across}, {Contact::Size, Axis::Height}};
        if (faceA) return {};
        if (const Spot* spot = spotOf(part, a)) {
            if (spot->flat) return {{Contact::Size, Axis::Along}, {Contact::Size, Axis::Across}};
            if (spot->kind == SpotKind::Mark) return {};
            return {{Contact::Size, Axis::Along}, {Contact::Rim, Axis::Along}};
        }
        const Formation* f = formationOf(part, a);
        if (f == nullptr) return {};
        const LeadShape lead = shapeOf(part, *f).lead;
        std::vector<ContactChoice> choices = {{Contact::Size, Axis::Along}};
        if (lead == LeadShape::Rectangular || lead == LeadShape::Oval) choices.push_back({Contact::Size, Axis::Across});
        choices.push_back({Contact::Size, Axis::Height});
        if (lead == LeadShape::Round) choices.push_back({Contact::Rim, Axis::Along});
        if (shapeOf(part, *f).end != LeadEnd::Plain)
            for (const Axis axis : {Axis::Along, Axis::Across}) choices.push_back({Contact::Size, axis, true});
        return choices;
    }
    if (a == kBody || b == kBody || a == b) return {};
    if (faceA && faceB) {
        if (faceAxis(part, a) != faceAxis(part, b)) return {};
        return {{Contact::Outside, faceAxis(part, a)}};
    }
    if (faceA || faceB) {
        const FeatureId& face = faceA ? a : b;
        const FeatureId& other = faceA ? b : a;
        const Axis axis = faceAxis(part, face);
        if (axis == Axis::Height)
            return formationOf(part, other) != nullptr ? std::vector<ContactChoice>{{Contact::Outside, axis}}
                                                       : std::vector<ContactChoice>{};
        return {{Contact::FaceNear, axis}, {Contact::FaceFar, axis}, {Contact::FaceCentre, axis}};
    }
    const Formation* fa = formationOf(part, a);
    const bool sameRow = fa != nullptr && fa == formationOf(part, b) && shapeOf(part, *fa).kind == FormationKind::Row;
    std::vector<ContactChoice> choices = {
        {Contact::Outside, Axis::Along}, {Contact::Inside, Axis::Along}, {Contact::Centres, Axis::Along}};
    for (const Axis axis : {Axis::Across, Axis::Direct})
        for (const Contact contact : {Contact::Outside, Contact::Inside, Contact::Centres})
            if (!sameRow || axis == Axis::Direct) choices.push_back({contact, axis});
    choices.push_back({Contact::Angle, Axis::Direct});
    // Pins of two rows that face each other are read across first.
    if (fa != nullptr && !sameRow && fa == formationOf(part, b) && !traitsOf(shapeOf(part, *fa)).around) {
        const auto slots = slotsOf(part, *fa);
        const auto rowOf = [&](const FeatureId& id) {
            return slots[static_cast<std::size_t>(std::find(fa->pins.begin(), fa->pins.end(), id) - fa->pins.begin())]
                .row;
        };
        if (rowOf(a) != rowOf(b)) std::rotate(choices.begin(), choices.begin() + 3, choices.begin() + 6);
    } else if (fa != nullptr && fa == formationOf(part, b) && !sameRow) {
        std::rotate(choices.begin(), choices.begin() + 6, choices.begin() + 9);
    }
    return choices;
}

}  // namespace punch
