#pragma once
// The fit coupon in a window: how it is graded, what it looks like, its files; and when it comes back the copy that
// fitted, which the part takes.

#include <QDialog>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"
#include "core/board/coupon.h"

class QCheckBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace punch {

class CouponDialog : public QDialog {
    Q_OBJECT
public:
    CouponDialog(Document& document, ViewState& view, QWidget* parent = nullptr);
    /// Its files, all or none.
    void writeTo(const QString& folder);
    /// One that came back: its copies are offered.
    void readBack(const QString& file);
    QString message() const { return message_->text(); }

private:
    void refresh();
    void offerCopies();
    void take();
    void say(const QString& words, bool good = false);
    Document& document_;
    ViewState& view_;
    CouponOptions options_;
    std::optional<FitCoupon> coupon_;
    std::optional<CouponRecord> back_;
    std::string holes_, pegs_;  ///< labels that were clicked
    QSpinBox *narrower_, *wider_;
    LengthEdit* step_;
    QCheckBox* rings_;
    QLabel* picture_;
    WrappedLabel *words_, *message_;
    QWidget* copies_;
    QVBoxLayout* copyRows_;
    QPushButton *write_, *take_;
};

}  // namespace punch
