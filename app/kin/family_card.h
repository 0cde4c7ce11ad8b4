#pragma once
// The family in Release: its rule of names, its members with their drawings and states, and their files.

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QThreadPool>
#include <QTimer>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"
#include "core/family/family.h"

namespace punch {

class FamilyCard : public QWidget {
    Q_OBJECT
public:
    FamilyCard(Document& document, ViewState& view, QWidget* parent = nullptr);
    ~FamilyCard() override;
    /// Waits until every member is derived. For tests and pictures.
    void settle();
    /// Writes every member's files into a folder, all of them or none.
    void exportTo(const QString& folder);

signals:
    /// The member by itself, on a bench of its own.
    void memberWanted(const punch::Part& part);

private:
    struct Member {
        FamilyMember member;
        QString why;  ///< it cannot be made
        std::vector<std::string> notes;
        Part part;
        Footprint footprint;
    };
    void changeFamily(const QString& what, const std::function<void(Family&)>& change);
    void refresh();
    void begin();
    void arrived(quint64 generation, std::vector<Member> members);
    void showMember(int row);
    QLineEdit* whole(const QString& name, const QString& label, int Family::*field);
    Document& document_;
    ViewState& view_;
    QComboBox* by_;
    QLineEdit* names_;
    QWidget* range_;
    QLineEdit *from_, *to_, *step_;
    WrappedLabel* troubles_;
    QListWidget* list_;
    QLabel* drawing_;
    WrappedLabel* words_;
    QPushButton *openIt_, *writeAll_;
    QTimer rest_;
    QThreadPool pool_;
    std::vector<Member> members_;
    Part of_;  ///< that the members are of
    quint64 generation_ = 0;
    bool running_ = false;
};

}  // namespace punch
