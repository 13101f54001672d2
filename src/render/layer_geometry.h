// Where layers lie on their panel.
#pragma once

#include "release/release.h"
#include "release/warp.h"
#include "render/drawn_code.h"
#include "type/kept_words.h"

#include <array>
#include <atomic>
#include <map>
#include <mutex>

namespace glyptos {

/// Set paragraphs, kept by what they were set from. Safe to use from several threads.
class ParagraphCache {
  public:
    explicit ParagraphCache(const FontLibrary& fonts)
        : fonts_(fonts) {}
    std::shared_ptr<const Paragraph> get(const TextSpec& spec);
    /// A code with its fields filled, in the modules of its own frame.
    std::shared_ptr<const DrawnCode> code(const CodeContent& content, const Release& release);
    /// What words of faces that are not at hand are drawn from, where these words were kept.
    void fallBackOn(KeptWordsList words);
    /// Another number whenever the same words may be set otherwise than before.
    int generation() const { return fonts_.generation() + keptGeneration_; }

  private:
    const FontLibrary& fonts_;
    KeptWordsList kept_;
    std::atomic<int> keptGeneration_ = 0;
    int generationOfRecent_ = 0, generationOfCodes_ = 0;
    std::mutex mutex_;
    std::vector<std::pair<TextSpec, std::shared_ptr<const Paragraph>>> recent_; ///< most recently used last
    std::vector<std::shared_ptr<const DrawnCode>> codes_;                       ///< the same
};

/// From source pixels (level 0, whole picture) to panel units.
Affine pictureToPanel(const Placement& placement, const Source& source);
/// From paragraph units to panel units.
Affine textToPanel(const Placement& placement);

/// A layer's frame: its own upright box and the map from it to the panel. Groups get the bounds of what is in
/// them, fills the panel's area with bleed.
struct Frame {
    Rect box;
    Affine toPanel; ///< as it is placed, before it is warped
    std::shared_ptr<const Warp> warp = nullptr;
    Rect warpBox = {}; ///< of a warp that has none of its own
    /// Corners on the panel: the box's left-top, right-top, right-bottom, left-bottom; where they would be
    /// unwarped.
    std::array<Vec2, 4> corners() const;
    /// From the box to where it is seen on the panel.
    Mapping mapping() const;
    /// Round what is seen of it on the panel; of what is warped within a hundredth or so.
    Rect bounds() const;
    bool keepsBorders = false; ///< a picture, whose own pixels alone are kneaded
    bool contains(Vec2 onPanel) const;
};

/// What a warp of that layer warps, in its own frame: the box that it has, or all that the layer reaches.
Rect warpedBox(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs);
/// From a layer's own frame to the panel, before it is warped. Of fills and of groups that are not warped,
/// the identity.
Affine placedOnPanel(const Layer& layer, const Release& release);
/// From a layer's own frame to where it is seen on its panel. Of groups that are not warped, the identity.
Mapping seenOnPanel(const Layer& layer, const Release& release, ParagraphCache& paragraphs);

Frame frameOf(const Layer& layer, const Release& release, const Rect& panelArea, ParagraphCache& paragraphs);
/// The same for a mask: round its picture, its shape, or the way of its gradient.
Frame frameOf(const Mask& mask, const Release& release);

} // namespace glyptos
