#include "file/pictures/picture_store.h"

#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/xdg_folders.h"
#include "raster/disk_picture.h"
#include "raster/resample.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <tbb/task_arena.h>

namespace glyptos {
namespace {

constexpr double kLargestDrawing = 8192; // px on the longer side
constexpr std::chrono::seconds kLately{5}, kTryAgain{20};
constexpr int kLevels = 32;

/// Ours in the user's cache; the system's temporary folder when that cannot be made.
std::filesystem::path cacheFolder() {
    const std::filesystem::path folder = cacheHome() / "glyptos";
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    return failed ? std::filesystem::temp_directory_path(failed) : folder;
}

/// The power of two at or above `scale` at which a drawing is rendered, so that zooming does not redraw at
/// every step.
double drawingScaleFor(const Source& source, double scale) {
    const double most = kLargestDrawing / std::max(source.width, source.height);
    return std::min(std::exp2(std::ceil(std::log2(std::max(scale, 1.0 / 16)))), most);
}

} // namespace

PictureStore::PictureStore(size_t budgetBytes, Ready ready)
    : budget_(budgetBytes)
    , spill_(cacheFolder())
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
    Job job{source.id, source.name, source.bytes, source.width, source.height, 1, 0, 0};
    if (isDrawing(source.format)) job.drawingScale = drawingScaleFor(source, scale);
    job.level = levelFor(job.drawingScale > 0 ? scale / job.drawingScale : scale, kLevels);
    return job;
}

bool PictureStore::satisfied(const Entry& entry, const Job& job) const {
    if (!entry.trouble.empty()) return true;
    if (!entry.pyramid || entry.reduce != 1 || entry.drawingScale < job.drawingScale) return false;
    return entry.pyramid->firstLevel() <= std::min(job.level, entry.pyramid->levels() - 1) ||
           (ready_ && Clock::now() - entry.coarsened < kTryAgain);
}

/// What is in its file must be what the release says of it.
Result<Picture> PictureStore::decodeSource(const Job& job) {
    const auto left = [&](const std::string& why) {
        return fail(Fault::Damaged, "The picture “" + job.name + "” " + why + "; it was left out.");
    };
    const auto bytes = job.bytes->read();
    if (!bytes) return left("cannot be shown: " + bytes.error().message);
    if (job.drawingScale > 0)
        return decodePicture(**bytes, job.name, pressProfileBytes(), 1, job.drawingScale);
    const auto info = inspectPicture(**bytes, job.name);
    if (info && (info->width != job.width || info->height != job.height))
        return left("is not the one that it was saved with");
    return decodePicture(**bytes, job.name, pressProfileBytes(), job.reduce);
}

Result<PyramidPtr> PictureStore::decode(const Job& job) {
    return caught([&]() -> Result<PyramidPtr> {
        Result<PyramidPtr> made;
        // Isolated, so that a waiting thread does not pick up a render task that waits for this very decode.
        tbb::this_task_arena::isolate([&] {
            auto picture = decodeSource(job);
            if (picture)
                made = std::make_shared<const Pyramid>(std::move(*picture));
            else
                made = tl::unexpected(picture.error());
        });
        return made;
    });
}

void PictureStore::put(const Job& job, Result<PyramidPtr> decoded) {
    const std::lock_guard lock(mutex_);
    Entry& entry = entries_[job.id];
    bytes_ -= inMemory(entry);
    entry.trouble = decoded ? std::string() : decoded.error().message;
    entry.name = job.name;
    entry.reduce = job.reduce;
    entry.drawingScale = job.drawingScale;
    entry.pyramid = decoded ? std::move(*decoded) : nullptr;
    entry.onDisk = false;
    bytes_ += inMemory(entry);
}

std::vector<MissingPicture> PictureStore::missing() const {
    const std::lock_guard lock(mutex_);
    std::vector<MissingPicture> out;
    for (const auto& [id, entry] : entries_)
        if (!entry.trouble.empty()) out.push_back({id, entry.name, entry.trouble});
    return out;
}

void PictureStore::letGo(Entry& entry, int level) {
    if (!entry.pyramid || entry.onDisk || entry.pyramid->firstLevel() >= level) return;
    bytes_ -= inMemory(entry);
    entry.pyramid = std::make_shared<const Pyramid>(entry.pyramid->from(level));
    bytes_ += inMemory(entry);
}

/// Of those in memory that nobody holds.
std::map<std::string, PictureStore::Entry>::iterator PictureStore::longestAgo() {
    auto oldest = entries_.end();
    for (auto it = entries_.begin(); it != entries_.end(); ++it)
        if (inMemory(it->second) > 0 && it->second.pyramid.use_count() == 1 &&
            (oldest == entries_.end() || it->second.asked < oldest->second.asked))
            oldest = it;
    return oldest;
}

void PictureStore::coarsen(Entry& entry) {
    while (bytes_ > budget_ && entry.pyramid->firstLevel() + 1 < entry.pyramid->levels())
        letGo(entry, entry.pyramid->firstLevel() + 1);
    entry.coarsened = Clock::now();
}

