#include "app/sheet/picture_hands.h"

#include <algorithm>
#include <cmath>

#include "app/pictures/picture_layer.h"
#include "app/sheet/sheet.h"

namespace punch {

// ------------------------------------------------------------------ border

bool WipeHand::on(QPointF at) const {
    const PictureWork* work = sheet_.pictures();
    return work != nullptr && work->wipe() && work->image() != nullptr &&
           (sheet_.pictured() || sheet_.view().lens(Lens::Source)) &&
           std::abs(at.x() - *work->wipe() * sheet_.width()) < 8;
}

bool WipeHand::press(const Touch& touch) { return on(touch.at); }

void WipeHand::move(const Touch& touch) { sheet_.pictures()->setWipe(touch.at.x() / std::max(1, sheet_.width())); }

std::optional<Qt::CursorShape> WipeHand::cursor(QPointF at) const {
    return on(at) ? std::optional(Qt::SplitHCursor) : std::nullopt;
}

// ------------------------------------------------------------------ region

bool RegionHand::press(const Touch& touch) {
    begun_ = false;
    from_ = touch.at;
    return touch.button == Qt::LeftButton && sheet_.pictured() &&
           sheet_.pictures()->tool() == PictureWork::Tool::Region && sheet_.pictures()->places().empty();
}

void RegionHand::move(const Touch&) {
    // The first corner is set once the hand moves, the second where it lets go.
    if (!begun_) PictureHand::click(sheet_, from_, false);
    begun_ = true;
}

void RegionHand::release(const Touch& touch, bool) { PictureHand::click(sheet_, touch.at, false); }

// ------------------------------------------------------------------ tools

bool PictureHand::click(Sheet& sheet, QPointF at, bool shift) {
    if (!sheet.pictured()) return false;
    const FeatureId id = sheet.featureAt(at);
    const PictureLayer layer(*sheet.pictures(), sheet.document(), sheet.transform());
    sheet.pictures()->setReach(layer.reach());
    if (!sheet.pictures()->clickAt(layer.pixelAt(at), shift) && !id.empty()) sheet.entry().pointAt(id);
    return true;
}

bool PictureHand::key(const QKeyEvent& event) {
    if (!sheet_.pictured()) return false;
    PictureWork& work = *sheet_.pictures();
    const auto nudge = [&](double x, double y) {
        // By a tenth of a pixel, the way that the sheet shows it.
        const QTransform back = sheet_.pictureTransform().inverted();
        const QPointF d = back.map(QPointF(x, y)) - back.map(QPointF(0, 0));
        const double l = std::max(std::hypot(d.x(), d.y()), 1e-9);
        work.nudge(0.1 * d.x() / l, 0.1 * d.y() / l);
    };
    switch (event.key()) {
        case Qt::Key_Left: nudge(-1, 0); return true;
        case Qt::Key_Right: nudge(1, 0); return true;
        case Qt::Key_Up: nudge(0, -1); return true;
        case Qt::Key_Down: nudge(0, 1); return true;
        case Qt::Key_Return:
        case Qt::Key_Enter: work.finish(); return true;
        case Qt::Key_Backspace: work.takeBack(); return true;
        case Qt::Key_Escape: work.setTool(PictureWork::Tool::None); return true;
        default: return false;
    }
}

}  // namespace punch
