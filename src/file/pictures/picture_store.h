// Decoded pictures of the sources in use, made on demand and kept under a memory limit. When they would take
// more, levels finer than what was lately asked for are let go first, then pictures that have not been asked
// for lately, the longest ago first. When that is not enough, a picture decoded in the background is kept as
// fine as fits, and tried again later; one that is waited for is always as fine as asked for.
#pragma once

#include "base/error.h"
#include "render/picture_provider.h"

#include <chrono>
#include <condition_variable>
#include <deque>
#include <filesystem>
#include <functional>
#include <map>
#include <mutex>
#include <set>
#include <thread>

namespace glyptos {

/// Memory for pictures while a file is written.
inline constexpr size_t kExportBudget = size_t(640) << 20;

class PictureStore : public PictureProvider {
  public:
    /// Called, from another thread, when a better picture of a source has become available.
    using Ready = std::function<void(const std::string& source)>;

    /// Without `ready`, picture() decodes before it returns. With it, picture() returns at once what is there
    /// (nothing at first, then a coarse one, then the full one) and decodes on a thread of its own.
    explicit PictureStore(size_t budgetBytes = kExportBudget, Ready ready = {});
    ~PictureStore() override;

    PyramidPtr picture(const Source& source, double scale) override;
    std::vector<MissingPicture> missing() const override;
    /// Takes over a first look at a picture just brought in, so that it need not be decoded again.
    void offer(const Source& source, PyramidPtr look, int reduce);
    /// True while decodes are outstanding.
    bool busy() const;
    void setBudget(size_t bytes);
    /// Memory that pictures take, without what lies on disk.
    size_t bytes() const;
    /// Where pictures go that have no room in memory; the user's cache folder when none is set.
    void setSpillFolder(const std::filesystem::path& folder);

  private:
    struct Job {
        std::string id, name;
        PictureBytesPtr bytes;
        int width = 0, height = 0; ///< of the picture, upright
        int reduce = 1;
        double drawingScale = 1; ///< of drawings; 0 for pictures of pixels
        int level = 0;           ///< the finest that is needed
    };
    using Clock = std::chrono::steady_clock;
    struct Entry {
        PyramidPtr pyramid;
        int reduce = 0;            ///< of what is there; 0: nothing yet
        double drawingScale = 0;   ///< of what is there
        std::string trouble, name; ///< why it cannot be decoded; empty when it can
        bool onDisk = false;
        int level = 0;                  ///< finest that was lately asked for
        Clock::time_point levelAsked{}; ///< when that was
        Clock::time_point asked{};      ///< last time for any level
        Clock::time_point coarsened{};  ///< last time that it was kept less fine than asked for
    };

    Job jobFor(const Source& source, double scale) const;
    bool satisfied(const Entry& entry, const Job& job) const;
    [[nodiscard]] static Result<Picture> decodeSource(const Job& job);
    [[nodiscard]] static Result<PyramidPtr> decode(const Job& job);
    void put(const Job& job, Result<PyramidPtr> decoded);
    static void note(Entry& entry, const Job& job);
    void trim(const std::string& justPut);
    bool makeRoom(Entry& entry, PyramidPtr spilled, const std::string& justPut);
    void letGo(Entry& entry, int level);
    void coarsen(Entry& entry);
    static size_t inMemory(const Entry& entry) {
        return entry.pyramid && !entry.onDisk ? entry.pyramid->bytes() : 0;
    }
    std::map<std::string, Entry>::iterator longestAgo();
    void work(const std::stop_token& stop);

    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    // Blocking mode: few decodes at a time, each partly parallel in itself, and no picture twice.
    std::mutex decodingMutex_;
    std::condition_variable decoded_;
    std::set<std::string> decoding_; ///< by source
    std::map<std::string, Entry> entries_;
    std::deque<Job> jobs_;
    std::set<std::string> queued_;
    size_t budget_, bytes_ = 0;
    std::filesystem::path spill_;
    bool trimSoon_ = false; ///< by the worker: the disk is never waited for by who sets the budget
    Ready ready_;
    std::jthread worker_;
};

} // namespace glyptos
