// Flushes a file to the disk on a thread of its own, so that whoever writes need not wait for a slow disk.
#pragma once

#include "file/disk/append_file.h"

#include <condition_variable>
#include <mutex>
#include <thread>

namespace glyptos {

class Flusher {
  public:
    /// `failed` is called on the flusher's thread with each failure.
    explicit Flusher(std::function<void(const Error&)> failed);
    /// Flushes what is wanted.
    ~Flusher();
    Flusher(const Flusher&) = delete;
    Flusher& operator=(const Flusher&) = delete;

    /// What has been added to the file is to be flushed, with its name if asked for. Wanting another file
    /// ends wanting the one before.
    void want(std::shared_ptr<const AppendFile> file, bool withName = false);
    /// Waits until all that is wanted has been flushed, or has failed.
    void wait();
    bool isDone() const;

  private:
    void work(const std::stop_token& stop);

    std::function<void(const Error&)> failed_;
    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    std::shared_ptr<const AppendFile> wanted_;
    bool withName_ = false, isBusy_ = false;
    std::jthread worker_;
};

} // namespace glyptos
