// The named steps of one working session. Undo moves a pointer; nothing is ever lost by looking back.
#pragma once

#include "release/release.h"

#include <string>
#include <vector>

namespace glyptos {

class History {
  public:
    explicit History(ReleasePtr start)
        : steps_{{"Open", std::move(start), {}}} {}

    const ReleasePtr& current() const { return steps_[at_].release; }
    /// Adds a step and forgets those that were undone. Steps with the same non-empty `merge` that follow each
    /// other become one, so that a drag or a run of key presses is undone at once. Nothing happens when the
    /// release is the current one.
    void push(std::string name, ReleasePtr next, std::string merge = {});
    /// The next push starts a step of its own, whatever its merge key.
    void settle() { steps_[at_].merge.clear(); }

    bool canUndo() const { return at_ > 0; }
    bool canRedo() const { return at_ + 1 < steps_.size(); }
    /// Name of the step that undo would take back, or redo would bring back.
    const std::string& undoName() const { return steps_[at_].name; }
    const std::string& redoName() const { return steps_[at_ + 1].name; }
    void undo() { at_ -= canUndo(); }
    void redo() { at_ += canRedo(); }

    /// All names, oldest first, and where we are.
    std::vector<std::string> names() const;
    size_t position() const { return at_; }

  private:
    struct Step {
        std::string name;
        ReleasePtr release;
        std::string merge;
    };
    std::vector<Step> steps_;
    size_t at_ = 0;
};

} // namespace glyptos
