#include "release/history/history.h"

namespace glyptos {

void History::push(std::string name, ReleasePtr next, std::string merge) {
    if (next == current()) return;
    if (canRedo()) {
        const auto rest = steps_.begin() + long(at_) + 1;
        left_.push_back({at_, {std::make_move_iterator(rest), std::make_move_iterator(steps_.end())}});
        steps_.erase(rest, steps_.end());
    }
    if (!merge.empty() && at_ > 0 && steps_[at_].merge == merge) {
        steps_[at_] = {std::move(name), std::move(next), std::move(merge)};
        return;
    }
    steps_.push_back({std::move(name), std::move(next), std::move(merge)});
    ++at_;
}

} // namespace glyptos
