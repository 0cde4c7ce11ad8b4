#pragma once
// What is looked at, and how: nothing in here is saved with the part.

#include <QObject>
#include <QSet>
#include <QString>
#include <map>
#include <optional>
#include <set>
#include <vector>

#include "app/qt_text.h"
#include "core/artwork/artwork.h"
#include "core/base/quantity.h"
#include "core/footprint.h"
#include "core/verdicts/gauge_table.h"

namespace punch {

enum class Station { Measure, Place, Size, Dress, Fit, Release };
inline constexpr int kStations = 6;
QString stationName(Station station);
Station stationOf(GaugeHome home);

enum class Lens { Copper, Readings, Doubt, Voltage, Body, Ink, Courtyard, Source };
inline constexpr int kLenses = 8;
QString lensName(Lens lens);

/// Which number the chain explains.
enum class ChainOf { Hole, Land, X, Y };

/// What the sheet shows of the board: the drawing, the board as it is made seen from this side, or layers by name.
enum class BoardLook { Drawing, Made, Pasted, Layers };

class ViewState : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    Unit unit() const { return unit_; }
    bool fromSolderSide() const { return solder_; }
    Station station() const { return station_; }
    /// A source picture lies under the drawing only.
    bool lens(Lens l) const {
        return lenses_[static_cast<int>(l)] && (l != Lens::Source || look_ == BoardLook::Drawing);
    }
    ChainOf chainOf() const { return chainOf_; }
    /// The features pointed at, in order; none, one or two.
    const FeatureId& first() const { return first_; }
    const FeatureId& second() const { return second_; }
    /// Reading under the mouse in notebook or sheet.
    const std::string& lit() const { return lit_; }

