// Internal to file: writes to a file on a thread of its own, while the next bytes are being made.
#pragma once

#include <condition_variable>
#include <cstdint>
#include <deque>
#include <mutex>
#include <sys/types.h>
#include <thread>
#include <vector>

namespace glyptos {

class BlockWriter {
  public:
    struct Block {
        off_t at = 0;
        std::vector<uint8_t> bytes;
    };

    /// The file must stay open until the writer is gone.
    explicit BlockWriter(int file);
    /// Whatever is not written by then is not.
    ~BlockWriter();
    BlockWriter(const BlockWriter&) = delete;
    BlockWriter& operator=(const BlockWriter&) = delete;

    /// Takes its turn behind those before it; waits while many are ahead. Returns the error of a block before
    /// it that could not be written, as errno has it, 0 when there is none: from then on nothing is written.
    int add(Block block);
    /// Waits until all is written. As `add`.
    int finish();

  private:
    void work();

    const int file_;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::deque<Block> blocks_; ///< the first one is being written
    int error_ = 0;
    bool ends_ = false;
    std::thread thread_;
};

} // namespace glyptos
