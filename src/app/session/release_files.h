// Releases on their way to and from their files, in the background.
#pragma once

#include "app/session/document.h"
#include "file/project.h"

#include <QFutureWatcher>
#include <QPointer>
#include <deque>
#include <map>

namespace glyptos {

class Engine;
class FontShelf;

class ReleaseFiles : public QObject {
    Q_OBJECT
  public:
    /// What is needed to set a release's words is read with it, onto `fonts`.
    ReleaseFiles(FormList forms, Engine& engine, FontShelf& fonts, QObject* parent = nullptr);
    /// Waits for what is running, and writes what is queued.
    ~ReleaseFiles() override;

    /// Reads a release; `left` is the one that is let go for it. Of several the last one counts.
    void open(const QString& file, ReleasePtr left);
    /// Writes a document's release as it is now; beside its file, where that was changed by somebody else. It
    /// belongs to that document, also when another is open by then; saves wait for each other, and one that
    /// has not begun is overtaken by a newer one of the same.
    void save(Document& document, const QString& file);
    /// Stops the running save: the file stays as it was.
    void cancelSave() { cancel_ = true; }
    /// Called on another thread when a release has been written and is about to take its file's place.
    using BeforeTake = std::function<void(const std::filesystem::path& file, const ReleasePtr& release)>;
    void setBeforeTake(BeforeTake act) { beforeTake_ = std::move(act); }
    /// The stamp of a file as it was opened or written here.
    std::optional<FileStamp> knownAt(const QString& file) const;
    void know(const QString& file, const std::optional<FileStamp>& stamp);
    bool isSaving() const { return !saves_.empty(); }
    bool isBusy() const { return isSaving() || opener_.isRunning(); }
    /// Whether the document's release as it is now is on its way to its file.
    bool covers(const Document& document) const;

  Q_SIGNALS:
    void opened(const glyptos::ReleasePtr& release, const QString& file, const glyptos::ReleasePtr& left);
    void saved(const QString& file);
    void progressed(double share);        ///< of the running save, 0…1
    void failed(const QString& sentence); ///< to open or to save
    void told(const QString& sentence);   ///< what there is to say about a save that was good
    /// The last save has ended; `good` says whether it could be written.
    void allSaved(bool good);

  private:
    struct Saving {
        QPointer<Document> document;
        ReleasePtr release;
        QString file;
    };
    struct Opening {
        QString file;
        ReleasePtr left;
    };
    struct Opened {
        ReleasePtr release;
        std::optional<FileStamp> stamp; ///< of the file before it was read
    };
    void beginSave();
    void endSave();
    void endOpen();
    Result<Saved> write(const Saving& saving, const std::optional<FileStamp>& known);
    FormList forms_;
    Engine& engine_;
    FontShelf& fonts_;
    BeforeTake beforeTake_;
    std::atomic<bool> cancel_ = false;
    QFutureWatcher<Result<Opened>> opener_;
    QFutureWatcher<Result<Saved>> saver_;
    Opening opening_;
    std::deque<Saving> saves_;           ///< the first one is running
    std::map<QString, FileStamp> known_; ///< files as they were opened or written here
};

} // namespace glyptos
