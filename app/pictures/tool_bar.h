#pragma once
// The tools for the picture, as a bar over the sheet.

#include <QPushButton>
#include <QWidget>
#include <vector>

#include "app/pictures/picture_work.h"

namespace punch {

class ToolBar : public QWidget {
    Q_OBJECT
public:
    ToolBar(PictureWork& work, QWidget* parent);

private:
    void refresh();
    PictureWork& work_;
    std::vector<QPushButton*> chips_;
};

}  // namespace punch
