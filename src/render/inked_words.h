// The outlines of set words with the colours to fill them with.
#pragma once

#include "release/release.h"
#include "type/paragraph.h"

#include <memory>

namespace glyptos {

struct InkedOutline {
    std::shared_ptr<const Path> outline;
    Rgba colour;
};

/// Back to front.
std::vector<InkedOutline> inkedWords(const TextContent& text, const std::shared_ptr<const Paragraph>& set);

} // namespace glyptos
