#include "app/session/import_queue.h"

#include "app/session/background.h"
#include "base/text.h"

namespace glyptos {
namespace {

using What = decltype(Arrival::what);

What readWhat(const std::filesystem::path& file, const std::atomic<bool>* cancel) {
    try {
        if (isFontFile(file)) return What(importFont(file));
        return isOpenRaster(file) ? What(readOpenRaster(file, cancel)) : What(importPicture(file));
    } catch (const std::bad_alloc&) {
        return fail(Fault::TooLarge,
                    "“" + nameOf(file) +
                        "” was not brought in: there is not enough memory for it. Close what "
                        "you do not need, or lower the share of memory in Preferences, and "
                        "try again.");
    }
}

Arrival readFile(const QString& name, const std::atomic<bool>* cancel) {
    const std::filesystem::path file = name.toStdString();
    return {nameOf(file), caught([&] { return readWhat(file, cancel); })};
}

} // namespace

ImportQueue::ImportQueue(QObject* parent)
    : QObject(parent) {
    connect(&watcher_, &QFutureWatcherBase::finished, this, &ImportQueue::take);
}

ImportQueue::~ImportQueue() {
    cancel_ = true;
    watcher_.waitForFinished();
}

void ImportQueue::read(ImportBatch batch) {
    batches_.push_back(std::move(batch));
    if (batches_.size() == 1) readNext();
}

void ImportQueue::cancel() {
    if (!isRunning()) return;
    cancel_ = true;
    batches_.erase(batches_.begin() + 1, batches_.end());
}

void ImportQueue::readNext() {
    cancel_ = false;
    watcher_.setFuture(inBackground([files = batches_.front().files, cancel = &cancel_] {
        std::vector<Arrival> out;
        for (const QString& name : files) {
            if (*cancel) break;
            out.push_back(readFile(name, cancel));
        }
        return out;
    }));
}

void ImportQueue::take() {
    Q_EMIT arrived({batches_.front(), watcher_.future().result(), cancel_});
    batches_.pop_front();
    if (isRunning()) readNext();
}

} // namespace glyptos
