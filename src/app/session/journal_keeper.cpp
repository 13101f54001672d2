#include "app/session/journal_keeper.h"

#include "app/session/background.h"
#include "app/session/words.h"
#include "base/text.h"

#include <QBuffer>
#include <QDateTime>
#include <QFutureWatcher>
#include <QThreadPool>

namespace glyptos {

JournalKeeper::JournalKeeper(FormList forms, std::filesystem::path folder, QObject* parent)
    : QObject(parent)
    , forms_(std::move(forms))
    , folder_(std::move(folder)) {
    inBackgroundThen(
        [folder = folder_]() -> Result<bool> {
            tidyJournals(folder, QDateTime::currentMSecsSinceEpoch());
            return true;
        },
        [](const Result<bool>&) {});
}

JournalKeeper::~JournalKeeper() {
    end();
    QThreadPool::globalInstance()->waitForDone();
}

/// Calls done(result) on this thread, unless the keeper is gone by then.
template <class Work, class Done>
void JournalKeeper::inBackgroundThen(Work work, Done done) {
    using Outcome = typename AsResult<decltype(work())>::Type;
    auto* watcher = new QFutureWatcher<Outcome>(this);
    ++works_;
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, done] {
        watcher->deleteLater();
        --works_;
        done(watcher->future().takeResult());
    });
    watcher->setFuture(inBackground(std::move(work)));
}

std::shared_ptr<JournalWriter> JournalKeeper::writer() const {
    const std::lock_guard lock(mutex_);
    return writer_;
}

/// What is waiting is written in the background.
void JournalKeeper::end() {
    std::unique_lock lock(mutex_);
    auto last = std::exchange(writer_, nullptr);
    lock.unlock();
    if (document_) document_->disconnect(this);
    document_ = nullptr;
    ++followed_;
    known_.clear();
    if (!last) return;
    ending_ = QtConcurrent::run([last = std::move(last), before = ending_]() mutable {
        before.waitForFinished(); // it may hold this one
        last.reset();
    });
}

JournalWriter::Told JournalKeeper::teller() {
    return [this](const std::string& sentence) {
        if (sentence.empty()) return;
        QMetaObject::invokeMethod(
            this, [this, said = q(sentence)] { Q_EMIT told(said); }, Qt::QueuedConnection);
    };
}

JournalState JournalKeeper::start() const {
    return {document_->history(), document_->saved(), as_};
}

void JournalKeeper::follow(Document& document, const std::optional<FileStamp>& stamp) {
    end();
    document_ = &document;
    as_.reset();
    if (!document.file().empty()) as_ = SavedAs{document.file(), stamp};
    begin(std::make_shared<JournalWriter>(folder_, start(), teller()));
    if (!as_) return;
    inBackgroundThen(
        [folder = folder_, own = writer_->path(), as = *as_, forms = forms_, known = document.release(),
         ending = ending_]() mutable -> Result<Past> {
            ending.waitForFinished(); // it may be the journal of the same file
            Past out{journalOf(folder, as.file, own), nullptr};
            const bool isOfIt = out.summary && !out.summary->isInUse && !out.summary->isModified &&
                                out.summary->as->stamp == as.stamp;
            auto contents = isOfIt ? readJournal(out.summary->journal, forms, known)
                                   : Result<JournalContents>(fail(Fault::NotFound, {}));
            if (contents && contents->start.saved && contents->inFile == rootName(*known))
                out.contents = std::make_shared<JournalContents>(std::move(*contents));
            return out;
        },
        [this, followed = followed_](const Result<Past>& past) {
            if (followed == followed_ && document_) takePast(past ? *past : Past{});
        });
}

void JournalKeeper::takePast(const Past& past) {
    if (past.contents) return goOnWith(std::move(*past.contents));
    if (!past.summary) return;
    const QString name = q(nameOf(as_->file));
    if (past.summary->isInUse)
        Q_EMIT told(tr("“%1” is open in another window, too. What is saved there will not be written over: "
                       "what you save here goes into a file beside it then.")
                        .arg(name));
    else if (past.summary->isModified)
        Q_EMIT hasUnsaved(*past.summary);
    else
        Q_EMIT told(tr("“%1” was changed elsewhere since it was saved here; its earlier steps were set aside "
                       "and do not come back.")
                        .arg(name));
}

