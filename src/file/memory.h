// How much memory the machine has.
#pragma once

#include <cstddef>

namespace glyptos {

/// Bytes; 4 GiB when the system does not say.
size_t installedMemory();

} // namespace glyptos
