// How much memory pictures and tiles may take: a share of what the machine has.
#pragma once

#include "app/session/document.h"
#include "file/memory.h"

namespace glyptos {

class Engine;

/// Shares of the machine's memory, per cent, that can be chosen; a quarter is the standard.
inline constexpr int kLeastMemoryShare = 5, kMostMemoryShare = 80, kStandardMemoryShare = 25;
int memoryShare();
/// Remembers the share and puts it into force: three quarters of it for pictures, the rest for tiles.
void setMemoryShare(Engine& engine, int percent);
/// Puts the remembered share into force.
void applyMemoryShare(Engine& engine);

} // namespace glyptos
