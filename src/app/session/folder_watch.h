// Folders whose new files are told of, with all that is inside them. Lives on a thread of its own, since
// walking a large or far folder takes long.
#pragma once

#include <QObject>
#include <QStringList>
#include <QThread>
#include <memory>

namespace glyptos {

class FolderWatch : public QObject {
    Q_OBJECT
  public:
    explicit FolderWatch(QObject* parent = nullptr);
    ~FolderWatch() override;
    /// These and no others from now on; returns at once.
    void watch(const QStringList& folders);

  Q_SIGNALS:
    void touched(const QStringList& folders); ///< something in them is new, some time ago by now
    void gone(const QString& folder);         ///< one of those to be watched is not there

  private:
    class Walker;
    QThread thread_;
    std::unique_ptr<Walker> walker_; ///< lives on thread_
};

} // namespace glyptos
