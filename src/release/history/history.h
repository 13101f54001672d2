// The named steps of one working session. Undo moves a pointer; nothing is ever lost by looking back.
#pragma once

#include "release/release.h"

#include <string>
#include <vector>

namespace glyptos {

/// One state of the release and the name of the edit that led to it.
struct HistoryStep {
    std::string name;
    ReleasePtr release;
    std::string merge; ///< see History::push
};

/// Steps that were undone and then left by going on another way.
struct LeftBranch {
    size_t from = 0; ///< index of the step it left from
    std::vector<HistoryStep> steps;
};

/// What a push did.
enum class Pushed : unsigned char { Nothing, Step, Merged };

class History {
  public:
    explicit History(ReleasePtr start)
        : History({{"Open", std::move(start), {}}}, 0, {}) {}
    /// As it was kept: at least one step, `at` among them, and each branch leaving from one of them.
    History(std::vector<HistoryStep> steps, size_t at, std::vector<LeftBranch> left);

    const ReleasePtr& current() const { return steps_[at_].release; }
    /// Adds a step; steps that were undone become a left branch. Steps with the same non-empty `merge` that
    /// follow each other become one, so that a drag or a run of key presses is undone at once. Nothing
    /// happens when the release is the current one. No id that any step has given is given again by a later
    /// one, whichever branch it is on.
    Pushed push(std::string name, ReleasePtr next, std::string merge = {});
    /// The next push starts a step of its own, whatever its merge key.
    void settle() { steps_[at_].merge.clear(); }

    bool canUndo() const { return at_ > 0; }
    bool canRedo() const { return at_ + 1 < steps_.size(); }
    /// Name of the step that undo would take back, or redo would bring back.
    const std::string& undoName() const { return steps_[at_].name; }
    const std::string& redoName() const { return steps_[at_ + 1].name; }
    void undo() { go(at_ - canUndo()); }
    void redo() { go(at_ + canRedo()); }
    /// Goes to any step; those behind it can be redone.
    void go(size_t step);
    /// At most so many steps that follow each other, the current one among them and otherwise the newest, and
    /// as many of the branches that leave from them, the newest first and of each its end.
    History last(size_t most) const;
    /// Puts what `past` tells before the first step, whose release is the one that `past` is at.
    void prepend(const History& past);

    /// All steps, oldest first, and where we are.
    const std::vector<HistoryStep>& steps() const { return steps_; }
    size_t position() const { return at_; }
    /// What was left, oldest first.
    const std::vector<LeftBranch>& left() const { return left_; }

  private:
    void keepIds(const ReleasePtr& release);
    std::vector<HistoryStep> steps_;
    std::vector<LeftBranch> left_;
    size_t at_ = 0;
    int nextId_ = 1; ///< higher than all ids given
};

} // namespace glyptos
