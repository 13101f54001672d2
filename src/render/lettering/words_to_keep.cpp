#include "render/lettering/words_to_keep.h"

#include "release/fields.h"
#include "release/walks.h"

#include <algorithm>
#include <set>

namespace glyptos {
namespace {

/// Faces that are wherever the release is opened.
class FacesThatTravel {
  public:
    FacesThatTravel(const Release& release, const FontLibrary& fonts)
        : fonts_(fonts) {
        for (const BroughtFontPtr& font : fonts.brought())
            if (release.font(font->id))
                for (const BroughtFace& one : font->faces) own_.insert(one.face.get());
    }

    bool haveAll(const TextSpec& spec) const {
        const auto faces = facesAskedFor(spec);
        return std::all_of(faces.begin(), faces.end(), [&](const FaceName& asked) {
            const FacePtr face = fonts_.face(asked.first, asked.second);
            return face && (fonts_.isShipped(*face) || own_.count(face.get()) > 0);
        });
    }

  private:
    const FontLibrary& fonts_;
    std::set<const Face*> own_;
};

/// It shows something, within the figures that a file may hold.
bool canBeKept(const Paragraph& set) {
    constexpr double kFarthest = 1e8; // units of a panel
    const Rect all = set.ink.united(set.box);
    return !set.lines.empty() && all.x > -kFarthest && all.y > -kFarthest && all.right() < kFarthest &&
           all.bottom() < kFarthest;
}

bool hasAllFamilies(const TextSpec& spec, const FontLibrary& fonts) {
    const auto asked = facesAskedFor(spec), got = facesFor(spec, fonts);
    return std::equal(asked.begin(), asked.end(), got.begin(),
                      [](const FaceName& a, const FaceName& b) { return a.first == b.first; });
}

} // namespace

KeptWordsList wordsToKeep(const Release& release, const FontLibrary& fonts, ParagraphCache& paragraphs) {
    const FacesThatTravel faces(release, fonts);
    auto out = std::make_shared<std::vector<KeptWords>>();
    eachLayer(release, [&](const LayerPtr& layer) {
        const auto* text = layer->as<TextContent>();
        if (!text) return;
        TextSpec spec = resolvedText(*text, release);
        if (findKept(out, spec)) return;
        const KeptWords* before = findKept(release.keptWords, spec);
        if (before && before->faces != facesFor(spec, fonts))
            out->push_back(*before);
        else if (!faces.haveAll(spec) && hasAllFamilies(spec, fonts)) {
            auto set = paragraphs.get(spec);
            if (canBeKept(*set)) out->push_back({spec, facesFor(spec, fonts), std::move(set)});
        }
    });
    return out->empty() ? nullptr : out;
}

} // namespace glyptos
