#include "file/memory.h"

#include <unistd.h>

namespace glyptos {

size_t installedMemory() {
    const long pages = sysconf(_SC_PHYS_PAGES), page = sysconf(_SC_PAGE_SIZE);
    return pages > 0 && page > 0 ? size_t(pages) * size_t(page) : size_t(4) << 30;
}

} // namespace glyptos
