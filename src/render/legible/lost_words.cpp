#include "render/legible/lost_words.h"

#include "release/fields.h"

#include <cmath>
#include <functional>

namespace glyptos {
namespace {

/// Height of the ink of the smallest letters: of a line of them, in panel units.
double inkHeight(const TextContent& text, const Layer& layer, const Release& release,
                 ParagraphCache& paragraphs) {
    const TextSpec spec = resolvedText(text, release);
    TextSpec one;
    one.text = "x", one.letters = spec.letters;
    return paragraphs.get(one)->ink.h * layer.placement.scaleY;
}

void collect(const Stack& stack, const std::function<void(const Layer&)>& visit) {
    for (const LayerPtr& layer : stack) {
        if (!layer->on) continue;
        if (const auto* group = layer->as<GroupContent>())
            collect(group->layers, visit);
        else
            visit(*layer);
    }
}

} // namespace

std::vector<LostWords> lostWords(const Release& release, const PanelRef& ref, int smallest,
                                 ParagraphCache& paragraphs) {
    std::vector<LostWords> out;
    const PiecePtr piece = release.piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return out;
    const double side = std::max(panel->trim().w, panel->trim().h);
    collect(stackOf(release, ref), [&](const Layer& layer) {
        const auto* text = layer.as<TextContent>();
        if (!text || resolvedText(*text, release).text.empty()) return;
        const double ink = inkHeight(*text, layer, release, paragraphs);
        const int below = ink > 0 ? int(std::ceil(kLeastInk * side / ink - 1e-9)) : 0;
        if (below > smallest) out.push_back({layer.name, below});
    });
    return out;
}

} // namespace glyptos
