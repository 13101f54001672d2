#include "support/slow_disk.h"

#include <atomic>
#include <cerrno>
#include <chrono>
#include <sys/syscall.h>
#include <thread>
#include <unistd.h>

namespace {

std::atomic<int> flushMs = 0, failing = 0;

int flush(long call, int file) {
    const auto begun = std::chrono::steady_clock::now();
    while (std::chrono::steady_clock::now() < begun + std::chrono::milliseconds(flushMs))
        std::this_thread::sleep_for(std::chrono::milliseconds(5));
    if (failing > 0 && failing-- > 0) {
        errno = EIO;
        return -1;
    }
    return int(::syscall(call, file));
}

} // namespace

// In place of the system's, in this program.
extern "C" int fsync(int file) {
    return flush(SYS_fsync, file);
}
extern "C" int fdatasync(int file) {
    return flush(SYS_fdatasync, file);
}

namespace glyptos::test {

void setFlushMs(int ms) {
    flushMs = ms;
}

void setFailingFlushes(int flushes) {
    failing = flushes;
}

} // namespace glyptos::test
