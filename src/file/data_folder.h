// Files shipped with Glyptos.
#pragma once

#include <cstdint>
#include <filesystem>
#include <vector>

namespace glyptos {

/// The folder with forms, fonts and profiles: $GLYPTOS_DATA, else beside the installed program
/// (../share/glyptos), else the source tree's data/.
std::filesystem::path dataFolder();

/// The press profile shipped with Glyptos (coated stock); empty when the data folder is not there.
const std::vector<uint8_t>& pressProfileBytes();

} // namespace glyptos
