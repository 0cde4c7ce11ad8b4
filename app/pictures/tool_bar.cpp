#include "app/pictures/tool_bar.h"

#include <QHBoxLayout>

#include "app/pictures/tool_card.h"
#include "app/theme.h"

namespace punch {

namespace {
using Tool = PictureWork::Tool;
constexpr Tool kTools[] = {Tool::KnownLength, Tool::Level,     Tool::Square, Tool::Region,
                           Tool::Read,        Tool::Dimension, Tool::Outline};
}  // namespace

ToolBar::ToolBar(PictureWork& work, QWidget* parent) : QWidget(parent), work_(work) {
    setObjectName("pictureTools");
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(theme::em() / 3);
    for (const Tool tool : kTools) {
        auto* chip = new QPushButton(ToolCard::name(tool), this);
        chip->setObjectName("tool-" + ToolCard::name(tool));
        chip->setProperty("role", "chip");
        chip->setCheckable(true);
        chip->setFocusPolicy(Qt::TabFocus);
        chip->setToolTip(ToolCard::purpose(tool));
        connect(chip, &QPushButton::clicked, this, [this, tool](bool on) { work_.setTool(on ? tool : Tool::None); });
        line->addWidget(chip);
        chips_.push_back(chip);
    }
    connect(&work_, &PictureWork::changed, this, &ToolBar::refresh);
    refresh();
}

void ToolBar::refresh() {
    const PictureImage* image = work_.image();
    for (std::size_t i = 0; i < chips_.size(); ++i) {
        const Tool tool = kTools[i];
        chips_[i]->setChecked(work_.tool() == tool);
        // A drawing is square already; only drawings have numbers.
        const bool fits = tool == Tool::Square      ? image != nullptr && image->kind() == EvidenceKind::Picture
                          : tool == Tool::Dimension ? image != nullptr && image->drawing() != nullptr
                                                    : image != nullptr;
        chips_[i]->setVisible(fits);
    }
}

}  // namespace punch
