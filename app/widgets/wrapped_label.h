#pragma once
// A label whose wrapped text always gets the height that it needs: QLabel alone gives way when a column is crowded.

#include <QLabel>
#include <QResizeEvent>

namespace punch {

class WrappedLabel : public QLabel {
public:
    explicit WrappedLabel(QWidget* parent = nullptr) : QLabel(parent) { setWordWrap(true); }
    void setText(const QString& text) {
        QLabel::setText(text);
        settle();
    }

protected:
    void resizeEvent(QResizeEvent* event) override {
        QLabel::resizeEvent(event);
        settle();
    }

private:
    void settle() {
        if (width() > 40) setMinimumHeight(heightForWidth(width()));
    }
};

}  // namespace punch
