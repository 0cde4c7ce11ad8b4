#pragma once
// The notebook: readings in the order taken, raw values kept, mean and doubt at the right, and a bar for how far each
// lies from what the others agree on.

#include <QAbstractListModel>
#include <QListView>

#include "app/document.h"
#include "app/reading_entry.h"
#include "app/view_state.h"

namespace punch {

class PictureWork;

class NotebookModel : public QAbstractListModel {
    Q_OBJECT
public:
    NotebookModel(Document& document, QObject* parent);
    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;

private:
    Document& document_;
    int rows_ = 0;
};

class Notebook : public QListView {
    Q_OBJECT
public:
    Notebook(Document& document, ViewState& view, ReadingEntry& entry, QWidget* parent = nullptr);
    /// Readings in a picture show what was read there.
    void setPictures(const PictureWork& work);
    /// Selects and shows a reading.
    void goTo(const std::string& id);

signals:
    void editWanted(int row);
    void detailsWanted(int row);
    void placeWanted(int row);  ///< show where its number or its feature stands in the source

protected:
    void keyPressEvent(QKeyEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    Document& document_;
    ViewState& view_;
    ReadingEntry& entry_;
};

}  // namespace punch
