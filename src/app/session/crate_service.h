// The crate and the stock drawer as the window sees them: asked on the main thread, worked on others.
#pragma once

#include "app/session/folder_watch.h"
#include "crate/agency.h"
#include "crate/crate.h"

#include <QImage>
#include <QObject>
#include <QStringList>
#include <QThreadPool>
#include <QTimer>
#include <atomic>

namespace glyptos {

class CrateService : public QObject {
    Q_OBJECT
  public:
    CrateService(std::filesystem::path crate, std::filesystem::path drawer, QObject* parent = nullptr);
    ~CrateService() override;

    /// What is in the crate; nothing until it is open.
    ShelfPtr shelf() const;
    EntryPtr entry(const std::string& id) const;
    /// Of an entry of the crate or of the agency.
    std::filesystem::path fileOf(const CrateEntry& entry) const;
    /// What is known of a source, when the crate has it.
    std::optional<SourceFacts> facts(const std::string& id) const;
    std::set<std::string> watched() const;
    /// Something is being opened, added, searched or fetched.
    bool busy() const { return jobs_ > 0; }
    bool isAdding() const { return adding_ > 0; }

    /// Adds files and folders; progressed() and added() tell of it.
    void add(const QStringList& paths);
    void addImage(const QImage& image, const QString& name);
    void cancelAdding() { cancelAdd_ = true; }
    void change(const std::string& id, const SourceFacts& facts);
    void remove(const std::vector<std::string>& ids);
    void setWatched(const QString& folder, bool watched);

    /// Searches; only the newest search is answered, by found().
    void find(const QString& words, const CrateQuery& query, const std::set<std::string>& used);

    /// The agency behind the drawer; nothing when it is not installed.
    const Agency* agency() const { return agency_.get(); }
    void setLine(AgencyLine line);
    void findInDrawer(const QString& words, const CrateQuery& query);
    /// Takes a picture into the crate; took() or drawerFailed() answers.
    void take(const std::string& id);

  Q_SIGNALS:
    void opened();
    void changed(); ///< shelf() is another one
    void found(const glyptos::Found& found);
    void progressed(int done, int all);
    void added(const QString& report);
    void drawerFound(const glyptos::Found& found);
    void drawerFailed(const QString& sentence);
    void took(const QString& id);
    void told(const QString& sentence); ///< something went wrong

  private:
    /// Runs work in a pool and then `then` with what it gave, on the main thread.
    template <class Work, class Then>
    void run(QThreadPool& pool, Work work, Then then);
    void open();
    void addPaths(const QStringList& paths, bool again, bool tellAll);
    void tellOf(const Result<void>& done);
    void watchFolders();
    void sayClosed();

    std::filesystem::path crateFolder_, drawerFolder_;
    std::unique_ptr<Crate> crate_;
    std::unique_ptr<Agency> agency_;
    QThreadPool searching_, working_, fetching_;
    std::atomic<int> jobs_ = 0;
    int adding_ = 0;
    std::atomic<uint64_t> newest_ = 0, newestInDrawer_ = 0;
    std::atomic<bool> cancelAdd_ = false, closing_ = false;
    AgencyLine line_ = AgencyLine::Good;
    FolderWatch folders_;
    QStringList waiting_; ///< to be added once the crate is open
    bool closed_ = false; ///< the crate could not be opened
    QTimer companyTimer_;
};

} // namespace glyptos
