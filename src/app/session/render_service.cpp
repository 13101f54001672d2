#include "app/session/render_service.h"

#include "app/session/engine.h"

#include <algorithm>
#include <cstring>

namespace glyptos {
namespace {

constexpr std::chrono::milliseconds kLongestStill{100};

} // namespace

QImage renderImage(Renderer& renderer, const Scene& scene, const IntRect& region,
                   const std::atomic<bool>* cancel) {
    if (region.empty()) return {};
    auto bytes = std::make_unique<Buffer<uint8_t>>(renderer.renderBgra8(scene, region, cancel));
    const uint8_t* data = bytes->data();
    return QImage(
        data, region.w, region.h, qsizetype(region.w) * 4, QImage::Format_ARGB32_Premultiplied,
        [](void* b) { std::unique_ptr<Buffer<uint8_t>>(static_cast<Buffer<uint8_t>*>(b)); }, bytes.release());
}

RenderService::RenderService(Engine& engine, QObject* parent)
    : QObject(parent)
    , engine_(engine) {
    worker_ = std::jthread([this](const std::stop_token& stop) { work(stop); });
}

RenderService::~RenderService() {
    cancel_ = true;
    worker_.request_stop();
    wake_.notify_all();
    worker_.join();
}

void RenderService::request(QObject* requester, int urgency, Scene scene, IntRect region,
                            std::function<void(QImage)> done) {
    Progress& progress = progress_[requester];
    const std::lock_guard lock(mutex_);
    if (progress.ticket == 0) {
        progress.ticket = ++counter_;
        connect(requester, &QObject::destroyed, this, &RenderService::forget);
    }
    const bool starved = Clock::now() - progress.when > kLongestStill;
    jobs_[progress.ticket] = {requester, urgency, ++counter_, std::move(scene), region, std::move(done)};
    if (rendering_ == progress.ticket && !starved) cancel_ = true;
    wake_.notify_one();
}

void RenderService::forget(QObject* requester) {
    const auto gone = progress_.find(requester);
    if (gone == progress_.end()) return;
    const std::lock_guard lock(mutex_);
    jobs_.erase(gone->second.ticket);
    if (rendering_ == gone->second.ticket) cancel_ = true;
    progress_.erase(gone);
}

bool RenderService::busy() const {
    const std::lock_guard lock(mutex_);
    return rendering_ || !jobs_.empty();
}

void RenderService::deliver(Ticket ticket, const Job& job, Result<QImage> image) {
    const auto progress = progress_.find(job.requester);
    if (progress == progress_.end() || progress->second.ticket != ticket ||
        job.number < progress->second.delivered)
        return;
    progress->second.delivered = job.number, progress->second.when = Clock::now();
    if (!image) return Q_EMIT failed(QString::fromStdString(image.error().message));
    job.done(std::move(*image));
}

void RenderService::work(const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        Job job;
        Ticket ticket = 0;
        {
            std::unique_lock lock(mutex_);
            rendering_ = 0;
            if (!wake_.wait(lock, stop, [&] { return !jobs_.empty(); })) return;
            const auto next = std::min_element(jobs_.begin(), jobs_.end(), [](const auto& a, const auto& b) {
                return std::pair(a.second.urgency, a.second.number) <
                       std::pair(b.second.urgency, b.second.number);
            });
            rendering_ = ticket = next->first;
            job = std::move(next->second);
            jobs_.erase(next);
            cancel_ = false;
        }
        auto image = caught([&] { return renderImage(engine_.renderer, job.scene, job.region, &cancel_); });
        if (cancel_ || stop.stop_requested()) continue;
        QMetaObject::invokeMethod(
            this,
            [this, ticket, job = std::move(job), image = std::move(image)]() mutable {
                deliver(ticket, job, std::move(image));
            },
            Qt::QueuedConnection);
    }
}

} // namespace glyptos
