#include "file/disk/append_file.h"

#include "file/disk/atomic_file.h"
#include "file/disk/fresh_file.h"

#include <cerrno>
#include <chrono>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <thread>
#include <unistd.h>
#include <utility>

namespace glyptos {
namespace {

tl::unexpected<Error> refused(Fault fault) {
    return fail(fault, std::strerror(errno));
}

} // namespace

Result<AppendFile> AppendFile::open(const std::filesystem::path& path) {
    const int file = ::open(path.c_str(), O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
    return file >= 0 ? Result<AppendFile>(AppendFile(path, file)) : openToRead(path);
}

Result<AppendFile> AppendFile::openToRead(const std::filesystem::path& path) {
    const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (file < 0) return refused(Fault::Unreadable);
    AppendFile out(path, file);
    out.readOnly_ = true;
    return out;
}

AppendFile::AppendFile(std::filesystem::path path, int file)
    : path_(std::move(path))
    , file_(file) {}

AppendFile::AppendFile(AppendFile&& other) noexcept
    : path_(std::move(other.path_))
    , file_(std::exchange(other.file_, -1))
    , readOnly_(other.readOnly_) {}

AppendFile& AppendFile::operator=(AppendFile&& other) noexcept {
    std::swap(path_, other.path_);
    std::swap(file_, other.file_);
    std::swap(readOnly_, other.readOnly_);
    return *this;
}

AppendFile::~AppendFile() {
    if (file_ >= 0) ::close(file_);
}

size_t AppendFile::size() const {
    struct stat info {};
    return fstat(file_, &info) == 0 ? size_t(info.st_size) : 0;
}

bool AppendFile::isReplaced() const {
    struct stat mine {
    }, there{};
    return fstat(file_, &mine) == 0 && ::stat(path_.c_str(), &there) == 0 &&
           (mine.st_ino != there.st_ino || mine.st_dev != there.st_dev);
}

Result<size_t> AppendFile::read(size_t at, std::span<uint8_t> out) const {
    size_t done = 0;
    while (done < out.size()) {
        const ssize_t n = ::pread(file_, out.data() + done, out.size() - done, off_t(at + done));
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return refused(Fault::Unreadable);
        if (n == 0) break;
        done += size_t(n);
    }
    return done;
}

Result<void> AppendFile::takeBack(Result<void> written, size_t to) {
    if (!written && ::ftruncate(file_, off_t(to)) != 0) written.error().fault = Fault::Damaged;
    return written;
}

Result<void> AppendFile::write(std::span<const std::span<const uint8_t>> parts) {
    const size_t before = size();
    Result<void> written;
    for (const auto& part : parts)
        if (written) written = writeAll(file_, part);
    return takeBack(std::move(written), before);
}

Result<void> AppendFile::flush(bool withName) const {
    if (::fdatasync(file_) != 0) return refused(Fault::Unwritable);
    if (withName) flushFolder(path_.parent_path());
    return {};
}

Result<void> AppendFile::append(std::span<const std::span<const uint8_t>> parts) {
    const size_t before = size();
    auto written = write(parts);
    return written ? takeBack(flush(), before) : written;
}

Result<void> AppendFile::cut(size_t size) {
    if (::ftruncate(file_, off_t(size)) != 0) return refused(Fault::Unwritable);
    return {};
}

AppendFile::Lock::~Lock() {
    if (file_ < 0) return;
    ::flock(file_, LOCK_UN);
    ::close(file_);
}

AppendFile::Lock::Lock(Lock&& other) noexcept
    : file_(std::exchange(other.file_, -1)) {}

AppendFile::Lock& AppendFile::Lock::operator=(Lock&& other) noexcept {
    std::swap(file_, other.file_);
    return *this;
}

AppendFile::Lock AppendFile::lock() const {
    // Of its own, since the file may be closed while it is held.
    Lock out(::fcntl(file_, F_DUPFD_CLOEXEC, 0));
    while (::flock(out.file_, LOCK_EX) != 0 && errno == EINTR) {
    }
    return out;
}

std::optional<AppendFile::Lock> AppendFile::tryLock() const {
    constexpr int kAttempts = 50; // 0.1 s: isLocked() of another process holds it for a moment
    const int file = ::fcntl(file_, F_DUPFD_CLOEXEC, 0);
    for (int attempt = 0; ::flock(file, LOCK_EX | LOCK_NB) != 0; ++attempt) {
        if (attempt == kAttempts) {
            ::close(file);
            return std::nullopt;
        }
        std::this_thread::sleep_for(std::chrono::milliseconds(2));
    }
    return Lock(file);
}

bool AppendFile::isLocked() const {
    // Shared, so that two who ask do not take each other for a holder; on a file of its own, so that it says
    // nothing of a lock that is held through this one.
    const int file = ::open(path_.c_str(), O_RDONLY | O_CLOEXEC);
    const bool isFree = file >= 0 && ::flock(file, LOCK_SH | LOCK_NB) == 0;
    if (file >= 0) ::close(file);
    return !isFree;
}

} // namespace glyptos
