#pragma once
// What a file has to be asked before it is brought in: of a PDF the page and the region, of a DXF without units its
// unit.

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QSpinBox>

#include "core/drawing/evidence.h"

namespace punch {

class BringInDialog : public QDialog {
    Q_OBJECT
public:
    /// Errors: as openEvidence.
    static Result<std::optional<EvidenceChoice>> ask(const QString& file, QWidget* parent);

    BringInDialog(const QString& file, PdfPages pages, QWidget* parent);
    BringInDialog(const QString& file, const Drawing& drawing, QWidget* parent);
    EvidenceChoice choice() const;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void begin(const QString& file, const QString& words);
    void end();
    void showPage();
    void drawPreview();
    std::optional<PdfPages> pages_;
    QSpinBox* page_ = nullptr;
    QComboBox* unit_ = nullptr;
    QLabel* preview_ = nullptr;
    QLabel* about_ = nullptr;
    QImage image_;
    double scale_ = 1;  ///< preview pixels for each of the page's
    QRectF region_;     ///< of the preview; empty for the whole page
    QPointF from_;
};

}  // namespace punch
