#include "file/picture_store.h"

#include "file/data_folder.h"
#include "file/picture_reader.h"
#include "raster/resample.h"

#include <algorithm>
#include <cmath>
#include <tbb/task_arena.h>

namespace glyptos {
namespace {

constexpr double kLargestDrawing = 8192; // px on the longer side
constexpr std::chrono::seconds kLately{5}, kTryAgain{20};
constexpr int kLevels = 32;

/// The power of two at or above `scale` at which a drawing is rendered, so that zooming does not redraw at
/// every step.
double drawingScaleFor(const Source& source, double scale) {
    const double most = kLargestDrawing / std::max(source.width, source.height);
    return std::min(std::exp2(std::ceil(std::log2(std::max(scale, 1.0 / 16)))), most);
}

} // namespace

PictureStore::PictureStore(size_t budgetBytes, Ready ready)
    : budget_(budgetBytes)
    , ready_(std::move(ready)) {
    if (ready_) worker_ = std::jthread([this](const std::stop_token& stop) { work(stop); });
}

PictureStore::~PictureStore() {
    if (worker_.joinable()) {
        worker_.request_stop();
        wake_.notify_all();
    }
}

PictureStore::Job PictureStore::jobFor(const Source& source, double scale) const {
    Job job{source.id, source.name, source.bytes, 1, 0, 0};
    if (source.format == "svg") job.drawingScale = drawingScaleFor(source, scale);
    job.level = levelFor(job.drawingScale > 0 ? scale / job.drawingScale : scale, kLevels);
    return job;
}

bool PictureStore::satisfied(const Entry& entry, const Job& job) const {
    if (entry.failed) return true;
    if (!entry.pyramid || entry.reduce != 1 || entry.drawingScale < job.drawingScale) return false;
    return entry.pyramid->firstLevel() <= std::min(job.level, entry.pyramid->levels() - 1) ||
           (ready_ && Clock::now() - entry.coarsened < kTryAgain);
}

PyramidPtr PictureStore::decode(const Job& job) {
    PyramidPtr made;
    // Isolated, so that a waiting thread does not pick up a render task that waits for this very decode.
    tbb::this_task_arena::isolate([&] {
        auto picture = decodePicture(*job.bytes, job.name, pressProfileBytes(), job.reduce,
                                     job.drawingScale > 0 ? job.drawingScale : 1);
        if (picture) made = std::make_shared<const Pyramid>(std::move(*picture));
    });
    return made;
}

void PictureStore::put(const Job& job, PyramidPtr pyramid) {
    const std::lock_guard lock(mutex_);
    Entry& entry = entries_[job.id];
    if (entry.pyramid) bytes_ -= entry.pyramid->bytes();
    entry.failed = !pyramid;
    entry.reduce = job.reduce;
    entry.drawingScale = job.drawingScale;
    if (pyramid) bytes_ += pyramid->bytes();
    entry.pyramid = std::move(pyramid);
    shrink(job.id);
}

void PictureStore::letGo(Entry& entry, int level) {
    if (!entry.pyramid || entry.pyramid->firstLevel() >= level) return;
    bytes_ -= entry.pyramid->bytes();
    entry.pyramid = std::make_shared<const Pyramid>(entry.pyramid->from(level));
    bytes_ += entry.pyramid->bytes();
}

std::map<std::string, PictureStore::Entry>::iterator PictureStore::longestAgo(const std::string& but) {
    auto oldest = entries_.end();
    for (auto it = entries_.begin(); it != entries_.end(); ++it)
        if (it->second.pyramid && it->first != but &&
            (oldest == entries_.end() || it->second.asked < oldest->second.asked))
            oldest = it;
    return oldest;
}

void PictureStore::shrink(const std::string& justPut) {
    if (bytes_ <= budget_) return;
    for (auto& [id, entry] : entries_) letGo(entry, entry.level);
    while (bytes_ > budget_) {
        const auto oldest = longestAgo(justPut);
        if (oldest == entries_.end() || (ready_ && Clock::now() - oldest->second.asked < kLately)) break;
        bytes_ -= oldest->second.pyramid->bytes();
        entries_.erase(oldest);
    }
    const auto put = entries_.find(justPut);
    if (!ready_ || put == entries_.end() || !put->second.pyramid) return;
    Entry& entry = put->second;
    while (bytes_ > budget_ && entry.pyramid->firstLevel() + 1 < entry.pyramid->levels()) {
        letGo(entry, entry.pyramid->firstLevel() + 1);
        entry.coarsened = Clock::now();
    }
}

void PictureStore::setBudget(size_t bytes) {
    const std::lock_guard lock(mutex_);
    budget_ = bytes;
    shrink({});
}

size_t PictureStore::bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
}

PyramidPtr PictureStore::picture(const Source& source, double scale) {
    Job job = jobFor(source, scale);
    const auto known = [&]() -> std::optional<PyramidPtr> {
        const std::lock_guard lock(mutex_);
        Entry& entry = entries_[source.id];
        entry.asked = Clock::now();
        entry.level = job.level;
        if (satisfied(entry, job)) return entry.pyramid;
        if (!ready_) return std::nullopt;
        if (queued_.insert(source.id).second) {
            const bool first = !entry.pyramid && source.format == "jpeg";
            if (first) {
                Job coarse = job;
                coarse.reduce = kLookReduction;
                jobs_.push_front(coarse);
            }
            jobs_.push_back(job);
            wake_.notify_one();
        }
        return entry.pyramid;
    };
    if (auto there = known()) return *there;
    const std::lock_guard one(decodeOnce_);
    if (auto there = known()) return *there;
    PyramidPtr made = decode(job);
    put(job, made);
    return made;
}

void PictureStore::offer(const Source& source, PyramidPtr look, int reduce) {
    {
        const std::lock_guard lock(mutex_);
        if (entries_[source.id].pyramid) return;
    }
    put({source.id, source.name, source.bytes, reduce, 0, 0}, std::move(look));
}

bool PictureStore::busy() const {
    const std::lock_guard lock(mutex_);
    return !queued_.empty();
}

void PictureStore::work(const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        Job job;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [&] { return !jobs_.empty(); })) return;
            job = std::move(jobs_.front());
            jobs_.pop_front();
        }
        put(job, decode(job));
        if (job.reduce == 1) {
            const std::lock_guard lock(mutex_);
            queued_.erase(job.id);
        }
        ready_(job.id);
    }
}

} // namespace glyptos
