#pragma once
// From a picture to a proposal: its scale, how far it is turned, what stands in it, and the formation they make.
//
// Nothing here is taken for granted: the user looks at the proposal and takes it, or parts of it (picture/take.h).

#include <optional>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/model/picture_scale.h"
#include "core/picture/find_features.h"
#include "core/picture/picture.h"
#include "core/picture/recognise.h"
#include "core/picture/ruler.h"

namespace punch {

struct FindOptions {
    std::vector<ScalePair> pairs;  ///< known lengths; they go before everything else
    std::optional<Dpi> dpi;        ///< what the user says; goes before the file
    bool lookForRuler = true;
    /// Which of the rulers that were found counts, by its place in Found::rulers; none: the believed ones.
    std::optional<std::size_t> ruler;
    /// Rulers that are none after all, by their places in Found::rulers: their marks may be pins.
    std::vector<std::size_t> refused;
    /// What goes before the other where ruler and dpi differ; none: the ruler.
    std::optional<ScaleFrom> scaleBy;
    bool fromBelow = true;              ///< the solder face is seen: left and right are exchanged
    std::optional<PixelRegion> region;  ///< where to look for features; the ruler is looked for everywhere
};

enum class FoundKind { Pin, Pad, Hole, Peg, Lug };

/// Frame of mm values: straightened, x right, y up, seen from the part side, from the middle of what was found.
struct FoundFeature {
    FoundKind kind = FoundKind::Pin;
    SeenFeature seen;              ///< in pixels
    double x = 0, y = 0;           ///< mm
    double width = 0, height = 0;  ///< mm, along and across `rotation`
    double rotation = 0;           ///< degrees, counter-clockwise, of `width`; 0 for a round one
    double u = 0;                  ///< mm, standard uncertainty of x and of y within the picture, without the scale's
    double uSize = 0;              ///< mm
    int slot = -1;                 ///< index in the formation's positions; -1 when it is not one of them
    bool wanted = false;           ///< taken back from what was left out: it stays, whatever it looks like
    int body = 0;                  ///< which body it stands on, where bodies were told apart; -1: the ground
};

/// What a note is about, so that it can be asked for.
enum class NoteAbout { Scale, Ruler, Formation, Missing, LeftOut, Size, Slant, Ground, Nothing };

/// For people: something that is not sure, or was decided.
struct FindNote {
    NoteAbout about = NoteAbout::Nothing;
    std::string text;
};

/// One of several things that say how large the picture is.
struct ScaleWitness {
    PictureScale scale;
    std::string words;  ///< "the ruler, 45 mm in steps of 1 mm", "the file's 600 dpi"
    bool rules = false;
    bool differs = false;  ///< from the one that rules, by more than their doubts
};

/// Something that was seen and is not proposed: why. It can be taken back.
struct LeftOut {
    SeenFeature seen;
    std::string why;
};

/// A further formation beside the proposed one: another part in the same picture.
struct OtherFormation {
    RecognisedFormation formation;
    std::vector<std::size_t> members;  ///< indices of features, in the order of its positions
};

struct Found {
    PictureScale scale;
    std::vector<ScaleWitness> witnesses;   ///< of the scale, the ruling one first
    std::vector<Ruler> rulers;             ///< all that could be one, believed ones first
    std::vector<std::size_t> scaleRulers;  ///< those that the scale comes from, or would
    double angle = 0, uAngle = 0;          ///< degrees, counter-clockwise as one looks at the picture
    std::vector<FoundFeature> features;    ///< the formation's in its order, then the rest
    std::optional<RecognisedFormation> formation;
    double sure = 0;  ///< of the formation, 0 to 1
    std::vector<OtherFormation> others;
    std::vector<LeftOut> leftOut;
    std::optional<Slant> slant;  ///< when the camera looked slantwise
    double direction = 0;        ///< degrees, 0 or 90: how its rows run in the straightened frame
    std::vector<FindNote> notes;
};

/// Errors: pairs that say nothing, no scale at all, a region outside the picture.
Result<Found> findInPicture(const Picture& picture, const FindOptions& options);

/// From features that were seen otherwise: a drawing's (core/drawing/find_in_drawing.h).
Found proposalFrom(const std::vector<SeenFeature>& seen, const PictureScale& scale, bool fromBelow);

/// The same again without some of the features ("drop it"): formation, kinds and angle are worked out anew.
Found withoutFeatures(Found found, const std::vector<std::size_t>& dropped, bool fromBelow);

/// With something taken back from what was left out.
Found withTakenBack(Found found, std::size_t leftOut, bool fromBelow);

/// The same with another part's formation as the proposed one.
Found withOther(Found found, std::size_t other, bool fromBelow);

/// Which scale goes before which, and which of the others differ from it. Errors: pairs that say nothing, no scale.
Result<void> chooseScale(Found& found, const FindOptions& options, const std::optional<Dpi>& fileDpi);

/// "scale", "ruler", "formation", "missing", "left out", "size", "slant", "ground", "nothing".
std::string noteAboutName(NoteAbout about);
/// "pin", "pad", "hole", "peg", "lug".
std::string foundKindName(FoundKind kind);
/// "round", "square", "rectangular", "oval".
std::string foundShapeName(const FoundFeature& feature);
/// "An arc of 6, circle 14.98 mm, 30.0° apart", "A row of 8, pitch 2.54 mm".
std::string formationWords(const RecognisedFormation& formation);

/// The standard pitch that fits and no other; `u` of the pitch with the scale's. None when none or several do.
std::optional<double> standardPitch(const RecognisedFormation& formation, double u);
/// Standard uncertainty of a length along the rows with the scale's, mm.
double withScaleU(const Found& found, const FittedValue& length);

/// As `punch find --json` prints it (docs/find-json.md).
std::string findJson(const Found& found, bool fromBelow);

}  // namespace punch
