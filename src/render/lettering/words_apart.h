// Words taken to pieces: as shapes with nodes, and as letters or words that are layers of their own. What is
// made stands just where the words stood, in their place among the layers.
#pragma once

#include "release/edits/edits.h"
#include "render/layer_geometry.h"

namespace glyptos {

/// One shape, or a group of them where letters differ in colour; the words are gone. Fails on what is bent or
/// shows no letters.
[[nodiscard]] Result<Made> withLettersAsShapes(const ReleasePtr& release, const PanelRef& panel,
                                               const std::string& words, ParagraphCache& paragraphs);

enum class Apart : unsigned char { Letters, Words };

/// A group of text layers, one for each letter or word, so that each can be placed, treated and masked by
/// itself. The words of the brief become plain ones. Letters of a word that is read from the right stay
/// together, as they join; words that bend come apart in letters. Fails on what is bent, shows no letters, or
/// comes apart in more than kMostApart.
[[nodiscard]] Result<Made> withWordsApart(const ReleasePtr& release, const PanelRef& panel,
                                          const std::string& words, Apart how, ParagraphCache& paragraphs);

inline constexpr size_t kMostApart = 500;

} // namespace glyptos