/// Lets go of what has no room. Files are written without holding up those who ask for pictures.
void PictureStore::trim(const std::string& justPut) {
    while (true) {
        std::string id;
        PyramidPtr pyramid;
        std::filesystem::path folder;
        {
            const std::lock_guard lock(mutex_);
            if (bytes_ <= budget_) return;
            for (auto& [name, entry] : entries_) letGo(entry, entry.level);
            auto oldest = longestAgo();
            // While all are being drawn none of them gives memory back; the newest is not drawn yet.
            if (oldest == entries_.end()) oldest = entries_.find(justPut);
            if (bytes_ <= budget_ || oldest == entries_.end() || inMemory(oldest->second) == 0) return;
            id = oldest->first;
            pyramid = oldest->second.pyramid;
            folder = spill_;
        }
        auto written = onDisk(*pyramid, folder);
        PyramidPtr spilled = written ? std::make_shared<const Pyramid>(std::move(*written)) : nullptr;
        const std::lock_guard lock(mutex_);
        const auto now = entries_.find(id);
        if (now != entries_.end() && now->second.pyramid == pyramid &&
            !makeRoom(now->second, spilled, justPut))
            return;
    }
}

/// False when nothing more can be done. Without a file: in the background what was asked for lately is kept,
/// and the newest made to fit; elsewhere it is decoded again when it is needed.
bool PictureStore::makeRoom(Entry& entry, PyramidPtr spilled, const std::string& justPut) {
    if (!spilled) {
        const auto put = entries_.find(justPut);
        const bool hasNewest = put != entries_.end() && inMemory(put->second) > 0;
        const bool isNewest = hasNewest && &entry == &put->second;
        const bool inUse = ready_ && Clock::now() - entry.asked < kLately;
        if (ready_ && hasNewest && (isNewest || inUse)) return coarsen(put->second), false;
        if (isNewest) return false;
    }
    bytes_ -= inMemory(entry);
    entry.onDisk = bool(spilled);
    entry.pyramid = std::move(spilled);
    return true;
}

void PictureStore::setSpillFolder(const std::filesystem::path& folder) {
    const std::lock_guard lock(mutex_);
    spill_ = folder;
}

void PictureStore::setBudget(size_t bytes) {
    {
        const std::lock_guard lock(mutex_);
        budget_ = bytes;
        trimSoon_ = true;
        wake_.notify_all();
    }
    if (!ready_) trim({});
}

size_t PictureStore::bytes() const {
    const std::lock_guard lock(mutex_);
    return bytes_;
}

/// A thumbnail asks for a coarse level while the bench needs a fine one: the finest lately asked for counts.
void PictureStore::note(Entry& entry, const Job& job) {
    entry.asked = Clock::now();
    if (job.level > entry.level && entry.asked - entry.levelAsked < kLately) return;
    entry.level = job.level;
    entry.levelAsked = entry.asked;
}

PyramidPtr PictureStore::picture(const Source& source, double scale) {
    Job job = jobFor(source, scale);
    const auto known = [&]() -> std::optional<PyramidPtr> {
        const std::lock_guard lock(mutex_);
        Entry& entry = entries_[source.id];
        note(entry, job);
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
    constexpr size_t kAtOnce = 2; // each takes as much memory as its picture has pixels
    {
        std::unique_lock lock(decodingMutex_);
        decoded_.wait(lock, [&] { return decoding_.size() < kAtOnce && !decoding_.contains(job.id); });
        decoding_.insert(job.id);
    }
    const auto finished = [&](void*) {
        const std::lock_guard lock(decodingMutex_);
        decoding_.erase(job.id);
        decoded_.notify_all();
    };
    const std::unique_ptr<void, decltype(finished)> decoding(this, finished);
    if (auto there = known()) return *there;
    put(job, decode(job));
    trim(job.id);
    const std::lock_guard lock(mutex_);
    return entries_[job.id].pyramid;
}

void PictureStore::offer(const Source& source, PyramidPtr look, int reduce) {
    {
        const std::lock_guard lock(mutex_);
        if (entries_[source.id].pyramid) return;
    }
    put({source.id, source.name, source.bytes, source.width, source.height, reduce, 0, 0},
        Result<PyramidPtr>(std::move(look)));
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
            if (!wake_.wait(lock, stop, [&] { return !jobs_.empty() || trimSoon_; })) return;
            trimSoon_ = false;
            if (!jobs_.empty()) {
                job = std::move(jobs_.front());
                jobs_.pop_front();
            }
        }
        if (job.id.empty()) {
            trim({});
            continue;
        }
        put(job, decode(job));
        trim(job.id);
        if (job.reduce == 1) {
            const std::lock_guard lock(mutex_);
            queued_.erase(job.id);
        }
        ready_(job.id);
    }
}

} // namespace glyptos
