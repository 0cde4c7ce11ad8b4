#pragma once
// Model: the features of a part as expressions of its unknowns.
//
// This is where a formation's pattern becomes formulas. The frame: the first formation's origin (its leftmost pin of
// the front row, or a ring's centre); +x runs along the first row, else along the body. Without pins it is the first
// peg or hole, else the body's left front corner. The datum is applied later, by subtracting the expression of its
// place. Parameters are named for people and files; those of a second formation
// carry its identifier in front ("f2.pitch"):
//   row                    pitch
//   two rows               pitch, rearPitch (when it has its own), rowGap, rowShift (rear row's first pin along)
//   staggered, grid        pitch, rowGap
//   ring                   circle (diameter through the pins' centres), start (angle), step (angle, of an arc)
//   every formation        lead.width, lead.thickness, lead.length; all but the first: x, y, turn
//   formed end of a lead   lead.end.width, lead.end.thickness
//   twin                   axis (where the mirror stands)
//   moved pin              <pin>.dx, <pin>.dy
//   peg, lock, lug, hole   <id>.x, .y, .diameter (or .width, .thickness); a twin: <id>.axis
//   panel, knob, plug      <id>.at
//   body                   body.left, .right, .front, .rear, .height
//   instrument's zero      zero.<instrument>
//   picture                <source>.scaleX, .scaleY (by its nominal scale), .angle, .x, .y, .rimBright, .rimDark
//   named value            its own name
// Of a member of a family (Part::sample) the parameters are those of the sample that was measured; its own features stand
// `grown` pitches further along, and readings are of the sample's.
// A parameter is free (to be measured), taken (a standard value), given (typed) or a formula on other names.

#include <map>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "core/base/quantity.h"
#include "core/model/feature.h"
#include "core/model/parameter.h"
#include "core/model/picture_terms.h"
#include "core/part/parameters.h"
#include "core/part/part.h"
#include "core/part/slots.h"

namespace punch {

class Model {
public:
    /// `free` names a parameter whose taken value is ignored, to ask what the readings alone say.
    explicit Model(const Part& part, const std::string& free = {});

    const std::vector<Parameter>& parameters() const { return parameters_; }
    bool has(const std::string& name) const { return index_.contains(name); }
    /// -1 when there is none. A spot's parameters answer to its name too: "lock 1.x" as "lock1.x".
    int parameterIndex(const std::string& name) const;
    const Parameter& parameter(const std::string& name) const { return parameters_[index_.at(name)]; }
    int unknowns() const { return unknowns_; }
    /// Starting values: the assumed ones.
    std::vector<double> start() const;

    std::size_t featureCount() const { return features_.size(); }
    /// -1 when there is none.
    int featureIndex(const FeatureId& id) const;
    /// The feature that a reading was taken on: that of the sample, where the part is another member of its family (what is
    /// a drawing's may be the member's own). -1 when there is none.
    int readOn(const Part& part, const Reading& reading, const FeatureId& id) const;
    /// On the sample; the part's own where there is no other.
    int sampleIndex(const FeatureId& id) const;
    /// Do its places and sizes depend on the unknowns linearly?
    bool isLinear(int feature) const;

    const std::vector<Complaint>& complaints() const { return complaints_; }

    /// A letter of the table that a formula names and no reading carries: its value is one more observation.
    struct LetterValue {
        int parameter;
        DrawingValue value;
    };
    const std::vector<LetterValue>& letterValues() const { return letterValues_; }

