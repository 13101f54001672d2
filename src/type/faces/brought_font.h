// Font files that were brought in and are not installed: read from memory, with what their makers allow.
#pragma once

#include "base/error.h"
#include "type/style_name.h"

#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace glyptos {

class Face;

using FontBytes = std::shared_ptr<const std::vector<uint8_t>>;

/// What the makers of a font allow of documents that hold it: `fsType` of its OS/2 table, version 4 and later
/// (OpenType 1.9); of several bits the one that allows most.
enum class FontEmbedding : unsigned char {
    Installable,
    Editable,
    PreviewAndPrint, ///< documents that hold it may not be changed
    Restricted,
    BitmapsOnly ///< no outlines of it
};

struct BroughtFace {
    std::shared_ptr<const Face> face;
    StyleTraits traits;
};

struct BroughtFont {
    std::string id;                 ///< tells its bytes from others
    std::vector<BroughtFace> faces; ///< never empty; named instances of a variable font, each one
    FontEmbedding embedding = FontEmbedding::Installable;
    /// Whether a file that others may go on working in may hold it.
    bool mayTravel() const {
        return embedding == FontEmbedding::Installable || embedding == FontEmbedding::Editable;
    }
};
using BroughtFontPtr = std::shared_ptr<const BroughtFont>;

/// "ttf", "otf" or "ttc" by the first bytes; also "woff" and "woff2", which readFont() refuses. Nothing for
/// what is no font.
std::string fontFormatOf(std::span<const uint8_t> bytes);

/// All faces of a font file. `name` stands for the family where the font tells none. Fails with the end of a
/// sentence, as "it has no outlines".
[[nodiscard]] Result<BroughtFontPtr> readFont(const FontBytes& bytes, const std::string& id,
                                              const std::string& name);

} // namespace glyptos
