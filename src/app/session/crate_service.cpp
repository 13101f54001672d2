#include "app/session/crate_service.h"

#include "app/session/words.h"
#include "crate/indexing.h"

#include <QBuffer>

namespace glyptos {
namespace {

constexpr int kTryAgain = 3000, kCompany = 3000; // ms

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
        auto outcome = caught([&] { return std::make_shared<decltype(work())>(work()); });
        QMetaObject::invokeMethod(
            this,
            [this, outcome = std::move(outcome), then = std::move(then)]() mutable {
                --jobs_;
                if (outcome) return then(std::move(**outcome));
                Q_EMIT told(q(outcome.error().message));
            },
            Qt::QueuedConnection);
    });
}

CrateService::CrateService(std::filesystem::path crate, std::filesystem::path drawer, QObject* parent)
    : QObject(parent)
    , crateFolder_(std::move(crate))
    , drawerFolder_(std::move(drawer)) {
    for (QThreadPool* pool : {&searching_, &working_, &fetching_}) pool->setMaxThreadCount(1);
    connect(&folders_, &FolderWatch::touched, this,
            [this](const QStringList& folders) { addPaths(folders, false, false); });
    connect(&folders_, &FolderWatch::gone, this, [this](const QString& folder) {
        Q_EMIT told(
            tr("The watched folder “%1” is gone; its sources stay in the crate, with their small pictures.")
                .arg(folder));
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
    struct Opened {
        Result<std::unique_ptr<Crate>> crate;
        Result<std::unique_ptr<Agency>> agency;
        std::vector<std::string> notes;
    };
    run(
        working_,
        [this] {
            Opened out{Crate::open(crateFolder_), Agency::open(drawerFolder_), {}};
            if (out.crate) out.notes = (*out.crate)->notes();
            return out;
        },
        [this](Opened opened) {
            if (opened.agency) {
                agency_ = std::move(*opened.agency);
                agency_->setLine(line_);
            }
            if (!opened.crate) {
                closed_ = true;
                Q_EMIT told(q(opened.crate.error().message));
                if (!std::exchange(waiting_, {}).isEmpty()) sayClosed();
                return Q_EMIT this->opened();
            }
            crate_ = std::move(*opened.crate);
            for (const std::string& note : opened.notes) Q_EMIT told(q(note));
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
    else if (closed_)
        sayClosed();
    else
        waiting_ << paths;
}

void CrateService::sayClosed() {
    Q_EMIT told(
        tr("The crate could not be opened, so nothing was added to it; your files are as they were."));
}

/// `again`: a second try for files that were still being copied; `tellAll`: also when nothing is new.
void CrateService::addPaths(const QStringList& paths, bool again, bool tellAll) {
    ++adding_;
    cancelAdd_ = false;
    run(
        working_,
        [this, paths] {
            const auto tellProgress = [this](size_t done, size_t all) {
                QMetaObject::invokeMethod(
                    this, [=, this] { Q_EMIT progressed(int(done), int(all)); }, Qt::QueuedConnection);
            };
            return caught([&] { return addFiles(*crate_, asPaths(paths), tellProgress, &cancelAdd_); });
        },
        [=, this](const Result<AddReport>& report) {
            --adding_;
            Q_EMIT changed();
            if (!report) return Q_EMIT told(q(report.error().message));
            if (!tellAll && !again && !report->troubles.empty() && !closing_) {
                QTimer::singleShot(kTryAgain, this, [=, this] { addPaths(paths, true, false); });
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
            return caught([&] { return addBytes(*crate_, {png.begin(), png.end()}, "pasted.png", facts); });
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
    QStringList all;
    for (const std::string& folder : crate_->watched()) all << q(folder);
    folders_.watch(all);
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
