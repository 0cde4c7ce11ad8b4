#pragma once
// Place: formations, their parameters and numbers, single features and faces, and the datum.
//
// The formation that is edited is the one whose pin was pointed at last, or the one chosen in the list.

#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QToolButton>

#include "app/stations/form_column.h"
#include "app/stations/parameter_list.h"

namespace punch {

class PlaceStation : public FormColumn {
    Q_OBJECT
public:
    PlaceStation(Document& document, ViewState& view, QWidget* parent = nullptr);

    void addSpot(SpotKind kind);
    void addPeg() { addSpot(SpotKind::Peg); }
    void removeChosenPeg();
    /// What is pointed at, or a word why it stays.
    void removeChosen();
    void addFormation(FormationKind kind);
    void addFace(FaceKind kind, Axis axis, bool positive);
    void setDatum(DatumKind kind, const FeatureId& feature = {}, const FeatureId& second = {});
    void turnNumbers();
    /// Draws the chosen peg, or the only one, on the other side of the row (across) or at its other end.
    void mirrorPeg(bool across);
    /// Gives the next number to a pin, while numbers are given by pointing.
    void numberPin(const FeatureId& pin);
    void startNumbering();
    /// Lets the chosen pin stand off its pattern, or takes it back.
    void toggleMovedPin();
    /// Leaves the chosen pin out of its grid.
    void leaveOutPin();

private:
    void refresh() override;
    /// Says so when there are none.
    bool hasPins();
    /// What the column works on; the part has pins.
    const Formation& formation() const;
    Formation& formationIn(Part& part) const;
    void reshape(const QString& what, const std::function<void(FormationPlan&)>& change);
    void takeCount();

    void buildFormations();
    void buildShape();
    void buildTwins();
    void buildLeads();
    void buildPins();
    void refreshFormations();
    void buildNumbers();
    void refreshNumbers();
    void buildFeatures();
    void refreshFeatures();
    void buildDatum();
    void refreshDatum();
    FeatureId chosenSpot() const;

    std::string formation_;
    FeatureId spot_;
    QComboBox* formations_;
    QToolButton* addFormation_;
    QPushButton* removeFormation_;
    WrappedLabel* noPins_;
    int firstOfFormation_ = 0, afterNumbers_ = 0;  ///< places in the column: what only pins have
    bool pinsShown_ = true;
    QComboBox* kind_;
    QLineEdit* count_;
    WrappedLabel* countWords_;
    QComboBox* lead_;
    QComboBox* end_;
    QCheckBox* middle_;
    QCheckBox* arc_;
    QCheckBox* clockwise_;
    QCheckBox* ownPitch_;
    QComboBox* twinOf_;
    QComboBox* mirror_;
    QPushButton* movedPin_;
    QPushButton* leaveOut_;
    QPushButton* putBack_;
    ParameterList* parameters_;
    QComboBox* pitchChoice_;

    QComboBox* order_;
    QComboBox* from_;
    QComboBox* firstRow_;
    QSpinBox* start_;
    QComboBox* step_;
    QLineEdit* prefix_;
    QCheckBox* rowLetters_;
    QCheckBox* shared_;
    QPushButton* pointing_;
    QLineEdit* ownNumber_;
    WrappedLabel* numberWords_;

    QComboBox* spots_;
    WrappedLabel* spotWords_;
    QPushButton* removeSpot_;
    QPushButton* twinSpot_;
    QLineEdit* spotName_;
    QCheckBox* flat_;
    ParameterList* spotParameters_;
    QPushButton* otherSide_;
    QPushButton* otherEnd_;

    QComboBox* datum_;
    WrappedLabel* coordinates_;
};

}  // namespace punch
