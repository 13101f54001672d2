#include "file/print/front_words.h"

#include "release/edits/treatment_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "render/inked_words.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Whether no letter lets through what is behind it.
bool areSolid(const TextContent& text) {
    const auto isSolid = [](const Ink& ink) { return ink.a >= 1; };
    const auto fades = [](const LetterRule& rule) {
        return rule.kind == LetterRule::Kind::Falling && rule.fade > 0;
    };
    const TextSpec& spec = text.spec;
    return std::all_of(text.colours.begin(), text.colours.end(), isSolid) &&
           std::none_of(spec.rules.begin(), spec.rules.end(), fades) &&
           std::all_of(spec.poses.begin(), spec.poses.end(),
                       [](const LetterPose& p) { return p.opacity >= 1; });
}

bool areSolid(const CodeContent& code) {
    return code.bars.a >= 1 && (!code.ground || code.ground->a >= 1);
}

bool canBeOutlined(const Layer& layer) {
    const auto* text = layer.as<TextContent>();
    const auto* code = layer.as<CodeContent>();
    const bool solid = (text && text->colour.a >= 1 && areSolid(*text)) || (code && areSolid(*code));
    return solid && !layer.mask && !layer.clipped && layer.blend == BlendMode::Normal && layer.opacity >= 1 &&
           !isTreated(layer);
}

/// Back to front.
std::vector<InkedOutline> outlinesOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    if (const auto* code = layer.as<CodeContent>()) return inkedCode(*code, paragraphs.code(*code, release));
    const auto& text = *layer.as<TextContent>();
    return inkedWords(text, paragraphs.get(resolvedText(text, release)));
}

} // namespace

std::vector<OutlinedText> takeFrontWords(Scene& scene, ParagraphCache& paragraphs) {
    std::vector<OutlinedText> words;
    for (PanelView& view : scene.panels) {
        const auto firstArt = std::find_if(view.stack.begin(), view.stack.end(),
                                           [](const LayerPtr& l) { return l->on && !canBeOutlined(*l); });
        for (auto it = firstArt; it != view.stack.begin();) {
            const Layer& layer = **--it;
            if (!layer.on) continue;
            for (const InkedOutline& ink : outlinesOf(layer, *scene.release, paragraphs)) {
                OutlinedText word{ink.outline, view.toOutput * placementMap(layer.placement),
                                  ink.colour,  view.clip,
                                  view.prints, view.toOutput};
                if (layer.warp) {
                    constexpr double kTolerance = 0.02; // px of the print
                    const Mapping seen =
                        Mapping(view.toOutput) * seenOnPanel(layer, *scene.release, paragraphs);
                    word.outline = std::make_shared<const Path>(mapped(*word.outline, seen, kTolerance));
                    word.toOutput = {};
                }
                words.push_back(std::move(word));
            }
        }
        view.stack.erase(view.stack.begin(), firstArt);
    }
    return words;
}

} // namespace glyptos
