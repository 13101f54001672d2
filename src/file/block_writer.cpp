#include "file/block_writer.h"

#include <cerrno>
#include <fcntl.h>
#include <unistd.h>

namespace glyptos {
namespace {

constexpr size_t kMostBlocks = 8;
constexpr size_t kLarge = size_t(1) << 20; // bytes: the disk is asked to begin with what is as large

/// 0, or errno.
int write(int file, const BlockWriter::Block& block) {
    for (size_t done = 0; done < block.bytes.size();) {
        const ssize_t n =
            ::pwrite(file, block.bytes.data() + done, block.bytes.size() - done, block.at + off_t(done));
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return errno;
        done += size_t(n);
    }
    if (block.bytes.size() >= kLarge)
        ::sync_file_range(file, block.at, off_t(block.bytes.size()), SYNC_FILE_RANGE_WRITE);
    return 0;
}

} // namespace

BlockWriter::BlockWriter(int file)
    : file_(file)
    , thread_([this] { work(); }) {}

BlockWriter::~BlockWriter() {
    {
        const std::lock_guard lock(mutex_);
        ends_ = true;
    }
    changed_.notify_all();
    thread_.join();
}

int BlockWriter::add(Block block) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return blocks_.size() < kMostBlocks || error_ != 0; });
    if (error_ == 0) blocks_.push_back(std::move(block));
    changed_.notify_all();
    return error_;
}

int BlockWriter::finish() {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return blocks_.empty() || error_ != 0; });
    return error_;
}

void BlockWriter::work() {
    std::unique_lock lock(mutex_);
    while (true) {
        changed_.wait(lock, [&] { return ends_ || (!blocks_.empty() && error_ == 0); });
        if (ends_) return;
        const Block& block = blocks_.front(); // stays where it is while others are added behind it
        lock.unlock();
        const int error = write(file_, block);
        lock.lock();
        error_ = error;
        blocks_.pop_front();
        changed_.notify_all();
    }
}

} // namespace glyptos
