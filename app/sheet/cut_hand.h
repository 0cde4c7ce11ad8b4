#pragma once
// Cut-outs under the hand: drawn with a drag on the sheet, moved by their middle, lengthened and turned by their ends.
//
// While a cut-out is in hand, what it makes of the worst distance is computed and said beside it. Places go to 0.05 mm
// (2 mil); a slot that lies within three degrees of along or across lies so, unless Ctrl is held.

#include "app/document.h"
#include "app/sheet/hand.h"
#include "app/view_state.h"

namespace punch {

class CutHand : public Hand {
public:
    CutHand(Sheet& sheet, Document& document, ViewState& view) : Hand(sheet), document_(document), view_(view) {}

    /// Takes what lies under the hand, or begins a new one where the tool is on.
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    /// Keeps what was made of it. A click on a cut-out or with the tool points at nothing.
    void release(const Touch& touch, bool dragged) override;
    /// Delete takes out the one that was last held; Esc puts the tool away.
    bool key(const QKeyEvent& event) override;
    std::optional<Qt::CursorShape> cursor(QPointF at) const override;
    void paint(QPainter& painter) const override;

private:
    enum class Grip { New, Whole, From, To };
    struct Held {
        CutOut cut, before;
        Grip grip = Grip::New;
        Point pressed;  ///< frame of the footprint
        bool moved = false;
        QString words;  ///< its size, and what it does
        bool good = true;
    };
    std::vector<CutOut> all() const;
    std::optional<Held> under(Point at) const;
    Point onRaster(Point p) const;
    void look();
    void hold(const std::string& id);
    /// Takes the one that was last held out of the part. False: there is none.
    bool remove();

    Document& document_;
    ViewState& view_;
    std::optional<Held> held_;
    std::string last_;  ///< cut-out that was last held: Delete takes it out
    int lastOf_ = 0;    ///< the part that it was of
};

}  // namespace punch
