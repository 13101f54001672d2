// The ornaments that come with the application.
#pragma once

#include "base/error.h"
#include "release/shape.h"

#include <filesystem>

namespace glyptos {

struct Ornament {
    std::string id, name;
    ShapeContent shape; ///< a free path in its own frame, one colour
};

/// Reads an SVG file with a <title> and one <path>. Fails with a sentence that names the file.
[[nodiscard]] Result<Ornament> readOrnament(const std::filesystem::path& file);

/// Those in data/ornaments, by name. What cannot be read is left out.
const std::vector<Ornament>& shippedOrnaments();

} // namespace glyptos
