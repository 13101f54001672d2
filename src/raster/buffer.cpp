#include "raster/buffer.h"

#include <cstdlib>
#include <new>
#include <sys/mman.h>

namespace glyptos {
namespace {

constexpr size_t kLine = 64, kLargePage = size_t(2) << 20;

} // namespace

void* allocatePixels(size_t bytes) {
    const size_t alignment = bytes >= 2 * kLargePage ? kLargePage : kLine;
    const size_t whole = (bytes + alignment - 1) / alignment * alignment;
    void* block = whole >= bytes ? std::aligned_alloc(alignment, whole) : nullptr;
    if (!block) throw std::bad_alloc();
    if (alignment == kLargePage)
        ::madvise(block, whole, MADV_HUGEPAGE); // a wish; nothing is lost when refused
    return block;
}

void freePixels(void* block) {
    std::free(block); // NOLINT(cppcoreguidelines-no-malloc): the counterpart of aligned_alloc
}

} // namespace glyptos
