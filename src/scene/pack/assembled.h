// A package of a release as an object.
#pragma once

#include "release/package/package.h"
#include "render/renderer.h"
#include "scene/pack/assembly.h"

namespace glyptos {

/// With its pieces drawn at `pxPerMm` at most. Stops early once `*cancel` is true.
Assembly assembled(Renderer& renderer, const ReleasePtr& release, const Package& package, double pxPerMm,
                   const std::atomic<bool>* cancel = nullptr);

/// About how large it is once all is out, mm.
double reachOf(const Package& package);

} // namespace glyptos
