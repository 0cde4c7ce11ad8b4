#include "app/side/apart_view.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QScrollBar>
#include <algorithm>

#include "app/qt_text.h"
#include "app/theme.h"
#include "core/clear/voltage_pairs.h"
#include "core/model/contacts.h"
#include "core/part/names.h"

namespace punch {
namespace {

constexpr std::size_t kMostColumns = 8, kMostRows = 8, kMostListed = 30;

std::pair<Length, Length> tightest(const VoltagePair& v) {
    const TightestWay way = tightestWay(v);
    return {way.is, way.needs};
}

/// A pin's number, or the name of what else carries a potential.
QString nameOfFeature(const Part& part, const FeatureNames& names, const FeatureId& id) {
    const std::string* number = names.pin(id);
    return toQt(number != nullptr ? *number : featureWords(part, id));
}

}  // namespace

ApartView::ApartView(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("apart");
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(3);
    auto* head = new QHBoxLayout;
    title_ = new QLabel(tr("Apart"), this);
    title_->setFont(theme::text(1.1, true));
    count_ = new QLabel(this);
    count_->setFont(theme::text(0.85));
    count_->setStyleSheet(theme::styled("color: @quiet;"));
    head->addWidget(title_);
    head->addStretch(1);
    head->addWidget(count_);
    box->addLayout(head);
    table_ = new QTableWidget(this);
    table_->setObjectName("apartTable");
    table_->setAccessibleName(tr("Distances between potentials"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->setFrameShape(QFrame::NoFrame);
    table_->setFont(theme::digits(0.8));
    table_->horizontalHeader()->setFont(theme::digits(0.8, true));
    table_->verticalHeader()->setFont(theme::digits(0.8, true));
    table_->horizontalHeader()->setHighlightSections(false);
    table_->verticalHeader()->setHighlightSections(false);
    table_->verticalHeader()->setDefaultSectionSize(static_cast<int>(theme::em() * 1.5));
    table_->verticalHeader()->setMinimumSectionSize(10);
    table_->horizontalHeader()->setMinimumSectionSize(10);
    table_->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    table_->horizontalHeader()->setFixedHeight(static_cast<int>(theme::em() * 1.4));
    box->addWidget(table_);
    words_ = new QLabel(this);
    words_->setFont(theme::text(0.85));
    words_->setStyleSheet(theme::styled("color: @quiet;"));
    words_->setWordWrap(true);
    box->addWidget(words_);
    chainTitle_ = new QLabel(this);
    chainTitle_->setFont(theme::text(1.0, true));
    box->addWidget(chainTitle_);
    chain_ = new QLabel(this);
    chain_->setObjectName("apartChain");
    chain_->setFont(theme::text(0.9));
    chain_->setTextFormat(Qt::RichText);
    chain_->setWordWrap(true);
    box->addWidget(chain_);
    around_ = new QLabel(this);
    around_->setObjectName("apartAround");
    around_->setFont(theme::text(0.85));
    around_->setTextFormat(Qt::RichText);
    around_->setWordWrap(true);
    around_->setToolTip(tr("Nothing is checked against these. Give one a potential by its name, and it is."));
    box->addWidget(around_);
    connect(table_, &QTableWidget::currentItemChanged, this, [this](QTableWidgetItem* item) {
        if (filling_ || item == nullptr || item->data(Qt::UserRole).isNull()) return;
        view_.choosePair(item->data(Qt::UserRole).toString().toStdString(),
                         item->data(Qt::UserRole + 1).toString().toStdString());
        fillChain();
    });
    connect(&document_, &Document::changed, this, &ApartView::refresh);
    connect(&view_, &ViewState::unitChanged, this, &ApartView::refresh);
}

const VoltagePair* ApartView::shown() const {
    const auto& pairs = document_.footprint().voltages;
    for (const VoltagePair& v : pairs)
        if (v.a == view_.pairA() && v.b == view_.pairB()) return &v;
    return pairs.empty() ? nullptr : &pairs.front();
}

QString ApartView::apart(const VoltagePair& v, int digits) const {
    const Length is = tightest(v).first;
    return is < noWay() ? view_.value(is, digits) : tr("no way");
}

void ApartView::fillAround() {
    const auto& around = document_.footprint().around;
    around_->setVisible(!around.empty());
    QString rows;
    for (const Surrounding& s : around) {
        // Nothing stands in a cut-out until somebody says so.
        const bool empty = s.kind == Surrounding::Kind::CutOut;
        const bool near = !empty && s.margin < Length::fromNm(-1);
        rows +=
            QString("<tr><td style='color:%1'>%2</td><td align='right' style='padding-left:8px'><b>%3</b></td></tr>")
                .arg(theme::styled(near ? "@marigoldInk" : "@ink"),
                     tr("%1 to %2").arg(toQt(featureWords(document_.part(), s.pin)), toQt(s.name)).toHtmlEscaped(),
                     (empty ? view_.length(s.gap, 2)
                            : tr("%1 of %2").arg(view_.value(s.gap, 2), view_.length(s.asks, 2)))
                         .toHtmlEscaped());
    }
    around_->setText(theme::styled("<span style='color:@quiet'>") + tr("What no potential is given to, as if at 0 V:") +
                     "</span>" + "<table width='100%'>" + rows + "</table>");
}

void ApartView::fitColumns() {
    // Columns share the width while their numbers fit; beyond that the matrix is pushed along under the hand.
    QHeaderView* header = table_->horizontalHeader();
    const int least = QFontMetrics(table_->font()).horizontalAdvance("88.88") + 6;
    const int columns = std::max(1, table_->columnCount());
    const int room = table_->width() - table_->verticalHeader()->sizeHint().width() - 2;
    const bool narrow = room / columns < least;
    header->setMinimumSectionSize(narrow ? least : 10);
    header->setSectionResizeMode(narrow ? QHeaderView::Fixed : QHeaderView::Stretch);
    if (narrow) header->setDefaultSectionSize(least);
    if (narrow)
        for (int i = 0; i < table_->columnCount(); ++i) header->resizeSection(i, least);
    table_->setHorizontalScrollBarPolicy(narrow ? Qt::ScrollBarAlwaysOn : Qt::ScrollBarAlwaysOff);
    // The bar stands below the rows and hides none.
    const int shownRows = std::min(table_->rowCount(), 8);
    table_->setFixedHeight(header->height() + shownRows * table_->verticalHeader()->defaultSectionSize() + 4 +
                           (narrow ? table_->horizontalScrollBar()->sizeHint().height() : 0));
}

void ApartView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fitColumns();
}

QTableWidgetItem* ApartView::cell(const FeatureNames& names, const VoltagePair& v, const QString& text) const {
    auto* item = new QTableWidgetItem(text);
    item->setTextAlignment(Qt::AlignCenter);
    item->setData(Qt::UserRole, toQt(v.a));
    item->setData(Qt::UserRole + 1, toQt(v.b));
    const auto [is, needs] = tightest(v);
    const bool unknown = !v.refused.empty();
    const GaugeState state = unknown                          ? GaugeState::Unknown
                             : is < needs - Length::fromNm(1) ? GaugeState::NoGo
                             : is - needs < 0.1 * needs       ? GaugeState::Watch
                                                              : GaugeState::Go;
    item->setForeground(state == GaugeState::Go && is > 1.5 * needs ? theme::kQuiet : theme::stateInk(state));
    item->setBackground(state == GaugeState::NoGo      ? theme::kVermilionPale
                        : state == GaugeState::Watch   ? theme::kMarigoldPale
                        : state == GaugeState::Unknown ? theme::kCellUnknown
                        : is < 1.5 * needs             ? theme::kCellNear
                                                       : theme::kCellFar);
    item->setToolTip(unknown ? toQt(v.refused)
                             : tr("%1 and %2: %3 of %4, %5 to spare")
                                   .arg(toQt(names.words(v.a)), toQt(names.words(v.b)), view_.length(is, 3),
                                        view_.length(needs, 3), view_.length(is - needs, 3)));
    return item;
}

void ApartView::fillMatrix(const std::vector<FeatureId>& rows, const std::vector<FeatureId>& columns) {
    const Part& part = document_.part();
    const FeatureNames names(part);
    table_->setRowCount(static_cast<int>(rows.size()));
    table_->setColumnCount(static_cast<int>(columns.size()));
    QStringList across;
    QStringList down;
    // Names of several words stand in as many lines.
    for (const FeatureId& id : columns) across << nameOfFeature(part, names, id).replace(' ', '\n');
    const auto lines = [](const QString& name) { return name.count('\n') + 1; };
    qsizetype most = 1;
    for (const QString& name : across) most = std::max(most, lines(name));
    table_->horizontalHeader()->setFixedHeight(
        static_cast<int>(theme::em() * (1.4 + 1.1 * static_cast<double>(most - 1))));
    for (const FeatureId& id : rows) down << nameOfFeature(part, names, id);
    table_->setHorizontalHeaderLabels(across);
    table_->setVerticalHeaderLabels(down);
    for (const VoltagePair& v : document_.footprint().voltages)
        for (std::size_t r = 0; r < rows.size(); ++r)
            for (std::size_t c = 0; c < columns.size(); ++c)
                if ((v.a == rows[r] && v.b == columns[c]) || (v.b == rows[r] && v.a == columns[c]))
                    table_->setItem(static_cast<int>(r), static_cast<int>(c),
                                    cell(names, v, apart(v, tightest(v).first.mm() < 10 ? 2 : 1)));
    fitColumns();
    table_->horizontalHeader()->show();
    table_->verticalHeader()->show();
}

void ApartView::fillList() {
    const auto& pairs = document_.footprint().voltages;
    const FeatureNames names(document_.part());
    const int n = static_cast<int>(std::min(pairs.size(), kMostListed));
    table_->setRowCount(n);
    table_->setColumnCount(3);
    table_->horizontalHeader()->setFixedHeight(static_cast<int>(theme::em() * 1.4));
    table_->setHorizontalHeaderLabels({tr("pair"), tr("apart"), tr("of")});
    for (int i = 0; i < n; ++i) {
        const VoltagePair& v = pairs[static_cast<std::size_t>(i)];
        const auto [is, needs] = tightest(v);
        table_->setItem(i, 0,
                        cell(names, v,
                             QString("%1 · %2").arg(nameOfFeature(document_.part(), names, v.a),
                                                    nameOfFeature(document_.part(), names, v.b))));
        table_->setItem(i, 1, cell(names, v, apart(v, 2)));
        table_->setItem(i, 2, cell(names, v, v.refused.empty() ? view_.value(needs, 2) : tr("unknown")));
    }
    fitColumns();
    table_->horizontalHeader()->show();
    table_->verticalHeader()->hide();
}

void ApartView::fillChain() {
    const VoltagePair* v = shown();
    chainTitle_->setVisible(v != nullptr);
    chain_->setVisible(v != nullptr);
    if (v == nullptr) return;
    const Rules& rules = document_.part().rules;
    const auto line = [](const QString& what, const QString& value) {
        return theme::styled(
                   "<tr><td style='color:@ink'>%1</td><td align='right' style='padding-left:10px'>"
                   "<b>%2</b></td></tr>")
            .arg(what.toHtmlEscaped(), value.toHtmlEscaped());
    };
    const auto far = [&](Length l) { return l < noWay() ? view_.length(l, 2) : tr("no way"); };
    QString rows;
    chainTitle_->setText(
        tr("%1 to %2").arg(toQt(featureWords(document_.part(), v->a)), toQt(featureWords(document_.part(), v->b))));
    if (!v->refused.empty()) {
        rows = line(toQt(v->refused), tr("unknown"));
    } else if (rules.standard == VoltageStandard::Ipc2221) {
        rows = line(tr("peak between them"), tr("%1 V").arg(v->peak.volts(), 0, 'f', 0)) +
               line(tr("IPC-2221B, %1, needs").arg(toQt(nameOf(v->column.value_or(rules.column)))),
                    view_.length(v->needed, 2)) +
               line(v->otherFaces ? tr("through air") : tr("copper to copper"), far(v->gap));
    } else {
        rows = line(tr("r.m.s. between them"), tr("%1 V").arg(v->rms.volts(), 0, 'f', 0)) +
               line(tr("degree %1, group %2, %3")
                        .arg(toQt(nameOf(rules.iec.qualifiedCoating ? PollutionDegree::One : rules.iec.pollution)),
                             toQt(nameOf(rules.iec.group)), toQt(nameOf(rules.iec.insulation))),
                    QString()) +
               line(tr("over the surface %1, needs").arg(far(v->way)), view_.length(*v->creepage, 2)) +
               line(tr("impulse"), tr("%1 V").arg(v->impulse.volts(), 0, 'f', 0)) +
               line(tr("through air %1, needs").arg(far(v->gap)), view_.length(*v->clearance, 2));
    }
    if (v->otherFaces)
        rows += line(v->gap < noWay()
                         ? tr("on different faces, past a wall of %1").arg(view_.length(rules.boardThickness, 2))
                         : tr("on different faces, %1 of board between").arg(view_.length(rules.boardThickness, 2)),
                     QString());
    chain_->setText("<table width='100%'>" + rows + "</table>");
}

void ApartView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void ApartView::refresh() {
    if (!isVisible()) return;  // filled when it is looked at
    filling_ = true;
    table_->clear();
    const bool open = document_.open();
    const bool some = open && !document_.footprint().voltages.empty();
    table_->setVisible(some);
    if (!some) {
        count_->clear();
        words_->setText(tr("Give two potentials to pins, and what is between them stands here."));
        around_->setVisible(false);
        if (open) fillChain();
        if (open) fillAround();
        filling_ = false;
        return;
    }
    const auto& pairs = document_.footprint().voltages;
    const Part& part = document_.part();
    // Pins of the potential with most of them across, all others down.
    const Potential* widest = nullptr;
    for (const Potential& p : part.potentials)
        if (widest == nullptr || p.pins.size() > widest->pins.size()) widest = &p;
    std::vector<FeatureId> columns;
    std::vector<FeatureId> rows;
    for (const Potential& p : part.potentials)
        for (const FeatureId& id : p.pins) (&p == widest ? columns : rows).push_back(id);
    // With three potentials or more the rows have pairs among themselves: then every pin is a column too.
    const auto used = std::count_if(part.potentials.begin(), part.potentials.end(),
                                    [](const Potential& p) { return !p.pins.empty(); });
    if (used > 2) columns.insert(columns.end(), rows.begin(), rows.end());
    const bool matrix = columns.size() <= kMostColumns && rows.size() <= kMostRows;
    matrix ? fillMatrix(rows, columns) : fillList();
    fitColumns();
    const auto failing = std::count_if(pairs.begin(), pairs.end(), [](const VoltagePair& v) {
        return v.refused.empty() && v.margin() < Length::fromNm(-1);
    });
    count_->setText(failing > 0 ? tr("%1 pairs, %2 too near").arg(pairs.size()).arg(failing)
                                : tr("%1 pairs").arg(pairs.size()));
    words_->setText(matrix ? tr("%1: the way that has less to spare").arg(view_.unitText())
                           : tr("%1: the tightest pairs first").arg(view_.unitText()));
    fillChain();
    fillAround();
    filling_ = false;
}

}  // namespace punch
