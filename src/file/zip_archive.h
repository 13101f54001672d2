// Zip archives in and out, as values: what is read is checked, what is written is whole or not there.
#pragma once

#include "base/error.h"
#include "base/picture_bytes.h"

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <filesystem>
#include <functional>
#include <memory>
#include <span>
#include <string>
#include <vector>

struct zip;

namespace glyptos {

/// An archive opened for reading. What it may unpack is bounded before memory is taken for it: each entry by
/// what deflate can pack at the most, all that is read of it together by mostUnpacked().
class ZipReader {
  public:
    /// Fails with what is wrong, as the end of a sentence ("it is not a Glyptos release, or it is cut short",
    /// where `kind` says what was hoped for).
    [[nodiscard]] static Result<ZipReader> open(const std::filesystem::path& file, const std::string& kind);

    bool has(const std::string& entry) const;
    /// Bytes that an archive of so many may unpack to: a hundred times as many, and 256 MiB. Painted tiles
    /// seldom pack to less than a twentieth, and those that are alike are there once.
    static size_t mostUnpacked(size_t archiveBytes) {
        return (size_t(256) << 20) + 100 * std::min(archiveBytes, SIZE_MAX / 200);
    }
    /// Bytes that an entry unpacks to. Fails when it is missing, damaged, larger than `most` bytes, or more
    /// than the archive may unpack; what is claimed counts. From one thread, as all that follows.
    [[nodiscard]] Result<size_t> claim(const std::string& entry, size_t most) const;
    /// All bytes of an entry that has been claimed, its checksum compared: unless the caller has a better way
    /// to know them and they are not packed.
    [[nodiscard]] Result<std::vector<uint8_t>> unpack(const std::string& entry, size_t size,
                                                      bool compare = true) const;
    /// Both.
    [[nodiscard]] Result<std::vector<uint8_t>> read(const std::string& entry, size_t most) const;
    /// The same as text.
    [[nodiscard]] Result<std::string> readText(const std::string& entry, size_t most) const;

  private:
    struct Discard {
        void operator()(zip* archive) const;
    };
    std::unique_ptr<zip, Discard> archive_;
    mutable size_t left_ = 0; ///< bytes that may be unpacked yet
};

/// One entry to write; the bytes must outlive the call.
struct ZipEntry {
    std::string name;
    std::span<const uint8_t> bytes;
    bool compress = false;
    PictureBytesPtr picture{}; ///< in place of `bytes`: read when it is its turn
};

/// What may be asked and told while an archive is written.
struct ZipWriting {
    /// Asked once all is written, before the archive takes its place; without a yes it does not.
    std::function<bool()> mayTake{};
    std::function<void(double)> progress{}; ///< 0…1
    const std::atomic<bool>* cancel = nullptr;
};

/// Writes an archive atomically. Dates are fixed, so that the same entries give the same file.
[[nodiscard]] Result<void> writeZip(const std::filesystem::path& file, const std::vector<ZipEntry>& entries,
                                    const ZipWriting& writing = {});

} // namespace glyptos
