// Small pictures of sources, read or made on other threads and kept under a memory limit.
#pragma once

#include "crate/entry.h"

#include <QCache>
#include <QImage>
#include <QObject>
#include <QThreadPool>
#include <deque>
#include <mutex>
#include <set>

namespace glyptos {

class ThumbnailStore : public QObject {
    Q_OBJECT
  public:
    explicit ThumbnailStore(QObject* parent = nullptr);
    ~ThumbnailStore() override;

    /// The small picture, when it is there; otherwise an empty one, and arrived() when it has come. What was
    /// asked for last is read first. `file` is where the entry's file is.
    QImage get(const EntryPtr& entry, const std::filesystem::path& file);
    /// The same, fitted into the size of a cell: it is scaled where it is read, so that painting only copies
    /// it.
    QImage fitted(const EntryPtr& entry, const std::filesystem::path& file);
    /// In device pixels.
    void setCell(QSize size);
    /// True once it is known that the file is gone and no small picture of it was kept.
    bool isMissing(const std::string& id) const { return missing_.contains(id); }
    bool busy() const { return !asked_.empty(); }

  Q_SIGNALS:
    void arrived();

  private:
    struct Job {
        EntryPtr entry;
        std::filesystem::path file;
    };
    struct Kept {
        QImage image, fitted;
    };
    void work();
    const Kept* kept(const EntryPtr& entry, const std::filesystem::path& file);
    QCache<QString, Kept> images_;
    QSize cell_; ///< guarded by mutex_
    std::set<std::string> asked_, missing_;
    std::mutex mutex_;
    std::deque<Job> jobs_; ///< the newest at the end
    QThreadPool pool_;
};

} // namespace glyptos
