// Benches of what is found in pictures.
#pragma once

#include "clock.h"

#include <vector>

namespace glyptos::bench {

/// A figure with a ragged outline off a photo of 24 megapixels and of 900², that one
/// also by OpenCV's grabCut.
std::vector<Row> cuttingOut();
/// The figure of the photo once, for a process whose peak memory is that of this work.
void cutOutPhoto();
/// A blemish of 200 px and a hole of 600 px filled on a wall of uneven stones.
std::vector<Row> mending();

} // namespace glyptos::bench
