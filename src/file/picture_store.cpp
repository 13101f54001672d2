#include "file/picture_store.h"

#include "file/data_folder.h"
#include "file/picture_reader.h"

#include <algorithm>
#include <cmath>
#include <tbb/task_arena.h>

namespace glyptos {
namespace {

constexpr double kLargestDrawing = 8192; // px on the longer side

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
    const bool drawing = source.format == "svg";
    return {source.id, source.name, source.bytes, 1, drawing ? drawingScaleFor(source, scale) : 0};
}

bool PictureStore::satisfied(const Entry& entry, const Job& job) const {
    return entry.failed || (entry.pyramid && entry.reduce == 1 && entry.drawingScale >= job.drawingScale);
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
    entry.used = ++clock_;
    while (bytes_ > budget_) {
        auto oldest = entries_.end();
        for (auto it = entries_.begin(); it != entries_.end(); ++it)
            if (it->second.pyramid && it->first != job.id &&
                (oldest == entries_.end() || it->second.used < oldest->second.used))
                oldest = it;
        if (oldest == entries_.end()) return;
        bytes_ -= oldest->second.pyramid->bytes();
        entries_.erase(oldest);
    }
}

PyramidPtr PictureStore::picture(const Source& source, double scale) {
    Job job = jobFor(source, scale);
    const auto known = [&]() -> std::optional<PyramidPtr> {
        const std::lock_guard lock(mutex_);
        Entry& entry = entries_[source.id];
        entry.used = ++clock_;
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
    put({source.id, source.name, source.bytes, reduce, 0}, std::move(look));
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
