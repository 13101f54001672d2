#include "app/crate_service.h"

#include "crate/indexing.h"

#include <QBuffer>
#include <QDirIterator>

namespace glyptos {
namespace {

constexpr int kSettle = 1500, kCompany = 3000; // ms
constexpr int kMostWatched = 4000;             // folders

QString q(const std::string& s) {
    return QString::fromStdString(s);
}

std::vector<std::filesystem::path> asPaths(const QStringList& list) {
    std::vector<std::filesystem::path> out;
    for (const QString& s : list) out.emplace_back(s.toStdString());
    return out;
}

} // namespace

template <class Work, class Then>
void CrateService::run(QThreadPool& pool, Work work, Then then) {
    ++jobs_;
    pool.start([this, work = std::move(work), then = std::move(then)]() mutable {
        auto result = std::make_shared<decltype(work())>(work());
        QMetaObject::invokeMethod(
            this,
            [this, result, then = std::move(then)]() mutable {
                --jobs_;
                then(std::move(*result));
            },
            Qt::QueuedConnection);
    });
}

CrateService::CrateService(std::filesystem::path crate, std::filesystem::path drawer, QObject* parent)
    : QObject(parent)
    , crateFolder_(std::move(crate))
    , drawerFolder_(std::move(drawer)) {
    for (QThreadPool* pool : {&searching_, &working_, &fetching_}) pool->setMaxThreadCount(1);
    settleTimer_.setSingleShot(true);
    settleTimer_.setInterval(kSettle);
    connect(&settleTimer_, &QTimer::timeout, this, &CrateService::rescan);
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this](const QString& folder) {
        touched_.insert(folder);
        settleTimer_.start();
    });
    companyTimer_.setInterval(kCompany);
    connect(&companyTimer_, &QTimer::timeout, this, [this] {
        if (isAdding()) return;
        run(
            searching_, [this] { return crate_->refresh(); },
            [this](bool news) {
                if (news) Q_EMIT changed();
            });
    });
    open();
}

CrateService::~CrateService() {
    closing_ = cancelAdd_ = true;
    for (QThreadPool* pool : {&searching_, &working_, &fetching_}) {
        pool->clear();
        pool->waitForDone();
    }
}

void CrateService::open() {
    using Opened = std::pair<Result<std::unique_ptr<Crate>>, Result<std::unique_ptr<Agency>>>;
    run(
        working_,
        [this] {
            return Opened{Crate::open(crateFolder_), Agency::open(drawerFolder_)};
        },
        [this](Opened opened) {
            if (opened.second) {
                agency_ = std::move(*opened.second);
                agency_->setLine(line_);
            }
            if (!opened.first) {
                Q_EMIT told(q(opened.first.error().message));
                return Q_EMIT this->opened();
            }
            crate_ = std::move(*opened.first);
            for (const std::string& note : crate_->notes()) Q_EMIT told(q(note));
            companyTimer_.start();
            watchFolders();
            QStringList paths = std::exchange(waiting_, {});
            for (const std::string& folder : crate_->watched()) paths << q(folder);
            if (!paths.isEmpty()) addPaths(paths, false, false);
            Q_EMIT this->opened();
            Q_EMIT changed();
        });
}

ShelfPtr CrateService::shelf() const {
    static const ShelfPtr none = std::make_shared<const Shelf>();
    return crate_ ? crate_->shelf() : none;
}

EntryPtr CrateService::entry(const std::string& id) const {
    return shelf()->entry(id);
}

std::filesystem::path CrateService::fileOf(const CrateEntry& entry) const {
    if (agency_ && agency_->entry(entry.id).get() == &entry) return agency_->fileOf(entry);
    return crate_ ? crate_->fileOf(entry) : std::filesystem::path(entry.path);
}

std::optional<SourceFacts> CrateService::facts(const std::string& id) const {
    const EntryPtr found = entry(id);
    return found ? std::optional(found->facts) : std::nullopt;
}

std::set<std::string> CrateService::watched() const {
    return crate_ ? crate_->watched() : std::set<std::string>{};
}

void CrateService::add(const QStringList& paths) {
    if (crate_)
        addPaths(paths, false, true);
    else
        waiting_ << paths;
}

/// `again`: a second try for files that were still being copied; `tellAll`: also when nothing is new.
void CrateService::addPaths(const QStringList& paths, bool again, bool tellAll) {
    ++adding_;
    cancelAdd_ = false;
    run(
        working_,
        [this, paths] {
            return addFiles(
                *crate_, asPaths(paths),
                [this](size_t done, size_t all) {
                    QMetaObject::invokeMethod(
                        this, [=, this] { Q_EMIT progressed(int(done), int(all)); }, Qt::QueuedConnection);
                },
                &cancelAdd_);
        },
        [=, this](const Result<AddReport>& report) {
            --adding_;
            Q_EMIT changed();
            if (!report) return Q_EMIT told(q(report.error().message));
            if (!tellAll && !again && !report->troubles.empty() && !closing_) {
                QTimer::singleShot(2 * kSettle, this, [=, this] { addPaths(paths, true, false); });
                return;
            }
            QStringList says;
            if (report->added > 0 || tellAll)
                says << tr("Sources added: %1. There already: %2.").arg(report->added).arg(report->already);
            constexpr size_t kMostTold = 3;
            for (size_t i = 0; i < std::min(kMostTold, report->troubles.size()); ++i)
                says << q(report->troubles[i]);
            if (report->troubles.size() > kMostTold)
                says << tr("Files like that in all: %1.").arg(report->troubles.size());
            if (!report->troubles.empty()) Q_EMIT told(says.join(QLatin1Char(' ')));
            Q_EMIT added(says.join(QLatin1Char(' ')));
        });
}

