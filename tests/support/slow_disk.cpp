#include "support/slow_disk.h"

#include <atomic>
#include <cerrno>
#include <chrono>
#include <sys/syscall.h>
#include <thread>
#include <unistd.h>

namespace {

constexpr size_t kLarge = 64 << 10;

std::atomic<int> flushMs = 0, writeMs = 0, failing = 0;

void wait(const std::atomic<int>& ms) {
    const auto begun = std::chrono::steady_clock::now();
    while (std::chrono::steady_clock::now() < begun + std::chrono::milliseconds(ms))
        std::this_thread::sleep_for(std::chrono::milliseconds(5));
}

int flush(long call, int file) {
    wait(flushMs);
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
extern "C" ssize_t write(int file, const void* bytes, size_t size) {
    if (size >= kLarge) wait(writeMs);
    return ::syscall(SYS_write, file, bytes, size);
}
extern "C" ssize_t pwrite(int file, const void* bytes, size_t size, off_t at) {
    if (size >= kLarge) wait(writeMs);
    return ::syscall(SYS_pwrite64, file, bytes, size, at);
}

namespace glyptos::test {

void setFlushMs(int ms) {
    flushMs = ms;
}

void setWriteMs(int ms) {
    writeMs = ms;
}

void setFailingFlushes(int flushes) {
    failing = flushes;
}

} // namespace glyptos::test
