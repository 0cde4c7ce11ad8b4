#pragma once
// The library: folders of .punch files, each part with a small drawing, its state and its words. What the index knows
// stands there at once; what it does not, and drawings, come when they are made. What changes in a folder follows.

#include <QComboBox>
#include <QFileSystemWatcher>
#include <QListWidget>
#include <QPointer>
#include <QPushButton>
#include <QThread>
#include <QTimer>
#include <QWidget>
#include <atomic>
#include <filesystem>
#include <map>
#include <memory>
#include <vector>

#include "app/view_state.h"
#include "core/footprint.h"
#include "core/library/library.h"

class QLabel;
class QLineEdit;

namespace punch {

class LibraryList : public QWidget {
    Q_OBJECT
public:
    explicit LibraryList(QWidget* parent = nullptr);
    ~LibraryList() override;
    /// The folder that parts are saved into; others stay.
    void setFolder(const QString& folder);
    const QString& folder() const { return folder_; }
    /// Folders besides, to look into.
    void setOthers(const QStringList& folders);
    const QStringList& others() const { return others_; }
    QStringList folders() const;
    /// Waits until every part is read and the drawings that are seen are made. For tests and pictures.
    void settle();
    void reload();
    QListWidget& list() {
        if (stale_) reload();
        return *list_;
    }
    /// Files of the library: copied and renamed with their parts, deleted into the desktop's trash. Whether it was
    /// done.
    bool copyAs(const QString& path, const QString& name);
    bool rename(const QString& path, const QString& name);
    bool moveToTrash(const QString& path);
    /// Into another folder of the library, with its pictures.
    bool moveTo(const QString& path, const QString& folder);

signals:
    void partWanted(const QString& path);
    void folderWanted();
    void anotherWanted();  ///< a folder besides
    void othersChanged();
    void said(const QString& words);  ///< what went wrong

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void fill(QListWidgetItem& item, const LibraryPart& part);
    void draw(QListWidgetItem& item);
    /// Drawings of the parts that are seen; large ones come later.
    void drawSeen();
    void deriveBeside(std::vector<std::pair<QString, Part>> parts);
    void readBeside(const QString& folder, std::vector<std::filesystem::path> files);
    QListWidgetItem* itemOf(const QString& path) const;
    void choose(int row);
    void count();
    void watch();
    /// Now, where it is seen; else when it comes to be seen.
    void reloadSeen();
    bool stale_ = false;
    std::shared_ptr<std::atomic<int>> round_ = std::make_shared<std::atomic<int>>(0);  ///< counts the reloads
    std::vector<QPointer<QThread>> workers_;
    void filter(const QString& words);
    void showMenu(const QPoint& at);
    QString askedName(const QString& what, const QString& path);
    QString folder_;
    QStringList others_;
    QString shownFolder_;  ///< the only one that is shown; empty: all
    std::map<QString, QListWidgetItem*> items_;
    QFileSystemWatcher watcher_;
    QTimer rest_, seen_;
    int reading_ = 0;  ///< folders that are being read beside the window
    QLabel* title_;
    QLabel* count_;
    QLabel* empty_;
    QLineEdit* search_;
    QListWidget* list_;
    QComboBox* which_;
    QPushButton* takeOut_;
};

/// Draws a footprint into a small box: for the library's cards and the start page.
QPixmap thumbnail(const Part& part, const Footprint& footprint, QSize size, double ratio);

}  // namespace punch
