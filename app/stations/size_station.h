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
    enum class Sign { Any, NotNegative, Above };
    void landField(const QString& label, const QString& name, std::optional<Length> PadOverride::*field, Sign sign);
    std::string landTarget() const;
    void changeOverride(const QString& what, const std::function<void(PadOverride&)>& change);
    void bestPad(const std::string& target);
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
    QComboBox* landShape_;
    QComboBox* landLayers_;
    QLineEdit* landTurn_;
    QLineEdit* landHead_;
    QLineEdit* landReason_;
    QPushButton* undoOverride_;
    std::vector<std::pair<QLineEdit*, std::optional<Length> PadOverride::*>> landFields_;
    std::vector<std::pair<QCheckBox*, std::optional<bool> PadOverride::*>> landTicks_;
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
    QLineEdit* fabMills_;
    std::vector<std::pair<QLineEdit*, std::function<double&(Rules&)>>> numbers_;
    std::vector<FabProfile> profiles_;
    std::string profilesOf_;  ///< the library that they were read from
    void addPotential();
    void buildIec();
    void refreshVoltage();
    QLabel* resultTitle_;
    WrappedLabel* result_;
    WrappedLabel* pegResult_;
    LengthEdit* ring_;
    QLineEdit* factor_;
    QLineEdit* ownDrills_;
    QComboBox* level_;
    QLineEdit* potentialName_;
    QLineEdit* potentialVolts_;
    QComboBox* potentialKind_;
    QLineEdit* potentialPins_;
    QLineEdit* potentialSource_;
    QWidget* potentials_;
    QVBoxLayout* potentialRows_;
    WrappedLabel* voltageResult_;
    QComboBox* column_;
    std::vector<QWidget*> iec_;  ///< fields that only IEC 60664-1 asks for
    QLineEdit* altitude_;
};

}  // namespace punch
