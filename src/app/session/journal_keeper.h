// Has the open release written down as it is worked on, and finds what was written down before.
#pragma once

#include "app/session/document.h"
#include "file/journal/journals.h"

#include <QFuture>
#include <QImage>
#include <QPointer>

namespace glyptos {

class JournalKeeper : public QObject {
    Q_OBJECT
  public:
    explicit JournalKeeper(FormList forms, std::filesystem::path folder = journalsFolder(),
                           QObject* parent = nullptr);
    /// Waits until all is written.
    ~JournalKeeper() override;

    /// Follows a document from now on, until another is followed; `stamp` is that of its file as it was
    /// opened. Its earlier history is looked for and given back to it.
    void follow(Document& document, const std::optional<FileStamp>& stamp);
    /// Follows one that was taken up from a journal, which goes on being that.
    void followFound(Document& document, OpenJournal journal, const std::optional<SavedAs>& as);
    /// The document was let go with what is not saved in it.
    void leave();
    /// Files outside of the release that hold a picture, by its id.
    using FileOf = std::function<std::optional<std::filesystem::path>(const std::string& source)>;
    void setFileOf(FileOf fileOf) { fileOf_ = std::move(fileOf); }

    /// What the release shows now, small.
    void setMiniature(const QImage& image);
    /// From any thread, before a save takes its place; waits for the disk.
    void secureBefore(const std::filesystem::path& file, const ReleasePtr& release);
    void saveEnded();
    /// The document has been saved, and that is its file's stamp.
    void saved(const Document& document, const std::optional<FileStamp>& stamp);

    /// Looks in the background for what was not saved; found() answers. `all`: also what was left.
    void lookForLost(bool all);
    /// Reads one in the background; readBack() answers, or told().
    void takeUp(const std::filesystem::path& journal);
    /// It was looked at and left, or is to be removed.
    void leaveFound(const std::filesystem::path& journal);
    void discardFound(const std::filesystem::path& journal);

    bool isBusy() const { return works_ > 0; }
    /// Waits until all that was done is on the disk. For tests; false when it could not be written.
    bool flush();

  Q_SIGNALS:
    void found(const std::vector<glyptos::JournalSummary>& lost);
    void readBack(const std::shared_ptr<glyptos::JournalContents>& contents);
    void told(const QString& sentence);
    /// The document's file has a journal with work that is not saved.
    void hasUnsaved(const glyptos::JournalSummary& journal);

  private:
    struct Past {
        std::optional<JournalSummary> summary;
        std::shared_ptr<JournalContents> contents; ///< when it is of the file as it is
    };
    template <class Work, class Done>
    void inBackgroundThen(Work work, Done done);
    void end();
    void takePast(const Past& past);
    void goOnWith(JournalContents past);
    std::shared_ptr<JournalWriter> setWriter(std::shared_ptr<JournalWriter> writer);
    void begin(std::shared_ptr<JournalWriter> writer);
    JournalState start() const;
    JournalWriter::Told teller();
    void tellFiles();
    std::shared_ptr<JournalWriter> writer() const;

    FormList forms_;
    std::filesystem::path folder_;
    FileOf fileOf_;
    QPointer<Document> document_;
    std::optional<SavedAs> as_; ///< of the document
    mutable std::mutex mutex_;
    std::shared_ptr<JournalWriter> writer_; ///< guarded by mutex_; changed on this thread alone
    std::set<std::string> known_;           ///< pictures whose files have been told
    QFuture<void> ending_;                  ///< the writers before write what they have
    int works_ = 0;
    uint64_t followed_ = 0; ///< counts documents
};

} // namespace glyptos
