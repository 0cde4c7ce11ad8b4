#pragma once
// Several makes in one footprint, in Size: which, whether each drops in, how their holes are joined and what binds.
// What changes in a make's file follows, as an edit that can be undone.

#include <QComboBox>
#include <QFileSystemWatcher>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"
#include "core/advise/join_ways.h"

namespace punch {

class MakesCard : public QWidget {
    Q_OBJECT
public:
    MakesCard(Document& document, ViewState& view, QWidget* parent = nullptr);
    void addMake(const QString& file);
    /// Takes over what changed in the files of the makes.
    void follow();

private:
    void refresh();
    void watch();
    void tryWays();
    QString folder() const;
    QPushButton* link(QWidget* parent, const QString& words, const QString& tip);
    Document& document_;
    ViewState& view_;
    QWidget* rows_;
    QVBoxLayout* list_;
    QWidget* layRow_;
    QComboBox* by_;
    WrappedLabel* holes_;
    QPushButton* ways_;
    QWidget* waysBox_;
    QVBoxLayout* wayRows_;
    std::vector<JoinWay> found_;
    Part waysOf_;  ///< that they are of
    QFileSystemWatcher watcher_;
    QTimer rest_;
    int begun_ = -1;  ///< the part whose makes were looked at
};

}  // namespace punch
