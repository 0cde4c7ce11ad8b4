#include "app/pictures/bring_in_dialog.h"

#include <QDialogButtonBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/drawing/read_dxf.h"

namespace punch {

namespace {
constexpr double kUnits[] = {1.0, 25.4, 0.0254, 10.0};
}

Result<std::optional<EvidenceChoice>> BringInDialog::ask(const QString& file, QWidget* parent) {
    const EvidenceKind kind = evidenceKind(file.toStdString());
    EvidenceChoice plain;
    if (kind == EvidenceKind::Picture) return std::optional(plain);
    if (kind == EvidenceKind::Dxf) {
        const auto drawing = readDxf(file.toStdString());
        if (!drawing) return tl::make_unexpected(drawing.error());
        if (drawing->mmPerUnit) return std::optional(plain);
        BringInDialog dialog(file, *drawing, parent);
        return dialog.exec() == Accepted ? std::optional(dialog.choice()) : std::nullopt;
    }
    auto pages = PdfPages::open(file.toStdString());
    if (!pages) return tl::make_unexpected(pages.error());
    BringInDialog dialog(file, *pages, parent);
    return dialog.exec() == Accepted ? std::optional(dialog.choice()) : std::nullopt;
}

void BringInDialog::begin(const QString& file, const QString& words) {
    setWindowTitle(tr("Bring in %1").arg(QFileInfo(file).fileName()));
    auto* box = new QVBoxLayout(this);
    auto* label = new QLabel(words, this);
    label->setWordWrap(true);
    box->addWidget(label);
}

void BringInDialog::end() {
    auto* buttons = new QDialogButtonBox(this);
    auto* ok = buttons->addButton(tr("Bring it in"), QDialogButtonBox::AcceptRole);
    ok->setObjectName("bringInOk");
    ok->setProperty("role", "main");
    ok->setDefault(true);
    buttons->addButton(tr("Leave it"), QDialogButtonBox::RejectRole);
    layout()->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

BringInDialog::BringInDialog(const QString& file, PdfPages pages, QWidget* parent)
    : QDialog(parent), pages_(std::move(pages)) {
    begin(file, pages_->count() > 1 ? tr("Choose the page. Drag over the view that matters, or take all of it.")
                                    : tr("Drag over the view that matters, or take the whole page."));
    auto* line = new QHBoxLayout;
    page_ = new QSpinBox(this);
    page_->setObjectName("pdfPage");
    page_->setRange(1, pages_->count());
    page_->setSuffix(tr(" of %1").arg(pages_->count()));
    page_->setPrefix(tr("page "));
    about_ = new QLabel(this);
    line->addWidget(page_);
    line->addWidget(about_, 1);
    static_cast<QVBoxLayout*>(layout())->addLayout(line);
    preview_ = new QLabel(this);
    preview_->setObjectName("pdfPreview");
    preview_->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    preview_->setCursor(Qt::CrossCursor);
    preview_->installEventFilter(this);
    layout()->addWidget(preview_);
    connect(page_, &QSpinBox::valueChanged, this, &BringInDialog::showPage);
    end();
    showPage();
}

BringInDialog::BringInDialog(const QString& file, const Drawing& drawing, QWidget* parent) : QDialog(parent) {
    begin(file, tr("The file does not say its unit. In which one is it drawn?"));
    unit_ = new QComboBox(this);
    unit_->setObjectName("dxfUnit");
    // The page has a margin of a tenth on each side.
    const double wide = drawing.width / 1.2 * 25.4 / kDxfDpi, high = drawing.height / 1.2 * 25.4 / kDxfDpi;
    const QString names[] = {tr("millimetres"), tr("inches"), tr("mil"), tr("centimetres")};
    for (int i = 0; i < 4; ++i)
        unit_->addItem(tr("%1: it is about %2 × %3 mm large")
                           .arg(names[i])
                           .arg(wide * kUnits[i], 0, 'f', 1)
                           .arg(high * kUnits[i], 0, 'f', 1));
    layout()->addWidget(unit_);
    end();
}

EvidenceChoice BringInDialog::choice() const {
    EvidenceChoice c;
    if (unit_ != nullptr) c.mmPerUnit = kUnits[std::max(unit_->currentIndex(), 0)];
    if (page_ != nullptr) {
        c.page = page_->value() - 1;
        const QRectF r = region_.normalized();
        if (r.width() > 8 && r.height() > 8)
            c.region = PixelRegion{static_cast<int>(r.left() / scale_), static_cast<int>(r.top() / scale_),
                                   static_cast<int>(r.width() / scale_), static_cast<int>(r.height() / scale_)};
    }
    return c;
}

void BringInDialog::showPage() {
    region_ = {};
    image_ = QImage();
    const auto size = pages_->sizeOf(page_->value() - 1);
    if (!size) {
        about_->setText(toQt(size.error().text()));
        drawPreview();
        return;
    }
    about_->setText(
        tr("%1 × %2 mm").arg(size->width * 25.4 / kPageDpi, 0, 'f', 0).arg(size->height * 25.4 / kPageDpi, 0, 'f', 0));
    scale_ = std::min(40.0 * theme::em() / size->width, 36.0 * theme::em() / size->height);
    const auto drawn = pages_->draw(page_->value() - 1, *size, scale_);
    if (drawn)
        image_ = QImage(drawn->data.data(), drawn->width, drawn->height, static_cast<qsizetype>(drawn->width) * 3,
                        QImage::Format_RGB888)
                     .copy();
    else
        about_->setText(toQt(drawn.error().text()));
    drawPreview();
}

void BringInDialog::drawPreview() {
    QImage shown = image_.isNull() ? QImage(400, 300, QImage::Format_RGB888) : image_.copy();
    if (image_.isNull()) shown.fill(Qt::white);
    QPainter painter(&shown);
    painter.setPen(QPen(theme::kQuiet, 1));
    painter.drawRect(shown.rect().adjusted(0, 0, -1, -1));
    if (!region_.isEmpty() || region_.width() != 0) {
        painter.setPen(QPen(theme::kPetrol, 2, Qt::DashLine));
        painter.setBrush(theme::through(theme::kPetrol, 0.12));
        painter.drawRect(region_.normalized());
    }
    painter.end();
    preview_->setPixmap(QPixmap::fromImage(shown));
}

bool BringInDialog::eventFilter(QObject* watched, QEvent* event) {
    if (watched != preview_) return QDialog::eventFilter(watched, event);
    const QRectF page(QPointF(0, 0), QSizeF(image_.size()));
    const auto inside = [&](QPointF p) {
        return QPointF(std::clamp(p.x(), 0.0, page.width()), std::clamp(p.y(), 0.0, page.height()));
    };
    if (event->type() == QEvent::MouseButtonPress) {
        from_ = inside(static_cast<QMouseEvent*>(event)->position());
        region_ = {};
        drawPreview();
        return true;
    }
    if (event->type() == QEvent::MouseMove) {
        region_ = QRectF(from_, inside(static_cast<QMouseEvent*>(event)->position()));
        drawPreview();
        return true;
    }
    return QDialog::eventFilter(watched, event);
}

}  // namespace punch
