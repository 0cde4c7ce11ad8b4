#pragma once
// The ask box: type what you want, choose from the commands that fit, Enter.

#include <QLineEdit>
#include <QListWidget>

#include "app/commands.h"

namespace punch {

class AskBox : public QLineEdit {
    Q_OBJECT
public:
    AskBox(const std::vector<Command>& commands, QWidget* parent = nullptr);
    QListWidget* list() { return list_; }

protected:
    void keyPressEvent(QKeyEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    void offer();
    void run(int row);
    const std::vector<Command>& commands_;
    std::vector<const Command*> offered_;
    QListWidget* list_;
};

}  // namespace punch
