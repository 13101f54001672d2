// A picture by itself under a list of treatments, by the same way as one in a release.
#pragma once

#include "raster/picture.h"
#include "release/treatment.h"

#include <atomic>
#include <map>

namespace glyptos {

class FontLibrary;

/// By the ids that figures have for them.
using NamedPictures = std::map<std::string, PyramidPtr>;

/// In the picture's depth. Lengths and points are in its pixels. What nothing acts on stays as it is, bit for
/// bit, the colours of what cannot be seen included. Stops early once `*cancel` is true.
Picture treated(const PyramidPtr& picture, const Treatments& treatments, const FontLibrary& fonts,
                const NamedPictures& read = {}, const std::atomic<bool>* cancel = nullptr);

/// Whether a list can be told as a table: grades that do not depend on the place.
bool isTable(const Treatments& treatments);
/// A list of nothing but such grades as one table, so that its strength is one figure; any other as it is.
Treatments asOne(Treatments treatments, const std::string& title, const FontLibrary& fonts);
/// What such a list does to colours, as a cube of `size` entries a side.
LookTable tableOf(const Treatments& treatments, const std::string& title, const FontLibrary& fonts,
                  int size = 33);

} // namespace glyptos
