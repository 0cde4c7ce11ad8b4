#pragma once
// Cut-outs under the hand: drawn with a drag on the sheet, moved by their middle, lengthened and turned by their ends.
//
// While a cut-out is in hand, what it makes of the worst distance is computed and said beside it. Places go to 0.05 mm
// (2 mil); a slot that lies within three degrees of along or across lies so, unless Ctrl is held.

#include <QPainter>

#include "app/document.h"
#include "app/sheet/transform.h"
#include "app/view_state.h"

namespace punch {

class CutHands {
public:
    CutHands(Document& document, ViewState& view) : document_(document), view_(view) {}

    /// Takes what lies under the hand, or begins a new one where the tool is on. `reach` in mm. False: nothing.
    bool press(Point at, Length reach);
    void move(Point at, bool anyTurn);
    /// Keeps what was made of it.
    void release();
    void cancel() { hand_.reset(); }
    bool holding() const { return hand_.has_value(); }
    /// Takes the one that was last held out of the part. A press beside all of them lets it go. False: there is none.
    bool remove();

    /// What the hand would take there; none where there is nothing.
    std::optional<Qt::CursorShape> cursor(Point at, Length reach) const;
    void paint(QPainter& painter, const SheetTransform& t) const;

private:
    enum class Grip { New, Whole, From, To };
    struct Hand {
        CutOut cut, before;
        Grip grip = Grip::New;
        Point pressed;  ///< frame of the footprint
        bool moved = false;
        QString words;  ///< its size, and what it does
        bool good = true;
    };
    std::optional<Hand> under(Point at, Length reach) const;
    Point onRaster(Point p) const;
    void look();
    void hold(const std::string& id);

    Document& document_;
    ViewState& view_;
    std::optional<Hand> hand_;
    std::string last_;  ///< cut-out that was last held: Delete takes it out
    int lastOf_ = 0;    ///< the part that it was of
};

}  // namespace punch
