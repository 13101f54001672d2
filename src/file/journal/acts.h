// What was done, as a journal tells it: steps by the names of their roots, in the order of the history.
#pragma once

#include "file/journal/picture_spot.h"
#include "release/history/history.h"

#include <map>

namespace glyptos {

/// The file that a release was read from or written to, and what it was then.
struct SavedAs {
    std::filesystem::path file;
    std::optional<FileStamp> stamp;
};

/// A step as it is told.
struct ToldStep {
    std::string name, root;
    int nextId = 1;
};

/// A history as it is told.
struct ToldHistory {
    struct Left {
        size_t from = 0; ///< index of the step they left from
        std::vector<ToldStep> steps;
    };
    std::vector<ToldStep> steps;
    size_t at = 0;
    std::vector<Left> left{};
};

// Acts as JSON.
/// The first one, and wherever the history is told once more: what was told before is put aside.
Json historyAct(const ToldHistory& history, const std::string& title, int64_t atMs);
/// `merged`: it takes the place of the step before.
Json stepAct(const ToldStep& step, bool merged, const std::string& title, int64_t atMs);
Json goAct(size_t step);
/// `step`: the root of the step that was saved; `inFile`: that of the release as it is in the file. Without a
/// file: the state that needs no saving.
Json savedAct(const std::string& step, const std::string& inFile, const std::optional<SavedAs>& as);
/// The artist has closed it without saving.
Json leftAct();

/// Does again what a journal tells. The releases of its history are empty; told() says which they stand for.
class ActReplay {
  public:
    /// Fails when the act cannot be, or is not known.
    [[nodiscard]] Result<void> take(std::string_view json);

    bool hasBegun() const { return history_.has_value(); }
    const History& history() const { return *history_; }
    const ToldStep& told(const ReleasePtr& release) const { return told_.at(release); }
    const std::string& title() const { return title_; }
    const std::string& savedStep() const { return savedStep_; }
    const std::string& inFile() const { return inFile_; }
    const std::optional<SavedAs>& savedAs() const { return as_; }
    bool isLeft() const { return left_; }
    bool isModified() const { return hasBegun() && told(history_->current()).root != savedStep_; }
    /// Steps from the one that was saved to the current one, either way; all when it is not among them.
    size_t stepsSinceSaved() const;
    int64_t lastMs() const { return lastMs_; } ///< since 1970; of the last step

  private:
    void take(const Entry& act);
    std::vector<HistoryStep> readSteps(const Entry& list);
    ReleasePtr standIn(const ToldStep& step);
    std::optional<History> history_;
    std::map<ReleasePtr, ToldStep> told_;
    std::string title_, savedStep_, inFile_;
    std::optional<SavedAs> as_;
    int64_t lastMs_ = 0;
    bool left_ = false;
};

} // namespace glyptos
