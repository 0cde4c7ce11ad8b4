#pragma once
// The library: a folder of .punch files, each with a small drawing, its state and its words.

#include <QListWidget>
#include <QPointer>
#include <QThread>
#include <QWidget>
#include <atomic>
#include <memory>
#include <vector>

#include "app/view_state.h"
#include "core/footprint.h"

class QLabel;
class QLineEdit;

namespace punch {

class LibraryList : public QWidget {
    Q_OBJECT
public:
    explicit LibraryList(QWidget* parent = nullptr);
    ~LibraryList() override;
    void setFolder(const QString& folder);
    const QString& folder() const { return folder_; }
    void reload();
    QListWidget& list() { return *list_; }
    /// Files of the library: copied and renamed with their parts, deleted into the desktop's trash. Whether it was
    /// done.
    bool copyAs(const QString& path, const QString& name);
    bool rename(const QString& path, const QString& name);
    bool moveToTrash(const QString& path);

signals:
    void partWanted(const QString& path);
    void folderWanted();
    void said(const QString& words);  ///< what went wrong

private:
    void fill(QListWidgetItem& item, const Part& part, const Footprint& footprint);
    void deriveBeside(std::vector<std::pair<QString, Part>> parts);
    std::shared_ptr<std::atomic<int>> round_ = std::make_shared<std::atomic<int>>(0);  ///< counts the reloads
    std::vector<QPointer<QThread>> workers_;
    void filter(const QString& words);
    void showMenu(const QPoint& at);
    QString askedName(const QString& what, const QString& path);
    QString folder_;
    QLabel* title_;
    QLabel* count_;
    QLabel* empty_;
    QLineEdit* search_;
    QListWidget* list_;
};

/// Draws a footprint into a small box: for the library's cards and the start page.
QPixmap thumbnail(const Part& part, const Footprint& footprint, QSize size, double ratio);

}  // namespace punch