    /// Pictures that readings were taken in; what is known of their scales beforehand.
    const std::vector<PictureTerm>& pictures() const { return pictures_; }
    const std::vector<Prior>& priors() const { return priors_; }
    /// -1 when no reading was taken in it.
    int pictureIndex(const std::string& source) const;

private:
    friend class ModelAt;
    enum class Kind { Pin, Spot, BodyFace, Face, Body };
    /// Where a feature comes from; the numbers are indices of parameters, -1 for none.
    struct Ref {
        FeatureId id;
        Kind kind = Kind::Pin;
        std::size_t owner = 0;  ///< pattern, spot or face
        Slot slot;
        int dx = -1, dy = -1;  ///< of a moved pin
        int mirrored = -1;     ///< feature that it mirrors
        bool onSample = false;  ///< stands where it does on the sample
    };
    struct Pattern {
        FormationKind kind = FormationKind::Row;
        int x = -1, y = -1, turn = -1;
        int pitch = -1, rearPitch = -1, rowGap = -1, rowShift = -1;
        int circle = -1, start = -1, step = -1, axis = -1;
        int width = -1, thickness = -1, length = -1;
        int endWidth = -1, endThickness = -1;
        Axis mirror = Axis::Along;
        bool round = false, oval = false, clockwise = false, middle = false;
        double ringStep = 0;  ///< degrees, of a full ring
        double grown = 0;     ///< pitches; of a twin: its axis
    };
    struct SpotRef {
        int x = -1, y = -1, width = -1, thickness = -1, axis = -1;
        Axis mirror = Axis::Along;
        bool round = true, mark = false;
        double grown = 0;  ///< pitches; of a twin: its axis
    };
    struct FaceRef {
        int at = -1;
        double sign = 1;
        int side = 0;
        Axis axis = Axis::Along;
        double grown = 0;
    };
    struct Bound {
        int parameter = -1;
        Formula formula;
        std::vector<int> of;  ///< per name: a parameter, or -2 - index into named_
    };
    /// A reading on features whose name stands in a formula.
    struct Named {
        Reading reading;
        int a = -1, b = -1, c = -1;
    };

    int add(const Part& part, const std::string& free, std::string name, std::string words, double assumed,
            bool isAngle = false);
    void fix(int parameter, double value);
    /// A part without pins begins where these stand, since nothing else holds its frame.
    void begin(const std::vector<int>& places);
    void addFormation(const Part& part, const std::string& free, const Formation& f);
    void addSpot(const Part& part, const std::string& free, const Spot& spot, double drawnX);
    void addFaces(const Part& part, const std::string& free);
    void addPictures(const Part& part, const std::string& free);
    void addFeature(Ref ref);
    void addSample(const Part& part);
    /// How far it grows, of what stands at this parameter; nothing where the parameter says it of the member itself.
    double grownOf(const Part& part, const std::string& feature, int parameter) const;
    bool saysMember(const Part& part, int parameter, int depth = 0) const;
    void bindFormulas(const Part& part);
    int nameIndex(const Part& part, const std::string& name);
    void complain(int parameter, const std::string& words);
    void orderFormulas();
    void numberUnknowns();

    std::vector<Parameter> parameters_;
    std::unordered_map<std::string, std::size_t> index_;
    std::vector<Ref> features_;
    std::unordered_map<FeatureId, int> featureIndex_, sampleIndex_;
    std::vector<Pattern> patterns_;
    std::vector<SpotRef> spots_;
    std::vector<FaceRef> faces_;
    std::vector<Bound> bound_;  ///< in an order in which each only needs earlier ones
    std::vector<Named> named_;
    std::vector<Complaint> complaints_;
    std::vector<LetterValue> letterValues_;
    std::vector<PictureTerm> pictures_;
    std::vector<Prior> priors_;
    std::unordered_map<std::string, std::string> alias_;
    int growPitch_ = -1;
    int left_ = -1, right_ = -1, front_ = -1, rear_ = -1, height_ = -1;
    double span_ = 0;  ///< mm, of the first formation as assumed
    int unknowns_ = 0;
    std::string direction_;   ///< formation that gives the direction; empty: the body
    bool ringGives_ = false;  ///< a ring's start does, since there is nothing else
};

/// The model at given values of its unknowns (by unknown; mm or degrees).
class ModelAt {
public:
    ModelAt(const Model& model, const std::vector<double>& values);

    const Expr& parameter(int index) const { return parameters_[static_cast<std::size_t>(index)]; }
    /// Nothing (0) for a name that the part does not have, as with the lead of a twin of nothing.
    const Expr& parameter(const std::string& name) const;
    /// Without `levels` its height and z are left out.
    Feature feature(int index, bool levels = true) const;
    /// A picture of Model::pictures().
    PictureAt picture(int index) const;
    /// Every feature by its identifier.
    std::map<FeatureId, Feature> features() const;

private:
    Feature pin(const Model::Ref& ref, bool levels) const;
    Feature mirror(const Model::Ref& ref, Axis axis, int axisParameter, double grown, bool levels) const;
    /// So many pitches; nothing of what stands on the sample.
    Expr growth(const Model::Ref& ref, double pitches) const;

    const Model* model_;
    std::vector<Expr> parameters_;
};

}  // namespace punch
