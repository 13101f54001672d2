#include "render/lettering/spine_words.h"

#include "base/text.h"
#include "base/units.h"
#include "release/fields.h"
#include "release/walks.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// The length of a panel's edge along which it is folded.
bool isFoldedAlong(const Flat& flat, size_t panel, bool upright) {
    return std::any_of(flat.folds.begin(), flat.folds.end(), [&](const Fold& fold) {
        const bool along = (std::abs(fold.from.x - fold.to.x) < std::abs(fold.from.y - fold.to.y)) == upright;
        return along && std::any_of(fold.joins.begin(), fold.joins.end(), [&](const auto& join) {
                   return join.first == panel || join.second == panel;
               });
    });
}

double edgeOf(const Panel& spine) {
    return std::clamp(spine.height * 0.2, 0.4, 1.5);
}

std::shared_ptr<const Paragraph> setAt(TextSpec spec, double size, ParagraphCache& paragraphs) {
    const double by = size / spec.letters.size;
    spec.letters.size = size;
    for (TextRun& run : spec.runs) run.letters.size *= by;
    return paragraphs.get(spec);
}

/// Above the baseline, of the letter H as it is set.
double capitals(const TextSpec& spec, double size, ParagraphCache& paragraphs) {
    TextSpec one;
    one.letters = spec.letters;
    one.text = "H";
    const auto set = setAt(one, size, paragraphs);
    return set->baselines.empty() ? 0 : set->baselines.front() - set->ink.y;
}

/// The largest words of the front, whose look new ones take.
const TextContent* frontWords(const Piece& piece) {
    const TextContent* out = nullptr;
    eachLayer(piece.take().stack(piece.flat->frontPanel().id), [&](const LayerPtr& layer) {
        const auto* text = layer->on ? layer->as<TextContent>() : nullptr;
        if (text && (!out || text->spec.letters.size > out->spec.letters.size)) out = text;
    });
    return out;
}

TextContent newWords(const Piece& piece, const Brief& brief) {
    TextContent text;
    if (const TextContent* front = frontWords(piece)) {
        text.colour = front->colour;
        text.spec.letters.family = front->spec.letters.family;
        text.spec.letters.style = front->spec.letters.style;
    } else {
        text.colour = Ink{0, 0, 0, 1};
        text.spec.letters.style = "SemiBold";
    }
    text.spec.text = "{artist} – {title}";
    if (!brief.catalogue.empty()) text.spec.text += "   {catalogue}";
    return text;
}

} // namespace

bool isSpine(const Flat& flat, const Panel& panel) {
    constexpr double kNarrow = 0.25; // of its length
    const Rect& r = panel.onFlat;
    const bool upright = r.h > r.w;
    if (std::min(r.w, r.h) > kNarrow * std::max(r.w, r.h)) return false;
    const auto at = std::find_if(flat.panels.begin(), flat.panels.end(),
                                 [&](const Panel& p) { return p.id == panel.id; });
    return at != flat.panels.end() && isFoldedAlong(flat, size_t(at - flat.panels.begin()), upright) &&
           panel.width > panel.height;
}

Result<SpineFit> fittedToSpine(const TextSpec& given, const Panel& spine, Unit unit,
                               ParagraphCache& paragraphs) {
    TextSpec spec = given;
    spec.frame = AtPoint{};
    const double edge = edgeOf(spine), end = std::max(spine.safety, edge);
    const double wide = spine.width - 2 * end, high = spine.height - 2 * edge;
    const Rect ink = paragraphs.get(spec)->ink;
    if (ink.empty())
        return fail(Fault::Usage, "There are no words to set on " + spine.name + "; nothing was changed.");
    SpineFit out;
    out.size = spec.letters.size * std::min(wide / ink.w, high / ink.h);
    const double points = unit == Unit::Mm ? out.size / kMmPerInch * kPtPerInch : out.size;
    if (unit == Unit::Mm && points < kLeastSpinePt)
        return fail(Fault::Usage, "These words do not fit on " + spine.name + ": they would stand at " +
                                      shortNumber(std::max(0.0, points), 1) + " pt, and under " +
                                      shortNumber(kLeastSpinePt) +
                                      " pt they do not print. Make them shorter or the spine wider; nothing "
                                      "was changed.");
    const auto set = setAt(spec, out.size, paragraphs);
    const Rect now = set->ink;
    const double baseline = set->baselines.front();
    // Where the top of the paragraph lies.
    const double byCapitals = spine.height / 2 - (baseline - capitals(spec, out.size, paragraphs) / 2);
    const double least = edge - now.y, most = spine.height - edge - now.bottom();
    out.anchor = {spine.width / 2 - now.centre().x,
                  std::clamp(byCapitals, std::min(least, most), std::max(least, most))};
    return out;
}

Result<Made> withSpineWords(const ReleasePtr& release, const PanelRef& ref, const std::string& id,
                            ParagraphCache& paragraphs) {
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* spine = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!spine) return Made{release, {}};
    const LayerPtr old = findLayer(stackOf(*release, ref), id);
    const bool isNew = !old || !old->as<TextContent>();
    TextContent text = isNew ? newWords(*piece, release->brief) : *old->as<TextContent>();
    const auto fit = fittedToSpine(resolvedText(text, *release), *spine, piece->flat->unit, paragraphs);
    if (!fit) return tl::unexpected(fit.error());
    const double by = fit->size / text.spec.letters.size;
    text.spec.frame = AtPoint{};
    text.spec.letters.size = fit->size;
    for (TextRun& run : text.spec.runs) run.letters.size *= by;
    Placement placement;
    placement.position = fit->anchor;
    if (!isNew)
        return Made{
            withChangedLayer(release, ref, id, [&](Layer& l) { l.content = text, l.placement = placement; }),
            id};
    Layer layer;
    layer.name = "Spine words";
    layer.content = std::move(text);
    layer.placement = placement;
    return withLayer(release, ref, std::move(layer));
}

} // namespace glyptos
