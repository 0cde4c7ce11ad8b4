#pragma once
// True-scale cut through the chosen pin or peg, over the lead's corners: board, barrel, rings, mask, the lead at its
// largest and smallest, and how far it sticks out.

#include <QWidget>

#include "app/document.h"
#include "app/view_state.h"

namespace punch {

class SectionView : public QWidget {
    Q_OBJECT
public:
    SectionView(Document& document, ViewState& view, QWidget* parent = nullptr);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    struct Cut;
    void paintCut(QPainter& p, const Cut& cut, const QRectF& area);
    Document& document_;
    ViewState& view_;
};

/// The pin or peg that section and chain speak of: the chosen one, else the first pin.
FeatureId shownFeature(const Document& document, const ViewState& view);

}  // namespace punch
