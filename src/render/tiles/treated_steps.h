// Internal to render: the treatments of a layer as steps.
#pragma once

#include "release/release.h"

#include <algorithm>

namespace glyptos {

/// The treatments of a layer that act, in order, with the step between them at which it gets its mask and
/// what is clipped into it: before the first that follows the outline.
class TreatedSteps {
  public:
    explicit TreatedSteps(const Layer& layer) {
        if (layer.treatments)
            for (const Treatment& t : *layer.treatments)
                if (t.acts()) acting_.push_back(&t);
        const auto first = std::find_if(acting_.begin(), acting_.end(),
                                        [](const Treatment* t) { return t->kind->followsOutline; });
        if (any()) acting_.insert(first, nullptr);
    }
    bool any() const { return !acting_.empty(); }
    size_t count() const { return acting_.size(); }
    /// Nothing: the step of the mask.
    const Treatment* step(size_t i) const { return acting_[i]; }
    bool looksAround(size_t i) const { return acting_[i] && acting_[i]->kind->looksAround(); }
    /// Whether none of them needs to know where it is.
    bool coloursAlone() const {
        return std::none_of(acting_.begin(), acting_.end(), [](const Treatment* t) {
            return t && (t->kind->looksAround() || t->kind->placed || t->mask);
        });
    }

  private:
    std::vector<const Treatment*> acting_;
};

} // namespace glyptos
