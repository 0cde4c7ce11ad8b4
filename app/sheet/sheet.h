#pragma once
// The sheet: the part as a measured drawing, and the place where readings are made.
//
// A loose peg, mark or further formation is dragged to where it is seen on the part, so that its readings go to the
// right side. Slots and windows of the board are drawn and dragged in Size. A dimension line is dragged to another
// lane. Two features pointed at show their true distance, with its doubt, without a reading. While pins are numbered by
// pointing, a click gives the next number. A click points at a feature, a second click at another; typing a number goes
// to the entry line. Drag pans, the wheel zooms, F8 fits, F6 turns the part over.

#include <QTimer>
#include <QTransform>
#include <QWidget>
#include <functional>
#include <vector>

#include "app/document.h"
#include "app/reading_entry.h"
#include "app/sheet/cut_hands.h"
#include "app/sheet/dimensions.h"
#include "app/sheet/transform.h"
#include "app/view_state.h"

namespace punch {

class PictureWork;
class SheetPainter;

class Sheet : public QWidget {
    Q_OBJECT
public:
    Sheet(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent = nullptr);

    /// The picture that lies under the part, and takes clicks while the sources are worked with.
    void setPictures(PictureWork& work);

    /// Room at the lower edge that belongs to the bars over the sheet, px.
    void setLowerBars(int height);

    void fit();
    void zoom(double factor);
    /// Brings a feature into the middle and points at it.
    void goTo(const FeatureId& id);
    /// Where a feature stands in the widget, px. For tests and for tips.
    QPointF placeOf(const FeatureId& id) const;
    /// The feature under a place, px; empty when there is none.
    FeatureId featureAt(QPointF at) const;
    /// Pixels of the picture that is worked with to the widget. For tests and for tips.
    QTransform pictureTransform() const;
    const DimensionLayout& dimensionLayout() const { return layout_; }
    const std::vector<QString>& betweenLines() const { return between_; }

    /// Room that the bars over the sheet take, px.
    static constexpr int kBarHeightEm = 2;

signals:
    void removeWanted();  ///< Delete was pressed
    void typed(const QString& text);
    /// A pin was pointed at while numbers are given by pointing.
    void numbered(const punch::FeatureId& pin);

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void layOut();
    void withPicture(QPainter& painter, const QRectF& area, const std::function<void()>& over);
    void paintFootprint(SheetPainter& draw, QPainter& painter, const QRectF& area);
    void paintWipe(QPainter& painter, const QRectF& area);
    bool onWipe(QPointF at) const;
    void showPlace(PixelPoint at);
    QRectF contentBox() const;
    Rect content() const;
    QString statusText() const;
    Document& document_;
    ViewState& view_;
    ReadingEntry& entry_;
    CutHands cuts_;
    SheetTransform t_;
    DimensionLayout layout_;
    bool fitted_ = true;  ///< keeps fitting until the user pans or zooms
    FeatureId hovered_;
    QPointF mouse_;
    bool mouseIn_ = false;
    QPointF dragFrom_;
    bool dragging_ = false;
    FeatureId held_;  ///< what is loose and being dragged to where it is seen on the part
    bool heldMoved_ = false;
    Point heldDatum_;       ///< the datum that the sheet lies by while the hand drags
    std::string heldLine_;  ///< a reading whose dimension line is being dragged
    bool heldVertical_ = false;
    QTimer settle_;            ///< runs while the sheet is being moved: pictures are drawn quickly until it rests
    bool heldRegion_ = false;  ///< a drag marks the region, where the tool is on
    bool heldWipe_ = false;    ///< the border between picture and footprint is being dragged
    static constexpr double kReach = 7;  ///< px around an edge that still point at it
    Length reach() const;
    void dragHeld();
    void dragLine();
    /// A firm pin or peg is not dragged: says so.
    void sayWhyItStays(const FeatureId& id);
    void clickAt(QPointF at);
    /// May a feature be dragged to where it is seen?
    bool isLoose(const FeatureId& id) const;
    void updateBetween();
    void paintBetween(QPainter& painter) const;
    int lowerBars_ = 0;
    bool pictured() const;
    PictureWork* pictures_ = nullptr;
    std::vector<QString> between_;  ///< the distance between the two features pointed at, a line each
    QString partShown_;
};

}  // namespace punch
