#pragma once
// Taking in: the pads in files of others, from which one pattern or a group that is clicked becomes a part.

#include <QDialog>
#include <QListWidget>
#include <QPushButton>

#include "app/foreign/foreign_choice.h"
#include "app/foreign/pattern_view.h"
#include "core/foreign/take_in.h"

namespace punch {

class TakeInDialog : public QDialog {
    Q_OBJECT
public:
    explicit TakeInDialog(QWidget* parent = nullptr);
    /// False: it says why.
    bool open(const QStringList& files);
    /// What is chosen, as a part. Errors: nothing is.
    Result<TakenIn> taken() const;

private:
    void showPattern(int row);
    void say();
    ForeignFile file_;
    QString name_;
    QListWidget* list_;
    PatternView* drawing_;
    WrappedLabel* words_;
    QPushButton* take_;
};

}  // namespace punch
