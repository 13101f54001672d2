// Names that stand in files, joined to a folder: this is the one way to do it.
#pragma once

#include "base/error.h"

#include <filesystem>

namespace glyptos {

/// The file of that name in the folder, or below it. Fails (Unsafe, the end of a sentence) when the name is
/// empty or absolute, has a ".." or a NUL in it: whoever wrote it may mean harm.
[[nodiscard]] Result<std::filesystem::path> inside(const std::filesystem::path& folder,
                                                   const std::string& name);

/// Removes that file: the one of that name, not what a link leads to. What lies outside the folder, by its
/// name or because a folder on the way is a link, stays. Whether it is gone.
bool removeInside(const std::filesystem::path& folder, const std::string& name);

} // namespace glyptos
