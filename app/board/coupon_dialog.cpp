#include "app/board/coupon_dialog.h"

#include <QCheckBox>
#include <QDate>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPixmap>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "app/widgets/remove_rows.h"
#include "core/board/board_picture.h"

namespace punch {
namespace {

std::string today() { return QDate::currentDate().toString(Qt::ISODate).toStdString(); }

QString sizesOf(const CouponCopy& copy, bool bare) {
    QStringList all;
    for (const CouponHole& h : copy.holes)
        if (h.bare == bare) {
            const QString words = QString::number(h.size.mm(), 'f', 2) +
                                  (h.length > Length() ? QString(" x %1").arg(h.length.mm(), 0, 'f', 2) : QString());
            if (!all.contains(words)) all << words;
        }
    return all.join(", ");
}

}  // namespace

CouponDialog::CouponDialog(Document& document, ViewState& view, QWidget* parent)
    : QDialog(parent), document_(document), view_(view) {
    setObjectName("couponDialog");
    setWindowTitle(tr("Fit coupon of %1").arg(toQt(document.part().name)));
    resize(940, 640);
    auto* whole = new QVBoxLayout(this);
    auto* line = new QHBoxLayout;
    whole->addLayout(line, 1);
    auto* left = new QVBoxLayout;
    line->addLayout(left);
    words_ = new WrappedLabel(this);
    words_->setFixedWidth(theme::em() * 22);
    words_->setText(tr(
        "The pattern several times, its holes a step wider from copy to copy, on a board for the fab. Put the part in: "
        "the narrowest copy that it slides into is the one that fitted."));
    left->addWidget(words_);
    auto* form = new QFormLayout;
    step_ = new LengthEdit(
        view_,
        [this](Length l) -> Result<void> {
            options_.step = l;
            refresh();
            return {};
        },
        this);
    step_->setObjectName("couponStep");
    step_->setLimits(Length::fromMm(0.01), Length::fromMm(0.5));
    step_->setLength(options_.step);
    form->addRow(tr("Step"), step_);
    const auto count = [&](const char* name, const QString& words, int value) {
        auto* box = new QSpinBox(this);
        box->setObjectName(name);
        box->setRange(0, 12);
        box->setValue(value);
        form->addRow(words, box);
        connect(box, &QSpinBox::valueChanged, this, &CouponDialog::refresh);
        return box;
    };
    narrower_ = count("couponNarrower", tr("Narrower copies"), options_.narrower);
    wider_ = count("couponWider", tr("Wider copies"), options_.wider);
    rings_ = new QCheckBox(tr("Single pads with graded rings"), this);
    rings_->setObjectName("couponRings");
    rings_->setChecked(options_.rings);
    connect(rings_, &QCheckBox::toggled, this, &CouponDialog::refresh);
    form->addRow(rings_);
    left->addLayout(form);
    write_ = new QPushButton(tr("Write its files…"), this);
    write_->setObjectName("couponWrite");
    write_->setProperty("role", "main");
    left->addWidget(write_);
    connect(write_, &QPushButton::clicked, this,
            [this] { writeTo(QFileDialog::getExistingDirectory(this, tr("Folder for the coupon's files"))); });
    auto* back = new QPushButton(tr("It came back: open its .coupon file…"), this);
    back->setObjectName("couponBack");
    left->addWidget(back);
    connect(back, &QPushButton::clicked, this, [this] {
        const QString file =
            QFileDialog::getOpenFileName(this, tr("Which coupon came back?"),
                                         QFileInfo(document_.path()).absolutePath(), tr("Fit coupons (*.coupon)"));
        if (!file.isEmpty()) readBack(file);
    });
    copies_ = new QWidget(this);
    copyRows_ = new QVBoxLayout(copies_);
    copyRows_->setContentsMargins(0, 8, 0, 0);
    copyRows_->setSpacing(4);
    left->addWidget(copies_);
    take_ = new QPushButton(tr("The part takes these"), this);
    take_->setObjectName("couponTake");
    take_->setProperty("role", "main");
    take_->hide();
    left->addWidget(take_);
    connect(take_, &QPushButton::clicked, this, &CouponDialog::take);
    left->addStretch(1);
    picture_ = new QLabel(this);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setMinimumSize(420, 420);
    picture_->setAccessibleName(tr("The coupon from above"));
    line->addWidget(picture_, 1);
    message_ = new WrappedLabel(this);
    message_->setObjectName("couponMessage");
    whole->addWidget(message_);
    refresh();
}

void CouponDialog::say(const QString& words, bool good) {
    message_->setText(words);
    message_->setStyleSheet(theme::styled(good ? "color: @go;" : "color: @vermilion;"));
}

void CouponDialog::refresh() {
    options_.narrower = narrower_->value();
    options_.wider = wider_->value();
    options_.rings = rings_->isChecked();
    auto made = fitCoupon(document_.part(), document_.footprint(), options_, today());
    coupon_.reset();
    write_->setEnabled(made.has_value());
    if (!made) {
        picture_->clear();
        return say(toQt(made.error().text()));
    }
    coupon_ = std::move(*made);
    if (const auto png = boardPicture(coupon_->board, {}, 520, 560, SeenFrom::Above)) {
        QPixmap pixmap;
        pixmap.loadFromData(reinterpret_cast<const uchar*>(png->data()), static_cast<uint>(png->size()), "PNG");
        picture_->setPixmap(pixmap);
    }
    const BoardOutline& o = coupon_->board.board.outline;
    say(tr("%1 copies on %2 x %3 mm")
            .arg(coupon_->record.copies.size())
            .arg(o.width.mm(), 0, 'f', 0)
            .arg(o.height.mm(), 0, 'f', 0),
        true);
}

void CouponDialog::writeTo(const QString& folder) {
    if (folder.isEmpty() || !coupon_) return;
    const auto files = couponFiles(*coupon_);
    const auto done =
        files ? writeAllAtomically(folder.toStdString(), *files) : Result<void>(tl::make_unexpected(files.error()));
    if (!done) return say(tr("Nothing was written. %1").arg(toQt(done.error().text())));
    say(tr("%1 files written to %2. Keep the .coupon file: it says what each copy holds")
            .arg(files->size())
            .arg(QDir::toNativeSeparators(folder)),
        true);
}

void CouponDialog::readBack(const QString& file) {
    const auto record = loadCoupon(file.toStdString());
    if (!record) return say(toQt(record.error().text()));
    if (record->part != document_.part().name)
        return say(tr("This coupon is of %1, the part is %2").arg(toQt(record->part), toQt(document_.part().name)));
    back_ = *record;
    holes_.clear();
    pegs_.clear();
    say(tr("Press the copy that fitted, for holes and for pegs"), true);
    offerCopies();
}

void CouponDialog::offerCopies() {
    removeRows(copyRows_);
    bool anyPeg = false, anyHole = false;
    for (const CouponCopy& c : back_->copies)
        for (const CouponHole& h : c.holes) (h.bare ? anyPeg : anyHole) = true;
    for (const bool bare : {false, true}) {
        if (!(bare ? anyPeg : anyHole)) continue;
        auto* title = new QLabel(bare ? tr("Holes of pegs") : tr("Holes of leads"), copies_);
        title->setFont(theme::text(1.0, true));
        copyRows_->addWidget(title);
        auto* rows = new QWidget(copies_);
        auto* grid = new QGridLayout(rows);
        grid->setContentsMargins(0, 0, 0, 0);
        int at = 0;
        for (const CouponCopy& c : back_->copies) {
            auto* b = new QPushButton(QString("%1  %2").arg(toQt(c.label), sizesOf(c, bare)), rows);
            b->setObjectName(QString(bare ? "couponPeg%1" : "couponHole%1").arg(toQt(c.label)));
            b->setCheckable(true);
            b->setChecked((bare ? pegs_ : holes_) == c.label);
            connect(b, &QPushButton::clicked, this, [this, bare, label = c.label] {
                std::string& chosen = bare ? pegs_ : holes_;
                chosen = chosen == label ? std::string() : label;
                offerCopies();
            });
            grid->addWidget(b, at / 3, at % 3);
            ++at;
        }
        copyRows_->addWidget(rows);
    }
    take_->show();
    take_->setEnabled(!holes_.empty() || !pegs_.empty());
}

void CouponDialog::take() {
    const auto next = withCouponFit(document_.part(), *back_, holes_, pegs_, today());
    if (!next) return say(toQt(next.error().text()));
    document_.apply(tr("fit coupon"), *next);
    document_.settle();
    say(tr("Taken: %1 (undo: Ctrl+Z on the bench)").arg(toQt(next->history.back().words)), true);
}

}  // namespace punch
