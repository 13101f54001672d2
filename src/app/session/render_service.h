// Pictures for widgets, rendered on other threads. The main thread only paints what is finished.
#pragma once

#include "base/error.h"
#include "render/scene.h"

#include <QImage>
#include <QObject>
#include <atomic>
#include <chrono>
#include <condition_variable>
#include <functional>
#include <map>
#include <mutex>
#include <thread>

namespace glyptos {

class Engine;
class Renderer;

/// Renders scenes in the order of their urgency. A new request of the same requester replaces its old one and
/// stops it, but while requests keep coming, one is let finish every tenth of a second, so that a drag always
/// shows where it is.
class RenderService : public QObject {
    Q_OBJECT
  public:
    explicit RenderService(Engine& engine, QObject* parent = nullptr);
    ~RenderService() override;

    /// Renders `region` of `scene` and calls `done` with it on the main thread, unless it was stopped or the
    /// `requester` is gone by then. Smaller `urgency` goes first.
    void request(QObject* requester, int urgency, Scene scene, IntRect region,
                 std::function<void(QImage)> done);
    bool busy() const;

  Q_SIGNALS:
    void failed(const QString& sentence); ///< a picture could not be rendered

  private:
    using Ticket = uint64_t;
    struct Job {
        QObject* requester =
            nullptr; ///< compared by its ticket, since another may live at its address by now
        int urgency = 0;
        uint64_t number = 0;
        Scene scene;
        IntRect region;
        std::function<void(QImage)> done;
    };
    using Clock = std::chrono::steady_clock;
    /// Of a requester that is there. Its ticket never comes twice.
    struct Progress {
        Ticket ticket = 0;
        uint64_t delivered = 0;   ///< number of the newest request that was handed over
        Clock::time_point when{}; ///< that was
    };
    void work(const std::stop_token& stop);
    void forget(QObject* requester);
    void deliver(Ticket ticket, const Job& job, Result<QImage> image);

    Engine& engine_;
    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    std::map<Ticket, Job> jobs_;
    Ticket rendering_ = 0;
    std::atomic<bool> cancel_ = false;
    uint64_t counter_ = 0;                  ///< of tickets and requests
    std::map<QObject*, Progress> progress_; ///< main thread only
    std::jthread worker_;
};

/// A QImage over the renderer's bytes.
QImage renderImage(Renderer& renderer, const Scene& scene, const IntRect& region,
                   const std::atomic<bool>* cancel = nullptr);

} // namespace glyptos
