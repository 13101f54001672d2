#include "file/journal/records.h"

#include <algorithm>
#include <bit>
#include <cstring>
#include <xxhash.h>
#include <zstd.h>

namespace glyptos {
namespace {

static_assert(std::endian::native == std::endian::little, "records are written as they lie in memory");

constexpr uint32_t kMark = 0x4a4c4731; // "1GLJ"
constexpr int kLevel = 1;              // of zstd: painted tiles at the speed of a disk

struct Header {
    uint32_t mark = kMark;
    RecordKind kind = RecordKind::Head;
    uint64_t size = 0;
    uint64_t checksum = 0; ///< XXH3 (Y. Collet) of the payload, seeded by kind and size
};
static_assert(sizeof(Header) == 24);

uint64_t seedOf(RecordKind kind, uint64_t size) {
    return size << 8U | static_cast<uint64_t>(kind);
}

} // namespace

void addRecord(std::vector<uint8_t>& out, RecordKind kind,
               std::initializer_list<std::span<const uint8_t>> parts) {
    const size_t begin = out.size();
    out.resize(begin + sizeof(Header));
    for (const auto& part : parts) out.insert(out.end(), part.begin(), part.end());
    Header header;
    header.kind = kind;
    header.size = out.size() - begin - sizeof(Header);
    header.checksum =
        XXH3_64bits_withSeed(out.data() + begin + sizeof(Header), header.size, seedOf(kind, header.size));
    std::memcpy(out.data() + begin, &header, sizeof header);
}

void RecordSink::add(RecordKind kind, std::initializer_list<std::span<const uint8_t>> parts) {
    const size_t before = waiting_.size();
    addRecord(waiting_, kind, parts);
    bytes_ += waiting_.size() - before;
    if (waiting_.size() < kBlock) return;
    done_ = finish();
}

Result<void> RecordSink::finish() {
    if (done_ && !waiting_.empty()) done_ = write_(waiting_);
    waiting_.clear();
    return done_;
}

Result<size_t>
eachRecord(const AppendFile& file, size_t from, const std::function<bool(RecordKind)>& wanted,
           const std::function<void(const Record& record, std::span<const uint8_t> payload)>& take) {
    const size_t end = file.size();
    std::vector<uint8_t> payload;
    for (size_t at = from;;) {
        Header header;
        const auto n = file.read(at, {reinterpret_cast<uint8_t*>(&header), sizeof header});
        if (!n) return tl::unexpected(n.error());
        const size_t begin = at + sizeof header;
        if (*n != sizeof header || header.mark != kMark || header.size > kMostRecordBytes || begin > end ||
            header.size > end - begin)
            return at;
        payload.clear();
        if (wanted(header.kind)) {
            payload.resize(header.size);
            const auto read = file.read(begin, payload);
            if (!read) return tl::unexpected(read.error());
            if (*read != payload.size() ||
                XXH3_64bits_withSeed(payload.data(), payload.size(), seedOf(header.kind, header.size)) !=
                    header.checksum)
                return at;
        }
        take({header.kind, begin, header.size}, payload);
        at = begin + header.size;
    }
}

Result<std::vector<uint8_t>> readPayload(const AppendFile& file, size_t at, size_t size) {
    std::vector<uint8_t> out(size);
    const auto n = file.read(at, out);
    if (!n) return tl::unexpected(n.error());
    if (*n != size) return fail(Fault::Damaged, "it ends too early");
    return out;
}

std::vector<uint8_t> packed(std::span<const uint8_t> bytes) {
    std::vector<uint8_t> out(ZSTD_compressBound(bytes.size()));
    const size_t n = ZSTD_compress(out.data(), out.size(), bytes.data(), bytes.size(), kLevel);
    out.resize(ZSTD_isError(n) ? 0 : n);
    return out;
}

Result<std::vector<uint8_t>> unpacked(std::span<const uint8_t> bytes, size_t most) {
    const auto size = ZSTD_getFrameContentSize(bytes.data(), bytes.size());
    if (size == ZSTD_CONTENTSIZE_UNKNOWN || size == ZSTD_CONTENTSIZE_ERROR || size > most)
        return fail(Fault::Damaged, "it is not packed as it should be");
    std::vector<uint8_t> out(size);
    const size_t n = ZSTD_decompress(out.data(), out.size(), bytes.data(), bytes.size());
    if (ZSTD_isError(n) || n != size) return fail(Fault::Damaged, "it is not packed as it should be");
    return out;
}

} // namespace glyptos
