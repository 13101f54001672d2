// Pixels for work off the window's thread: not before every picture is there as fine as it is needed.
#pragma once

#include "app/session/engine.h"
#include "app/session/long_work.h"
#include "render/cut_figure.h"

namespace glyptos {

/// Until nothing is being decoded. False when it was cancelled.
bool waitForPictures(const Engine& engine, const WorkControl& control);
/// What a scene shows in a region, straight RGBA. Nothing when it was cancelled.
std::optional<Picture> settledRendering(Engine& engine, const Scene& scene, const IntRect& region,
                                        const WorkControl& control);
/// A source decoded, its finest level included. Fails when it cannot be decoded or was cancelled.
Result<PyramidPtr> settledPicture(Engine& engine, const Source& source, const WorkControl& control);
/// The figure of a source by those hints; without any, what stands out most.
Result<CutFigure> settledCutOut(Engine& engine, const Source& source, const CutoutHints& hints,
                                const WorkControl& control);

} // namespace glyptos
