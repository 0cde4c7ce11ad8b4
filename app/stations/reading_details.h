#pragma once
// Where and how a reading was taken: instrument, specimen, source, letter, and whether the drawing shows the part from
// below.

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QSpinBox>

#include "app/document.h"

namespace punch {

class ReadingDetails : public QDialog {
    Q_OBJECT
public:
    ReadingDetails(Document& document, int reading, QWidget* parent = nullptr);
    void accept() override;

private:
    Document& document_;
    std::string id_;
    QComboBox* instrument_;
    QSpinBox* specimen_;
    QComboBox* source_;
    QLineEdit* letter_;
    QLineEdit* note_;
    QCheckBox* fromBelow_;
};

}  // namespace punch
