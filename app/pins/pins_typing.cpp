// Pins and symbol: what is typed into the table.

#include <algorithm>
#include <set>

#include "app/pins/pins_panel.h"
#include "app/qt_text.h"
#include "app/theme.h"
#include "core/part/names.h"

namespace punch {

void PinsPanel::typedNew(const QString& number, const QString& names) {
    std::vector<Pin> next = pins();
    const std::vector<std::string> numbers = series(number.toStdString()), words = series(names.toStdString());
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        Pin p;
        p.number = numbers[i];
        if (!names.isEmpty()) p.names = namesFromText(words.size() == numbers.size() ? words[i] : names.toStdString());
        next.push_back(std::move(p));
    }
    setPins(tr("pins"), std::move(next));
}

void PinsPanel::typed(int row, int column) {
    if (filling_ || offered_ || !document_.open()) return;
    const QString text = table_->item(row, column)->text().trimmed();
    std::vector<Pin> next = pins();
    if (row >= static_cast<int>(next.size())) {
        if (text.isEmpty()) return;
        if (column == Col::Number) return typedNew(text, {});
        view_.say(tr("A pin begins with its number: type it in the first column"));
        filling_ = true;
        table_->item(row, column)->setText({});
        filling_ = false;
        return;
    }
    Pin& p = next[static_cast<std::size_t>(row)];
    const auto wrong = [&](const QString& words) {
        // What was typed stays, marked, until it is right.
        view_.say(words);
        wrong_[{p.number, column}] = text;
        filling_ = true;
        table_->item(row, column)->setForeground(theme::kVermilion);
        filling_ = false;
    };
    const std::string typed = text.toStdString();
    wrong_.erase({p.number, column});
    switch (column) {
        case Col::Number:
            if (typed.empty()) return wrong(tr("A pin has a number; Delete in the table takes it away"));
            p.number = typed;
            break;
        case Col::Names: {
            // A series runs on over the pins below.
            const auto run = series(typed);
            p.names = namesFromText(run.size() > 1 ? run.front() : typed);
            for (std::size_t k = 1; k < run.size() && static_cast<std::size_t>(row) + k < next.size(); ++k)
                next[static_cast<std::size_t>(row) + k].names = namesFromText(run[k]);
            break;
        }
        case Col::Kind: {
            const auto kind = pinKindFromText(typed);
            if (!kind && !typed.empty())
                return wrong(tr("“%1” is no kind: input, output, bidirectional, passive, supply, return, …").arg(text));
            p.kind = kind.value_or(PinKind::NotSaid);
            break;
        }
        case Col::Side: {
            std::optional<PinSide> side;
            const QString where = text.section('+', 0, 0).trimmed(), gap = text.section('+', 1).trimmed();
            for (const auto& [value, word] : Names<PinSide>::table)
                if (toQt(word).startsWith(where, Qt::CaseInsensitive)) side = side.value_or(value);
            if (where.isEmpty()) side = PinSide::ByKind;
            bool whole = true;
            const int steps = gap.isEmpty() ? 0 : gap.toInt(&whole);
            if (!side) return wrong(tr("“%1” is no side: left, right, top or bottom").arg(where));
            if (!whole || steps < 0 || steps > 50)
                return wrong(tr("“+%1”: how many steps are left free before it, up to 50").arg(gap));
            p.side = *side;
            p.gap = steps;
            break;
        }
        case Col::Group: p.group = typed; break;
        case Col::Element: p.element = typed; break;
        case Col::Pads: {
            p.pads = namesFromText(typed);
            if (p.pads == std::vector<std::string>{p.number}) p.pads.clear();
            break;
        }
        default: p.note = typed;
    }
    setPins(tr("pin %1").arg(toQt(p.number)), std::move(next));
}

void PinsPanel::movePin(int row, int by) {
    std::vector<Pin> next = pins();
    const int to = row + by, count = static_cast<int>(next.size());
    if (row < 0 || row >= count || to < 0 || to >= count) return;
    std::swap(next[static_cast<std::size_t>(row)], next[static_cast<std::size_t>(to)]);
    const int column = table_->currentColumn();
    setPins(tr("order of pins"), std::move(next));
    table_->setCurrentCell(to, std::max(0, column));
}

void PinsPanel::removeRows() {
    std::set<int> rows;
    for (const QTableWidgetItem* item : table_->selectedItems()) rows.insert(item->row());
    std::vector<Pin> next;
    for (std::size_t i = 0; i < pins().size(); ++i)
        if (!rows.contains(static_cast<int>(i))) next.push_back(pins()[i]);
    if (next.size() == pins().size()) return;
    setPins(tr("removal of pins"), std::move(next));
}

}  // namespace punch
