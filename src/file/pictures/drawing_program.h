// Internal to file: asks the program that draws drawings (drawing/wire.h).
#pragma once

#include "drawing/wire.h"
#include "file/pictures/codecs.h"

namespace glyptos::codecs {

struct Drawn {
    drawing::Reply reply;
    Buffer<uint8_t> pixels; ///< of the size alone: none
};

/// `wish`: drawing::kSizeOnly or a scale. Fails with what was too much for it, as the end of a sentence.
[[nodiscard]] Result<Drawn> askDrawingProgram(Data svg, const std::string& wish);

} // namespace glyptos::codecs
