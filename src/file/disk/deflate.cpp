#include "file/disk/deflate.h"

#include <algorithm>
#include <cstring>
#include <isa-l/crc.h>
#include <isa-l/igzip_lib.h>
#include <stdexcept>
#include <tbb/parallel_for.h>
#include <vector>

namespace glyptos {
namespace {

constexpr size_t kPart = size_t(1) << 20;
constexpr uint32_t kLevel = 1;
/// What a part may grow by that cannot be packed: a block's head for every 64 KiB, and the flush behind it.
constexpr size_t kMostGrowth = 1024;
constexpr uint8_t kHead[] = {0x78, 0x01}; // deflate, a window of 32 KiB, packed fast
constexpr size_t kTail = 4;               // Adler-32

struct Packed {
    std::vector<uint8_t> bytes;
    size_t size = 0;
};

Packed packedPart(std::span<const uint8_t> part, bool last) {
    static thread_local std::vector<uint8_t> work(ISAL_DEF_LVL1_DEFAULT);
    Packed out{std::vector<uint8_t>(part.size() + part.size() / 32 + kMostGrowth), 0};
    isal_zstream stream{};
    isal_deflate_stateless_init(&stream);
    stream.level = kLevel;
    stream.level_buf = work.data();
    stream.level_buf_size = uint32_t(work.size());
    stream.gzip_flag = IGZIP_DEFLATE;
    stream.flush = last ? NO_FLUSH : FULL_FLUSH;
    stream.end_of_stream = last;
    stream.next_in = const_cast<uint8_t*>(part.data()); // the library only reads it
    stream.avail_in = uint32_t(part.size());
    stream.next_out = out.bytes.data();
    stream.avail_out = uint32_t(out.bytes.size());
    if (isal_deflate_stateless(&stream) != COMP_OK) throw std::runtime_error("packing failed");
    out.size = stream.total_out;
    return out;
}

} // namespace

Buffer<uint8_t> deflated(std::span<const uint8_t> bytes, const std::atomic<bool>* cancel) {
    const size_t parts = std::max<size_t>(1, (bytes.size() + kPart - 1) / kPart);
    std::vector<Packed> packed(parts);
    tbb::parallel_for(size_t(0), parts, [&](size_t i) {
        if (cancel && *cancel) return;
        const size_t from = i * kPart;
        packed[i] = packedPart(bytes.subspan(from, std::min(kPart, bytes.size() - from)), i + 1 == parts);
    });
    size_t size = sizeof kHead + kTail;
    for (const Packed& part : packed) size += part.size;
    Buffer<uint8_t> out(size);
    uint8_t* to = std::copy(std::begin(kHead), std::end(kHead), out.data());
    for (const Packed& part : packed) to = std::copy_n(part.bytes.data(), part.size, to);
    const uint32_t sum = isal_adler32(1, bytes.data(), bytes.size());
    for (const int shift : {24, 16, 8, 0}) *to++ = uint8_t(sum >> shift);
    return out;
}

} // namespace glyptos
