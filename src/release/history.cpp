#include "release/history.h"

namespace glyptos {

void History::push(std::string name, ReleasePtr next, std::string merge) {
    if (next == current()) return;
    steps_.resize(at_ + 1);
    if (!merge.empty() && at_ > 0 && steps_[at_].merge == merge) {
        steps_[at_] = {std::move(name), std::move(next), std::move(merge)};
        return;
    }
    steps_.push_back({std::move(name), std::move(next), std::move(merge)});
    ++at_;
}

std::vector<std::string> History::names() const {
    std::vector<std::string> out;
    for (const Step& step : steps_) out.push_back(step.name);
    return out;
}

} // namespace glyptos
