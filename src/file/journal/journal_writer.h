// Writes down what is done to a release as it happens, on a thread of its own (docs/journal.md).
#pragma once

#include "file/disk/flusher.h"
#include "file/journal/journal_file.h"

#include <chrono>

namespace glyptos {

class JournalWriter {
  public:
    /// Called from the writer's thread: once when it cannot write, with a sentence, and once with an empty
    /// one when it can again.
    using Told = std::function<void(const std::string& sentence)>;

    /// A journal is begun in a folder once there is more than one step to tell.
    JournalWriter(const std::filesystem::path& folder, JournalState start, Told told);
    /// Goes on with one that tells that history; where `isBehind`, an older part of it.
    JournalWriter(OpenJournal journal, JournalState start, bool isBehind, Told told);
    /// Writes what is waiting. A journal with nothing in it is removed.
    ~JournalWriter();
    JournalWriter(const JournalWriter&) = delete;
    JournalWriter& operator=(const JournalWriter&) = delete;

    // What was done, as it was done to the history. These do not wait.
    void step(std::string name, ReleasePtr release, bool merged);
    void go(size_t step);
    void miniature(std::vector<uint8_t> png);
    /// The release of a step has been saved. From time to time the journal is written anew then, with the
    /// last kKeptSteps steps alone.
    void saved(ReleasePtr release, const SavedAs& as);
    /// A file that holds a picture's bytes, besides the release's own.
    void mayBeIn(const std::string& source, const std::filesystem::path& file);

    /// Before a release takes the place of a file: pictures of other steps that are nowhere else than in that
    /// file are written into the journal. Waits for it.
    void secureBefore(const std::filesystem::path& file, ReleasePtr release);
    /// That save is over, whatever came of it.
    void saveEnded();

    /// The artist lets it go without saving.
    void leave();
    /// Another journal tells all of it: this one is removed when it ends.
    void discard();
    /// Waits until all that was told so far is on the disk. False when it could not be written.
    bool flush();

    /// Where it is, or will be once there is something to tell.
    const std::filesystem::path& path() const { return path_; }

    static constexpr size_t kKeptSteps = 100;
    static constexpr std::chrono::milliseconds kPause{400}; ///< from one write to the next
    static constexpr std::chrono::seconds kTryAgain{4};     ///< after one that failed
    static constexpr size_t kMostBytes = size_t(512) << 20; ///< then it is written anew
    static constexpr size_t kWorthWhile = size_t(16) << 20; ///< bytes more than when it was

  private:
    void put(Deed deed);
    void work(const std::stop_token& stop);
    bool hasWork() const { return !deeds_.empty() || isBehind_ || isUnflushed_; }
    [[nodiscard]] Result<void> writeSome(Deeds& deeds);
    [[nodiscard]] Result<void> tell(Deeds& deeds);
    [[nodiscard]] Result<void> begin();
    [[nodiscard]] Result<void> writeAnew();
    [[nodiscard]] Result<void> meanwhile();
    void notFlushed();
    void setBehind(bool isBehind);
    void takeAll(Deeds& deeds);
    void noteTrouble(const Result<void>& written);
    PicturesElsewhere pictures();
    std::optional<PictureSpot> spotOf(const Source& source);

    const std::filesystem::path path_;
    Told tell_;

    // The writer's own.
    JournalState state_; ///< as far as it has been taken
    std::optional<JournalFile> file_;
    size_t anewAt_ = 0;      ///< bytes when it was last written anew
    Deeds since_;            ///< done while it is being written anew
    bool isUnsound_ = false; ///< the file: what was added may not be there
    bool isTroubled_ = false;
    std::chrono::steady_clock::time_point next_; ///< not to write before

    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    Deeds deeds_;
    bool isBehind_ = false;    ///< of the state: adding deeds does not help
    bool isUnflushed_ = false; ///< what was added could not be flushed
    bool isDiscarded_ = false;
    bool hurry_ = false, failed_ = false, isIdle_ = true;
    std::map<std::string, std::filesystem::path> elsewhere_; ///< by source
    std::optional<SaveBegun> saving_;                        ///< a file that is about to be replaced
    Flusher flusher_;
    std::jthread worker_;
};

} // namespace glyptos
