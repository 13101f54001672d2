// Writes down what is done to a release as it happens, on a thread of its own (docs/journal.md).
#pragma once

#include "file/journal/acts.h"
#include "file/journal/node_writer.h"

#include <chrono>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <set>
#include <thread>

namespace glyptos {

/// A journal that is there and whole up to a byte, to be gone on with.
struct OpenJournal {
    AppendFile file;
    AppendFile::Lock lock;
    size_t end = 0;
    Holdings holdings;
    size_t firstStep = 0; ///< steps that it tells before the first of the history that is gone on with
};

/// A history, what of it needs no saving, and where that is.
struct JournalStart {
    History history;
    ReleasePtr saved; ///< nothing when that is none of the steps
    std::optional<SavedAs> as{};
};

class JournalWriter {
  public:
    /// Called from the writer's thread: once when it cannot write, with a sentence, and once with an empty
    /// one when it can again.
    using Told = std::function<void(const std::string& sentence)>;

    /// A journal is begun in a folder once there is more than one step to tell.
    JournalWriter(std::filesystem::path folder, JournalStart start, Told told);
    /// Goes on with one that tells that history; where `isBehind`, an older part of it.
    JournalWriter(OpenJournal journal, JournalStart start, bool isBehind, Told told);
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
    /// That save has come to nothing.
    void saveFailed();

    /// The artist lets it go without saving.
    void leave();
    /// Waits until all that was told so far is on the disk. False when it could not be written.
    bool flush();

    std::filesystem::path path() const;

    static constexpr size_t kKeptSteps = 100;
    static constexpr std::chrono::milliseconds kPause{400}; ///< from one write to the next
    static constexpr std::chrono::seconds kTryAgain{4};     ///< after one that failed
    static constexpr size_t kMostBytes = size_t(512) << 20; ///< then it is written anew
    static constexpr size_t kWorthWhile = size_t(16) << 20; ///< bytes more than when it was

  private:
    struct Step {
        std::string name;
        ReleasePtr release;
        bool merged;
    };
    struct Go {
        size_t step;
    };
    struct Small {
        std::vector<uint8_t> png;
    };
    struct Save {
        ReleasePtr release;
        SavedAs as;
    };
    struct Secure {
        std::filesystem::path file;
        ReleasePtr release;
    };
    struct Left {};
    using Deed = std::variant<Step, Go, Small, Save, Secure, Left>;

    void put(Deed deed);
    void work(const std::stop_token& stop);
    [[nodiscard]] Result<void> writeSome(std::deque<Deed>& deeds);
    [[nodiscard]] Result<void> addDeeds(const std::deque<Deed>& deeds);
    [[nodiscard]] Result<void> writeAnew();
    void secureChanged(std::vector<uint8_t>& out);
    bool canTell(const std::deque<Deed>& deeds) const;
    void take(const Deed& deed);
    void tell(const Result<void>& written);
    void add(const Deed& deed, std::vector<uint8_t>& out);
    ToldStep told(const HistoryStep& step, NodeWriter& nodes, std::vector<uint8_t>& out);
    Json savedNow(NodeWriter& nodes, std::vector<uint8_t>& out);
    std::optional<PictureSpot> spotOf(const Source& source);

    std::filesystem::path folder_;
    Told tell_;

    // The writer's own.
    std::optional<AppendFile> file_;
    std::optional<AppendFile::Lock> lock_;
    size_t end_ = 0; ///< of what is whole
    NodeWriter nodes_;
    JournalStart state_;        ///< as far as it has been taken
    ptrdiff_t firstStep_ = 0;   ///< of the history: the one that the journal counts from
    size_t endStep_ = SIZE_MAX; ///< of the history: the one behind those that it tells
    size_t anewAt_ = 0;         ///< bytes when it was last written anew
    bool isBehind_ = false;     ///< of the state: only writing it anew helps
    bool isLeft_ = false;
    bool isTroubled_ = false;
    std::vector<uint8_t> miniature_;

    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    std::deque<Deed> deeds_;
    bool hurry_ = false, failed_ = false, isIdle_ = true;
    std::filesystem::path path_;
    std::map<std::string, std::filesystem::path> elsewhere_; ///< by source
    std::optional<std::filesystem::path> saving_;            ///< file that is about to be replaced
    std::jthread worker_;
};

} // namespace glyptos
