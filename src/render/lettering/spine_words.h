// Words on a spine: along it, in its middle, as large as it lets them be.
#pragma once

#include "release/edits/edits.h"
#include "render/layer_geometry.h"

namespace glyptos {

/// Whether a panel is a spine: narrow, and folded along both of its long edges, or along one where it is the
/// last.
bool isSpine(const Flat& flat, const Panel& panel);

/// How words lie on a spine.
struct SpineFit {
    double size = 0; ///< em, units of the panel
    Vec2 anchor;     ///< of a layer that is not turned
};

/// In one line across the upright spine: the largest size at which what is inked keeps a fifth of its height,
/// 0.4 to 1.5 mm, to both edges, and its safety (or that) to both ends; the middle of the capitals lies in
/// the middle of the spine, unless letters that reach below would come too near its edge. `spec` is set as it
/// is, but for its size and frame. Fails where there are no words, or where they would print smaller than
/// kLeastSpinePt: the sentence says how small.
[[nodiscard]] Result<SpineFit> fittedToSpine(const TextSpec& spec, const Panel& spine, Unit unit,
                                             ParagraphCache& paragraphs);
inline constexpr double kLeastSpinePt = 5;

/// The words of a layer fitted to the spine that it is on; without a layer new ones: artist, title and
/// catalogue number, in the face and colour of the largest words of the front. Fails as above; the release
/// stays as it is.
[[nodiscard]] Result<Made> withSpineWords(const ReleasePtr& release, const PanelRef& spine,
                                          const std::string& layer, ParagraphCache& paragraphs);

} // namespace glyptos
