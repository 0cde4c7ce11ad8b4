#pragma once
// True-scale cut through the chosen pin or peg, over the lead's corners: board, barrel, rings, mask, the hole at its
// largest and where it may wander, the lead at its largest and smallest, and how far it sticks out. The board's
// thickness is chosen here.

#include <QComboBox>
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
    void resizeEvent(QResizeEvent* event) override;

private:
    struct Cut;
    void fillBoard();
    std::vector<Cut> cutsOf(const FeatureId& id) const;
    struct Drawn;
    void paintCut(QPainter& p, const Cut& cut, const QRectF& area);
    void paintBoard(QPainter& p, const Cut& cut, const Drawn& d);
    void paintLead(QPainter& p, const Cut& cut, const Drawn& d);
    void paintFillet(QPainter& p, const Cut& cut, const Drawn& d);
    void paintWords(QPainter& p, const Cut& cut, const Drawn& d);
    Document& document_;
    ViewState& view_;
    QComboBox* board_;
};

/// The pin or peg that section and chain speak of: the chosen one, else the first pin.
FeatureId shownFeature(const Document& document, const ViewState& view);

}  // namespace punch
