#include "app/session/application.h"

#include "base/error.h"

#include <QDateTime>
#include <QLabel>

namespace glyptos {
namespace {

constexpr qint64 kQuiet = 10'000; // ms in which the same sentence is not said again

} // namespace

bool Application::notify(QObject* receiver, QEvent* event) {
    // Names of files and layers are words, whatever marks stand in them.
    if (event->type() == QEvent::Polish)
        if (auto* label = qobject_cast<QLabel*>(receiver); label && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
    try {
        return QApplication::notify(receiver, event);
    } catch (const std::exception& e) {
        tell(&e);
    } catch (...) {
        tell(nullptr);
    }
    return false;
}

void Application::tell(const std::exception* what) {
    const QString sentence = QString::fromStdString(failedInside(what).value().message);
    const qint64 now = QDateTime::currentMSecsSinceEpoch();
    if (sentence == told_ && now - toldAt_ < kQuiet) return;
    told_ = sentence;
    toldAt_ = now;
    QMetaObject::invokeMethod(
        this, [this, sentence] { Q_EMIT failed(sentence); }, Qt::QueuedConnection);
}

} // namespace glyptos
