#pragma once
// Size: holes, lands, and what voltage asks between pins.

#include <QPushButton>
#include <QTimer>

#include "app/stations/form_column.h"
#include "core/advise/ways_out.h"

namespace punch {

class SizeStation : public FormColumn {
    Q_OBJECT
public:
    SizeStation(Document& document, ViewState& view, QWidget* parent = nullptr);

    /// The largest land that passes everything: where the column stands, or for the whole part.
    void bestPadHere(bool wholePart);
    /// Takes the nearest override back.
    void takeOverrideBack();
    /// The slot that mends the chosen pair, or the worst one.
    void putSlotHere();
    /// The next drag on the sheet cuts a slot or a window out of the board.
    void drawCutOut(CutOutKind kind);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh() override;
    // size_lands.cpp
    void buildLands();
    void landField(const Field<PadOverride>& field);
    QString followed(const Pad* pad, std::optional<Length> PadOverride::*field) const;
    std::string landTarget() const;
    /// Where changes go: the features that are chosen together, else what the field says.
    std::vector<std::string> landTargets() const;
    void offerPins();
    std::string offered_;  ///< what stands in the field of pins because they are chosen
    void changeOverride(const QString& what, const std::function<void(PadOverride&)>& change);
    void bestPad(const std::string& target);
    void keepBest(const QString& what, Part next);
    void refreshLands();
    // size_board.cpp
    void buildWays();
    void findWays();
    void showWays(const VoltagePair& worst);
    void showRoomWays(const std::string& formation);
    void addWay(const QString& words, const QString& name, bool first, const QString& object,
                std::function<std::optional<Part>()> part);
    std::vector<RoomWay> roomWays_;
    void buildCutOuts();
    void addCutOut();
    std::optional<Length> widthToCut(CutOutKind kind);
    void refreshCutOuts();
    void buildFab();
    void refreshFab();
    std::string folder() const;
    QComboBox* landOf_;
    WrappedLabel* landNote_;
    QLineEdit* landHead_;
    QLineEdit* landReason_;
    QPushButton* undoOverride_;
    /// Show what is set at the chosen place (or what is followed) in the fields of one land.
    std::vector<std::function<void(const PadOverride& own, const Pad* pad)>> landShows_;
    QFrame* ways_;
    WrappedLabel* waysTitle_;
    QWidget* waysBox_;
    QVBoxLayout* waysRows_;
    QTimer* waysRest_;
    std::vector<WayOut> found_;
    Part waysOf_;  ///< that `found_` belongs to
    QWidget* cutOuts_;
    QVBoxLayout* cutRows_;
    QComboBox* cutKind_;
    QLineEdit* cutFrom_;
    QLineEdit* cutTo_;
    QLineEdit* cutWidth_;
    QComboBox* fab_;
    QPushButton* keepFab_;
    std::vector<FabProfile> profiles_;
    std::string profilesOf_;  ///< the library that they were read from
    void addPotential();
    void buildRules();
    void buildPotentials();
    void buildIec();
    void refreshVoltage();
    void refreshPotentials();
    QString leadWords() const;
    QString pegWords() const;
    QLabel* resultTitle_;
    WrappedLabel* result_;
    WrappedLabel* pegResult_;
    QWidget* ring_;
    QWidget* factor_;
    QWidget* ownDrills_;
    QLineEdit* potentialName_;
    QLineEdit* potentialVolts_;
    QComboBox* potentialKind_;
    QLineEdit* potentialPins_;
    QLineEdit* potentialSource_;
    QWidget* potentials_;
    QVBoxLayout* potentialRows_;
    WrappedLabel* voltageResult_;
    QWidget* column_;
    std::vector<QWidget*> iec_;  ///< fields that only IEC 60664-1 asks for
};

}  // namespace punch
