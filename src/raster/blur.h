// Soft edges of one plane.
#pragma once

#include "raster/buffer.h"

namespace glyptos {

/// `plane` (width × height floats, rows without gaps) smoothed by a Gaussian of `sigma` pixels cut off at
/// three sigma, by two passes of its samples. Meant for small sigma: the cost grows with it. Outside is the
/// nearest edge pixel.
Buffer<float> gaussianBlur(const Buffer<float>& plane, int width, int height, double sigma);

} // namespace glyptos
