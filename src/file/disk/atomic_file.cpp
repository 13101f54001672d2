#include "file/disk/atomic_file.h"

#include "base/text.h"
#include "file/disk/fresh_file.h"

#include <cerrno>
#include <cstring>
#include <optional>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>
#include <vector>

namespace glyptos {
namespace {

Error notWritten(const std::filesystem::path& target, const std::string& why) {
    return {Fault::Unwritable,
            "“" + nameOf(target) + "” was not written (" + why +
                "); what was there before is unchanged. Choose another place, or make room and try again."};
}

/// Where links lead in the end, whether anything is there or not; nothing when they go in a circle.
std::optional<std::filesystem::path> behindLinks(std::filesystem::path file) {
    constexpr int kMostLinks = 40;
    std::error_code code;
    for (int i = 0; i < kMostLinks; ++i) {
        if (!std::filesystem::is_symlink(file, code)) return file;
        const std::filesystem::path next = std::filesystem::read_symlink(file, code);
        if (code) return file;
        file = file.parent_path() / next; // what is absolute stands for itself
    }
    return std::nullopt;
}

const char* wordFor(mode_t mode) {
    if (S_ISDIR(mode)) return "it is a folder";
    if (S_ISFIFO(mode)) return "it is a pipe";
    if (S_ISSOCK(mode)) return "it is a socket";
    return "it is a device";
}

/// Permissions, and what else the system lets one keep of a file whose place is taken.
void keepRights(const std::filesystem::path& old, const struct stat& info, int file) {
    constexpr mode_t kAll = 07777, kWithoutOwner = 0777; // of another's rights only those of the file
    const bool owned = ::fchown(file, info.st_uid, info.st_gid) == 0 ||
                       (info.st_uid == ::geteuid() && ::fchown(file, uid_t(-1), info.st_gid) == 0);
    ::fchmod(file, info.st_mode & (owned ? kAll : kWithoutOwner));
    constexpr const char* kAccessList = "system.posix_acl_access";
    const ssize_t size = ::getxattr(old.c_str(), kAccessList, nullptr, 0);
    if (size <= 0) return;
    std::vector<char> list(static_cast<size_t>(size));
    const ssize_t read = ::getxattr(old.c_str(), kAccessList, list.data(), list.size());
    if (read > 0) ::fsetxattr(file, kAccessList, list.data(), size_t(read), 0);
}

} // namespace

Result<void> replaceFile(const std::filesystem::path& target, const std::function<Result<void>(int)>& write) {
    const auto give = [&](const std::string& why) { return tl::unexpected(notWritten(target, why)); };
    const auto place = behindLinks(target);
    if (!place) return give("its links lead in a circle");
    struct stat info {};
    const bool replaces = ::stat(place->c_str(), &info) == 0;
    if (!replaces && errno != ENOENT) return give(std::strerror(errno));
    if (replaces && !S_ISREG(info.st_mode)) return give(wordFor(info.st_mode));
    auto fresh = FreshFile::open(place->has_parent_path() ? place->parent_path() : ".");
    if (!fresh) return give(fresh.error().message);
    if (replaces) keepRights(*place, info, fresh->get());
    if (auto written = write(fresh->get()); !written) {
        // What the artist has stopped is no failure of the place.
        if (written.error().fault == Fault::Cancelled) return tl::unexpected(written.error());
        return give(written.error().message);
    }
    if (auto taken = fresh->takePlace(*place); !taken) return give(taken.error().message);
    return {};
}

Result<void> writeAll(int file, std::span<const uint8_t> bytes) {
    while (!bytes.empty()) {
        const ssize_t n = ::write(file, bytes.data(), bytes.size());
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return fail(Fault::Unwritable, std::strerror(errno));
        bytes = bytes.subspan(size_t(n));
    }
    return {};
}

Result<void> writeFile(const std::filesystem::path& target, std::span<const uint8_t> bytes) {
    return replaceFile(target, [&](int file) { return writeAll(file, bytes); });
}

} // namespace glyptos
