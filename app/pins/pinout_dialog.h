#pragma once
// What a pinout has besides its pins: description, value, and which marks are in it.

#include <QComboBox>
#include <QDialog>
#include <QLineEdit>

#include "core/pins/variants.h"

namespace punch {

class PinoutDialog : public QDialog {
    Q_OBJECT
public:
    PinoutDialog(const Part& part, std::string variant, QWidget* parent = nullptr);
    /// The part with what is chosen.
    Part chosen() const;

private:
    Part part_;
    std::string variant_;
    QLineEdit *description_, *value_;
    std::vector<std::pair<std::string, QComboBox*>> marks_;
};

}  // namespace punch
