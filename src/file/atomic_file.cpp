#include "file/atomic_file.h"

#include "base/text.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace glyptos {
namespace {

class Descriptor {
  public:
    Descriptor(const std::filesystem::path& path, int flags)
        : fd_(::open(path.c_str(), flags | O_CLOEXEC, 0666)) {}
    ~Descriptor() {
        if (fd_ >= 0) ::close(fd_);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return fd_; }
    explicit operator bool() const { return fd_ >= 0; }

  private:
    int fd_;
};

Error notWritten(const std::filesystem::path& target, const std::string& why) {
    return {Fault::Unwritable,
            "“" + nameOf(target) + "” was not written (" + why +
                "); what was there before is unchanged. Choose another place, or make room and try again."};
}

std::string systemReason() {
    return std::strerror(errno);
}

} // namespace

Result<void> replaceFile(const std::filesystem::path& target,
                         const std::function<Result<void>(const std::filesystem::path&)>& write) {
    std::string name = (target.parent_path() / ("." + target.filename().string() + ".XXXXXX")).string();
    const int reserved = ::mkstemp(name.data());
    if (reserved < 0) return tl::unexpected(notWritten(target, systemReason()));
    ::close(reserved);
    const std::filesystem::path fresh = name;
    const auto give = [&](const std::string& why) {
        ::unlink(fresh.c_str());
        return tl::unexpected(notWritten(target, why));
    };
    if (auto written = write(fresh); !written) return give(written.error().message);
    {
        const Descriptor file(fresh, O_RDONLY);
        if (!file || ::fsync(file.get()) != 0) return give(systemReason());
    }
    // mkstemp makes files private; the finished one gets what any new file gets.
    const mode_t mask = ::umask(0);
    ::umask(mask);
    ::chmod(fresh.c_str(), 0666 & ~mask);
    if (::rename(fresh.c_str(), target.c_str()) != 0) return give(systemReason());
    const Descriptor folder(target.has_parent_path() ? target.parent_path() : std::filesystem::path("."),
                            O_RDONLY | O_DIRECTORY);
    if (folder) ::fsync(folder.get());
    return {};
}

Result<void> writeFile(const std::filesystem::path& target, std::span<const uint8_t> bytes) {
    return replaceFile(target, [&](const std::filesystem::path& fresh) -> Result<void> {
        const Descriptor file(fresh, O_WRONLY | O_TRUNC);
        if (!file) return fail(Fault::Unwritable, systemReason());
        for (size_t at = 0; at < bytes.size();) {
            const ssize_t n = ::write(file.get(), bytes.data() + at, bytes.size() - at);
            if (n < 0 && errno == EINTR) continue;
            if (n < 0) return fail(Fault::Unwritable, systemReason());
            at += static_cast<size_t>(n);
        }
        return {};
    });
}

} // namespace glyptos
