#pragma once

#include "base/error.h"

#include <filesystem>

namespace glyptos::demo {

/// Makes the stock drawer anew in a folder: pictures, the book and index of its crate, and agency.json.
Result<void> makeDrawer(const std::filesystem::path& folder);

} // namespace glyptos::demo
