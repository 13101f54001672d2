// One picture as a page.
#pragma once

#include "base/units.h"
#include "file/pictures/store_picture.h"

#include <cstdint>
#include <vector>

namespace glyptos {

/// A PDF 1.4 of one page, as large as the JPEG is at that resolution, and the JPEG on it as it stands.
std::vector<uint8_t> pictureAsPdf(const EncodedPicture& jpeg, Ppi resolution);

} // namespace glyptos
