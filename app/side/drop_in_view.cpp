#include "app/side/drop_in_view.h"

#include <qcustomplot.h>

#include <QHBoxLayout>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/numbering.h"

namespace punch {

namespace {

/// As many decimals as tell it from all of them.
QString percent(double share) {
    const int digits = share > 0.999 && share < 1 ? 3 : share > 0.99 && share < 1 ? 2 : share >= 1 ? 0 : 1;
    return QString::number(100 * share, 'f', digits);
}

}  // namespace

DropInView::DropInView(Document& document, ViewState& view, DropInWork& work, QWidget* parent)
    : QWidget(parent), document_(document), view_(view), work_(work) {
    setObjectName("dropIn");
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(2);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Will it drop in?"), this);
    title->setFont(theme::text(1.1, true));
    trials_ = new QLabel(this);
    trials_->setFont(theme::text(0.85));
    trials_->setStyleSheet(theme::styled("color: @quiet;"));
    head->addWidget(title);
    head->addStretch(1);
    head->addWidget(trials_);
    box->addLayout(head);
    share_ = new QLabel(this);
    share_->setObjectName("dropInShare");
    share_->setFont(theme::digits(1.25, true));
    box->addWidget(share_);
    band_ = new QLabel(this);
    band_->setFont(theme::text(0.85));
    band_->setStyleSheet(theme::styled("color: @quiet;"));
    band_->setWordWrap(true);
    box->addWidget(band_);
    plot_ = new QCustomPlot(this);
    plot_->setAccessibleName(tr("Spare room of the trials"));
    plot_->setFixedHeight(static_cast<int>(theme::em() * 7.5));
    plot_->setAttribute(Qt::WA_TransparentForMouseEvents);
    box->addWidget(plot_);
    words_ = new QLabel(this);
    words_->setObjectName("dropInWords");
    words_->setFont(theme::text(0.9));
    words_->setWordWrap(true);
    words_->setTextFormat(Qt::RichText);
    box->addWidget(words_);
    take_ = new QPushButton(this);
    take_->setObjectName("takeHole");
    box->addWidget(take_, 0, Qt::AlignLeft);
    connect(take_, &QPushButton::clicked, this, &DropInView::takeHole);
    connect(&document_, &Document::changed, this, &DropInView::refresh);
    connect(&work_, &DropInWork::changed, this, &DropInView::refresh);
    connect(&view_, &ViewState::unitChanged, this, &DropInView::refresh);
}

const LeastHole* DropInView::wanted() const {
    if (!work_.report()) return nullptr;
    for (const LeastHole& h : work_.report()->holes)
        if (h.about.empty() && h.least > h.now) return &h;
    return nullptr;
}

void DropInView::refresh() {
    if (!document_.open()) return;
    const DropInShare& coarse = document_.footprint().dropIn;
    const auto& report = work_.report();
    const DropInShare& s = report ? report->share : coarse;
    plot_->setVisible(report && s.known);
    words_->setVisible(report && s.known);
    take_->hide();
    if (!s.known) {
        trials_->clear();
        share_->setText(tr("not known yet"));
        share_->setStyleSheet(theme::styled("color: @quiet;"));
        band_->setText(toQt(s.why.empty() ? "Measure leads and places first." : s.why + "."));
        return;
    }
    trials_->setText(report            ? tr("%L1 trials").arg(s.trials)
                     : work_.running() ? tr("coarse, %L1; trying more …").arg(s.trials)
                                       : tr("coarse, %L1 trials").arg(s.trials));
    const double wantedShare = document_.part().rules.dropInWanted;
    const Gauge* gauge = document_.footprint().gauge("drop-in");
    const GaugeState state = report ? (s.low >= wantedShare || s.in == s.trials ? GaugeState::Go
                                       : s.share >= wantedShare                 ? GaugeState::Watch
                                                                                : GaugeState::NoGo)
                                    : gauge->state;
    share_->setText(s.in == s.trials ? tr("all of them") : tr("%1 %").arg(percent(s.share)));
    share_->setStyleSheet(QString("color: %1;").arg(theme::stateInk(state).name()));
    QString band = tr("between %1 and %2 % (95 %)").arg(percent(s.low), percent(s.high));
    if (report && report->bandLow < report->bandHigh)
        band += tr("; with what is not known of the part, %1 to %2 %")
                    .arg(percent(report->bandLow), percent(report->bandHigh));
    band += s.spreadKnown ? "." : tr(". Nothing says how parts of the kind differ: one part, many boards.");
    band_->setText(band);
    if (!report) return;
    plot(*report);
    QString words;
    if (!report->costs.empty() && report->costs.front().cost > 0)
        words += tr("Costs most: <b>%1</b>, %2 % of the parts.<br>")
                     .arg(toQt(report->costs.front().name).toHtmlEscaped())
                     .arg(100 * report->costs.front().cost, 0, 'g', 2);
    if (!report->tightest.empty())
        words += tr("Binds most often: <b>%1</b>.<br>")
                     .arg(toQt(featureWords(document_.part(), report->tightest)).toHtmlEscaped());
    for (const LeastHole& h : report->holes) {
        if (!h.about.empty()) continue;
        words += h.least <= Length() ? tr("No size of the plated holes alone lets %1 % in.").arg(100 * wantedShare)
                                     : tr("%1 % need holes of <b>%2</b>; they are %3.")
                                           .arg(100 * wantedShare)
                                           .arg(view_.length(h.least, 2), view_.length(h.now, 2));
    }
    words_->setText(words);
    if (const LeastHole* h = wanted()) {
        take_->setText(tr("Take %1").arg(view_.length(h->least, 2)));
        take_->show();
    }
}

void DropInView::plot(const DropInReport& report) {
    plot_->clearPlottables();
    plot_->clearItems();
    QVector<double> in, out, inAt, outAt;
    const double per = view_.unit() == Unit::Mm ? 1 : view_.unit() == Unit::Mil ? 1 / 0.0254 : 1 / 25.4;
    for (std::size_t i = 0; i < report.histogram.size(); ++i) {
        const double at = report.histogramFrom + (static_cast<double>(i) + 0.5) * report.histogramStep;
        (at < 0 ? outAt : inAt) << at * per;
        (at < 0 ? out : in) << report.histogram[i];
    }
    for (const bool good : {true, false}) {
        auto* bars = new QCPBars(plot_->xAxis, plot_->yAxis);
        bars->setWidthType(QCPBars::wtPlotCoords);
        bars->setWidth(report.histogramStep * per * 0.92);
        bars->setPen(Qt::NoPen);
        bars->setBrush(good ? theme::kTrialsIn : theme::kVermilion);
        bars->setData(good ? inAt : outAt, good ? in : out, true);
    }
    plot_->setBackground(QBrush(Qt::white));
    plot_->yAxis->setVisible(false);
    plot_->xAxis->grid()->setVisible(false);
    plot_->xAxis->setTickLabelFont(theme::digits(0.8));
    plot_->xAxis->setLabelFont(theme::text(0.8));
    plot_->xAxis->setLabel(tr("spare room, %1").arg(view_.unitText()));
    plot_->xAxis->setLabelColor(theme::kQuiet);
    plot_->xAxis->setTickLabelColor(theme::kInk);
    plot_->xAxis->ticker()->setTickCount(4);
    plot_->xAxis->setRange(
        std::min(report.histogramFrom, 0.0) * per,
        (report.histogramFrom + report.histogramStep * static_cast<double>(report.histogram.size())) * per);
    const int most = *std::max_element(report.histogram.begin(), report.histogram.end());
    plot_->yAxis->setRange(0, most * 1.06);
    auto* zero = new QCPItemStraightLine(plot_);
    zero->point1->setCoords(0, 0);
    zero->point2->setCoords(0, 1);
    zero->setPen(QPen(theme::kInk, 1.4));
    plot_->axisRect()->setAutoMargins(QCP::msBottom);
    plot_->axisRect()->setMargins(QMargins(4, 4, 4, 0));
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void DropInView::takeHole() {
    const LeastHole* h = wanted();
    if (h == nullptr) return;
    const Length by = h->least - h->now;
    Part next = document_.part();
    const Footprint& f = document_.footprint();
    for (std::size_t i = 0; i < next.formations.size(); ++i) {
        PadOverride& o = next.overrides[next.formations[i].id];
        o.hole = f.leads[i].hole + by;
        o.reason = "drop-in";
    }
    for (const BareHole& hole : f.bareHoles)
        if (hole.plated) {
            PadOverride& o = next.overrides[hole.id];
            o.hole = hole.size + by;
            if (hole.slotLength > Length()) o.holeLength = hole.slotLength + by;
            o.reason = "drop-in";
        }
    document_.apply(tr("larger holes for drop-in"), std::move(next));
}

}  // namespace punch
