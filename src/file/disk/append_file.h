// A file that is only ever added to: what has been added is on the disk, whole, or not there.
#pragma once

#include "base/error.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace glyptos {

class AppendFile {
  public:
    /// A new one is begun where there is none, for the user alone. Read-only when it cannot be written. Fails
    /// with the system's reason.
    [[nodiscard]] static Result<AppendFile> open(const std::filesystem::path& file);
    /// One that is there, for reading. Fails with the system's reason.
    [[nodiscard]] static Result<AppendFile> openToRead(const std::filesystem::path& file);
    /// Takes over an open file of that path.
    AppendFile(std::filesystem::path path, int file);
    ~AppendFile();
    AppendFile(AppendFile&& other) noexcept;
    AppendFile& operator=(AppendFile&& other) noexcept;

    const std::filesystem::path& path() const { return path_; }
    bool isReadOnly() const { return readOnly_; }
    size_t size() const;
    /// Whether another file has taken its place, as after it was written anew.
    bool isReplaced() const;
    /// As many bytes as there are from `at` on, at most so many as `out` takes. Fails with the system's
    /// reason.
    [[nodiscard]] Result<size_t> read(size_t at, std::span<uint8_t> out) const;

    /// Adds parts. They outlive the process, and a power cut once they are flushed. Fails with the system's
    /// reason: Fault::Unwritable when the file is as it was before, Fault::Damaged when some of it may stand
    /// there.
    [[nodiscard]] Result<void> write(std::span<const std::span<const uint8_t>> parts);
    /// Flushes to the disk what was added, and, if asked for, that the file is in its folder. Fails with the
    /// system's reason; then nothing is known of what was added since the flush before.
    [[nodiscard]] Result<void> flush(bool withName = false) const;
    /// Adds parts and flushes them. Fails with the system's reason: Fault::Unwritable when the
    /// file is as it was before, Fault::Damaged when some of it may stand there.
    [[nodiscard]] Result<void> append(std::span<const std::span<const uint8_t>> parts);
    [[nodiscard]] Result<void> append(std::span<const uint8_t> bytes) { return append({&bytes, 1}); }
    /// Gives up all from a byte on.
    [[nodiscard]] Result<void> cut(size_t size);

    /// Keeps other processes from writing while it is held.
    class Lock {
      public:
        ~Lock();
        Lock(Lock&& other) noexcept;
        Lock& operator=(Lock&& other) noexcept;

      private:
        friend class AppendFile;
        explicit Lock(int file)
            : file_(file) {}
        int file_;
    };
    /// Waits for it.
    Lock lock() const;
    /// Nothing when somebody else holds it.
    std::optional<Lock> tryLock() const;
    /// Whether somebody holds it.
    bool isLocked() const;

  private:
    Result<void> takeBack(Result<void> written, size_t to);
    std::filesystem::path path_;
    int file_ = -1;
    bool readOnly_ = false;
};

} // namespace glyptos
