#include "raster/buffer.h"

#include <cstdlib>
#include <new>
#include <sys/mman.h>
#include <tbb/scalable_allocator.h>

namespace glyptos {
namespace {

constexpr size_t kLine = 64, kLargePage = size_t(2) << 20;

// What a tile needed is kept for the next one: clearing new pages costs more than many a treatment. Under
// the address sanitizer each block comes from it, so that it sees what is read beyond the end.
#ifdef __SANITIZE_ADDRESS__
void* allocate(size_t bytes, size_t alignment) {
    return std::aligned_alloc(alignment, bytes);
}
void release(void* block) {
    std::free(block); // NOLINT(cppcoreguidelines-no-malloc): the counterpart of aligned_alloc
}
#else
void* allocate(size_t bytes, size_t alignment) {
    return scalable_aligned_malloc(bytes, alignment);
}
void release(void* block) {
    scalable_aligned_free(block);
}
#endif

} // namespace

void* allocatePixels(size_t bytes) {
    const size_t alignment = bytes >= 2 * kLargePage ? kLargePage : kLine;
    const size_t whole = (bytes + alignment - 1) / alignment * alignment;
    void* block = whole >= bytes ? allocate(whole, alignment) : nullptr;
    if (!block) throw std::bad_alloc();
    if (alignment == kLargePage)
        ::madvise(block, whole, MADV_HUGEPAGE); // a wish; nothing is lost when refused
    return block;
}

void freePixels(void* block) {
    release(block);
}

} // namespace glyptos
