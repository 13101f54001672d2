// Words as pictures: as shapes with nodes, as a mask, filled with a picture, and as letters or words that are
// layers of their own. What is made stands just where the words stood, in their place among the layers.
#pragma once

#include "release/edits/edits.h"
#include "render/layer_geometry.h"

namespace glyptos {

/// One shape, or a group of them where letters differ in colour; the words are gone. Fails on what is bent or
/// shows no letters.
[[nodiscard]] Result<Made> withLettersAsShapes(const ReleasePtr& release, const PanelRef& panel,
                                               const std::string& words, ParagraphCache& paragraphs);

/// The outlines of the words become the mask of the layer directly below, or one mask more of it; the words
/// are gone, and the id is that layer's. Fails also where nothing lies below them in their list.
[[nodiscard]] Result<Made> withWordsAsMask(const ReleasePtr& release, const PanelRef& panel,
                                           const std::string& words, ParagraphCache& paragraphs);

/// A picture inside the letters: directly in front of the words, clipped into them and covering them, so that
/// it slides under them where either is moved. The words stay words; the id is the picture's. Fails on words
/// that are clipped themselves or show no letters.
[[nodiscard]] Result<Made> withPictureInWords(const ReleasePtr& release, const PanelRef& panel,
                                              const std::string& words, const SourcePtr& picture,
                                              ParagraphCache& paragraphs);

enum class Apart : unsigned char { Letters, Words };

/// A group of text layers, one for each letter or word, so that each can be placed, treated and masked by
/// itself. The words of the brief become plain ones. Letters of a word that is read from the right stay
/// together, as they join; words that bend come apart in letters. Fails on what is bent, shows no letters, or
/// comes apart in more than kMostApart.
[[nodiscard]] Result<Made> withWordsApart(const ReleasePtr& release, const PanelRef& panel,
                                          const std::string& words, Apart how, ParagraphCache& paragraphs);

inline constexpr size_t kMostApart = 500;

} // namespace glyptos
