// Files on their way in: read on another thread, batch after batch, each for the panel it was meant for.
#pragma once

#include "app/session/document.h"
#include "file/font_files.h"
#include "file/open_raster.h"
#include "file/pictures/picture_reader.h"

#include <QFutureWatcher>
#include <QPointer>
#include <QStringList>
#include <atomic>
#include <deque>
#include <variant>

namespace glyptos {

/// What files are brought in for.
enum class ImportPurpose : unsigned char { Layers, Replacement, Reference };

/// Files asked for together, and what they were asked for.
struct ImportBatch {
    QStringList files;
    ImportPurpose purpose = ImportPurpose::Layers;
    PanelRef target;
    std::optional<Vec2> at{};      ///< panel units, where the first one goes; nothing for the middle
    std::string replaced{};        ///< layer that gets the picture
    QPointer<Document> document{}; ///< that was open then
};

struct Arrival {
    std::string name; ///< of the file
    Result<std::variant<Imported, OpenRaster, ImportedFont>> what;
};

/// What has been read of a batch: all of it, or as much as there was until it was cancelled.
struct ImportAnswer {
    ImportBatch batch;
    Result<std::vector<Arrival>> arrivals;
    bool cancelled = false;
};

class ImportQueue : public QObject {
    Q_OBJECT
  public:
    explicit ImportQueue(QObject* parent = nullptr);
    ~ImportQueue() override;
    void read(ImportBatch batch);
    bool isRunning() const { return !batches_.empty(); }
    /// Stops reading; what has not arrived yet is left out.
    void cancel();

  Q_SIGNALS:
    /// A batch has been read. The next one is begun once all that listen have taken it.
    void arrived(const glyptos::ImportAnswer& answer);

  private:
    void readNext();
    void take();
    std::deque<ImportBatch> batches_; ///< the first one is being read
    std::atomic<bool> cancel_ = false;
    QFutureWatcher<Result<std::vector<Arrival>>> watcher_;
};

} // namespace glyptos
