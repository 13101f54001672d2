// One long work at a time, off the window's thread: with progress, to be cancelled, its result wanted only as
// long as nothing else has been begun.
#pragma once

#include "app/session/background.h"

#include <QFutureWatcher>
#include <QObject>
#include <atomic>
#include <functional>
#include <memory>

namespace glyptos {

/// What work that is going on may look at and tell.
struct WorkControl {
    std::atomic<bool> cancel = false;
    std::function<void(double)> progress; ///< 0…1, from any thread
};

class LongWork : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;
    ~LongWork() override;

    /// Runs work(control) on another thread and calls done(result) on this one, unless it was cancelled,
    /// failed or followed by other work. `what` is shown while it goes on: "Cutting out Keeper".
    template <class Work, class Done>
    void start(const QString& what, Work work, Done done) {
        cancel();
        auto control = begin(what);
        using Outcome = typename AsResult<decltype(work(*control))>::Type;
        auto* watcher = new QFutureWatcher<Outcome>(this);
        ++running_;
        connect(watcher, &QFutureWatcher<Outcome>::finished, this, [this, watcher, control, done] {
            --running_;
            watcher->deleteLater();
            const bool wanted = end(control);
            const Outcome outcome = watcher->result();
            if (!wanted) return;
            if (outcome)
                done(*outcome);
            else if (outcome.error().fault != Fault::Cancelled)
                Q_EMIT failed(QString::fromStdString(outcome.error().message));
        });
        watcher->setFuture(
            inBackground([work = std::move(work), control]() mutable { return work(*control); }));
    }
    /// Nothing of it is kept. False when nothing was going on.
    bool cancel();
    bool isGoingOn() const { return control_ != nullptr; }
    /// "Cutting out Keeper: 40 %. Esc stops it."; empty when nothing goes on.
    QString words() const;

  Q_SIGNALS:
    void changed(); ///< begun, got on or ended
    void failed(const QString& sentence);

  private:
    std::shared_ptr<WorkControl> begin(const QString& what);
    bool end(const std::shared_ptr<WorkControl>& control);

    std::shared_ptr<WorkControl> control_;
    QString what_;
    double progress_ = 0;
    int running_ = 0; ///< cancelled ones included
};

} // namespace glyptos
