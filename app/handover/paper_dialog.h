#pragma once
// Paper at 1:1: which parts share a sheet, which side is laid on it, what it looks like; as a PDF or to a printer.

#include <QDialog>

#include "app/document.h"
#include "app/widgets/wrapped_label.h"
#include "core/release/paper_out.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QListWidget;

namespace punch {

class PaperDialog : public QDialog {
    Q_OBJECT
public:
    /// `library`: the folder whose parts may share the sheet.
    PaperDialog(const Document& document, const QString& library, bool mirrored, QWidget* parent = nullptr);
    void writeTo(const QString& file);
    QString message() const { return message_->text(); }

private:
    struct Other {
        Part part;
        Footprint footprint;
    };
    void refresh();
    std::vector<PaperPart> chosen();
    PaperOptions options() const;
    void say(const QString& words, bool good = false);
    const Document& document_;
    std::map<QString, std::unique_ptr<Other>> others_;  ///< that were ticked once, by file
    QListWidget* parts_;
    QCheckBox *mirrored_, *loose_;
    QComboBox* page_;
    QLabel* picture_;
    WrappedLabel* message_;
};

}  // namespace punch
