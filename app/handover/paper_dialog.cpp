#include "app/handover/paper_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/paper.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "core/approval/approval.h"
#include "core/derive.h"
#include "core/library/library.h"
#include "core/part/file.h"

namespace punch {

PaperDialog::PaperDialog(const Document& document, const QString& library, bool mirrored, QWidget* parent)
    : QDialog(parent), document_(document) {
    setObjectName("paperDialog");
    setWindowTitle(tr("On paper at 1:1"));
    resize(900, 660);
    auto* whole = new QVBoxLayout(this);
    auto* line = new QHBoxLayout;
    whole->addLayout(line, 1);
    auto* left = new QVBoxLayout;
    line->addLayout(left);
    left->addWidget(new QLabel(tr("Parts on the sheet"), this));
    parts_ = new QListWidget(this);
    parts_->setObjectName("paperParts");
    parts_->setAccessibleName(tr("Parts on the sheet"));
    parts_->setFixedWidth(theme::em() * 20);
    auto* own = new QListWidgetItem(tr("%1 (on the bench)").arg(toQt(document.part().name)), parts_);
    own->setCheckState(Qt::Checked);
    if (const auto files = libraryFiles(library.toStdString()))
        for (const auto& file : *files) {
            if (toQt(file.string()) == document.path()) continue;
            auto* item = new QListWidgetItem(toQt(file.stem().string()), parts_);
            item->setData(Qt::UserRole, toQt(file.string()));
            item->setCheckState(Qt::Unchecked);
        }
    left->addWidget(parts_, 1);
    connect(parts_, &QListWidget::itemChanged, this, &PaperDialog::refresh);
    mirrored_ = new QCheckBox(tr("Mirrored: the underside is laid on it"), this);
    mirrored_->setObjectName("paperMirrored");
    mirrored_->setChecked(mirrored);
    connect(mirrored_, &QCheckBox::toggled, this, &PaperDialog::refresh);
    left->addWidget(mirrored_);
    loose_ = new QCheckBox(tr("Loose parts too; the sheet says LOOSE"), this);
    loose_->setObjectName("paperLoose");
    connect(loose_, &QCheckBox::toggled, this, &PaperDialog::refresh);
    left->addWidget(loose_);
    auto* form = new QFormLayout;
    page_ = new QComboBox(this);
    page_->setObjectName("paperPage");
    page_->addItem("A4", QSizeF(210, 297));
    page_->addItem("A3", QSizeF(297, 420));
    page_->addItem(tr("Letter"), QSizeF(215.9, 279.4));
    connect(page_, &QComboBox::currentIndexChanged, this, &PaperDialog::refresh);
    form->addRow(tr("Page of the PDF"), page_);
    left->addLayout(form);
    auto* words = new WrappedLabel(this);
    words->setFixedWidth(theme::em() * 20);
    words->setText(tr("The printer's own page counts when it is printed. Printing is %1 (F1: printer's scale).")
                       .arg(correctionWords(printedLengths())));
    left->addWidget(words);
    auto* buttons = new QHBoxLayout;
    auto* pdf = new QPushButton(tr("PDF…"), this);
    pdf->setObjectName("paperPdf");
    auto* print = new QPushButton(tr("Print…"), this);
    print->setObjectName("paperPrint");
    print->setProperty("role", "main");
    buttons->addWidget(pdf);
    buttons->addWidget(print);
    left->addLayout(buttons);
    connect(pdf, &QPushButton::clicked, this, [this] {
        const QString file = QFileDialog::getSaveFileName(this, tr("True-scale PDF"),
                                                          toQt(document_.part().name) + ".pdf", tr("PDF (*.pdf)"));
        if (!file.isEmpty()) writeTo(file);
    });
    connect(print, &QPushButton::clicked, this, [this] {
        const auto done = printPaper(this, chosen(), options());
        if (!done) return say(toQt(done.error().text()));
        if (*done) say(tr("Printed. Measure both bars of 100 mm"), true);
    });
    picture_ = new QLabel(this);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setAccessibleName(tr("The first page"));
    picture_->setStyleSheet(theme::styled("background: @rail;"));
    line->addWidget(picture_, 1);
    message_ = new WrappedLabel(this);
    message_->setObjectName("paperMessage");
    whole->addWidget(message_);
    refresh();
}

std::vector<PaperPart> PaperDialog::chosen() {
    std::vector<PaperPart> all;
    for (int i = 0; i < parts_->count(); ++i) {
        if (parts_->item(i)->checkState() != Qt::Checked) continue;
        const QString file = parts_->item(i)->data(Qt::UserRole).toString();
        const Part* part = &document_.part();
        const Footprint* footprint = &document_.footprint();
        if (!file.isEmpty()) {
            auto& other = others_[file];
            if (!other) {
                const auto read = loadPart(file.toStdString());
                if (!read) {
                    say(toQt(read.error().text()));
                    continue;
                }
                other = std::make_unique<Other>(Other{*read, derive(*read)});
            }
            part = &other->part;
            footprint = &other->footprint;
        }
        const auto loose =
            std::any_of(footprint->pads.begin(), footprint->pads.end(), [](const Pad& p) { return !p.firm; });
        if (loose && !loose_->isChecked()) {
            say(tr("%1 has loose pads and is left out").arg(toQt(part->name)));
            continue;
        }
        all.push_back({part, footprint, stampOf(*part, *footprint).line});
    }
    return all;
}

PaperOptions PaperDialog::options() const {
    PaperOptions o;
    o.mirrored = mirrored_->isChecked();
    const QSizeF page = page_->currentData().toSizeF();
    o.pageWidth = page.width();
    o.pageHeight = page.height();
    return o;
}

void PaperDialog::refresh() {
    say({});
    const std::vector<PaperPart> parts = chosen();
    picture_->clear();
    if (parts.empty()) return message_->text().isEmpty() ? say(tr("No part is ticked")) : void();
    const auto pdf = paperPdf(parts, options());
    if (!pdf) return say(toQt(pdf.error().text()));
    const auto pages = pagesOf(*pdf, 50);
    if (!pages || pages->empty()) return say(pages ? tr("There is no page") : toQt(pages.error().text()));
    picture_->setPixmap(QPixmap::fromImage(pages->front()));
    if (message_->text().isEmpty()) say(pages->size() == 1 ? tr("One page") : tr("%1 pages").arg(pages->size()), true);
}

void PaperDialog::writeTo(const QString& file) {
    const auto done = writePaper(file, chosen(), options());
    if (!done) return say(tr("Not written. %1").arg(toQt(done.error().text())));
    say(tr("Written: %1. A PDF is not corrected for a printer").arg(QFileInfo(file).fileName()), true);
}

void PaperDialog::say(const QString& words, bool good) {
    message_->setText(words);
    message_->setStyleSheet(theme::styled(good ? "color: @go;" : "color: @vermilion;"));
}

}  // namespace punch
