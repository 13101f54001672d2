// Small JSON files that the artist keeps under names: brushes, looks.
#pragma once

#include "base/json.h"

#include <filesystem>
#include <vector>

namespace glyptos {

/// The JSON files of a folder, by name; none when it is not there.
std::vector<std::filesystem::path> jsonFilesIn(const std::filesystem::path& folder);
/// A file that is not there yet, whose name says what is in it; letters and digits of any script stay.
std::filesystem::path freeFileFor(const std::filesystem::path& folder, const std::string& name);
/// Writes it whole or not at all, its folder made where it is missing. `otherwise` begins the sentence that
/// says what went wrong.
[[nodiscard]] Result<void> writeOwnFile(const std::filesystem::path& file, const Json& json,
                                        const std::string& otherwise);

} // namespace glyptos
