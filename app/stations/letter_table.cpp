#include "app/stations/letter_table.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/drawing_value.h"

namespace punch {

LetterTableDialog::LetterTableDialog(Document& document, ViewState& view, QWidget* parent)
    : QDialog(parent), document_(document), view_(view) {
    setObjectName("letterTable");
    setWindowTitle(tr("Letter table of the drawing"));
    resize(theme::em() * 42, theme::em() * 26);
    auto* box = new QVBoxLayout(this);
    auto* words = new QLabel(
        tr("Each letter as the drawing gives it: 20.3, 20.3 ±0.2, 20.1..20.5, 0.8in, 20.3 exact. "
           "Bare numbers are in %1. Readings name a letter as in “body along letter A”, formulas as in “A - 2*B”.")
            .arg(view.unitText()),
        this);
    words->setWordWrap(true);
    words->setProperty("role", "quiet");
    box->addWidget(words);
    table_ = new QTableWidget(0, 0, this);
    table_->setObjectName("letters");
    table_->horizontalHeader()->setDefaultSectionSize(theme::em() * 9);
    box->addWidget(table_, 1);
    auto* line = new QHBoxLayout;
    auto* letter = new QPushButton(tr("Add a letter"), this);
    letter->setObjectName("addLetter");
    auto* variant = new QPushButton(tr("Add a variant"), this);
    variant->setObjectName("addVariant");
    auto* remove = new QPushButton(tr("Remove the letter"), this);
    line->addWidget(letter);
    line->addWidget(variant);
    line->addWidget(remove);
    line->addStretch();
    line->addWidget(new QLabel(tr("This part is"), this));
    variant_ = new QComboBox(this);
    variant_->setObjectName("variant");
    variant_->setMinimumWidth(theme::em() * 8);
    line->addWidget(variant_);
    box->addLayout(line);
    wrong_ = new QLabel(this);
    wrong_->setObjectName("letterWrong");
    wrong_->setProperty("role", "warn");
    wrong_->setWordWrap(true);
    box->addWidget(wrong_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    box->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &LetterTableDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(letter, &QPushButton::clicked, this, [this] { addLetter(); });
    connect(variant, &QPushButton::clicked, this, [this] { addVariant(); });
    connect(remove, &QPushButton::clicked, this, [this] { table_->removeRow(table_->currentRow()); });
    connect(table_->horizontalHeader(), &QHeaderView::sectionDoubleClicked, this, [this](int column) {
        bool ok = false;
        const QString name = QInputDialog::getText(this, tr("Variant"), tr("Name of the variant"), QLineEdit::Normal,
                                                   table_->horizontalHeaderItem(column)->text(), &ok);
        if (ok && !name.trimmed().isEmpty()) table_->horizontalHeaderItem(column)->setText(name.trimmed());
        refreshVariants();
    });
    connect(table_->verticalHeader(), &QHeaderView::sectionDoubleClicked, this, [this](int row) {
        bool ok = false;
        const QString name = QInputDialog::getText(this, tr("Letter"), tr("Name of the letter"), QLineEdit::Normal,
                                                   table_->verticalHeaderItem(row)->text(), &ok);
        if (ok && !name.trimmed().isEmpty()) table_->verticalHeaderItem(row)->setText(name.trimmed());
    });

    const LetterTable& t = document.part().letters;
    for (const std::string& v : t.variants) addVariant(toQt(v));
    if (t.variants.empty()) addVariant(tr("this part"));
    for (const Letter& l : t.letters) {
        addLetter(toQt(l.name));
        for (std::size_t c = 0; c < l.byVariant.size() && static_cast<int>(c) < table_->columnCount(); ++c) {
            const DrawingValue& v = l.byVariant[c];
            const bool other = v.unit != view_.unit() && !namesUnit(v.typed) && !v.typed.empty();
            const QString text =
                other ? QStringLiteral("(%1)%2").arg(toQt(v.typed), toQt(unitName(v.unit))) : toQt(v.typed);
            table_->setItem(table_->rowCount() - 1, static_cast<int>(c), new QTableWidgetItem(text));
        }
    }
    if (t.letters.empty()) addLetter("A");
    refreshVariants();
    variant_->setCurrentText(toQt(t.variant));
}

void LetterTableDialog::addLetter(const QString& name) {
    const int row = table_->rowCount();
    table_->insertRow(row);
    QString next = name;
    for (char c = 'A'; next.isEmpty() && c <= 'Z'; ++c) {
        bool taken = false;
        for (int i = 0; i < row; ++i) taken = taken || table_->verticalHeaderItem(i)->text() == QString(c);
        if (!taken) next = QString(c);
    }
    if (next.isEmpty()) next = tr("Z%1").arg(row);
    table_->setVerticalHeaderItem(row, new QTableWidgetItem(next));
    table_->setCurrentCell(row, 0);
}

void LetterTableDialog::addVariant(const QString& name) {
    const int column = table_->columnCount();
    table_->insertColumn(column);
    table_->setHorizontalHeaderItem(column,
                                    new QTableWidgetItem(name.isEmpty() ? tr("variant %1").arg(column + 1) : name));
    refreshVariants();
}

void LetterTableDialog::refreshVariants() {
    const QString now = variant_->currentText();
    variant_->clear();
    for (int c = 0; c < table_->columnCount(); ++c) variant_->addItem(table_->horizontalHeaderItem(c)->text());
    variant_->setCurrentIndex(std::max(0, variant_->findText(now)));
}

void LetterTableDialog::accept() {
    LetterTable t;
    t.unknown = document_.part().letters.unknown;
    for (int c = 0; c < table_->columnCount(); ++c)
        t.variants.push_back(table_->horizontalHeaderItem(c)->text().toStdString());
    t.variant = variant_->currentText().toStdString();
    for (int r = 0; r < table_->rowCount(); ++r) {
        Letter l;
        l.name = table_->verticalHeaderItem(r)->text().toStdString();
        for (int c = 0; c < table_->columnCount(); ++c) {
            const QTableWidgetItem* item = table_->item(r, c);
            const std::string typed = item == nullptr ? "" : item->text().trimmed().toStdString();
            if (typed.empty()) {
                l.byVariant.push_back({});
                continue;
            }
            const auto value = parseDrawingValue(typed, view_.unit());
            if (!value) {
                wrong_->setText(
                    tr("%1, %2: %3")
                        .arg(toQt(l.name), toQt(t.variants[static_cast<std::size_t>(c)]), toQt(value.error().text())));
                table_->setCurrentCell(r, c);
                return;
            }
            l.byVariant.push_back(*value);
        }
        for (const Letter& other : t.letters)
            if (other.name == l.name) {
                wrong_->setText(tr("The letter %1 stands twice").arg(toQt(l.name)));
                return;
            }
        t.letters.push_back(std::move(l));
    }
    Part next = document_.part();
    next.letters = std::move(t);
    document_.apply(tr("letter table"), std::move(next));
    QDialog::accept();
}

}  // namespace punch
