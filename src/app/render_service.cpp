#include "app/render_service.h"

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
    if (!progress_.contains(requester))
        connect(requester, &QObject::destroyed, this, [this](QObject* gone) { progress_.erase(gone); });
    const bool starved = Clock::now() - progress_[requester].when > kLongestStill;
    const std::lock_guard lock(mutex_);
    jobs_[requester] = {urgency, ++counter_, std::move(scene), region, std::move(done)};
    if (rendering_ == requester && !starved) cancel_ = true;
    wake_.notify_one();
}

bool RenderService::busy() const {
    const std::lock_guard lock(mutex_);
    return rendering_ || !jobs_.empty();
}

void RenderService::work(const std::stop_token& stop) {
    while (!stop.stop_requested()) {
        Job job;
        QObject* requester = nullptr;
        {
            std::unique_lock lock(mutex_);
            rendering_ = nullptr;
            if (!wake_.wait(lock, stop, [&] { return !jobs_.empty(); })) return;
            const auto next = std::min_element(jobs_.begin(), jobs_.end(), [](const auto& a, const auto& b) {
                return std::pair(a.second.urgency, a.second.number) <
                       std::pair(b.second.urgency, b.second.number);
            });
            requester = next->first;
            job = std::move(next->second);
            jobs_.erase(next);
            rendering_ = requester;
            cancel_ = false;
        }
        QImage image = renderImage(engine_.renderer, job.scene, job.region, &cancel_);
        if (cancel_ || stop.stop_requested()) continue;
        QMetaObject::invokeMethod(
            this,
            [this, requester, number = job.number, image = std::move(image),
             done = std::move(job.done)]() mutable {
                const auto progress = progress_.find(requester);
                if (progress == progress_.end() || number < progress->second.delivered) return;
                progress->second = {number, Clock::now()};
                done(std::move(image));
            },
            Qt::QueuedConnection);
    }
}

} // namespace glyptos
