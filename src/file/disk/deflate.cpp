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

Buffer<uint8_t> bufferOf(std::span<const uint8_t> bytes) {
    Buffer<uint8_t> out(bytes.size());
    std::copy(bytes.begin(), bytes.end(), out.data());
    return out;
}

Buffer<uint8_t> packedPart(std::span<const uint8_t> part, bool last) {
    static thread_local std::vector<uint8_t> work(ISAL_DEF_LVL1_DEFAULT), packed;
    packed.resize(kPart + kPart / 32 + kMostGrowth);
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
    stream.next_out = packed.data();
    stream.avail_out = uint32_t(packed.size());
    if (isal_deflate_stateless(&stream) != COMP_OK) throw std::runtime_error("packing failed");
    return bufferOf({packed.data(), stream.total_out});
}

} // namespace

std::vector<Buffer<uint8_t>> deflatedParts(std::span<const uint8_t> bytes, const std::atomic<bool>* cancel) {
    const size_t parts = std::max<size_t>(1, (bytes.size() + kPart - 1) / kPart);
    std::vector<Buffer<uint8_t>> out(parts + 2);
    tbb::parallel_for(size_t(0), parts, [&](size_t i) {
        if (cancel && *cancel) return;
        const size_t from = i * kPart;
        out[i + 1] = packedPart(bytes.subspan(from, std::min(kPart, bytes.size() - from)), i + 1 == parts);
    });
    const uint32_t sum = isal_adler32(1, bytes.data(), bytes.size());
    const uint8_t tail[] = {uint8_t(sum >> 24), uint8_t(sum >> 16), uint8_t(sum >> 8), uint8_t(sum)};
    out.front() = bufferOf(kHead);
    out.back() = bufferOf(tail);
    return out;
}

Buffer<uint8_t> deflated(std::span<const uint8_t> bytes, const std::atomic<bool>* cancel) {
    const auto parts = deflatedParts(bytes, cancel);
    size_t size = 0;
    for (const auto& part : parts) size += part.size();
    Buffer<uint8_t> out(size);
    uint8_t* to = out.data();
    for (const auto& part : parts) to = std::copy_n(part.data(), part.size(), to);
    return out;
}

} // namespace glyptos
