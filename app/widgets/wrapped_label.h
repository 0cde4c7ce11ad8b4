#pragma once
// A label whose wrapped text gets just the height that it needs at its width: QLabel alone guesses a width of its own
// and gives way when a column is crowded.

#include <QLabel>
#include <QResizeEvent>

namespace punch {

class WrappedLabel : public QLabel {
public:
    explicit WrappedLabel(QWidget* parent = nullptr) : QLabel(parent) {
        QLabel::setWordWrap(true);
        setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    }
    void setWordWrap(bool on) {
        QLabel::setWordWrap(on);
        updateGeometry();
    }
    bool hasHeightForWidth() const override { return false; }
    QSize sizeHint() const override {
        ensurePolished();  // the style's font counts, also before it was shown
        if (!wordWrap()) return QLabel::sizeHint();
        return {QLabel::sizeHint().width(), text().isEmpty() ? 0 : QLabel::heightForWidth(width())};
    }
    QSize minimumSizeHint() const override { return {20, sizeHint().height()}; }

protected:
    void resizeEvent(QResizeEvent* event) override {
        QLabel::resizeEvent(event);
        if (event->size().width() != event->oldSize().width()) updateGeometry();
    }
};

}  // namespace punch
