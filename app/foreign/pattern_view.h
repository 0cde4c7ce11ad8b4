#pragma once
// Pads of a pattern as a drawing: one alone, from which pads are chosen, or two laid over each other with arrows from
// one to the other. The wheel brings it nearer, a drag with the middle or right button moves it.

#include <QWidget>
#include <set>
#include <vector>

#include "core/library/compare.h"

namespace punch {

class PatternView : public QWidget {
    Q_OBJECT
public:
    explicit PatternView(QWidget* parent = nullptr);
    /// One pattern; none of its pads is chosen.
    void show(const PadPattern& pattern);
    /// The first over the second, as compared; arrows `times` longer than they are.
    void show(const PadPattern& one, const PadPattern& other, const Comparison& how, double times);
    const std::set<std::size_t>& chosen() const { return chosen_; }
    void choose(std::set<std::size_t> pads);
    /// A pad that is pointed at in a table beside it; -1 for none.
    void light(int pad);
    /// Where a pad of the pattern (of the second, of two) is drawn.
    QPointF placeOf(std::size_t pad) const;
    QSize sizeHint() const override { return {420, 320}; }

signals:
    void padClicked(int pad, bool more);
    void chosenChanged();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void resizeEvent(QResizeEvent*) override { fit(); }

private:
    void fit();
    QPointF map(double x, double y) const { return {shift_.x() + scale_ * x, shift_.y() - scale_ * y}; }
    int padAt(QPointF at) const;
    PadPattern one_, other_;
    Comparison how_;
    bool both_ = false;
    double times_ = 20, scale_ = 10;
    QPointF shift_, grabbed_;
    QRectF band_;
    bool moving_ = false, banding_ = false;
    int lit_ = -1;
    std::set<std::size_t> chosen_;
};

}  // namespace punch
