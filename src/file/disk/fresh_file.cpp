#include "file/disk/fresh_file.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace glyptos {
namespace {

constexpr int kHiddenNames = 64; ///< files that may be under way in one folder
constexpr mode_t kMode = 0666;   ///< less what the process masks

tl::unexpected<Error> systemFault() {
    return fail(Fault::Unwritable, std::strerror(errno));
}

std::filesystem::path hiddenName(const std::filesystem::path& folder, int k) {
    return folder / (".glyptos-" + std::to_string(k) + ".part");
}

bool isNamed(int file, const std::filesystem::path& name) {
    struct stat here {
    }, there{};
    return ::fstat(file, &here) == 0 && ::lstat(name.c_str(), &there) == 0 && here.st_ino == there.st_ino &&
           here.st_dev == there.st_dev;
}

/// Whose lock a file carries is whose it is: only who holds it may take its name away.
bool lock(int file) {
    return ::flock(file, LOCK_EX | LOCK_NB) == 0;
}

/// Takes away what a process left that is gone. Files of others, links and files with other names stay.
void clearAway(const std::filesystem::path& name) {
    const int left = ::open(name.c_str(), O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC);
    if (left < 0) return;
    struct stat info {};
    const bool isOurs = ::fstat(left, &info) == 0 && S_ISREG(info.st_mode) && info.st_uid == ::geteuid() &&
                        info.st_nlink == 1;
    if (isOurs && lock(left) && isNamed(left, name)) ::unlink(name.c_str());
    ::close(left);
}

/// A new file under the hidden name, locked; less than 0 when the name is taken.
int openHidden(const std::filesystem::path& name) {
    const int file = ::open(name.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, kMode);
    if (file < 0) return file;
    if (lock(file) && isNamed(file, name)) return file;
    ::close(file); // another process took it for a file that was left, before it was locked
    errno = EEXIST;
    return -1;
}

} // namespace

Result<FreshFile> FreshFile::open(const std::filesystem::path& folder, FreshFileWay way) {
    if (way == FreshFileWay::Nameless) {
        const int file = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, kMode);
        if (file >= 0) return FreshFile(folder, file, {});
        // Where there are no such files it is one of these.
        if (errno != EOPNOTSUPP && errno != EISDIR && errno != EINVAL) return systemFault();
    }
    for (int k = 0; k < kHiddenNames; ++k) {
        const std::filesystem::path name = hiddenName(folder, k);
        clearAway(name);
        const int file = openHidden(name);
        if (file >= 0) return FreshFile(folder, file, name);
        if (errno != EEXIST) return systemFault();
    }
    return fail(Fault::Unwritable, "too many files are being written there at once");
}

FreshFile::FreshFile(FreshFile&& other) noexcept
    : folder_(std::move(other.folder_))
    , hidden_(std::exchange(other.hidden_, {}))
    , file_(std::exchange(other.file_, -1)) {}

FreshFile::~FreshFile() {
    if (!hidden_.empty()) ::unlink(hidden_.c_str());
    if (file_ >= 0) ::close(file_);
}

/// Only a name can be put in the place of another.
Result<void> FreshFile::takeHiddenName() {
    if (!hidden_.empty()) return {};
    lock(file_);
    const std::string self = "/proc/self/fd/" + std::to_string(file_);
    for (int k = 0; k < kHiddenNames; ++k) {
        const std::filesystem::path name = hiddenName(folder_, k);
        clearAway(name);
        if (::linkat(AT_FDCWD, self.c_str(), AT_FDCWD, name.c_str(), AT_SYMLINK_FOLLOW) == 0) {
            hidden_ = name;
            return {};
        }
        if (errno != EEXIST) return systemFault();
    }
    return fail(Fault::Unwritable, "too many files are being written there at once");
}

Result<void> FreshFile::flush() const {
    return ::fsync(file_) == 0 ? Result<void>() : systemFault();
}

Result<void> FreshFile::takeName(const std::filesystem::path& target) {
    if (auto named = takeHiddenName(); !named) return named;
    if (::rename(hidden_.c_str(), target.c_str()) != 0) return systemFault();
    hidden_.clear();
    return {};
}

Result<void> FreshFile::takePlace(const std::filesystem::path& target) {
    if (auto flushed = flush(); !flushed) return flushed;
    if (auto named = takeName(target); !named) return named;
    flushFolder(folder_);
    return {};
}

void flushFolder(const std::filesystem::path& folder) {
    const int open = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (open < 0) return;
    ::fsync(open);
    ::close(open);
}

} // namespace glyptos
