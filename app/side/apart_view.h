#pragma once
// "Apart": the pairs of different potentials as a matrix of what is between them, or the tightest ones as a list where
// there are too many. A cell shows its way on the sheet.

#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/document.h"
#include "app/view_state.h"

namespace punch {

class FeatureNames;

class ApartView : public QWidget {
    Q_OBJECT
public:
    ApartView(Document& document, ViewState& view, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void fitColumns();
    void refresh();
    void fillMatrix(const std::vector<FeatureId>& rows, const std::vector<FeatureId>& columns);
    void fillList();
    void fillChain();
    /// What stands near and carries no potential.
    void fillAround();
    QString apart(const VoltagePair& pair, int digits) const;
    QTableWidgetItem* cell(const FeatureNames& names, const VoltagePair& pair, const QString& text) const;
    /// The pair that is shown: the chosen one, else the worst.
    const VoltagePair* shown() const;
    Document& document_;
    ViewState& view_;
    QLabel* title_;
    QLabel* count_;
    QTableWidget* table_;
    QLabel* words_;
    QLabel* chainTitle_;
    QLabel* chain_;
    QLabel* around_;
    bool filling_ = false;
};

}  // namespace punch
