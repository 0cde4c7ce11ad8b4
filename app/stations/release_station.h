#pragma once
// Release: name it, keep its evidence, save it, and write the files a fab accepts.

#include <QPlainTextEdit>
#include <QPushButton>

#include "app/stations/form_column.h"

namespace punch {

class ReleaseStation : public FormColumn {
    Q_OBJECT
public:
    ReleaseStation(Document& document, ViewState& view, QWidget* parent = nullptr);
    /// What leaves, in a dialog.
    void handOver();

signals:
    void pictureWanted(const QString& source);  ///< to be shown on the sheet
    void saveWanted();
    void saveAsWanted();
    void commandWanted(const QString& name);
    void memberWanted(const punch::Part& part);  ///< on a bench of its own

private:
    void look(const std::string& source, const std::string& picture);
    void openLink(const std::string& link);
    /// The file that the part's name asks for, beside the one that it has.
    QString fileForName() const;
    void renameFile();
    QPushButton* renameFile_;
    int renamed_ = 0;    ///< the part that got another name on the bench
    std::string asked_;  ///< address that was shown and may be opened
    void refresh() override;
    void addSource();
    void addBoardNote();
    WrappedLabel* kindWords_;
    QLineEdit* name_;
    QLineEdit* description_;
    QLineEdit* value_;
    QPlainTextEdit* notes_;
    WrappedLabel* height_;
    WrappedLabel* file_;
    QWidget* sources_;
    QVBoxLayout* sourceRows_;
    QLineEdit* sourceTitle_;
    QLineEdit* sourceLink_;
    QLineEdit* sourcePicture_;
    QLineEdit* sourceNote_;
    WrappedLabel* history_;
    QLineEdit* boardNote_;
    QPushButton* choosePicture_;
    WrappedLabel* verdict_;
};

}  // namespace punch
