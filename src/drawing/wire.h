// What is said between Glyptos and the program that draws drawings for it. That program has one drawing, or
// document, on its standard input, draws it within limits of time and memory, and may die of it without harm.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string_view>

namespace glyptos::drawing {

inline constexpr const char* kProgram = "glyptos-drawing";

/// How a document begins; anything else is a drawing.
inline constexpr std::string_view kPdfMark = "%PDF-";

/// Its argument: this, or the scale at which to draw as a decimal number.
inline constexpr const char* kSizeOnly = "size";

/// Limits of one drawing.
inline constexpr int kMostSeconds = 10;                       ///< of a core
inline constexpr int kMostWait = 30;                          ///< seconds by the clock
inline constexpr size_t kMostMemory = size_t(2) << 30;        ///< besides the pixels that it draws
inline constexpr double kMostSide = 65000, kMostPixels = 3e8; ///< as of any picture
inline constexpr int64_t kMostEmbeddedPixels = 100'000'000;   ///< of a picture inside a drawing

enum class Answer : uint32_t {
    Drawn,
    Damaged,  ///< not well-formed, or no drawing
    TooLarge, ///< more pixels than may be
    NoMemory,
    Unwritable ///< the pixels have no room
};

/// At the front of its standard output, a file; the pixels begin at kPixelsAt: premultiplied RGBA of 8 bits,
/// rows of 4 · width bytes.
struct Reply {
    Answer answer;
    int32_t width, height;              ///< of what was drawn
    double drawingWidth, drawingHeight; ///< px at 96 ppi, whole
    int32_t pages;                      ///< of a document; the first is drawn
};
inline constexpr size_t kPixelsAt = 64;
inline constexpr size_t kBehind = 64; ///< bytes of room behind the pixels

} // namespace glyptos::drawing
