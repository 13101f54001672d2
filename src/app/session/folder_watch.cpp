#include "app/session/folder_watch.h"

#include <QDirIterator>
#include <QFileInfo>
#include <QFileSystemWatcher>
#include <QTimer>
#include <atomic>
#include <set>

namespace glyptos {
namespace {

constexpr int kSettle = 1500;      // ms without news before they are told
constexpr int kMostWatched = 4000; // folders

} // namespace

class FolderWatch::Walker : public QObject {
  public:
    explicit Walker(FolderWatch& told)
        : told_(told)
        , watcher_(this)
        , settle_(this) {
        settle_.setSingleShot(true);
        settle_.setInterval(kSettle);
        connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this](const QString& folder) {
            touched_.insert(folder);
            settle_.start();
        });
        connect(&settle_, &QTimer::timeout, this, &Walker::tell);
    }

    void setFolders(const QStringList& folders) {
        folders_ = folders;
        for (const QString& folder : folders)
            if (!QFileInfo(folder).isDir()) Q_EMIT told_.gone(folder);
        walk();
    }
    void stop() { stopping_ = true; }

  private:
    void walk() {
        if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
        QStringList all;
        for (const QString& folder : folders_) {
            if (!QFileInfo(folder).isDir()) continue;
            all << folder;
            QDirIterator at(folder, QDir::Dirs | QDir::NoDotAndDotDot, QDirIterator::Subdirectories);
            while (at.hasNext() && all.size() < kMostWatched && !stopping_) all << at.next();
        }
        if (!all.isEmpty() && !stopping_) watcher_.addPaths(all);
    }

    void tell() {
        QStringList there;
        for (const QString& folder : std::exchange(touched_, {}))
            if (QFileInfo(folder).isDir()) there << folder;
        walk(); // new folders may have come
        if (!there.isEmpty()) Q_EMIT told_.touched(there);
    }

    FolderWatch& told_;
    QFileSystemWatcher watcher_;
    QTimer settle_;
    QStringList folders_;
    std::set<QString> touched_;
    std::atomic<bool> stopping_ = false;
};

FolderWatch::FolderWatch(QObject* parent)
    : QObject(parent)
    , walker_(std::make_unique<Walker>(*this)) {
    walker_->moveToThread(&thread_);
    thread_.start(QThread::LowPriority);
}

FolderWatch::~FolderWatch() {
    walker_->stop();
    QMetaObject::invokeMethod(
        walker_.get(), [this] { walker_.reset(); }, Qt::BlockingQueuedConnection);
    thread_.quit();
    thread_.wait();
}

void FolderWatch::watch(const QStringList& folders) {
    QMetaObject::invokeMethod(
        walker_.get(), [walker = walker_.get(), folders] { walker->setFolders(folders); },
        Qt::QueuedConnection);
}

} // namespace glyptos
