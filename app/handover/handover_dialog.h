#pragma once
// What leaves: what for, which files come out with their sizes, where 0, 0 is and how the footprint is turned for the
// receiver. Every file is made and read again before any is written; then all of them are, or none.

#include <QDialog>
#include <QThreadPool>
#include <map>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"
#include "core/release/file_check.h"
#include "core/release/formats.h"

class QCheckBox;
class QComboBox;
class QPushButton;
class QTreeWidget;
class QTreeWidgetItem;

namespace punch {

class HandoverDialog : public QDialog {
    Q_OBJECT
public:
    HandoverDialog(Document& document, ViewState& view, QWidget* parent = nullptr);
    ~HandoverDialog() override;
    /// Writes what is ticked. Nothing is written, and the reason said, where a file is not good or a question is open.
    void writeTo(const QString& folder);
    /// Waits until every ticked file is made and read again.
    void settle();
    void tick(Format format, bool on);
    QString message() const { return message_->text(); }

private:
    /// What was made of one format.
    struct Made {
        std::vector<NamedContent> files;
        std::vector<CheckedFile> checked;
        QString why;  ///< nothing came out of it
    };
    void choose(const std::vector<Format>& formats);
    void inputsChanged();
    void begin();
    void arrived(quint64 generation, std::map<Format, Made> made);
    void show(Format format);
    void refresh();
    std::vector<Format> ticked() const;
    QTreeWidgetItem* itemOf(Format format) const;
    void say(const QString& words, bool good = false);
    Document& document_;
    ViewState& view_;
    QTreeWidget* tree_;
    QComboBox *origin_, *zero_, *turn_;
    QCheckBox* loose_;
    WrappedLabel *warnings_, *message_;
    QPushButton* write_;
    std::map<Format, Made> made_;
    QThreadPool pool_;
    quint64 generation_ = 0;
    bool running_ = false;
};

}  // namespace punch
