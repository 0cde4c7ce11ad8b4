#pragma once
// A tool on the sheet: what it takes hold of, what moving and letting go do, its keys, its cursor, what it paints.
//
// The sheet asks its hands in order; the first that takes hold of what was pressed has the mouse until it is released.

#include <QKeyEvent>
#include <QPainter>
#include <QPointF>
#include <optional>

namespace punch {

class Sheet;

/// Where the mouse is, px of the sheet, and what is held down with it.
struct Touch {
    QPointF at;
    Qt::MouseButton button = Qt::NoButton;
    Qt::KeyboardModifiers keys;
};

class Hand {
public:
    explicit Hand(Sheet& sheet) : sheet_(sheet) {}
    virtual ~Hand() = default;
    Hand(const Hand&) = delete;
    Hand& operator=(const Hand&) = delete;

    /// Takes hold of what lies there. False: nothing here for this hand.
    virtual bool press(const Touch& touch) = 0;
    /// Only once the mouse has left the place where it was pressed.
    virtual void move(const Touch&) {}
    /// `dragged`: it was moved; else it is a click.
    virtual void release(const Touch&, bool /*dragged*/) {}
    /// False: the key is for somebody else.
    virtual bool key(const QKeyEvent&) { return false; }
    /// What would be taken there; none where this hand has nothing to take.
    virtual std::optional<Qt::CursorShape> cursor(QPointF) const { return {}; }
    virtual void paint(QPainter&) const {}

protected:
    Sheet& sheet_;
};

}  // namespace punch
