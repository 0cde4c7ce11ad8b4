#pragma once
// The sheet: the part as a measured drawing, and the place where readings are made.
//
// What the mouse and keys do stands in its hands (app/sheet/hand.h). A click points at a feature, a second click at
// another; typing a number goes to the entry line. Two features pointed at show their true distance, with its doubt,
// without a reading. Drag pans, the wheel zooms, F8 fits, F6 turns the part over.

#include <QTimer>
#include <QTransform>
#include <QWidget>
#include <functional>
#include <memory>
#include <vector>

#include "app/document.h"
#include "app/reading_entry.h"
#include "app/sheet/dimensions.h"
#include "app/sheet/hand.h"
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
    // What the hands work on.
    Document& document() const { return document_; }
    ViewState& view() const { return view_; }
    ReadingEntry& entry() const { return entry_; }
    PictureWork* pictures() const { return pictures_; }
    /// The sources are worked with: the picture is what one looks at.
    bool pictured() const;
    const SheetTransform& transform() const { return t_; }
    /// How far from an edge still points at it.
    Length reach() const;
    /// Points at a feature, or lets go of all where there is none.
    void pointAt(const FeatureId& id);
    void pan(QPointF by);
    /// Under a hand that drags a feature the sheet lies still, by the datum as it was.
    void holdStill(Point datum) { still_ = datum; }
    void letGo();

    /// The feature under a place, px; empty when there is none.
    FeatureId featureAt(QPointF at) const;
    /// Pixels of the picture that is worked with to the widget. For tests and for tips.
    QTransform pictureTransform() const;
    const DimensionLayout& dimensionLayout() const { return layout_; }
    const std::vector<QString>& betweenLines() const { return between_; }

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
    void paintFootprint(SheetPainter& draw, const QRectF& area);
    void paintWipe(QPainter& painter, const QRectF& area);
    void makeHands();
    Qt::CursorShape cursorAt(QPointF at) const;
    void showPlace(PixelPoint at);
    QRectF contentBox() const;
    Rect content() const;
    QString statusText() const;
    Document& document_;
    ViewState& view_;
    ReadingEntry& entry_;
    std::vector<std::unique_ptr<Hand>> hands_;
    Hand* holding_ = nullptr;  ///< has the mouse until it is released
    SheetTransform t_;
    DimensionLayout layout_;
    bool fitted_ = true;  ///< keeps fitting until the user pans or zooms
    FeatureId hovered_;
    QPointF mouse_;
    bool mouseIn_ = false;
    QPointF pressed_;
    bool dragging_ = false;
    std::optional<Point> still_;  ///< the datum that the sheet lies by while the hand drags
    QTimer settle_;               ///< runs while the sheet is being moved: pictures are drawn quickly until it rests
    static constexpr double kReach = 7;  ///< px around an edge that still point at it
    void updateBetween();
    void paintBetween(QPainter& painter) const;
    int lowerBars_ = 0;
    PictureWork* pictures_ = nullptr;
    std::vector<QString> between_;  ///< the distance between the two features pointed at, a line each
};

}  // namespace punch
