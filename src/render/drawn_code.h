// Codes as outlines, ready to draw.
#pragma once

#include "release/release.h"
#include "render/inked_words.h"

namespace glyptos {

/// In modules, (0, 0) in the middle of the symbol with its clear zone.
struct DrawnCode {
    CodeKind kind = CodeKind::Ean13;
    std::string text;                         ///< as asked for, fields filled
    Result<CodeSymbol> symbol = CodeSymbol{}; ///< or why there is none
    Rect box;          ///< with the clear zone; of a text that makes no code that of a plain one
    Path ground, bars; ///< bars with their digits
};

/// Digits are set in a shipped face.
DrawnCode drawCode(CodeKind kind, const std::string& text, const FontLibrary& fonts);

/// Back to front.
std::vector<InkedOutline> inkedCode(const CodeContent& code, const std::shared_ptr<const DrawnCode>& drawn);

} // namespace glyptos
