// What a journal is made of: records that follow each other, each with its kind, its length and a checksum,
// so that whatever was cut short or damaged ends the reading and nothing else (docs/journal.md).
#pragma once

#include "file/disk/append_file.h"

#include <functional>

namespace glyptos {

enum class RecordKind : uint32_t {
    Head = 1,  ///< JSON: the version; the first record, and only that
    Node,      ///< a layer, a take, a piece, …: 16 bytes of its name, its JSON packed
    Tile,      ///< painted pixels: what is known of them (TileRecord), the pixels packed
    Look,      ///< a look table: its name, a zero, its text packed
    Picture,   ///< 32 characters of its id, its bytes
    PictureAt, ///< JSON: where else the bytes of a picture are
    Act,       ///< JSON: what was done
    Miniature  ///< a small PNG of what the release shows
};

struct Record {
    RecordKind kind;
    size_t at = 0, size = 0; ///< of its payload in the file
};

inline constexpr size_t kMostRecordBytes = size_t(3) << 30;

/// Adds a record whose payload is those parts.
void addRecord(std::vector<uint8_t>& out, RecordKind kind,
               std::initializer_list<std::span<const uint8_t>> parts);

/// Where records go: gathered, and handed on in blocks. After a failure nothing more is.
class RecordSink {
  public:
    using Write = std::function<Result<void>(std::span<const uint8_t> bytes)>;
    explicit RecordSink(Write write)
        : write_(std::move(write)) {}

    void add(RecordKind kind, std::initializer_list<std::span<const uint8_t>> parts);
    /// Hands on what is left. Fails as the first write that failed.
    [[nodiscard]] Result<void> finish();
    /// That were added.
    size_t bytes() const { return bytes_; }

  private:
    static constexpr size_t kBlock = size_t(4) << 20;
    Write write_;
    std::vector<uint8_t> waiting_;
    Result<void> done_;
    size_t bytes_ = 0;
};

/// Calls take(record, payload) for all whole records from byte `from` on; the byte behind the last one. Of
/// kinds that are not wanted the payload is neither read nor compared, and is given empty.
[[nodiscard]] Result<size_t>
eachRecord(const AppendFile& file, size_t from, const std::function<bool(RecordKind)>& wanted,
           const std::function<void(const Record& record, std::span<const uint8_t> payload)>& take);
/// The payload of one record, or a part of it. Fails when the file ends before it.
[[nodiscard]] Result<std::vector<uint8_t>> readPayload(const AppendFile& file, size_t at, size_t size);

/// Packed with zstd, and unpacked to a size that is known or at most so large. Unpacking fails when the bytes
/// are not such.
std::vector<uint8_t> packed(std::span<const uint8_t> bytes);
[[nodiscard]] Result<std::vector<uint8_t>> unpacked(std::span<const uint8_t> bytes, size_t most);

} // namespace glyptos
