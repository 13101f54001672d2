#include "file/print/front_words.h"

#include "base/units.h"
#include "release/edits/treatment_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/press/spot_inks.h"
#include "release/walks.h"
#include "render/inked_words.h"

#include <algorithm>
#include <set>

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

/// As it is, over all that lies behind it.
bool showsPlainly(const Layer& layer) {
    return !layer.mask && !layer.clipped && layer.blend == BlendMode::Normal && layer.opacity >= 1 &&
           !isTreated(layer);
}

bool canBeOutlined(const Layer& layer) {
    const auto* text = layer.as<TextContent>();
    const auto* code = layer.as<CodeContent>();
    const bool solid = (text && text->colour.a >= 1 && areSolid(*text)) || (code && areSolid(*code));
    return solid && showsPlainly(layer);
}

/// Back to front.
std::vector<InkedOutline> outlinesOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    if (const auto* code = layer.as<CodeContent>()) return inkedCode(*code, paragraphs.code(*code, release));
    const auto& text = *layer.as<TextContent>();
    return inkedWords(text, paragraphs.get(resolvedText(text, release)));
}

bool isOver(const Layer& layer, const Release& release) {
    const Swatch* spot = spotOf(layer, release);
    return spot && spot->plate == Plate::Over;
}

/// The first layer of a stack that cannot be outlined and hides what lies behind it.
Stack::const_iterator firstArt(const Stack& stack, const Release& release) {
    return std::find_if(stack.begin(), stack.end(), [&](const LayerPtr& l) {
        return l->on && !canBeOutlined(*l) && !isOver(*l, release);
    });
}

/// Takes out what has been outlined.
void eraseWords(Stack& stack, const Release& release) {
    const auto from = size_t(firstArt(stack, release) - stack.begin());
    const auto end = stack.begin() + ptrdiff_t(from);
    stack.erase(std::remove_if(stack.begin(), end, [](const LayerPtr& l) { return canBeOutlined(*l); }), end);
}

/// What runs over a panel together with others, in the take that is printed.
const EchoContent* wrapEcho(const Layer& layer, const PanelView& view, const Release& release) {
    const auto* echo = layer.as<EchoContent>();
    const PiecePtr piece = release.piece(view.place.piece);
    const bool own = echo && echo->piece == view.place.piece && echo->take == view.place.take;
    return own && piece->wrap(echo->panel) ? echo : nullptr;
}

class FrontWords {
  public:
    FrontWords(Scene& scene, ParagraphCache& paragraphs)
        : scene_(scene)
        , paragraphs_(paragraphs) {}

    std::vector<OutlinedText> run() {
        findWraps();
        for (PanelView& view : scene_.panels) take(view);
        scene_.release = withoutWrapWords();
        return std::move(words_);
    }

  private:
    /// Wraps before which nothing but words lies on any panel that shows them.
    void findWraps() {
        std::set<std::string> hidden;
        for (const PanelView& view : scene_.panels) {
            const auto art = firstArt(view.stack, *scene_.release);
            const EchoContent* first = art == view.stack.end() || (*art)->warp || !showsPlainly(**art)
                                           ? nullptr
                                           : wrapEcho(**art, view, *scene_.release);
            if (first) wraps_.insert(first->panel);
            eachLayer(view.stack, [&](const LayerPtr& layer) {
                const EchoContent* echo = layer->on ? wrapEcho(*layer, view, *scene_.release) : nullptr;
                if (echo && echo != first) hidden.insert(echo->panel);
            });
        }
        for (const std::string& id : hidden) wraps_.erase(id);
    }

    void take(PanelView& view) {
        const auto art = firstArt(view.stack, *scene_.release);
        const EchoContent* echo = art == view.stack.end() ? nullptr : wrapEcho(**art, view, *scene_.release);
        if (echo && wraps_.contains(echo->panel)) {
            const Stack& stack = wrapStack(echo->panel);
            const Affine map = echoToPanel((*art)->placement, *echoFrame(*echo, *scene_.release));
            add(stack, firstArt(stack, *scene_.release), view.toOutput * map, view);
        }
        add(view.stack, art, view.toOutput, view);
        eraseWords(view.stack, *scene_.release);
    }

    const Stack& wrapStack(const std::string& wrap) const {
        const PanelPlace& place = scene_.panels.front().place;
        return scene_.release->piece(place.piece)->take(place.take)->stack(wrap);
    }

    /// Those before `end`, back to front.
    void add(const Stack& stack, Stack::const_iterator end, const Affine& toOutput, const PanelView& view) {
        while (end != stack.begin()) {
            const Layer& layer = **--end;
            if (layer.on && canBeOutlined(layer)) add(layer, toOutput, view);
        }
    }

    void add(const Layer& layer, const Affine& toOutput, const PanelView& view) {
        const Swatch* spot = spotOf(layer, *scene_.release);
        for (const InkedOutline& ink : outlinesOf(layer, *scene_.release, paragraphs_)) {
            OutlinedText word{ink.outline, toOutput * placementMap(layer.placement),
                              ink.colour,  view.clip,
                              view.prints, view.toOutput};
            if (layer.warp) {
                constexpr double kTolerance = 0.02; // px of the print
                const Mapping seen = Mapping(toOutput) * seenOnPanel(layer, *scene_.release, paragraphs_);
                word.outline = std::make_shared<const Path>(mapped(*word.outline, seen, kTolerance));
                word.toOutput = {};
            }
            if (spot) word.spot = *spot;
            if (const auto* text = layer.as<TextContent>())
                word.sizePt = text->spec.letters.size / kMmPerInch * kPtPerInch; // print pieces are in mm
            words_.push_back(std::move(word));
        }
    }

    ReleasePtr withoutWrapWords() const {
        if (wraps_.empty()) return scene_.release;
        const PanelPlace& place = scene_.panels.front().place;
        auto release = std::make_shared<Release>(*scene_.release);
        for (PiecePtr& piece : release->pieces) {
            if (piece->id != place.piece) continue;
            auto next = std::make_shared<Piece>(*piece);
            for (auto& take : next->takes) {
                if (take->id != place.take) continue;
                auto copy = std::make_shared<Take>(*take);
                for (const std::string& wrap : wraps_) {
                    eraseWords(copy->stacks[wrap], *scene_.release);
                }
                take = std::move(copy);
            }
            piece = std::move(next);
        }
        return release;
    }

    Scene& scene_;
    ParagraphCache& paragraphs_;
    std::set<std::string> wraps_; ///< whose front words are taken
    std::vector<OutlinedText> words_;
};

} // namespace

std::vector<OutlinedText> takeFrontWords(Scene& scene, ParagraphCache& paragraphs) {
    return FrontWords(scene, paragraphs).run();
}

} // namespace glyptos
