// Internal to cutting out: roughly where the figure is that one click points at, or that stands out most.
#pragma once

#include "vision/cutout/trimap.h"
#include "vision/reduced.h"

#include <optional>

namespace glyptos {

struct Subject {
    /// What is probably the figure, what is probably the ground, and as certain ground all that is far from
    /// it.
    AlphaMap labels;
    /// How far these can be trusted against colours, as a logarithm of odds; 0: only to begin with.
    float trust = 0;
};

/// The ground is what can be reached from the picture's edge without a step of colour (Y. Wei et al.,
/// "Geodesic saliency using background priors", 2012), steps measured as barriers, which grain does not add
/// up (J. Zhang et al., "Minimum barrier salient object detection at 80 FPS", 2015), and what is as the
/// colours of the edge, running evenly into each other, let expect. Stretches of the edge whose colour is
/// rare along it, and that end in steps, may be the figure's. `on` says what was clicked, 255; nothing there:
/// what stands out most. Nothing when that stands out no more than the rest.
std::optional<Subject> subjectIn(const Reduced& picture, const AlphaMap& on);

} // namespace glyptos
