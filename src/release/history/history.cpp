#include "release/history/history.h"

namespace glyptos {

History::History(std::vector<HistoryStep> steps, size_t at, std::vector<LeftBranch> left)
    : steps_(std::move(steps))
    , left_(std::move(left))
    , at_(at) {
    for (const HistoryStep& step : steps_) keepIds(step.release);
    for (const LeftBranch& branch : left_)
        for (const HistoryStep& step : branch.steps) keepIds(step.release);
    go(at_);
}

void History::keepIds(const ReleasePtr& release) {
    nextId_ = std::max(nextId_, int(release->nextId));
}

Pushed History::push(std::string name, ReleasePtr next, std::string merge) {
    if (next == current()) return Pushed::Nothing;
    keepIds(next);
    if (canRedo()) {
        const auto rest = steps_.begin() + long(at_) + 1;
        left_.push_back({at_, {std::make_move_iterator(rest), std::make_move_iterator(steps_.end())}});
        steps_.erase(rest, steps_.end());
    }
    if (!merge.empty() && at_ > 0 && steps_[at_].merge == merge) {
        steps_[at_] = {std::move(name), std::move(next), std::move(merge)};
        return Pushed::Merged;
    }
    steps_.push_back({std::move(name), std::move(next), std::move(merge)});
    ++at_;
    return Pushed::Step;
}

void History::go(size_t step) {
    at_ = std::min(step, steps_.size() - 1);
    current()->nextId.raise(nextId_);
}

History History::last(size_t most) const {
    const size_t begin = std::min(at_, steps_.size() - std::min(most, steps_.size()));
    const size_t end = std::min(steps_.size(), begin + std::max(most, size_t(1)));
    std::vector<LeftBranch> left;
    size_t room = most;
    for (auto branch = left_.rbegin(); branch != left_.rend() && room > 0; ++branch) {
        if (branch->from < begin || branch->from >= end) continue;
        const size_t n = std::min(room, branch->steps.size());
        left.insert(left.begin(),
                    {branch->from - begin, {branch->steps.end() - long(n), branch->steps.end()}});
        room -= n;
    }
    History out({steps_.begin() + long(begin), steps_.begin() + long(end)}, at_ - begin, std::move(left));
    out.nextId_ = nextId_;
    return out;
}

void History::prepend(const History& past) {
    const size_t shift = past.at_;
    for (LeftBranch& branch : left_) branch.from += shift;
    // What could be redone then can still be, unless another way has been gone since.
    const std::vector<HistoryStep> ahead(past.steps_.begin() + long(shift) + 1, past.steps_.end());
    const bool goneOn = steps_.size() > 1;
    if (goneOn && !ahead.empty()) left_.insert(left_.begin(), {shift, ahead});
    left_.insert(left_.begin(), past.left_.begin(), past.left_.end());
    steps_.front().name = past.steps_[shift].name;
    steps_.insert(steps_.begin(), past.steps_.begin(), past.steps_.begin() + long(shift));
    if (!goneOn) steps_.insert(steps_.end(), ahead.begin(), ahead.end());
    nextId_ = std::max(nextId_, past.nextId_);
    go(at_ + shift);
}

} // namespace glyptos
