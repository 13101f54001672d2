#include "app/session/long_work.h"

#include <cmath>

namespace glyptos {

LongWork::~LongWork() {
    cancel();
    for (QFutureWatcherBase* watcher : findChildren<QFutureWatcherBase*>()) watcher->waitForFinished();
}

std::shared_ptr<WorkControl> LongWork::begin(const QString& what) {
    auto control = std::make_shared<WorkControl>();
    control->progress = [this, ticket = std::weak_ptr(control)](double how) {
        QMetaObject::invokeMethod(this, [this, ticket, how] {
            if (ticket.lock() != control_ || !control_) return;
            progress_ = how;
            Q_EMIT changed();
        });
    };
    control_ = control;
    what_ = what;
    progress_ = 0;
    Q_EMIT changed();
    return control;
}

bool LongWork::end(const std::shared_ptr<WorkControl>& control) {
    if (control != control_) return false;
    control_ = nullptr;
    Q_EMIT changed();
    return true;
}

bool LongWork::cancel() {
    if (!control_) return false;
    control_->cancel = true;
    control_ = nullptr;
    Q_EMIT changed();
    return true;
}

QString LongWork::words() const {
    if (!control_) return {};
    const int percent = int(std::lround(progress_ * 100));
    return percent > 0 ? tr("%1: %2 %. Esc stops it.").arg(what_).arg(percent)
                       : tr("%1… Esc stops it.").arg(what_);
}

} // namespace glyptos
