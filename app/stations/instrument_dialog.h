#pragma once
// An instrument of one's own: its step, its stated limit, and how well a hand finds what it touches.

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <map>

#include "app/document.h"

namespace punch {

class InstrumentDialog : public QDialog {
    Q_OBJECT
public:
    explicit InstrumentDialog(Document& document, QWidget* parent = nullptr);
    void accept() override;

private:
    Document& document_;
    QLineEdit* words_;
    std::map<QString, QLineEdit*> fields_;
    QLabel* wrong_;
};

}  // namespace punch
