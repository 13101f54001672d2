#include "raster/pixel_tile.h"

#include "raster/halve.h"
#include "raster/mean.h"

#include <algorithm>
#include <cmath>
#include <fcntl.h>
#include <iterator>
#include <stdexcept>
#include <unistd.h>
#include <xxhash.h>

namespace glyptos {
namespace {

PixelHash hashOf(const Buffer<uint8_t>& bytes) {
    const XXH128_hash_t hash = XXH3_128bits(bytes.data(), bytes.size());
    return {hash.low64, hash.high64};
}

/// The pixels of a tile that are not all zero.
IntRect usedOf(const Buffer<uint8_t>& bytes, size_t pixel) {
    const size_t row = kPixelTileSide * pixel;
    int left = kPixelTileSide, right = 0, top = kPixelTileSide, bottom = 0;
    for (int y = 0; y < kPixelTileSide; ++y) {
        const uint8_t *first = bytes.data() + size_t(y) * row, *last = first + row;
        const auto isUsed = [](uint8_t v) { return v != 0; };
        const uint8_t* from = std::find_if(first, last, isUsed);
        if (from == last) continue;
        const uint8_t* to =
            std::find_if(std::reverse_iterator(last), std::reverse_iterator(from), isUsed).base();
        left = std::min(left, int(size_t(from - first) / pixel));
        right = std::max(right, int((size_t(to - first) + pixel - 1) / pixel));
        top = std::min(top, y), bottom = y + 1;
    }
    return right > left ? IntRect{left, top, right - left, bottom - top} : IntRect{};
}

void halveRgba8(const Buffer<uint8_t>& from, int side, Buffer<uint8_t>& to) {
    const size_t row = size_t(side) * 4, half = size_t(side) / 2;
    for (size_t y = 0; y < half; ++y)
        halveRow(from.data() + 2 * y * row, from.data() + (2 * y + 1) * row, to.data() + y * half * 4, half);
}

template <class T>
void halve(const Buffer<uint8_t>& from, int side, int channels, Buffer<uint8_t>& to) {
    const auto* in = reinterpret_cast<const T*>(from.data());
    auto* out = reinterpret_cast<T*>(to.data());
    const ptrdiff_t pixel = channels, row = side * pixel;
    for (int y = 0; y < side / 2; ++y)
        for (int x = 0; x < side / 2; ++x, out += pixel) {
            const T* at = in + ptrdiff_t(2) * y * row + ptrdiff_t(2) * x * pixel;
            if (channels == 4)
                meanOf<T>({at, at + 4, at + row, at + row + 4}, out);
            else
                *out = static_cast<T>((uint32_t(at[0]) + at[1] + at[row] + at[row + 1] + 2) / 4);
        }
}

} // namespace

TileLevels tileLevels(const PixelFormat& format, Buffer<uint8_t> bytes) {
    TileLevels out;
    out[0] = std::move(bytes);
    if (format.bytesPerSample == 4) return out;
    for (size_t k = 1; k < out.size(); ++k) {
        const int side = kPixelTileSide >> (k - 1);
        out[k] = Buffer<uint8_t>(size_t(side / 2) * size_t(side / 2) * format.pixelBytes());
        if (format == PixelFormat{4, 1})
            halveRgba8(out[k - 1], side, out[k]);
        else
            (format.bytesPerSample == 2 ? halve<uint16_t> : halve<uint8_t>)(out[k - 1], side, format.channels,
                                                                            out[k]);
    }
    return out;
}

std::shared_ptr<TileFile> TileFile::in(const std::filesystem::path& folder) {
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    const int file = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0600);
    return file < 0 ? nullptr : std::shared_ptr<TileFile>(new TileFile(file));
}

TileFile::~TileFile() {
    ::close(file_);
}

std::optional<size_t> TileFile::put(const TileLevels& levels) {
    size_t whole = 0;
    for (const Buffer<uint8_t>& level : levels) whole += level.size();
    const size_t begin = end_.fetch_add(whole);
    size_t at = begin;
    for (const Buffer<uint8_t>& level : levels)
        for (size_t done = 0; done < level.size();) {
            const ssize_t n = ::pwrite(file_, level.data() + done, level.size() - done, off_t(at));
            if (n <= 0) {
                forget(begin, whole);
                return std::nullopt;
            }
            done += size_t(n), at += size_t(n);
        }
    return begin;
}

void TileFile::get(size_t at, TileLevels& levels) const {
    for (Buffer<uint8_t>& level : levels)
        for (size_t done = 0; done < level.size();) {
            const ssize_t n = ::pread(file_, level.data() + done, level.size() - done, off_t(at));
            if (n <= 0)
                throw std::runtime_error("Painted pixels that were put away cannot be read from the disk.");
            done += size_t(n), at += size_t(n);
        }
}

void TileFile::forget(size_t at, size_t bytes) {
    // A wish: where holes cannot be made the room is given back with the file.
    [[maybe_unused]] const int done =
        ::fallocate(file_, FALLOC_FL_PUNCH_HOLE | FALLOC_FL_KEEP_SIZE, off_t(at), off_t(bytes));
}

PixelTile::PixelTile(const PixelFormat& format, Buffer<uint8_t> bytes)
    : hash_(hashOf(bytes))
    , used_(usedOf(bytes, format.pixelBytes())) {
    if (format.bytesPerSample == 4) {
        const auto* values = reinterpret_cast<const float*>(bytes.data());
        for (size_t i = 0; i < bytes.size() / sizeof(float); ++i)
            farthest_ = std::max(farthest_, std::abs(values[i]));
    }
    levels_ = std::make_shared<const TileLevels>(tileLevels(format, std::move(bytes)));
    for (size_t k = 0; k < sizes_.size(); ++k) bytes_ += sizes_[k] = (*levels_)[k].size();
}

PixelTile::PixelTile(const TileFacts& facts, std::shared_ptr<TileStore> store, size_t at)
    : hash_(facts.hash)
    , used_(facts.used)
    , farthest_(facts.farthest)
    , store_(std::move(store))
    , at_(at)
    , inMemory_(false) {
    const size_t levels = facts.format.bytesPerSample == 4 ? 1 : sizes_.size();
    for (size_t k = 0, side = kPixelTileSide; k < levels; ++k, side /= 2)
        bytes_ += sizes_[k] = side * side * facts.format.pixelBytes();
}

PixelTile::~PixelTile() {
    if (store_) store_->forget(at_, bytes_);
}

std::shared_ptr<const TileLevels> PixelTile::pixels() const {
    const std::lock_guard lock(mutex_);
    if (!levels_) {
        auto levels = std::make_shared<TileLevels>();
        for (size_t k = 0; k < sizes_.size(); ++k)
            if (sizes_[k] > 0) (*levels)[k] = Buffer<uint8_t>(sizes_[k]);
        store_->get(at_, *levels);
        levels_ = std::move(levels);
        inMemory_ = true;
    }
    return levels_;
}

bool PixelTile::putAway(const std::shared_ptr<TileFile>& file) const {
    const std::lock_guard lock(mutex_);
    if (!levels_) return true;
    if (!store_) {
        const auto at = file->put(*levels_);
        if (!at) return false;
        store_ = file, at_ = *at;
    }
    levels_.reset();
    inMemory_ = false;
    return true;
}

PixelTilePtr pixelTile(const PixelFormat& format, Buffer<uint8_t> bytes) {
    return std::make_shared<const PixelTile>(format, std::move(bytes));
}

} // namespace glyptos