    void setUnit(Unit unit) {
        if (unit_ != unit) {
            unit_ = unit;
            emit unitChanged();
        }
    }
    void flip() {
        solder_ = !solder_;
        emit changed();
    }
    void setStation(Station s);
    void setLens(Lens l, bool on) {
        lenses_[static_cast<int>(l)] = on;
        emit changed();
    }
    void setChainOf(ChainOf c) {
        chainOf_ = c;
        emit changed();
    }
    /// Several features that get one land, one potential, one removal; empty, or two and more.
    const std::vector<FeatureId>& group() const { return group_; }
    void setGroup(std::vector<FeatureId> group) {
        // One alone is pointed at.
        const FeatureId alone = group.size() == 1 ? group.front() : FeatureId();
        if (group.size() < 2) group.clear();
        if (group_.empty() && group.empty() && alone.empty()) return;
        group_ = std::move(group);
        first_ = alone;
        second_.clear();
        emit chosenChanged();
        emit changed();
    }
    void choose(const FeatureId& first, const FeatureId& second) {
        group_.clear();
        first_ = first;
        second_ = second;
        emit chosenChanged();
        emit changed();
    }
    void light(const std::string& reading) {
        if (lit_ != reading) {
            lit_ = reading;
            emit changed();
        }
    }
    /// Where the user put a dimension line: lanes away from the part, negative on the other side. 0: anywhere.
    int laneOf(const std::string& reading) const {
        const auto it = lanes_.find(reading);
        return it == lanes_.end() ? 0 : it->second;
    }
    void setLane(const std::string& reading, int lane) {
        if (lane == 0)
            lanes_.erase(reading);
        else
            lanes_[reading] = lane;
        emit changed();
    }
    /// The pinout that is shown and released; empty: the part itself.
    const std::string& variant() const { return variant_; }
    void setVariant(std::string variant) {
        if (variant_ == variant) return;
        variant_ = std::move(variant);
        emit changed();
    }
    /// Pins are being numbered by pointing at them in turn.
    bool numbering() const { return numbering_; }
    void setNumbering(bool on) {
        if (numbering_ == on) return;
        numbering_ = on;
        emit changed();
        emit numberingChanged();
    }
    /// Measure shows the sources instead of the notebook, and the sheet the picture.
    bool sources() const { return sources_ && station_ == Station::Measure; }
    void setSources(bool on) {
        if (sources_ == on) return;
        sources_ = on;
        emit changed();
        emit stationChanged();
    }
    /// Next reading after next reading: only the entry line counts.
    bool series() const { return series_; }
    void setSeries(bool on) {
        if (series_ == on) return;
        series_ = on;
        emit changed();
        emit seriesChanged();
    }
    /// The pair whose distance is shown; none: the worst.
    const FeatureId& pairA() const { return pairA_; }
    const FeatureId& pairB() const { return pairB_; }
    void choosePair(const FeatureId& a, const FeatureId& b) {
        pairA_ = a;
        pairB_ = b;
        emit changed();
    }
    /// A cut-out that is offered, in the footprint's frame: drawn dashed until it is kept.
    const std::optional<Shape>& offered() const { return offered_; }
    void offer(std::optional<Shape> cut) {
        offered_ = std::move(cut);
        emit changed();
    }
    /// A drag on the sheet cuts this out of the board, so wide; none: it does not.
    std::optional<CutOutKind> cutting() const { return cutting_; }
    Length cutWidth() const { return cutWidth_; }
    void setCutting(std::optional<CutOutKind> kind, Length width) {
        cutting_ = kind;
        cutWidth_ = width;
        emit changed();
        emit cuttingChanged();
    }
    /// The mark that is worked on; none: empty.
    const std::string& mark() const { return mark_; }
    void setMark(const std::string& id) {
        if (mark_ == id) return;
        mark_ = id;
        markPlace_ = 0;
        placing_ = false;
        emit markChanged();
        emit changed();
    }
    /// Which of its places the chain explains.
    int markPlace() const { return markPlace_; }
    void setMarkPlace(int place) {
        if (markPlace_ == place) return;
        markPlace_ = place;
        emit changed();
    }
    /// Clicks on the sheet give that mark places.
    bool placing() const { return placing_; }
    void setPlacing(bool on) {
        if (placing_ == on) return;
        placing_ = on;
        emit markChanged();
        emit changed();
    }
    BoardLook look() const { return look_; }
    const std::set<Layer>& layers() const { return layers_; }
    void setLook(BoardLook look) {
        look_ = look;
        if (look != BoardLook::Layers) layers_.clear();
        emit changed();
    }
    /// One of the layers that are shown by name; without any the drawing is back.
    void setLayer(Layer layer, bool on) {
        on ? (void)layers_.insert(layer) : (void)layers_.erase(layer);
        setLook(layers_.empty() ? BoardLook::Drawing : BoardLook::Layers);
    }
    /// Feature under the mouse on the sheet.
    const FeatureId& hovered() const { return hovered_; }
    void hover(const FeatureId& id) {
        if (hovered_ == id) return;
        hovered_ = id;
        emit changed();
    }
    /// What is wrong, and what to do; an empty text takes it away.
    void say(const QString& message) { emit message_(message, false); }
    /// What was done.
    void tell(const QString& message) { emit message_(message, true); }
    void resetSide() { solder_ = false; }
    void setSolderSide(bool on) {
        if (solder_ != on) flip();
    }

    /// "mm", "mil" or "in".
    QString unitText() const { return toQt(unitName(unit_)); }
    /// A length in the display unit, with its unit.
    QString length(Length l, int digits = 3) const { return toQt(formatLength(l, unit_, digits)); }
    QString value(Length l, int digits = 3) const { return toQt(formatValue(l, unit_, digits)); }

signals:
    void changed();
    void unitChanged();
    void stationChanged();
    void chosenChanged();
    void numberingChanged();
    void seriesChanged();
    void cuttingChanged();
    void markChanged();
    void message_(const QString& message, bool good);

private:
    FeatureId pairA_, pairB_;
    std::optional<Shape> offered_;
    std::string variant_;
    std::optional<CutOutKind> cutting_;
    Length cutWidth_ = Length::fromMm(1.6);
    Unit unit_ = Unit::Mm;
    bool solder_ = false;
    Station station_ = Station::Measure;
    bool lenses_[kLenses] = {true, true, false, false, true, true, true, true};
    ChainOf chainOf_ = ChainOf::Hole;
    FeatureId first_, second_;
    std::vector<FeatureId> group_;
    std::string lit_;
    std::string mark_;
    int markPlace_ = 0;
    bool placing_ = false;
    FeatureId hovered_;
    BoardLook look_ = BoardLook::Drawing;
    std::set<Layer> layers_;
    std::map<std::string, int> lanes_;
    bool numbering_ = false;
    bool series_ = false;
    bool sources_ = false;
};

}  // namespace punch