void CrateService::addImage(const QImage& image, const QString& name) {
    if (!crate_) return Q_EMIT told(tr("The crate is not open; the picture was not added."));
    ++adding_;
    run(
        working_,
        [this, image, name]() -> Result<std::string> {
            QByteArray png;
            QBuffer buffer(&png);
            buffer.open(QIODevice::WriteOnly);
            image.save(&buffer, "PNG");
            SourceFacts facts;
            facts.title = name.toStdString();
            return addBytes(*crate_, {png.begin(), png.end()}, "pasted.png", facts);
        },
        [this](const Result<std::string>& id) {
            --adding_;
            if (!id) return Q_EMIT told(q(id.error().message));
            Q_EMIT changed();
            Q_EMIT added(tr("The pasted picture is in the crate."));
        });
}

void CrateService::tellOf(const Result<void>& done) {
    if (!done) Q_EMIT told(q(done.error().message));
    Q_EMIT changed();
}

void CrateService::change(const std::string& id, const SourceFacts& facts) {
    if (!crate_) return;
    run(
        working_, [=, this] { return crate_->change(id, facts); },
        [this](const Result<void>& done) { tellOf(done); });
}

void CrateService::remove(const std::vector<std::string>& ids) {
    if (!crate_) return;
    run(
        working_, [=, this] { return crate_->remove(ids); },
        [this](const Result<void>& done) { tellOf(done); });
}

void CrateService::setWatched(const QString& folder, bool watched) {
    if (!crate_) return;
    run(
        working_, [=, this] { return crate_->setWatched(folder.toStdString(), watched); },
        [=, this](const Result<void>& done) {
            tellOf(done);
            watchFolders();
            if (done && watched) addPaths({folder}, false, true);
        });
}

void CrateService::watchFolders() {
    if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
    QStringList all;
    for (const std::string& folder : crate_->watched()) {
        if (!QFileInfo(q(folder)).isDir()) {
            Q_EMIT told(tr("The watched folder “%1” is gone; its sources stay in the crate, with their small "
                           "pictures.")
                            .arg(q(folder)));
            continue;
        }
        all << q(folder);
        QDirIterator at(q(folder), QDir::Dirs | QDir::NoDotAndDotDot, QDirIterator::Subdirectories);
        while (at.hasNext() && all.size() < kMostWatched) all << at.next();
    }
    if (!all.isEmpty()) watcher_.addPaths(all);
}

void CrateService::rescan() {
    QStringList paths;
    for (const QString& folder : std::exchange(touched_, {}))
        if (QFileInfo(folder).isDir()) paths << folder;
    watchFolders();
    if (!paths.isEmpty()) addPaths(paths, false, false);
}

void CrateService::find(const QString& words, const CrateQuery& query, const std::set<std::string>& used) {
    if (!crate_) return;
    const uint64_t number = ++newest_;
    run(
        searching_,
        [=, this] {
            return number == newest_
                       ? findIn(*crate_->shelf(), query, crate_->matching(words.toStdString()), used)
                       : Found{};
        },
        [=, this](const Found& result) {
            if (number == newest_) Q_EMIT found(result);
        });
}

void CrateService::setLine(AgencyLine line) {
    line_ = line;
    if (agency_) agency_->setLine(line);
}

void CrateService::findInDrawer(const QString& words, const CrateQuery& query) {
    if (!agency_)
        return Q_EMIT drawerFailed(tr("The stock drawer is not installed; the crate works without it."));
    const uint64_t number = ++newestInDrawer_;
    run(
        fetching_,
        [=, this]() -> Result<Found> {
            if (number != newestInDrawer_) return Found{};
            return agency_->find(words.toStdString(), query, &closing_);
        },
        [=, this](const Result<Found>& result) {
            if (number != newestInDrawer_) return;
            if (result)
                Q_EMIT drawerFound(*result);
            else
                Q_EMIT drawerFailed(q(result.error().message));
        });
}

void CrateService::take(const std::string& id) {
    if (!agency_ || !crate_) return Q_EMIT drawerFailed(tr("The crate is not open; nothing was taken."));
    run(
        fetching_, [=, this] { return agency_->take(id, *crate_, &closing_); },
        [this](const Result<std::string>& taken) {
            if (!taken) return Q_EMIT drawerFailed(q(taken.error().message));
            Q_EMIT changed();
            Q_EMIT took(q(*taken));
        });
}

} // namespace glyptos
