#include "file/disk/flusher.h"

namespace glyptos {

Flusher::Flusher(std::function<void(const Error&)> failed)
    : failed_(std::move(failed))
    , worker_([this](const std::stop_token& stop) { work(stop); }) {}

Flusher::~Flusher() {
    worker_.request_stop();
    worker_.join();
}

void Flusher::want(std::shared_ptr<const AppendFile> file, bool withName) {
    {
        const std::lock_guard lock(mutex_);
        withName_ = withName || (withName_ && file == wanted_);
        wanted_ = std::move(file);
    }
    wake_.notify_all();
}

void Flusher::wait() {
    std::unique_lock lock(mutex_);
    wake_.wait(lock, [&] { return !wanted_ && !isBusy_; });
}

bool Flusher::isDone() const {
    const std::lock_guard lock(mutex_);
    return !wanted_ && !isBusy_;
}

void Flusher::work(const std::stop_token& stop) {
    std::unique_lock lock(mutex_);
    while (wake_.wait(lock, stop, [&] { return wanted_ != nullptr; })) {
        const auto file = std::exchange(wanted_, nullptr);
        const bool withName = std::exchange(withName_, false);
        isBusy_ = true;
        lock.unlock();
        if (const auto done = file->flush(withName); !done) failed_(done.error());
        lock.lock();
        isBusy_ = false;
        wake_.notify_all();
    }
}

} // namespace glyptos
