#include "raster/disk_picture.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <unistd.h>

namespace glyptos {
namespace {

constexpr size_t kPage = 4096;

/// Behind each level: vector loads may run past its last pixel.
size_t placeFor(const Picture& level) {
    return (level.bytes() + 64 + kPage - 1) / kPage * kPage;
}

bool writeAll(int file, const void* bytes, size_t count, size_t at) {
    const char* from = static_cast<const char*>(bytes);
    while (count > 0) {
        const ssize_t done = ::pwrite(file, from, count, off_t(at));
        if (done <= 0) return false;
        from += done, count -= size_t(done), at += size_t(done);
    }
    return true;
}

template <class T>
Picture viewOf(const Picture& level, const std::shared_ptr<void>& mapping, size_t at) {
    Picture out;
    out.width = level.width, out.height = level.height, out.opaque = level.opaque;
    auto* data = reinterpret_cast<T*>(static_cast<char*>(mapping.get()) + at);
    out.pixels = Buffer<T>(std::shared_ptr<T>(mapping, data), size_t(level.width) * size_t(level.height) * 4);
    return out;
}

const void* bytesOf(const Picture& level) {
    return level.is16() ? static_cast<const void*>(level.row<uint16_t>(0))
                        : static_cast<const void*>(level.row<uint8_t>(0));
}

} // namespace

std::optional<Pyramid> onDisk(const Pyramid& pyramid, const std::filesystem::path& folder) {
    size_t whole = 0;
    for (int k = pyramid.firstLevel(); k < pyramid.levels(); ++k) whole += placeFor(pyramid.level(k));
    const int file = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0600);
    if (file < 0) return std::nullopt;
    // The whole length is claimed first: a full disk is found out here and not while reading.
    bool fine = ::posix_fallocate(file, 0, off_t(whole)) == 0;
    size_t at = 0;
    for (int k = pyramid.firstLevel(); fine && k < pyramid.levels(); at += placeFor(pyramid.level(k)), ++k)
        fine = writeAll(file, bytesOf(pyramid.level(k)), pyramid.level(k).bytes(), at);
    void* block = fine ? ::mmap(nullptr, whole, PROT_READ, MAP_SHARED, file, 0) : MAP_FAILED;
    ::close(file);
    if (block == MAP_FAILED) return std::nullopt;
    const std::shared_ptr<void> mapping(block, [whole](void* b) { ::munmap(b, whole); });
    at = 0;
    return pyramid.mapped([&](const Picture& level) {
        const size_t here = at;
        at += placeFor(level);
        return level.is16() ? viewOf<uint16_t>(level, mapping, here) : viewOf<uint8_t>(level, mapping, here);
    });
}

} // namespace glyptos
