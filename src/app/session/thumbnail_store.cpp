#include "app/session/thumbnail_store.h"

#include "crate/indexing.h"
#include "crate/thumbnails.h"

namespace glyptos {
namespace {

constexpr int kKept = 160 << 10; // KiB of images
constexpr size_t kMostWaiting = 600;

/// From where all programs keep them, or made and put there.
QImage smallPicture(const CrateEntry& entry, const std::filesystem::path& file) {
    if (auto kept = readThumbnail(file, entry.modified)) return *kept;
    const auto examined = examineFile(file);
    if (!examined) return {};
    writeThumbnail(file, entry.modified, examined->thumbnail);
    return examined->thumbnail;
}

} // namespace

ThumbnailStore::ThumbnailStore(QObject* parent)
    : QObject(parent)
    , images_(kKept) {
    pool_.setMaxThreadCount(2);
}

ThumbnailStore::~ThumbnailStore() {
    {
        const std::scoped_lock guard(mutex_);
        jobs_.clear();
    }
    pool_.waitForDone();
}

QImage ThumbnailStore::get(const EntryPtr& entry, const std::filesystem::path& file) {
    const Kept* there = kept(entry, file);
    return there ? there->image : QImage();
}

QImage ThumbnailStore::fitted(const EntryPtr& entry, const std::filesystem::path& file) {
    const Kept* there = kept(entry, file);
    return there ? there->fitted : QImage();
}

void ThumbnailStore::setCell(QSize size) {
    {
        const std::scoped_lock guard(mutex_);
        if (size == cell_) return;
        cell_ = size;
    }
    images_.clear(); // made anew when asked for
}

const ThumbnailStore::Kept* ThumbnailStore::kept(const EntryPtr& entry, const std::filesystem::path& file) {
    const QString key = QString::fromStdString(entry->id);
    if (const Kept* there = images_.object(key)) return there;
    if (missing_.contains(entry->id) || !asked_.insert(entry->id).second) return nullptr;
    {
        const std::scoped_lock guard(mutex_);
        jobs_.push_back({entry, file});
        while (jobs_.size() > kMostWaiting) { // scrolled past long ago
            asked_.erase(jobs_.front().entry->id);
            jobs_.pop_front();
        }
    }
    pool_.start([this] { work(); });
    return nullptr;
}

void ThumbnailStore::work() {
    Job job;
    QSize cell;
    {
        const std::scoped_lock guard(mutex_);
        if (jobs_.empty()) return;
        cell = cell_;
        job = std::move(jobs_.back());
        jobs_.pop_back();
    }
    QImage image = caught([&] { return smallPicture(*job.entry, job.file); }).value_or(QImage());
    if (!image.isNull())
        image = image.convertToFormat(image.hasAlphaChannel() ? QImage::Format_ARGB32_Premultiplied
                                                              : QImage::Format_RGB32);
    QImage fitted = image;
    if (!image.isNull() && cell.isValid())
        fitted = image.scaled(image.size().scaled(cell, Qt::KeepAspectRatio).boundedTo(image.size() * 2),
                              Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    QMetaObject::invokeMethod(
        this,
        [this, id = job.entry->id, image, fitted] {
            asked_.erase(id);
            if (image.isNull())
                missing_.insert(id);
            else
                images_.insert(QString::fromStdString(id), new Kept{image, fitted},
                               int((image.sizeInBytes() + fitted.sizeInBytes()) >> 10));
            Q_EMIT arrived();
        },
        Qt::QueuedConnection);
}

} // namespace glyptos
