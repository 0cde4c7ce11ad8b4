#pragma once
// Sources: the pictures that belong to the part, and the steps that make one of them an instrument.

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>
#include <QWidget>

#include "app/pictures/picture_work.h"
#include "app/pictures/tool_card.h"
#include "app/widgets/wrapped_label.h"

namespace punch {

class SourcesColumn : public QWidget {
    Q_OBJECT
public:
    SourcesColumn(Document& document, ViewState& view, PictureWork& work, QWidget* parent = nullptr);

    void bringIn(const QString& file, const EvidenceChoice& choice = {});
    void find();
    void take();

signals:
    void notebookWanted();
    void fileWanted();  ///< a picture is to be chosen

private:
    /// One step: a mark, a title, words under it.
    struct Step {
        QLabel* mark;
        QLabel* title;
        WrappedLabel* words;
    };
    enum class Mark { Done, Open, Watch };
    Step addStep(QVBoxLayout* box, const QString& title);
    void show(const Step& step, Mark mark, const QString& words);
    void refresh();
    void refreshList();
    void refreshFound();
    void refreshWitnesses();
    void refreshDeviations();
    QString farthest() const;
    Document& document_;
    ViewState& view_;
    PictureWork& work_;
    QPushButton* notebook_;
    QListWidget* list_;
    QWidget* steps_;
    Step face_, scale_, level_, check_, pins_;
    QPushButton* solder_;
    QPushButton* partSide_;
    QPushButton* twoPlaces_;
    QPushButton* ruler_;
    QWidget* witnesses_;  ///< of the scale, beside each other, after finding
    QWidget* rulerRow_;
    QPushButton* otherPart_;
    std::vector<QPushButton*> statedScales_;
    QPushButton* trueSize_;
    QWidget* aboveRow_;
    LengthEdit* above_;
    ToolCard* tools_;
    QPushButton* find_;
    QPushButton* read_;
    QPushButton* whole_;
    QPushButton* takeOut_;
    QListWidget* found_;
    QWidget* card_;
    WrappedLabel* formation_;
    QPushButton* take_;
    QPushButton* singles_;
    QPushButton* compare_;
    QSlider* opacity_;
};

}  // namespace punch
