#pragma once
// The parameters of a formation or a single feature: what each is now, and a field that gives or frees it.
//
// An empty field is free: its value is read, and stands in the field as a hint. A value or a formula on other names
// ("A - 2*edge") makes it given. A standard value is taken or released by the link beside it.

#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>
#include <vector>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"

namespace punch {

class ParameterList : public QWidget {
    Q_OBJECT
public:
    ParameterList(Document& document, ViewState& view, QWidget* parent = nullptr);
    /// Shows the parameters of these names, in this order; names that the part does not have are left out.
    void show(const std::vector<std::string>& names);
    QLineEdit* field(const std::string& name) const;

private:
    struct Row {
        std::string name;
        QLabel* label;
        QLineEdit* edit;
        QPushButton* standard;
        WrappedLabel* words;
    };
    void build(const std::vector<std::string>& names);
    void fill(Row& row);
    void give(Row& row);
    Document& document_;
    ViewState& view_;
    QGridLayout* grid_;
    std::vector<Row> rows_;
};

}  // namespace punch
