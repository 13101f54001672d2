#include "app/session/release_files.h"

#include "app/session/background.h"
#include "app/session/engine.h"
#include "app/session/font_shelf.h"
#include "file/project.h"
#include "release/walks.h"
#include "render/lettering/words_to_keep.h"

#include <QFileInfo>

namespace glyptos {
namespace {

std::filesystem::path pathOf(const QString& file) {
    return file.toStdString();
}

/// Patterns of large languages take seconds: they are read before the window asks for them.
void readPatterns(const Release& release, const FontLibrary& fonts) {
    eachLayer(release, [&](const LayerPtr& layer) {
        const auto* text = layer->as<TextContent>();
        if (text && text->spec.hyphenate) fonts.hyphenator().knows(text->spec.letters.language);
    });
}

} // namespace

ReleaseFiles::ReleaseFiles(FormList forms, Engine& engine, FontShelf& fonts, QObject* parent)
    : QObject(parent)
    , forms_(std::move(forms))
    , engine_(engine)
    , fonts_(fonts) {
    connect(&opener_, &QFutureWatcherBase::finished, this, &ReleaseFiles::endOpen);
    connect(&saver_, &QFutureWatcherBase::finished, this, &ReleaseFiles::endSave);
}

ReleaseFiles::~ReleaseFiles() {
    opener_.waitForFinished();
    saver_.waitForFinished();
    if (saves_.empty()) return;
    // What the running one wrote is no work of somebody else's for those that follow.
    Result<Saved> last = saver_.future().result();
    for (size_t i = 1; i < saves_.size(); ++i) {
        if (last) know(QString::fromStdString(last->file.string()), last->stamp);
        cancel_ = false; // that was said of the one before
        last = write(saves_[i], knownAt(saves_[i].file));
    }
}

void ReleaseFiles::open(const QString& file, ReleasePtr left) {
    opening_ = {file, std::move(left)};
    opener_.setFuture(inBackground([this, path = pathOf(file), forms = forms_]() -> Result<Opened> {
        const auto stamp = stampOf(path);
        const auto release = openProject(path, forms);
        if (!release) return tl::unexpected(release.error());
        readPatterns(**release, engine_.fonts);
        fonts_.prepare(**release);
        return Opened{*release, stamp};
    }));
}

void ReleaseFiles::endOpen() {
    const auto result = opener_.future().result();
    if (!result) return Q_EMIT failed(QString::fromStdString(result.error().message));
    know(opening_.file, result->stamp);
    Q_EMIT opened(result->release, opening_.file, opening_.left);
}

void ReleaseFiles::save(Document& document, const QString& file) {
    const Saving asked{&document, document.release(), file};
    const bool again = saves_.size() > 1 && saves_.back().document == &document && saves_.back().file == file;
    again ? void(saves_.back() = asked) : saves_.push_back(asked);
    if (saves_.size() == 1) beginSave();
}

std::optional<FileStamp> ReleaseFiles::knownAt(const QString& file) const {
    const auto known = known_.find(file);
    return known == known_.end() ? std::nullopt : std::optional(known->second);
}

void ReleaseFiles::know(const QString& file, const std::optional<FileStamp>& stamp) {
    if (stamp) known_[file] = *stamp;
}

void ReleaseFiles::beginSave() {
    cancel_ = false;
    saver_.setFuture(inBackground([this, saving = saves_.front(), known = knownAt(saves_.front().file)] {
        return write(saving, known);
    }));
}

/// On any thread.
Result<Saved> ReleaseFiles::write(const Saving& saving, const std::optional<FileStamp>& known) {
    ZipWriting writing;
    writing.cancel = &cancel_;
    writing.progress = [this](double share) { Q_EMIT progressed(share); };
    writing.mayTake = [&] {
        if (beforeTake_) beforeTake_(pathOf(saving.file), saving.release);
        return true;
    };
    Release release = *saving.release;
    release.keptWords = wordsToKeep(release, engine_.fonts, engine_.renderer.paragraphs());
    return saveApart(release, pathOf(saving.file), known, writing);
}

void ReleaseFiles::endSave() {
    const auto result = saver_.future().result();
    const Saving done = std::move(saves_.front());
    saves_.pop_front();
    const QString file = result ? QString::fromStdString(result->file.string()) : done.file;
    if (result) know(file, result->stamp);
    // What was to follow into the same file goes where this one went.
    for (Saving& next : saves_)
        if (next.document == done.document && next.file == done.file) next.file = file;
    if (isSaving()) beginSave();
    if (result && done.document) done.document->setSaved(done.release, pathOf(file));
    if (result) Q_EMIT saved(file);
    if (result && !result->note.empty()) Q_EMIT told(QString::fromStdString(result->note));
    if (!result && result.error().fault == Fault::Cancelled)
        Q_EMIT failed(tr("Saving was stopped; “%1” is as it was before.").arg(QFileInfo(file).fileName()));
    else if (!result)
        Q_EMIT failed(QString::fromStdString(result.error().message));
    if (!isSaving()) Q_EMIT allSaved(result.has_value());
}

bool ReleaseFiles::covers(const Document& document) const {
    return isSaving() && saves_.back().document == &document && saves_.back().release == document.release();
}

} // namespace glyptos
