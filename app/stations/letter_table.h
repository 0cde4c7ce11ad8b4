#pragma once
// The letter table of a drawing: a row for each letter, a column for each variant, and which variant the part is.

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QTableWidget>

#include "app/document.h"
#include "app/view_state.h"

namespace punch {

class LetterTableDialog : public QDialog {
    Q_OBJECT
public:
    LetterTableDialog(Document& document, ViewState& view, QWidget* parent = nullptr);
    void accept() override;

private:
    void addLetter(const QString& name = {});
    void addVariant(const QString& name = {});
    void refreshVariants();
    Document& document_;
    ViewState& view_;
    QTableWidget* table_;
    QComboBox* variant_;
    QLabel* wrong_;
};

}  // namespace punch
