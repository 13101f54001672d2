// Can a scanner read the codes of a piece?
#pragma once

#include "render/renderer.h"

#include <string>
#include <vector>

namespace glyptos {

enum class CodeGrade : unsigned char {
    Good,
    Doubtful, ///< read, but outside what the standards allow
    Wrong     ///< not to be printed so
};

struct CodeVerdict {
    PanelRef panel;
    std::string layer, name; ///< id and name of the layer
    CodeGrade grade = CodeGrade::Good;
    std::string sentence;
};

/// Judges a code as it will be printed: its text, its size (80 to 200 % of a barcode; modules of a QR code
/// from 0.4 mm), whether it keeps its proportions, dark bars on light, its clear zone, and whether a reader
/// reads it back; on a panel with all that prints there, so that one of a wrap is seen on the flat. Barcodes
/// are judged by red light, as scanners see them (ISO/IEC 15416), QR codes by all.
CodeVerdict judgeCode(Renderer& renderer, const ReleasePtr& release, const PanelRef& panel,
                      const Layer& code);

/// Every code of a piece's current take that is on, panel by panel; and words that stand in the place of a
/// barcode. Stops early once `*cancel` is true.
std::vector<CodeVerdict> judgeCodes(Renderer& renderer, const ReleasePtr& release, const std::string& piece,
                                    const std::atomic<bool>* cancel = nullptr);

} // namespace glyptos
