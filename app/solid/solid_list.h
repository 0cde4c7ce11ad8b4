#pragma once
// The bodies of the part as a list: what was found in each, how it stands, its leads in their holes, other ways to
// stand.

#include <QWidget>

#include "app/document.h"
#include "app/solid/solid_work.h"
#include "app/view_state.h"

class QVBoxLayout;

namespace punch {

class SolidList : public QWidget {
    Q_OBJECT
public:
    SolidList(Document& document, ViewState& view, SolidWork& work, QWidget* parent = nullptr);
    void refresh();

signals:
    void fileWanted();

private:
    void addCard(const StandingSolid& standing, const SolidFile& file);
    void addTable(const StandingSolid& standing);
    void addWays(const SolidFile& file);
    void addHand(const SolidFile& file);
    void addNumbers(const SolidFile& file);
    void addMotions(const SolidFile& file);
    QString howItStands(const StandingSolid& standing, const SolidFile& file, bool* good) const;
    Document& document_;
    ViewState& view_;
    SolidWork& work_;
    QVBoxLayout* rows_;
};

}  // namespace punch