/// The history that was written is that of the file as it was opened; what was done since comes behind it.
void JournalKeeper::goOnWith(JournalContents past) {
    const bool wentOn = document_->history().steps().size() > 1 || !document_->history().left().empty();
    document_->rememberPast(past.start.history);
    auto meanwhile =
        setWriter(std::make_shared<JournalWriter>(std::move(past.journal), start(), wentOn, teller()));
    ending_ = QtConcurrent::run([meanwhile = std::move(meanwhile), now = writer()]() mutable {
        if (now->flush()) meanwhile->discard();
        meanwhile.reset(), now.reset(); // before this is over: whoever waits for it finds them gone
    });
}

void JournalKeeper::followFound(Document& document, OpenJournal journal, const std::optional<SavedAs>& as) {
    end();
    document_ = &document;
    as_ = as;
    begin(std::make_shared<JournalWriter>(std::move(journal), start(), false, teller()));
}

/// Gives the one before.
std::shared_ptr<JournalWriter> JournalKeeper::setWriter(std::shared_ptr<JournalWriter> writer) {
    {
        const std::lock_guard lock(mutex_);
        std::swap(writer_, writer);
    }
    known_.clear();
    tellFiles();
    return writer;
}

void JournalKeeper::begin(std::shared_ptr<JournalWriter> writer) {
    setWriter(std::move(writer));
    connect(document_, &Document::stepped, this, [this](bool merged) {
        tellFiles();
        const History& history = document_->history();
        writer_->step(history.undoName(), history.current(), merged);
    });
    connect(document_, &Document::went, this, [this] { writer_->go(document_->history().position()); });
}

/// Pictures that lie in the crate need not be written down.
void JournalKeeper::tellFiles() {
    if (!fileOf_) return;
    for (const SourcePtr& source : document_->release()->sources)
        if (known_.insert(source->id).second)
            if (const auto file = fileOf_(source->id)) writer_->mayBeIn(source->id, *file);
}

void JournalKeeper::leave() {
    if (writer_ && document_ && document_->isModified()) writer_->leave();
}

void JournalKeeper::setMiniature(const QImage& image) {
    if (!writer_ || image.isNull()) return;
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    if (image.save(&buffer, "PNG")) writer_->miniature({png.begin(), png.end()});
}

void JournalKeeper::secureBefore(const std::filesystem::path& file, const ReleasePtr& release) {
    if (const auto now = writer()) now->secureBefore(file, release);
}

void JournalKeeper::saveEnded() {
    if (writer_) writer_->saveEnded();
}

void JournalKeeper::saved(const Document& document, const std::optional<FileStamp>& stamp) {
    if (document_ != &document) return saveEnded();
    as_ = SavedAs{document.file(), stamp};
    if (writer_) writer_->saved(document.saved(), *as_);
}

void JournalKeeper::lookForLost(bool all) {
    inBackgroundThen([folder = folder_] { return journalsIn(folder); },
                     [this, all](Result<std::vector<JournalSummary>> journals) {
                         std::vector<JournalSummary> lost;
                         if (journals) lost = std::move(*journals);
                         std::erase_if(lost, [&](const JournalSummary& one) {
                             return !one.isModified || one.isInUse || (one.isLeft && !all);
                         });
                         Q_EMIT found(lost);
                     });
}

void JournalKeeper::takeUp(const std::filesystem::path& journal) {
    inBackgroundThen(
        [journal, forms = forms_, ending = ending_]() mutable {
            ending.waitForFinished();
            return readJournal(journal, forms);
        },
        [this](Result<JournalContents> contents) {
            if (!contents) return Q_EMIT told(q(contents.error().message));
            Q_EMIT readBack(std::make_shared<JournalContents>(std::move(*contents)));
        });
}

void JournalKeeper::leaveFound(const std::filesystem::path& journal) {
    inBackgroundThen([journal]() -> Result<bool> { return leaveJournal(journal).has_value(); },
                     [](const Result<bool>&) {});
}

void JournalKeeper::discardFound(const std::filesystem::path& journal) {
    inBackgroundThen(
        [journal]() -> Result<bool> {
            std::error_code code;
            return std::filesystem::remove(journal, code);
        },
        [](const Result<bool>&) {});
}

bool JournalKeeper::flush() {
    return !writer_ || writer_->flush();
}

} // namespace glyptos
