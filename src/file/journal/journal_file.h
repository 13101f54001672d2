// One journal on the disk as it is added to: which nodes it holds, and which steps of a history it tells.
#pragma once

#include "file/journal/deeds.h"
#include "file/journal/node_writer.h"

namespace glyptos {

/// A journal that is there and whole up to a byte, to be gone on with.
struct OpenJournal {
    AppendFile file;
    AppendFile::Lock lock;
    size_t end = 0;
    Holdings holdings;
    size_t firstStep = 0; ///< steps that it tells before the first of the history that is gone on with
};

/// What is asked about pictures that lie in other files.
struct PicturesElsewhere {
    PictureSpots spots;
    std::function<bool(const PictureSpot&)> isGone; ///< or will be; its bytes are written down then
};

class JournalFile {
  public:
    /// An empty file, held by its lock; its head is written with the first state.
    static JournalFile begun(AppendFile file);
    explicit JournalFile(OpenJournal journal);

    std::shared_ptr<const AppendFile> file() const { return file_; }
    size_t size() const { return end_; }

    /// Whether the deeds can be told by adding them. Going to a step that it does not tell cannot.
    bool canAdd(const Deeds& deeds) const;
    /// Adds what was done. What was written survives the process at once, a power cut when the file has been
    /// flushed. When it fails the file tells what it told before, and no deed.
    [[nodiscard]] Result<void> add(const Deeds& deeds, const PicturesElsewhere& pictures);
    /// Tells a state, whatever was told before: the last `steps` of it. Calls `between`, if given, from time
    /// to time, and gives up when that fails. When it fails the file tells what it told before.
    [[nodiscard]] Result<void> tell(const JournalState& state, size_t steps,
                                    const PicturesElsewhere& pictures,
                                    const std::function<Result<void>()>& between = {});

  private:
    explicit JournalFile(AppendFile file)
        : file_(std::make_shared<AppendFile>(std::move(file))) {}
    using Write = std::function<void(RecordSink& out)>;
    [[nodiscard]] Result<void> written(const Write& write, const std::function<Result<void>()>& between);
    void add(const Deed& deed, const PictureSpots& spots, RecordSink& out);
    ToldStep told(const HistoryStep& step, const PictureSpots& spots, RecordSink& out);
    Json saved(const ReleasePtr& release, const std::optional<SavedAs>& as, const PictureSpots& spots,
               RecordSink& out);

    std::shared_ptr<AppendFile> file_;
    std::optional<AppendFile::Lock> lock_;
    size_t end_ = 0; ///< of what is whole
    NodeWriter nodes_;
    ptrdiff_t firstStep_ = 0;   ///< of the history: the one that it counts from
    size_t endStep_ = SIZE_MAX; ///< of the history: the one behind those that it tells
};

} // namespace glyptos
