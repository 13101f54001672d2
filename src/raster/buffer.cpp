#include "raster/buffer.h"

#include <cstdlib>
#include <new>
#include <sys/mman.h>
#include <tbb/scalable_allocator.h>

namespace glyptos {
namespace {

constexpr size_t kLine = 64, kLargePage = size_t(2) << 20;

constexpr size_t roundedUp(size_t bytes, size_t alignment) {
    return (bytes + alignment - 1) / alignment * alignment;
}

} // namespace

void* allocatePixels(size_t bytes) {
    const size_t alignment = bytes >= 2 * kLargePage ? kLargePage : kLine;
    const size_t whole = roundedUp(bytes, alignment);
    void* block = whole >= bytes ? std::aligned_alloc(alignment, whole) : nullptr;
    if (!block) throw std::bad_alloc();
    if (alignment == kLargePage)
        ::madvise(block, whole, MADV_HUGEPAGE); // a wish; nothing is lost when refused
    return block;
}

void freePixels(void* block) {
    std::free(block); // NOLINT(cppcoreguidelines-no-malloc): the counterpart of aligned_alloc
}

#ifdef __SANITIZE_ADDRESS__ // which is to see what is read beyond the end
void* allocatePassing(size_t bytes) {
    return allocatePixels(bytes);
}
void freePassing(void* block) {
    freePixels(block);
}
#else
void* allocatePassing(size_t bytes) {
    const size_t whole = roundedUp(bytes, kLine);
    void* block = whole >= bytes ? scalable_aligned_malloc(whole, kLine) : nullptr;
    if (!block) throw std::bad_alloc();
    return block;
}
void freePassing(void* block) {
    scalable_aligned_free(block);
}
#endif

} // namespace glyptos
