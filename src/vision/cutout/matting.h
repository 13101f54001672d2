// Internal to cutting out: the alpha of uncertain pixels, solved for from their colours.
#pragma once

#include "vision/cutout/trimap.h"
#include "vision/reduced.h"

#include <atomic>
#include <vector>

namespace glyptos {

/// What is known of a pixel's alpha beforehand, and how far that is to be trusted (0: not at all).
struct AlphaGuess {
    float alpha = 0, weight = 0;
};

/// Alpha 0…1 of every pixel of `picture`: 0 and 1 where the trimap is certain, elsewhere the alpha that makes
/// each 3 × 3 window fit a line between two colours best, and keeps to the guesses by their weight
/// (A. Levin, D. Lischinski, Y. Weiss, "A closed-form solution to natural image matting", 2008; by
/// conjugate gradients from the guesses on). All three are of one size. Stops early, with what it has, once
/// `*cancel` is true.
std::vector<float> solvedAlpha(const Reduced& picture, const AlphaMap& trimap,
                               const std::vector<AlphaGuess>& guesses, const std::atomic<bool>* cancel);

} // namespace glyptos
